import { kindsOf } from '@scriptum/core/begin';
import { MarkingKey, type Column } from '@scriptum/core/column';
import { TableFilling } from '@scriptum/core/template';
import type { SentencePart } from '../ui/sentence/sentence-piece';
import { changeTable } from './table-change';
import { tableSentences, type SentenceLine, type TableSurroundings } from './table-sentence';

const key = MarkingKey.parse({
  kind: 'key',
  give: 'points',
  rounding: { places: 0, mode: 'half up' },
  questions: [],
});
const columns: Column[] = [
  { id: 'cl', title: 'Class' },
  ...['English', 'History', 'Art'].flatMap((subject): Column[] => [
    { id: `${subject} m`, title: `${subject} mark`, type: 'number' },
    { id: `${subject} l`, title: `${subject} level` },
  ]),
  { id: 'k', title: 'Quiz', worked: key },
];
let count = 0;
const around: TableSurroundings = {
  columns,
  entry: { id: 'e', position: 0, values: { cl: '8A' } },
  kinds: kindsOf(columns),
  sheet: () => ['Club', 'Hours'],
  newId: () => `n${++count}`,
};
const marks: TableFilling = {
  columns: [
    { id: 'a', title: 'Subject', look: { kind: 'strong' }, width: { share: 1 } },
    { id: 'b', title: 'Mark', look: { kind: 'plain' }, width: 'auto' },
  ],
  rows: {
    kind: 'each',
    rows: ['English', 'History'].map((subject) => ({
      id: subject,
      cells: [
        { kind: 'text', text: subject },
        { kind: 'column', columnId: `${subject} m`, name: `${subject} mark` },
      ],
    })),
  },
  within: [{ columnId: 'cl', name: 'Class' }],
  blankRows: 'stand',
};
const lines = (table: TableFilling): SentenceLine[] => {
  const { about, columns: heads, rows } = tableSentences(table, around);
  return [about, ...heads, ...rows];
};
const told = (table: TableFilling, id: string): string =>
  lines(table)
    .find((line) => line.id === id)!
    .pieces.map((piece) => (typeof piece === 'string' ? piece : piece.text))
    .join('');
const part = (table: TableFilling, lineId: string, id: string): SentencePart =>
  lines(table)
    .find((line) => line.id === lineId)!
    .pieces.find((piece): piece is SentencePart => typeof piece !== 'string' && piece.id === id)!;
/** What was chosen one after the other; each step is one that the sentence offers. */
const choose = (table: TableFilling, ...steps: [line: string, id: string, value: string][]): TableFilling =>
  steps.reduce((one, [line, id, value]) => {
    const offered = part(one, line, id);
    expect(offered.options.some((option) => option.value === value) || offered.typed !== undefined).toBe(
      true,
    );
    return TableFilling.parse(changeTable(one, line, { id, value }, around));
  }, table);

test('a table of marks is told in sentences', () => {
  expect(told(marks, 'about')).toBe(
    'A table of 2 rows, in their own order. A row without values stands all the same. The mean is that of those with the same Class.',
  );
  expect(told(marks, 'column 0')).toBe(
    '“Subject” prints the name of the row in bold, one share of the rest wide. ⋯',
  );
  expect(told(marks, 'column 1')).toBe(
    '“Mark” prints “Mark” of each plainly, with the decimals that there are, as wide as it needs, no total. ⋯',
  );
  expect(told(marks, 'row 0')).toBe('“English” · English mark ⋯');
});

test('each thing that can be said of the rows', () => {
  const table = choose(
    marks,
    ['about', 'sort', '1 down'],
    ['about', 'blank', 'out'],
    ['about', 'within', ''],
  );
  expect(table).toMatchObject({ sort: { at: 1, down: true }, blankRows: 'out', within: [] });
  expect(told(table, 'about')).toContain('by Mark, from the highest');
  expect(choose(table, ['about', 'sort', '']).sort).toBeUndefined();
  expect(choose(table, ['about', 'within', 'cl']).within).toEqual([{ columnId: 'cl', name: 'Class' }]);
});

test('each thing that can be said of a column', () => {
  const table = choose(
    marks,
    ['column 1', 'title', 'Against the class'],
    ['column 1', 'look', 'bar'],
    ['column 1', 'most', '50'],
    ['column 1', 'mean', 'false'],
    ['column 1', 'width', '44,5 mm'],
  );
  expect(table.columns[1]).toMatchObject({
    title: 'Against the class',
    look: { kind: 'bar', most: 50, mean: false },
    width: { mm: 44.5 },
  });
  const numbers = choose(
    marks,
    ['column 1', 'decimals', '1'],
    ['column 1', 'total', 'mean'],
    ['column 1', 'width', 'share 2'],
  );
  expect(numbers.columns[1]).toMatchObject({
    format: { kind: 'number', least: 1, most: 1 },
    total: 'mean',
    width: { share: 2 },
  });
  expect(choose(numbers, ['column 1', 'decimals', ''], ['column 1', 'total', ''])).toMatchObject({
    columns: [{}, { title: 'Mark' }],
  });
});

test('what cannot be is not taken', () => {
  for (const [id, value] of [
    ['width', '2 mm'],
    ['width', 'wide'],
    ['most', '-3'],
    ['unknown', 'x'],
  ] as const) {
    const bar = choose(marks, ['column 1', 'look', 'bar']);
    expect(changeTable(bar, 'column 1', { id, value }, around)).toEqual(bar);
  }
  expect(changeTable(marks, 'column 7', { id: 'title', value: 'x' }, around)).toEqual(marks);
  expect(changeTable(marks, 'elsewhere', { id: 'title', value: 'x' }, around)).toEqual(marks);
});

test('a column prints another kind of columns, row by row', () => {
  const level = part(marks, 'column 1', 'what').options.find(({ label }) => label === '“Level” of each')!;
  const table = choose(marks, ['column 1', 'what', level.value]);
  expect(table.rows).toMatchObject({
    rows: [{ cells: [{}, { columnId: 'English l' }] }, { cells: [{}, { columnId: 'History l' }] }],
  });
  expect(told(table, 'column 1')).toMatch(/prints “Level” of each plainly, as wide as it needs\. /);
  const mean = part(marks, 'columns', 'add').options.find(({ label }) => label === 'the mean of “Mark”')!;
  const more = choose(marks, ['columns', 'add', mean.value]);
  expect(more.columns[2]).toMatchObject({ title: 'Mean of Mark' });
  expect(more.rows).toMatchObject({
    rows: [{ cells: [{}, {}, { kind: 'mean', columnId: 'English m' }] }, {}],
  });
  expect(told(more, 'column 2')).toContain('prints the mean of “Mark”');
});

test('columns move with their cells and the order that goes by them', () => {
  const sorted = choose(marks, ['about', 'sort', '1 down'], ['column 1', 'more', 'back']);
  expect(sorted.columns.map(({ title }) => title)).toEqual(['Mark', 'Subject']);
  expect(sorted.sort).toEqual({ at: 0, down: true });
  expect(sorted.rows).toMatchObject({
    rows: [{ cells: [{ columnId: 'English m' }, { text: 'English' }] }, {}],
  });
  const without = choose(sorted, ['column 0', 'more', 'out']);
  expect(without.sort).toBeUndefined();
  expect(without.rows).toMatchObject({ rows: [{ cells: [{ text: 'English' }] }, {}] });
  // The last one stays.
  expect(part(without, 'column 0', 'more').options).toEqual([]);
});

test('rows are put in like the others, moved, set in bold and taken out', () => {
  const more = choose(marks, ['rows', 'add', 'Art m']);
  expect(told(more, 'row 2')).toBe('“Art” · Art mark ⋯');
  const changed = choose(
    more,
    ['row 2', 'more', 'back'],
    ['row 1', 'more', 'strong'],
    ['row 0', 'cell 0', 'English language'],
    ['row 2', 'cell 1', ''],
  );
  expect(changed.rows).toMatchObject({
    rows: [
      { cells: [{ text: 'English language' }, {}] },
      { strong: true, cells: [{ text: 'Art' }, {}] },
      { cells: [{ text: 'History' }, { kind: 'nothing' }] },
    ],
  });
  expect(choose(changed, ['row 1', 'more', 'out']).rows).toMatchObject({
    rows: [{}, { cells: [{ text: 'History' }, {}] }],
  });
  const gone = choose(marks, ['row 0', 'cell 1', 'Art m']);
  expect(
    lines({
      ...gone,
      rows: {
        kind: 'each',
        rows: [
          {
            id: 'r',
            cells: [
              { kind: 'text', text: 'x' },
              { kind: 'column', columnId: 'gone', name: 'Old mark' },
            ],
          },
        ],
      },
    }).find(({ id }) => id === 'row 0')!.pieces,
  ).toContainEqual(expect.objectContaining({ text: 'Old mark (gone)', look: 'missing' }));
});

test('rows of questions and of a joined sheet', () => {
  const questions: TableFilling = {
    columns: [{ id: 'q', title: 'Q', look: { kind: 'plain' }, width: 'auto', of: { part: 'question' } }],
    rows: { kind: 'questions', columnId: null, name: 'Quiz' },
    within: [],
    blankRows: 'stand',
  };
  expect(part(questions, 'about', 'key').look).toBe('missing');
  const table = choose(
    questions,
    ['about', 'key', 'k'],
    ['columns', 'add', 'right answer'],
    ['column 0', 'what', 'topic'],
  );
  expect(told(table, 'about')).toMatch(/^A row for each question of Quiz, /);
  expect(table.columns).toMatchObject([
    { of: { part: 'topic' } },
    { title: 'Right answer', of: { part: 'right answer' } },
  ]);
  const own: TableFilling = {
    ...questions,
    columns: [{ ...questions.columns[0]!, of: { at: 0 } }],
    rows: { kind: 'own', sourceId: 's', name: 'Clubs.csv' },
  };
  const clubs = choose(own, ['columns', 'add', '1'], ['column 0', 'what', '1']);
  expect(told(clubs, 'about')).toMatch(/^A row for each row that the learner has in Clubs\.csv, /);
  expect(clubs.columns).toMatchObject([{ of: { at: 1 } }, { title: 'Hours', of: { at: 1 } }]);
  expect(told(clubs, 'column 1')).toContain('“Hours” prints Hours');
});

test('a row stands for some only, and for everybody again', () => {
  const some = choose(
    marks,
    ['row 0', 'more', 'if'],
    ['row 0', 'if 0', 'cl'],
    ['row 0', 'is 0', 'equal'],
    ['row 0', 'with 0', '8B'],
  );
  expect(told(some, 'row 0')).toContain('⋯ Stands only if Class is 8B.');
  expect(told(some, 'row 1')).not.toContain('Stands');
  expect(choose(some, ['row 0', 'stands', 'always'])).toEqual(marks);
});
