import { someRows } from '../sentences/index.js';
import { guessType } from './guess-type.js';
import { gridWidth, isBlankRow, usedWidth, type Grid } from './grid.js';
import { guessHeader, isFooter, isTotalRow, looksLikeData } from './header.js';
import { nameColumns } from './headers.js';
import { SHEET_LIMITS } from './limits.js';
import { guessDecimal, type Column } from '../column/index.js';
import type { Reading } from './reading.js';
import { refuse, refuseAt, succeed, type Result } from './result.js';
import { noteAt, noteThat, type Sheet, type SheetNote } from './sheet.js';

/** A sheet laid out, with the reading that made it: what was asked for, and what was found out. */
export interface LaidOut {
  readonly sheet: Sheet;
  readonly reading: Reading;
  /** What was guessed and may be wrong, so that people had better look before the sheet is taken. */
  readonly doubts: readonly Doubt[];
}

/** Which of several sheets, which row has the titles, how letters are written, whether hidden rows belong. */
export type Doubt = 'sheets' | 'titles' | 'letters' | 'hidden';

/**
 * Makes a sheet of a grid: finds the header or takes the one that is given, passes blank and total rows over, spreads
 * merged cells over the cells they cover, and finds the type of each column.
 *
 * @param newId gives a new column identity at each call.
 * @returns the sheet, or a refusal: `file-empty`, `header-only`, `header-beyond`, `too-many-rows`, `too-many-columns`,
 *   `cell-too-long`.
 */
export function layOut(given: Grid, reading: Reading, newId: () => string): Result<LaidOut> {
  const grid = withoutLeading(given);
  const spread = spreadMerges(grid);
  const header = reading.header ?? guessHeader(grid);
  if (!header) {
    return refuse('file-empty', { sheet: grid.name });
  }
  if (header.row > spread.rows.length) {
    return refuse('header-beyond', { header: header.row, last: spread.rows.length });
  }
  const width = gridWidth(spread);
  const titles = titlesOf(spread, header, width);
  const body: Line[] = [];
  const totals: number[] = [];
  const hidden = new Set(grid.hiddenRows);
  const unseen: number[] = [];
  for (let at = header.row - 1 + header.count; at < spread.rows.length; at++) {
    const cells = spread.rows[at];
    if (isBlankRow(cells)) continue;
    if (hidden.has(at + 1)) unseen.push(at + 1);
    if (hidden.has(at + 1) && reading.skipHidden) continue;
    if (!reading.keepTotals && isTotalRow(cells!, body.length > 0)) totals.push(at + 1);
    else body.push({ cells: cells!, line: at + 1 });
  }
  if (!reading.keepTotals && width > 1)
    while (body.length > 1 && isFooter(body.at(-1)!.cells)) totals.push(body.pop()!.line);
  totals.sort((a, b) => a - b);
  if (body.length === 0) {
    return refuse('header-only', { sheet: grid.name });
  }
  const limit = checkLimits(width, body);
  if (limit) return limit;
  const named = nameColumns(titles, width, header.count === 0 ? 0 : header.row, newId);
  const decimal = reading.decimal ?? guessDecimal(sampleTexts(body, spread));
  const exact = body.map(({ line }) => spread.exact[line - 1]);
  const rows = body.map(({ cells }) => Array.from({ length: width }, (_, j) => cells[j] ?? ''));
  const columns = named.columns.map((column, j): Column => ({
    ...column,
    sourceTitle: column.title,
    ...guessType(
      column.title,
      rows.map((cells, i) => ({ text: cells[j]!, exact: exact[i]?.[j] })),
      decimal,
    ),
  }));
  return succeed({
    sheet: {
      columns,
      rows,
      exact,
      lines: body.map(({ line }) => line),
      notes: [
        ...grid.notes,
        ...(header.count === 0 ? [] : named.notes),
        ...raggedNotes(header.count === 0 ? width : usedWidth(titles), grid, body),
        ...totalNotes(totals),
        ...hiddenNotes(unseen, reading.skipHidden ?? false),
        ...unworkedNotes(grid.unworked ?? [], named.columns),
        ...errorNotes(spread, body),
      ],
    },
    doubts: [
      ...(reading.header || !areDoubtful(titles) ? [] : ['titles' as const]),
      ...(grid.notes.some(({ code }) => code === 'encoding-guessed' || code === 'letters-lost')
        ? ['letters' as const]
        : []),
      ...(unseen.length > 0 && reading.skipHidden === undefined ? ['hidden' as const] : []),
    ],
    reading: {
      ...reading,
      header,
      decimal,
      keepTotals: reading.keepTotals ?? false,
      ...(unseen.length > 0 ? { skipHidden: reading.skipHidden ?? false } : {}),
    },
  });
}

interface Line {
  readonly cells: readonly string[];
  readonly line: number;
}

/** Cells of a merge that is larger are left blank: it is a frame, not data. */
const MERGE_MOST = 20_000;

function spreadMerges(grid: Grid): Grid {
  if (grid.merges.length === 0) return grid;
  const rows = [...grid.rows];
  const exact = [...grid.exact];
  for (const { top, left, bottom, right } of grid.merges) {
    const text = grid.rows[top]?.[left] ?? '';
    if (text.trim() === '' || (bottom - top + 1) * (right - left + 1) > MERGE_MOST) continue;
    const known = grid.exact[top]?.[left];
    for (let at = top; at <= Math.min(bottom, rows.length - 1); at++) {
      const row = [...(rows[at] ?? [])];
      for (let column = left; column <= right; column++) row[column] = text;
      rows[at] = Array.from(row, (cell) => cell ?? '');
      if (known !== undefined) {
        const here: Record<number, string> = { ...exact[at] };
        for (let column = left; column <= right; column++) here[column] = known;
        exact[at] = here;
      }
    }
  }
  return { ...grid, rows, exact };
}

/** True for titles that may be something else: one alone, some missing, some twice, or one that is a value. */
function areDoubtful(titles: readonly string[]): boolean {
  const used = titles.filter(Boolean);
  return (
    used.length < 2 ||
    used.length < titles.length ||
    new Set(used).size < used.length ||
    used.some((title) => looksLikeData(title))
  );
}

/** The titles that header rows give, merged cells spread. */
export function headerTitles(grid: Grid, header: { row: number; count: number }): string[] {
  const top = header.row - 1 + header.count;
  const merges = grid.merges.filter((merge) => merge.top < top);
  const spread = spreadMerges({ ...grid, rows: grid.rows.slice(0, top), exact: [], merges });
  return titlesOf(spread, header, gridWidth(spread)).filter(Boolean);
}

/** The title of each column: the texts of the header rows above it, one after the other, each once. */
function titlesOf(grid: Grid, { row, count }: { row: number; count: number }, width: number): string[] {
  const above = grid.rows.slice(row - 1, row - 1 + count);
  return Array.from({ length: width }, (_, column) => {
    const parts = above.map((cells) => (cells?.[column] ?? '').replace(/\s+/g, ' ').trim()).filter(Boolean);
    return [...new Set(parts)].join(' – ').slice(0, 1000);
  });
}

/** The texts of some rows; true numbers have no sign of their own, so they say nothing of how texts are written. */
function* sampleTexts(body: readonly Line[], grid: Grid): Iterable<string> {
  for (const { cells, line } of body.slice(0, 500)) {
    const exact = grid.exact[line - 1];
    for (let column = 0; column < cells.length; column++)
      if (exact?.[column] === undefined) yield cells[column] ?? '';
  }
}

/** The grid without the columns at its left that hold nothing in any row. */
function withoutLeading(grid: Grid): Grid {
  let lead = Infinity;
  for (const row of grid.rows) {
    if (!row) continue;
    const first = row.findIndex((cell) => cell && cell.trim() !== '');
    if (first >= 0) lead = Math.min(lead, first);
    if (lead === 0) return grid;
  }
  if (lead === Infinity) return grid;
  const moved = (column: number): number => column - lead;
  return {
    ...grid,
    rows: grid.rows.map((row) => row?.slice(lead)),
    exact: grid.exact.map(
      (known) =>
        known &&
        Object.fromEntries(Object.entries(known).map(([column, exact]) => [moved(Number(column)), exact])),
    ),
    merges: grid.merges
      .filter(({ right }) => right >= lead)
      .map((merge) => ({ ...merge, left: Math.max(0, moved(merge.left)), right: moved(merge.right) })),
    ...(grid.unworked ? { unworked: grid.unworked.map(moved) } : {}),
  };
}

function checkLimits(width: number, body: readonly Line[]): Result<never> | undefined {
  if (body.length > SHEET_LIMITS.rows) {
    return refuse('too-many-rows', { count: body.length, most: SHEET_LIMITS.rows });
  }
  if (width > SHEET_LIMITS.columns) {
    return refuse('too-many-columns', { count: width, most: SHEET_LIMITS.columns });
  }
  let text = 0;
  for (const { cells, line } of body) {
    for (let column = 0; column < cells.length; column++) {
      const length = cells[column]!.length;
      text += length;
      if (length <= SHEET_LIMITS.cell) continue;
      const where = { row: line, column: column + 1 };
      return refuseAt([line], 'cell-too-long', { ...where, count: length, most: SHEET_LIMITS.cell });
    }
    if (text > SHEET_LIMITS.text) return refuse('too-much-text', { most: SHEET_LIMITS.text });
  }
  return undefined;
}

/** Rows of a text file that have more or fewer cells than the header; the rows of a workbook have no ends. */
function raggedNotes(headerWidth: number, grid: Grid, body: readonly Line[]): SheetNote[] {
  const notes: SheetNote[] = [];
  const long = body.filter(({ cells }) => usedWidth(cells) > headerWidth).map(({ line }) => line);
  const short = grid.name
    ? []
    : body.filter(({ cells }) => cells.length < headerWidth).map(({ line }) => line);
  if (long.length > 0) notes.push(noteAt(long, 'row-long', { rows: someRows(long) }));
  if (short.length > 0) notes.push(noteAt(short, 'row-short', { rows: someRows(short) }));
  return notes;
}

const hiddenNotes = (rows: readonly number[], skipped: boolean): SheetNote[] =>
  rows.length === 0 ? [] : [noteAt(rows, 'rows-hidden', { rows: someRows(rows), skipped })];

function unworkedNotes(columns: readonly number[], named: readonly { title: string }[]): SheetNote[] {
  const titles = columns.flatMap((column) => named[column]?.title ?? []);
  return titles.length === 0 ? [] : [noteThat('formulas-unworked', { titles })];
}

const totalNotes = (rows: readonly number[]): SheetNote[] =>
  rows.length === 0 ? [] : [noteAt(rows, 'row-total', { rows: someRows(rows) })];

function errorNotes(grid: Grid, body: readonly Line[]): SheetNote[] {
  const rows: number[] = [];
  const errors = new Set<string>();
  for (const { line } of body) {
    const here = Object.values(grid.exact[line - 1] ?? {}).filter((exact) => exact.startsWith('e:'));
    if (here.length > 0) rows.push(line);
    for (const exact of here) errors.add(exact.slice(2));
  }
  return rows.length === 0
    ? []
    : [noteAt(rows, 'cell-error', { rows: someRows(rows), errors: [...errors].slice(0, 4) })];
}
