import type { ChartFilling } from '@scriptum/core/template';
import type { SentenceChange, SentencePart, SentencePiece } from '../ui/sentence/sentence-piece';
import { columnOptions, titleOf } from './condition-sentence';
import { move, withinFrom } from './table-change';
import { typedPart, withinPart, type SentenceLine, type TableSurroundings } from './table-sentence';

type Around = Pick<TableSurroundings, 'columns' | 'entry'>;

/** A chart as sentences: what it shows and how, and one for each of its values. */
export interface ChartSentences {
  readonly about: SentenceLine;
  readonly values: readonly SentenceLine[];
}

export function chartSentences(chart: ChartFilling, around: Around): ChartSentences {
  const values = !('values' in chart)
    ? []
    : [
        ...chart.values.map(({ title, columnId, name }, n) => ({
          id: `value ${n}`,
          label: `Value ${n + 1}`,
          pieces: [
            typedPart('title', 'what it is called', title, 'no name'),
            ': ',
            columnPart('column', 'its column', columnId, name, around),
            ' ',
            morePart(n, chart.values.length),
          ],
        })),
        { id: 'values', label: 'Another value', pieces: [addPart(around)] },
      ];
  return {
    about: { id: 'about', label: 'What the chart shows', pieces: aboutPieces(chart, around) },
    values,
  };
}

function aboutPieces(chart: ChartFilling, around: Around): SentencePiece[] {
  const pieces: SentencePiece[] =
    chart.kind === 'place'
      ? [
          'How many learners have which ',
          columnPart('column', 'the column', chart.columnId, chart.name, around),
          ', among ',
          withinPart(chart.within, around),
        ]
      : chart.kind === 'weeks'
        ? [
            'A column for each week of the register of ',
            columnPart('column', 'the attendance', chart.columnId, chart.name, registers(around)),
          ]
        : [
            kindPart(chart.kind),
            `${chart.values.length === 1 ? 'one value' : `${chart.values.length} values`}, `,
            meanPart(chart.mean),
            ...(chart.mean ? [' of ', withinPart(chart.within, around)] : []),
          ];
  pieces.push(
    '. The axis is called ',
    typedPart('axis', 'what the axis is called', chart.axis, 'nothing'),
    ...(chart.kind === 'weeks'
      ? []
      : [' and goes ', endPart('least', 'from', chart.least), ' ', endPart('most', 'to', chart.most)]),
    '. The chart is ',
    sizePart('width', chart.width, 'as wide as the text', 'wide'),
    ' and ',
    sizePart('height', chart.height, 'as high as it needs', 'high'),
    '. Its key says ',
    typedPart('own', 'what the own mark is called', chart.words?.own ?? wordOf(chart, 'own'), 'nothing'),
  );
  if (chart.kind === 'weeks')
    pieces.push(
      ', ',
      typedPart(
        'meanWord',
        'what coming late is called',
        chart.words?.mean ?? wordOf(chart, 'mean'),
        'nothing',
      ),
      ' and ',
      typedPart(
        'count',
        'what being away is called',
        chart.words?.count ?? wordOf(chart, 'count'),
        'nothing',
      ),
    );
  if ('mean' in chart && chart.mean)
    pieces.push(
      ' and ',
      typedPart('meanWord', 'what the mean is called', chart.words?.mean ?? 'Mean', 'nothing'),
    );
  if (chart.kind === 'place')
    pieces.push(' and ', typedPart('count', 'what is counted', chart.words?.count ?? 'Learners', 'nothing'));
  pieces.push('.');
  return pieces;
}

const WORDS = { own: 'Own mark', mean: 'Mean', count: 'Learners' };
const WORDS_OF_WEEKS = { own: 'Present', mean: 'Late', count: 'Away' };
const wordOf = ({ kind }: ChartFilling, word: keyof typeof WORDS): string =>
  (kind === 'weeks' ? WORDS_OF_WEEKS : WORDS)[word];

/** Only columns that are made from a register. */
const registers = ({ columns, entry }: Around): Around => ({
  columns: columns.filter(({ worked }) => worked?.kind === 'attendance'),
  entry,
});

const kindPart = (kind: 'bars' | 'course'): SentencePart => ({
  id: 'kind',
  label: 'the kind of chart',
  text: kind === 'bars' ? 'Bars for ' : 'A line through ',
  value: kind,
  options: [
    { value: 'bars', label: 'Bars' },
    { value: 'course', label: 'A line', hint: 'For values one after the other' },
  ],
});

const meanPart = (mean: boolean): SentencePart => ({
  id: 'mean',
  label: 'whether the mean is shown',
  text: mean ? 'with the mean' : 'without the mean',
  value: String(mean),
  options: [
    { value: 'true', label: 'with the mean' },
    { value: 'false', label: 'without the mean' },
  ],
});

function columnPart(
  id: string,
  label: string,
  columnId: string | null,
  name: string,
  around: Around,
): SentencePart {
  const title = titleOf(columnId, around.columns);
  return {
    id,
    label,
    text: title ?? (name || 'choose a column'),
    value: columnId ?? '',
    options: columnOptions(around),
    ...(title === null ? { look: 'missing' as const } : {}),
  };
}

const endPart = (id: string, word: string, end: number | undefined): SentencePart => ({
  id,
  label: `where the axis goes ${word}`,
  text: end === undefined ? `${word} where the values end` : `${word} ${end}`,
  value: end === undefined ? '' : String(end),
  options: [{ value: '', label: `${word} where the values end` }],
  typed: 'This number',
});

const sizePart = (id: string, mm: number | undefined, none: string, word: string): SentencePart => ({
  id,
  label: `how ${word} it is`,
  text: mm === undefined ? none : `${mm} mm ${word}`,
  value: mm === undefined ? '' : String(mm),
  options: [
    { value: '', label: none },
    ...[40, 80, 120].map((size) => ({ value: String(size), label: `${size} mm ${word}` })),
  ],
  typed: 'So many millimetres',
});

const morePart = (n: number, count: number): SentencePart => ({
  id: 'more',
  label: 'move or take out the value',
  text: '⋯',
  value: '',
  options: [
    ...(n > 0 ? [{ value: 'back', label: 'Move it up' }] : []),
    ...(n < count - 1 ? [{ value: 'on', label: 'Move it down' }] : []),
    ...(count > 1 ? [{ value: 'out', label: 'Take it out' }] : []),
  ],
  look: 'add',
});

const addPart = (around: Around): SentencePart => ({
  id: 'add',
  label: 'put in another value',
  text: '+ value',
  value: '',
  options: columnOptions(around),
  look: 'add',
});

/** The chart after a part of one of its sentences was changed. */
export function changeChart(
  chart: ChartFilling,
  lineId: string,
  change: SentenceChange,
  { columns }: Around,
): ChartFilling {
  const named = (columnId: string): { columnId: string; name: string } => ({
    columnId,
    name: columns.find(({ id }) => id === columnId)?.title ?? '',
  });
  if (lineId === 'about') return changeAbout(chart, change, named, columns);
  if (!('values' in chart)) return chart;
  const { id, value } = change;
  if (lineId === 'values') {
    const added = named(value);
    return { ...chart, values: [...chart.values, { title: added.name, ...added }].slice(0, 60) };
  }
  const n = Number(lineId.split(' ')[1]);
  if (id === 'more') return { ...chart, values: move(chart.values, n, value) };
  const part = id === 'title' ? { title: value } : named(value);
  return { ...chart, values: chart.values.map((one, at) => (at === n ? { ...one, ...part } : one)) };
}

function changeAbout(
  chart: ChartFilling,
  { id, value }: SentenceChange,
  named: (columnId: string) => { columnId: string; name: string },
  columns: Around['columns'],
): ChartFilling {
  const words = { ...(chart.kind === 'weeks' ? WORDS_OF_WEEKS : WORDS), ...chart.words };
  switch (id) {
    case 'kind':
      return !('values' in chart) ? chart : { ...chart, kind: value === 'course' ? 'course' : 'bars' };
    case 'column':
      return 'values' in chart ? chart : { ...chart, ...named(value) };
    case 'mean':
      return 'values' in chart ? { ...chart, mean: value === 'true' } : chart;
    case 'within':
      return { ...chart, within: withinFrom(value, { columns }) };
    case 'axis':
      return { ...chart, axis: value.trim() };
    case 'least':
    case 'most': {
      const end = numberFrom(value);
      return end === null || chart.kind === 'weeks' ? chart : { ...chart, [id]: end };
    }
    case 'width':
    case 'height': {
      const size = numberFrom(value);
      const least = id === 'width' ? 30 : 15;
      const fits = size === undefined || (size !== null && size >= least && size <= 400);
      return fits ? { ...chart, [id]: size } : chart;
    }
    case 'own':
    case 'count':
      return { ...chart, words: { ...words, [id]: value } };
    case 'meanWord':
      return { ...chart, words: { ...words, mean: value } };
    default:
      return chart;
  }
}

/** The number that was typed; undefined for nothing, null where it is none. */
function numberFrom(value: string): number | null | undefined {
  if (value.trim() === '') return undefined;
  const number = Number(value.replace(',', '.').replace(/\s*mm$/, ''));
  return Number.isFinite(number) && Math.abs(number) <= 1e9 ? number : null;
}
