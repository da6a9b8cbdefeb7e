import { MarkingKey, type Column } from '../column/index.js';
import type { Entry, Roll } from '../roll/index.js';
import type { ChartFilling, TableCell, TableColumn, TableFilling } from '../template/index.js';
import { cohortOf, fillFields, printedFor, type Filled, type FillContext } from './index.js';
import { emptyLetter } from '../template/index.js';

const band = {
  kind: 'band' as const,
  of: 'm',
  outOf: null,
  basis: 'thresholds' as const,
  bands: ['Strong', 'Secure', 'Beginning'].map((label) => ({ id: label, label, from: null })),
  before: null,
  asShown: false,
  near: null,
  within: [],
  ties: 'better' as const,
  least: 0,
  give: 'label' as const,
  passWords: ['Pass', 'Not yet'] as [string, string],
};
const columns: Column[] = [
  { id: 'c', title: 'Class' },
  { id: 'm', title: 'English mark', type: 'number' },
  { id: 'h', title: 'History mark', type: 'number' },
  { id: 'l', title: 'English level', worked: band },
];
const entry = (id: string, c: string, m: string, h: string, l = ''): Entry => ({
  id,
  position: 0,
  values: { c, m, h, l },
});
// The mean of 50, 60 and 71 is 60.333…; in class B only two have a mark.
const roll: Roll = {
  columns,
  entries: [
    entry('1', 'A', '50', '40.5', 'Secure'),
    entry('2', 'a ', '60', '80'),
    entry('3', 'A', '71', ''),
    entry('4', 'B', '10', '20'),
    entry('5', 'B', '20', '30'),
    { ...entry('6', 'A', '99', '99'), leftOut: 'moved away' },
    entry('7', 'A', 'ill', ''),
  ],
};
const context: FillContext = { columns, language: 'en-GB', day: '2026-11-26', cohort: cohortOf(roll) };
const column = (title: string, more: Partial<TableColumn> = {}): TableColumn => ({
  id: title,
  title,
  look: { kind: 'plain' },
  width: 'auto',
  ...more,
});
const of = (columnId: string): TableCell => ({ kind: 'column', columnId, name: columnId });
const text = (said: string): TableCell => ({ kind: 'text', text: said });
const within = [{ columnId: 'c', name: 'Class' }];
const each = (
  heads: readonly TableColumn[],
  rows: readonly TableCell[][],
  more: Partial<TableFilling> = {},
): TableFilling => ({
  columns: [...heads],
  rows: { kind: 'each', rows: rows.map((cells, n) => ({ id: `r${n}`, cells })) },
  within,
  blankRows: 'stand',
  ...more,
});
const fill = (table: TableFilling, at = 0, around: Partial<FillContext> = {}): Filled =>
  fillFields([{ id: 'f', name: 'T', columnId: null, table }], roll.entries[at]!, { ...context, ...around })[
    'f'
  ]!;
const bars = { look: { kind: 'bar' as const, most: 100, mean: true } };

describe('a table of rows that are written down', () => {
  const subjects = each(
    [
      column('Subject'),
      column('Mark'),
      column('Bar', bars),
      column('Class mean'),
      column('Level', { look: { kind: 'band' } }),
    ],
    [
      [text('English'), of('m'), of('m'), { kind: 'mean', columnId: 'm', name: '' }, of('l')],
      [text('History'), of('h'), of('h'), { kind: 'mean', columnId: 'h', name: '' }],
    ],
  );
  test('prints the entry’s own values, bars, bands, and means of those in the same class', () => {
    const { table, text: said } = fill(subjects);
    expect(table!.rows).toEqual([
      [
        'English',
        '50',
        { text: '50', bar: 0.5, mean: 0.603333, alt: 'Bar: 50 | 60.33' },
        '60.3',
        { text: 'Secure', tint: 0.5 },
      ],
      // Two have a mark in history: from a mean of two each could reckon the other's.
      ['History', '40.5', { text: '40.5', bar: 0.405, mean: null, alt: 'Bar: 40.5' }, '', ''],
    ]);
    expect(table!.numeric).toEqual([false, true, false, true, false]);
    expect(said).toBe('English, 50, 50, 60.3, Secure\nHistory, 40.5, 40.5');
  });
  test('says nothing of the others where they are not at hand', () => {
    expect(fill(subjects, 0, { cohort: undefined }).table!.rows[0]).toEqual([
      'English',
      '50',
      { text: '50', bar: 0.5, mean: null, alt: 'Bar: 50' },
      '',
      { text: 'Secure', tint: 0.5 },
    ]);
  });
  test('has a row for those alone for whom its condition holds', () => {
    const some = each(
      [column('S'), column('M')],
      [
        [text('English'), of('m')],
        [text('History'), of('h')],
      ],
    );
    if (some.rows.kind !== 'each') throw new Error('rows');
    some.rows.rows[1]!.if = { columnId: 'm', is: 'under', values: ['55'] };
    expect(fill(some, 0).table!.rows).toHaveLength(2);
    expect(fill(some, 1).table!.rows).toEqual([['English', '60']]);
  });
  test('is blank where nothing but its names would be printed; one row without values stands or is out', () => {
    const plain = each(
      [column('S'), column('M')],
      [
        [text('English'), of('m')],
        [text('History'), of('h')],
      ],
    );
    const nobody = { ...roll.entries[0]!, values: {} };
    expect(
      fillFields([{ id: 'f', name: 'T', columnId: null, table: plain }], nobody, context)['f'],
    ).toMatchObject({ text: '', table: { rows: [] } });
    expect(fill(plain, 2).table!.rows).toEqual([
      ['English', '71'],
      ['History', ''],
    ]);
    expect(fill({ ...plain, blankRows: 'out' }, 2).table!.rows).toEqual([['English', '71']]);
  });
  test('the means of others are no values of one who has none', () => {
    const means = each(
      [column('S'), column('M'), column('Mean')],
      [[text('English'), of('m'), { kind: 'mean', columnId: 'm', name: '' }]],
      { within: [] },
    );
    const nobody = { ...roll.entries[0]!, values: {} };
    const field = { id: 'f', name: 'T', columnId: null, table: means };
    expect(fillFields([field], nobody, context)['f']!.text).toBe('');
    expect(fill(means).table!.rows).toEqual([['English', '50', '42.2']]);
  });
  test('is sorted by numbers or words, what is blank last, what stands out behind all', () => {
    const rows: TableFilling['rows'] = {
      kind: 'each',
      rows: [
        { id: 'a', cells: [text('Average'), of('m')], strong: true },
        { id: 'b', cells: [text('item 10'), of('m')] },
        { id: 'c', cells: [text('item 9'), of('h')] },
        { id: 'd', cells: [text('Zero'), { kind: 'nothing' }] },
      ],
    };
    const names = (sort: TableFilling['sort']): unknown =>
      fill({ ...each([column('S'), column('M')], []), rows, ...(sort ? { sort } : {}) }).table!.rows.map(
        ([name]) => name,
      );
    expect(names(undefined)).toEqual(['Average', 'item 10', 'item 9', 'Zero']);
    expect(names({ at: 1, down: true })).toEqual(['item 10', 'item 9', 'Zero', 'Average']);
    expect(names({ at: 1, down: false })).toEqual(['item 9', 'item 10', 'Zero', 'Average']);
    expect(names({ at: 0, down: false })).toEqual(['item 9', 'item 10', 'Zero', 'Average']);
    expect(names({ at: 9, down: false })).toEqual(['Average', 'item 10', 'item 9', 'Zero']);
    expect(
      fill({ ...each([column('S'), column('M')], []), rows, sort: { at: 1, down: true } }).table!.strong,
    ).toEqual([3]);
  });
  test('adds up exactly, with the decimals that there are', () => {
    const sums = each(
      [column('S'), column('M', { total: 'sum' }), column('N', { total: 'mean' })],
      [
        [text('English'), of('m'), of('m')],
        [text('History'), of('h'), of('h')],
      ],
    );
    expect(fill(sums).table!.rows.at(-1)).toEqual(['', '90.5', '45.3']);
    expect(fill(sums).table!.strong).toEqual([2]);
    expect(fill(sums, 6).table!.rows.at(-1)).toEqual(['', '', '']);
  });
  test('a bar ends where the axis does', () => {
    const short = each([column('B', { look: { kind: 'bar', most: 20, mean: false } })], [[of('m')]]);
    expect(fill(short).table!.rows).toEqual([[{ text: '50', bar: 1, alt: 'B: 50' }]]);
    expect(fill(each([column('B', bars)], [[of('m')]]), 6).table!.rows[0]).toEqual([
      { text: 'ill', bar: null, mean: 0.603333, alt: 'B: ill | 60.33' },
    ]);
  });
});

test('a table of the entry’s own rows has those of the joined sheet, in its columns', () => {
  const table: TableFilling = {
    columns: [column('Club', { of: { at: 1 } }), column('Hours', { of: { at: 0 }, total: 'sum' })],
    rows: { kind: 'own', sourceId: 's', name: 'Clubs' },
    within: [],
    blankRows: 'stand',
  };
  const mine = {
    ...roll.entries[0]!,
    tables: {
      s: [
        ['2.5', 'Chess '],
        ['1', 'Choir'],
        ['', ''],
      ],
    },
  };
  const filled = fillFields(
    [{ id: 'f', name: 'T', columnId: null, table: { ...table, blankRows: 'out' } }],
    mine,
    context,
  )['f']!;
  expect(filled.table!.rows).toEqual([
    ['Chess', '2.5'],
    ['Choir', '1'],
    ['', '3.5'],
  ]);
  expect(filled.table!.numeric).toEqual([false, true]);
  expect(fill(table).text).toBe('');
});

test('numbers of a joined sheet are read by its sign before decimals, so that none is left out of a total', () => {
  const total = (cells: string[], decimal?: '.' | ','): unknown => {
    const table: TableFilling = {
      columns: [column('Hours', { of: { at: 0, ...(decimal ? { decimal } : {}) }, total: 'sum' })],
      rows: { kind: 'own', sourceId: 's', name: 'Hours' },
      within: [],
      blankRows: 'stand',
    };
    const mine = { ...roll.entries[0]!, tables: { s: cells.map((cell) => [cell]) } };
    const filled = fillFields([{ id: 'f', name: 'T', columnId: null, table }], mine, context)['f']!;
    return filled.table!.rows.at(-1)![0];
  };
  expect(total(['12,5', '3'])).toBe('15.5');
  expect(total(['12.5', '3'])).toBe('15.5');
  expect(total(['1.250', '2,5'], ',')).toBe('1,252.5');
});

test('a table of questions has each with the learner’s answer, the right one and what it gets', () => {
  const key = MarkingKey.parse({
    kind: 'key',
    give: 'points',
    rounding: { places: 0, mode: 'half up' },
    questions: [
      {
        id: 'q1',
        columnId: 'a1',
        points: '2',
        mode: 'text',
        answers: [{ text: 'Triangle' }],
        topic: 'Shapes',
        wrongRemark: 'Look again.',
      },
      { id: 'q2', columnId: 'a2', points: '1.5', mode: 'number', answers: [{ text: '200' }] },
      { id: 'q3', columnId: 'a3', points: '3', mode: 'hand', answers: [], handId: 'p' },
    ],
  });
  const all: Column[] = [
    { id: 'a1', title: 'Shape?' },
    { id: 'a2', title: 'Load?', type: 'number' },
    { id: 'a3', title: 'Why?' },
    { id: 'p', title: 'Points', type: 'number' },
    { id: 'k', title: 'Score', worked: key },
  ];
  const parts = [
    'question',
    'topic',
    'answer',
    'right answer',
    'verdict',
    'points',
    'out of',
    'remark',
  ] as const;
  const table: TableFilling = {
    columns: parts.map((part) => column(part, { of: { part } })),
    rows: { kind: 'questions', columnId: 'k', name: 'Score' },
    within: [],
    blankRows: 'stand',
  };
  const learner: Entry = {
    id: 'e',
    position: 0,
    values: { a1: 'square', a2: '200', a3: 'It holds.', p: '2.5' },
  };
  const filled = (values: Entry['values'], columnId: string | null = 'k'): Filled =>
    fillFields(
      [
        {
          id: 'f',
          name: 'T',
          columnId: null,
          table: { ...table, rows: { kind: 'questions', columnId, name: '' } },
        },
      ],
      { ...learner, values },
      { ...context, columns: all },
    )['f']!;
  expect(filled(learner.values).table!.rows).toEqual([
    ['Shape?', 'Shapes', 'square', 'Triangle', '✗', '0', '2', 'Look again.'],
    ['Load?', '', '200', '200', '✓', '1.5', '1.5', ''],
    ['Why?', '', 'It holds.', '', '◐', '2.5', '3', ''],
  ]);
  expect(filled({ a1: 'Triangle' }).table!.rows.map((row) => row[4])).toEqual(['✓', '–', '…']);
  expect(filled(learner.values, null).text).toBe('');
  expect(filled(learner.values, 'a1').text).toBe('');
});

describe('a chart', () => {
  const chart = (filling: ChartFilling, at = 0): Filled =>
    fillFields([{ id: 'f', name: 'C', columnId: null, chart: filling }], roll.entries[at]!, context)['f']!;
  const values = [
    { title: 'English', columnId: 'm', name: 'English mark' },
    { title: 'History', columnId: 'h', name: 'History mark' },
  ];
  test('of bars begins at nothing, and ends where the values of all end', () => {
    const filled = chart({ kind: 'bars', values, mean: true, within, axis: 'Mark' });
    expect(filled.chart).toMatchObject({ kind: 'bars', least: 0, most: 80 });
    expect(filled.text).toBe('Mark. English: 50 (Mean 60.3); History: 40.5');
  });
  test('of a line goes from the lowest to the highest of all', () => {
    expect(chart({ kind: 'course', values, mean: false, within: [], axis: '' }).chart).toMatchObject({
      least: 10,
      most: 80,
    });
    expect(
      chart({ kind: 'course', values, mean: false, within: [], axis: '', least: 0, most: 100 }).chart,
    ).toMatchObject({ least: 0, most: 100 });
  });
  test('of nothing is blank', () => {
    expect(chart({ kind: 'bars', values, mean: true, within, axis: '' }, 6).text).toBe('');
    expect(chart({ kind: 'bars', values: [], mean: true, within, axis: '' }).text).toBe('');
    expect(chart({ kind: 'place', columnId: 'm', name: '', within: [], axis: '' }, 6).text).toBe('');
    expect(chart({ kind: 'place', columnId: null, name: '', within: [], axis: '' }).text).toBe('');
  });
  test('of the place counts those who are compared in steps of a round length', () => {
    // 10, 20, 50, 60, 71: steps of 10 from 10 to 80.
    const all = chart({ kind: 'place', columnId: 'm', name: '', within: [], axis: 'Mark' });
    expect(all.chart).toMatchObject({ least: 10, most: 80, counts: [1, 1, 0, 0, 1, 1, 1], value: 50 });
    // In class A there are three, in class B too few.
    expect(chart({ kind: 'place', columnId: 'm', name: '', within, axis: '' }).chart).toMatchObject({
      least: 50,
      most: 72,
    });
    expect(chart({ kind: 'place', columnId: 'm', name: '', within, axis: '' }, 3).text).toBe('');
  });
});

test('all that a template prints is JSON, and comes back as it was', () => {
  const table = each([column('B', bars)], [[of('m')]]);
  const letter = {
    ...emptyLetter('T'),
    fields: [{ id: 'f', name: 'T', columnId: null, table }],
    body: { type: 'doc' as const, content: [{ type: 'fieldBlock' as const, attrs: { fieldId: 'f' } }] },
  };
  const printed = printedFor(letter, roll.entries[0]!, context);
  expect(JSON.parse(JSON.stringify(printed))).toEqual(printed);
  expect(printed['f']).toMatchObject({ text: '50', rows: [[{ bar: 0.5 }]] });
});
