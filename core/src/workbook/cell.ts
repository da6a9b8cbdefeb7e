import { SSF } from '@e965/xlsx';
import { decimalText, serialDuration, serialMoment, type Exact } from '../table/index.js';

/** A cell as the reader gives it: type, value, number format, shown text. */
export interface ReaderCell {
  readonly t?: string;
  readonly v?: string | number | boolean | Date;
  readonly w?: string;
  readonly z?: string | number;
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

/**
 * The text and the exact value of a workbook's cell. The text is what the sheet shows, with two differences: a general
 * number has all its digits, and a date in a format that changes with the reader's country is written as ISO 8601.
 */
export function readCell(cell: ReaderCell | undefined, system: 1900 | 1904): ReadCell {
  if (!cell || cell.v === undefined || cell.t === 'z') return { text: '' };
  switch (cell.t) {
    case 'n':
      return typeof cell.v === 'number'
        ? readNumberCell(cell.v, String(cell.z ?? 'General'), cell.w, system)
        : { text: '' };
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

function readNumberCell(
  value: number,
  format: string,
  shown: string | undefined,
  system: 1900 | 1904,
): ReadCell {
  if (!Number.isFinite(value)) return { text: '', exact: 'e:#NUM!' };
  const kind = kindOf(format);
  if (kind === 'general') return { text: decimalText(value) };
  const text = (shown ?? write(format, value, system)).trim();
  if (kind === 'duration') return { text, exact: `u:${serialDuration(value)}` };
  if (kind === 'date' || kind === 'date-time') {
    const moment = serialMoment(value, system);
    // Shown as hashes, or not at all, in the sheet as well.
    if (!moment) return { text: text || decimalText(value) };
    const iso = kind === 'date' ? moment.date : `${moment.date}T${moment.time}`;
    const plain = kind === 'date' ? moment.date : `${moment.date} ${moment.time.slice(0, 5)}`;
    return {
      text: namesMonth(format) && text ? text : plain,
      exact: `${kind === 'date' ? 'd' : 't'}:${iso}`,
    };
  }
  if (kind === 'percentage') return { text, exact: `p:${decimalText(value * 100)}` };
  const decimal = decimalText(value);
  // A format with sections for signs may show nothing, or words, for a number.
  return text === decimal ? { text } : { text, exact: `n:${decimal}` };
}

const KINDS = new Map<string, 'general' | 'date' | 'date-time' | 'duration' | 'percentage' | 'number'>();

/** What a number format (ECMA-376 Part 1, 18.8.31) makes of a number. */
function kindOf(format: string): 'general' | 'date' | 'date-time' | 'duration' | 'percentage' | 'number' {
  let kind = KINDS.get(format);
  if (kind) return kind;
  const bare = format
    .split(';')[0]!
    .replace(/"[^"]*"|\\.|_.|\*./g, '')
    .replace(/\[(?!h+\]|m+\]|s+\])[^\]]*\]/gi, '');
  if (/^(general|@)?$/i.test(bare.trim())) kind = 'general';
  else if (/\[[hms]+\]/i.test(bare)) kind = 'duration';
  else if (SSF.is_date(format)) {
    const time = /[hs]/i.test(bare);
    const date = /[dye]/i.test(bare) || (/m/i.test(bare) && !time);
    kind = date ? (time ? 'date-time' : 'date') : 'duration';
  } else kind = bare.includes('%') ? 'percentage' : 'number';
  if (KINDS.size > 2000) KINDS.clear();
  KINDS.set(format, kind);
  return kind;
}

/** A format with the month's name shows the same day everywhere; one of numbers does not say which way round it is. */
const namesMonth = (format: string): boolean =>
  /mmm/i.test(format) && !/\[\$-F/i.test(format) && /[dy]/i.test(format);

function write(format: string, value: number, system: 1900 | 1904): string {
  try {
    return String(SSF.format(format, value, { date1904: system === 1904 }));
  } catch {
    return decimalText(value);
  }
}
