import { tickStep } from 'd3-array';
import type { ChartData, ChartPoint, ChartWords } from '../chart/index.js';
import { sayPlace, sayPoints, sayWeeks } from '../chart/index.js';
import { printValue } from '../column/index.js';
import type { Entry } from '../roll/index.js';
import { idsOf, type ChartFilling } from '../template/index.js';
import { attendanceWeeks } from './attendance-weeks.js';
import { cellOf } from './filled-cell.js';
import type { FillContext, Filled } from './filled.js';

/** Steps in which learners are counted, about. */
const STEPS = 8;
const BLANK: Filled = { text: '', value: { kind: 'blank' } };

/** A chart for one entry, with its numbers as its text; blank where there is nothing to draw. */
export function filledChart(chart: ChartFilling, entry: Entry, context: FillContext): Filled {
  const data =
    chart.kind === 'place'
      ? placeData(chart, entry, context)
      : chart.kind === 'weeks'
        ? weeksData(chart, entry, context)
        : pointsData(chart, entry, context);
  if (data === null) return BLANK;
  const text =
    data.kind === 'place' ? sayPlace(data) : data.kind === 'weeks' ? sayWeeks(data) : sayPoints(data);
  return { text, value: { kind: 'text', text }, chart: data };
}

const numberIn = (
  columnId: string,
  entry: Entry,
  context: FillContext,
): { value: number | null; text: string } => {
  const { value, text } = cellOf(columnId, undefined, entry, context);
  return value.kind === 'number'
    ? { value: Number(value.decimal), text: text.replace(/^-/, '\u2212') }
    : { value: null, text: '' };
};

function pointsData(
  {
    kind,
    values,
    within,
    axis,
    words,
    mean: withMean,
    least,
    most,
  }: Extract<ChartFilling, { kind: 'bars' | 'course' }>,
  entry: Entry,
  context: FillContext,
): ChartData | null {
  const points = values.map(({ title, columnId }): ChartPoint => {
    const own = columnId === null ? { value: null, text: '' } : numberIn(columnId, entry, context);
    const mean =
      withMean && columnId !== null ? (context.cohort?.mean(columnId, idsOf(within), entry) ?? null) : null;
    const format = { kind: 'number' as const, least: 0, most: 1, thousands: true, plus: false, unit: '' };
    const said = mean && printValue({ kind: 'number', decimal: mean }, format, context.language);
    return { title, ...own, mean: mean === null ? null : Number(mean), meanText: said ?? '' };
  });
  if (points.every(({ value }) => value === null)) return null;
  const extent = context.cohort?.extent(values.flatMap(({ columnId }) => columnId ?? []));
  const all = [
    ...points.flatMap(({ value, mean }) => [value, mean]).filter((one) => one !== null),
    ...(extent ?? []),
  ];
  // Bars are long by their value only where they begin at nothing.
  const from = Math.min(least ?? Math.min(...all), ...(kind === 'bars' ? [0] : []));
  const to = Math.max(most ?? Math.max(...all), ...(kind === 'bars' ? [0] : []));
  return { kind, points, axis, words: wordsFor(words), least: Math.min(from, to), most: Math.max(from, to) };
}

function placeData(
  { columnId, within, axis, words, least, most }: Extract<ChartFilling, { kind: 'place' }>,
  entry: Entry,
  context: FillContext,
): ChartData | null {
  if (columnId === null) return null;
  const { value, text } = numberIn(columnId, entry, context);
  const others = context.cohort?.valuesOf(columnId, idsOf(within), entry) ?? null;
  if (value === null || others === null) return null;
  const { from, to, counts } = spreadOf(others, least, most);
  return { kind: 'place', counts, value, text, axis, words: wordsFor(words), least: from, most: to };
}

/** How many values are in each of equal steps. */
interface Spread {
  readonly from: number;
  readonly to: number;
  readonly counts: readonly number[];
}

/** Kept for as long as the values are: all papers of a roll ask for the same ones. */
const spreads = new WeakMap<readonly number[], Map<string, Spread>>();

function spreadOf(values: readonly number[], least: number | undefined, most: number | undefined): Spread {
  let known = spreads.get(values);
  if (!known) spreads.set(values, (known = new Map<string, Spread>()));
  const key = `${least} ${most}`;
  let spread = known.get(key);
  if (!spread) known.set(key, (spread = spreadNow(values, least, most)));
  return spread;
}

function spreadNow(values: readonly number[], least: number | undefined, most: number | undefined): Spread {
  let [lowest, highest] = [Infinity, -Infinity];
  for (const value of values) {
    lowest = Math.min(lowest, value);
    highest = Math.max(highest, value);
  }
  const { from, to, count } = steps(Math.min(least ?? lowest, lowest), Math.max(most ?? highest, highest));
  const counts = Array.from({ length: count }, () => 0);
  for (const one of values) {
    const at = Math.floor(((one - from) / (to - from)) * count + 1e-9);
    counts[Math.min(count - 1, at)]!++;
  }
  return { from, to, counts };
}

function weeksData(
  { columnId, axis, words }: Extract<ChartFilling, { kind: 'weeks' }>,
  entry: Entry,
  { columns, language }: FillContext,
): ChartData | null {
  const worked = columns.find(({ id }) => id === columnId)?.worked;
  if (worked?.kind !== 'attendance') return null;
  const weeks = attendanceWeeks(worked, entry, columns, language);
  if (weeks.length === 0) return null;
  const most = Math.max(...weeks.map(({ present, late, away }) => present + late + away));
  const said = { own: 'Present', mean: 'Late', count: 'Away', ...words };
  return { kind: 'weeks', weeks, axis, words: said, least: 0, most };
}

/** Where steps of a round length begin and end that hold all values, and how many they are: about eight. */
function steps(least: number, most: number): { from: number; to: number; count: number } {
  const step = tickStep(least, Math.max(most, least + 1e-9), STEPS) || 1;
  const from = Math.floor(least / step + 1e-9) * step;
  // The highest value belongs to the last step.
  const count = Math.max(1, Math.ceil((most - from) / step - 1e-9));
  return { from: plain(from), to: plain(from + count * step), count };
}

const plain = (value: number): number => Number(value.toPrecision(12));

const wordsFor = (words: ChartFilling['words']): ChartWords => ({
  own: words?.own ?? 'Own mark',
  mean: words?.mean ?? 'Mean',
  count: words?.count ?? 'Learners',
});
