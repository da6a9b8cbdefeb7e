import { type Column, freeTitle } from '../column/index.js';

/**
 * The columns of forms that a new sheet does not have: people answer them whatever the roll is made from.
 *
 * @param before the columns of the roll that goes.
 * @param now the columns of the new sheet, with the identities that were kept.
 * @param forms identities of the forms.
 * @returns the columns to stand behind those of the sheet, in their order.
 */
export function carryForms(
  before: readonly Column[],
  now: readonly Column[],
  forms: ReadonlySet<string>,
): Column[] {
  const present = new Set(now.map(({ id }) => id));
  const titles = new Set(now.map(({ title }) => title));
  return before
    .filter(({ id, sourceId }) => sourceId !== undefined && forms.has(sourceId) && !present.has(id))
    .map((column) => {
      const title = freeTitle(column.title, titles);
      titles.add(title);
      return title === column.title ? column : { ...column, title };
    });
}
