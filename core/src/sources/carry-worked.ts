import { type Column, inputsOf } from '../column/index.js';

/**
 * The worked columns that a new sheet leaves possible: those that only stand on columns which the sheet has too, or on each
 * other. Columns that were added by hand come along, without their cells, where one of them stands on them.
 *
 * @param before the columns of the roll that goes.
 * @param now the columns of the new sheet, with the identities that were kept.
 * @returns the columns to stand behind those of the sheet, in their order.
 */
export function carryWorked(before: readonly Column[], now: readonly Column[]): Column[] {
  const present = new Set(now.map(({ id }) => id));
  const titles = new Set(now.map(({ title }) => title));
  let carried = before.filter(
    ({ id, sourceId, title }) => sourceId === undefined && !present.has(id) && !titles.has(title),
  );
  for (let count = -1; count !== carried.length;) {
    count = carried.length;
    const known = new Set([...present, ...carried.map(({ id }) => id)]);
    carried = carried.filter(({ worked }) => !worked || inputsOf(worked).every((id) => known.has(id)));
  }
  const needed = new Set(carried.flatMap(({ worked }) => (worked ? inputsOf(worked) : [])));
  return carried.filter(({ id, worked }) => worked || needed.has(id));
}
