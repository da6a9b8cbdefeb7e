import { distance } from 'fastest-levenshtein';
import { readAddress, type Column, plainTitle } from '../column/index.js';
import { keyOf, learnerName, nameColumns, isIn, valueOf, type Entry, type Roll } from '../roll/index.js';

/** Entries that are one learner, or may be. The first stays. */
export interface DuplicateGroup {
  readonly entries: readonly Entry[];
  readonly kind: 'same row' | 'same key' | 'same person' | 'alike';
}

/**
 * Groups of entries that may be one learner: all cells the same; the same key; the same name and an address in common;
 * nearly the same name and an address in common. One address alone says nothing (brothers and sisters share it), and
 * neither does one name alone.
 */
export function findDuplicates(roll: Roll): DuplicateGroup[] {
  const shown = roll.columns.filter((column) => !STAMP.test(column.title) && !column.summary);
  // Rows that are blank still are nobody.
  const entries = roll.entries.filter(
    (entry) => isIn(entry) && shown.some(({ id }) => valueOf(entry, id).trim() !== ''),
  );
  const names = nameColumns(roll.columns);
  const taken = new Set<string>();
  const groups: DuplicateGroup[] = [];
  const add = (kind: DuplicateGroup['kind'], found: readonly Entry[]): void => {
    const free = found.filter(({ id }) => !taken.has(id));
    if (free.length < 2) return;
    for (const { id } of free.slice(1)) taken.add(id);
    groups.push({ kind, entries: free });
  };
  for (const group of grouped(entries, (entry) =>
    JSON.stringify(shown.map(({ id }) => valueOf(entry, id).trim())),
  )) {
    add('same row', group);
  }
  if (roll.key?.length) {
    for (const group of grouped(entries, (entry) => keyOf(entry, roll.key!))) add('same key', group);
  }
  const addressColumns = roll.columns.filter(({ type }) => type === 'email');
  const name = (entry: Entry): string => plainTitle(learnerName(entry, names));
  for (const group of grouped(entries, name)) {
    if (group.length < 2) continue;
    for (const [, same] of byAddress(group, addressColumns)) add('same person', same);
  }
  for (const [, household] of byAddress(entries, addressColumns)) {
    // A class that shares one address is no household.
    if (household.length > 12) continue;
    for (const [n, first] of household.entries()) {
      const alike = household
        .slice(n + 1)
        .filter((other) => similar(learnerName(first, names), learnerName(other, names)));
      if (alike.length > 0) add('alike', [first, ...alike]);
    }
  }
  return groups;
}

const STAMP = /time\s?stamp|submitted|response id|submission|zeitstempel|horodateur|marca temporal/i;

function grouped(entries: readonly Entry[], key: (entry: Entry) => string | null): Entry[][] {
  const groups = new Map<string, Entry[]>();
  for (const entry of entries) {
    const text = key(entry);
    if (!text) continue;
    const group = groups.get(text);
    if (group) group.push(entry);
    else groups.set(text, [entry]);
  }
  return [...groups.values()].filter((group) => group.length > 1);
}

function byAddress(entries: readonly Entry[], columns: readonly Column[]): Map<string, Entry[]> {
  const found = new Map<string, Entry[]>();
  for (const entry of entries) {
    const addresses = new Set(
      columns.flatMap(({ id }) => {
        const reading = readAddress(valueOf(entry, id));
        return reading.kind === 'address' ? [reading.address.toLowerCase()] : [];
      }),
    );
    for (const address of addresses) {
      const group = found.get(address);
      if (group) group.push(entry);
      else found.set(address, [entry]);
    }
  }
  for (const [address, group] of found) if (group.length < 2) found.delete(address);
  return found;
}

/** Nearly the same name: the same words in another order, or one letter apart in a longer name. */
function similar(a: string, b: string): boolean {
  const words = (text: string): string =>
    text
      .normalize('NFKD')
      .replace(/\p{M}/gu, '')
      .toLowerCase()
      .split(/[^\p{L}]+/u)
      .filter(Boolean)
      .sort()
      .join(' ');
  const [x, y] = [words(a), words(b)];
  if (x === '' || y === '') return false;
  return x === y || (Math.min(x.length, y.length) >= 8 && distance(x, y) <= 1);
}
