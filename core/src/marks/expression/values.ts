import { saying, type Code, type Given } from '../../sentences/index.js';
import { decimalText, readMoment, readNumber } from '../../column/index.js';
import { blankFor, cellText, error, number, type Cell, type ErrorCode } from '../cell.js';
import { exactRoot, nearest, ratio, ratioOf, roundRatio, scientific, type Ratio } from '../../ratio/index.js';

/** What a part of a formula comes to: a cell, or several, as out of a whole column. */
export type Operand = Cell | readonly Cell[];

export const isList = (operand: Operand): operand is readonly Cell[] => Array.isArray(operand);

/** Thrown inside the reckoning, and caught at its edge: an error, or a blank that nothing can be made of. */
export class Stop extends Error {
  constructor(readonly cell: Cell) {
    super(cell.kind);
  }
}

export const stop = <C extends Code>(code: ErrorCode, reason: C, ...given: Given<C>): never => {
  throw new Stop(error(code, reason, ...given));
};

/** One cell; the only one of a list. */
export function one(operand: Operand): Cell {
  if (!isList(operand)) return operand;
  if (operand.length === 1) return operand[0]!;
  return stop('#VALUE!', 'several-values');
}

/** All cells, lists taken apart. */
export const cellsOf = (operands: readonly Operand[]): Cell[] =>
  operands.flatMap((operand) => (isList(operand) ? operand : [operand]));

/**
 * The number that a cell is or says. A blank stops the reckoning, since it is no zero: the result is blank then.
 * @throws Stop
 */
export function numberOf(operand: Operand): Ratio {
  const cell = one(operand);
  switch (cell.kind) {
    case 'number':
      return cell.exact;
    case 'truth':
      return ratio(cell.truth ? '1' : '0');
    case 'date':
      return serialOf(cell.iso);
    case 'text':
      return numberSaid(cell.text) ?? stop('#VALUE!', 'text-no-number', { text: cell.text.slice(0, 60) });
    case 'blank':
      throw new Stop(blankFor(cell.why ?? saying('made-from-blank')));
    case 'error':
      throw new Stop(cell);
    case 'list':
      return stop('#VALUE!', 'choices-no-number');
  }
}

/**
 * The number that a text says (ODF 1.3 Part 4, 6.20.28 VALUE): with zeros at its start, as a percentage, with a power of
 * ten, or as a date or a time of day, which are numbers too. Null where it says none.
 */
export function numberSaid(written: string): Ratio | null {
  const text = written.trim();
  if (text.length > 60) {
    const decimal = readNumber(text);
    return decimal === null ? null : ratio(decimal);
  }
  const [, bare = text, percent] = /^(.*?)\s*(%)$/.exec(text) ?? [];
  const decimal = readNumber(bare);
  const value =
    decimal !== null ? ratio(decimal) : /\d/.test(bare) ? scientific(bare.replace('−', '-')) : null;
  if (value) return percent ? value.div(100) : value;
  if (percent || !/\d[-/. :]\d|\d\s*\p{L}/u.test(text)) return null;
  const time = timeSaid(text);
  if (time) return time;
  const moment = readMoment(text);
  return moment && !moment.ambiguous ? serialOf(moment.iso) : null;
}

/** A time of day as a part of a day: `21:35`, `9:35:20 pm`. */
function timeSaid(text: string): Ratio | null {
  const [, h, m, s = '0', half] = /^(\d{1,2}):(\d{2})(?::(\d{2}))?\s*([ap]\.?m\.?)?$/i.exec(text) ?? [];
  if (h === undefined || Number(m) > 59 || Number(s) > 59 || Number(h) > (half ? 12 : 24)) return null;
  const hours = half ? (Number(h) % 12) + (/^p/i.test(half) ? 12 : 0) : Number(h);
  return ratioOf(BigInt(hours * 3600 + Number(m) * 60 + Number(s)), 86_400n);
}

/** The number that a cell is; a date is one (ODF 1.3 Part 4, 4.3.3). Null for texts, truths and blanks, whatever they say. */
export const exactOf = (cell: Cell): Ratio | null =>
  cell.kind === 'number' ? cell.exact : cell.kind === 'date' ? serialOf(cell.iso) : null;

/** The text that a cell is written as; nothing for a blank. @throws Stop */
export function textOf(operand: Operand): string {
  const cell = one(operand);
  if (cell.kind === 'error') throw new Stop(cell);
  if (cell.kind === 'truth') return cell.truth ? 'TRUE' : 'FALSE';
  return cellText(cell);
}

/** Whether a cell is true; a number is where it is not 0. @throws Stop */
export function truthOf(operand: Operand): boolean {
  const cell = one(operand);
  switch (cell.kind) {
    case 'truth':
      return cell.truth;
    case 'text':
      if (/^true$/i.test(cell.text)) return true;
      if (/^false$/i.test(cell.text)) return false;
      return stop('#VALUE!', 'text-no-truth', { text: cell.text.slice(0, 60) });
    default:
      return !numberOf(cell).equals(0);
  }
}

/** The whole number that a cell holds, cut off towards zero. @throws Stop */
export const wholeOf = (operand: Operand): number =>
  Number(roundRatio(numberOf(operand), { places: 0, mode: 'down' }));

/** A number as a cell, with all its digits. */
export const numberCell = (value: Ratio): Cell => number(value, null);

/** A double as a cell, with the 15 digits that doubles are good for. @throws Stop for what is no number */
export function doubleCell(value: number): Cell {
  if (Number.isNaN(value)) return stop('#VALUE!', 'no-such-number');
  if (!Number.isFinite(value)) return stop('#DIV/0!', 'number-large');
  return numberCell(ratio(decimalText(value)));
}

const DAY = 86_400_000;
const EPOCH = Date.UTC(1899, 11, 30);

/** Days since 30 December 1899, as OpenFormula counts them (ODF 1.3 Part 4, 4.3.3); a time is a part of a day. */
export const serialOf = (iso: string): Ratio =>
  ratioOf(BigInt(Date.parse(iso.length > 10 ? `${iso}Z` : `${iso}T00:00:00Z`) - EPOCH), BigInt(DAY));

/** The date of a serial number; with its time, to the second, where it has one. @throws Stop */
export function dateCell(serial: Ratio): Cell {
  const at = momentOf(serial);
  const iso = at.toISOString();
  return { kind: 'date', iso: serial.d === 1n ? iso.slice(0, 10) : iso.slice(0, 19) };
}

/** To the nearest second. @throws Stop */
function momentOf(serial: Ratio): Date {
  const seconds = Number(roundRatio(serial.mul(86_400), { places: 0, mode: 'half up' }));
  const at = new Date(EPOCH + seconds * 1000);
  const year = at.getUTCFullYear();
  return Number.isNaN(at.getTime()) || year < 1 || year > 9999 ? stop('#NUM!', 'no-such-date') : at;
}

/** The moment that a cell is or says, to the second. @throws Stop */
export function dateOf(operand: Operand): Date {
  const cell = one(operand);
  if (cell.kind !== 'text') return momentOf(numberOf(cell));
  const serial = numberSaid(cell.text);
  return serial ? momentOf(serial) : stop('#VALUE!', 'text-no-date', { text: cell.text.slice(0, 60) });
}

/** Raises to a power: exactly for whole powers up to 64 and exact roots, else as doubles do. @throws Stop */
export function raise(base: Ratio, power: Ratio): Cell {
  if (base.equals(0) && power.compare(0) <= 0)
    return power.equals(0) ? numberCell(ratio('1')) : stop('#DIV/0!', 'zero-power');
  if (power.d === 1n && power.n <= 64n) {
    const exact = base.pow(power);
    if (exact && exact.d < 1n << 200n && exact.n < 1n << 400n) return numberCell(exact);
  }
  const root = power.d > 1n && power.d <= 64n ? exactRoot(base, Number(power.d)) : null;
  if (root) return raise(root, ratioOf(power.s * power.n, 1n));
  if (base.compare(0) < 0 && power.d > 1n && power.d % 2n === 1n) {
    // A root of odd degree, of which a number below zero has one.
    const size = doubleCell(Math.pow(-nearest(base), nearest(power)));
    return power.n % 2n === 1n ? numberCell(numberOf(size).neg()) : size;
  }
  const double = Math.pow(nearest(base), nearest(power));
  if (Number.isNaN(double)) return stop('#NUM!', 'negative-power');
  return doubleCell(double);
}

export const whole = (value: number): Cell => numberCell(ratioOf(BigInt(value), 1n));

/** Numbers by size, texts without regard to capitals, a blank equal to an empty text (ODF 1.3 Part 4, 6.4.7 and 6.4.9). */
export function compare(left: Operand, right: Operand): number {
  const [a, b] = [one(left), one(right)];
  for (const cell of [a, b]) if (cell.kind === 'error') throw new Stop(cell);
  const [m, n] = [exactOf(a), exactOf(b)];
  if (m && n) return m.compare(n);
  if (a.kind === 'truth' && b.kind === 'truth') return Number(a.truth) - Number(b.truth);
  // A number, or a date, that a text column holds is compared as what it says.
  if (m && b.kind === 'text') {
    const said = numberSaid(b.text);
    return said ? m.compare(said) : -1;
  }
  if (n && a.kind === 'text') return numberSaid(a.text)?.compare(n) ?? 1;
  const [x, y] = [textOf(a).toLowerCase(), textOf(b).toLowerCase()];
  return x < y ? -1 : x > y ? 1 : 0;
}
