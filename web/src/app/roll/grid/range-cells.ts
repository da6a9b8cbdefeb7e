import { valueOf, type CellChange, type Entry } from '@scriptum/core/roll';
import type { Column } from '@scriptum/core/column';
import { fromCellsText, toCellsText } from './cells-text';
import { moved, type Box, type Place } from './range';

/** The table that ranges are cut out of: what is shown, in its order. */
export interface ShownTable {
  readonly entries: readonly Entry[];
  readonly columns: readonly Column[];
}

interface ChosenCell {
  readonly entry: Entry;
  readonly column: Column;
}

/** The cells of a range, row by row. */
function chosen({ entries, columns }: ShownTable, { top, bottom, left, right }: Box): ChosenCell[][] {
  return entries
    .slice(top, bottom + 1)
    .map((entry) => columns.slice(left, right + 1).map((column) => ({ entry, column })));
}

const changed = ({ entry, column }: ChosenCell, text: string): CellChange => ({
  entryId: entry.id,
  columnId: column.id,
  text,
});

/** The range as the clipboard's plain text. */
export const copiedText = (table: ShownTable, box: Box): string =>
  toCellsText(chosen(table, box).map((row) => row.map(({ entry, column }) => valueOf(entry, column.id))));

/** What clears the range; nothing for cells that are blank already. */
export const clearedCells = (table: ShownTable, box: Box): CellChange[] =>
  chosen(table, box)
    .flat()
    .filter(({ entry, column }) => valueOf(entry, column.id) !== '')
    .map((cell) => changed(cell, ''));

/** What repeats the range's first row in the rows below it; null where there are none. */
export function filledDown(table: ShownTable, box: Box): CellChange[] | null {
  const [first, ...below] = chosen(table, box);
  if (!first || below.length === 0) return null;
  return below.flatMap((row) =>
    row.map((cell, n) => changed(cell, valueOf(first[n]!.entry, first[n]!.column.id))),
  );
}

export interface Pasted {
  readonly cells: CellChange[];
  /** The last cell that was written. */
  readonly to: Place;
  /** True where the table ends before the pasted cells do. */
  readonly lost: boolean;
}

/** What writes pasted cells from the range's first cell on; a single one fills the whole range. */
export function pastedCells(
  table: ShownTable,
  { top, left, bottom, right }: Box,
  text: string,
): Pasted | null {
  const pasted = fromCellsText(text);
  const single = pasted.length === 1 && pasted[0]!.length === 1;
  const height = single ? bottom - top + 1 : pasted.length;
  const width = single ? right - left + 1 : Math.max(0, ...pasted.map((row) => row.length));
  const size = { rows: table.entries.length, columns: table.columns.length };
  const cells: CellChange[] = [];
  for (let r = 0; r < height && top + r < size.rows; r++) {
    for (let c = 0; c < width && left + c < size.columns; c++) {
      const cell = single ? pasted[0]![0]! : pasted[r]![c];
      if (cell === undefined) continue;
      cells.push(changed({ entry: table.entries[top + r]!, column: table.columns[left + c]! }, cell));
    }
  }
  if (cells.length === 0) return null;
  return {
    cells,
    to: moved({ row: top, column: left }, height - 1, width - 1, size),
    lost: top + height > size.rows || left + width > size.columns,
  };
}
