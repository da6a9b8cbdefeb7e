import type { Cell } from '../../cell.js';
import type { Tree } from '../parse.js';
import { cellsOf, dateCell, exactOf, numberCell, Stop, type Operand } from '../values.js';
import type { Ratio } from '../../../ratio/index.js';

/** What a formula can ask for beyond its own text. */
export interface Surroundings {
  /** The entry's cell. */
  cell(columnId: string): Cell;
  /** The column's cells for all entries that are in, or for those that agree with this one in other columns. */
  all(columnId: string, within: readonly string[]): readonly Cell[];
  /** A column of the entry's own small table. @throws Stop where there is none */
  own(title: string, table: string | null): readonly Cell[];
  /** ISO 8601. */
  readonly today: string;
}

/** A function of a formula: how many values it takes, and what it makes of them. */
export type Known = {
  readonly counts: readonly [least: number, most: number];
  /** How it is written, and what it gives, for the list beside the formula. */
  readonly usage: string;
  readonly gives: string;
} & (
  | { readonly of: (given: readonly Operand[], around: Surroundings) => Operand }
  | {
      readonly lazy: (
        given: readonly Tree[],
        below: (tree: Tree) => Operand,
        around: Surroundings,
      ) => Operand;
    }
);

export type Functions = Readonly<Record<string, Known>>;

/** The numbers among what is given, dates too; texts, blanks and truths are passed over, errors stop. */
export function numbersIn(given: readonly Operand[]): Ratio[] {
  const numbers: Ratio[] = [];
  for (const cell of cellsOf(given)) {
    if (cell.kind === 'error') throw new Stop(cell);
    const exact = exactOf(cell);
    if (exact) numbers.push(exact);
  }
  return numbers;
}

/** A number picked out of those that are given: a date where they all are. */
export const likeThose = (given: readonly Operand[], value: Ratio): Cell => {
  const numbers = cellsOf(given).filter((cell) => exactOf(cell) !== null);
  return numbers.length > 0 && numbers.every((cell) => cell.kind === 'date')
    ? dateCell(value)
    : numberCell(value);
};

/** The cells that hold anything. */
export const filled = (given: readonly Operand[]): Cell[] =>
  cellsOf(given).filter((cell) => cell.kind !== 'blank' && !(cell.kind === 'text' && cell.text === ''));
