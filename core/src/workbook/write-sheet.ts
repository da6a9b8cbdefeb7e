import { utils, write, type CellObject } from '@e965/xlsx';
import Papa from 'papaparse';

export type WriteKind = 'csv' | 'xlsx' | 'ods';

/** A cell to be written: its text, and the number behind it where a spreadsheet shall count with it. */
export interface CellToWrite {
  readonly text: string;
  readonly number?: number;
}

/**
 * Writes a table as a file that spreadsheets open. A text that a spreadsheet would take for a formula is made harmless: in
 * a CSV by an apostrophe before it, in a workbook by being stored as text.
 *
 * CSV: RFC 4180, UTF-8 with a byte order mark, so that spreadsheets see the encoding.
 */
export function writeSheet(
  kind: WriteKind,
  title: string,
  titles: readonly string[],
  rows: readonly (readonly CellToWrite[])[],
): Uint8Array {
  if (kind === 'csv') {
    const table = [titles.map(harmless), ...rows.map((row) => row.map(({ text }) => harmless(text)))];
    return new TextEncoder().encode(`\uFEFF${Papa.unparse(table, { newline: '\r\n', quotes: true })}\r\n`);
  }
  // Workbooks end a line within a cell by a line feed alone.
  const text = (value: string): CellObject => ({ t: 's', v: value.replace(/\r\n?/g, '\n'), z: '@' });
  const sheet = utils.aoa_to_sheet(
    [
      titles.map(text),
      ...rows.map((row) =>
        row.map((cell): CellObject | null =>
          cell.text === '' ? null : cell.number === undefined ? text(cell.text) : { t: 'n', v: cell.number },
        ),
      ),
    ],
    { dense: true },
  );
  const book = utils.book_new();
  utils.book_append_sheet(book, sheet, sheetName(title));
  return new Uint8Array(write(book, { type: 'array', bookType: kind, compression: true }) as ArrayBuffer);
}

/** Signs that begin a formula, full-width ones too, after what spreadsheets pass over; and what begins a cell or a line. */
const FORMULA =
  // eslint-disable-next-line no-control-regex -- signs that cannot be seen do not hide a formula
  /(^|[;,|\t\r\n])([\u0000-\u001f\u200b-\u200f\u2060\ufeff]*[=+\-@\uff1d\uff0b\uff0d\uff20])/g;
const NUMBER = /^\s*[+-]?[\d.,\s]*\d\s*%?\s*(?:$|[;,|\t\r\n])/;

/**
 * The text as a CSV may hold it without a spreadsheet working any of it out: an apostrophe before each sign that begins a
 * formula at the start, and also after what another program may take for the end of a cell or a line (OWASP, “CSV
 * Injection”). Numbers with a sign stay as they are.
 */
export function harmless(text: string): string {
  const marked = /^[\t\r]/.test(text) ? `'${text}` : text;
  return marked.replace(FORMULA, (found, before: string, sign: string, at: number) =>
    NUMBER.test(marked.slice(at + before.length)) ? found : `${before}'${sign}`,
  );
}

/** Signs that a cell of an XLSX workbook may hold (ECMA-376 Part 1, 18.3.1.4 and 22.9.2.19). */
export const XLSX_CELL_MOST = 32_767;

/**
 * ECMA-376 Part 1, 18.2.19 and common practice: at most 31 characters, none of `: \ / ? * [ ]` nor any that cannot be seen, no
 * apostrophe at an end, and not the name that spreadsheets keep for themselves.
 */
export function sheetName(title: string): string {
  const plain = title
    .replace(/[\p{Cc}\p{Cs}:\\/?*[\]]/gu, ' ')
    .trim()
    .slice(0, 31)
    // Half of a sign that two units make.
    .replace(/[\ud800-\udbff]$/, '')
    .replace(/^[\s']+|[\s']+$/g, '');
  if (/^history$/i.test(plain)) return `${plain} roll`;
  return plain || 'Roll';
}
