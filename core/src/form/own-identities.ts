import { columnIdsOf } from './given.js';
import type { Form } from './form.js';

/** Where identities stand in a form. */
const NAMING: ReadonlySet<string> = new Set([
  'id',
  'givenId',
  'familyId',
  'columnId',
  'assetId',
  'onceBy',
  'stampId',
  'copyTo',
  'right',
]);

/**
 * A form whose questions and choices have identities of their own, so that its answers are told from those of the one that it was
 * copied from. Columns that the roll had before are no longer named.
 *
 * @param newId gives a new identity at each call.
 * @param pictures the new identities of pictures by the old ones; a picture that is not among them stays.
 */
export function withOwnIdentities(
  form: Form,
  newId: () => string,
  pictures: ReadonlyMap<string, string> = new Map(),
): Form {
  const ids = new Map<string, string>();
  const own = (id: string): string => {
    const known = ids.get(id) ?? newId();
    ids.set(id, known);
    return known;
  };
  for (const item of form.items) {
    own(item.id);
    for (const id of columnIdsOf(item)) if (!('columnId' in item && item.columnId === id)) own(id);
    if ('choices' in item) for (const { id } of item.choices) own(id);
  }
  const copied = (value: unknown, key = ''): unknown => {
    if (typeof value === 'string')
      return NAMING.has(key) ? (ids.get(value) ?? pictures.get(value) ?? value) : value;
    if (Array.isArray(value)) return value.map((inside) => copied(inside, key));
    if (typeof value !== 'object' || value === null) return value;
    return Object.fromEntries(Object.entries(value).map(([inner, inside]) => [inner, copied(inside, inner)]));
  };
  const copy = copied(form) as Form;
  return { ...copy, items: copy.items.map(({ columnId: _, ...item }) => item as Form['items'][number]) };
}
