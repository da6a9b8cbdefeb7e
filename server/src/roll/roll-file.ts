import { isIn, meaningOf, valueOf, type Roll } from '@scriptum/core/roll';
import { writeSheet, type WriteKind } from '@scriptum/core/workbook';

/** The roll as a spreadsheet file: the shown columns, and the reasons of those left out where they are in it. */
export function rollFile(roll: Roll, title: string, kind: WriteKind, who: 'in' | 'all'): Uint8Array {
  const columns = roll.columns.filter((column) => !column.hidden);
  const entries = who === 'in' ? roll.entries.filter(isIn) : roll.entries;
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
