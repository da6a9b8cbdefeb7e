import type { Column, FillFormat } from '../column/index.js';
import { isIn, meaningOf, valueOf, type Roll } from '../roll/index.js';

/**
 * How the numbers or days of a column are printed so that they look the same for everybody, where the roll has them in more
 * than one form: `4 March 2026` and `2026-03-04`, `12.50` and `12.5`, `1,200` and `1500`. Null where all of them have the
 * same form already, which is kept then; worked columns write theirs alike.
 */
export function formatAlike(column: Column, { entries }: Roll): FillFormat | null {
  const { id, type, worked } = column;
  const kind = type === 'date' || type === 'date-time' ? 'date' : isNumber(type) ? 'number' : null;
  if (kind === null || worked) return null;
  const texts: string[] = [];
  for (const entry of entries) {
    if (!isIn(entry)) continue;
    const text = valueOf(entry, id).trim();
    if (text !== '' && meaningOf(entry, column).kind === kind) texts.push(text);
  }
  if (kind === 'number') return numbersAlike(texts, column.format?.decimal ?? '.');
  const forms = new Set(texts.map(formOfDay));
  return forms.size > 1 ? { kind: 'date', style: 'long', time: type === 'date-time' } : null;
}

const isNumber = (type: Column['type']): boolean => type === 'number' || type === 'percentage';

/** The signs and the order of a day, whatever day it is: `9 a 9999` for `4 March 2026`. */
const formOfDay = (text: string): string =>
  text
    .replace(/\d{4,}/g, 'y')
    .replace(/\d+/g, '9')
    .replace(/\p{L}[\p{L}\p{M}]*\.?/gu, 'a')
    .replace(/y/g, '9999');

function numbersAlike(texts: readonly string[], decimal: '.' | ','): FillFormat | null {
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
  const places = padded && lengths.size > 1;
  if (!places && !(grouped && bare) && !(signed && unsigned) && !(spaced && close)) return null;
  return {
    kind: 'number',
    least: places ? longest : 0,
    most: Math.min(20, longest),
    thousands: grouped,
    plus: signed,
    unit: '',
  };
}
