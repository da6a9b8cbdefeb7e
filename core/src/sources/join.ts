import { z } from 'zod';
import { type Column, freeTitle, plainTitle } from '../column/index.js';
import type { Sheet } from '../table/index.js';
import { columnsAt, keyText, together, WHOLE_NAME } from './join-key.js';
import { nameColumns, tidyEntry, valueOf, type Entry, type Roll } from '../roll/index.js';
import { nearMatches, type NearMatch } from './near-matches.js';
import { summarise } from './summary.js';

/** How a second sheet is joined to the roll. */
export const JoinSpec = z.object({
  /**
   * Columns of the roll, and titles of the sheet, that must agree, pair by pair. `@name` on either side is the learner's
   * whole name, be it in one column or in two.
   */
  left: z.array(z.string()).min(1).max(6),
  right: z.array(z.string()).min(1).max(6),
  /** Answers about near matches, by the keys of both sides. */
  near: z.array(z.object({ entry: z.string(), row: z.string(), same: z.boolean() })).default([]),
  /** One row for each entry gives columns; several give each entry a small table of its own. */
  shape: z.enum(['columns', 'table']),
  /** The titles that are taken over; all but the key where left out. */
  take: z.array(z.string()).optional(),
  /** Columns made of the small tables. */
  summaries: z
    .array(z.object({ of: z.string(), how: z.enum(['count', 'sum', 'mean', 'latest', 'list']) }))
    .default([]),
});
export type JoinSpec = z.infer<typeof JoinSpec>;

export interface JoinPlan {
  /** The rows of the sheet that belong to each entry. */
  readonly rows: ReadonlyMap<string, readonly number[]>;
  /** Pairs that look alike and wait for an answer. */
  readonly near: readonly NearMatch[];
  readonly loneEntries: readonly string[];
  readonly loneRows: readonly number[];
  /** Entries that more than one row belongs to. */
  readonly several: readonly string[];
}

/**
 * Matches the rows of a sheet to the entries by their keys. Keys agree when they are equal but for case and kinds of
 * space. What is left is compared for likeness: the same but for accents and punctuation, the same words in another
 * order, or one or two letters apart, where all other parts of the key agree.
 */
export function planJoin(roll: Roll, sheet: Sheet, spec: JoinSpec): JoinPlan {
  const at = spec.right.map((title) => columnsAt(sheet, title));
  if (at.some((places) => places.length === 0) || at.length !== spec.left.length) {
    return {
      rows: new Map(),
      near: [],
      loneEntries: roll.entries.map(({ id }) => id),
      loneRows: sheet.rows.map((_, n) => n),
      several: [],
    };
  }
  const names = nameColumns(roll.columns);
  const entryParts = (entry: Entry): string[] =>
    spec.left.map((id) =>
      id === WHOLE_NAME
        ? together(names.map((column) => valueOf(entry, column.id)))
        : valueOf(entry, id).trim(),
    );
  const rowParts = (row: number): string[] =>
    at.map((places) => together(places.map((j) => sheet.rows[row]![j] ?? '')));
  const byKey = new Map<string, number[]>();
  const rowKeys = sheet.rows.map((_, row) => keyText(rowParts(row)));
  rowKeys.forEach((key, row) => {
    if (key === null) return;
    const list = byKey.get(key);
    if (list) list.push(row);
    else byKey.set(key, [row]);
  });
  const answers = new Map(spec.near.map(({ entry, row, same }) => [`${entry}\u0001${row}`, same]));
  const same = new Map<string, string[]>();
  for (const { entry, row, same: yes } of spec.near)
    if (yes) same.set(entry, [...(same.get(entry) ?? []), row]);
  const rows = new Map<string, number[]>();
  const used = new Set<number>();
  for (const entry of roll.entries) {
    const key = keyText(entryParts(entry));
    if (key === null) continue;
    const found = [key, ...(same.get(key) ?? [])].flatMap((one) => byKey.get(one) ?? []);
    if (found.length === 0) continue;
    rows.set(entry.id, found);
    for (const row of found) used.add(row);
  }
  const leftEntries = roll.entries.filter((entry) => !rows.has(entry.id));
  const leftRows = sheet.rows.flatMap((_, row) => (used.has(row) ? [] : [row]));
  const near = nearMatches(
    leftEntries.map((entry) => ({ entry, parts: entryParts(entry) })),
    leftRows.map((row) => ({ row, parts: rowParts(row) })),
  ).filter(({ entryKey, rowKey }) => !answers.has(`${entryKey}\u0001${rowKey}`));
  return {
    rows,
    near,
    loneEntries: leftEntries.map(({ id }) => id),
    loneRows: leftRows,
    several: [...rows].filter(([, list]) => list.length > 1).map(([id]) => id),
  };
}

/**
 * Joins the sheet. Columns that the source gave before keep their identity; cells of them that were mended keep their
 * mend. An entry without a row gets blanks.
 *
 * @param source identity and name of the source; the name tells titles apart that the roll has already.
 */
export function applyJoin(
  roll: Roll,
  sheet: Sheet,
  spec: JoinSpec,
  plan: JoinPlan,
  source: { readonly id: string; readonly name: string },
): Roll {
  const before = roll.columns.filter((column) => column.sourceId === source.id);
  const others = roll.columns.filter((column) => column.sourceId !== source.id);
  const titles = new Set(others.map(({ title }) => title));
  const keys = new Set(spec.right);
  const wanted = (title: string): boolean => (spec.take ? spec.take.includes(title) : !keys.has(title));
  const titled = (title: string): string => {
    const free = titles.has(title) ? freeTitle(`${title} (${source.name})`, titles) : title;
    titles.add(free);
    return free;
  };
  const known = (test: (column: Column) => boolean): Column | undefined => before.find(test);
  const taken: { column: Column; at: number }[] =
    spec.shape === 'table'
      ? []
      : sheet.columns.flatMap((column, at) => {
          if (!wanted(column.title)) return [];
          const old =
            known(({ sourceTitle, summary }) => !summary && sourceTitle === column.title) ??
            known(
              ({ sourceTitle, summary }) =>
                !summary &&
                sourceTitle !== undefined &&
                plainTitle(sourceTitle) === plainTitle(column.title) &&
                !sheet.columns.some(({ title }) => title === sourceTitle),
            );
          if (old) titles.add(old.title);
          return [{ column: old ?? { ...column, sourceId: source.id, title: titled(column.title) }, at }];
        });
  const sums: { column: Column; of: string; how: NonNullable<Column['summary']>['how'] }[] =
    spec.shape === 'columns'
      ? []
      : spec.summaries.map(({ of, how }) => {
          const old = known(({ summary }) => summary?.of === of && summary.how === how);
          if (old) titles.add(old.title);
          const column = old ?? {
            id: summaryId(source.id, of, how),
            title: titled(summaryTitle(of, how, source.name)),
            sourceId: source.id,
            summary: { of, how },
            ...(how === 'count' || how === 'sum' || how === 'mean' ? { type: 'number' as const } : {}),
          };
          return { column, of, how };
        });
  const gone = new Set(before.map(({ id }) => id));
  for (const { column } of [...taken, ...sums]) gone.delete(column.id);
  const entries = roll.entries.map((entry): Entry => {
    const rows = plan.rows.get(entry.id) ?? [];
    const values = { ...entry.values };
    const exact = { ...entry.exact };
    const mends = { ...entry.mends };
    for (const id of gone) {
      delete values[id];
      delete exact[id];
      delete mends[id];
    }
    const set = (columnId: string, text: string, known: string | undefined): void => {
      if (mends[columnId]) {
        if (values[columnId] !== text) {
          mends[columnId] = { text, ...(known === undefined ? {} : { exact: known }) };
          return;
        }
        delete mends[columnId];
      }
      values[columnId] = text;
      if (known !== undefined) exact[columnId] = known;
      else if (exact[columnId] !== undefined) delete exact[columnId];
    };
    const row = rows[0];
    for (const { column, at } of taken) {
      set(
        column.id,
        row === undefined ? '' : (sheet.rows[row]![at] ?? ''),
        row === undefined ? undefined : sheet.exact[row]?.[at],
      );
    }
    for (const { column, of, how } of sums) set(column.id, summarise(sheet, rows, of, how), undefined);
    const { [source.id]: _, ...tables } = entry.tables ?? {};
    if (spec.shape === 'table' && rows.length > 0) tables[source.id] = rows.map((n) => [...sheet.rows[n]!]);
    const { tables: __, ...rest } = entry;
    return tidyEntry({
      ...rest,
      values,
      exact,
      mends,
      ...(Object.keys(tables).length > 0 ? { tables } : {}),
    });
  });
  const place = roll.columns.findIndex((column) => column.sourceId === source.id);
  const mine = [...taken, ...sums].map(({ column }) => column);
  const ahead =
    place < 0 ? others.length : roll.columns.slice(0, place).filter((c) => c.sourceId !== source.id).length;
  return { ...roll, columns: [...others.slice(0, ahead), ...mine, ...others.slice(ahead)], entries };
}

/** The roll without what a joined source gave it. */
export function takeOutSource(roll: Roll, sourceId: string): Roll {
  const gone = roll.columns.filter((column) => column.sourceId === sourceId).map(({ id }) => id);
  const drop = <T>(record: Record<string, T> | undefined): Record<string, T> =>
    Object.fromEntries(Object.entries(record ?? {}).filter(([id]) => !gone.includes(id)));
  return {
    ...roll,
    columns: roll.columns.filter((column) => column.sourceId !== sourceId),
    ...(roll.key ? { key: roll.key.filter((id) => !gone.includes(id)) } : {}),
    entries: roll.entries.map((entry): Entry => {
      const { [sourceId]: _, ...tables } = entry.tables ?? {};
      const { tables: __, ...rest } = entry;
      return tidyEntry({
        ...rest,
        values: drop(entry.values),
        exact: drop(entry.exact),
        mends: drop(entry.mends),
        ...(Object.keys(tables).length > 0 ? { tables } : {}),
      });
    }),
  };
}

function summaryTitle(of: string, how: string, source: string): string {
  switch (how) {
    case 'count':
      return `Number of rows (${source})`;
    case 'sum':
      return `Sum of ${of}`;
    case 'mean':
      return `Mean of ${of}`;
    case 'latest':
      return `Latest ${of}`;
    default:
      return `All ${of}`;
  }
}

/** The same summary of the same source is the same column, whoever works it out. */
function summaryId(sourceId: string, of: string, how: string): string {
  let hash = 5381;
  for (const char of `${of}\u0000${how}`) hash = ((hash * 33) ^ char.codePointAt(0)!) >>> 0;
  return `s${sourceId.slice(0, 24)}${hash.toString(36)}`;
}
