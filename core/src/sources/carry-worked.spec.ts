import { type Column, Worked } from '../column/index.js';
import { carryWorked } from './index.js';

const given = (id: string, sourceId?: string): Column => ({
  id,
  title: id,
  ...(sourceId ? { sourceId } : {}),
});
const formula = (id: string, ...inputs: string[]): Column => ({
  id,
  title: id,
  worked: Worked.parse({
    kind: 'expression',
    formula: inputs.map((columnId) => ({ columnId })),
    rounding: null,
  }),
});
const ids = (columns: readonly Column[]): string[] => columns.map(({ id }) => id);

const before = [
  given('maths', 's'),
  given('art', 's'),
  given('own'),
  given('idle'),
  formula('fromMaths', 'maths'),
  formula('fromArt', 'art'),
  formula('fromBoth', 'fromMaths', 'fromArt'),
  formula('fromOwn', 'own', 'fromMaths'),
];

test('what stands on columns that are there again comes along, with the columns that it needs', () => {
  expect(ids(carryWorked(before, [given('maths', 't'), given('art', 't')]))).toEqual([
    'own',
    'fromMaths',
    'fromArt',
    'fromBoth',
    'fromOwn',
  ]);
});

test('what stands on a column that is gone goes, and all that stands on it', () => {
  expect(ids(carryWorked(before, [given('maths', 't')]))).toEqual(['own', 'fromMaths', 'fromOwn']);
  expect(carryWorked(before, [given('other', 't')])).toEqual([]);
});

test('a column of the sheet with the same title takes the place', () => {
  const sheet = [given('maths', 't'), { id: 'x', title: 'fromMaths', sourceId: 't' }];
  expect(ids(carryWorked(before, sheet))).toEqual([]);
});
