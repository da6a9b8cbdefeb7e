import { attendanceWeeks, cohortOf } from '../fill/index.js';
import type { ChartFilling } from '../template/index.js';
import { listed, roundMost, type Around, type Beginning, type MarkRow, type Series } from './series.js';

const values = (rows: readonly MarkRow[]): Extract<ChartFilling, { kind: 'bars' }>['values'] =>
  rows.map(({ row, column: { id, title } }) => ({ title: row, columnId: id, name: title }));

function axisOf(title: string, rows: readonly MarkRow[]): string {
  const percent = rows.every(
    ({ column: { type, worked } }) => type === 'percentage' || worked?.kind === 'scheme',
  );
  return percent ? `${title} in %` : title;
}

const words = (within: readonly unknown[]): { own: string; mean: string; count: string } => ({
  own: 'Own mark',
  mean: within.length > 0 ? 'Class mean' : 'Mean',
  count: 'Learners',
});

export function barsOf({ title, rows }: Series, { roll, within }: Around): Beginning {
  const most = roundMost(cohortOf(roll).extent(rows.map(({ column: { id } }) => id))?.[1] ?? 100);
  return {
    name: `Bars: ${title} against the mean`,
    hint: listed(rows.map(({ row }) => row)),
    field: {
      name: `${title} bars`,
      columnId: null,
      chart: {
        kind: 'bars',
        values: values(rows),
        mean: true,
        within,
        axis: axisOf(title, rows),
        least: 0,
        most,
        words: words(within),
      },
    },
  };
}

/** Names that are numbered, or months and terms: something that goes on. */
export const isInOrder = (rows: readonly MarkRow[]): boolean =>
  rows.length > 2 && rows.every(({ row }) => /\d|autumn|winter|spring|summer|term|week|month/i.test(row));

export const courseOf = ({ title, rows }: Series, { within }: Around): Beginning => ({
  name: `Line: ${title} one after the other`,
  hint: listed(rows.map(({ row }) => row)),
  field: {
    name: `${title} line`,
    columnId: null,
    chart: {
      kind: 'course',
      values: values(rows),
      mean: true,
      within,
      axis: axisOf(title, rows),
      words: words(within),
    },
  },
});

/** Marks of the whole: schemes, keys, and formulas over them. */
export const placesOf = ({ roll, within }: Around): Beginning[] =>
  roll.columns
    .filter(
      ({ type, worked }) => (worked?.kind === 'expression' && type === 'number') || worked?.kind === 'key',
    )
    .slice(0, 4)
    .map(({ id, title }) => ({
      name: `Place among the others: ${title}`,
      hint: 'How many have which mark, and where the learner stands',
      field: {
        name: `Place in ${title}`,
        columnId: null,
        chart: { kind: 'place', columnId: id, name: title, within: [], axis: title, words: words(within) },
      },
    }));

/** Attendance columns whose register says when each session was. */
export const weeksOf = ({ roll }: Around): Beginning[] =>
  roll.columns
    .filter(
      ({ worked }) =>
        worked?.kind === 'attendance' &&
        roll.entries.some((entry) => attendanceWeeks(worked, entry, roll.columns, 'en').length > 1),
    )
    .slice(0, 1)
    .map(({ id, title }) => ({
      name: 'Attendance by week',
      hint: 'There, late and away, a column for each week',
      field: {
        name: 'Attendance by week',
        columnId: null,
        chart: {
          kind: 'weeks',
          columnId: id,
          name: title,
          within: [],
          axis: 'Sessions by week',
          words: { own: 'Present', mean: 'Late', count: 'Away' },
        },
      },
    }));
