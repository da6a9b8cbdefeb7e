import { MarkingKey, MarkScheme, type Column } from '../column/index.js';
import type { Roll } from '../roll/index.js';
import { beginnings, kindsFor, kindsOf, kindTitle, roundMost } from './index.js';

let count = 0;
const newId = (): string => `n${++count}`;
const columnsOf = (...titles: string[]): Column[] =>
  titles.map((title, n) => ({ id: `c${n}`, title, type: 'number' }));
/** Titles that say level or effort are of text. */
const told = (...titles: string[]): string[] =>
  kindsOf(
    columnsOf(...titles).map((column) =>
      /level|effort/i.test(column.title) ? { ...column, type: 'text' as const } : column,
    ),
  ).map((kind) => `${kindTitle(kind)}: ${kind.members.map(({ row }) => row).join(', ')}`);

describe('columns of one kind', () => {
  test.each([
    [['English mark', 'History mark', 'Art mark', 'Name'], ['Mark: English, History, Art']],
    [
      ['Mark: English', 'Mark: History', 'Level: English', 'Level: History'],
      ['Mark: English, History', 'Level: English, History'],
    ],
    [
      ['English – effort', 'History – effort', 'English – mark', 'History – mark'],
      ['Effort: English, History', 'Mark: English, History'],
    ],
    [['Essay (40)', 'Test (40)', 'Portfolio (60)'], []],
    [
      ['English: Essay (30)', 'English: Speech (25)', 'Mathematics: Test (40)', 'Mathematics: Homework (40)'],
      ['English: Essay (30), Speech (25)', 'Mathematics: Test (40), Homework (40)'],
    ],
    [['1. Halbjahr Deutsch', '2. Halbjahr Deutsch'], ['Halbjahr Deutsch: 1., 2.']],
    [['Name', 'Class', 'Mail'], []],
    [['', ' ', ':', ' : '], []],
  ])('%j', (titles, expected) => expect(told(...titles)).toEqual(expected));

  test('each column belongs to one kind, and titles may be what they like', () => {
    const kinds = kindsOf(columnsOf('A: x', 'B: x', 'A: y', 'B: y', 'A: x'));
    const all = kinds.flatMap(({ members }) => members.map(({ column }) => column.id));
    expect(new Set(all).size).toBe(all.length);
  });

  test('kinds are for rows that most of their members are for', () => {
    const kinds = kindsOf(
      columnsOf(
        'English mark',
        'History mark',
        'Art mark',
        'English note',
        'Art note',
        'Chess hours',
        'Choir hours',
      ),
    );
    expect(kindsFor(kinds, ['English', 'History', 'Art']).map(kindTitle)).toEqual(['Mark', 'Note']);
  });
});

const scheme = MarkScheme.parse({
  kind: 'scheme',
  groups: [{ id: 'g', name: 'All', weight: '100', weigh: 'points', pieces: [] }],
  weigh: 'weights',
  states: Object.fromEntries(
    ['missing', 'excused', 'absent', 'unmarked'].map((state) => [state, { as: 'skip', words: [] }]),
  ),
});
const rollOf = (columns: Column[], cells: Record<string, string> = {}): Roll => ({
  columns,
  entries: [0, 1, 2].map((position) => ({ id: `e${position}`, position, values: cells })),
});
const names = (roll: Roll, ...shapes: Parameters<typeof beginnings>[1]): string[] =>
  beginnings(roll, shapes, newId).map(({ name }) => name);

test('marks of several subjects give a table with bars, levels and what else there is of each, and the average below', () => {
  const marks: Column[] = [
    { id: 'cl', title: 'Class' },
    ...['English', 'History', 'Art'].flatMap((subject): Column[] => [
      { id: `${subject} m`, title: `${subject} mark`, type: 'number', worked: scheme },
      {
        id: `${subject} l`,
        title: `${subject} level`,
        worked: {
          kind: 'band',
          of: `${subject} m`,
          give: 'label',
          bands: [],
          within: [],
        } as never,
      },
      { id: `${subject} e`, title: `${subject} effort` },
    ]),
    {
      id: 'avg',
      title: 'Average',
      type: 'number',
      worked: {
        kind: 'expression',
        formula: ['English', 'History', 'Art'].map((subject) => ({ columnId: `${subject} m` })),
        rounding: { places: 1, mode: 'half up' },
      } as never,
    },
  ];
  const [table, bars] = beginnings(rollOf(marks, { 'English m': '38', 'Art m': '44' }), [], newId);
  expect(table!.field.table!.columns.map(({ title, look }) => `${title} ${look.kind}`)).toEqual([
    ' strong',
    'Mark strong',
    'Against the class mean bar',
    'Level band',
    'Effort plain',
  ]);
  // A bar ends where all marks have room: 44 of 50.
  expect(table!.field.table!.columns[2]!.look).toMatchObject({ most: 50, mean: true });
  expect(table!.field.table!.within).toEqual([{ columnId: 'cl', name: 'Class' }]);
  const { rows } = table!.field.table!;
  expect(
    rows.kind === 'each' &&
      rows.rows.map(({ cells, strong }) => [
        cells.map((cell) => ('columnId' in cell ? cell.columnId : cell.kind === 'text' ? cell.text : '')),
        strong,
      ]),
  ).toEqual([
    [['English', 'English m', 'English m', 'English l', 'English e'], undefined],
    [['History', 'History m', 'History m', 'History l', 'History e'], undefined],
    [['Art', 'Art m', 'Art m', 'Art l', 'Art e'], undefined],
    [['Average', 'avg', 'avg'], true],
  ]);
  expect(bars).toMatchObject({
    name: 'Bars: Mark against the mean',
    field: { chart: { kind: 'bars', axis: 'Mark in %', most: 50, mean: true } },
  });
  expect(names(rollOf(marks))).toContain('Place among the others: Average');
});

test('schemes whose titles have nothing in common are a table too; one alone is none', () => {
  const [one, two]: Column[] = ['English', 'Mathematics'].map((title, n) => ({
    id: `s${n}`,
    title,
    type: 'number',
    worked: scheme,
  }));
  expect(names(rollOf([one!, two!]))).toEqual(['Table: Mark of 2', 'Bars: Mark against the mean']);
  expect(names(rollOf([one!]))).toEqual([]);
});

test('numbers that go on are a line', () => {
  expect(names(rollOf(columnsOf('Test 1', 'Test 2', 'Test 3')))).toEqual([
    'Table: Test of 3',
    'Bars: Test against the mean',
    'Line: Test one after the other',
  ]);
  expect(names(rollOf(columnsOf('Chess points', 'Choir points', 'Judo points')))).not.toContain(
    'Line: Points one after the other',
  );
  expect(names(rollOf(columnsOf('Test 1', 'Test 2')))).toEqual([]);
});

test('a marking key gives its questions, a joined sheet its rows without what says whose they are', () => {
  const key = MarkingKey.parse({
    kind: 'key',
    give: 'points',
    rounding: { places: 0, mode: 'half up' },
    questions: [],
  });
  const columns: Column[] = [{ id: 'k', title: 'Score', worked: key }];
  const shape = {
    id: 's',
    name: 'Clubs.csv',
    columns: [
      { id: 'a', title: 'Name' },
      { id: 'x', title: 'Code' },
      { id: 'b', title: 'Club' },
    ],
  };
  const roll = rollOf(columns);
  expect(names(roll, shape)).toEqual(['Table: answers for Score', 'Place among the others: Score']);
  const joined = {
    ...roll,
    entries: [
      {
        ...roll.entries[0]!,
        tables: {
          s: [
            ['Zoë', '7', 'Chess'],
            ['Zoë', '7', 'Choir'],
          ],
        },
      },
    ],
  };
  const own = beginnings(joined, [shape], newId).find(({ name }) => name === 'Table: rows of Clubs.csv');
  expect(own!.field.table!.columns.map(({ title, of }) => [title, of])).toEqual([['Club', { at: 2 }]]);
});

test.each([
  [38, 40],
  [100, 100],
  [101, 150],
  [0.7, 0.8],
  [5.5, 6],
  [0, 100],
  [-3, 100],
])('a bar for marks up to %d ends at %d', (most, end) => expect(roundMost(most)).toBe(end));
