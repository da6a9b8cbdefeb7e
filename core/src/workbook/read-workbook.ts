import { decodeHTML } from 'entities';
import { read, set_cptable, type WorkBook, type WorkSheet } from '@e965/xlsx';
import * as codepages from '@e965/xlsx/dist/cpexcel.full.mjs';
import {
  decodeText,
  refuse,
  succeed,
  type Exact,
  type Grid,
  type Merge,
  type Result,
  type SheetNote,
} from '../table/index.js';
import { readCell, type ReaderCell } from './cell.js';
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
  let book: WorkBook;
  try {
    const page = kind === 'html' ? pageText(bytes) : null;
    book = read(page ?? bytes, {
      type: page === null ? 'array' : 'string',
      dense: true,
      cellNF: true,
      // The shown text is made from the format, and only where it is needed.
      cellText: false,
      cellHTML: false,
      cellFormula: false,
      raw: kind === 'html',
    });
  } catch (error) {
    return refused(error);
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
  if (grids.length === 0)
    return refuse('no-sheets', 'The workbook has no sheets with cells. Choose another file.');
  return succeed(grids);
}

/** A web page's text, with the letters that it writes by name; the reader knows the few names of XML only. */
function pageText(bytes: Uint8Array): string {
  const decoded = decodeText(bytes);
  const text = decoded.ok ? decoded.value.text : new TextDecoder().decode(bytes);
  return text.replace(/&(?!(?:amp|lt|gt|quot|apos|nbsp);)[a-z]+\d*;/gi, (entity) => decodeHTML(entity));
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
  data.forEach((cells, at) => {
    if (!cells || cells.length === 0) return;
    const width = Math.min(cells.length, COLUMNS_SEEN);
    count.add(1, width);
    const texts: string[] = new Array<string>(width).fill('');
    let known: Record<number, Exact> | undefined;
    cells.forEach((cell, column) => {
      if (!cell || column >= COLUMNS_SEEN) return;
      const value = readCell(cell, system);
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
  return { name, hidden, rows, exact, merges, notes };
}

/** What is to be told about a workbook, by the names of its parts: macros and links are left alone. */
export function bookNotes(parts: readonly string[], kind: WorkbookKind): SheetNote[] {
  const notes: SheetNote[] = [];
  if (parts.some((name) => /vbaProject\.bin$|^Basic\/|^Scripts\//i.test(name))) {
    notes.push({
      code: 'macros-ignored',
      message: 'The workbook has macros. They are not run and not kept.',
    });
  }
  if (parts.some((name) => /externalLinks\//i.test(name))) {
    notes.push({
      code: 'links-ignored',
      message:
        'Some cells of the workbook take their values from other files. The values that were last saved are used; the links are not followed.',
    });
  }
  if (kind === 'html') {
    notes.push({
      code: 'file-html',
      message: 'The file is really a web page. Its tables were read as sheets; formats are not known.',
    });
  }
  return notes;
}

function refused(error: unknown): Result<never> {
  const message = error instanceof Error ? error.message : String(error);
  if (/password|encrypt/i.test(message)) return protectedFile();
  return damaged();
}
