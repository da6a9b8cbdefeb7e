import { readAddress } from './address.js';
import { readMoment } from './dates.js';
import { readExact } from './exact.js';
import { gridWidth, isBlankRow, type Grid } from './grid.js';
import { readNumber, readPercentage } from './numbers.js';

/** Rows at the top among which the header is looked for. */
const LOOK = 30;

/**
 * The rows that most likely hold the titles. Rows above them with a cell or two (a heading, a date) are passed over; a
 * row of titles that stand over several columns, with another row of titles below, makes two.
 *
 * @returns the 1-based number of the first row, and how many rows; null where all rows are blank.
 */
export function guessHeader(grid: Grid): { row: number; count: number } | null {
  const width = gridWidth(grid);
  const first = grid.rows.findIndex((row) => !isBlankRow(row));
  if (first < 0) return null;
  const start = firstFull(grid, first, width);
  const below = start + 1;
  if (hasSpanning(grid, start) && looksLikeTitles(grid, below, width)) return { row: start + 1, count: 2 };
  return { row: start + 1, count: 1 };
}

/** The first row that is no heading above the table: more than one cell, and as wide as what follows. */
function firstFull(grid: Grid, first: number, width: number): number {
  if (width < 3) return first;
  const last = Math.min(grid.rows.length, first + LOOK);
  for (let at = first; at < last; at++) {
    const row = grid.rows[at];
    if (isBlankRow(row)) continue;
    const filled = row!.filter((cell) => cell?.trim()).length;
    if (filled > Math.max(1, width * 0.34) || (hasSpanning(grid, at) && filled > 1)) {
      return at;
    }
  }
  return first;
}

/** True where a cell of this row stands over two columns or more, but not over all. */
function hasSpanning(grid: Grid, at: number): boolean {
  const width = gridWidth(grid);
  return grid.merges.some(
    (merge) =>
      merge.top <= at &&
      merge.bottom === at &&
      merge.right > merge.left &&
      merge.right - merge.left + 1 < width,
  );
}

/** True for a row of words that is no row of data. */
function looksLikeTitles(grid: Grid, at: number, width: number): boolean {
  const row = grid.rows[at];
  if (isBlankRow(row)) return false;
  const filled = row!.filter((cell) => cell?.trim());
  if (filled.length < Math.max(2, width * 0.3)) return false;
  return row!.every((cell, column) => {
    const exact = grid.exact[at]?.[column];
    if (exact && readExact(exact).kind !== 'e') return false;
    return !looksLikeData(cell ?? '');
  });
}

function looksLikeData(cell: string): boolean {
  const text = cell.trim();
  if (text === '') return false;
  return (
    readNumber(text) !== null ||
    readPercentage(text) !== null ||
    readMoment(text) !== null ||
    readAddress(text).kind === 'address'
  );
}

const TOTAL =
  /^(?:grand |sub)?\s*(?:totals?|sum|average|averages|mean|median|count|summe|gesamt|mittelwert|moyenne|somme|media|promedio|totaal)\b[:.]?$/i;

/** True for a row whose first filled cell says that it sums up the others, and that has little else but numbers. */
export function isTotalRow(cells: readonly string[]): boolean {
  const filled = cells.filter((cell) => cell?.trim());
  if (filled.length < 2 || !TOTAL.test(filled[0]!.trim().replace(/\s+/g, ' '))) return false;
  return filled.slice(1).every((cell) => /^[\d.,%\s+\-–/]+$/.test(cell.trim()));
}
