import { z } from 'zod';
import { columnFor, type Column, Identity, FillFormat } from '../column/index.js';
import { Condition } from '../condition/index.js';
import type { BlankRules } from '../text/index.js';
import { PictureFilling } from './picture-filling.js';
import { ChartFilling, columnsOfChart, mapChartColumns, namedInChart } from './chart-filling.js';
import {
  columnsOfTable,
  mapTableColumns,
  namedInTable,
  TableFilling,
  type NamedColumn,
} from './table-filling.js';

const words = z.string().max(1000);

/** What is done where nothing is there to be printed: besides what is printed instead, how much goes out, or waits. */
export const WhenBlank = z.discriminatedUnion('do', [
  z.object({ do: z.enum(['nothing', 'dash', 'sentence', 'line', 'hold']) }),
  z.object({ do: z.literal('words'), words }),
]);
export type WhenBlank = z.infer<typeof WhenBlank>;

/** A column whose value stands behind another one, with what stands between the two where both are there. */
export const JoinedValue = z.object({
  between: z.string().max(200),
  /** The column's title when it was chosen, by which it is found in another sheet. */
  name: z.string().max(1000),
  columnId: Identity.nullable(),
  format: FillFormat.optional(),
});
export type JoinedValue = z.infer<typeof JoinedValue>;

/** Words that stand in a value's place for the entries that a condition holds for. */
export const WordsIf = z.object({ if: Condition, words });
export type WordsIf = z.infer<typeof WordsIf>;

const place = z.number().int().min(0).max(1000);

/** What of an entry's own rows of a joined sheet is printed. Columns of that sheet are counted from 0. */
export const LookUp = z.object({
  /** The column whose values are printed. */
  at: place,
  take: z.enum(['first', 'last', 'all']),
  /** Only of rows whose cell in a column says this, whatever the case; of every row where nothing is said. */
  where: z.object({ at: place, says: z.string().max(1000) }).optional(),
});
export type LookUp = z.infer<typeof LookUp>;

/**
 * A field: one thing that differs per entry. It may stand in any number of places. `columnId` is the identity of the
 * column that fills it, or null while it is unmatched; `name` is what people call it. All else says how it is filled.
 */
export const Field = z.object({
  id: Identity,
  name: z.string().max(1000),
  columnId: Identity.nullable(),
  /** How its value is printed; as it stands in its cell where nothing is said. */
  format: FillFormat.optional(),
  /** The joined source whose rows of the entry's own it prints, instead of a column. */
  rowsOf: Identity.optional(),
  /** What of these rows; all that is in them where nothing is said. */
  lookUp: LookUp.optional(),
  /** Printed for everybody, instead of a column: a text, the day on which the paper is pressed or the message written, or the number of the page. */
  same: z
    .discriminatedUnion('kind', [
      z.object({ kind: z.literal('text'), text: words }),
      z.object({ kind: z.literal('day') }),
      /** The number of the page that it stands on, or of all pages. */
      z.object({ kind: z.literal('page'), all: z.boolean() }),
      /** The paper's own number, and that of the paper whose place it takes. */
      z.object({ kind: z.literal('number') }),
      z.object({ kind: z.literal('replaces') }),
      /** In a message: the learners that it is about, by a column, or by their names. */
      z.object({ kind: z.literal('learners'), columnId: Identity.nullable() }),
      /** In a message: what those to whom it goes are called. */
      z.object({ kind: z.literal('addressees') }),
      /** In a message: its private link, and the last day on which that works. */
      z.object({ kind: z.literal('link') }),
      z.object({ kind: z.literal('link-ends') }),
    ])
    .optional(),
  /** A table or a chart that it prints instead: such a field stands as a block of its own. */
  table: TableFilling.optional(),
  chart: ChartFilling.optional(),
  /** The picture that is named in the column's cell, as a block of its own. */
  picture: PictureFilling.optional(),
  /** Values that stand behind the first one, as far as they are there. */
  more: z.array(JoinedValue).max(20).optional(),
  /** Words instead of the value, by the first condition that holds; where none does the value is printed. */
  wordsIf: z.array(WordsIf).max(50).optional(),
  /** Stand around what is printed, where anything is. */
  before: z.string().max(200).optional(),
  after: z.string().max(200).optional(),
  whenBlank: WhenBlank.optional(),
});
export type Field = z.infer<typeof Field>;

/** The columns that a table or chart names, with what they were called. */
export const namedIn = ({ table, chart }: Field): NamedColumn[] =>
  table ? namedInTable(table) : chart ? namedInChart(chart) : [];

/** True where something fills the field. */
export const isMatched = ({ columnId, rowsOf, same, table, chart }: Field): boolean =>
  [rowsOf, same, table, chart].some((one) => one !== undefined) || columnId !== null;

/** True for a field that prints the paper's number, or that of the paper whose place it takes: known once it is pressed. */
export const isNumberField = ({ same }: Pick<Field, 'same'>): boolean =>
  same?.kind === 'number' || same?.kind === 'replaces';

/** True for a field that stands as a block of its own. */
export const isBlockField = ({ table, chart, picture }: Field): boolean =>
  table !== undefined || chart !== undefined || picture !== undefined;

/** Every condition that something in a field stands under. */
export const conditionsOf = ({ wordsIf = [], table }: Field): Condition[] => [
  ...wordsIf.map((one) => one.if),
  ...(table?.rows.kind === 'each' ? table.rows.rows.flatMap((row) => row.if ?? []) : []),
];

/** Every column whose cells a field prints or compares by, each once. */
export const columnsOfField = ({ columnId, more = [], table, chart }: Field): string[] => [
  ...new Set([
    ...[columnId, ...more.map((one) => one.columnId)].filter((id) => id !== null),
    ...(table ? columnsOfTable(table) : []),
    ...(chart ? columnsOfChart(chart) : []),
  ]),
];

/** A part of a text that stands only in papers of entries that a condition holds for. */
export const TextPart = z.object({ id: Identity, if: Condition });
export type TextPart = z.infer<typeof TextPart>;

/** How blank fields take sentences and lines with them. */
export function blankRules(fields: readonly Field[], language: string): BlankRules {
  const rules = new Map(fields.map(({ id, whenBlank }) => [id, whenBlank?.do]));
  return {
    language,
    goesOut: (id) => {
      const rule = rules.get(id);
      return rule === 'sentence' || rule === 'line' ? rule : null;
    },
  };
}

/** Matches the fields that have no column, or whose column is gone, to the columns with agreeing titles. */
export function matchFields(fields: readonly Field[], columns: readonly Column[]): Field[] {
  const known = new Set(columns.map((column) => column.id));
  const match = <T extends { name: string; columnId: string | null }>(one: T): T =>
    one.columnId && known.has(one.columnId)
      ? one
      : { ...one, columnId: columnFor(one.name, columns)?.id ?? null };
  return fields.map((field) => {
    const { table, chart, more } = field;
    if (table) return { ...field, table: mapTableColumns(table, match) };
    if (chart) return { ...field, chart: mapChartColumns(chart, match) };
    const first = field.rowsOf !== undefined || field.same !== undefined ? field : match(field);
    return more ? { ...first, more: more.map(match) } : first;
  });
}

/** True for a field that is nothing but its column. */
const isPlain = ({ id: _id, name: _name, columnId: _columnId, ...rest }: Field): boolean =>
  Object.values(rest).every((one) => one === undefined);

/** The field filled by this column, made if there is none yet. */
export function fieldForColumn(
  fields: readonly Field[],
  column: Column,
  newId: () => string,
): { fields: Field[]; field: Field } {
  const existing = fields.find((field) => isPlain(field) && field.columnId === column.id);
  if (existing) return { fields: [...fields], field: existing };
  const field = { id: newId(), name: column.title, columnId: column.id };
  return { fields: [...fields, field], field };
}

/** What a field is called on screen: its column's present title, or its own name while it is unmatched. */
export function fieldLabel(field: Field | undefined, columns: readonly Column[]): string {
  if (!field) return 'removed field';
  return columns.find((column) => column.id === field.columnId)?.title ?? field.name;
}
