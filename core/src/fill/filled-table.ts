import { holds } from '../condition/index.js';
import { VERDICT_SIGNS, answersOf, plainRatio, ratio, type AnswerScore } from '../marks/index.js';
import { printValue, readNumber, type FillFormat, type Value } from '../column/index.js';
import type { Entry } from '../roll/index.js';
import {
  idsOf,
  type QuestionPart,
  type TableCell,
  type TableColumn,
  type TableFilling,
} from '../template/index.js';
import { cellOf } from './filled-cell.js';
import type { BareCell, BareRow, FillContext, Filled, PrintedCell, PrintedTable } from './filled.js';
import { totalsOf } from './table-totals.js';
import { oneLine, printable } from './printable.js';

const NOTHING: BareCell = { text: '', value: { kind: 'blank' }, fixed: true };
const MEAN: FillFormat = { kind: 'number', least: 1, most: 1, thousands: true, plus: false, unit: '' };

/** The rows of a table for one entry; none where all that could be printed is blank. */
export function filledTable(table: TableFilling, entry: Entry, context: FillContext): Filled {
  const all = bareRows(table, entry, context);
  const filled = (row: BareRow): boolean => row.cells.some(({ text, fixed }) => !fixed && text !== '');
  const some = all.some(filled);
  const kept = !some ? [] : table.blankRows === 'out' ? all.filter(filled) : all;
  const rows = [
    ...sorted(kept, table, context.language),
    ...(some ? totalsOf(kept, table.columns, context.language) : []),
  ];
  const items = rows.map(({ cells }) =>
    cells
      .map(({ text }) => oneLine(text))
      .filter(Boolean)
      .join(', '),
  );
  return {
    text: items.join('\n'),
    value: { kind: 'list', items },
    table: dressed(rows, table),
  };
}

function bareRows(table: TableFilling, entry: Entry, context: FillContext): BareRow[] {
  const { rows, columns } = table;
  const within = idsOf(table.within);
  switch (rows.kind) {
    case 'each':
      return rows.rows
        .filter((row) => !row.if || holds(row.if, entry, context.columns))
        .map(({ cells, strong = false }) => ({
          strong,
          cells: columns.map((column, n) => eachCell(cells[n], column, within, entry, context)),
        }));
    case 'own':
      return (entry.tables?.[rows.sourceId] ?? []).map((row) => ({
        strong: false,
        cells: columns.map((column) => ownCell(row, column, context)),
      }));
    case 'questions': {
      const worked = context.columns.find(({ id }) => id === rows.columnId)?.worked;
      if (worked?.kind !== 'key') return [];
      return answersOf(worked, entry, context.columns).map(({ title, answer }) => ({
        strong: false,
        cells: columns.map(({ of, format }) =>
          of && 'part' in of ? questionCell(of.part, title, answer, format, context) : NOTHING,
        ),
      }));
    }
  }
}

function eachCell(
  cell: TableCell | undefined,
  { format, look }: TableColumn,
  within: readonly string[],
  entry: Entry,
  context: FillContext,
): BareCell {
  if (!cell || cell.kind === 'nothing') return NOTHING;
  if (cell.kind === 'text') return { text: cell.text, value: { kind: 'text', text: cell.text }, fixed: true };
  if (cell.columnId === null) return { ...NOTHING, fixed: false };
  const mean = context.cohort?.mean(cell.columnId, within, entry) ?? null;
  if (cell.kind === 'mean') return meanCell(mean, format, context.language);
  const { text, value } = cellOf(cell.columnId, format, entry, context);
  return {
    text,
    value,
    ...(look.kind === 'band' ? tintOf(cell.columnId, text, context) : {}),
    ...(look.kind === 'bar' && look.mean ? { mean } : {}),
  };
}

const meanCell = (mean: string | null, format: FillFormat = MEAN, language: string): BareCell =>
  mean === null
    ? { text: '', value: { kind: 'blank' }, fixed: true }
    : // What others have is there for those too who have nothing.
      { ...numberCell(mean, format, language), fixed: true };

function numberCell(decimal: string, format: FillFormat | undefined, language: string): BareCell {
  const value: Value = { kind: 'number', decimal };
  return { text: (format && printValue(value, format, language)) ?? decimal, value };
}

/** How high a band is among those of its column. */
function tintOf(columnId: string, text: string, { columns }: FillContext): { tint?: number } {
  const worked = columns.find(({ id }) => id === columnId)?.worked;
  if (worked?.kind !== 'band') return {};
  const at = worked.bands.findIndex(({ label }) => label === text);
  return at < 0 ? {} : { tint: worked.bands.length === 1 ? 0 : at / (worked.bands.length - 1) };
}

function ownCell(row: readonly string[], { of, format }: TableColumn, { language }: FillContext): BareCell {
  const text = printable((of && 'at' in of && row[of.at]) || '');
  const sign = of && 'at' in of ? of.decimal : undefined;
  const decimal =
    text === '' ? null : sign ? readNumber(text, sign) : (readNumber(text) ?? readNumber(text, ','));
  if (decimal === null) return { text, value: text === '' ? { kind: 'blank' } : { kind: 'text', text } };
  const value: Value = { kind: 'number', decimal };
  return { text: (format && printValue(value, format, language)) ?? text, value };
}

function questionCell(
  part: QuestionPart,
  title: string,
  { question, given, right, points, verdict, remark }: AnswerScore,
  format: FillFormat | undefined,
  { language }: FillContext,
): BareCell {
  const text = (said: string, fixed = false): BareCell => ({
    text: printable(said),
    value: said === '' ? { kind: 'blank' } : { kind: 'text', text: said },
    ...(fixed ? { fixed } : {}),
  });
  switch (part) {
    case 'question':
      return text(title, true);
    case 'topic':
      return text(question.topic, true);
    case 'answer':
      return text(given);
    case 'right answer':
      return text(right, true);
    case 'verdict':
      return text(VERDICT_SIGNS[verdict]);
    case 'remark':
      return text(remark);
    case 'points':
      return points === null
        ? text('')
        : numberCell(plainRatio(points, 2).replace('≈', ''), format, language);
    case 'out of':
      return { ...numberCell(plainRatio(ratio(question.points)), format, language), fixed: true };
  }
}

/** Rows in the order of a column; those that stand out stay behind the others. */
function sorted(rows: readonly BareRow[], { sort, columns }: TableFilling, language: string): BareRow[] {
  if (!sort || sort.at >= columns.length) return [...rows];
  const collator = new Intl.Collator(language, { numeric: true });
  const compare = (a: BareRow, b: BareRow): number => {
    const [one, other] = [a.cells[sort.at]!, b.cells[sort.at]!];
    // What is blank comes last, whichever way.
    if (one.text === '' || other.text === '') return Number(one.text === '') - Number(other.text === '');
    const way = sort.down ? -1 : 1;
    return one.value.kind === 'number' && other.value.kind === 'number'
      ? way * ratio(one.value.decimal).compare(ratio(other.value.decimal))
      : way * collator.compare(one.text, other.text);
  };
  return [...rows.filter(({ strong }) => !strong).sort(compare), ...rows.filter(({ strong }) => strong)];
}

function dressed(rows: readonly BareRow[], { columns }: TableFilling): PrintedTable {
  const strong = rows.flatMap((row, n) => (row.strong ? [n] : []));
  const numeric = columns.map((column, n) => {
    if (column.look.kind === 'bar') return false;
    const cells = rows.map(({ cells }) => cells[n]!).filter(({ text }) => text !== '');
    return cells.length > 0 && cells.every(({ value }) => value.kind === 'number');
  });
  return {
    rows: rows.map(({ cells }) => cells.map((cell, n) => dressedCell(cell, columns[n]!))),
    ...(strong.length > 0 ? { strong } : {}),
    ...(numeric.some(Boolean) ? { numeric } : {}),
  };
}

function dressedCell({ text, value, tint, mean }: BareCell, { look, title }: TableColumn): PrintedCell {
  if (look.kind !== 'bar' || (text === '' && mean == null)) return tint === undefined ? text : { text, tint };
  const part = (decimal: string | null | undefined): number | null =>
    decimal == null ? null : Math.min(1, Math.max(0, Number((Number(decimal) / look.most).toPrecision(6))));
  const bar = value.kind === 'number' ? part(value.decimal) : null;
  const at = part(mean);
  const said = [text || '–', ...(mean == null ? [] : [`| ${Number(Number(mean).toPrecision(4))}`])].join(' ');
  return { text, bar, ...(look.mean ? { mean: at } : {}), alt: title ? `${title}: ${said}` : said };
}
