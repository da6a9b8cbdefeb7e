import type { Column, FillFormat } from '../column/index.js';
import { isIn, meaningOf, valueOf, type Roll } from '../roll/index.js';

/**
 * How the numbers or days of a column are printed so that they look the same for everybody, where the roll has them in more
 * than one form: `4 March 2026` and `2026-03-04`, `12.50` and `12.5`, `1,200` and `1500`; or in one that is not the
 * language's, which has another decimal sign or other names for months. Null where they are printed as they stand.
 *
 * @param language BCP 47; that of the text which they stand in.
 */
export function formatAlike(column: Column, { entries }: Roll, language: string): FillFormat | null {
  const { id, type, worked } = column;
  const kind = type === 'date' || type === 'date-time' ? 'date' : isNumber(type) ? 'number' : null;
  if (kind === null) return null;
  const texts: string[] = [];
  for (const entry of entries) {
    if (!isIn(entry)) continue;
    const text = valueOf(entry, id).trim();
    if (text !== '' && meaningOf(entry, column).kind === kind) texts.push(text);
  }
  // What is worked out is written alike, with a full stop.
  if (kind === 'number')
    return numbersAlike(texts, (worked ? null : column.format?.decimal) ?? '.', language);
  const forms = new Set(texts.map(formOfDay));
  const foreign = texts.some((text) => hasForeignMonth(text, language));
  return forms.size > 1 || foreign ? { kind: 'date', style: 'long', time: type === 'date-time' } : null;
}

const isNumber = (type: Column['type']): boolean => type === 'number' || type === 'percentage';

/** The signs and the order of a day, whatever day it is: `9 a 9999` for `4 March 2026`. */
const formOfDay = (text: string): string =>
  text
    .replace(/\d{4,}/g, 'y')
    .replace(/\d+/g, '9')
    .replace(/\p{L}[\p{L}\p{M}]*\.?/gu, 'a')
    .replace(/y/g, '9999');

/** True where a day in words has none of the language's names for months. */
function hasForeignMonth(text: string, language: string): boolean {
  // What stands behind the day is a time, with its own words.
  const day = text.toLowerCase().replace(/[t\s,]+\d{1,2}[:.]\d{2}.*$/, '');
  const words = day.match(/\p{L}[\p{L}\p{M}]*/gu) ?? [];
  if (words.length === 0) return false;
  const months = monthsIn(language);
  return !words.some((word) => months.has(word));
}

const known = new Map<string, ReadonlySet<string>>();

/** The words for months in a language, long and short, as Unicode CLDR has them. */
function monthsIn(language: string): ReadonlySet<string> {
  let months = known.get(language);
  if (!months) {
    const names = new Set<string>();
    for (const month of ['long', 'short'] as const) {
      const format = new Intl.DateTimeFormat(language, { day: 'numeric', month, timeZone: 'UTC' });
      for (let n = 0; n < 12; n++) {
        const named = format.formatToParts(new Date(Date.UTC(2026, n, 15)));
        const name = named.find(({ type }) => type === 'month')?.value ?? '';
        for (const word of name.toLowerCase().match(/\p{L}[\p{L}\p{M}]*/gu) ?? []) names.add(word);
      }
    }
    known.set(language, (months = names));
  }
  return months;
}

const signOf = (language: string): string =>
  new Intl.NumberFormat(language).formatToParts(1.5).find(({ type }) => type === 'decimal')?.value ?? '.';

function numbersAlike(texts: readonly string[], decimal: '.' | ',', language: string): FillFormat | null {
  let [longest, padded] = [0, false];
  let [grouped, bare, signed, unsigned, spaced, close] = [false, false, false, false, false, false];
  const lengths = new Set<number>();
  for (const text of texts) {
    const [number = '', percent] = text.split(/(?=\s*[%٪]$)/);
    const at = number.lastIndexOf(decimal);
    const [whole, fraction] = at < 0 ? [number, ''] : [number.slice(0, at), number.slice(at + 1)];
    longest = Math.max(longest, fraction.length);
    lengths.add(fraction.length);
    padded ||= fraction.endsWith('0');
    if (number.startsWith('+')) signed = true;
    else if (/^\d/.test(number)) unsigned = true;
    if (/\d\D\d{3}(?:\D|$)/.test(whole)) grouped = true;
    else if (/\d{4}/.test(whole)) bare = true;
    if (percent !== undefined) {
      if (/^\s/.test(percent)) spaced = true;
      else close = true;
    }
  }
  const foreign = longest > 0 && signOf(language) !== decimal;
  const places = padded && (lengths.size > 1 || foreign);
  if (!foreign && !places && !(grouped && bare) && !(signed && unsigned) && !(spaced && close)) return null;
  return {
    kind: 'number',
    least: places || (foreign && lengths.size === 1) ? longest : 0,
    most: Math.min(20, longest),
    thousands: grouped,
    plus: signed,
    unit: '',
  };
}
