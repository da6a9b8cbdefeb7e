/** How long the rest will take at the pace so far, in words; empty while that cannot be told. Times in milliseconds. */
export function timeLeft(startedAt: number, now: number, done: number, total: number): string {
  if (done === 0 || now <= startedAt) return '';
  const seconds = Math.ceil(((now - startedAt) / done) * (total - done) * 0.001);
  if (seconds < 60) return `about ${seconds} s left`;
  return `about ${Math.ceil(seconds / 60)} min left`;
}

/** How many are done in a second or a minute, in words; empty in the first moments. Times in milliseconds. */
export function rateOf(startedAt: number, now: number, done: number): string {
  const seconds = (now - startedAt) / 1000;
  if (done < 3 || seconds < 1) return '';
  const rate = done / seconds;
  return rate >= 1 ? `${Math.round(rate)} a second` : `${Math.max(1, Math.round(rate * 60))} a minute`;
}
