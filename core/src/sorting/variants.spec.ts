import type { Entry } from '../roll/index.js';
import { isFor, type GivenTemplate, type Variant } from '../template/index.js';
import { getsOf, notesOf, sorterOf } from './index.js';

const entry = (language: string): Entry => ({ id: 'e', position: 0, values: { l: language } });
const variant = (of: string, ...says: string[]): Variant => ({ of, columnId: 'l', name: 'Language', says });
const template = (id: string, stands?: Variant): GivenTemplate => ({
  id,
  content: stands ? { variant: stands } : {},
});
const sorted = (templates: readonly GivenTemplate[], language: string): string[] =>
  sorterOf(templates)(entry(language)).templates.map(({ id }) => id);

const report = template('report');
const polish = template('polish', variant('report', 'Polish', 'pl', 'polski'));
const arabic = template('arabic', variant('report', 'Arabic', 'العربية'));
const award = template('award');

test.each([
  ['Polish', ['polish', 'award']],
  [' POLSKI ', ['polish', 'award']],
  ['العربية', ['arabic', 'award']],
  ['English', ['report', 'award']],
  ['', ['report', 'award']],
  ['Polish, English', ['report', 'award']],
])('who speaks “%s” gets %j', (language, expected) =>
  expect(sorted([report, award, polish, arabic], language)).toEqual(expected),
);

test('a variant takes its letter’s place in the order, wherever it stands itself', () =>
  expect(sorted([arabic, award, report], 'Arabic')).toEqual(['award', 'arabic']));

test('of two for the same learner the first one stands', () =>
  expect(sorted([report, polish, template('other', variant('report', 'pl'))], 'pl')).toEqual(['polish']));

test('a variant of a letter that is off, or of another variant, goes to those alone whom it is for', () => {
  expect(sorted([polish, award], 'pl')).toEqual(['polish', 'award']);
  expect(sorted([polish, award], 'en')).toEqual(['award']);
  expect(sorted([report, polish, template('again', variant('polish', 'pl'))], 'pl')).toEqual([
    'polish',
    'again',
  ]);
});

test('without variants everybody gets everything', () =>
  expect(sorted([report, award], 'pl')).toEqual(['report', 'award']));

test('a variant without a column or words is for nobody', () => {
  expect(isFor({ ...variant('report'), columnId: null, says: ['pl'] }, entry('pl'))).toBe(false);
  expect(isFor(variant('report'), entry('pl'))).toBe(false);
  expect(isFor(variant('report', ''), entry(''))).toBe(false);
});

test('who gets which is told by the template too', () => {
  const gets = getsOf([report, polish]);
  expect([report, polish].map(({ content }) => gets(content, entry('pl')))).toEqual([false, true]);
  expect([report, polish].map(({ content }) => gets(content, entry('en')))).toEqual([true, false]);
});

test('notes go to everybody, to those for whom a rule names them, or by somebody’s word alone; each in its language', () => {
  const note = (id: string, goes?: 'ruled' | 'asked', stands?: Variant) => ({
    id,
    content: { ...(goes ? { goes } : {}), ...(stands ? { variant: stands } : {}) },
  });
  const notes = [
    note('all'),
    note('gold', 'ruled'),
    note('reminder', 'asked'),
    note('pl', undefined, variant('all', 'Polish')),
    note('gold pl', undefined, variant('gold', 'Polish')),
    note('reminder pl', undefined, variant('reminder', 'Polish')),
  ];
  const columns = [{ id: 'l', title: 'Language' }];
  const sorting = {
    rules: [
      {
        id: 'a',
        if: { columnId: 'l', is: 'blank' as const, values: [] },
        then: { kind: 'out' as const, why: '' },
      },
      { id: 'b', if: null, then: { kind: 'also' as const, templates: ['t'], notes: ['gold'] } },
    ],
  };
  const given = (language: string, ruled: boolean): string[] =>
    notesOf(notes, ruled ? { sorting, columns } : undefined)(entry(language)).map(({ id }) => id);
  expect(given('English', false)).toEqual(['all']);
  expect(given('Polish', false)).toEqual(['pl']);
  expect(given('English', true)).toEqual(['all', 'gold']);
  expect(given('Polish', true)).toEqual(['pl', 'gold pl']);
  // Who is left out gets no paper, and what goes with none is nobody’s.
  expect(given('', true)).toEqual(['all']);
});
