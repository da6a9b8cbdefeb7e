import type { OutOf } from '../column/index.js';
import type { RollCells } from './roll-cells.js';
import type { Cell } from './cell.js';
import { HUNDRED, ratio, sum, type Ratio } from '../ratio/index.js';
import { notice, type Notice } from './reckoner.js';

/** So many learners with one band or one remark are worth a look. */
export const MANY = 5;

/** The points that a marking key gives in all; null for another column, and for a key that says percent already. */
export function keyPoints(rollCells: RollCells, columnId: string): Ratio | null {
  const worked = rollCells.columns.get(columnId)?.worked;
  return worked?.kind === 'key' && worked.give === 'points'
    ? sum(worked.questions.map(({ points }) => ratio(points)))
    : null;
}

/** How a mark is looked up: as it stands, or as percent of what it is out of. */
export class MarkScale {
  /** Points that are the whole; null where marks are looked up as they stand. */
  readonly whole: Ratio | null;

  /** @param of the column that holds the mark. */
  constructor(rollCells: RollCells, of: string, outOf: OutOf | undefined) {
    const whole = outOf === 'key' ? keyPoints(rollCells, of) : outOf ? ratio(outOf) : null;
    this.whole = whole && whole.compare(0) > 0 ? whole : null;
  }

  mark(value: Ratio): Ratio {
    return this.whole ? value.div(this.whole).mul(HUNDRED) : value;
  }
}

/** Decimal places with which the marks of a column are shown, at the most. */
export function placesShown(cells: Iterable<Cell>): number {
  let most = 0;
  for (const cell of cells)
    if (cell.kind === 'number') most = Math.max(most, cell.shown.split('.')[1]?.length ?? 0);
  return most;
}

/**
 * Stands against learners who are in and have nothing in the columns that say with whom they are compared.
 *
 * @param title of the column that compares.
 */
export function groupNotices(rollCells: RollCells, title: string, within: readonly string[]): Notice[] {
  if (within.length === 0) return [];
  const all = rollCells.entries.map((_, at) => at).filter((at) => rollCells.isIn(at));
  const none = all.filter((at) => within.every((id) => rollCells.written(id, at).trim() === ''));
  // Where nobody has one the column is simply not filled yet.
  if (none.length === 0 || none.length === all.length) return [];
  return [notice('within-blank', none, { title })];
}
