import { phrase, sameSaying, saying, type Code, type Given, type Saying } from '../sentences/index.js';
import { meaningOf, valueOf, type Entry } from '../roll/index.js';
import { readNumber, readPercentage, type Column, type Rounding } from '../column/index.js';
import { decimalOf, ratio, roundRatio, withSign, type Ratio } from '../ratio/index.js';

/** Codes of errors, as OpenFormula (ODF 1.3 Part 4, 5.12) and spreadsheets write them. */
export type ErrorCode =
  '#DIV/0!' | '#VALUE!' | '#REF!' | '#NAME?' | '#NUM!' | '#N/A' | '#NULL!' | '#CIRCULAR!';

/** What a cell holds for reckoning with. */
export type Cell =
  /** `why` ends the sentence “There is nothing, because”. */
  | { readonly kind: 'blank'; readonly why?: Saying }
  /** `exact` is not rounded; `shown` is, in plain decimal notation. */
  | { readonly kind: 'number'; readonly exact: Ratio; readonly shown: string }
  | { readonly kind: 'text'; readonly text: string }
  | { readonly kind: 'truth'; readonly truth: boolean }
  /** ISO 8601. */
  | { readonly kind: 'date'; readonly iso: string }
  | { readonly kind: 'list'; readonly items: readonly string[] }
  /** `reason` is a sentence. */
  | { readonly kind: 'error'; readonly code: ErrorCode; readonly reason: Saying };

export const BLANK: Cell = { kind: 'blank' };
export const blank = <C extends Code>(code: C, ...given: Given<C>): Cell => blankFor(saying(code, ...given));
export const blankFor = (why: Saying): Cell => ({ kind: 'blank', why });
export const text = (value: string): Cell => (value === '' ? BLANK : { kind: 'text', text: value });
export const truth = (value: boolean): Cell => ({ kind: 'truth', truth: value });
export const error = <C extends Code>(code: ErrorCode, reason: C, ...given: Given<C>): Cell =>
  errorFor(code, saying(reason, ...given));
export const errorFor = (code: ErrorCode, reason: Saying): Cell => ({ kind: 'error', code, reason });

/** A number, rounded for showing, or shown with all its digits. */
export function number(exact: Ratio, rounding: Rounding | null): Cell {
  if (exact.d === 1n && (!rounding || rounding.places === 0))
    return { kind: 'number', exact, shown: String(exact.s * exact.n) };
  return { kind: 'number', exact, shown: rounding ? roundRatio(exact, rounding) : decimalOf(exact) };
}

/** The cell of a column that is not worked out, or that was written by hand. */
export function givenCell(entry: Entry, column: Column): Cell {
  const value = meaningOf(entry, column);
  switch (value.kind) {
    case 'blank':
      return BLANK;
    case 'number':
      return { kind: 'number', exact: ratio(value.decimal), shown: value.decimal };
    case 'date':
      return { kind: 'date', iso: value.iso };
    case 'truth':
      return { kind: 'truth', truth: value.truth };
    case 'list':
      return { kind: 'list', items: value.items };
    case 'text':
      return readTyped(value.text, column);
    case 'wrong': {
      const written = valueOf(entry, column.id);
      const exact = entry.exact?.[column.id];
      return written.trim() === '' && exact?.startsWith('e:') ? sourceError(exact) : text(written);
    }
  }
}

const CODES: readonly ErrorCode[] = [
  '#DIV/0!',
  '#VALUE!',
  '#REF!',
  '#NAME?',
  '#NUM!',
  '#N/A',
  '#NULL!',
  '#CIRCULAR!',
];

/** The error that a cell of the workbook held: `e:#N/A`. */
export function sourceError(exact: string): Cell {
  const held = exact.slice(2);
  return error(CODES.find((code) => code === held) ?? '#VALUE!', 'sheet-error', { error: held });
}

/** In a worked column a number that was written by hand is a number, whatever the column gives else. */
function readTyped(written: string, column: Column): Cell {
  if (!column.worked) return { kind: 'text', text: written };
  const decimal =
    readNumber(written, column.format?.decimal) ?? readPercentage(written, column.format?.decimal);
  return decimal === null
    ? { kind: 'text', text: written }
    : { kind: 'number', exact: ratio(decimal), shown: decimal };
}

/** The cell as it is written in the table and on paper. An error is blank there. */
export function cellText(cell: Cell, decimal: '.' | ',' = '.'): string {
  switch (cell.kind) {
    case 'blank':
    case 'error':
      return '';
    case 'number':
      return withSign(cell.shown, decimal);
    case 'text':
      return cell.text;
    case 'truth':
      return phrase(cell.truth ? 'yes' : 'no');
    case 'date':
      return cell.iso.replace('T', ' ');
    case 'list':
      return cell.items.join(', ');
  }
}

/** True where both say the same, to the last digit. */
export function sameCell(a: Cell | undefined, b: Cell | undefined): boolean {
  if (a === b) return true;
  if (!a || !b || a.kind !== b.kind) return false;
  switch (a.kind) {
    case 'number':
      return b.kind === 'number' && a.shown === b.shown && a.exact.equals(b.exact);
    case 'blank':
      return b.kind === 'blank' && sameSaying(a.why, b.why);
    case 'error':
      return b.kind === 'error' && a.code === b.code && sameSaying(a.reason, b.reason);
    default:
      return cellText(a) === cellText(b);
  }
}
