import { readFormula } from '@scriptum/core/marks';
import { Column } from '@scriptum/core/column';
import { newId } from '../store/id.js';

/**
 * Reads worked columns that are written by titles: `@Title` is the column of that title, `#name` an identity of its own, and
 * a formula is a text with titles in square brackets.
 *
 * @param columns the columns that there are; the new ones come behind them.
 */
export function readWorked(json: string, columns: readonly Column[]): Column[] {
  const all = [...columns];
  const ids = new Map<string, string>();
  const ownId = (name: string): string => {
    const id = ids.get(name) ?? newId();
    ids.set(name, id);
    return id;
  };
  const resolve = (value: unknown, key: string): unknown => {
    if (Array.isArray(value)) return value.map((item) => resolve(item, key));
    if (typeof value === 'object' && value !== null)
      return Object.fromEntries(Object.entries(value).map(([name, inner]) => [name, resolve(inner, name)]));
    if (typeof value !== 'string') return value;
    if (key === 'formula') {
      const read = readFormula(value, all);
      if (!read.ok) throw new Error(`worked.json: ${read.problem.message}`);
      return read.value;
    }
    if (value.startsWith('#')) return value === '#' ? value : ownId(value);
    if (!value.startsWith('@')) return value;
    const column = all.find(({ title }) => title === value.slice(1));
    if (!column) throw new Error(`worked.json: there is no column “${value.slice(1)}”.`);
    return column.id;
  };
  for (const column of (JSON.parse(json) as { columns: object[] }).columns)
    all.push(Column.parse({ id: newId(), ...(resolve(column, '') as object) }));
  return all;
}
