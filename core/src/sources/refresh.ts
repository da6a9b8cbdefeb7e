import { z } from 'zod';
import { type Column, freeTitle, plainTitle } from '../column/index.js';
import type { Sheet } from '../table/index.js';
import { tidyEntry, entryOf, valueOf, type Entry, type Roll, type SourceCell } from '../roll/index.js';
import { pairByCells, pairByTitle, pairEntries, sourceCell } from './refresh-pairs.js';

/** What people decide about a newer version of a source. */
export const RefreshDecisions = z.object({
  /** Which column of the roll a column of the newer sheet is, by the sheet's titles; null for a new one. */
  columns: z.record(z.string(), z.string().nullable()).optional(),
  /** What stays where a mended cell changed in the source as well, by `entryId columnId`. */
  conflicts: z.record(z.string(), z.enum(['mine', 'theirs'])).optional(),
  /** What stays where nothing was decided for a cell alone. */
  otherConflicts: z.enum(['mine', 'theirs']).default('mine'),
  /** What becomes of entries that the newer sheet does not have. */
  missing: z.enum(['leave out', 'keep']).default('leave out'),
});
export type RefreshDecisions = z.infer<typeof RefreshDecisions>;

/**
 * One column of the comparison: of the roll, of the newer sheet, or of both. What comes from elsewhere is worked out here or
 * given by another source; the sheet's column of that title is left aside.
 */
export interface ColumnPair {
  readonly columnId: string | null;
  /** 0-based column of the sheet. */
  readonly at: number | null;
  readonly how: 'same' | 'renamed' | 'new' | 'removed' | 'elsewhere';
}

export interface CellDifference {
  readonly entryId: string;
  readonly columnId: string;
  /** What the source said before. */
  readonly before: string;
  /** What it says now. */
  readonly after: string;
}

/** How a newer version of a source differs from what the roll has of it. */
export interface RefreshPlan {
  readonly columns: readonly ColumnPair[];
  /** The row of the newer sheet that each entry is. */
  readonly rows: ReadonlyMap<string, number>;
  readonly added: readonly number[];
  readonly missing: readonly string[];
  readonly changes: readonly CellDifference[];
  /** Cells that were mended here and changed in the source as well; `mine` is the mended text. */
  readonly conflicts: readonly (CellDifference & { readonly mine: string })[];
}

/**
 * Compares a newer version of a source with the roll. Columns are found again by their titles in the source, a renamed
 * one by its cells. Entries are found again by the roll's key; without one by equal rows, then by name and address, then
 * by a name or an address that only one on each side has.
 */
export function planRefresh(
  roll: Roll,
  sheet: Sheet,
  sourceId: string,
  chosen: RefreshDecisions['columns'] = {},
): RefreshPlan {
  const mine = roll.columns.filter((column) => column.sourceId === sourceId && !column.summary);
  const own = [...mine, ...adopted(roll, sheet, mine, chosen)];
  const titled = pairByTitle(own, sheet, chosen);
  const first = pairEntries(roll, sheet, titled);
  const pairs = pairByCells(own, sheet, titled, roll, first, chosen);
  const rows = pairs.size > titled.size ? pairEntries(roll, sheet, pairs) : first;
  const taken = new Set(rows.values());
  const changes: CellDifference[] = [];
  const conflicts: (CellDifference & { mine: string })[] = [];
  for (const entry of roll.entries) {
    const row = rows.get(entry.id);
    if (row === undefined) continue;
    for (const [columnId, at] of pairs) {
      const before = sourceCell(entry, columnId).text;
      const after = sheet.rows[row]![at] ?? '';
      if (before === after) continue;
      const mine = valueOf(entry, columnId);
      if (entry.mends?.[columnId] && mine !== after)
        conflicts.push({ entryId: entry.id, columnId, before, after, mine });
      else changes.push({ entryId: entry.id, columnId, before, after });
    }
  }
  const used = new Set(pairs.values());
  return {
    columns: [
      ...own.map((column): ColumnPair => {
        const at = pairs.get(column.id);
        if (at === undefined) return { columnId: column.id, at: null, how: 'removed' };
        const same = plainTitle(column.sourceTitle ?? column.title) === plainTitle(sheet.columns[at]!.title);
        return { columnId: column.id, at, how: same ? 'same' : 'renamed' };
      }),
      ...sheet.columns.flatMap(({ title }, at): ColumnPair[] => {
        if (used.has(at)) return [];
        const other = chosen[title] === null ? undefined : elsewhere(roll, sourceId, title);
        return [other ? { columnId: other.id, at, how: 'elsewhere' } : { columnId: null, at, how: 'new' }];
      }),
    ],
    rows,
    added: sheet.rows.flatMap((_, row) => (taken.has(row) ? [] : [row])),
    // What was added here, or answered a form, no sheet has.
    missing: roll.entries
      .filter((entry) => !rows.has(entry.id) && !isFromElsewhere(entry))
      .map((entry) => entry.id),
    changes,
    conflicts,
  };
}

/** Columns that people added here, and that the newer sheet has as well: from now on they are the source's. */
function adopted(
  roll: Roll,
  sheet: Sheet,
  mine: readonly Column[],
  chosen: NonNullable<RefreshDecisions['columns']>,
): Column[] {
  const known = new Set(mine.map(({ sourceTitle, title }) => plainTitle(sourceTitle ?? title)));
  const titles = new Set(
    sheet.columns.flatMap(({ title }) =>
      chosen[title] === null || known.has(plainTitle(title)) ? [] : [plainTitle(title)],
    ),
  );
  const points = handColumns(roll);
  return roll.columns.filter(
    ({ id, sourceId, worked, title }) =>
      sourceId === undefined && !worked && !points.has(id) && titles.has(plainTitle(title)),
  );
}

/** The columns that hold points given by hand: they belong to a marking key. */
const handColumns = (roll: Roll): Set<string | undefined> =>
  new Set(
    roll.columns.flatMap(({ worked }) =>
      worked?.kind === 'key' ? worked.questions.map(({ handId }) => handId) : [],
    ),
  );

/** The column of this title that is worked out here, belongs to a key or comes from another source. */
function elsewhere(roll: Roll, sourceId: string, title: string): Column | undefined {
  const points = handColumns(roll);
  return roll.columns.find(
    (column) =>
      plainTitle(column.title) === plainTitle(title) &&
      (column.worked ||
        points.has(column.id) ||
        (column.sourceId ?? sourceId) !== sourceId ||
        column.summary),
  );
}

/** True where the newer version says the same as the roll has. */
export const changesNothing = (plan: RefreshPlan): boolean =>
  plan.changes.length + plan.conflicts.length + plan.added.length + plan.missing.length === 0 &&
  plan.columns.every(({ how }) => how === 'same' || how === 'elsewhere');

/**
 * Takes the newer version over. Mended cells stay where the source did not change; entries that are no longer there
 * stay too, left out with a reason unless they shall be kept in. Identities of columns and entries stay.
 */
export function applyRefresh(
  roll: Roll,
  sheet: Sheet,
  sourceId: string,
  plan: RefreshPlan,
  decisions: RefreshDecisions,
  newId: () => string,
): Roll {
  const { columns, at } = refreshedColumns(roll, sheet, sourceId, plan);
  const byRow = new Map([...plan.rows].map(([entryId, row]) => [row, entryId]));
  const present = new Map(roll.entries.map((entry) => [entry.id, entry]));
  const incoming: Sheet = { ...sheet, columns: sheet.columns.map((column, j) => at.get(j) ?? column) };
  const entries = sheet.rows.map((_, row): Entry => {
    const known = present.get(byRow.get(row) ?? '');
    if (!known) return entryOf(incoming, row, newId(), row);
    const values = { ...known.values };
    const exact = { ...known.exact };
    const mends = { ...known.mends };
    for (const [j, column] of at) {
      const source = cellOf(sheet, row, j);
      const mend = mends[column.id];
      const mine = values[column.id] ?? '';
      const keep =
        mend !== undefined &&
        mine !== source.text &&
        (mend.text === source.text ||
          (decisions.conflicts?.[`${known.id} ${column.id}`] ?? decisions.otherConflicts) === 'mine');
      if (keep) {
        mends[column.id] = source;
        continue;
      }
      delete mends[column.id];
      values[column.id] = source.text;
      if (source.exact === undefined) delete exact[column.id];
      else exact[column.id] = source.exact;
    }
    const { gone, leftOut, byHand: _hand, ...rest } = known;
    // Left out only because it was missing: it is back.
    const out = gone && leftOut === GONE ? undefined : leftOut;
    return tidyEntry({
      ...rest,
      ...(out === undefined ? {} : { leftOut: out }),
      values,
      exact,
      mends,
      position: row,
    });
  });
  const missing = plan.missing.map((id, n): Entry => {
    const entry: Entry = { ...present.get(id)!, position: entries.length + n, gone: true };
    return decisions.missing === 'keep' || entry.leftOut !== undefined ? entry : { ...entry, leftOut: GONE };
  });
  const kept = roll.entries.filter((entry) => isFromElsewhere(entry) && !plan.rows.has(entry.id));
  const last = entries.length + missing.length;
  return {
    ...roll,
    columns,
    entries: [...entries, ...missing, ...kept.map((entry, n) => ({ ...entry, position: last + n }))],
  };
}

const isFromElsewhere = ({ byHand, answered }: Entry): boolean => Boolean(byHand) || answered !== undefined;

/** The reason of an entry that is left out because its source no longer has it. */
export const GONE = 'No longer in the source';

const cellOf = (sheet: Sheet, row: number, j: number): SourceCell => {
  const exact = sheet.exact[row]?.[j];
  return { text: sheet.rows[row]![j] ?? '', ...(exact === undefined ? {} : { exact }) };
};

/** The roll's columns with the sheet's new ones, and the column that each column of the sheet is. */
function refreshedColumns(
  roll: Roll,
  sheet: Sheet,
  sourceId: string,
  plan: RefreshPlan,
): { columns: Column[]; at: Map<number, Column> } {
  const at = new Map<number, Column>();
  const columns = roll.columns.map((column): Column => {
    const pair = plan.columns.find(
      (candidate) => candidate.columnId === column.id && candidate.how !== 'elsewhere',
    );
    const incoming = pair?.at === null || pair?.at === undefined ? undefined : sheet.columns[pair.at];
    if (!incoming) return column;
    // A title that people gave stays; one that came from the source follows it.
    const follows = column.title === column.sourceTitle;
    const titleFree = !roll.columns.some((other) => other.id !== column.id && other.title === incoming.title);
    const refreshed: Column = {
      ...column,
      sourceId,
      sourceTitle: incoming.title,
      title: follows && titleFree ? incoming.title : column.title,
    };
    at.set(pair!.at!, refreshed);
    return refreshed;
  });
  const titles = new Set(columns.map(({ title }) => title));
  const added = plan.columns
    .filter((pair) => pair.how === 'new' && pair.at !== null)
    .map((pair): Column => {
      const incoming = sheet.columns[pair.at!]!;
      const column: Column = { ...incoming, sourceId, title: freeTitle(incoming.title, titles) };
      titles.add(column.title);
      at.set(pair.at!, column);
      return column;
    });
  const last = columns.map((column) => column.sourceId === sourceId).lastIndexOf(true) + 1;
  return { columns: [...columns.slice(0, last), ...added, ...columns.slice(last)], at };
}
