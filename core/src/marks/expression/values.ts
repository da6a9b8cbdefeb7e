import { decimalText, readMoment, readNumber } from '../../table/index.js';
import { blank, cellText, error, number, type Cell } from '../cell.js';
import { nearest, ratio, ratioOf, roundRatio, type Ratio } from '../ratio.js';

/** What a part of a formula comes to: a cell, or several, as out of a whole column. */
export type Operand = Cell | readonly Cell[];

export const isList = (operand: Operand): operand is readonly Cell[] => Array.isArray(operand);

/** Thrown inside the reckoning, and caught at its edge: an error, or a blank that nothing can be made of. */
export class Stop extends Error {
  constructor(readonly cell: Cell) {
    super(cell.kind);
  }
}

export const stop = (code: Parameters<typeof error>[0], reason: string): never => {
  throw new Stop(error(code, reason));
};

/** One cell; the only one of a list. */
export function one(operand: Operand): Cell {
  if (!isList(operand)) return operand;
  if (operand.length === 1) return operand[0]!;
  return stop('#VALUE!', 'One value is needed here, and there are several.');
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
      return ratio(String(serialOf(cell.iso)));
    case 'text': {
      const decimal = readNumber(cell.text);
      return decimal === null ? stop('#VALUE!', `“${cell.text.slice(0, 60)}” is no number.`) : ratio(decimal);
    }
    case 'blank':
      throw new Stop(blank(cell.why ?? 'something it is made from is blank'));
    case 'error':
      throw new Stop(cell);
    case 'list':
      return stop('#VALUE!', 'Several choices are no number.');
  }
}

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
      return stop('#VALUE!', `“${cell.text.slice(0, 60)}” is neither true nor false.`);
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
  if (Number.isNaN(value)) return stop('#VALUE!', 'There is no such number.');
  if (!Number.isFinite(value))
    return stop('#DIV/0!', 'The number is too large, or something is divided by zero.');
  return numberCell(ratio(decimalText(value)));
}

const DAY = 86_400_000;
const EPOCH = Date.UTC(1899, 11, 30);

/** Days since 30 December 1899, as OpenFormula counts them (ODF 1.3 Part 4, 4.3.3); a time is a part of a day. */
export const serialOf = (iso: string): number => {
  const at = Date.parse(iso.length > 10 ? `${iso}Z` : `${iso}T00:00:00Z`);
  return (at - EPOCH) / DAY;
};

/** The date of a serial number. @throws Stop */
export function dateCell(serial: number): Cell {
  const at = new Date(EPOCH + Math.floor(serial) * DAY);
  const year = at.getUTCFullYear();
  if (Number.isNaN(at.getTime()) || year < 1 || year > 9999) return stop('#NUM!', 'There is no such date.');
  return { kind: 'date', iso: at.toISOString().slice(0, 10) };
}

/** The date that a cell is or says. @throws Stop */
export function dateOf(operand: Operand): Date {
  const cell = one(operand);
  if (cell.kind === 'text') {
    const moment = readMoment(cell.text);
    if (!moment || moment.ambiguous) return stop('#VALUE!', `“${cell.text.slice(0, 60)}” is no date.`);
    return new Date(`${moment.iso.slice(0, 10)}T00:00:00Z`);
  }
  return new Date(EPOCH + nearest(numberOf(cell)) * DAY);
}

/** Raises to a power: exactly for whole powers up to 64, else as doubles do. @throws Stop */
export function raise(base: Ratio, power: Ratio): Cell {
  if (base.equals(0) && power.compare(0) <= 0)
    return power.equals(0) ? numberCell(ratio('1')) : stop('#DIV/0!', 'Zero has no negative power.');
  if (power.d === 1n && power.n <= 64n) {
    const exact = base.pow(power);
    if (exact && exact.d < 1n << 200n && exact.n < 1n << 400n) return numberCell(exact);
  }
  const double = Math.pow(nearest(base), nearest(power));
  if (Number.isNaN(double)) return stop('#NUM!', 'A negative number has no such power.');
  return doubleCell(double);
}

export const whole = (value: number): Cell => numberCell(ratioOf(BigInt(value), 1n));

/** Numbers by size, texts without regard to capitals, a blank equal to an empty text (ODF 1.3 Part 4, 6.4.7 and 6.4.9). */
export function compare(left: Operand, right: Operand): number {
  const [a, b] = [one(left), one(right)];
  for (const cell of [a, b]) if (cell.kind === 'error') throw new Stop(cell);
  const isNumber = (cell: Cell): boolean => cell.kind === 'number' || cell.kind === 'date';
  if (isNumber(a) && isNumber(b)) return numberOf(a).compare(numberOf(b));
  if (a.kind === 'truth' && b.kind === 'truth') return Number(a.truth) - Number(b.truth);
  // A number that a text column holds is compared as a number.
  if ((isNumber(a) && b.kind === 'text') || (a.kind === 'text' && isNumber(b))) {
    try {
      return numberOf(a).compare(numberOf(b));
    } catch (caught) {
      if (!(caught instanceof Stop)) throw caught;
      return isNumber(a) ? -1 : 1;
    }
  }
  const [x, y] = [textOf(a).toLowerCase(), textOf(b).toLowerCase()];
  return x < y ? -1 : x > y ? 1 : 0;
}
