import fc from 'fast-check';
import { say } from '../sentences/index.js';
import type { Entry } from '../roll/index.js';
import type { Column } from '../column/index.js';
import {
  columnsOf,
  COMPARISONS,
  Condition,
  evaluate,
  holds as isSo,
  sentence,
  VALUES,
  type CellTest,
} from './index.js';

const columns: Column[] = [
  { id: 'name', title: 'Name' },
  { id: 'mark', title: 'Mark', type: 'number', format: { decimal: ',' } },
  { id: 'share', title: 'Attendance', type: 'percentage' },
  { id: 'born', title: 'Born', type: 'date', format: { dateOrder: 'dmy' } },
  { id: 'seen', title: 'Seen', type: 'date-time' },
  { id: 'trip', title: 'Trip', type: 'yes/no' },
  { id: 'clubs', title: 'Clubs', type: 'several choices' },
  { id: 'any', title: 'Any' },
];
const entryOf = (values: Record<string, string>, exact?: Entry['exact']): Entry => ({
  id: 'e',
  position: 0,
  values,
  ...(exact ? { exact } : {}),
});
const test1 = (columnId: string, is: CellTest['is'], ...values: string[]): CellTest => ({
  columnId,
  is,
  values,
});
const told = (condition: Condition, entry: Entry): { holds: boolean; why: string } => {
  const { holds, why } = evaluate(condition, entry, columns);
  return { holds, why: say(why) };
};
const holds = (condition: Condition, entry: Entry): boolean => evaluate(condition, entry, columns).holds;

describe('one cell', () => {
  test.each<[CellTest, Record<string, string>, boolean]>([
    [test1('mark', 'at least', '70'), { mark: '70' }, true],
    [test1('mark', 'at least', '70'), { mark: '69,999' }, false],
    [test1('mark', 'over', '70'), { mark: '70,0' }, false],
    [test1('mark', 'over', '70'), { mark: '70,01' }, true],
    [test1('mark', 'under', '9'), { mark: '10' }, false],
    [test1('mark', 'at most', '-0.5'), { mark: '-0,5' }, true],
    [test1('mark', 'equal', '7.5'), { mark: '7,50' }, true],
    [test1('mark', 'unequal', '7.5'), { mark: '7,50' }, false],
    [test1('mark', 'between', '10', '20'), { mark: '20' }, true],
    [test1('mark', 'between', '10', '20'), { mark: '20,1' }, false],
    [test1('mark', 'at least', '0'), { mark: 'absent' }, false],
    [test1('mark', 'under', '100'), { mark: '' }, false],
    [test1('mark', 'unequal', '3'), { mark: '' }, true],
    [test1('share', 'at least', '90'), { share: '90 %' }, true],
    [test1('share', 'under', '90'), { share: '89.9%' }, true],
    [test1('born', 'under', '2012-09-01'), { born: '31.8.2012' }, true],
    [test1('born', 'at least', '2012-09-01'), { born: '1.9.2012' }, true],
    [test1('born', 'between', '2012-01-01', '2012-12-31'), { born: '31/12/2012' }, true],
    [test1('born', 'between', '2012-01-01', '2012-12-31'), { born: '1/1/2013' }, false],
    [test1('born', 'equal', '2012-04-03'), { born: '3 April 2012' }, true],
    [test1('born', 'over', '70'), { born: '3 April 2012' }, false],
    [test1('seen', 'equal', '2026-11-25'), { seen: '2026-11-25 08:30' }, true],
    [test1('seen', 'at least', '2026-11-25T09:00'), { seen: '2026-11-25 08:59' }, false],
    [test1('seen', 'at least', '2026-11-25T09:00'), { seen: '2026-11-25 09:00' }, true],
    [test1('trip', 'true'), { trip: 'Yes' }, true],
    [test1('trip', 'false'), { trip: 'nein' }, true],
    [test1('trip', 'true'), { trip: '' }, false],
    [test1('trip', 'false'), { trip: '' }, false],
    [test1('name', 'equal', 'zoë  QUILL'), { name: 'Zoë Quill ' }, true],
    [test1('name', 'equal', 'Zoe Quill'), { name: 'Zoë Quill' }, false],
    [test1('name', 'one of', 'Sam', 'Ilse'), { name: 'ilse' }, true],
    [test1('name', 'one of'), { name: 'ilse' }, false],
    [test1('name', 'none of', 'Sam', 'Ilse'), { name: '' }, true],
    [test1('name', 'contains', 'BRANDT'), { name: 'Ilse Brandt' }, true],
    [test1('name', 'contains not', 'brandt'), { name: 'Ilse Brandt' }, false],
    [test1('name', 'begins with', 'il'), { name: 'Ilse' }, true],
    [test1('name', 'under', 'b'), { name: 'Amara' }, true],
    [test1('name', 'blank'), { name: '  ' }, true],
    [test1('name', 'not blank'), { name: '0' }, true],
    [test1('clubs', 'contains', 'chess'), { clubs: 'Chess, Choir' }, true],
    [test1('clubs', 'contains', 'cho'), { clubs: 'Chess, Choir' }, false],
    [test1('clubs', 'one of', 'Drama', 'Choir'), { clubs: 'Chess, Choir' }, true],
    // A worked column has no type of its own; what is compared with says how it is read.
    [test1('any', 'at least', '70'), { any: '77.5' }, true],
    [test1('any', 'at least', '70'), { any: '9' }, false],
    [test1('any', 'under', '2026-01-01'), { any: '31 December 2025' }, true],
    [test1('gone', 'not blank'), { gone: 'x' }, false],
  ])('%j of %j: %s', (condition, values, expected) => {
    expect(holds(condition, entryOf(values))).toBe(expected);
    expect(Condition.parse(condition)).toEqual(condition);
  });

  test('what a workbook knows beyond the text counts', () => {
    const entry = entryOf({ mark: '70' }, { mark: 'n:69.6' });
    expect(holds(test1('mark', 'at least', '70'), entry)).toBe(false);
  });
});

test('conditions read as sentences, and say why', () => {
  const condition: Condition = {
    all: [
      test1('mark', 'at least', '70'),
      { any: [test1('name', 'one of', 'Sam', 'Ilse'), test1('trip', 'true')] },
      { not: test1('clubs', 'contains', 'Chess') },
    ],
  };
  expect(sentence(condition, columns)).toBe(
    'Mark is at least 70, (Name is one of “Sam” or “Ilse” or Trip is yes) and it is not so that Clubs contains “Chess”',
  );
  const entry = entryOf({ mark: '71,5', name: 'Ilse', trip: '', clubs: 'Choir' });
  expect(told(condition, entry)).toEqual({
    holds: true,
    why: 'Mark is 71,5, Name is Ilse and Clubs is Choir, which does not contain “Chess”',
  });
  expect(told(condition, entryOf({ mark: '' }))).toEqual({
    holds: false,
    why: 'Mark is blank, which is not at least 70',
  });
  expect(columnsOf(condition)).toEqual(['mark', 'name', 'trip', 'clubs']);
  expect(told({ all: [] }, entry)).toEqual({ holds: true, why: 'it holds for everybody' });
  expect(told({ any: [] }, entry)).toEqual({ holds: false, why: 'it holds for nobody' });
});

test('nonsense is refused before it is worked with', () => {
  expect(Condition.safeParse(test1('mark', 'between', '1')).success).toBe(false);
  expect(Condition.safeParse({ ...test1('mark', 'over', '1'), is: 'roughly' }).success).toBe(false);
  expect(Condition.safeParse(null).success).toBe(false);
  const nested = (deep: number): unknown => (deep === 0 ? test1('mark', 'blank') : { not: nested(deep - 1) });
  expect(Condition.safeParse(nested(7)).success).toBe(true);
  expect(Condition.safeParse(nested(8)).success).toBe(false);
  let endless: unknown = test1('mark', 'blank');
  for (let n = 0; n < 100_000; n++) endless = { not: endless };
  expect(Condition.safeParse(endless).success).toBe(false);
  const many = (count: number): unknown => ({
    all: Array.from({ length: count }, () => test1('mark', 'blank')),
  });
  expect(Condition.safeParse(many(299)).success).toBe(true);
  expect(Condition.safeParse(many(300)).success).toBe(false);
});

const leaf = fc
  .record({
    columnId: fc.constantFrom(...columns.map(({ id }) => id), 'gone'),
    is: fc.constantFrom(...COMPARISONS),
    pool: fc.array(fc.constantFrom('70', '-3.5', '2026-01-01', 'Ilse', '', 'yes'), {
      minLength: 2,
      maxLength: 4,
    }),
  })
  .map(({ columnId, is, pool }): CellTest => {
    const count = VALUES[is];
    return { columnId, is, values: count === 'any' ? pool : pool.slice(0, count) };
  });
const tree = fc.letrec<{ node: Condition }>((tie) => ({
  node: fc.oneof(
    { depthSize: 'small', withCrossShrink: true },
    leaf,
    fc.record({ all: fc.array(tie('node'), { maxLength: 3 }) }),
    fc.record({ any: fc.array(tie('node'), { maxLength: 3 }) }),
    fc.record({ not: tie('node') }),
  ),
})).node;
const entries = fc
  .dictionary(
    fc.constantFrom(...columns.map(({ id }) => id)),
    fc.oneof(fc.string(), fc.constantFrom('70', '7,5', '31.12.2025', 'Ilse', 'yes', 'Chess, Choir', '85 %')),
  )
  .map((values) => entryOf(values));

test('not, and, or are what they are in logic, whatever stands in the cells', () => {
  fc.assert(
    fc.property(tree, tree, entries, (a, b, entry) => {
      const [x, y] = [holds(a, entry), holds(b, entry)];
      expect(holds({ not: a }, entry)).toBe(!x);
      expect(holds({ all: [a, b] }, entry)).toBe(x && y);
      expect(holds({ any: [a, b] }, entry)).toBe(x || y);
      // De Morgan.
      expect(holds({ not: { all: [a, b] } }, entry)).toBe(holds({ any: [{ not: a }, { not: b }] }, entry));
      expect(sentence(a, columns)).not.toBe('');
      expect(told(a, entry).why).not.toBe('');
      expect(isSo(a, entry, columns)).toBe(x);
    }),
  );
});

test('numbers are in their order, exactly', () => {
  const cents = fc.integer({ min: -100_000, max: 100_000 });
  fc.assert(
    fc.property(cents, cents, (a, b) => {
      const entry = entryOf({ any: (a / 100).toFixed(2) });
      const value = (b / 100).toFixed(2);
      expect(holds(test1('any', 'under', value), entry)).toBe(a < b);
      expect(holds(test1('any', 'at most', value), entry)).toBe(a <= b);
      expect(holds(test1('any', 'equal', value), entry)).toBe(a === b);
      expect(holds(test1('any', 'over', value), entry)).toBe(a > b);
    }),
  );
});
