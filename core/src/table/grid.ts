import type { Exact } from '../column/index.js';
import type { SheetNote } from './sheet.js';

/** A rectangle of cells that the file shows as one. 0-based, both ends included. */
export interface Merge {
  readonly top: number;
  readonly left: number;
  readonly bottom: number;
  readonly right: number;
}

/** One sheet of a file as it stands there, before any row of it is taken for a header. */
export interface Grid {
  readonly name: string;
  /** True where the workbook hides the sheet. */
  readonly hidden: boolean;
  /** The texts by row and column. Row n of the file is at n - 1; a row may be shorter than others, or missing. */
  readonly rows: readonly (readonly string[] | undefined)[];
  /** What a workbook knows beyond the texts, by row and column. */
  readonly exact: readonly (Readonly<Record<number, Exact>> | undefined)[];
  readonly merges: readonly Merge[];
  /** The 1-based rows that the file hides, by a filter or by hand. */
  readonly hiddenRows?: readonly number[];
  /** The columns with formulas whose results were not saved. */
  readonly unworked?: readonly number[];
  readonly notes: readonly SheetNote[];
}

/** The columns that hold anything. */
export function gridWidth(grid: Grid): number {
  let width = 0;
  for (const row of grid.rows) if (row) width = Math.max(width, usedWidth(row));
  return width;
}

/** The number of cells up to the last that is not blank. */
export function usedWidth(cells: readonly string[]): number {
  let width = cells.length;
  while (width > 0 && (cells[width - 1] ?? '').trim() === '') width--;
  return width;
}

export const isBlankRow = (cells: readonly string[] | undefined): boolean =>
  !cells || cells.every((cell) => !cell || cell.trim() === '');
