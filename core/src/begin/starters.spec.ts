import { MarkingKey, type Column } from '../column/index.js';
import { cohortOf, printedFor } from '../fill/index.js';
import {
  emptyLetterhead,
  fieldsOf,
  isMatched,
  type Letter,
  signOffsOf,
  Template,
} from '../template/index.js';
import { inlinesOf } from '../text/index.js';
import type { Roll } from '../roll/index.js';
import { starters, type House, type Starter } from './index.js';

let count = 0;
const newId = (): string => `n${++count}`;
const marks: Column[] = [
  { id: 'n', title: 'Name' },
  { id: 'c', title: 'Class' },
  { id: 'e', title: 'English mark', type: 'number' },
  { id: 'h', title: 'History mark', type: 'number' },
  { id: 'a', title: 'Art mark', type: 'number' },
  { id: 'r', title: "Tutor's remark" },
  { id: 'q', title: 'Which shape holds?' },
];
const key: Column = {
  id: 'k',
  title: 'Score',
  type: 'number',
  worked: MarkingKey.parse({
    kind: 'key',
    give: 'points',
    rounding: { places: 0, mode: 'half up' },
    questions: [{ id: 'q1', columnId: 'q', points: '1', mode: 'text', answers: [{ text: 'Triangle' }] }],
  }),
};
const rollOf = (columns: Column[]): Roll => ({
  columns,
  entries: ['Zoë', 'محمد السعدي', 'Wilhelmina Featherstonehaugh-Marchbanks'].map((n, position) => ({
    id: `e${position}`,
    position,
    values: { n, c: '8A', e: '50', h: '60', a: '70', r: 'Well done.', q: 'Square', given: n, family: 'X' },
    worked: { k: '0' },
  })),
});
const BARE = { school: 'Thistlequay School', letterhead: null };
const all = (columns: Column[], house: House = BARE): Starter[] =>
  starters(rollOf(columns), [], house, newId);
const one = (columns: Column[], id: string): Letter =>
  all(columns).find((starter) => starter.id === id)!.template as Letter;
const said = (letter: Letter): string =>
  [...inlinesOf(letter.body)].map((inline) => (inline.type === 'text' ? inline.text : '')).join(' ');

test.each([
  ['a roll of marks', marks],
  ['a roll with a marking key', [...marks, key]],
  [
    'names in two columns',
    [
      { id: 'given', title: 'First name' },
      { id: 'family', title: 'Surname' },
    ] as Column[],
  ],
  ['a roll without names', [{ id: 'x', title: 'X' }] as Column[]],
  ['nobody', []],
])('for %s each is a letter whose fields are all filled', (_, columns) => {
  const made = all(columns);
  expect(made.length).toBeGreaterThanOrEqual(8);
  expect(new Set(made.map(({ id }) => id)).size).toBe(made.length);
  for (const { template: letter, name } of made) {
    expect(Template.parse(letter)).toEqual(letter);
    expect(letter.name).toBe(name);
    for (const id of fieldsOf(letter))
      expect(isMatched(letter.fields.find((field) => field.id === id)!)).toBe(true);
  }
});

test('the quick paper has every column with its value, but the hidden ones', () => {
  const hidden: Column = { id: 'x', title: 'Hidden', hidden: true };
  const letter = one([...marks, hidden], 'quick');
  const roll = rollOf(marks);
  const printed = printedFor(letter, roll.entries[0]!, {
    columns: marks,
    day: '2026-11-26',
    cohort: cohortOf(roll),
  });
  const table = Object.values(printed).find((value) => typeof value === 'object');
  expect(table).toMatchObject({
    rows: [
      ['Class', '8A'],
      ['English mark', '50'],
      ['History mark', '60'],
      ['Art mark', '70'],
      ["Tutor's remark", 'Well done.'],
      ['Which shape holds?', 'Square'],
    ],
  });
});

test('a report has a table of the marks, a feedback letter the answers; each says what is missing where there are none', () => {
  expect(one(marks, 'report').fields.some(({ table }) => table?.rows.kind === 'each')).toBe(true);
  expect(said(one([marks[0]!], 'report'))).toContain('Put in a table of marks');
  expect(one([...marks, key], 'feedback').fields.some(({ table }) => table?.rows.kind === 'questions')).toBe(
    true,
  );
  expect(said(one(marks, 'feedback'))).toContain('Which shape holds?');
});

test('where the school has a letterhead they stand on it and are signed by its first sign-off', () => {
  const letterhead = {
    ...emptyLetterhead('Thistlequay School'),
    signOffs: [{ id: 'head', name: 'Ada Holm', role: 'Head', picture: null, family: 'Great Vibes' as const }],
  };
  const house = { school: 'Thistlequay School', letterhead };
  const on = all(marks, house);
  expect(on.every(({ template }) => Template.safeParse(template).success)).toBe(true);
  const home = on.find(({ id }) => id === 'home')!.template as Letter;
  expect(home.letterhead).toEqual({ print: 'printed', looks: true });
  expect(signOffsOf(home)).toEqual(['head']);
  expect(said(home)).not.toContain('Your name');
  // A festive page has a look of its own.
  expect(on.find(({ id }) => id === 'praise')!.template.letterhead).toBeUndefined();
  expect(all(marks).every(({ template }) => template.letterhead === undefined)).toBe(true);
});
