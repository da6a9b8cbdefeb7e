import type { OutOf } from '../worked/index.js';
import type { Book } from './book.js';
import type { Cell } from './cell.js';
import { HUNDRED, ratio, sum, type Ratio } from './ratio.js';

/** The points that a marking key gives in all; null for another column, and for a key that says percent already. */
export function keyPoints(book: Book, columnId: string): Ratio | null {
  const worked = book.columns.get(columnId)?.worked;
  return worked?.kind === 'key' && worked.give === 'points'
    ? sum(worked.questions.map(({ points }) => ratio(points)))
    : null;
}

/** How a mark is looked up: as it stands, or as percent of what it is out of. */
export class MarkScale {
  /** Points that are the whole; null where marks are looked up as they stand. */
  readonly whole: Ratio | null;

  /** @param of the column that holds the mark. */
  constructor(book: Book, of: string, outOf: OutOf | undefined) {
    const whole = outOf === 'key' ? keyPoints(book, of) : outOf ? ratio(outOf) : null;
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

/** Learners who are in and have nothing in the columns that say with whom they are compared. */
export function withoutGroup(book: Book, within: readonly string[]): number[] {
  if (within.length === 0) return [];
  const all = book.entries.map((_, at) => at).filter((at) => book.isIn(at));
  const none = all.filter((at) => within.every((id) => book.written(id, at).trim() === ''));
  // Where nobody has one the column is simply not filled yet.
  return none.length === all.length ? [] : none;
}
