import { valueOf, type Entry } from '@scriptum/core/roll';
import type { Column } from '@scriptum/core/column';

export const ROW = 29;
export const HEADER = 44;
export const NUMBER = 52;
const SMALLEST = 84;
const WIDEST = 300;
const LETTER = 7.2;
/** Rows and pixels kept ready outside the window, so that scrolling shows no gaps. */
const SPARE_ROWS = 5;
const SPARE_PIXELS = 300;

/** A width for each column, after its title and its first cells. */
export function columnWidths(columns: readonly Column[], entries: readonly Entry[]): number[] {
  const sample = entries.slice(0, 60);
  return columns.map((column) => {
    const lengths = sample
      .map((entry) => Math.min(60, valueOf(entry, column.id).length))
      .sort((a, b) => a - b);
    const usual = lengths[Math.floor(lengths.length * 0.9)] ?? 0;
    // The button after the title takes its room.
    const title = column.title.length * (LETTER + 0.6) + 46;
    return Math.round(
      Math.max(SMALLEST, Math.min(WIDEST, Math.max(usual * LETTER + 20, Math.min(title, 230)))),
    );
  });
}

/**
 * The rows to draw: first, and one past the last. As many wherever the table is scrolled to, so that each keeps its place in
 * the document, and a box that is being written in is not taken away.
 */
export function rowsInSight(scrolled: number, height: number, rows: number): [number, number] {
  const count = Math.min(rows, Math.ceil(height / ROW) + 1 + 2 * SPARE_ROWS);
  const first = Math.max(0, Math.min(rows - count, Math.floor(scrolled / ROW) - SPARE_ROWS));
  return [first, first + count];
}

/** The columns to draw, and the space that those before and after them take. */
export function columnsInSight(
  scrolled: number,
  width: number,
  widths: readonly number[],
): { first: number; last: number; before: number; after: number } {
  let before = 0;
  let first = 0;
  while (first < widths.length - 1 && before + widths[first]! < scrolled - SPARE_PIXELS)
    before += widths[first++]!;
  let last = first;
  let reached = before;
  while (last < widths.length && reached < scrolled + width + SPARE_PIXELS) reached += widths[last++]!;
  const total = widths.reduce((sum, one) => sum + one, 0);
  return { first, last, before, after: total - reached };
}
