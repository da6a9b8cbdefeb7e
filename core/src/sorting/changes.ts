import type { Entry } from '../roll/index.js';
import type { GivenTemplate } from '../template/index.js';
import type { Sorted, Sorter } from './sorter.js';

/** One entry that gets something else. */
export interface SortingChange<T> {
  readonly entry: Entry;
  readonly before: Sorted<T>;
  readonly after: Sorted<T>;
}

/** Whose papers another sorting would change: who gets papers of other templates, or is left out for another reason. */
export function changesOf<T extends GivenTemplate>(
  entries: readonly Entry[],
  before: Sorter<T>,
  after: Sorter<T>,
): SortingChange<T>[] {
  return entries.flatMap((entry) => {
    const [one, other] = [before(entry), after(entry)];
    const same =
      one.leftOut === other.leftOut &&
      one.templates.length === other.templates.length &&
      one.templates.every(({ id }, n) => other.templates[n]!.id === id);
    return same ? [] : [{ entry, before: one, after: other }];
  });
}
