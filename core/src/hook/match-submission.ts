import { columnFor, freeTitle, type Column } from '../column/index.js';
import type { SentField } from './read-submission.js';

/** Which column each answer stands in, by its key; null for one that is left out. */
export type HookShape = Readonly<Record<string, string | null>>;

export interface MatchedSubmission {
  /** Cells by the identities of their columns. */
  readonly cells: Record<string, string>;
  /** With what this submission has and earlier ones had not. */
  readonly shape: HookShape;
  /** Columns that the roll has not. */
  readonly added: readonly Column[];
}

/** Between several answers in one cell, where the column says nothing else. */
const BETWEEN = ';';
const EMAIL = /^[^\s@]+@[^\s@]+\.[^\s@]+$/;

/**
 * Puts the answers of a submission into columns: those that the shape knows; else the column with that identity, else the one with that
 * title, else a new one. A column that people took out is made anew, so that nothing is lost.
 *
 * @param newId for a new column.
 */
export function matchSubmission(
  fields: readonly SentField[],
  shape: HookShape,
  columns: readonly Column[],
  newId: () => string,
): MatchedSubmission {
  const there = new Map(columns.map((column) => [column.id, column]));
  const next: Record<string, string | null> = { ...shape };
  const added: Column[] = [];
  const cells: Record<string, string> = {};
  const used = new Set(Object.values(shape).filter((id) => id !== null && there.has(id)));
  const titles = new Set(columns.map(({ title }) => title));
  for (const field of fields) {
    const known = Object.hasOwn(next, field.key) ? next[field.key] : undefined;
    if (known === null) continue;
    let column = known === undefined ? undefined : there.get(known);
    if (!column) {
      const free = columns.filter(({ id, worked }) => !worked && !used.has(id));
      column = free.find(({ id }) => id === field.key) ?? columnFor(field.title, free);
      if (!column) {
        column = columnOf(field, freeTitle(field.title, titles), newId());
        added.push(column);
        titles.add(column.title);
        there.set(column.id, column);
      }
      used.add(column.id);
      next[field.key] = column.id;
    }
    const between = column.format?.separator ?? (column.type === 'several choices' ? ',' : BETWEEN);
    cells[column.id] = typeof field.value === 'string' ? field.value : field.value.join(`${between} `);
  }
  return { cells, shape: next, added };
}

function columnOf({ title, value }: SentField, free: string, id: string): Column {
  const column = { id, title: free, sourceTitle: title };
  if (typeof value !== 'string')
    return { ...column, type: 'several choices', format: { separator: BETWEEN } };
  return EMAIL.test(value.trim()) ? { ...column, type: 'email' } : column;
}
