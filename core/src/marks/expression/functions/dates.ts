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
import { filled, type Functions } from './kinds.js';

const DAY = 86_400_000;

const iso = (date: Date): string => date.toISOString().slice(0, 10);
const cellOf = (date: Date): Cell =>
  Number.isNaN(date.getTime()) ? stop('#NUM!', 'no-such-date') : dateCell(serialOf(iso(date)));

const midnight = (date: Date): Date => new Date(Math.floor(date.getTime() / DAY) * DAY);
const daysFrom = (from: Date, to: Date): number => (midnight(to).getTime() - midnight(from).getTime()) / DAY;

/** A year of two digits is one from 1950 to 2049, as wherever dates are read. */
const fullYear = (year: number): number => (year < 0 || year > 99 ? year : year + (year < 50 ? 2000 : 1900));

/** So many months on; the last day of a shorter month. */
function monthsOn(date: Date, months: number): Date {
  const first = new Date(Date.UTC(date.getUTCFullYear(), date.getUTCMonth() + months, 1));
  const days = new Date(Date.UTC(first.getUTCFullYear(), first.getUTCMonth() + 1, 0)).getUTCDate();
  first.setUTCDate(Math.min(date.getUTCDate(), days));
  return first;
}

/** Whole years, months or days between two dates. */
function between(first: Date, second: Date, unit: string): number {
  const [from, to] = [midnight(first), midnight(second)];
  if (to < from) return stop('#NUM!', 'dates-reversed');
  const months =
    (to.getUTCFullYear() - from.getUTCFullYear()) * 12 +
    to.getUTCMonth() -
    from.getUTCMonth() -
    (to.getUTCDate() < from.getUTCDate() ? 1 : 0);
  switch (unit.toLowerCase()) {
    case 'd':
      return daysFrom(from, to);
    case 'm':
      return months;
    case 'y':
      return Math.floor(months / 12);
    case 'ym':
      return months % 12;
    case 'md':
      return daysFrom(monthsOn(from, months), to);
    case 'yd': {
      const birthday = (year: number): Date =>
        new Date(Date.UTC(year, from.getUTCMonth(), from.getUTCDate()));
      const own = birthday(to.getUTCFullYear());
      return daysFrom(own <= to ? own : birthday(to.getUTCFullYear() - 1), to);
    }
    default:
      return stop('#VALUE!', 'datedif-unit');
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
    of: ([y, m, d]) => cellOf(new Date(Date.UTC(fullYear(wholeOf(y!)), wholeOf(m!) - 1, wholeOf(d!)))),
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
  ...part('SECOND', 'The second.', (date) => date.getUTCSeconds()),
  ...part('ISOWEEKNUM', 'The week of the year (ISO 8601).', isoWeek),
  WEEKDAY: {
    counts: [1, 2],
    usage: 'WEEKDAY(date; 2 for Monday first)',
    gives: 'The day of the week, 1 to 7.',
    of: ([a, type]) => {
      const day = dateOf(a!).getUTCDay();
      const how = type ? wholeOf(type) : 1;
      // 11 to 17 begin with Monday to Sunday (ODF 1.3 Part 4, 6.10.20).
      if (how >= 11 && how <= 17) return whole(((day + 17 - how) % 7) + 1);
      switch (how) {
        case 1:
          return whole(day + 1);
        case 2:
          return whole(day || 7);
        case 3:
          return whole((day + 6) % 7);
        default:
          return stop('#NUM!', 'weekday-type');
      }
    },
  },
  DAYS: {
    counts: [2, 2],
    usage: 'DAYS(later; earlier)',
    gives: 'Days between two dates.',
    of: ([a, b]) => whole(daysFrom(dateOf(b!), dateOf(a!))),
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
    counts: [2, 3],
    usage: 'NETWORKDAYS(from; to; LIST(holiday; …))',
    gives: 'Mondays to Fridays but holidays, both days included.',
    of: ([a, b, holidays]) => {
      const [from, to] = [midnight(dateOf(a!)).getTime(), midnight(dateOf(b!)).getTime()];
      const span = Math.abs(to - from) / DAY;
      if (span > 400_000) return stop('#NUM!', 'dates-far');
      const off = new Set(filled(holidays ? [holidays] : []).map((cell) => midnight(dateOf(cell)).getTime()));
      let days = 0;
      for (let at = Math.min(from, to), n = 0; n <= span; n++, at += DAY) {
        const day = new Date(at).getUTCDay();
        if (day !== 0 && day !== 6 && !off.has(at)) days++;
      }
      return whole(to < from ? -days : days);
    },
  },
};
