import Papa from 'papaparse';
import { someRows } from '../sentences/index.js';
import { decodeText } from './decode.js';
import type { Grid } from './grid.js';
import { layOut } from './layout.js';
import { SHEET_LIMITS } from './limits.js';
import type { Reading } from './reading.js';
import { refuse, refuseAt, succeed, type Result } from './result.js';
import { tidyRecords } from './tidy-records.js';
import { noteAt, type Sheet, type SheetNote } from './sheet.js';

/**
 * Reads a delimited text file (RFC 4180; also with semicolon, tab or bar between the cells). Cells keep their text
 * exactly. Blank lines are passed over; a row longer than the header makes columns of its own, so that nothing is lost;
 * a shorter one is filled with blanks; both are noted.
 *
 * @param newId gives a new column identity at each call.
 * @returns the sheet, or a refusal: `file-too-large`, `file-empty`, `file-binary`, `quote-open`, and those of `layOut`.
 */
export function readCsv(bytes: Uint8Array, newId: () => string, reading: Reading = {}): Result<Sheet> {
  const grid = readTextGrid(bytes, reading);
  if (!grid.ok) return grid;
  const laidOut = layOut(grid.value.grid, reading, newId);
  return laidOut.ok ? succeed(laidOut.value.sheet) : laidOut;
}

/** A text file as a grid, with the encoding and the delimiter that it was read with. */
export function readTextGrid(
  bytes: Uint8Array,
  reading: Reading = {},
): Result<{ grid: Grid; encoding: NonNullable<Reading['encoding']>; delimiter: string }> {
  if (bytes.length > SHEET_LIMITS.bytes) return tooLarge(bytes.length);
  const decoded = decodeText(bytes, reading.encoding);
  if (!decoded.ok) return decoded;
  const records = readRecords(decoded.value.text, reading.delimiter);
  if (!records.ok) return records;
  const { rows, notes, delimiter } = records.value;
  return succeed({
    grid: { name: '', hidden: false, rows, exact: [], merges: [], notes: [...decoded.value.notes, ...notes] },
    encoding: decoded.value.encoding,
    delimiter,
  });
}

/** The refusal for a file over the limit; `size` in bytes. */
export function tooLarge(size: number): Result<never> {
  return refuse('file-too-large', { bytes: size, most: SHEET_LIMITS.bytes });
}

/** The records of a delimited text, header included, with no interpretation. */
export function readRecords(
  text: string,
  delimiter?: string,
): Result<{ rows: string[][]; notes: SheetNote[]; delimiter: string }> {
  const body = text.startsWith('\uFEFF') ? text.slice(1) : text;
  const between = delimiter ?? guessDelimiter(body);
  const tidy = tidyRecords(body, between);
  const parsed = Papa.parse<string[]>(tidy.text, {
    delimiter: between,
    newline: tidy.newline,
    skipEmptyLines: false,
  });
  const open = parsed.errors.find((error) => error.code === 'MissingQuotes');
  if (open) {
    const line = (open.row ?? 0) + 1;
    return refuseAt([line], 'quote-open', { row: line });
  }
  const stray = [
    ...new Set(parsed.errors.filter((e) => e.code === 'InvalidQuotes').map((e) => (e.row ?? 0) + 1)),
  ];
  const notes = stray.length > 0 ? [noteAt(stray, 'quote-stray', { rows: someRows(stray) })] : [];
  return succeed({ rows: parsed.data, notes, delimiter: between });
}

/**
 * The character between cells: the candidate that cuts the first records into the most even number of cells above one.
 * A file with a single column has none; the comma is then as good as any.
 */
function guessDelimiter(text: string): string {
  let best = ',';
  let bestScore = 0;
  for (const delimiter of [',', ';', '\t', '|']) {
    const { data } = Papa.parse<string[]>(text.slice(0, 200_000), { delimiter, preview: 30 });
    const widths = data.filter((cells) => cells.some((cell) => cell !== '')).map((cells) => cells.length);
    const usual = commonest(widths);
    if (usual < 2) continue;
    const even = widths.filter((width) => width === usual).length / widths.length;
    const score = even * 100 + Math.min(usual, 60) / 10;
    if (score > bestScore) {
      best = delimiter;
      bestScore = score;
    }
  }
  return best;
}

/** The number that comes most often; the first of them among equals. */
function commonest(numbers: readonly number[]): number {
  const counts = new Map<number, number>();
  for (const n of numbers) counts.set(n, (counts.get(n) ?? 0) + 1);
  let best = 0;
  for (const [n, count] of counts) if (count > (counts.get(best) ?? 0)) best = n;
  return best;
}
