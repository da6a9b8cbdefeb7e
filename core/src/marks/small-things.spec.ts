import {
  AttendanceColumn,
  BandColumn,
  CohortColumn,
  MarkingKey,
  MarkScheme,
  PLAIN_CODES,
  RemarkColumn,
  type Column,
  type Worked,
} from '../column/index.js';
import type { Roll } from '../roll/index.js';
import {
  beginWorked,
  cellText,
  copyScheme,
  describeWorked,
  evaluate,
  guessOutOf,
  Marks,
  parseFormula,
  plainQuestion,
  plainRatio,
  ratio,
  readFormula,
  roundRatio,
  schemeCopies,
  type Cell,
} from './index.js';
import { number, truth } from './cell.js';
import { scientific } from '../ratio/index.js';

let count = 0;
const newId = (): string => `n${++count}`;
const rounding = { places: 1, mode: 'half up' as const };
const rollOf = (columns: Column[], ...rows: Record<string, string>[]): Roll => ({
  columns,
  entries: rows.map((values, position) => ({ id: `e${position}`, position, values })),
});
function work(written: string): Cell {
  const read = readFormula(written, []);
  const parsed = read.ok ? parseFormula(read.value) : read;
  if (!parsed.ok) throw new Error(parsed.problem.message);
  return evaluate(parsed.value, {
    cell: () => ({ kind: 'blank' }),
    all: () => [],
    own: () => [],
    today: '2026-11-26',
  });
}
const shown = (written: string): string => {
  const cell = work(written);
  return cell.kind === 'error' ? cell.code : cellText(cell);
};
const reason = (written: string): Record<string, unknown> => {
  const cell = work(written);
  return cell.kind === 'error' ? cell.reason.parameters : {};
};

test('cells as they are written', () => {
  expect([truth(true), truth(false), number(ratio('-1.5'), null)].map((cell) => cellText(cell))).toEqual([
    'Yes',
    'No',
    '-1.5',
  ]);
  expect(cellText(number(ratio('-1.5'), null), ',')).toBe('-1,5');
  expect(cellText({ kind: 'date', iso: '2026-11-26T09:30:00' })).toBe('2026-11-26 09:30:00');
  expect(cellText({ kind: 'list', items: ['a', 'b'] })).toBe('a, b');
});

test('numbers as programs write them', () => {
  const said = (written: string): string | null => {
    const value = scientific(written);
    return value && value.toFraction();
  };
  expect(['1.5E-3', '-1.5e3', '+2', '.5', '5.', '1e308', '12'].map(said)).toEqual([
    '3/2000',
    '-1500',
    '2',
    '1/2',
    '5',
    `1${'0'.repeat(308)}`,
    '12',
  ]);
  expect(['', '.', 'e5', '1e309', '1e-309', '1e', 'x', '1.2.3'].map(said)).toEqual(Array(8).fill(null));
});

// IEEE 754-2019, 4.3: ties to away, ties to even, toward zero; away from zero.
test.each([
  ['2.5', '3', '2', '2', '3'],
  ['3.5', '4', '4', '3', '4'],
  ['-2.5', '-3', '-2', '-2', '-3'],
  ['2.4', '2', '2', '2', '3'],
  ['2.6', '3', '3', '2', '3'],
  ['2', '2', '2', '2', '2'],
])('%s is rounded half up to %s, half even to %s, down to %s, up to %s', (value, ...expected) => {
  const modes = ['half up', 'half even', 'down', 'up'] as const;
  expect(modes.map((mode) => roundRatio(ratio(value), { places: 0, mode }))).toEqual(expected);
});

test('what is cut off is said to be', () => {
  expect(plainRatio(ratio('1').div(3))).toBe('≈0.3333');
  expect(plainRatio(ratio('12.50'))).toBe('12.5');
  expect(plainRatio(ratio('100'))).toBe('100');
});

test('functions at their edges', () => {
  expect(shown('ROUND(1.2345678901234567890123; 21)')).toBe(shown('1.2345678901234567890123'));
  expect(shown('ROUND(155; -1)')).toBe('160');
  expect(shown('ROUND(155; -3)')).toBe('0');
  expect([shown('MODE(1;2;2;1)'), shown('MODE(3;2)'), shown('MODE(2;2;3;3;3)')]).toEqual(['1', '#N/A', '3']);
  expect(shown('FIND("b";"abcb";3)')).toBe('4');
  expect([shown('FIND("b";"abc";0)'), shown('FIND("x";"abc")')]).toEqual(['#VALUE!', '#VALUE!']);
  expect(String(reason(`FIND("${'x'.repeat(60)}";"abc")`)['text'])).toHaveLength(40);
  expect(String(reason(`IF("${'x'.repeat(80)}";1;2)`)['text'])).toHaveLength(60);
  expect([
    shown('IF("TRUE";1;2)'),
    shown('IF("false";1;2)'),
    shown('IF(0;1;2)'),
    shown('IF(0.1;1;2)'),
  ]).toEqual(['1', '2', '2', '1']);
  expect([shown('50%'), shown('50%%'), shown('2^3^2'), shown('-2^2')]).toEqual(['0.5', '0.005', '64', '4']);
});

describe('what is worked out', () => {
  const scheme = MarkScheme.parse({
    ...beginWorked('scheme', rollOf([{ id: 'm', title: 'Test (20)', type: 'number' }]), null, newId).worked,
  });
  const kinds: [worked: Worked, name: string][] = [
    [scheme, 'mark scheme'],
    [
      BandColumn.parse({
        kind: 'band',
        of: 'm',
        basis: 'thresholds',
        bands: [{ id: 'b', label: 'A', from: null }],
        before: null,
        near: null,
        give: 'label',
      }),
      'bands',
    ],
    [
      BandColumn.parse({
        kind: 'band',
        of: 'm',
        basis: 'thresholds',
        bands: [{ id: 'b', label: 'A', from: null }],
        before: null,
        near: null,
        give: 'distance',
      }),
      'to the next band',
    ],
    [MarkingKey.parse({ kind: 'key', questions: [], give: 'points', rounding }), 'marking key'],
    [RemarkColumn.parse({ kind: 'remark', of: 'm', bank: [] }), 'remark'],
    [
      AttendanceColumn.parse({
        kind: 'attendance',
        from: { kind: 'sessions', columnIds: [] },
        codes: PLAIN_CODES,
        lateIsPresent: true,
        give: 'rate',
        rounding,
      }),
      'attendance',
    ],
    [{ kind: 'part', of: 'm', part: 'steps', rounding } as Worked, 'steps'],
    [{ kind: 'part', of: 'm', part: 'review', rounding } as Worked, 'part'],
  ];
  test.each(kinds.map(([worked, name]) => [name, worked] as const))('%s', (name, worked) =>
    expect(describeWorked(worked)).toBe(name),
  );
  test('a comparison is called by what it gives', () => {
    const names = (['rank', 'mean', 'quarter'] as const).map((measure) =>
      describeWorked(CohortColumn.parse({ kind: 'cohort', of: 'm', measure })),
    );
    expect(new Set(names).size).toBe(3);
  });
});

test('a question begins as nothing is known of it', () => {
  expect(plainQuestion({ id: 'c', title: 'Q1' }, 'q')).toEqual({
    id: 'q',
    columnId: 'c',
    points: '1',
    mode: 'text',
    answers: [],
    refused: [],
    tolerance: '0',
    scoring: 'all',
    capitals: false,
    accents: false,
    punctuation: false,
    topic: '',
    rightRemark: '',
    wrongRemark: '',
  });
  expect(plainQuestion({ id: 'c', title: 'Q1', type: 'number' }, 'q').mode).toBe('number');
  expect(plainQuestion({ id: 'c', title: 'Q1', type: 'several choices' }, 'q').mode).toBe('several');
});

test('a marking key begins with the columns that ask something', () => {
  const columns: Column[] = [
    { id: 'n', title: 'What is your name?', role: 'name' },
    { id: 'a', title: 'Which shape holds? ' },
    { id: 'b', title: ' Question 2' },
    { id: 'c', title: 'q.3 Why' },
    { id: 'd', title: 'Quarter 1' },
    { id: 'e', title: 'Really?', worked: { kind: 'part', of: 'a', part: 'steps', rounding } as Worked },
    { id: 'f', title: 'Remark' },
  ];
  const key = beginWorked('key', rollOf(columns), null, newId).worked;
  expect(key?.kind === 'key' && key.questions.map(({ columnId }) => columnId)).toEqual(['a', 'b', 'c']);
});

test('a scheme is copied to the subjects that have the same pieces, by the subject that most of its own are of', () => {
  const titles = [
    'English: Essay (20)',
    'English: Test (40)',
    'Homework (10)',
    'History: Essay (20)',
    'History: Test (50)',
    'Art: Folder (60)',
  ];
  const columns = titles.map((title): Column => ({ id: title, title, type: 'number' }));
  const piece = (columnId: string) => ({ id: newId(), columnId, outOf: '20' });
  const scheme = MarkScheme.parse({
    ...beginWorked('scheme', rollOf(columns), null, newId).worked,
    groups: [
      {
        id: 'g',
        name: 'All',
        weight: '100',
        weigh: 'points',
        pieces: [titles[2]!, titles[0]!, titles[1]!].map(piece),
      },
    ],
  });
  const column: Column = { id: 's', title: 'English mark', type: 'number', worked: scheme };
  const roll = rollOf([...columns, column]);
  const copies = schemeCopies(scheme, roll);
  expect(copies.map((copy) => copy.subject)).toEqual(['History']);
  const made = copyScheme(column, scheme, 'History', roll, newId);
  expect(
    made.worked?.kind === 'scheme' && made.worked.groups[0]!.pieces.map(({ columnId }) => columnId),
  ).toContain('History: Essay (20)');
});

test('bands by shares go by those who are in, in each group', () => {
  const band = BandColumn.parse({
    kind: 'band',
    of: 'm',
    basis: 'shares',
    bands: [
      { id: 'a', label: 'Upper', from: null, share: '50' },
      { id: 'b', label: 'Lower', from: null, share: '50' },
    ],
    before: null,
    near: null,
    within: ['c'],
    give: 'label',
  });
  const columns: Column[] = [
    { id: 'm', title: 'Mark', type: 'number' },
    { id: 'c', title: 'Class' },
    { id: 'w', title: 'Band', worked: band },
  ];
  const roll = rollOf(
    columns,
    { m: '1', c: 'A' },
    { m: '2', c: 'A' },
    { m: '3', c: 'B' },
    { m: '4', c: 'B' },
    { m: '9', c: 'A' },
  );
  const out = {
    ...roll,
    entries: roll.entries.map((entry, n) => (n === 4 ? { ...entry, leftOut: 'moved' } : entry)),
  };
  const worked = new Marks(out, [], '2026-11-26').withWorked();
  expect(worked.entries.slice(0, 4).map((entry) => entry.worked?.['w'])).toEqual([
    'Lower',
    'Upper',
    'Lower',
    'Upper',
  ]);
});

test('what a mark is out of is read out of its title', () => {
  const out = (title: string): string =>
    guessOutOf({ id: 'm', title, type: 'number' }, rollOf([{ id: 'm', title, type: 'number' }], { m: '12' }));
  expect(out('Test (20)')).toBe('20');
  expect(out('Test / 30')).toBe('30');
});
