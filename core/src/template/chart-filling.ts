import { z } from 'zod';
import { idsOf, NamedColumn, Within } from './table-filling.js';

/** One value of a chart with what it is called. */
export const ChartValue = z.object({ title: z.string().max(300), ...NamedColumn.shape });
export type ChartValue = z.infer<typeof ChartValue>;

const word = z.string().max(60);

const size = {
  /** Millimetres; as wide as the text where nothing is said. */
  width: z.number().min(30).max(400).optional(),
  height: z.number().min(15).max(400).optional(),
  within: Within,
  /** What the values are called on the axis: `Mark in %`. */
  axis: z.string().max(100),
  /** What the key calls them. */
  words: z.object({ own: word, mean: word, count: word }).optional(),
};
const bounds = {
  /** Where the axis ends; both by the values of all learners where nothing is said. */
  least: z.number().min(-1e9).max(1e9).optional(),
  most: z.number().min(-1e9).max(1e9).optional(),
};

/** A chart that a field prints, from the learner's own numbers. */
export const ChartFilling = z.discriminatedUnion('kind', [
  /** A bar for each value; with the mean of those who are compared as a mark on it. */
  z.object({
    kind: z.literal('bars'),
    ...size,
    ...bounds,
    values: z.array(ChartValue).max(60),
    mean: z.boolean(),
  }),
  /** Values one after the other, such as marks over time; with the means as a second line. */
  z.object({
    kind: z.literal('course'),
    ...size,
    ...bounds,
    values: z.array(ChartValue).max(60),
    mean: z.boolean(),
  }),
  /** Where the learner stands among those who are compared: how many have which mark. */
  z.object({ kind: z.literal('place'), ...size, ...bounds, ...NamedColumn.shape }),
  /** A column for each week of a register, which is that of an attendance column: there, late, away. */
  z.object({ kind: z.literal('weeks'), ...size, ...NamedColumn.shape }),
]);
export type ChartFilling = z.infer<typeof ChartFilling>;

/** The columns that a chart names, with what they were called. */
export const namedInChart = (chart: ChartFilling): NamedColumn[] => [
  ...('values' in chart ? chart.values : [chart]),
  ...chart.within,
];

/** Every column that a chart draws or compares by. */
export const columnsOfChart = (chart: ChartFilling): string[] => idsOf(namedInChart(chart));

/** Every text that people wrote into a chart. */
export const wordsOfChart = (chart: ChartFilling): string[] => [
  chart.axis,
  ...Object.values(chart.words ?? {}),
  ...('values' in chart ? chart.values.map(({ title }) => title) : []),
];

/** The chart with each column that it names looked up anew. */
export function mapChartColumns(
  chart: ChartFilling,
  match: <T extends NamedColumn>(one: T) => T,
): ChartFilling {
  const within = chart.within.map(match);
  return 'values' in chart
    ? { ...chart, within, values: chart.values.map(match) }
    : { ...match(chart), within };
}
