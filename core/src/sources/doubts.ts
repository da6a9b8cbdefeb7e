import { plainTitle } from '../column/index.js';
import { nameColumns, type Roll } from '../roll/index.js';
import type { Reading, Sheet } from '../table/index.js';
import { planJoin, type JoinSpec } from './join.js';
import type { RefreshPlan } from './refresh.js';

/** Why somebody had better look at a newer version before it is taken over. */
export type VersionDoubt =
  /** None of the titles is there. */
  | { readonly kind: 'titles' }
  /** Columns that the source had are not there any more, or are called otherwise. */
  | { readonly kind: 'columns'; readonly titles: readonly string[] }
  /** Many learners are not there any more. */
  | { readonly kind: 'missing'; readonly count: number; readonly of: number }
  /** Names or addresses of many learners are others. */
  | { readonly kind: 'people'; readonly count: number; readonly of: number };

/** So many may always be missing, or be called otherwise. */
const FEW = 2;
/** Above that, so large a share of all. */
const SHARE = 0.1;

const areMany = (count: number, of: number): boolean => count > Math.max(FEW, of * SHARE);

/** A version of a file as it was read. */
export interface ReadVersion {
  readonly reading: Reading;
  readonly sheet: Sheet;
}

/**
 * What speaks against taking a newer version over where nobody looks: a list that was cut off, a sheet of something else, or columns that
 * were sorted apart from each other leave people without papers, or write to wrong families. Common practice, no published source.
 *
 * @param before the version that is on the roll.
 * @param now the newer one, read after the one before it (`readingLike`).
 * @returns what is most serious; null where it can be taken.
 */
export function doubtOfRefresh(
  roll: Roll,
  sourceId: string,
  before: ReadVersion,
  now: ReadVersion,
  plan: RefreshPlan,
): VersionDoubt | null {
  const titles = doubtOfTitles(before, now);
  if (titles) return titles;
  const absent = new Set(plan.missing);
  // Who was gone before is no news.
  const known = roll.entries.filter(({ id, gone }) => !gone && (plan.rows.has(id) || absent.has(id)));
  const missing = known.filter(({ id }) => absent.has(id)).length;
  if (areMany(missing, known.length)) return { kind: 'missing', count: missing, of: known.length };
  const people = new Set(peopleColumns(roll, sourceId));
  const others = new Set(
    [...plan.changes, ...plan.conflicts]
      .filter(({ columnId, before: was }) => people.has(columnId) && was.trim() !== '')
      .map(({ entryId }) => entryId),
  ).size;
  return areMany(others, known.length) ? { kind: 'people', count: others, of: known.length } : null;
}

/** The same for a newer version of a joined sheet. */
export function doubtOfJoin(
  roll: Roll,
  spec: JoinSpec,
  before: ReadVersion,
  now: ReadVersion,
): VersionDoubt | null {
  const titles = doubtOfTitles(before, now);
  if (titles) return titles;
  const matched = planJoin(roll, before.sheet, spec).rows;
  const still = planJoin(roll, now.sheet, spec).rows;
  const lost = [...matched.keys()].filter((id) => !still.has(id)).length;
  return areMany(lost, matched.size) ? { kind: 'missing', count: lost, of: matched.size } : null;
}

function doubtOfTitles(before: ReadVersion, now: ReadVersion): VersionDoubt | null {
  const there = new Set(now.sheet.columns.map(({ title }) => plainTitle(title)));
  const titles = before.sheet.columns.map(({ title }) => title);
  const gone = titles.filter((title) => !there.has(plainTitle(title)));
  if (gone.length === titles.length) return { kind: 'titles' };
  return gone.length > 0 ? { kind: 'columns', titles: gone } : null;
}

/** The source's columns of names and addresses. */
function peopleColumns(roll: Roll, sourceId: string): string[] {
  const own = roll.columns.filter((column) => column.sourceId === sourceId && !column.summary);
  const names = new Set(nameColumns(own).map(({ id }) => id));
  return own.filter(({ id, type }) => names.has(id) || type === 'email').map(({ id }) => id);
}
