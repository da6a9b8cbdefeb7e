import { columnFor, type Column } from '../column/index.js';

/** A column as a text that was written elsewhere knows it. */
export interface TitledColumn {
  readonly id: string;
  readonly title: string;
}

const isColumnKey = (key: string): boolean => key === 'columnId' || key === 'nameId' || key === 'askId';

/** The columns that something written looks at, wherever in it, each once. */
export function columnsWritten(content: unknown, columns: readonly TitledColumn[]): TitledColumn[] {
  const used = new Set<unknown>();
  JSON.stringify(content, (key, value: unknown) => {
    if (isColumnKey(key)) used.add(value);
    return value;
  });
  return columns.filter(({ id }) => used.has(id)).map(({ id, title }) => ({ id, title }));
}

/**
 * What was written over the columns of one roll, over those of another: each column becomes the one whose title agrees, in
 * fields, tables, charts and conditions. What has none there stays as it is, and is a finding.
 */
export function movedTo<T>(content: T, from: readonly TitledColumn[], to: readonly Column[]): T {
  const known = new Set(to.map(({ id }) => id));
  const moves = new Map(
    from.flatMap(({ id, title }) => {
      const there = known.has(id) ? undefined : columnFor(title, to);
      return there ? [[id, there.id] as const] : [];
    }),
  );
  if (moves.size === 0) return content;
  return JSON.parse(
    JSON.stringify(content, (key, value: unknown) =>
      isColumnKey(key) && typeof value === 'string' ? (moves.get(value) ?? value) : value,
    ),
  ) as T;
}
