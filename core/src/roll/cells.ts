import { readValue, type Column, type Value } from '../column/index.js';
import type { Entry } from './roll.js';

/**
 * The cell's text, or an empty text where the entry or the column has none. In a worked column what was written by hand
 * goes before what was worked out.
 */
export function valueOf(entry: Entry | undefined, columnId: string | null | undefined): string {
  return (columnId && (entry?.values[columnId] || entry?.worked?.[columnId])) || '';
}

/** What the cell means under its column's type. */
export const meaningOf = (entry: Entry, column: Column): Value =>
  readValue(column, valueOf(entry, column.id), entry.exact?.[column.id]);
