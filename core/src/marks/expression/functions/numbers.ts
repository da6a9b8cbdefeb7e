import { blank, type Cell } from '../../cell.js';
import { nearest, ONE, ratio, ratioOf, roundRatio, sum, ZERO, type Ratio } from '../../../ratio/index.js';
import type { RoundingMode } from '../../../column/index.js';
import { rootOf } from '../../cohort/statistics.js';
import {
  cellsOf,
  doubleCell,
  exactOf,
  numberCell,
  numberOf,
  raise,
  Stop,
  stop,
  whole,
  wholeOf,
  type Operand,
} from '../values.js';
import { checkSize } from '../effort.js';
import { numbersIn, type Functions } from './kinds.js';

/** Rounds to places, which may be below zero: -1 rounds to tens. */
export function roundPlaces(value: Ratio, places: number, mode: RoundingMode): Ratio {
  if (places > 20) return value;
  // No number has more digits before its point than that.
  places = Math.max(places, -400);
  if (places >= 0) return ratio(roundRatio(value, { places, mode }));
  const step = ratioOf(10n ** BigInt(-places), 1n);
  return ratio(roundRatio(value.div(step), { places: 0, mode })).mul(step);
}

const rounding = (name: string, mode: RoundingMode, gives: string): Functions => ({
  [name]: {
    counts: [1, 2],
    usage: `${name}(number; places)`,
    gives,
    of: ([a, places]: readonly Operand[]) =>
      numberCell(roundPlaces(numberOf(a!), places ? wholeOf(places) : 0, mode)),
  },
});

/**
 * To a multiple of a step above or below: with a mode that is not 0, away from zero or towards it (ODF 1.3 Part 4, 6.17.1 and
 * 6.17.3).
 */
const stepped = (name: string, gives: string, up: boolean): Functions => ({
  [name]: {
    counts: [1, 3],
    usage: `${name}(number; step; mode)`,
    gives,
    of: ([a, by, mode]: readonly Operand[]) => {
      const value = numberOf(a!);
      const step = by ? numberOf(by) : ONE;
      if (value.equals(0) || step.equals(0)) return numberCell(ZERO);
      if (by && value.s !== step.s) return stop('#NUM!', 'needs-like-signs', { name });
      const turned = value.s < 0n && mode !== undefined && !numberOf(mode).equals(0);
      const times = value.div(step.abs());
      return numberCell((up !== turned ? times.ceil() : times.floor()).mul(step.abs()));
    },
  },
});

const double = (name: string, gives: string, of: (value: number) => number): Functions => ({
  [name]: {
    counts: [1, 1],
    usage: `${name}(number)`,
    gives,
    of: ([a]: readonly Operand[]) => {
      const result = of(nearest(numberOf(a!)));
      return Number.isFinite(result) ? doubleCell(result) : stop('#NUM!', 'no-result', { name });
    },
  },
});

const none = blank('no-numbers');

/** A product that stays within the size of numbers. */
function times(a: Ratio, b: Ratio): Ratio {
  const product = a.mul(b);
  checkSize(product);
  return product;
}

function wholes(given: readonly Operand[]): bigint[] {
  return cellsOf(given).map((cell) => {
    const value = wholeOf(cell);
    return value < 0 ? stop('#NUM!', 'negative-none') : BigInt(value);
  });
}

const together = (given: readonly Operand[], of: (a: bigint, b: bigint) => bigint): Cell => {
  const numbers = wholes(given);
  return numbers.length === 0 ? none : numberCell(ratioOf(numbers.reduce(of), 1n));
};

function commonDivisor(a: bigint, b: bigint): bigint {
  while (b !== 0n) [a, b] = [b, a % b];
  return a;
}

function commonMultiple(a: bigint, b: bigint): bigint {
  const multiple = a === 0n || b === 0n ? 0n : (a / commonDivisor(a, b)) * b;
  checkSize(ratioOf(multiple, 1n));
  return multiple;
}

/** ODF 1.3 Part 4, 6.16 (mathematical) and 6.17 (rounding). Adding, rounding and dividing are exact. */
export const NUMBERS: Functions = {
  ABS: {
    counts: [1, 1],
    usage: 'ABS(number)',
    gives: 'Without its sign.',
    of: ([a]) => numberCell(numberOf(a!).abs()),
  },
  SIGN: {
    counts: [1, 1],
    usage: 'SIGN(number)',
    gives: '1, 0 or -1.',
    of: ([a]) => whole(Math.sign(numberOf(a!).compare(0))),
  },
  ...rounding('ROUND', 'half up', 'Rounded, half away from zero.'),
  ...rounding('ROUNDUP', 'up', 'Rounded away from zero.'),
  ...rounding('ROUNDDOWN', 'down', 'Rounded towards zero.'),
  ...rounding('TRUNC', 'down', 'Cut off after its places.'),
  ROUNDEVEN: {
    counts: [1, 2],
    usage: 'ROUNDEVEN(number; places)',
    gives: 'Rounded, half to the even digit.',
    of: ([a, places]) => numberCell(roundPlaces(numberOf(a!), places ? wholeOf(places) : 0, 'half even')),
  },
  INT: {
    counts: [1, 1],
    usage: 'INT(number)',
    gives: 'The whole number below.',
    of: ([a]) => numberCell(numberOf(a!).floor()),
  },
  ...stepped('CEILING', 'The multiple of the step above.', true),
  ...stepped('FLOOR', 'The multiple of the step below.', false),
  MROUND: {
    counts: [2, 2],
    usage: 'MROUND(number; step)',
    gives: 'The nearest multiple of the step.',
    of: ([a, by]) => {
      const step = numberOf(by!).abs();
      if (step.equals(0)) return numberCell(ZERO);
      return numberCell(roundPlaces(numberOf(a!).div(step), 0, 'half up').mul(step));
    },
  },
  EVEN: {
    counts: [1, 1],
    usage: 'EVEN(number)',
    gives: 'The next even number away from zero.',
    of: ([a]) => numberCell(roundPlaces(numberOf(a!).div(2), 0, 'up').mul(2)),
  },
  ODD: {
    counts: [1, 1],
    usage: 'ODD(number)',
    gives: 'The next odd number away from zero.',
    of: ([a]) => {
      const value = numberOf(a!);
      const sign = value.compare(0) < 0 ? -1 : 1;
      const size = value.abs();
      return numberCell(
        size.compare(1) <= 0
          ? ratio(String(sign))
          : roundPlaces(size.sub(1).div(2), 0, 'up').mul(2).add(1).mul(sign),
      );
    },
  },
  MOD: {
    counts: [2, 2],
    usage: 'MOD(number; by)',
    gives: 'What is left after dividing; it has the sign of the divisor.',
    of: ([a, b]) => {
      const by = numberOf(b!);
      if (by.equals(0)) return stop('#DIV/0!', 'divided-by-zero');
      const value = numberOf(a!);
      return numberCell(value.sub(by.mul(value.div(by).floor())));
    },
  },
  QUOTIENT: {
    counts: [2, 2],
    usage: 'QUOTIENT(number; by)',
    gives: 'The whole part of a division.',
    of: ([a, b]) => {
      const by = numberOf(b!);
      if (by.equals(0)) return stop('#DIV/0!', 'divided-by-zero');
      return numberCell(roundPlaces(numberOf(a!).div(by), 0, 'down'));
    },
  },
  POWER: {
    counts: [2, 2],
    usage: 'POWER(number; power)',
    gives: 'The number raised to a power.',
    of: ([a, b]) => raise(numberOf(a!), numberOf(b!)),
  },
  SQRT: {
    counts: [1, 1],
    usage: 'SQRT(number)',
    gives: 'The square root.',
    of: ([a]) => {
      const value = numberOf(a!);
      return value.compare(0) < 0 ? stop('#NUM!', 'negative-root') : numberCell(rootOf(value));
    },
  },
  ...double('EXP', 'e raised to the number.', Math.exp),
  ...double('LN', 'The natural logarithm.', Math.log),
  ...double('LOG10', 'The logarithm to base 10.', Math.log10),
  LOG: {
    counts: [1, 2],
    usage: 'LOG(number; base)',
    gives: 'The logarithm.',
    of: ([a, base]) => {
      const result = Math.log(nearest(numberOf(a!))) / Math.log(base ? nearest(numberOf(base)) : 10);
      return Number.isFinite(result) ? doubleCell(result) : stop('#NUM!', 'no-result', { name: 'LOG' });
    },
  },
  PI: { counts: [0, 0], usage: 'PI()', gives: '3.14159265358979.', of: () => doubleCell(Math.PI) },
  GCD: {
    counts: [1, 60],
    usage: 'GCD(a; b; …)',
    gives: 'The greatest common divisor.',
    of: (given) => together(given, commonDivisor),
  },
  LCM: {
    counts: [1, 60],
    usage: 'LCM(a; b; …)',
    gives: 'The least common multiple.',
    of: (given) => together(given, commonMultiple),
  },
  SUM: {
    counts: [1, 200],
    usage: 'SUM(a; b; …)',
    gives: 'The sum; blank where there is no number.',
    of: (given) => {
      const numbers = numbersIn(given);
      return numbers.length === 0 ? none : numberCell(sum(numbers));
    },
  },
  SUMSQ: {
    counts: [1, 200],
    usage: 'SUMSQ(a; b; …)',
    gives: 'The sum of the squares.',
    of: (given) => {
      const numbers = numbersIn(given);
      return numbers.length === 0 ? none : numberCell(sum(numbers.map((value) => value.mul(value))));
    },
  },
  PRODUCT: {
    counts: [1, 200],
    usage: 'PRODUCT(a; b; …)',
    gives: 'All multiplied.',
    of: (given) => {
      const numbers = numbersIn(given);
      return numbers.length === 0 ? none : numberCell(numbers.reduce(times, ONE));
    },
  },
  SUMPRODUCT: {
    counts: [2, 10],
    usage: 'SUMPRODUCT(list; list; …)',
    gives: 'The sum of products, place by place.',
    of: (given) => {
      const lists = given.map((operand) => cellsOf([operand]));
      if (lists.some((list) => list.length !== lists[0]!.length))
        return stop('#VALUE!', 'lists-unlike', { name: 'SUMPRODUCT', lengths: null });
      return numberCell(
        sum(
          lists[0]!.map((_, n) =>
            lists.reduce((product, list) => {
              const cell = list[n]!;
              if (cell.kind === 'error') throw new Stop(cell);
              const exact = exactOf(cell);
              return exact ? times(product, exact) : ZERO;
            }, ONE),
          ),
        ),
      );
    },
  },
};
