import type { Entry } from '../roll/index.js';
import type { Sorter } from './sorter.js';

/** Whom a rule takes now. */
export interface RuleCount {
  /** Those for whom it decides, or to whom it gives something beside. */
  readonly entries: readonly Entry[];
  /** Those whom it would take too, had not an earlier rule decided. */
  readonly overtaken: readonly Entry[];
}

/**
 * Whom each rule takes, in the order of the rules, and who gets nothing without being left out by one.
 *
 * @param rules how many there are.
 */
export function countsOf(
  entries: readonly Entry[],
  sorted: Sorter<unknown>,
  rules: number,
): { readonly rules: readonly RuleCount[]; readonly without: readonly Entry[] } {
  const counts = Array.from({ length: rules }, () => ({
    entries: [] as Entry[],
    overtaken: [] as Entry[],
  }));
  const without: Entry[] = [];
  for (const entry of entries) {
    const { templates, by, also, overtaken, leftOut } = sorted(entry);
    if (by !== null) counts[by]!.entries.push(entry);
    for (const place of also) counts[place]!.entries.push(entry);
    for (const place of overtaken) counts[place]!.overtaken.push(entry);
    if (templates.length === 0 && leftOut === null) without.push(entry);
  }
  return { rules: counts, without };
}
