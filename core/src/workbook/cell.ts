import { format as formatNumber, getFormatInfo } from 'numfmt';
import { decimalText, serialDuration, serialMoment, type Exact } from '../column/index.js';

/** A cell as the reader gives it: type, value, number format, shown text. */
export interface ReaderCell {
  readonly t?: string;
  readonly v?: string | number | boolean | Date;
  readonly w?: string;
  readonly z?: string | number;
  readonly f?: string;
}

export interface ReadCell {
  readonly text: string;
  readonly exact?: Exact;
}

/** ECMA-376 Part 1, 18.17.3: the error values; the reader gives them by the numbers of [MS-XLS] 2.5.10. */
const ERRORS: Readonly<Record<number, string>> = {
  0x00: '#NULL!',
  0x07: '#DIV/0!',
  0x0f: '#VALUE!',
  0x17: '#REF!',
  0x1d: '#NAME?',
  0x24: '#NUM!',
  0x2a: '#N/A',
  0x2b: '#GETTING_DATA',
};

/** True for a formula whose result was not saved. */
export const isUnworked = ({ f, v }: ReaderCell): boolean => f !== undefined && v === undefined;

/**
 * The text and the exact value of a workbook's cell. The text is what the sheet shows, with two differences: a general
 * number has all its digits, and a date in a format that changes with the reader's country is written as ISO 8601.
 */
export function readCell(cell: ReaderCell | undefined, system: 1900 | 1904): ReadCell {
  if (!cell || cell.v === undefined || cell.t === 'z') return { text: '' };
  switch (cell.t) {
    case 'n':
      return readNumberCell(
        typeof cell.v === 'number' ? cell.v : serialOf(String(cell.v)),
        String(cell.z ?? 'General'),
        cell.w,
        system,
      );
    case 'b':
      return { text: cell.v ? 'TRUE' : 'FALSE', exact: `b:${cell.v ? 'true' : 'false'}` };
    case 'e':
      return { text: '', exact: `e:${cell.w ?? ERRORS[Number(cell.v)] ?? '#VALUE!'}` };
    case 'd': {
      const iso = cell.v instanceof Date ? cell.v.toISOString().slice(0, 10) : String(cell.v).slice(0, 10);
      return { text: iso, exact: `d:${iso}` };
    }
    default:
      return { text: String(cell.v) };
  }
}

/** A time of 2003 XML, which counts hours from 31 December 1899 on, more than a day too (`1899-12-31T26:05:00.000`). */
function serialOf(written: string): number {
  const [, date, h, m, s] = /^(\d{4}-\d\d-\d\d)T(\d+):(\d\d):(\d\d(?:\.\d+)?)/.exec(written) ?? [];
  if (date === undefined) return NaN;
  const days =
    (Date.parse(`${date}T00:00:00Z`) - Date.UTC(1899, 11, date < '1900-03-01' ? 31 : 30)) / 86_400_000;
  return days + (Number(h) * 3600 + Number(m) * 60 + Number(s)) / 86_400;
}

function readNumberCell(
  value: number,
  format: string,
  shown: string | undefined,
  system: 1900 | 1904,
): ReadCell {
  if (!Number.isFinite(value)) return { text: '', exact: 'e:#NUM!' };
  const decimal = decimalText(value);
  const known = formatOf(format);
  const { kind } = known;
  if (kind === 'general') return plainCell(decimal);
  const text = (shown ?? write(known, value, system))?.trim();
  if (kind === 'duration') {
    const exact = `u:${serialDuration(value)}`;
    return { text: text || clockOf(value), exact };
  }
  if (kind === 'date' || kind === 'date-time') {
    const moment = serialMoment(value, system);
    // Shown as hashes, or not at all, in the sheet as well.
    if (!moment) return plainCell(decimal);
    const iso = kind === 'date' ? moment.date : `${moment.date}T${moment.time}`;
    const written = kind === 'date' ? moment.date : `${moment.date} ${moment.time.slice(0, 5)}`;
    return {
      text: known.namesMonth && text ? text : written,
      exact: `${kind === 'date' ? 'd' : 't'}:${iso}`,
    };
  }
  if (kind === 'percentage') {
    const percent = decimalText(value * 100);
    return { text: text ?? `${percent}%`, exact: `p:${percent}` };
  }
  // A format with sections for signs may show nothing, or words, for a number.
  return text === undefined || text === decimal ? plainCell(decimal) : { text, exact: `n:${decimal}` };
}

/** A number is never read again with the decimal sign of the texts beside it. */
const plainCell = (decimal: string): ReadCell =>
  decimal.includes('.') ? { text: decimal, exact: `n:${decimal}` } : { text: decimal };

/** Hours and minutes of a number of days, where the format shows none. */
function clockOf(value: number): string {
  const minutes = Math.round(Math.abs(value) * 1440);
  return `${value < 0 ? '-' : ''}${Math.floor(minutes / 60)}:${String(minutes % 60).padStart(2, '0')}`;
}

type Kind = 'general' | 'date' | 'date-time' | 'duration' | 'percentage' | 'number';

/** What is known of a number format. */
interface Format {
  readonly kind: Kind;
  /** Its form that the formatter knows. */
  readonly main: string;
  /** A format with the month's name shows the same day everywhere; one of numbers does not say which way round it is. */
  readonly namesMonth: boolean;
}
const FORMATS = new Map<string, Format>();
const KIND_OF: Readonly<Record<string, Kind>> = {
  text: 'general',
  percent: 'percentage',
  date: 'date',
  datetime: 'date-time',
  time: 'duration',
};

/** What a number format (ECMA-376 Part 1, 18.8.31) makes of a number. */
function formatOf(written: string): Format {
  let format = FORMATS.get(written);
  if (!format) {
    format = {
      kind: /^\s*(?:general|@)?\s*$/i.test(written) ? 'general' : (KIND_OF[typeOf(written)] ?? 'number'),
      main: inMainForm(written),
      namesMonth: /mmm/i.test(written) && !/\[\$-(?:F|x-sys)/i.test(written) && /[dy]/i.test(written),
    };
    if (FORMATS.size > 2000) FORMATS.clear();
    FORMATS.set(written, format);
  }
  return format;
}

function typeOf(format: string): string {
  try {
    return getFormatInfo(format).type;
  } catch {
    return 'error';
  }
}

/** Days between the beginnings of the two systems (ECMA-376 Part 1, 18.17.4.1). */
const LATER = 1462;

/** Languages of which every country's form has the names of the main one ([MS-LCID]: the lower ten bits). */
const MAIN = new Set([0x01, 0x07, 0x09, 0x0a, 0x0c, 0x10, 0x13]);

/** The format with the main form of its language, which the formatter knows. */
const inMainForm = (format: string): string =>
  format.replace(/\[\$([^-\]]*)-([\da-f]{3,4})\]/gi, (written, sign: string, hex: string) => {
    const language = Number.parseInt(hex, 16) & 0x3ff;
    return MAIN.has(language) ? `[$${sign}-${(0x400 | language).toString(16)}]` : written;
  });

/** The number as its format shows it, with names and signs of the format's language; undefined where that cannot be told. */
function write({ kind, main }: Format, value: number, system: 1900 | 1904): string | undefined {
  const later = system === 1904 && (kind === 'date' || kind === 'date-time');
  try {
    return formatNumber(main, later ? value + LATER : value, STRICT);
  } catch {
    return undefined;
  }
}

const STRICT = { throws: true };
