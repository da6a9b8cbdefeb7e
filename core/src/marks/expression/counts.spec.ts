import { evaluate, FUNCTIONS, type Surroundings } from '../index.js';
import { ratio } from '../../ratio/index.js';
import type { Tree } from './parse.js';

/**
 * How many values each function takes, at least and at most: those of ODF 1.3 Part 4, chapter 6, where the standard has the
 * function (from memory). Lists that it leaves open end at 60 or 200, and with them the work that one cell can ask for.
 */
const COUNTS: readonly (readonly [least: number, most: number, names: string])[] = [
  [
    1,
    1,
    'ABS SIGN INT EVEN ODD SQRT EXP LN LOG10 NOT ISBLANK ISNUMBER ISTEXT ISLOGICAL ISERROR ISNA LEN UPPER LOWER PROPER TRIM VALUE UNICHAR UNICODE DATEVALUE YEAR MONTH DAY HOUR MINUTE SECOND ISOWEEKNUM ITEMS N',
  ],
  [1, 2, 'ROUND ROUNDUP ROUNDDOWN TRUNC ROUNDEVEN LOG LEFT RIGHT WEEKDAY OWN'],
  [1, 3, 'CEILING FLOOR FIXED'],
  [
    2,
    2,
    'MROUND MOD QUOTIENT POWER LARGE SMALL COUNTIF PERCENTILE QUARTILE PERCENTRANK CORREL IFERROR IFNA IFBLANK REPT EXACT NUMBERVALUE DAYS EDATE EOMONTH INDEX',
  ],
  [0, 0, 'PI NA TODAY'],
  [1, 60, 'GCD LCM AND OR XOR CONCATENATE CONCAT'],
  [
    1,
    200,
    'SUM SUMSQ PRODUCT AVERAGE MEDIAN MODE MIN MAX COUNT COUNTA COUNTBLANK STDEV STDEVP VAR VARP AVEDEV GEOMEAN HARMEAN LIST',
  ],
  [2, 10, 'SUMPRODUCT'],
  [2, 3, 'SUMIF AVERAGEIF RANK IF FIND SEARCH NETWORKDAYS MATCH'],
  [2, 60, 'IFS CHOOSE'],
  [3, 60, 'SWITCH TEXTJOIN'],
  [3, 3, 'MID DATE DATEDIF LOOKUP'],
  [3, 4, 'SUBSTITUTE'],
  [4, 4, 'REPLACE'],
  [1, 5, 'ALL'],
];

const around: Surroundings = {
  cell: () => ({ kind: 'blank' }),
  all: () => [],
  own: () => [],
  today: '2026-11-26',
};
const takes = (name: string, count: number): boolean => {
  const one: Tree = { kind: 'number', value: ratio('1') };
  const result = evaluate({ kind: 'call', name, given: Array.from({ length: count }, () => one) }, around);
  return result.kind !== 'error' || result.reason.code !== 'function-values';
};
const all = COUNTS.flatMap(([least, most, names]) =>
  names.split(' ').map((name) => [name, least, most] as const),
);

test.each(all)('%s takes %d to %d', (name, least, most) => {
  expect([least - 1, least, most, most + 1].map((count) => count < 0 || takes(name, count))).toEqual([
    least === 0,
    true,
    true,
    false,
  ]);
});

test('each function is among them', () =>
  expect(all.map(([name]) => name).sort()).toEqual(Object.keys(FUNCTIONS).sort()));
