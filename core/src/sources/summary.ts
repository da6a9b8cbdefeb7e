import { decimalText, readExact, readMoment, readNumber, readPercentage } from '../column/index.js';
import type { Sheet } from '../table/index.js';

/**
 * One text made of a column over some rows of a sheet.
 *
 * `count`: how many of the rows have the cell filled, or how many rows there are where `of` is blank. `sum` and `mean`: of the
 * cells that are numbers; blank where none is. `latest`: the cell of the row with the latest date in the sheet's first
 * column of dates, of the last row where it has none. `list`: the filled cells, each once, with commas between them.
 */
export function summarise(
  sheet: Sheet,
  rows: readonly number[],
  of: string,
  how: 'count' | 'sum' | 'mean' | 'latest' | 'list',
): string {
  const at = sheet.columns.findIndex((column) => column.title === of);
  const cell = (row: number): string => (at < 0 ? '' : (sheet.rows[row]![at] ?? '')).trim();
  switch (how) {
    case 'count':
      return String(at < 0 ? rows.length : rows.filter((row) => cell(row) !== '').length);
    case 'sum':
    case 'mean': {
      const numbers = rows.map((row) => numberAt(sheet, row, at)).filter((n) => n !== null);
      if (numbers.length === 0) return '';
      const sum = numbers.reduce((total, n) => total + n, 0);
      return decimalText(how === 'sum' ? sum : sum / numbers.length);
    }
    case 'latest':
      return latest(sheet, rows, cell);
    case 'list':
      return [...new Set(rows.map(cell).filter(Boolean))].join(', ');
  }
}

function numberAt(sheet: Sheet, row: number, at: number): number | null {
  if (at < 0) return null;
  const exact = sheet.exact[row]?.[at];
  const known = exact === undefined ? undefined : readExact(exact);
  if (known?.kind === 'n' || known?.kind === 'p') return Number(known.value);
  const text = sheet.rows[row]![at] ?? '';
  const decimal = sheet.columns[at]!.format?.decimal;
  const read = readNumber(text, decimal) ?? readPercentage(text, decimal);
  return read === null ? null : Number(read);
}

function latest(sheet: Sheet, rows: readonly number[], cell: (row: number) => string): string {
  const dates = sheet.columns.findIndex(({ type }) => type === 'date' || type === 'date-time');
  const filled = rows.filter((row) => cell(row) !== '');
  if (filled.length === 0) return '';
  if (dates < 0) return cell(filled.at(-1)!);
  const moment = (row: number): string => {
    const exact = sheet.exact[row]?.[dates];
    if (exact && /^[dt]:/.test(exact)) return exact.slice(2);
    return readMoment(sheet.rows[row]![dates] ?? '', sheet.columns[dates]!.format?.dateOrder)?.iso ?? '';
  };
  return cell(filled.reduce((best, row) => (moment(row) >= moment(best) ? row : best)));
}
