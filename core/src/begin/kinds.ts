import type { Column } from '../column/index.js';

/** Columns whose titles agree but for one thing: `English mark`, `History mark` … */
export interface ColumnKind {
  /** What their titles have in common, before and behind what is different. */
  readonly before: string;
  readonly after: string;
  readonly members: readonly { readonly row: string; readonly column: Column }[];
}

/** Names a kind. */
export const kindKey = ({ before, after }: Pick<ColumnKind, 'before' | 'after'>): string =>
  `${before}\u0001${after}`;

/** What the columns of a kind are, as the head of a column: `Mark`, `English`. */
export function kindTitle({ before, after }: Pick<ColumnKind, 'before' | 'after'>): string {
  const text = `${before.trim()} ${after.trim()}`.replace(/^[\s:–—|/_.-]+|[\s:–—|/_.-]+$/g, '').trim();
  return text.charAt(0).toUpperCase() + text.slice(1);
}

/** Where a title may be cut: between words, behind a colon or a dash. */
function* cuts(title: string): Generator<{ row: string; before: string; after: string; clear: boolean }> {
  for (const { index, 0: gap } of title.matchAll(/\s*[:–—|/]\s*|\s+-\s+|\s+|_/g)) {
    const [first, rest] = [title.slice(0, index), title.slice(index + gap.length)];
    if (first === '' || rest === '') continue;
    const clear = gap.trim() !== '';
    // `(40)` is what two titles have in common by chance.
    if (/\p{L}/u.test(rest)) yield { row: first, before: '', after: gap + rest, clear };
    if (/\p{L}/u.test(first)) yield { row: rest, before: first + gap, after: '', clear };
  }
}

/**
 * The kinds of some columns: each column belongs to the one with most members, and of these to the one that says most. A
 * column that agrees with no other belongs to none.
 */
export function kindsOf(columns: readonly Column[]): ColumnKind[] {
  const found = new Map<
    string,
    { before: string; after: string; clear: boolean; members: Map<string, Column> }
  >();
  for (const column of columns)
    for (const { row, before, after, clear } of cuts(column.title.trim())) {
      const key = kindKey({ before, after }).toLowerCase();
      const kind = found.get(key) ?? { before, after, clear, members: new Map<string, Column>() };
      if (!kind.members.has(row)) kind.members.set(row, column);
      found.set(key, kind);
    }
  const ranked = [...found.values()]
    .filter(({ members }) => members.size > 1)
    .sort((a, b) => weight(b) - weight(a) || said(b) - said(a));
  const taken = new Set<Column>();
  const kinds: ColumnKind[] = [];
  for (const { before, after, members } of ranked) {
    const free = [...members].filter(([, column]) => !taken.has(column));
    if (free.length < 2) continue;
    for (const [, column] of free) taken.add(column);
    kinds.push({ before, after, members: free.map(([row, column]) => ({ row, column })) });
  }
  const place = (kind: ColumnKind): number => columns.indexOf(kind.members[0]!.column);
  return kinds.sort((a, b) => place(a) - place(b));
}

/**
 * Columns that hold the same are likelier of one kind than those that only begin alike; and a colon or a dash says more
 * clearly than a space that there are two things.
 */
function weight({ members, clear }: { members: ReadonlyMap<string, Column>; clear: boolean }): number {
  const contents = new Set(
    [...members.values()].map(({ type, worked }) => `${type ?? 'text'} ${worked?.kind ?? ''}`),
  );
  return members.size * (contents.size === 1 ? 3 : 1) * (clear ? 2 : 1);
}

const said = ({ before, after }: { before: string; after: string }): number => before.length + after.length;

/** The kinds that have members for most of some rows. */
export const kindsFor = (kinds: readonly ColumnKind[], rows: readonly string[]): ColumnKind[] =>
  kinds.filter(
    ({ members }) => members.filter(({ row }) => rows.includes(row)).length * 3 >= rows.length * 2,
  );
