import { read, set_cptable, type WorkBook, type WorkSheet } from '@e965/xlsx';
import * as codepages from '@e965/xlsx/dist/cpexcel.full.mjs';
import {
  noteThat,
  refuse,
  succeed,
  type Grid,
  type Merge,
  type Result,
  type SheetNote,
} from '../table/index.js';
import type { Exact } from '../column/index.js';
import { isUnworked, readCell, type ReaderCell } from './cell.js';
import { CellCount, TooManyCells } from './cell-count.js';
import { damaged, protectedFile } from './refusals.js';

// Old workbooks hold text in the code page of the machine that wrote them.
set_cptable(codepages);

/** Kinds of file that hold a workbook. */
export type WorkbookKind = 'xlsx' | 'xls' | 'ods' | 'html' | 'xml';

/** A rectangle wider than this is not gone through; what is in it is counted by its cells all the same. */
const COLUMNS_SEEN = 20_000;

/**
 * Reads a workbook: XLSX and its kin (ECMA-376), XLS ([MS-XLS]), ODS (ODF 1.3), and the web pages and XML that some
 * programs write under those names. Formulas give their last result; macros and links to other files are left alone.
 *
 * @param notes what is to be told about the workbook.
 * @returns its sheets, hidden ones too, or a refusal: `file-protected`, `file-damaged`, `no-sheets`.
 */
export function readWorkbook(
  bytes: Uint8Array,
  kind: WorkbookKind,
  notes: readonly SheetNote[] = bookNotes([], kind),
): Result<Grid[]> {
  const plain = kind === 'xml' ? plainXml(bytes) : bytes;
  let book: WorkBook;
  try {
    book = readBook(plain, true);
  } catch {
    try {
      // Styles that cannot be read keep nobody from the cells.
      book = readBook(plain, false);
    } catch (error) {
      return refused(error);
    }
  }
  const count = new CellCount();
  const system = book.Workbook?.WBProps?.date1904 ? 1904 : 1900;
  let grids: Grid[];
  try {
    grids = book.SheetNames.map((name, n) => {
      const sheet = book.Sheets[name];
      if (!sheet || !sheet['!ref']) return emptyGrid(name, isHidden(book, n), notes);
      return gridOf(sheet, name, isHidden(book, n), system, notes, count);
    });
  } catch (error) {
    return error instanceof TooManyCells ? error.refusal : damaged();
  }
  if (grids.length === 0) return refuse('no-sheets', { kind: 'workbook' });
  return succeed(grids);
}

const readBook = (bytes: Uint8Array, cellStyles: boolean): WorkBook =>
  read(bytes, {
    type: 'array',
    dense: true,
    cellNF: true,
    // The shown text is made from the format, and only where it is needed.
    cellText: false,
    cellHTML: false,
    // To know which formulas came without their results, and which rows are hidden.
    cellFormula: true,
    cellStyles,
    // In XLSB a cell may stand behind the one before it without a number of its own, also where that one is blank.
    sheetStubs: true,
  });

/** A sign beyond U+FFFF that XML names by its number. */
const WIDE_SIGN =
  /&#(?:x0*[1-9a-f][\da-f]{4,5}|0*(?:6553[6-9]|655[4-9]\d|65[6-9]\d\d|6[6-9]\d{3}|[7-9]\d{4}|\d{6,7}));/gi;
/** Errors that came with newer programs than the reader knows. */
const NEW_ERROR = /<v>#(?:SPILL|CALC|FIELD|BLOCKED|CONNECT|UNKNOWN|BUSY|PYTHON|EXTERNAL)!<\/v>/g;

/**
 * A workbook's XML as the reader can take it: signs beyond U+FFFF as themselves, whose numbers it cuts off, and errors that it
 * does not know as one that it does. Only for XML in UTF-8, as that of workbooks is.
 */
export function plainXml(bytes: Uint8Array): Uint8Array {
  const head = new TextDecoder('iso-8859-1').decode(bytes.subarray(0, 200));
  if (/encoding\s*=\s*["'](?!utf-?8)/i.test(head) || bytes[0] === 0xff || bytes[0] === 0xfe) return bytes;
  const text = new TextDecoder().decode(bytes);
  const plain = text
    .replace(WIDE_SIGN, (written) => {
      const code = /x/i.test(written)
        ? Number.parseInt(written.slice(3, -1), 16)
        : Number(written.slice(2, -1));
      return code > 0xffff && code <= 0x10ffff ? String.fromCodePoint(code) : written;
    })
    .replace(NEW_ERROR, '<v>#VALUE!</v>');
  return plain === text ? bytes : new TextEncoder().encode(plain);
}

const emptyGrid = (name: string, hidden: boolean, notes: readonly SheetNote[]): Grid => ({
  name,
  hidden,
  rows: [],
  exact: [],
  merges: [],
  notes,
});

const isHidden = (book: WorkBook, n: number): boolean => Boolean(book.Workbook?.Sheets?.[n]?.Hidden);

function gridOf(
  sheet: WorkSheet,
  name: string,
  hidden: boolean,
  system: 1900 | 1904,
  notes: readonly SheetNote[],
  count: CellCount,
): Grid {
  const data = ((sheet as { '!data'?: (ReaderCell | undefined)[][] })['!data'] ?? []) as (
    (ReaderCell | undefined)[] | undefined
  )[];
  const rows: (string[] | undefined)[] = [];
  const exact: (Record<number, Exact> | undefined)[] = [];
  const unworked = new Set<number>();
  data.forEach((cells, at) => {
    if (!cells || cells.length === 0) return;
    const width = Math.min(cells.length, COLUMNS_SEEN);
    count.add(1, width);
    const texts: string[] = new Array<string>(width).fill('');
    let known: Record<number, Exact> | undefined;
    cells.forEach((cell, column) => {
      if (!cell || column >= COLUMNS_SEEN) return;
      const value = readCell(cell, system);
      if (isUnworked(cell)) unworked.add(column);
      texts[column] = value.text;
      if (value.exact !== undefined) (known ??= {})[column] = value.exact;
    });
    rows[at] = texts;
    exact[at] = known;
  });
  const merges = (sheet['!merges'] ?? []).map(({ s, e }): Merge => ({
    top: s.r,
    left: s.c,
    bottom: e.r,
    right: e.c,
  }));
  const hiddenRows = ((sheet['!rows'] ?? []) as ({ hidden?: boolean } | undefined)[]).flatMap((row, at) =>
    row?.hidden ? [at + 1] : [],
  );
  return {
    name,
    hidden,
    rows,
    exact,
    merges,
    notes,
    hiddenRows,
    unworked: [...unworked].sort((a, b) => a - b),
  };
}

/** What is to be told about a workbook, by the names of its parts: macros and links are left alone. */
export function bookNotes(parts: readonly string[], kind: WorkbookKind): SheetNote[] {
  const notes: SheetNote[] = [];
  if (parts.some((name) => /vbaProject\.bin$|^Basic\/|^Scripts\//i.test(name)))
    notes.push(noteThat('macros-ignored'));
  if (parts.some((name) => /externalLinks\//i.test(name))) notes.push(noteThat('links-ignored'));
  if (kind === 'html') notes.push(noteThat('file-html'));
  return notes;
}

function refused(error: unknown): Result<never> {
  const message = error instanceof Error ? error.message : String(error);
  if (/password|encrypt/i.test(message)) return protectedFile();
  return damaged();
}
