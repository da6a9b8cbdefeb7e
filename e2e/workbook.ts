import { utils, write } from '@e965/xlsx';

/** A workbook with these sheets, as a file to choose. */
export function workbook(
  name: string,
  ...sheets: [string, unknown[][]][]
): { name: string; mimeType: string; buffer: Buffer } {
  const book = utils.book_new();
  for (const [title, rows] of sheets) utils.book_append_sheet(book, utils.aoa_to_sheet(rows), title);
  return {
    name,
    mimeType: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
    buffer: write(book, { type: 'buffer', bookType: 'xlsx' }) as Buffer,
  };
}
