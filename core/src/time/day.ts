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

/**
 * The moment that clocks show somewhere at an instant.
 *
 * @param timeZone of the IANA database; UTC where it is none.
 * @returns ISO 8601 to the minute, without an offset, such as `2026-11-25T15:30`.
 */
export function momentIn(at: Date, timeZone: string): string {
  const time = new Intl.DateTimeFormat('en', {
    timeZone: isTimeZone(timeZone) ? timeZone : 'UTC',
    numberingSystem: 'latn',
    hour: '2-digit',
    minute: '2-digit',
    hourCycle: 'h23',
  }).format(at);
  return `${dayIn(at, timeZone)}T${time}`;
}

const QUARTER = 15 * 60_000;
/** Zones are at most 14 hours before UTC, and 12 behind. */
const FURTHEST = 14 * 4;

/**
 * The instant at which a day begins somewhere. Zones differ from UTC, and change their clocks, by quarters of an hour.
 *
 * @param day ISO 8601, such as `2026-11-25`.
 * @param timeZone of the IANA database; UTC where it is none.
 */
export function dayBegins(day: string, timeZone: string): Date {
  const utc = Date.parse(`${day}T00:00:00Z`);
  for (let n = -FURTHEST; n <= FURTHEST; n++) {
    const at = new Date(utc + n * QUARTER);
    if (dayIn(at, timeZone) >= day) return at;
  }
  return new Date(utc);
}
