import { RRuleTemporal } from 'rrule-temporal';
import type { Column } from '../column/index.js';
import type { Entry } from '../roll/index.js';
import { dayOf } from './day-of.js';
import { emptyOrder, Order, type OrderWhen } from './order.js';
import { dueAt, nextTime, recurrencesOf, type TimedWhen } from './times.js';

/** The next so many times, as ISO 8601 in UTC. */
function next(when: OrderWhen, from: string, zone: string, many: number): string[] {
  const times: string[] = [];
  let at: Date | null = new Date(from);
  for (let n = 0; n < many && at; n++) {
    at = nextTime(when, at, zone);
    if (at) times.push(at.toISOString().slice(0, 16));
  }
  return times;
}

const weekly = (days: number[], ...at: string[]): TimedWhen => ({ kind: 'weekly', days, at });
const SCHOOL_DAYS = [1, 2, 3, 4, 5];

/** The same with a second library, which reads the rules of RFC 5545. */
function nextByRules(when: TimedWhen, from: string, zone: string, many: number): string[] {
  const start = `${from.slice(0, 10).replaceAll('-', '')}T000000`;
  const all = recurrencesOf(when).flatMap((rule) => {
    const set = new RRuleTemporal({ rruleString: `DTSTART;TZID=${zone}:${start}\nRRULE:${rule}` });
    return set.all((_date, n) => n < many + 40).map((date) => new Date(date.epochMilliseconds).toISOString());
  });
  return all
    .filter((time) => time > new Date(from).toISOString())
    .sort()
    .slice(0, many)
    .map((time) => time.slice(0, 16));
}

describe('times', () => {
  // RFC 5545, 3.8.5.3: "DTSTART;TZID=America/New_York:19970902T090000".
  test('examples of RFC 5545', () => {
    const newYork = 'America/New_York';
    // "Every day": the clocks go back on October 26.
    expect(next({ ...DAILY, at: '09:00' }, '1997-10-25T00:00:00Z', newYork, 3)).toEqual([
      '1997-10-25T13:00',
      '1997-10-26T14:00',
      '1997-10-27T14:00',
    ]);
    // "Weekly on Tuesday and Thursday": September 2, 4, 9, 11.
    expect(next(weekly([2, 4], '09:00'), '1997-09-01T00:00:00Z', newYork, 4)).toEqual([
      '1997-09-02T13:00',
      '1997-09-04T13:00',
      '1997-09-09T13:00',
      '1997-09-11T13:00',
    ]);
    // "Monthly on the 15th" of "the 2nd and 15th", and "the last day of the month": BYMONTHDAY=-1.
    expect(next({ kind: 'monthly', day: 15, at: '09:00' }, '1997-09-02T14:00:00Z', newYork, 3)).toEqual([
      '1997-09-15T13:00',
      '1997-10-15T13:00',
      '1997-11-15T14:00',
    ]);
    expect(next({ kind: 'monthly', day: 0, at: '09:00' }, '1997-09-02T14:00:00Z', newYork, 3)).toEqual([
      '1997-09-30T13:00',
      '1997-10-31T14:00',
      '1997-11-30T14:00',
    ]);
    // "Every 20 minutes from 9:00 AM to 4:40 PM" is like hours of a day: on the hour from nine to sixteen.
    expect(
      next({ kind: 'hourly', days: SCHOOL_DAYS, from: 9, to: 16 }, '1997-09-02T19:30:00Z', newYork, 3),
    ).toEqual(['1997-09-02T20:00', '1997-09-03T13:00', '1997-09-03T14:00']);
  });

  test('a day that a month lacks is passed over (RFC 5545, 3.3.10)', () => {
    expect(next({ kind: 'monthly', day: 31, at: '08:00' }, '2026-01-31T09:00:00Z', 'UTC', 3)).toEqual([
      '2026-03-31T08:00',
      '2026-05-31T08:00',
      '2026-07-31T08:00',
    ]);
    expect(next({ kind: 'monthly', day: 0, at: '08:00' }, '2028-02-01T09:00:00Z', 'UTC', 1)).toEqual([
      '2028-02-29T08:00',
    ]);
  });

  test('clocks that go forward and back (RFC 5545, 3.3.5)', () => {
    // March 11, 2007: "2:30 EST" does not occur and is 3:30 EDT; November 4: 1:30 comes twice, the first counts.
    expect(next({ ...DAILY, at: '02:30' }, '2007-03-10T08:00:00Z', 'America/New_York', 2)).toEqual([
      '2007-03-11T07:30',
      '2007-03-12T06:30',
    ]);
    expect(next({ ...DAILY, at: '01:30' }, '2007-11-03T08:00:00Z', 'America/New_York', 2)).toEqual([
      '2007-11-04T05:30',
      '2007-11-05T06:30',
    ]);
    expect(next({ ...DAILY, at: '01:30' }, '2026-10-31T08:00:00Z', 'America/New_York', 1)).toEqual([
      '2026-11-01T05:30',
    ]);
    expect(next({ ...DAILY, at: '01:30' }, '2026-10-24T08:00:00Z', 'Europe/London', 1)).toEqual([
      '2026-10-25T00:30',
    ]);
    // A school day at half past three is that by the clocks of the school, in summer and in winter.
    expect(next(weekly(SCHOOL_DAYS, '15:30'), '2026-10-23T10:00:00Z', 'Europe/London', 2)).toEqual([
      '2026-10-23T14:30',
      '2026-10-26T15:30',
    ]);
  });

  test.each(['Europe/London', 'America/New_York', 'Australia/Lord_Howe', 'Asia/Kathmandu', 'UTC'])(
    'agree with a second library in %s, a whole year long',
    (zone) => {
      const whens: TimedWhen[] = [
        weekly(SCHOOL_DAYS, '15:30'),
        weekly([1, 7], '07:05', '23:55'),
        { kind: 'hourly', days: [6, 7], from: 8, to: 17 },
        { kind: 'monthly', day: 0, at: '12:00' },
        { kind: 'monthly', day: 30, at: '12:00' },
        { ...DAILY, at: '06:00' },
      ];
      for (const when of whens)
        for (const from of ['2026-01-30T00:00:00Z', '2026-03-20T00:00:00Z', '2026-10-01T00:00:00Z'])
          expect(next(when, from, zone, 20)).toEqual(nextByRules(when, from, zone, 20));
    },
  );

  test('an order that waits for answers has no time', () => {
    expect(nextTime(emptyOrder('X').when, new Date(), 'UTC')).toBeNull();
  });
});

describe('a time that has come', () => {
  const when = weekly(SCHOOL_DAYS, '15:30');
  const at = new Date('2026-11-25T15:30:00Z');
  const due = (missed: 'once' | 'skip', now: string) =>
    dueAt({ when, missed }, at, new Date(now), 'Europe/London');

  test('acts on it, and not before', () => {
    expect(due('skip', '2026-11-25T15:29:59Z')).toEqual({ acts: false, next: at });
    expect(due('skip', '2026-11-25T15:30:02Z')).toEqual({
      acts: true,
      next: new Date('2026-11-26T15:30:00Z'),
    });
  });

  test('what was missed is made up for once, or left out', () => {
    // Nobody ran from Wednesday to Monday.
    const monday = '2026-11-30T09:00:00Z';
    const next = new Date('2026-11-30T15:30:00Z');
    expect(due('once', monday)).toEqual({ acts: true, next });
    expect(due('skip', monday)).toEqual({ acts: false, next });
    // The last one that passed was not missed.
    expect(due('skip', '2026-11-30T15:31:00Z')).toEqual({
      acts: true,
      next: new Date('2026-12-01T15:30:00Z'),
    });
  });
});

const DAILY = { kind: 'day', columnId: 'dayday', after: 0 } as const;

describe('a day in a row', () => {
  const columns: Column[] = [{ id: 'dayday', title: 'Back on', type: 'date', format: { dateOrder: 'dmy' } }];
  const entry = (text: string): Entry => ({ id: 'e', position: 0, values: { dayday: text } });
  const day = (text: string, after = 0, some = columns) =>
    dayOf({ ...DAILY, at: '08:00', after }, entry(text), some);

  test('is read as its column is, and counted over months and leap years', () => {
    expect(day('03/12/2026')).toBe('2026-12-03');
    expect(day('2028-02-28', 1)).toBe('2028-02-29');
    expect(day('1 March 2026', -1)).toBe('2026-02-28');
    expect(day('2026-12-30', 7)).toBe('2027-01-06');
    expect(day('3 December 2026', 0, [{ id: 'dayday', title: 'Back on' }])).toBe('2026-12-03');
  });

  test('is none where none can be read', () => {
    expect(day('')).toBeNull();
    expect(day('soon')).toBeNull();
    expect(day('03/12/2026', 0, [])).toBeNull();
  });
});

test('an order is checked', () => {
  const order = emptyOrder('Thanks');
  expect(Order.parse(order)).toEqual(order);
  expect(Order.safeParse({ ...order, name: ' ' }).success).toBe(false);
  expect(Order.safeParse({ ...order, when: weekly([], '15:30') }).success).toBe(false);
  expect(Order.safeParse({ ...order, when: weekly([1], '25:00') }).success).toBe(false);
  expect(Order.safeParse({ ...order, when: { kind: 'hourly', days: [1], from: 9, to: 8 } }).success).toBe(
    false,
  );
});
