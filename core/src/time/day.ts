/** True for a time zone of the IANA database that this system knows. */
export function isTimeZone(name: string): boolean {
  try {
    new Intl.DateTimeFormat('en', { timeZone: name });
    return true;
  } catch {
    return false;
  }
}

/**
 * The day that it is somewhere at an instant.
 *
 * @param timeZone of the IANA database, such as `Europe/London`; UTC where it is none.
 * @returns ISO 8601, such as `2026-11-25`.
 */
export function dayIn(at: Date, timeZone: string): string {
  const parts = new Intl.DateTimeFormat('en', {
    timeZone: isTimeZone(timeZone) ? timeZone : 'UTC',
    calendar: 'iso8601',
    numberingSystem: 'latn',
    year: 'numeric',
    month: '2-digit',
    day: '2-digit',
  }).formatToParts(at);
  const part = (type: string): string => parts.find((one) => one.type === type)?.value ?? '';
  return `${part('year').padStart(4, '0')}-${part('month')}-${part('day')}`;
}
