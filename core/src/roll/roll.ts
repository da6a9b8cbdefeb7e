import { z } from 'zod';
import { Column, type Exact } from '../column/index.js';
import type { Sheet } from '../table/index.js';

/** A cell as its source has it. */
export const SourceCell = z.object({ text: z.string(), exact: z.string().optional() });
export type SourceCell = z.infer<typeof SourceCell>;

/** One row of the roll, usually a learner. */
export const Entry = z.object({
  id: z.string(),
  /** 0-based place in the roll. */
  position: z.number().int().nonnegative(),
  /** The cells' texts, by column identity. */
  values: z.record(z.string(), z.string()),
  /** What a workbook knows beyond the text, by column identity. */
  exact: z.record(z.string(), z.string()).optional(),
  /** What the source says, for each cell that was mended here. */
  mends: z.record(z.string(), SourceCell).optional(),
  /** Why the entry gets no paper. Absent where it gets one. */
  leftOut: z.string().optional(),
  /** True where the newest version of the source no longer has the entry. */
  gone: z.boolean().optional(),
  /** True for an entry that was added here, and that no source has. */
  byHand: z.boolean().optional(),
  /** The form that the entry is an answer to; its sheet has nothing to say about it. */
  answered: z.string().optional(),
  /** The entry's own small tables, by source: the rows of a joined sheet that belong to it. */
  tables: z.record(z.string(), z.array(z.array(z.string()))).optional(),
  /** What worked columns come to, by column identity. Worked out, never kept. */
  worked: z.record(z.string(), z.string()).optional(),
});
export type Entry = z.infer<typeof Entry>;

export const Roll = z.object({
  columns: z.array(Column),
  entries: z.array(Entry),
  /** The columns that together make an entry unique; empty where Scriptum's own identities do. */
  key: z.array(z.string()).optional(),
});
export type Roll = z.infer<typeof Roll>;

/** Makes a roll of a sheet. `newId` gives a new entry identity at each call. */
export function makeRoll(sheet: Sheet, newId: () => string): Roll {
  return {
    columns: [...sheet.columns],
    entries: sheet.rows.map((_, row) => entryOf(sheet, row, newId(), row)),
  };
}

/** One row of a sheet as an entry. */
export function entryOf(sheet: Sheet, row: number, id: string, position: number): Entry {
  const values: Record<string, string> = {};
  let exact: Record<string, Exact> | undefined;
  const known = sheet.exact[row];
  sheet.columns.forEach((column, j) => {
    values[column.id] = sheet.rows[row]![j] ?? '';
    if (known?.[j] !== undefined) (exact ??= {})[column.id] = known[j];
  });
  return exact ? { id, position, values, exact } : { id, position, values };
}

/** True for an entry that gets a paper. */
export const isIn = (entry: Entry): boolean => entry.leftOut === undefined;

/** The roll without the entries that are left out. */
export const presentRoll = (roll: Roll): Roll => ({ ...roll, entries: roll.entries.filter(isIn) });
