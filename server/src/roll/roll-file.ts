import {
  isIn,
  learnerName,
  meaningOf,
  nameColumns,
  valueOf,
  type Entry,
  type Roll,
} from '@scriptum/core/roll';
import type { Column } from '@scriptum/core/column';
import { writeSheet, XLSX_CELL_MOST, type WriteKind } from '@scriptum/core/workbook';
import { conflict } from '../refusal.js';

/** The roll as a spreadsheet file: the shown columns, and the reasons of those left out where they are in it. */
export function rollFile(roll: Roll, title: string, kind: WriteKind, who: 'in' | 'all'): Uint8Array {
  const columns = roll.columns.filter((column) => !column.hidden);
  const entries = who === 'in' ? roll.entries.filter(isIn) : roll.entries;
  if (kind === 'xlsx') checkLengths(columns, entries);
  const reasons = entries.some((entry) => entry.leftOut !== undefined);
  return writeSheet(
    kind,
    title,
    [...columns.map((column) => column.title), ...(reasons ? ['Left out because'] : [])],
    entries.map((entry) => [
      ...columns.map((column) => {
        const text = valueOf(entry, column.id);
        const value = meaningOf(entry, column);
        // A number of more digits than a spreadsheet keeps stays text.
        const counts =
          column.type === 'number' &&
          value.kind === 'number' &&
          value.decimal.replace(/\D/g, '').length <= 15;
        return counts ? { text, number: Number(value.decimal) } : { text };
      }),
      ...(reasons ? [{ text: entry.leftOut ?? '' }] : []),
    ]),
  );
}

/** @throws Refusal `cell-too-long` where a text does not fit into a cell of the file: it would be cut there. */
function checkLengths(columns: readonly Column[], entries: readonly Entry[]): void {
  for (const entry of entries)
    for (const { id, title } of columns) {
      const { length } = valueOf(entry, id);
      if (length > XLSX_CELL_MOST)
        throw conflict(
          'cell-too-long',
          `“${title}” of ${learnerName(entry, nameColumns(columns))} has ${length.toLocaleString('en')} letters; a cell of XLSX holds ${XLSX_CELL_MOST.toLocaleString('en')}. Save the roll as CSV or ODS.`,
        );
    }
}
