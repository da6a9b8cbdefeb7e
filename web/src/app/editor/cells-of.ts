import { isIn, valueOf, type Entry } from '@scriptum/core/roll';

/** Cells of a column that are offered to be compared with, and letters of one. */
const CELLS_MOST = 60;
const LETTERS_MOST = 80;

/** What stands in a column of those who are not left out, the most frequent first. */
export function cellsOf(entries: readonly Entry[], columnId: string): string[] {
  const counts = new Map<string, number>();
  for (const entry of entries) {
    const cell = isIn(entry) ? valueOf(entry, columnId).trim() : '';
    if (cell !== '' && cell.length <= LETTERS_MOST) counts.set(cell, (counts.get(cell) ?? 0) + 1);
  }
  return [...counts]
    .sort(([, a], [, b]) => b - a)
    .slice(0, CELLS_MOST)
    .map(([cell]) => cell);
}
