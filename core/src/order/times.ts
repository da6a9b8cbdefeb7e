import { Cron } from 'croner';
import { DateTime } from 'luxon';
import type { OrderWhen } from './order.js';

/** An order that acts at set times, rather than on an answer. */
export type TimedWhen = Exclude<OrderWhen, { kind: 'answer' }>;

/**
 * The recurrences that an order acts by, as rules of RFC 5545, to be read in the school's time zone: what people and other programs read.
 * A day that stands in a row is looked at every day.
 */
export function recurrencesOf(when: TimedWhen): string[] {
  const clock = (time: string): string => {
    const [hour, minute] = time.split(':').map(Number);
    return `BYHOUR=${hour};BYMINUTE=${minute};BYSECOND=0`;
  };
  switch (when.kind) {
    case 'weekly':
      return when.at.map((at) => `FREQ=WEEKLY;BYDAY=${byDay(when.days)};${clock(at)}`);
    case 'hourly': {
      const hours = Array.from({ length: when.to - when.from + 1 }, (_, n) => when.from + n);
      return [`FREQ=WEEKLY;BYDAY=${byDay(when.days)};BYHOUR=${hours.join(',')};BYMINUTE=0;BYSECOND=0`];
    }
    case 'monthly':
      return [`FREQ=MONTHLY;BYMONTHDAY=${when.day === 0 ? -1 : when.day};${clock(when.at)}`];
    case 'day':
      return [`FREQ=DAILY;${clock(when.at)}`];
  }
}

const DAYS = ['MO', 'TU', 'WE', 'TH', 'FR', 'SA', 'SU'];
const byDay = (days: readonly number[]): string =>
  [...days]
    .sort()
    .map((day) => DAYS[day - 1])
    .join(',');

/** The same as patterns of cron: minute, hour, day of the month, month, day of the week. */
function patternsOf(when: TimedWhen): string[] {
  const clock = (time: string): string => time.split(':').map(Number).reverse().join(' ');
  const days = (some: readonly number[]): string => some.map((day) => day % 7).join(',');
  switch (when.kind) {
    case 'weekly':
      return when.at.map((at) => `${clock(at)} * * ${days(when.days)}`);
    case 'hourly':
      return [`0 ${when.from}-${when.to} * * ${days(when.days)}`];
    case 'monthly':
      return [`${clock(when.at)} ${when.day === 0 ? 'L' : when.day} * *`];
    case 'day':
      return [`${clock(when.at)} * * *`];
  }
}

/**
 * When an order acts next. A time that is passed over when clocks go forward counts by the offset before it, and one that comes twice when
 * they go back counts the first time alone (RFC 5545, 3.3.5).
 *
 * @param after it acts later than this.
 * @param timeZone of the IANA database.
 * @returns null for an order that waits for answers, or a day that never comes.
 */
export function nextTime(when: OrderWhen, after: Date, timeZone: string): Date | null {
  if (when.kind === 'answer') return null;
  const times = patternsOf(when).flatMap((pattern) => nextOf(pattern, after, timeZone) ?? []);
  return times.length === 0 ? null : new Date(Math.min(...times.map((time) => time.getTime())));
}

/** What clocks on walls show is counted first, as if there were no zones, and then looked up in the zone. */
function nextOf(pattern: string, after: Date, zone: string): Date | null {
  const cron = new Cron(pattern, { timezone: 'UTC' });
  const now = DateTime.fromJSDate(after, { zone });
  // A time that was passed over is later than the clocks show, by the hours that they went forward.
  let wall: Date | null = now.setZone('UTC', { keepLocalTime: true }).minus({ hours: 3 }).toJSDate();
  for (let n = 0; n < TIMES_MOST && (wall = cron.nextRun(wall)); n++) {
    const local = DateTime.fromJSDate(wall, { zone: 'UTC' }).setZone(zone, { keepLocalTime: true });
    // Where it comes twice, which one is given hangs on the day on which is asked.
    const at = Math.min(...local.getPossibleOffsets().map((one) => one.toMillis()));
    if (at > after.getTime()) return new Date(at);
  }
  return null;
}

/** Times of one pattern in the three hours that are looked back, and one more. */
const TIMES_MOST = 8;

/** Milliseconds after which a time has been missed: a server that restarts, or one with much to do, is quicker. */
export const MISSED_AFTER = 15 * 60_000;

/** What is due of an order at a moment, and when it acts next. */
export interface Due {
  /** It is to act now. */
  readonly acts: boolean;
  readonly next: Date | null;
}

/**
 * What becomes of a time that has come. However many have passed, it acts once; one that was missed is left out where the order says so.
 *
 * @param at the time that was noted to be the next one.
 */
export function dueAt(
  { when, missed }: { readonly when: OrderWhen; readonly missed: 'once' | 'skip' },
  at: Date,
  now: Date,
  timeZone: string,
): Due {
  if (at > now) return { acts: false, next: at };
  const next = nextTime(when, now, timeZone);
  if (missed === 'once') return { acts: true, next };
  // The last of the times that have passed is the one that might still be on time.
  let last = at;
  for (let time: Date | null = at, n = 0; time && time <= now && n < 1000; n++) {
    last = time;
    time = nextTime(when, time, timeZone);
  }
  return { acts: now.getTime() - last.getTime() <= MISSED_AFTER, next };
}
