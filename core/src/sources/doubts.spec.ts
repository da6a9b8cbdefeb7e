import { rollOf, sheetOf } from '../../test/rolls.js';
import { applyRefresh, doubtOfJoin, doubtOfRefresh, planRefresh, type JoinSpec } from './index.js';
import type { ReadVersion, VersionDoubt } from './index.js';

// That a list that arrives cut off, or a sheet of something else, is looked at before it counts: common practice, no published source.

const version = (csv: string): ReadVersion => ({ reading: {}, sheet: sheetOf(csv) });
const listOf = (count: number, row = (n: number) => `S${n},Name ${n},n${n}@home.example,8A`): string =>
  `Student number,Name,Email,Class\n${Array.from({ length: count }, (_, n) => row(n)).join('\n')}\n`;

function doubt(before: string, after: string): VersionDoubt | null {
  const roll = rollOf(before);
  const now = version(after);
  return doubtOfRefresh(roll, 'base', version(before), now, planRefresh(roll, now.sheet, 'base'));
}

describe('a newer version that nobody looks at', () => {
  test.each([
    ['the same', listOf(30), listOf(30)],
    ['with more learners', listOf(30), listOf(60)],
    ['with two fewer of few', listOf(5), listOf(3)],
    ['with a tenth fewer', listOf(150), listOf(135)],
    ['with another column', listOf(30), listOf(30).replace(/$/gm, ',x').replace('Class,x', 'Class,House')],
    ['with other classes for all', listOf(30), listOf(30).replaceAll('8A', '9A')],
    [
      'in another order',
      listOf(30),
      listOf(30, (n) => `S${29 - n},Name ${29 - n},n${29 - n}@home.example,8A`),
    ],
    ['that fills in addresses', listOf(30, (n) => `S${n},Name ${n},,8A`), listOf(30)],
  ])('%s is taken', (_, before, after) => {
    expect(doubt(before, after)).toBeNull();
  });

  test('that was cut off is looked at, and so is an empty one', () => {
    expect(doubt(listOf(150), listOf(134))).toEqual({ kind: 'missing', count: 16, of: 150 });
    expect(doubt(listOf(5), listOf(2))).toEqual({ kind: 'missing', count: 3, of: 5 });
    const roll = rollOf(listOf(30));
    const blank: ReadVersion = {
      reading: {},
      sheet: { ...sheetOf(listOf(1)), rows: [], exact: [], lines: [] },
    };
    expect(
      doubtOfRefresh(roll, 'base', version(listOf(30)), blank, planRefresh(roll, blank.sheet, 'base')),
    ).toEqual({ kind: 'missing', count: 30, of: 30 });
  });

  test('without a column, or of something else, is looked at', () => {
    const renamed = listOf(30).replace('Email', 'Contact');
    expect(doubt(listOf(30), renamed)).toEqual({ kind: 'columns', titles: ['Email'] });
    expect(doubt(listOf(30), 'Room,Size\nA1,20\n')).toEqual({ kind: 'titles' });
    expect(doubt(listOf(30), listOf(30).replace('Email', '  E-MAIL '))).toBeNull();
  });

  test('whose addresses stand with other learners is looked at', () => {
    const shifted = listOf(30, (n) => `S${n},Name ${n},n${(n + 1) % 30}@home.example,8A`);
    expect(doubt(listOf(30), shifted)).toEqual({ kind: 'people', count: 30, of: 30 });
    const three = listOf(30, (n) => `S${n},Name ${n},${n < 3 ? `new${n}` : `n${n}`}@home.example,8A`);
    expect(doubt(listOf(30), three)).toBeNull();
  });

  test('is not held up by what somebody has taken over before', () => {
    const [before, now] = [listOf(30), version(listOf(10))];
    const roll = rollOf(before);
    const plan = planRefresh(roll, now.sheet, 'base');
    const decisions = { otherConflicts: 'mine', missing: 'leave out' } as const;
    let n = 0;
    const after = applyRefresh(roll, now.sheet, 'base', plan, decisions, () => `new${++n}`);
    const next = version(listOf(11));
    expect(doubtOfRefresh(after, 'base', now, next, planRefresh(after, next.sheet, 'base'))).toBeNull();
  });
});

test('a joined sheet that lost many of its rows, or a column, is looked at', () => {
  const roll = rollOf(listOf(30));
  const spec: JoinSpec = {
    left: [roll.columns[0]!.id],
    right: ['Number'],
    near: [],
    shape: 'columns',
    summaries: [],
  };
  const marks = (count: number, title = 'Mark'): ReadVersion =>
    version(`Number,${title}\n${Array.from({ length: count }, (_, n) => `S${n},${n}`).join('\n')}\n`);
  expect(doubtOfJoin(roll, spec, marks(30), marks(28))).toBeNull();
  expect(doubtOfJoin(roll, spec, marks(20), marks(30))).toBeNull();
  expect(doubtOfJoin(roll, spec, marks(30), marks(10))).toEqual({ kind: 'missing', count: 20, of: 30 });
  expect(doubtOfJoin(roll, spec, marks(30), marks(30, 'Points'))).toEqual({
    kind: 'columns',
    titles: ['Mark'],
  });
  expect(doubtOfJoin(roll, spec, marks(30), version('A,B\n1,2\n'))).toEqual({ kind: 'titles' });
});
