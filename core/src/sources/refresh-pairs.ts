import { distance } from 'fastest-levenshtein';
import { type Column, plainTitle } from '../column/index.js';
import type { Sheet } from '../table/index.js';
import {
  keyOf,
  plainKey,
  guessAddressColumn,
  nameColumns,
  valueOf,
  type Entry,
  type Roll,
  type SourceCell,
} from '../roll/index.js';

/** Which column of the roll a column of the sheet is, by the sheet's titles; null for a new one. */
type ChosenColumns = Readonly<Record<string, string | null>>;

/** What the source says for a cell, mended or not. */
export const sourceCell = (entry: Entry, columnId: string): SourceCell =>
  entry.mends?.[columnId] ?? {
    text: valueOf(entry, columnId),
    ...(entry.exact?.[columnId] === undefined ? {} : { exact: entry.exact[columnId] }),
  };

/** The columns of the sheet that the source's columns are, by what was chosen, then by titles. */
export function pairByTitle(
  own: readonly Column[],
  sheet: Sheet,
  chosen: ChosenColumns,
): Map<string, number> {
  const pairs = new Map<string, number>();
  const free = new Set(sheet.columns.map((_, at) => at));
  const take = (columnId: string, at: number): void => {
    pairs.set(columnId, at);
    free.delete(at);
  };
  sheet.columns.forEach(({ title }, at) => {
    const choice = Object.hasOwn(chosen, title) ? chosen[title] : undefined;
    if (choice !== undefined) {
      if (choice !== null && own.some(({ id }) => id === choice)) take(choice, at);
      else free.delete(at);
    }
  });
  const tests: ((column: Column, title: string) => boolean)[] = [
    (column, title) => (column.sourceTitle ?? column.title) === title,
    (column, title) => plainTitle(column.sourceTitle ?? column.title) === plainTitle(title),
    (column, title) => plainTitle(column.title) === plainTitle(title),
  ];
  for (const test of tests) {
    for (const column of own) {
      if (pairs.has(column.id)) continue;
      const at = [...free].find((candidate) => test(column, sheet.columns[candidate]!.title));
      if (at !== undefined) take(column.id, at);
    }
  }
  return pairs;
}

/** True for titles that say nearly the same, as `Mark` and `Mark (final)`; numbers that differ are never alike. */
function alikeTitles(before: string, after: string): boolean {
  const [one, other] = [plainTitle(before), plainTitle(after)].sort((a, b) => a.length - b.length) as [
    string,
    string,
  ];
  if (one.length < 4 || numbersIn(one) !== numbersIn(other)) return false;
  return other.startsWith(one) || other.endsWith(one) || distance(one, other) <= Math.max(1, one.length / 5);
}

const numbersIn = (text: string): string => text.match(/\p{N}+/gu)?.join(' ') ?? '';

/** The share of equal cells from which a column under another title is taken for the same. */
const ALIKE = 0.8;

/** The same, with columns under another title found by their cells, or where only one has a title that is nearly the same. */
export function pairByCells(
  own: readonly Column[],
  sheet: Sheet,
  titled: ReadonlyMap<string, number>,
  roll: Roll,
  rows: ReadonlyMap<string, number>,
  chosen: ChosenColumns,
): Map<string, number> {
  const pairs = new Map(titled);
  const used = new Set(pairs.values());
  const lost = own.filter((column) => !pairs.has(column.id));
  const fresh = sheet.columns.flatMap(({ title }, at) =>
    used.has(at) || chosen[title] === null ? [] : [at],
  );
  if (lost.length === 0 || fresh.length === 0) return pairs;
  // Where the column that tells entries apart was renamed, rows are compared as they stand.
  const known = roll.entries.filter((entry) => rows.has(entry.id));
  const compared: (readonly [Entry, number])[] =
    known.length >= roll.entries.length / 2
      ? known.map((entry) => [entry, rows.get(entry.id)!] as const)
      : roll.entries.slice(0, sheet.rows.length).map((entry, row) => [entry, row] as const);
  const scored = lost.flatMap((column) =>
    fresh.map((at) => {
      let filled = 0;
      let equal = 0;
      for (const [entry, row] of compared) {
        const before = sourceCell(entry, column.id).text.trim();
        const after = (sheet.rows[row]?.[at] ?? '').trim();
        if (before === '' && after === '') continue;
        filled++;
        if (before === after) equal++;
      }
      return { column, at, score: filled > 0 ? equal / filled : 0 };
    }),
  );
  for (const { column, at, score } of scored.sort((a, b) => b.score - a.score)) {
    if (score < ALIKE || pairs.has(column.id) || used.has(at)) continue;
    pairs.set(column.id, at);
    used.add(at);
  }
  const alike = scored.filter(
    ({ column, at }) =>
      !pairs.has(column.id) &&
      !used.has(at) &&
      alikeTitles(column.sourceTitle ?? column.title, sheet.columns[at]!.title),
  );
  for (const { column, at } of alike)
    if (alike.filter((one) => one.column === column || one.at === at).length === 1) pairs.set(column.id, at);
  return pairs;
}

/** How an entry and a row are compared: equal texts are a pair, null is none. */
interface Likeness {
  readonly entry: (entry: Entry) => string | null;
  readonly row: (row: number) => string | null;
}

/**
 * Finds each entry's row. Every step pairs only what the steps before left over. A key that stands once on each side
 * decides; where it is blank or stands twice, the whole row, then name and address tell who is meant.
 */
export function pairEntries(
  roll: Roll,
  sheet: Sheet,
  pairs: ReadonlyMap<string, number>,
): Map<string, number> {
  const rows = new Map<string, number>();
  const free = new Set(sheet.rows.map((_, row) => row));
  const match = (by: Likeness, onlyOnce: boolean): void => {
    const waiting = new Map<string, number[]>();
    for (const row of free) {
      const key = by.row(row);
      if (key !== null) waiting.set(key, [...(waiting.get(key) ?? []), row]);
    }
    const asking = new Map<string, Entry[]>();
    for (const entry of roll.entries) {
      const key = rows.has(entry.id) ? null : by.entry(entry);
      if (key !== null && waiting.has(key)) asking.set(key, [...(asking.get(key) ?? []), entry]);
    }
    for (const [key, entries] of asking) {
      const candidates = waiting.get(key)!;
      if (onlyOnce && (entries.length > 1 || candidates.length > 1)) continue;
      entries.slice(0, candidates.length).forEach((entry, n) => {
        rows.set(entry.id, candidates[n]!);
        free.delete(candidates[n]!);
      });
    }
  };
  const cellsOf = (columnIds: readonly string[]): Likeness | null => {
    const at = columnIds.map((id) => pairs.get(id));
    if (at.length === 0 || at.includes(undefined)) return null;
    return {
      entry: (entry) => joined(columnIds.map((id) => sourceCell(entry, id).text)),
      row: (row) => joined(at.map((j) => sheet.rows[row]![j!] ?? '')),
    };
  };
  const all = [...pairs.keys()];
  // With no column in common nothing tells who is who.
  if (all.length === 0) return rows;
  const whole: Likeness = {
    entry: (entry) => JSON.stringify(all.map((id) => sourceCell(entry, id).text)),
    row: (row) => JSON.stringify(all.map((id) => sheet.rows[row]![pairs.get(id)!] ?? '')),
  };
  const names = nameColumns(roll.columns).map(({ id }) => id);
  const address = guessAddressColumn(roll)?.id;
  const people = [
    ...(address ? [[...names, address]] : []),
    names,
    ...(address && !names.includes(address) ? [[address]] : []),
  ].flatMap((columnIds) => cellsOf(columnIds) ?? []);
  const key = roll.key?.length ? cellsOf(roll.key) : null;
  if (!key) {
    match(whole, false);
    for (const one of people) match(one, true);
    return rows;
  }
  match(both(key, whole), false);
  for (const one of people) match(both(key, one), true);
  match(key, true);
  // A key that was mended here is found by its mended form as well.
  match({ entry: (entry) => keyOf(entry, roll.key!), row: key.row }, true);
  const toldApart = {
    entry: once(roll.entries.map((entry) => key.entry(entry))),
    row: once(sheet.rows.map((_, row) => key.row(row))),
  };
  const untoldEntry = (entry: Entry): boolean => !toldApart.entry.has(key.entry(entry));
  const untoldRow = (row: number): boolean => !toldApart.row.has(key.row(row));
  for (const { entry: ofEntry, row: ofRow } of people) {
    match({ entry: (entry) => (untoldEntry(entry) ? ofEntry(entry) : null), row: ofRow }, true);
    match({ entry: ofEntry, row: (row) => (untoldRow(row) ? ofRow(row) : null) }, true);
  }
  match(key, false);
  return rows;
}

const both = (a: Likeness, b: Likeness): Likeness => {
  const together = (one: string | null, other: string | null): string | null =>
    one === null || other === null ? null : `${one}\u0001${other}`;
  return {
    entry: (entry) => together(a.entry(entry), b.entry(entry)),
    row: (row) => together(a.row(row), b.row(row)),
  };
};

/** The keys that stand there once. */
function once(keys: readonly (string | null)[]): Set<string | null> {
  const seen = new Set<string | null>();
  const single = new Set<string | null>();
  for (const key of keys) {
    if (key === null) continue;
    if (seen.has(key)) single.delete(key);
    else single.add(key);
    seen.add(key);
  }
  return single;
}

const joined = (parts: readonly string[]): string | null => {
  const plain = parts.map(plainKey);
  return plain.includes('') ? null : plain.join('\u0000');
};
