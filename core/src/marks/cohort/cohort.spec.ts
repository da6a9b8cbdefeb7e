import * as formulas from '@formulajs/formulajs';
import fc from 'fast-check';
import jstat from 'jstat';
import { quantileSorted, sampleStandardDeviation, standardDeviation as spreadOfAll } from 'simple-statistics';
import type { RankTies } from '../../column/index.js';
import {
  decimalOf,
  inOrder,
  mean,
  median,
  percentiles,
  quantile,
  ranks,
  ratio,
  standardDeviation,
} from '../index.js';
import type { Ratio } from '../../ratio/index.js';

const exact = (values: readonly (number | string)[]): Ratio[] => values.map((value) => ratio(String(value)));
const numbers = fc.array(
  fc.integer({ min: 0, max: 400 }).map((n) => n / 4),
  { minLength: 2, maxLength: 40 },
);

// NIST Statistical Reference Datasets, univariate summary statistics. The certified values are from memory; the data of
// NumAcc1 to 4 follow from their descriptions.
describe('NIST StRD', () => {
  const accurate = (first: string, low: string, high: string): string[] => [
    first,
    ...Array.from({ length: 1000 }, (_, n) => (n % 2 === 0 ? low : high)),
  ];
  test.each([
    ['NumAcc1', ['10000001', '10000003', '10000002'], '10000002', '1'],
    ['NumAcc2', accurate('1.2', '1.1', '1.3'), '1.2', '0.1'],
    ['NumAcc3', accurate('1000000.2', '1000000.1', '1000000.3'), '1000000.2', '0.1'],
    ['NumAcc4', accurate('10000000.2', '10000000.1', '10000000.3'), '10000000.2', '0.1'],
  ])('%s: exact to the last digit', (_, data, middle, spread) => {
    expect(decimalOf(mean(exact(data))!)).toBe(middle);
    expect(decimalOf(standardDeviation(exact(data), 'sample')!)).toBe(spread);
  });
});

describe('against other libraries', () => {
  test('standard deviations: simple-statistics', () => {
    fc.assert(
      fc.property(numbers, (values) => {
        expect(standardDeviation(exact(values), 'sample')!.valueOf()).toBeCloseTo(
          sampleStandardDeviation(values),
          9,
        );
        expect(standardDeviation(exact(values), 'population')!.valueOf()).toBeCloseTo(spreadOfAll(values), 9);
      }),
    );
  });
  // Hyndman and Fan (1996), table 1; jstat takes the pair of plotting positions that each continuous type stands for.
  test.each([
    [4, 0, 1],
    [5, 0.5, 0.5],
    [6, 0, 0],
    [7, 1, 1],
    [8, 1 / 3, 1 / 3],
    [9, 3 / 8, 3 / 8],
  ])('quantiles of type %i: jstat', (type, alpha, beta) => {
    fc.assert(
      fc.property(numbers, fc.integer({ min: 1, max: 99 }), (values, percent) => {
        const sorted = [...values].sort((a, b) => a - b);
        const [theirs] = jstat.quantiles(sorted, [percent / 100], alpha, beta);
        expect(quantile(exact(sorted), ratio(String(percent / 100)), type)!.valueOf()).toBeCloseTo(
          theirs!,
          8,
        );
      }),
    );
  });
  test('quantiles of type 7: simple-statistics', () => {
    fc.assert(
      fc.property(numbers, fc.integer({ min: 1, max: 7 }), (values, eighths) => {
        const sorted = [...values].sort((a, b) => a - b);
        const theirs = quantileSorted(sorted, eighths / 8);
        expect(quantile(exact(sorted), ratio(String(eighths / 8)), 7)!.valueOf()).toBeCloseTo(theirs, 9);
      }),
    );
  });
  // Hyndman and Fan (1996), definitions 1 to 3, by hand: of 1 to 10, n p = 2.5 and 5.
  test.each([
    [1, '0.25', 3],
    [1, '0.5', 5],
    [2, '0.25', 3],
    [2, '0.5', 5.5],
    [3, '0.25', 2],
    [3, '0.5', 5],
    [3, '0.55', 6],
  ])('quantiles of type %i at %s: %d', (type, p, expected) => {
    expect(quantile(exact([1, 2, 3, 4, 5, 6, 7, 8, 9, 10]), ratio(p), type)!.valueOf()).toBe(expected);
  });
  test('mean ranks: jstat; competition ranks: RANK of formulajs', () => {
    fc.assert(
      fc.property(numbers, (values) => {
        expect(ranks(exact(values), 'lowest', 'mean').map(Number)).toEqual(jstat.rank(values));
        expect(ranks(exact(values), 'highest', 'competition').map(Number)).toEqual(
          values.map((value) => formulas.RANKEQ(value, values, false)),
        );
      }),
    );
  });
  test('percentiles: jstat, and PERCENTRANK of formulajs', () => {
    fc.assert(
      fc.property(numbers, (values) => {
        const at = (method: 'below' | 'at or below'): number[] =>
          percentiles(exact(values), method).map((one) => one!.valueOf());
        values.forEach((value, n) => {
          expect(at('below')[n]).toBeCloseTo(jstat.percentileOfScore(values, value, 'strict') * 100, 9);
          expect(at('at or below')[n]).toBeCloseTo(jstat.percentileOfScore(values, value, 'weak') * 100, 9);
        });
      }),
      { numRuns: 40 },
    );
  });
});

// Common practice; no published source.
test.each([
  ['competition', [1, 2, 2, 4]],
  ['dense', [1, 2, 2, 3]],
  ['ordinal', [1, 2, 3, 4]],
  ['mean', [1, 2.5, 2.5, 4]],
] as [RankTies, number[]][])('%s ranks of 90, 80, 80, 70', (ties, expected) => {
  expect(ranks(exact([90, 80, 80, 70]), 'highest', ties).map(Number)).toEqual(expected);
});

// OpenFormula (ODF 1.3 Part 4), 6.18: the examples of PERCENTRANK and QUARTILE, from memory.
test('percent ranks of 1 to 5 go from 0 to 100 in steps of 25', () => {
  expect(percentiles(exact([1, 2, 3, 4, 5]), 'inclusive').map(Number)).toEqual([0, 25, 50, 75, 100]);
  expect(percentiles(exact([1, 2, 3, 4]), 'exclusive').map(Number)).toEqual([20, 40, 60, 80]);
  expect(percentiles(exact([1, 2, 2, 3]), 'middle').map(Number)).toEqual([12.5, 50, 50, 87.5]);
});

test('a cohort of one, and of none', () => {
  expect(mean([])).toBeNull();
  expect(median([])).toBeNull();
  expect(standardDeviation(exact([5]), 'sample')).toBeNull();
  expect(standardDeviation(exact([5]), 'population')!.equals(0)).toBe(true);
  expect(percentiles(exact([5]), 'inclusive')).toEqual([null]);
  expect(ranks([], 'highest', 'dense')).toEqual([]);
});

test('marks that doubles cannot tell apart are put in their order', () => {
  const close = exact(['0.30000000000000000001', '0.3', '0.29999999999999999999']);
  expect(inOrder(close, (value) => value).map(decimalOf)).toEqual([
    '0.29999999999999999999',
    '0.3',
    '0.30000000000000000001',
  ]);
});
