/** How long the rest will take at the pace so far, in words; empty while that cannot be told. Times in milliseconds. */
export function timeLeft(startedAt: number, now: number, done: number, total: number): string {
  if (done === 0 || now <= startedAt) return '';
  const seconds = Math.ceil(((now - startedAt) / done) * (total - done) * 0.001);
  if (seconds < 60) return `about ${seconds} s left`;
  return `about ${Math.ceil(seconds / 60)} min left`;
}
