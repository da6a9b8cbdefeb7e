export type DateOrder = 'dmy' | 'mdy' | 'ymd';

/** A moment read from a text. */
export interface ReadMoment {
  /** ISO 8601: `2026-03-04`, or `2026-03-04T09:30:00` where the text has a time. */
  readonly iso: string;
  /** True where day and month could as well be the other way round. */
  readonly ambiguous: boolean;
  /** The orders under which the text is a date. */
  readonly orders: readonly DateOrder[];
}

/** Languages whose month names are understood. */
const LANGUAGES = ['en', 'de', 'fr', 'es', 'it', 'nl', 'pt', 'pl', 'sv', 'da', 'nb', 'cy', 'ga'];

let months: Map<string, number> | undefined;

/** Month names and their short forms, from Unicode CLDR as the engine has it. */
function monthNames(): Map<string, number> {
  if (months) return months;
  months = new Map();
  for (const language of LANGUAGES) {
    for (const month of ['long', 'short'] as const) {
      const format = new Intl.DateTimeFormat(language, { month, day: 'numeric', timeZone: 'UTC' });
      for (let n = 0; n < 12; n++) {
        const name = format
          .formatToParts(new Date(Date.UTC(2026, n, 15)))
          .find((part) => part.type === 'month')?.value;
        const plain = name && monthKey(name);
        if (plain && !/^\d/.test(plain) && !months.has(plain)) months.set(plain, n + 1);
      }
    }
  }
  months.set('sept', 9);
  return months;
}

const monthKey = (name: string): string =>
  name.normalize('NFKD').replace(/\p{M}/gu, '').replace(/\./g, '').toLowerCase();

const TIME = String.raw`(?:[T\s,]+(\d{1,2})[:.](\d{2})(?:[:.](\d{2})(?:[.,]\d+)?)?\s*([ap]\.?m\.?)?\s*(?:Z|UTC|GMT|[A-Z]{3,4}|(?:GMT|UTC)?[+-]\d{1,2}(?::?\d{2})?)?)?`;
const NUMERIC = new RegExp(String.raw`^(\d{1,4})([-/.])(\d{1,2})\2(\d{1,4})${TIME}$`, 'i');
const DAY_FIRST = new RegExp(
  String.raw`^(?:[\p{L}.]+,?\s+)?(\d{1,2})(?:st|nd|rd|th|er|º|\.)?[\s-]+(?:de\s+|of\s+)?(\p{L}[\p{L}\p{M}]*)\.?,?[\s-]+(?:de\s+)?(\d{4}|\d{2})${TIME}$`,
  'iu',
);
const MONTH_FIRST = new RegExp(
  String.raw`^(?:[\p{L}.]+,\s+)?(\p{L}[\p{L}\p{M}]*)\.?\s+(\d{1,2})(?:st|nd|rd|th)?,?\s+(\d{4})${TIME}$`,
  'iu',
);

/**
 * Reads a text as a date, or a date with a time: ISO 8601, numbers with `/`, `.` or `-` between them, or with the
 * month's name in one of thirteen languages. A two-digit year means 2000 to 2049 or 1950 to 1999 (common practice, no
 * published source). A time zone in the text is passed over: the time stays the one that was written.
 *
 * @param order which way round numbers are; where it is left out, day first is taken and `ambiguous` says so.
 * @returns null where the text is no date, or none under this order.
 */
export function readMoment(text: string, order?: DateOrder): ReadMoment | null {
  const trimmed = text.trim();
  if (trimmed.length < 6 || trimmed.length > 60) return null;
  const numeric = NUMERIC.exec(trimmed);
  if (numeric) return readNumeric(numeric, order);
  const named = DAY_FIRST.exec(trimmed);
  const other = named ? null : MONTH_FIRST.exec(trimmed);
  const [day, name, year, time] = named
    ? [named[1]!, named[2]!, named[3]!, named.slice(4)]
    : other
      ? [other[2]!, other[1]!, other[3]!, other.slice(4)]
      : [];
  if (!day || !name || !year) return null;
  const month = monthNames().get(monthKey(name));
  const iso = month && moment(fullYear(year), month, Number(day), time!);
  return iso ? { iso, ambiguous: false, orders: ['dmy', 'mdy', 'ymd'] } : null;
}

function readNumeric(match: RegExpExecArray, order: DateOrder | undefined): ReadMoment | null {
  const [, a, , b, c, ...time] = match as unknown as [string, string, string, string, string, ...string[]];
  if (a.length === 4) {
    const iso = moment(a, Number(b), Number(c), time);
    return iso && c.length <= 2 ? { iso, ambiguous: false, orders: ['dmy', 'mdy', 'ymd'] } : null;
  }
  if (a.length === 3 || c.length === 3 || c.length === 1) return null;
  const readings: Partial<Record<DateOrder, string | null>> = {
    dmy: moment(fullYear(c), Number(b), Number(a), time),
    mdy: moment(fullYear(c), Number(a), Number(b), time),
    ...(a.length === 2 && c.length === 2 ? { ymd: moment(fullYear(a), Number(b), Number(c), time) } : {}),
  };
  const orders = (Object.keys(readings) as DateOrder[]).filter((key) => readings[key]);
  const chosen = order ?? orders[0];
  const iso = chosen && readings[chosen];
  if (!iso) return null;
  const different = new Set(['dmy', 'mdy'].map((key) => readings[key as DateOrder]).filter(Boolean));
  return { iso, ambiguous: order === undefined && different.size > 1, orders };
}

const fullYear = (year: string): string =>
  year.length === 2 ? `${Number(year) < 50 ? '20' : '19'}${year}` : year;

function moment(
  year: string,
  month: number,
  day: number,
  time: readonly (string | undefined)[],
): string | null {
  const date = new Date(Date.UTC(Number(year), month - 1, day));
  if (year.length !== 4 || date.getUTCMonth() !== month - 1 || date.getUTCDate() !== day) return null;
  const iso = date.toISOString().slice(0, 10);
  const [hour, minute, second = '0', half] = time;
  if (hour === undefined || minute === undefined) return iso;
  let h = Number(hour);
  if (half) h = (h % 12) + (/^p/i.test(half) ? 12 : 0);
  if (h > 23 || Number(minute) > 59 || Number(second) > 59) return null;
  const two = (n: number | string): string => String(n).padStart(2, '0');
  return `${iso}T${two(h)}:${two(minute)}:${two(second)}`;
}
