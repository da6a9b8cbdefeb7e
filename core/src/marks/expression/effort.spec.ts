import fc from 'fast-check';
import { Marks } from '../index.js';
import type { Entry, Roll } from '../../roll/index.js';
import type { FormulaPart } from '../../column/index.js';
import { splitLetters } from '../letters.js';
import { ratioOf, sum, TooLong, ZERO } from '../../ratio/index.js';

/** A roll in which one column is worked out by a formula; `0`, `1` … are the columns of the values. */
function rollOf(values: readonly (readonly string[])[], formula: readonly (string | number)[]): Roll {
  const width = values[0]?.length ?? 0;
  const parts = formula.map((part): FormulaPart =>
    typeof part === 'number' ? { columnId: `c${part}` } : { text: part },
  );
  return {
    columns: [
      ...Array.from({ length: width }, (_, n) => ({ id: `c${n}`, title: `C${n}`, type: 'number' as const })),
      { id: 'w', title: 'W', worked: { kind: 'expression', formula: parts, rounding: null } },
    ],
    entries: values.map((row, position): Entry => ({
      id: `e${position}`,
      position,
      values: Object.fromEntries(row.map((text, n) => [`c${n}`, text])),
    })),
  };
}
const cellsOf = (roll: Roll) => {
  const marks = new Marks(roll, [], '2026-11-25');
  return roll.entries.map((_, at) => marks.cell('w', at));
};
const cellOf = (formula: readonly (string | number)[], ...values: string[]) =>
  cellsOf(rollOf([values], formula))[0]!;

test.each([
  ['text that grows', ['SUBSTITUTE(REPT("a"; 40000); "a"; REPT("b"; 40000))'], '#VALUE!'],
  [
    'text that grows step by step',
    [`${'CONCAT('.repeat(14)}"abcd"${'; REPT("x"; 9000))'.repeat(14)}`],
    '#VALUE!',
  ],
  ['text in lists', ['TEXTJOIN(REPT(","; 40000); FALSE; LIST(1; 2; 3); 4)'], '#VALUE!'],
  ['numbers that grow', [`${'9999999999 * '.repeat(60)}1`], '#NUM!'],
  ['a product', [`PRODUCT(${Array.from({ length: 60 }, () => '9999999999').join('; ')})`], '#NUM!'],
  ['a multiple', [`LCM(${Array.from({ length: 40 }, (_, n) => 10 ** 14 + n * 7919).join('; ')})`], '#NUM!'],
  ['a date that is none', ['DATE(99999999999; 1; 1)'], null],
  ['a bracket in a bracket', [`${'('.repeat(1900)}1${')'.repeat(1900)}`], null],
  ['a sign after a sign', [`${'-'.repeat(3999)}1`], '#NAME?'],
])('%s ends with an error in the cell', (_, formula, code) => {
  const cell = cellOf(formula);
  if (code === null) expect(['error', 'number']).toContain(cell.kind);
  else expect(cell).toMatchObject({ kind: 'error', code });
});

test('a formula of quotes alone is read at once (it has as many ways to be cut as there are quotes)', () => {
  for (const n of [59, 60, 3999]) expect(cellOf(['"'.repeat(n)]).kind).not.toBe('number');
});

test('what takes too many steps ends, and nothing catches it', () => {
  const long = 'नी'.repeat(19_000);
  const many = Array.from({ length: 40 }, () => [' + LEN(', 0, ')']).flat();
  expect(cellOf(['0', ...many], long)).toMatchObject({ kind: 'error', code: '#NUM!' });
  expect(cellOf(['IFERROR(0', ...many, '; "caught")'], long)).toMatchObject({ kind: 'error', code: '#NUM!' });
});

test('all of a roll together stays within bounds; the mean of all is worked out once', () => {
  const rows = Array.from({ length: 4_000 }, (_, n) => [String(n % 97)]);
  const means = cellsOf(rollOf(rows, ['AVERAGE(ALL(', 0, '))']));
  expect(new Set(means.map((cell) => (cell.kind === 'number' ? cell.shown : cell.kind))).size).toBe(1);
  expect(means[0]!.kind).toBe('number');
  const each = cellsOf(rollOf(rows, ['COUNTIF(ALL(', 0, '); ">" & ', 0, ' & "")']));
  expect(
    each.every((cell) => cell.kind === 'number' || (cell.kind === 'error' && cell.code === '#NUM!')),
  ).toBe(true);
});

test('sums of unlike fractions are exact, and end where they get too long', () => {
  fc.assert(
    fc.property(
      fc.array(fc.tuple(fc.integer({ min: -999, max: 999 }), fc.integer({ min: 1, max: 400 })), {
        maxLength: 40,
      }),
      (pairs) => {
        const values = pairs.map(([n, d]) => ratioOf(BigInt(n), BigInt(d)));
        const plain = values.reduce((total, value) => total.add(value), ZERO);
        expect(sum(values).equals(plain)).toBe(true);
      },
    ),
  );
  const unlike = (count: number) =>
    sum(Array.from({ length: count }, (_, n) => ratioOf(1n, BigInt(n * 7 + 1))));
  expect(String(unlike(300).d)).toHaveLength(371);
  expect(() => unlike(6_000)).toThrow(TooLong);
});

test('a mean over fractions without end is an error in its cells, and the other columns are worked out', () => {
  const rows = Array.from({ length: 3_000 }, (_, n) => [String(n + 1)]);
  const roll = rollOf(rows, ['1 / (', 0, ' * 7 + 1)']);
  const columns = [
    ...roll.columns,
    {
      id: 'm',
      title: 'M',
      worked: { kind: 'cohort' as const, of: 'w', measure: 'mean' as const, within: [] } as never,
    },
  ];
  const marks = new Marks({ ...roll, columns }, [], '2026-11-25');
  expect(marks.cell('w', 0)).toMatchObject({ kind: 'number' });
  expect(['error', 'number']).toContain(marks.cell('m', 0).kind);
});

// UAX 29; the segmenter of ICU is the second implementation.
test('letters are cut as ICU cuts them', () => {
  const segmenter = new Intl.Segmenter(undefined, { granularity: 'grapheme' });
  const theirs = (text: string): string[] => Array.from(segmenter.segment(text), ({ segment }) => segment);
  for (const text of [
    '',
    'abc',
    'e\u0301e',
    '👩‍🏫x',
    '🇬🇧🇫🇷',
    'กำ',
    'ກຳ',
    '\r\n',
    'ｶﾞ',
    '한국',
    '\u1112\u1161\u11ab',
    'क्षि',
    'i\u200dj',
    '👍🏽',
    '\u0600a',
    'ൎക',
  ])
    expect([text, splitLetters(text)]).toEqual([text, theirs(text)]);
  fc.assert(
    fc.property(fc.string({ unit: 'binary', maxLength: 30 }), (text) => {
      expect(splitLetters(text)).toEqual(theirs(text));
    }),
  );
});
