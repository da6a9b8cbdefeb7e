import { learnerName, nameColumns, plainKey, type Entry, valueOf } from '../roll/index.js';
import { holds } from '../condition/index.js';
import { type FillFormat, type Value, printValue } from '../column/index.js';
import type { Field, LookUp } from '../template/index.js';
import { cellOf } from './filled-cell.js';
import { filledChart } from './filled-chart.js';
import { filledPicture } from './filled-picture.js';
import type { FillContext, Filled, Printed } from './filled.js';
import { filledTable } from './filled-table.js';
import { oneLine, printable } from './printable.js';

/** What each field comes to for one entry, by field identity. An unmatched field has nothing. */
export type FilledValues = Readonly<Record<string, Filled>>;

/** What is printed for each field, as it is kept with a paper: the paper can be made again from it. */
export type PrintedValues = Readonly<Record<string, Printed>>;

/** Fills the fields with one entry's cells, in their formats. */
export function fillFields(fields: readonly Field[], entry: Entry, context: FillContext): FilledValues {
  const filled: Record<string, Filled> = {};
  for (const field of fields) {
    const one = filledFirst(field, entry, context);
    if (one) filled[field.id] = withRest(field, one, entry, context);
  }
  return filled;
}

/** What a field comes to by its column, its rows or what it is for everybody; null where nothing fills it. */
function filledFirst(
  { columnId, rowsOf, lookUp, same, format, table, chart, picture }: Field,
  entry: Entry,
  context: FillContext,
): Filled | null {
  if (table) return filledTable(table, entry, context);
  if (chart) return filledChart(chart, entry, context);
  if (picture) return columnId === null ? null : filledPicture(columnId, entry, context);
  if (rowsOf !== undefined) {
    const rows = entry.tables?.[rowsOf] ?? [];
    return lookUp ? lookedUp(rows, lookUp, context.language) : filledRows(rows);
  }
  if (same?.kind === 'text') return plain(same.text);
  if (same?.kind === 'day') return filledDay(context.day, context, format);
  // Which page it is, is known where it is set; elsewhere there is but one.
  if (same?.kind === 'page') return { text: '1', value: { kind: 'number', decimal: '1' } };
  if (same?.kind === 'number') return plain(context.number?.own ?? NOT_YET_KNOWN);
  if (same?.kind === 'replaces') return plain(context.number?.replaces ?? '');
  if (same?.kind === 'learners') return learnersOf(same.columnId, entry, context);
  if (same?.kind === 'addressees') return listed(context.message?.addressees ?? [], context.language);
  const link = context.message?.link;
  // Where no message is written yet, something stands for it.
  const unknown = context.message ? '' : NOT_YET_KNOWN;
  if (same?.kind === 'link') return plain(link?.url ?? (unknown && `https://${unknown}`));
  if (same?.kind === 'link-ends') return link ? filledDay(link.ends, context, format) : plain(unknown);
  if (columnId === null) return null;
  return ofEachLearner(columnId, context) ?? cellOf(columnId, format, entry, context);
}

/**
 * In a message about several learners, each one's own link to a form or code, with the name before it, a line for each: of one alone the
 * others could not answer. Null for other columns and other messages.
 */
function ofEachLearner(columnId: string, { message, columns }: FillContext): Filled | null {
  const entries = message?.entries ?? [];
  const isPersonal = columns.some(({ id, worked }) => id === columnId && worked?.kind === 'personal');
  if (entries.length < 2 || !isPersonal) return null;
  const names = nameColumns(columns);
  const items = entries.map(
    (one) => `${oneLine(printable(learnerName(one, names)))}: ${valueOf(one, columnId)}`,
  );
  return { text: items.join('\n'), value: { kind: 'list', items } };
}

/** "Ada, Bo and Cy": those whom a message is about. */
function learnersOf(columnId: string | null, entry: Entry, context: FillContext): Filled {
  const names = nameColumns(context.columns);
  const entries = context.message?.entries ?? [entry];
  const called = entries.map((one) =>
    oneLine(printable(columnId === null ? learnerName(one, names) : valueOf(one, columnId))).trim(),
  );
  return listed(called, context.language);
}

/** A list as the language joins one, by CLDR; what is there twice once. */
function listed(items: readonly string[], language: string): Filled {
  const several = [...new Set(items.filter(Boolean))];
  const value: Value = several.length === 0 ? { kind: 'blank' } : { kind: 'list', items: several };
  return { text: printValue(value, ALL_WITH_AND, language) ?? '', value };
}

/** Stands for what is given when the paper is pressed, or the message written. */
const NOT_YET_KNOWN = '····';

const plain = (text: string): Filled => ({ text, value: { kind: 'text', text } });

function filledDay(day: string, { language }: FillContext, format: FillFormat = LONG_DAY): Filled {
  const value: Value = { kind: 'date', iso: day };
  return { text: printValue(value, format, language) ?? day, value };
}

const LONG_DAY: FillFormat = { kind: 'date', style: 'long', time: false };

/** With what stands behind the first value, around all of it, in its place or where nothing is there. */
function withRest(field: Field, first: Filled, entry: Entry, context: FillContext): Filled {
  const { more, wordsIf, before = '', after = '', whenBlank } = field;
  let { text } = first;
  for (const { between, columnId, format } of more ?? []) {
    const next = columnId === null ? '' : cellOf(columnId, format, entry, context).text;
    if (next !== '') text = text === '' ? next : text + between + next;
  }
  const held = wordsIf?.find((one) => holds(one.if, entry, context.columns));
  if (held) text = held.words;
  if (text !== '') text = before + text + after;
  else if (whenBlank?.do === 'dash') text = '–';
  else if (whenBlank?.do === 'words') text = whenBlank.words;
  return text === first.text ? first : { ...first, text, value: first.value };
}

/** True where nothing is there to be printed, so that what the field says for that case is done. */
export function isBlankField(field: Field, entry: Entry, context: FillContext): boolean {
  const { whenBlank: _, ...rest } = field;
  return (fillFields([rest], entry, context)[field.id]?.text ?? '') === '';
}

/** Rows, and as a text a line for each with its cells that are not blank. */
function filledRows(cells: readonly (readonly string[])[]): Filled {
  const rows = cells.map((row) => row.map(printable));
  const items = rows.map((row) => row.filter(Boolean).map(oneLine).join(', ')).filter(Boolean);
  return { text: items.join('\n'), value: { kind: 'list', items }, table: { rows } };
}

/** What a look-up finds in an entry's rows, each value once. */
function lookedUp(
  rows: readonly (readonly string[])[],
  { at, take, where }: LookUp,
  language: string,
): Filled {
  const asked = plainKey(where?.says ?? '');
  const found = rows.filter((row) => !where || plainKey(row[where.at] ?? '') === asked);
  const values = [...new Set(found.map((row) => oneLine(printable(row[at] ?? ''))).filter(Boolean))];
  const items = take === 'all' ? values : values.slice(...(take === 'first' ? [0, 1] : [-1]));
  const value: Value = items.length === 0 ? { kind: 'blank' } : { kind: 'list', items };
  return { text: printValue(value, ALL_WITH_AND, language) ?? '', value };
}

const ALL_WITH_AND: FillFormat = { kind: 'list', take: 'all', last: 'and' };

/** What is printed of filled values. */
export function printedOf(values: FilledValues): PrintedValues {
  return Object.fromEntries(
    Object.entries(values).map(([id, { text, table, chart, picture }]) => [
      id,
      table ? { text, ...table } : chart ? { text, chart } : picture !== undefined ? { text, picture } : text,
    ]),
  );
}

/** The texts of what is printed, for where no table can stand: subjects, names of files, plain text. */
export function textsOfPrinted(values: PrintedValues): Readonly<Record<string, string>> {
  return Object.fromEntries(
    Object.entries(values).map(([id, printed]) => [id, typeof printed === 'string' ? printed : printed.text]),
  );
}

/** The pictures of the folio that are printed, by their identities, each once. */
export const picturesPrinted = (values: PrintedValues): string[] => [
  ...new Set(
    Object.values(values).flatMap((one) =>
      typeof one === 'object' && one.picture !== undefined ? [one.picture] : [],
    ),
  ),
];

/** The texts of filled values. */
export const textsOfFilled = (values: FilledValues): Readonly<Record<string, string>> =>
  Object.fromEntries(Object.entries(values).map(([id, { text }]) => [id, text]));
