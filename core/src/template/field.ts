import { z } from 'zod';
import { columnFor, type Column, Identity, FillFormat } from '../column/index.js';

/**
 * A field: one thing that differs per entry. It may stand in any number of places. `columnId` is the identity of the
 * column that fills it, or null while it is unmatched; `name` is what people call it.
 */
export const Field = z.object({
  id: Identity,
  name: z.string().max(1000),
  columnId: Identity.nullable(),
  /** How its value is printed; as it stands in its cell where nothing is said. */
  format: FillFormat.optional(),
  /** The joined source whose rows of the entry's own it prints, instead of a column. */
  rowsOf: Identity.optional(),
});
export type Field = z.infer<typeof Field>;

/** True where something fills the field. */
export const isMatched = ({ columnId, rowsOf }: Field): boolean => columnId !== null || rowsOf !== undefined;

/** Matches the fields that have no column, or whose column is gone, to the columns with agreeing titles. */
export function matchFields(fields: readonly Field[], columns: readonly Column[]): Field[] {
  const known = new Set(columns.map((column) => column.id));
  return fields.map((field) =>
    field.rowsOf !== undefined || (field.columnId && known.has(field.columnId))
      ? field
      : { ...field, columnId: columnFor(field.name, columns)?.id ?? null },
  );
}

/** The field filled by this column, made if there is none yet. */
export function fieldForColumn(
  fields: readonly Field[],
  column: Column,
  newId: () => string,
): { fields: Field[]; field: Field } {
  const existing = fields.find((field) => field.columnId === column.id);
  if (existing) return { fields: [...fields], field: existing };
  const field = { id: newId(), name: column.title, columnId: column.id };
  return { fields: [...fields, field], field };
}

/** What a field is called on screen: its column's present title, or its own name while it is unmatched. */
export function fieldLabel(field: Field | undefined, columns: readonly Column[]): string {
  if (!field) return 'removed field';
  return columns.find((column) => column.id === field.columnId)?.title ?? field.name;
}
