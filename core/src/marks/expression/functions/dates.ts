import {
  dateCell,
  dateOf,
  numberOf,
  serialOf,
  stop,
  textOf,
  whole,
  wholeOf,
  type Operand,
} from '../values.js';
import type { Cell } from '../../cell.js';
import type { Functions } from './kinds.js';

const DAY = 86_400_000;

const iso = (date: Date): string => date.toISOString().slice(0, 10);
const cellOf = (date: Date): Cell =>
  Number.isNaN(date.getTime()) ? stop('#NUM!', 'There is no such date.') : dateCell(serialOf(iso(date)));

/** So many months on; the last day of a shorter month. */
function monthsOn(date: Date, months: number): Date {
  const first = new Date(Date.UTC(date.getUTCFullYear(), date.getUTCMonth() + months, 1));
  const days = new Date(Date.UTC(first.getUTCFullYear(), first.getUTCMonth() + 1, 0)).getUTCDate();
  first.setUTCDate(Math.min(date.getUTCDate(), days));
  return first;
}

/** Whole years, months or days between two dates. */
function between(from: Date, to: Date, unit: string): number {
  if (to < from) return stop('#NUM!', 'The second date is before the first.');
  const months =
    (to.getUTCFullYear() - from.getUTCFullYear()) * 12 +
    to.getUTCMonth() -
    from.getUTCMonth() -
    (to.getUTCDate() < from.getUTCDate() ? 1 : 0);
  switch (unit.toLowerCase()) {
    case 'd':
      return Math.round((to.getTime() - from.getTime()) / DAY);
    case 'm':
      return months;
    case 'y':
      return Math.floor(months / 12);
    case 'ym':
      return months % 12;
    default:
      return stop('#VALUE!', 'DATEDIF counts in "y", "m", "d" or "ym".');
  }
}

/** ISO 8601: the week that has the year's first Thursday is the first. */
function isoWeek(date: Date): number {
  const thursday = new Date(date.getTime() + (4 - (date.getUTCDay() || 7)) * DAY);
  return Math.floor((thursday.getTime() - Date.UTC(thursday.getUTCFullYear(), 0, 1)) / DAY / 7) + 1;
}

const part = (name: string, gives: string, of: (date: Date) => number): Functions => ({
  [name]: {
    counts: [1, 1],
    usage: `${name}(date)`,
    gives,
    of: ([a]: readonly Operand[]) => {
      numberOrText(a!);
      return whole(of(dateOf(a!)));
    },
  },
});

/** A blank stops here with its reason. */
function numberOrText(operand: Operand): void {
  if (!Array.isArray(operand) && (operand as Cell).kind !== 'text') numberOf(operand);
}

/** ODF 1.3 Part 4, 6.10. A date out of a column stays a date. */
export const DATES: Functions = {
  DATE: {
    counts: [3, 3],
    usage: 'DATE(year; month; day)',
    gives: 'A date.',
    of: ([y, m, d]) => cellOf(new Date(Date.UTC(wholeOf(y!), wholeOf(m!) - 1, wholeOf(d!)))),
  },
  DATEVALUE: {
    counts: [1, 1],
    usage: 'DATEVALUE(text)',
    gives: 'The date that a text says.',
    of: ([a]) => cellOf(dateOf(a!)),
  },
  TODAY: {
    counts: [0, 0],
    usage: 'TODAY()',
    gives: 'The day it is.',
    of: (_, around) => dateCell(serialOf(around.today)),
  },
  ...part('YEAR', 'The year.', (date) => date.getUTCFullYear()),
  ...part('MONTH', 'The month, 1 to 12.', (date) => date.getUTCMonth() + 1),
  ...part('DAY', 'The day of the month.', (date) => date.getUTCDate()),
  ...part('HOUR', 'The hour.', (date) => date.getUTCHours()),
  ...part('MINUTE', 'The minute.', (date) => date.getUTCMinutes()),
  ...part('ISOWEEKNUM', 'The week of the year (ISO 8601).', isoWeek),
  WEEKDAY: {
    counts: [1, 2],
    usage: 'WEEKDAY(date; 2 for Monday first)',
    gives: 'The day of the week, 1 to 7.',
    of: ([a, type]) => {
      const day = dateOf(a!).getUTCDay();
      switch (type ? wholeOf(type) : 1) {
        case 1:
          return whole(day + 1);
        case 2:
          return whole(day || 7);
        case 3:
          return whole((day + 6) % 7);
        default:
          return stop('#NUM!', 'WEEKDAY knows the types 1, 2 and 3.');
      }
    },
  },
  DAYS: {
    counts: [2, 2],
    usage: 'DAYS(later; earlier)',
    gives: 'Days between two dates.',
    of: ([a, b]) => whole(Math.round((dateOf(a!).getTime() - dateOf(b!).getTime()) / DAY)),
  },
  DATEDIF: {
    counts: [3, 3],
    usage: 'DATEDIF(from; to; "y")',
    gives: 'Whole years, months or days between two dates.',
    of: ([a, b, unit]) => whole(between(dateOf(a!), dateOf(b!), textOf(unit!))),
  },
  EDATE: {
    counts: [2, 2],
    usage: 'EDATE(date; months)',
    gives: 'The same day so many months on.',
    of: ([a, n]) => cellOf(monthsOn(dateOf(a!), wholeOf(n!))),
  },
  EOMONTH: {
    counts: [2, 2],
    usage: 'EOMONTH(date; months)',
    gives: 'The last day of the month so many months on.',
    of: ([a, n]) => {
      const date = dateOf(a!);
      return cellOf(new Date(Date.UTC(date.getUTCFullYear(), date.getUTCMonth() + wholeOf(n!) + 1, 0)));
    },
  },
  NETWORKDAYS: {
    counts: [2, 2],
    usage: 'NETWORKDAYS(from; to)',
    gives: 'Mondays to Fridays, both days included.',
    of: ([a, b]) => {
      const [from, to] = [dateOf(a!).getTime(), dateOf(b!).getTime()];
      const span = Math.round(Math.abs(to - from) / DAY);
      if (span > 400_000) return stop('#NUM!', 'The dates are too far apart.');
      let days = 0;
      for (let at = Math.min(from, to), n = 0; n <= span; n++, at += DAY) {
        const day = new Date(at).getUTCDay();
        if (day !== 0 && day !== 6) days++;
      }
      return whole(to < from ? -days : days);
    },
  },
};
