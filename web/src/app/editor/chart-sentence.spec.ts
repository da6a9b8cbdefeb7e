import type { Column } from '@scriptum/core/column';
import { ChartFilling } from '@scriptum/core/template';
import type { SentencePart } from '../ui/sentence/sentence-piece';
import { changeChart, chartSentences } from './chart-sentence';
import type { SentenceLine } from './table-sentence';

const columns: Column[] = [
  { id: 'cl', title: 'Class' },
  { id: 'e', title: 'English mark', type: 'number' },
  { id: 'h', title: 'History mark', type: 'number' },
];
const around = { columns, entry: undefined };
const bars: ChartFilling = {
  kind: 'bars',
  values: [{ title: 'English', columnId: 'e', name: 'English mark' }],
  mean: true,
  within: [],
  axis: 'Mark in %',
  most: 100,
};
const lines = (chart: ChartFilling): SentenceLine[] => {
  const { about, values } = chartSentences(chart, around);
  return [about, ...values];
};
const told = (chart: ChartFilling, id: string): string =>
  lines(chart)
    .find((line) => line.id === id)!
    .pieces.map((piece) => (typeof piece === 'string' ? piece : piece.text))
    .join('');
const choose = (chart: ChartFilling, ...steps: [line: string, id: string, value: string][]): ChartFilling =>
  steps.reduce((one, [line, id, value]) => {
    const offered = lines(one)
      .find((each) => each.id === line)!
      .pieces.find((piece): piece is SentencePart => typeof piece !== 'string' && piece.id === id)!;
    expect(offered.options.some((option) => option.value === value) || offered.typed !== undefined).toBe(
      true,
    );
    return ChartFilling.parse(changeChart(one, line, { id, value }, around));
  }, chart);

test('a chart is told in sentences', () => {
  expect(told(bars, 'about')).toBe(
    'Bars for one value, with the mean of all learners. The axis is called “Mark in %” and goes from where the values end to 100. The chart is as wide as the text and as high as it needs. Its key says “Own mark” and “Mean”.',
  );
  expect(told(bars, 'value 0')).toBe('“English”: English mark ⋯');
  const place: ChartFilling = { kind: 'place', columnId: 'e', name: '', within: [], axis: '' };
  expect(told(place, 'about')).toBe(
    'How many learners have which English mark, among all learners. The axis is called nothing and goes from where the values end to where the values end. The chart is as wide as the text and as high as it needs. Its key says “Own mark” and “Learners”.',
  );
  expect(lines(place)).toHaveLength(1);
});

test('each thing that can be said of it', () => {
  const chart = choose(
    bars,
    ['about', 'kind', 'course'],
    ['about', 'within', 'cl'],
    ['about', 'axis', 'Points'],
    ['about', 'least', '-5,5'],
    ['about', 'most', ''],
    ['about', 'width', '80'],
    ['about', 'height', '42 mm'],
    ['about', 'own', 'Your mark'],
    ['about', 'meanWord', 'Class'],
    ['values', 'add', 'h'],
    ['value 1', 'title', 'History'],
    ['value 1', 'more', 'back'],
  );
  expect(chart).toMatchObject({
    kind: 'course',
    within: [{ columnId: 'cl', name: 'Class' }],
    axis: 'Points',
    least: -5.5,
    width: 80,
    height: 42,
    words: { own: 'Your mark', mean: 'Class' },
    values: [{ title: 'History', columnId: 'h' }, { title: 'English' }],
  });
  expect('values' in chart && chart.most).toBeUndefined();
  const without = choose(
    chart,
    ['about', 'mean', 'false'],
    ['value 0', 'column', 'e'],
    ['value 1', 'more', 'out'],
    ['about', 'width', ''],
  );
  expect(without).toMatchObject({ mean: false, values: [{ title: 'History', columnId: 'e' }] });
  expect(without.width).toBeUndefined();
  const place = choose(
    { kind: 'place', columnId: null, name: '', within: [], axis: '' },
    ['about', 'column', 'h'],
    ['about', 'count', 'Pupils'],
  );
  expect(place).toMatchObject({ columnId: 'h', name: 'History mark', words: { count: 'Pupils' } });
});

test('what cannot be is not taken', () => {
  for (const [id, value] of [
    ['width', '10'],
    ['height', '900'],
    ['most', 'many'],
    ['column', 'e'],
    ['unknown', ''],
  ] as const)
    expect(changeChart(bars, 'about', { id, value }, around)).toEqual(bars);
});

test('a register by weeks is read as a sentence', () => {
  const weeks: ChartFilling = {
    kind: 'weeks',
    columnId: 'a',
    name: 'Attendance',
    within: [],
    axis: 'Sessions by week',
    words: { own: 'Present', mean: 'Late', count: 'Away' },
  };
  expect(told(weeks, 'about')).toBe(
    'A column for each week of the register of Attendance. The axis is called “Sessions by week”. The chart is as wide as the text and as high as it needs. Its key says “Present”, “Late” and “Away”.',
  );
  expect(choose(weeks, ['about', 'meanWord', 'Zu spät'], ['about', 'height', '40'])).toMatchObject({
    words: { own: 'Present', mean: 'Zu spät', count: 'Away' },
    height: 40,
  });
});
