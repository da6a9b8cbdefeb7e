import { refuse, succeed, type Column, type Result } from '../table/index.js';

/**
 * The columns after somebody's change, where others may have changed columns since they were looked at. What was not changed
 * here stays as it is now; columns that came meanwhile stay, and those that went stay gone.
 *
 * @param now the columns as they are.
 * @param before the columns as whoever made the change saw them.
 * @param after the columns as they shall be.
 * @returns a refusal `column-changed-elsewhere` where both changed the same column.
 */
export function mergeColumns(
  now: readonly Column[],
  before: readonly Column[],
  after: readonly Column[],
): Result<Column[]> {
  if (sameList(now, before)) return succeed([...after]);
  const present = new Map(now.map((column) => [column.id, column]));
  const seen = new Map(before.map((column) => [column.id, column]));
  const kept = new Set(after.map(({ id }) => id));
  const merged: Column[] = [];
  for (const mine of after) {
    const old = seen.get(mine.id);
    const theirs = present.get(mine.id);
    const untouched = old !== undefined && same(mine, old);
    if (!old || !theirs) {
      // New here, or gone meanwhile.
      if (!old) merged.push(mine);
      else if (!untouched) return changedElsewhere(mine);
    } else if (untouched) merged.push(theirs);
    else if (same(theirs, old) || same(theirs, mine)) merged.push(mine);
    else return changedElsewhere(mine);
  }
  for (const [at, theirs] of now.entries()) {
    if (kept.has(theirs.id)) continue;
    const old = seen.get(theirs.id);
    if (old && !same(old, theirs)) return changedElsewhere(theirs);
    // Taken out here.
    if (old) continue;
    const behind = now.slice(0, at).findLast(({ id }) => merged.some((one) => one.id === id));
    const place = behind ? merged.findIndex(({ id }) => id === behind.id) + 1 : merged.length;
    merged.splice(place, 0, theirs);
  }
  return succeed(merged);
}

const changedElsewhere = ({ title }: Column): Result<never> =>
  refuse(
    'column-changed-elsewhere',
    `“${title}” was changed by somebody else, or in another window, meanwhile. Look at it as it is now, and make the change again.`,
  );

const sameList = (a: readonly Column[], b: readonly Column[]): boolean =>
  a.length === b.length && a.every((column, n) => column === b[n] || same(column, b[n]!));

/** Equal in all that is kept, in whatever order. */
const same = (a: Column, b: Column): boolean => a === b || plain(a) === plain(b);

const plain = (column: Column): string =>
  JSON.stringify(column, (_, value: unknown) =>
    value !== null && typeof value === 'object' && !Array.isArray(value)
      ? Object.fromEntries(Object.entries(value).sort(([a], [b]) => (a < b ? -1 : 1)))
      : value,
  );
