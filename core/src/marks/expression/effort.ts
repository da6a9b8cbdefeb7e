import { SHEET_LIMITS } from '../../table/index.js';
import type { Ratio } from '../../ratio/index.js';
import { isList, stop, type Operand } from './values.js';

/** UTF-16 code units that a text may have: as many as a cell. */
const TEXT_MOST = SHEET_LIMITS.cell;
/** Numbers are ratios of whole numbers; each of the two may have so many bits, which are 308 digits. */
const BITS_MOST = 1024n;
const LARGEST = 1n << BITS_MOST;

/** What one cell may cost, in about a microsecond each; and what all cells of a roll's formulas may cost together. */
const CELL_MOST = 500_000;
const CELL_LEAST = 300;
const ROLL_MOST = 10_000_000;

/** What each cell of a formula may cost in a roll of this size, so that the whole roll stays within bounds. */
export const cellEffort = (cells: number): number =>
  Math.min(CELL_MOST, Math.max(CELL_LEAST, Math.floor(ROLL_MOST / Math.max(1, cells))));

/**
 * What is left to spend on a formula, in about a microsecond each. A formula that costs more than it may ends with an error
 * in its cell; nothing can catch that, since each further step costs too.
 */
export class Effort {
  constructor(private left: number = CELL_MOST) {}

  spend(cost: number): void {
    this.left -= cost;
    if (this.left < 0) stop('#NUM!', 'formula-steps');
  }
}

let current = new Effort();

/** Does work at the cost of an effort. */
export function withEffort<T>(effort: Effort, work: () => T): T {
  const before = current;
  current = effort;
  try {
    return work();
  } finally {
    current = before;
  }
}

/** Takes a cost from the effort of the formula that is being worked out. @throws Stop where it is used up */
export const spend = (cost: number): void => current.spend(cost);

/** The result as it is, where it is not larger than results may be. @throws Stop */
export function bounded(result: Operand): Operand {
  if (isList(result)) return result;
  if (result.kind === 'text' && result.text.length > TEXT_MOST) return tooLong();
  if (result.kind === 'number') checkSize(result.exact);
  return result;
}

/** @throws Stop where the number has more digits than can be reckoned with. */
export function checkSize(value: Ratio): void {
  if (value.n >= LARGEST || value.d >= LARGEST) stop('#NUM!', 'number-digits');
}

/** @throws Stop where a text would become longer than texts may be, before it is made. */
export function checkLength(length: number): void {
  if (length > TEXT_MOST) tooLong();
  spend(length / 2_000);
}

const tooLong = (): never => stop('#VALUE!', 'text-long', { most: TEXT_MOST });

/** Texts one after the other. @throws Stop where they are too long together */
export function joined(texts: readonly string[], between = ''): string {
  checkLength(texts.reduce((sum, one) => sum + one.length + between.length, 0));
  return texts.join(between);
}
