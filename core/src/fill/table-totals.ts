import { printValue, type FillFormat } from '../column/index.js';
import { decimalOf, mean, ratio, sum, type Ratio } from '../marks/index.js';
import type { TableColumn } from '../template/index.js';
import type { BareCell, BareRow } from './filled.js';

const BLANK: BareCell = { text: '', value: { kind: 'blank' } };

/** The row below the others with what its columns come to; none where no column is added up. Exact until it is printed. */
export function totalsOf(
  rows: readonly BareRow[],
  columns: readonly TableColumn[],
  language: string,
): BareRow[] {
  if (columns.every(({ total }) => total === undefined)) return [];
  const cells = columns.map(({ total, format }, n): BareCell => {
    if (!total) return BLANK;
    const values = rows.flatMap(({ cells, strong }) => {
      const { value } = cells[n]!;
      return value.kind === 'number' && !strong ? [ratio(value.decimal)] : [];
    });
    const whole: Ratio | null = values.length === 0 ? null : total === 'sum' ? sum(values) : mean(values);
    if (whole === null) return BLANK;
    const value = { kind: 'number' as const, decimal: decimalOf(whole) };
    return { value, text: printValue(value, format ?? likeThose(values), language) ?? value.decimal };
  });
  return [{ cells, strong: true }];
}

/** A total has as many decimals as the number with the most of them. */
function likeThose(values: readonly Ratio[]): FillFormat {
  const most = Math.min(4, Math.max(...values.map((value) => decimalOf(value).split('.')[1]?.length ?? 0)));
  return { kind: 'number', least: most, most, thousands: true, plus: false, unit: '' };
}
