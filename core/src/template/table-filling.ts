import { z } from 'zod';
import { FillFormat, Identity } from '../column/index.js';
import { Condition } from '../condition/index.js';

const title = z.string().max(300);

/** A column that is named; null while none is chosen. `name` is its title then, by which it is found in another sheet. */
export const NamedColumn = z.object({ columnId: Identity.nullable(), name: z.string().max(1000) });
export type NamedColumn = z.infer<typeof NamedColumn>;

/** Columns whose cells together say whose mean it is, such as the class; everybody's where none is named. */
export const Within = z.array(NamedColumn).max(4);
export type Within = z.infer<typeof Within>;

/** What one cell of a table prints. */
export const TableCell = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('nothing') }),
  z.object({ kind: z.literal('text'), text: title }),
  z.object({ kind: z.literal('column'), ...NamedColumn.shape }),
  /** The mean of a column over those who are compared. */
  z.object({ kind: z.literal('mean'), ...NamedColumn.shape }),
]);
export type TableCell = z.infer<typeof TableCell>;

/** What of a question of a marking key a column prints. */
export const QuestionPart = z.enum([
  'question',
  'topic',
  'answer',
  'right answer',
  'verdict',
  'points',
  'out of',
  'remark',
]);
export type QuestionPart = z.infer<typeof QuestionPart>;

/** How the cells of a column look. `band`: on a quiet ground, by how high the band is. */
export const ColumnLook = z.discriminatedUnion('kind', [
  z.object({ kind: z.enum(['plain', 'strong', 'band']) }),
  /** A small bar from nothing to `most`; with the mean of those who are compared as a mark on it. */
  z.object({ kind: z.literal('bar'), most: z.number().min(0.001).max(1e9), mean: z.boolean() }),
]);
export type ColumnLook = z.infer<typeof ColumnLook>;

/** How wide a column is: as its widest cell, a share of what is left, or so many millimetres. */
export const ColumnWidth = z.union([
  z.literal('auto'),
  z.object({ share: z.number().int().min(1).max(20) }),
  z.object({ mm: z.number().min(3).max(400) }),
]);
export type ColumnWidth = z.infer<typeof ColumnWidth>;

export const TableColumn = z.object({
  id: Identity,
  title,
  look: ColumnLook,
  width: ColumnWidth,
  format: FillFormat.optional(),
  /** What stands below the numbers. */
  total: z.enum(['sum', 'mean']).optional(),
  /** Where the rows come from somewhere: what of each of them is printed. `at` is a column of a joined sheet, from 0. */
  of: z
    .union([
      z.object({
        at: z.number().int().min(0).max(1000),
        /** The sign before decimals in that sheet's column; either one where nothing is said. */
        decimal: z.enum(['.', ',']).optional(),
      }),
      z.object({ part: QuestionPart }),
    ])
    .optional(),
});
export type TableColumn = z.infer<typeof TableColumn>;

export const TableRow = z.object({
  id: Identity,
  /** One for each column. */
  cells: z.array(TableCell).max(20),
  /** Stands out, below a line of its own: the average, the whole. */
  strong: z.boolean().optional(),
  /** Stands only in the papers of entries that it holds for. */
  if: Condition.optional(),
});
export type TableRow = z.infer<typeof TableRow>;

/** A table that a field prints. */
export const TableFilling = z.object({
  columns: z.array(TableColumn).min(1).max(20),
  rows: z.discriminatedUnion('kind', [
    /** Rows that are written down, such as one for each subject. */
    z.object({ kind: z.literal('each'), rows: z.array(TableRow).max(200) }),
    /** The entry's own rows of a joined sheet. */
    z.object({ kind: z.literal('own'), sourceId: Identity, name: z.string().max(1000) }),
    /** The questions of a marking key. */
    z.object({ kind: z.literal('questions'), ...NamedColumn.shape }),
  ]),
  within: Within,
  /** Rows by the values of a column, `at` from 0; in their own order where nothing is said. */
  sort: z.object({ at: z.number().int().min(0).max(19), down: z.boolean() }).optional(),
  /** Whether a row stands in which nothing but fixed text would be printed. */
  blankRows: z.enum(['stand', 'out']),
});
export type TableFilling = z.infer<typeof TableFilling>;

/** Identities of named columns, as far as they are chosen. */
export const idsOf = (named: readonly NamedColumn[]): string[] =>
  named.flatMap(({ columnId }) => (columnId === null ? [] : [columnId]));

/** The columns that a table names, with what they were called. */
export const namedInTable = ({ rows, within }: TableFilling): NamedColumn[] => [
  ...(rows.kind === 'each'
    ? rows.rows.flatMap(({ cells }) => cells.filter((cell) => 'columnId' in cell))
    : rows.kind === 'questions'
      ? [rows]
      : []),
  ...within,
];

/** Every text that people wrote into a table. */
export const wordsOfTable = ({ columns, rows }: TableFilling): string[] => [
  ...columns.map(({ title: head }) => head),
  ...(rows.kind === 'each'
    ? rows.rows.flatMap(({ cells }) => cells.flatMap((cell) => (cell.kind === 'text' ? [cell.text] : [])))
    : []),
];

/** Every column that a table prints or compares by. */
export const columnsOfTable = (table: TableFilling): string[] => idsOf(namedInTable(table));

/** The table with each column that it names looked up anew. */
export function mapTableColumns(
  table: TableFilling,
  match: <T extends NamedColumn>(one: T) => T,
): TableFilling {
  const { rows } = table;
  const within = table.within.map(match);
  if (rows.kind === 'own') return { ...table, within };
  if (rows.kind === 'questions') return { ...table, within, rows: match(rows) };
  const matched = rows.rows.map((row) => ({
    ...row,
    cells: row.cells.map((cell) => ('columnId' in cell ? match(cell) : cell)),
  }));
  return { ...table, within, rows: { kind: 'each', rows: matched } };
}
