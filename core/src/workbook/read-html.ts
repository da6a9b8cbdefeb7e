import { Parser } from 'htmlparser2';
import {
  decodeText,
  refuse,
  succeed,
  type Grid,
  type Merge,
  type Result,
  type SheetNote,
  ENCODINGS,
  type EncodingName,
} from '../table/index.js';
import { CellCount, TooManyCells } from './cell-count.js';
import { damaged } from './refusals.js';

const COLUMNS_SEEN = 20_000;
const SPAN_MOST = 1_000;

/**
 * Reads the tables of a web page, which programs write under the names of workbooks: each table is a sheet. A table within a
 * cell is text of that cell.
 *
 * @returns the tables, or a refusal: `file-damaged`, `no-sheets`, `too-many-cells`, and those of `decodeText`.
 */
export function readHtml(bytes: Uint8Array, notes: readonly SheetNote[]): Result<Grid[]> {
  const decoded = decodeText(bytes, saidEncoding(bytes));
  if (!decoded.ok) return decoded;
  const reader = new TableReader();
  const parser = new Parser(reader, { decodeEntities: true, lowerCaseTags: true });
  try {
    parser.write(decoded.value.text);
    parser.end();
  } catch (error) {
    return error instanceof TooManyCells ? error.refusal : damaged();
  }
  const full = reader.tables.filter(({ rows }) =>
    rows.some((row) => row?.some((cell) => cell.trim() !== '')),
  );
  if (full.length === 0) return refuse('no-sheets', { kind: 'html' });
  return succeed(
    full.map(({ rows, merges, hiddenRows }, n): Grid => ({
      name: `Table ${n + 1}`,
      hidden: false,
      rows,
      exact: [],
      merges,
      hiddenRows,
      notes: [...notes, ...decoded.value.notes],
    })),
  );
}

/** The encoding that the page names itself (HTML Standard, 4.2.5.4). */
function saidEncoding(bytes: Uint8Array): EncodingName | undefined {
  if (bytes[0] === 0xff || bytes[0] === 0xfe || bytes[0] === 0xef) return undefined;
  const head = new TextDecoder('iso-8859-1').decode(bytes.subarray(0, 2048));
  const said = /<meta[^>]+charset\s*=\s*["']?\s*([\w-]+)/i.exec(head)?.[1]?.toLowerCase();
  if (!said) return undefined;
  try {
    const { encoding } = new TextDecoder(said === 'x-mac-roman' ? 'macintosh' : said);
    // A page that says so and is not is read as what it is.
    if (encoding === 'utf-8') return undefined;
    return ENCODINGS.find(({ id }) => id === encoding)?.id;
  } catch {
    return undefined;
  }
}

interface OpenTable {
  readonly rows: string[][];
  readonly merges: Merge[];
  readonly hiddenRows: number[];
  /** Rows that cells of earlier rows reach down into, by column. */
  readonly taken: number[];
}

/** Gathers the texts of cells as the page is parsed. */
class TableReader {
  readonly tables: OpenTable[] = [];
  private readonly count = new CellCount();
  private table: OpenTable | null = null;
  /** Tables within cells of the one that is read. */
  private inner = 0;
  private row: string[] | null = null;
  private cell: { text: string; column: number } | null = null;
  /** Elements whose text nobody sees. */
  private silent = 0;

  onopentag(name: string, attributes: Record<string, string>): void {
    if (SILENT.has(name)) this.silent++;
    if (name === 'table') {
      if (this.table) this.inner++;
      else {
        this.table = { rows: [], merges: [], hiddenRows: [], taken: [] };
        this.tables.push(this.table);
      }
      return;
    }
    if (!this.table) return;
    if (this.inner > 0) {
      this.separate(name);
      return;
    }
    if (name === 'tr') this.openRow(attributes);
    else if (name === 'td' || name === 'th') this.openCell(attributes);
    else this.separate(name);
  }

  ontext(text: string): void {
    if (!this.cell || this.silent > 0) return;
    this.cell.text += text.replace(/[ \t\r\n\f]+/g, ' ');
  }

  onclosetag(name: string): void {
    if (SILENT.has(name)) this.silent = Math.max(0, this.silent - 1);
    if (name === 'table') {
      if (this.inner > 0) this.inner--;
      else {
        this.closeCell();
        this.row = null;
        this.table = null;
      }
    } else if (this.inner > 0 || !this.table) return;
    else if (name === 'td' || name === 'th') this.closeCell();
    else if (name === 'tr') {
      this.closeCell();
      this.row = null;
    } else if (BLOCKS.has(name)) this.separate(name);
  }

  /** What stands on a line of its own begins one. */
  private separate(name: string): void {
    if (!this.cell || this.silent > 0) return;
    if (name === 'br') this.cell.text += '\n';
    else if (BLOCKS.has(name) && this.cell.text.trim() !== '' && !this.cell.text.endsWith('\n'))
      this.cell.text += '\n';
  }

  private openRow(attributes: Record<string, string>): void {
    this.closeCell();
    const { rows, hiddenRows } = this.table!;
    this.row = [];
    rows.push(this.row);
    if (/display\s*:\s*none/i.test(attributes['style'] ?? '') || 'hidden' in attributes)
      hiddenRows.push(rows.length);
  }

  private openCell(attributes: Record<string, string>): void {
    this.closeCell();
    if (!this.row) this.openRow({});
    const { rows, merges, taken } = this.table!;
    const at = rows.length - 1;
    let column = this.row!.length;
    while ((taken[column] ?? 0) > at) column++;
    const wide = span(attributes['colspan']);
    const high = span(attributes['rowspan']);
    this.count.add(1, wide);
    while (this.row!.length < Math.min(column + wide, COLUMNS_SEEN)) this.row!.push('');
    if (wide > 1 || high > 1)
      merges.push({ top: at, left: column, bottom: at + high - 1, right: column + wide - 1 });
    for (let n = 0; n < wide; n++) taken[column + n] = at + high;
    this.cell = { text: '', column };
  }

  private closeCell(): void {
    const { cell, row } = this;
    this.cell = null;
    if (!cell || !row || cell.column >= COLUMNS_SEEN) return;
    row[cell.column] = cell.text
      .replace(/ *\n */g, '\n')
      .replace(/\n+$/, '')
      .replaceAll('\u00a0', ' ')
      .trim();
  }
}

const SILENT = new Set(['script', 'style', 'noscript', 'template', 'title']);
const BLOCKS = new Set([
  'p',
  'div',
  'li',
  'tr',
  'ul',
  'ol',
  'h1',
  'h2',
  'h3',
  'h4',
  'h5',
  'h6',
  'blockquote',
]);

const span = (said: string | undefined): number =>
  Math.min(SPAN_MOST, Math.max(1, Number.parseInt(said ?? '1', 10) || 1));
