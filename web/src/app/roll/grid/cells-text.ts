import Papa from 'papaparse';

/** Cells as the clipboard's plain text: tabs between them, quoted where they hold tabs, line ends or quotation marks. */
export const toCellsText = (cells: readonly (readonly string[])[]): string =>
  Papa.unparse(cells as string[][], { delimiter: '\t', newline: '\n' });

/** The cells of a clipboard's plain text. A line end after the last row is no row. */
export function fromCellsText(text: string): string[][] {
  const { data } = Papa.parse<string[]>(text.replace(/\r\n?/g, '\n').replace(/\n$/, ''), { delimiter: '\t' });
  return data;
}
