import { strFromU8 } from 'fflate';
import { CellCount, TooManyCells } from './cell-count.js';
import { SaxesParser } from 'saxes';
import { decimalText, type Exact } from '../column/index.js';
import { refuse, succeed, type Grid, type Merge, type Result, type SheetNote } from '../table/index.js';
import { damaged, protectedFile } from './refusals.js';

/** Rows and cells that a sheet says are the same as the one before, taken over at the most. */
const REPEAT_MOST = 60_000;
const COLUMNS_SEEN = 20_000;

/**
 * Reads an OpenDocument spreadsheet (ODF 1.3 Part 3, 9 and 19). Unlike other workbooks it holds both the exact value of
 * a cell and the text that was shown for it; both are kept.
 */
export function readOds(
  parts: Readonly<Record<string, Uint8Array>>,
  notes: readonly SheetNote[],
): Result<Grid[]> {
  const manifest = parts['META-INF/manifest.xml'];
  if (parts['encrypted-package'] || (manifest && strFromU8(manifest).includes('encryption-data')))
    return protectedFile();
  const content = parts['content.xml'];
  if (!content) return damaged();
  const reader = new ContentReader();
  try {
    reader.read(strFromU8(content));
  } catch (error) {
    return error instanceof TooManyCells ? error.refusal : damaged();
  }
  if (reader.grids.length === 0) {
    return refuse('no-sheets', { kind: 'workbook' });
  }
  return succeed(reader.grids.map((grid) => ({ ...grid, notes })));
}

type Attributes = Readonly<Record<string, string>>;

interface OpenCell {
  readonly attributes: Attributes;
  readonly covered: boolean;
  text: string;
  paragraphs: number;
}

interface OpenGrid {
  name: string;
  hidden: boolean;
  rows: (string[] | undefined)[];
  exact: (Record<number, Exact> | undefined)[];
  merges: Merge[];
  hiddenRows: number[];
  unworked: number[];
}

class ContentReader {
  readonly grids: OpenGrid[] = [];
  private readonly count = new CellCount();
  private readonly hiddenStyles = new Set<string>();
  private style = '';
  private grid: OpenGrid | undefined;
  private row = 0;
  private rowRepeat = 1;
  private rowHidden = false;
  private texts: string[] = [];
  private known: Record<number, Exact> = {};
  private column = 0;
  private cell: OpenCell | undefined;
  /** Depth of notes and pictures inside a cell, whose text is none of the cell's. */
  private aside = 0;
  private inParagraph = 0;

  read(xml: string): void {
    const parser = new SaxesParser();
    parser.on('opentag', ({ name, attributes }) => this.open(name, attributes as Attributes));
    parser.on('closetag', ({ name }) => this.close(name));
    parser.on('text', (text) => {
      // ODF 1.3 Part 3, 6.1.2: these four collapse; other spaces, such as the non-breaking one, stay.
      if (this.cell && this.inParagraph > 0 && this.aside === 0)
        this.cell.text += text.replace(/[ \t\r\n]+/g, ' ');
    });
    parser.on('error', (error) => {
      throw error;
    });
    parser.write(xml).close();
  }

  private open(name: string, attributes: Attributes): void {
    switch (name) {
      case 'style:style':
        this.style = attributes['style:name'] ?? '';
        break;
      case 'style:table-properties':
        if (attributes['table:display'] === 'false') this.hiddenStyles.add(this.style);
        break;
      case 'table:table':
        if (this.grid) break;
        this.grid = {
          name: attributes['table:name'] ?? '',
          hidden: this.hiddenStyles.has(attributes['table:style-name'] ?? ''),
          rows: [],
          exact: [],
          merges: [],
          hiddenRows: [],
          unworked: [],
        };
        this.row = 0;
        break;
      case 'table:table-row':
        this.rowRepeat = times(attributes['table:number-rows-repeated']);
        this.rowHidden = /^(?:collapse|filter)$/.test(attributes['table:visibility'] ?? '');
        this.texts = [];
        this.known = {};
        this.column = 0;
        break;
      case 'table:table-cell':
      case 'table:covered-table-cell':
        if (this.grid)
          this.cell = { attributes, covered: name !== 'table:table-cell', text: '', paragraphs: 0 };
        break;
      case 'office:annotation':
      case 'draw:frame':
      case 'draw:custom-shape':
        this.aside++;
        break;
      case 'text:p':
        if (!this.cell || this.aside > 0) break;
        if (this.cell.paragraphs++ > 0) this.cell.text += '\n';
        this.inParagraph++;
        break;
      case 'text:s':
        this.add(' '.repeat(Math.min(1000, times(attributes['text:c']))));
        break;
      case 'text:tab':
        this.add('\t');
        break;
      case 'text:line-break':
        this.add('\n');
        break;
    }
  }

  private add(text: string): void {
    if (this.cell && this.aside === 0) this.cell.text += text;
  }

  private close(name: string): void {
    switch (name) {
      case 'office:annotation':
      case 'draw:frame':
      case 'draw:custom-shape':
        this.aside--;
        break;
      case 'text:p':
        if (this.cell && this.aside === 0) this.inParagraph--;
        break;
      case 'table:table-cell':
      case 'table:covered-table-cell':
        this.closeCell();
        break;
      case 'table:table-row':
        this.closeRow();
        break;
      case 'table:table':
        if (this.grid) this.grids.push(this.grid);
        this.grid = undefined;
        break;
    }
  }

  private closeCell(): void {
    const cell = this.cell;
    this.cell = undefined;
    if (!cell || !this.grid) return;
    const { attributes } = cell;
    const repeat = times(attributes['table:number-columns-repeated']);
    const spans = [
      times(attributes['table:number-columns-spanned']),
      times(attributes['table:number-rows-spanned']),
    ] as const;
    if (spans[0] > 1 || spans[1] > 1) {
      this.grid.merges.push({
        top: this.row,
        left: this.column,
        bottom: this.row + spans[1] - 1,
        right: this.column + spans[0] - 1,
      });
    }
    const { text, exact } = cell.covered
      ? { text: '', exact: undefined }
      : readOdsCell(attributes, cell.text);
    if (attributes['table:formula'] && text === '' && exact === undefined && !attributes['office:value-type'])
      if (!this.grid.unworked.includes(this.column)) this.grid.unworked.push(this.column);
    if (text !== '' || exact !== undefined) {
      for (let n = 0; n < Math.min(repeat, REPEAT_MOST) && this.column + n < COLUMNS_SEEN; n++) {
        this.texts[this.column + n] = text;
        if (exact !== undefined) this.known[this.column + n] = exact;
      }
    }
    this.column += repeat;
  }

  private closeRow(): void {
    if (!this.grid) return;
    if (this.texts.length > 0) {
      const times = Math.min(this.rowRepeat, REPEAT_MOST);
      this.count.add(times, this.texts.length);
      const texts = Array.from(this.texts, (text) => text ?? '');
      const known = Object.keys(this.known).length > 0 ? this.known : undefined;
      for (let n = 0; n < times; n++) {
        this.grid.rows[this.row + n] = texts;
        this.grid.exact[this.row + n] = known;
        if (this.rowHidden) this.grid.hiddenRows.push(this.row + n + 1);
      }
    }
    this.row += this.rowRepeat;
  }
}

const times = (attribute: string | undefined): number =>
  Math.max(1, Number.parseInt(attribute ?? '1', 10) || 1);

/** ODF 1.3 Part 3, 19.385: the value types. */
function readOdsCell(attributes: Attributes, shown: string): { text: string; exact?: Exact | undefined } {
  const type = attributes['calcext:value-type'] === 'error' ? 'error' : attributes['office:value-type'];
  if (type === 'error' || (attributes['table:formula'] && /^(?:#[A-Z/0!?]+|Err:\d+)$/.test(shown))) {
    return { text: '', exact: `e:${shown || '#VALUE!'}` };
  }
  const value = attributes['office:value'] ?? '';
  switch (type) {
    case 'float':
    case 'currency': {
      const decimal = decimalText(Number(value));
      // Without a number of its own places a cell shows fewer digits than it has.
      if (!isRounded(shown, decimal)) return { text: shown, exact: `n:${decimal}` };
      return decimal.includes('.') ? { text: decimal, exact: `n:${decimal}` } : { text: decimal };
    }
    case 'percentage': {
      const percent = decimalText(Number(value) * 100);
      return { text: shown || `${percent}%`, exact: `p:${percent}` };
    }
    case 'date':
      return readOdsDate(attributes['office:date-value'] ?? '', shown);
    case 'time':
      return timeOf(plainDuration(attributes['office:time-value'] ?? 'PT0S'), shown);
    case 'boolean':
      return {
        text: shown || (attributes['office:boolean-value'] ?? '').toUpperCase(),
        exact: `b:${attributes['office:boolean-value'] === 'true'}`,
      };
    default:
      return {
        text: attributes['office:string-value'] && shown === '' ? attributes['office:string-value'] : shown,
      };
  }
}

const isRounded = (shown: string, decimal: string): boolean => shown === '' || shown === decimal;

function readOdsDate(value: string, shown: string): { text: string; exact: Exact } {
  const [date = '', time] = value.split('T');
  const clock = time?.slice(0, 8);
  const exact = clock ? `t:${date}T${clock}` : `d:${date}`;
  // A month's name is the same everywhere; numbers do not say which way round they are.
  if (/\p{L}{3}/u.test(shown)) return { text: shown, exact };
  return { text: clock ? `${date} ${clock.slice(0, 5)}` : date, exact };
}

function timeOf(duration: string, shown: string): { text: string; exact: Exact } {
  const [, sign, h = '0', m = '0'] = /^(-?)PT(?:(\d+)H)?(?:(\d+)M)?/.exec(duration) ?? [];
  return { text: shown || `${sign}${h.padStart(2, '0')}:${m.padStart(2, '0')}`, exact: `u:${duration}` };
}

/** `PT09H05M00S` is `PT9H5M`. */
function plainDuration(duration: string): string {
  const [, sign = '', h = '0', m = '0', s = '0'] =
    /^(-?)PT(?:(\d+)H)?(?:(\d+)M)?(?:(\d+)(?:[.,]\d+)?S)?$/.exec(duration) ?? [];
  const parts = `${Number(h) ? `${Number(h)}H` : ''}${Number(m) ? `${Number(m)}M` : ''}${Number(s) ? `${Number(s)}S` : ''}`;
  return `${sign}PT${parts || '0S'}`;
}
