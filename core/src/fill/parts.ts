import { holds } from '../condition/index.js';
import type { Column } from '../column/index.js';
import type { Entry } from '../roll/index.js';
import type { TextPart } from '../template/index.js';

/** What is printed for a part that stands, and for one that does not: kept with a paper as its values are. */
const STANDS = 'stands';
const OUT = '';

/** Whether each part stands in an entry's paper, by the part's identity, as values that are printed. */
export const filledParts = (
  parts: readonly TextPart[],
  entry: Entry,
  columns: readonly Column[],
): Readonly<Record<string, string>> =>
  Object.fromEntries(
    parts.map(({ id, if: condition }) => [id, holds(condition, entry, columns) ? STANDS : OUT]),
  );

/** True for a part that stands; one that nothing is said of stands too. */
export const standsIn = (values: Readonly<Record<string, unknown>>, partId: string): boolean =>
  values[partId] !== OUT;
