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
