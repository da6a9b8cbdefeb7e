import type { Column } from '../column/index.js';
import { meaningOf, valueOf } from './cells.js';
import type { Entry, Roll } from './roll.js';

/** What narrows a column: cells that hold a text, or are blank, filled, mended or not of their type; or one of some texts. */
export type ColumnFilter =
  | { readonly kind: 'has'; readonly text: string }
  | { readonly kind: 'is'; readonly texts: readonly string[] }
  | { readonly kind: 'blank' | 'filled' | 'mended' | 'wrong' };

export interface View {
  readonly sort: { readonly columnId: string; readonly down: boolean } | null;
  readonly filters: Readonly<Record<string, ColumnFilter>>;
  /** Text to be found in any shown cell. */
  readonly find: string;
  /** Which entries: all, those that get papers, those left out. */
  readonly who: 'all' | 'in' | 'out';
}

export const PLAIN_VIEW: View = { sort: null, filters: {}, find: '', who: 'all' };

/**
 * The entries that a view shows, in its order. Numbers sort by value, dates by time, texts as the language sorts them
 * (Unicode CLDR collation, digits by value); blank cells come last either way, and ties keep the roll's order.
 */
export function arrange(roll: Roll, view: View, language = 'en'): Entry[] {
  const filters = Object.entries(view.filters).flatMap(([id, filter]) => {
    const column = roll.columns.find((candidate) => candidate.id === id);
    return column ? [{ column, filter }] : [];
  });
  const shown = roll.columns.filter((column) => !column.hidden);
  const find = plain(view.find.trim());
  const entries = roll.entries.filter(
    (entry) =>
      (view.who === 'all' || (view.who === 'out') === (entry.leftOut !== undefined)) &&
      filters.every(({ column, filter }) => passes(entry, column, filter)) &&
      (!find || shown.some((column) => plain(valueOf(entry, column.id)).includes(find))),
  );
  const column = view.sort && roll.columns.find(({ id }) => id === view.sort!.columnId);
  return column ? sortEntries(entries, column, view.sort!.down, language) : entries;
}

function passes(entry: Entry, column: Column, filter: ColumnFilter): boolean {
  const text = valueOf(entry, column.id);
  switch (filter.kind) {
    case 'has':
      return plain(text).includes(plain(filter.text));
    case 'is':
      return filter.texts.includes(text.trim());
    case 'blank':
      return text.trim() === '';
    case 'filled':
      return text.trim() !== '';
    case 'mended':
      return entry.mends?.[column.id] !== undefined;
    case 'wrong':
      return meaningOf(entry, column).kind === 'wrong';
  }
}

/** Case and accents do not matter for finding (Unicode UAX #15, NFKD). */
const plain = (text: string): string => text.normalize('NFKD').replace(/\p{M}/gu, '').toLowerCase();

function sortEntries(entries: readonly Entry[], column: Column, down: boolean, language: string): Entry[] {
  const collator = new Intl.Collator(language, { numeric: true, sensitivity: 'base' });
  const keyed = entries.map((entry) => ({ entry, key: sortKey(entry, column) }));
  const sign = down ? -1 : 1;
  keyed.sort((a, b) => {
    if (a.key === null || b.key === null) return a.key === b.key ? 0 : a.key === null ? 1 : -1;
    if (typeof a.key === 'number' && typeof b.key === 'number') return sign * (a.key - b.key);
    if (typeof a.key !== typeof b.key) return sign * (typeof a.key === 'number' ? -1 : 1);
    return sign * collator.compare(String(a.key), String(b.key));
  });
  return keyed.map(({ entry }) => entry);
}

function sortKey(entry: Entry, column: Column): string | number | null {
  const value = meaningOf(entry, column);
  switch (value.kind) {
    case 'blank':
      return null;
    case 'number':
      return Number(value.decimal);
    case 'date':
      return value.iso;
    case 'truth':
      return value.truth ? 'yes' : 'no';
    case 'list':
      return value.items.join(', ');
    default:
      return valueOf(entry, column.id).trim();
  }
}
