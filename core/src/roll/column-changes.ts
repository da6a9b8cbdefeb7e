import { z } from 'zod';
import { Column, Identity } from '../column/index.js';
import { refuse, succeed, type Result } from '../table/index.js';

/** Behind which column another one stands; null at the beginning. */
const Behind = Identity.nullable();

/**
 * One change of the columns. What is changed or taken out says how it was seen, so that a change that others made meanwhile
 * is not undone by it.
 */
export const ColumnChange = z.discriminatedUnion('do', [
  z.object({ do: z.literal('set'), column: Column, was: Column }),
  z.object({ do: z.literal('add'), column: Column, behind: Behind }),
  z.object({ do: z.literal('remove'), was: Column }),
  z.object({ do: z.literal('move'), columnId: Identity, behind: Behind }),
]);
export type ColumnChange = z.infer<typeof ColumnChange>;

/**
 * Makes changes to columns, which others may have changed since the changes were thought of. Those that touch other columns
 * stay; of a column that is gone nothing is moved or taken out any more.
 *
 * @returns a refusal `column-changed-elsewhere` where both changed the same column in different ways.
 */
export function changeColumns(
  columns: readonly Column[],
  changes: readonly ColumnChange[],
): Result<Column[]> {
  const now = [...columns];
  const placeOf = (id: string): number => now.findIndex((column) => column.id === id);
  /** Behind a column that is gone is at the end. */
  const placeBehind = (id: string | null): number => {
    if (id === null) return 0;
    const at = placeOf(id);
    return at < 0 ? now.length : at + 1;
  };
  for (const change of changes) {
    switch (change.do) {
      case 'set': {
        const at = placeOf(change.column.id);
        const there = now[at];
        if (!there || !(same(there, change.was) || same(there, change.column)))
          return changedElsewhere(change.column);
        now[at] = change.column;
        break;
      }
      case 'add': {
        const there = now[placeOf(change.column.id)];
        // It came already, and only the answer was lost.
        if (there && same(there, change.column)) break;
        if (there) return changedElsewhere(change.column);
        now.splice(placeBehind(change.behind), 0, change.column);
        break;
      }
      case 'remove': {
        const at = placeOf(change.was.id);
        if (at < 0) break;
        if (!same(now[at]!, change.was)) return changedElsewhere(now[at]!);
        now.splice(at, 1);
        break;
      }
      case 'move': {
        const at = placeOf(change.columnId);
        if (at < 0 || change.behind === change.columnId) break;
        if (change.behind !== null && placeOf(change.behind) < 0) break;
        const [column] = now.splice(at, 1);
        now.splice(placeBehind(change.behind), 0, column!);
        break;
      }
    }
  }
  return succeed(now);
}

/** The changes that make one list of columns of another one; none where they say the same. */
export function columnChanges(before: readonly Column[], after: readonly Column[]): ColumnChange[] {
  const old = new Map(before.map((column, at) => [column.id, { column, at }]));
  const kept = new Set(after.map(({ id }) => id));
  const changes: ColumnChange[] = [];
  for (const was of before) if (!kept.has(was.id)) changes.push({ do: 'remove', was });
  for (const column of after) {
    const was = old.get(column.id)?.column;
    if (was && was !== column && !same(was, column)) changes.push({ do: 'set', column, was });
  }
  const staying = inOrder(after.flatMap(({ id }) => old.get(id)?.at ?? []));
  let behind: string | null = null;
  for (const column of after) {
    const known = old.get(column.id);
    if (!known) changes.push({ do: 'add', column, behind });
    else if (!staying.has(known.at)) changes.push({ do: 'move', columnId: column.id, behind });
    behind = column.id;
  }
  return changes;
}

/** The same changes by whoever has seen the columns as they are now, and wants their own all the same. */
export function insistOn(changes: readonly ColumnChange[], columns: readonly Column[]): ColumnChange[] {
  const now = new Map(columns.map((column) => [column.id, column]));
  return changes.map((change): ColumnChange => {
    if (change.do === 'set') {
      const was = now.get(change.column.id);
      return was
        ? { ...change, was }
        : { do: 'add', column: change.column, behind: columns.at(-1)?.id ?? null };
    }
    if (change.do === 'add') {
      const was = now.get(change.column.id);
      return was ? { do: 'set', column: change.column, was } : change;
    }
    if (change.do === 'remove') return { ...change, was: now.get(change.was.id) ?? change.was };
    return change;
  });
}

/** The most of the numbers that stand in rising order: a longest increasing subsequence, by patience sorting. */
function inOrder(numbers: readonly number[]): Set<number> {
  const tops: number[] = [];
  const before = new Map<number, number | undefined>();
  for (const number of numbers) {
    const pile = tops.findIndex((top) => top > number);
    const at = pile < 0 ? tops.length : pile;
    before.set(number, tops[at - 1]);
    tops[at] = number;
  }
  const chosen = new Set<number>();
  for (let one = tops.at(-1); one !== undefined; one = before.get(one)) chosen.add(one);
  return chosen;
}

const changedElsewhere = ({ title }: Column): Result<never> => refuse('column-changed-elsewhere', { title });

/** Equal in all that is kept, in whatever order. */
const same = (a: Column, b: Column): boolean => a === b || plain(a) === plain(b);

const plain = (column: Column): string =>
  JSON.stringify(column, (_, value: unknown) =>
    value !== null && typeof value === 'object' && !Array.isArray(value)
      ? Object.fromEntries(Object.entries(value).sort(([a], [b]) => (a < b ? -1 : 1)))
      : value,
  );
