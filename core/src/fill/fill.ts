import { valueOf, type Entry } from '../roll/index.js';
import type { Field } from '../template/index.js';

/** The printed text of each field for one entry, by field identity. An unmatched field has none. */
export type Values = Readonly<Record<string, string>>;

/** Fills the fields with one entry's cells. */
export function fillFields(fields: readonly Field[], entry: Entry): Values {
  const values: Record<string, string> = {};
  for (const field of fields) {
    if (field.columnId !== null) values[field.id] = printable(valueOf(entry, field.columnId));
  }
  return values;
}

/**
 * A cell's text as it can be printed: line ends as `\n`, outer blank lines and spaces off, no control characters, no half
 * surrogate pairs. All else stays as it is.
 */
export function printable(cell: string): string {
  return (
    cell
      .replace(/\r\n?/g, '\n')
      .replace(/\t/g, ' ')
      // eslint-disable-next-line no-control-regex
      .replace(/[\u0000-\u0009\u000b-\u001f\u007f-\u009f\ufeff]/g, '')
      .trim()
      .toWellFormed()
  );
}

/** The same text on one line: line ends become spaces. For subjects and file names. */
export const oneLine = (text: string): string => text.replace(/\s+/g, ' ').trim();
