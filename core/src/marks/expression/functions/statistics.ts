import * as formulas from '@formulajs/formulajs';
import { blank, type Cell } from '../../cell.js';
import { percentiles } from '../../cohort/ranks.js';
import { inOrder, mean, median, quantile, standardDeviation } from '../../cohort/statistics.js';
import { nearest, ratio, ratioOf, sum, type Ratio } from '../../../ratio/index.js';
import { spend } from '../effort.js';
import {
  compare,
  cellsOf,
  doubleCell,
  exactOf,
  numberCell,
  numberOf,
  numberSaid,
  one,
  stop,
  textOf,
  whole,
  wholeOf,
  type Operand,
} from '../values.js';
import { filled, likeThose, numbersIn, type Functions, type Known } from './kinds.js';
import { wildcards } from './wildcards.js';

const none = blank('no-numbers');
const orNone = (value: Ratio | null): Cell => (value === null ? none : numberCell(value));
const sorted = (given: readonly Operand[]): Ratio[] => inOrder(numbersIn(given), (value) => value);

const over = (usage: string, gives: string, of: (numbers: Ratio[]) => Cell): Known => ({
  counts: [1, 200],
  usage,
  gives,
  of: (given) => of(numbersIn(given)),
});

/** One of the numbers, or one between two; of dates it is a date. */
const pick = (usage: string, gives: string, of: (numbers: Ratio[]) => Ratio | null): Known => ({
  counts: [1, 200],
  usage,
  gives,
  of: (given) => {
    const value = of(numbersIn(given));
    return value === null ? none : likeThose(given, value);
  },
});

/**
 * A condition: a value to be alike, or a text such as `>=50`, `<>A`, `Mc*` (ODF 1.3 Part 4, 4.11.8). Numbers are compared
 * with numbers and texts with texts; a text that says a number is alike both to the number and to the text. In a text `*`
 * stands for any letters, `?` for one, `~` before either for the sign itself.
 */
function meets(condition: Operand): (cell: Cell) => boolean {
  const given = one(condition);
  const written = textOf(given);
  const [, sign = '=', rest = written] =
    given.kind === 'text' ? (/^(<=|>=|<>|<|>|=)([\s\S]*)$/.exec(written) ?? []) : [];
  const wanted = rest.trim();
  const number = given.kind === 'text' ? numberSaid(wanted) : exactOf(given);
  if (sign === '=' || sign === '<>') {
    const alike = likeness(given, wanted, number);
    return sign === '=' ? alike : (cell) => cell.kind !== 'error' && !alike(cell);
  }
  return (cell) => {
    let order: number | undefined;
    if (number) order = exactOf(cell)?.compare(number);
    else if (cell.kind === 'text') order = compare(cell, { kind: 'text', text: wanted });
    if (order === undefined) return false;
    return sign === '<' ? order < 0 : sign === '<=' ? order <= 0 : sign === '>' ? order > 0 : order >= 0;
  };
}

function likeness(given: Cell, wanted: string, number: Ratio | null): (cell: Cell) => boolean {
  if (wanted === '') return (cell) => cell.kind === 'blank';
  if (given.kind === 'truth' || /^(?:true|false)$/i.test(wanted)) {
    const truth = given.kind === 'truth' ? given.truth : /^true$/i.test(wanted);
    return (cell) => cell.kind === 'truth' && cell.truth === truth;
  }
  const pattern = wildcards(wanted);
  return (cell) => {
    const exact = exactOf(cell);
    if (exact) return number !== null && exact.equals(number);
    if (given.kind !== 'text' || cell.kind === 'blank' || cell.kind === 'error') return false;
    const said = textOf(cell);
    spend(said.length / 100);
    return pattern(said);
  };
}

/** The numbers beside the cells that meet a condition. */
function chosen([list, condition, values]: readonly Operand[]): Ratio[] {
  const test = meets(condition!);
  const beside = cellsOf([values ?? list!]);
  return cellsOf([list!]).flatMap((cell, n) => {
    const value = beside[n];
    const exact = value && test(cell) ? exactOf(value) : null;
    return exact ? [exact] : [];
  });
}

const nth = (name: string, from: 'largest' | 'smallest'): Functions => ({
  [name]: {
    counts: [2, 2],
    usage: `${name}(list; n)`,
    gives: `The ${from} but so many.`,
    of: ([list, n]: readonly Operand[]) => {
      const numbers = sorted([list!]);
      const at = wholeOf(n!);
      const value = from === 'largest' ? numbers.at(-at) : numbers[at - 1];
      return at < 1 || at > numbers.length || value === undefined
        ? stop('#NUM!', 'no-number-at', { place: at })
        : likeThose([list!], value);
    },
  },
});

const part = (name: string, usage: string, type: number, share: (given: Ratio) => Ratio): Functions => ({
  [name]: {
    counts: [2, 2],
    usage,
    gives: 'By interpolation, both ends included.',
    of: ([list, p]: readonly Operand[]) => {
      const at = share(numberOf(p!));
      const numbers = sorted([list!]);
      const n = numbers.length;
      const outside =
        at.compare(0) < 0 ||
        at.compare(1) > 0 ||
        (type === 6 && (at.mul(n + 1).compare(1) < 0 || at.mul(n + 1).compare(n) > 0));
      return outside
        ? stop('#NUM!', 'cannot-go-so-far', { name, numbers: n })
        : orNone(quantile(numbers, at, type));
    },
  },
});

const same = (value: Ratio): Ratio => value;
const quarter = (value: Ratio): Ratio => value.floor().div(4);

/** A rank among a list; a value that is not in it has none. */
function rankOf([value, list, order]: readonly Operand[], ties: 'competition' | 'mean'): Cell {
  const numbers = numbersIn([list!]);
  const own = numberOf(value!);
  const lowestFirst = order !== undefined && !numberOf(order).equals(0);
  let before = 0;
  let alike = 0;
  for (const one of numbers) {
    const difference = one.compare(own);
    if (difference === 0) alike++;
    else if (difference > 0 !== lowestFirst) before++;
  }
  if (alike === 0) return stop('#N/A', 'not-in-list', { text: null });
  const first = ratioOf(BigInt(before + 1), 1n);
  return numberCell(ties === 'mean' ? first.add(ratioOf(BigInt(alike - 1), 2n)) : first);
}

/** ODF 1.3 Part 4, 6.18. */
export const STATISTICS: Functions = {
  AVERAGE: over('AVERAGE(a; b; …)', 'The mean.', (numbers) => orNone(mean(numbers))),
  MEDIAN: pick('MEDIAN(a; b; …)', 'The middle value.', (numbers) => median(inOrder(numbers, same))),
  MODE: pick('MODE(a; b; …)', 'The most frequent value.', (numbers) => {
    const counts = new Map<string, { value: Ratio; count: number }>();
    for (const value of numbers) {
      const key = value.toFraction();
      counts.set(key, { value, count: (counts.get(key)?.count ?? 0) + 1 });
    }
    const best = [...counts.values()].sort((a, b) => b.count - a.count || a.value.compare(b.value))[0];
    return best && best.count > 1 ? best.value : stop('#N/A', 'nothing-twice');
  }),
  MIN: pick('MIN(a; b; …)', 'The smallest.', (numbers) => inOrder(numbers, same)[0] ?? null),
  MAX: pick('MAX(a; b; …)', 'The largest.', (numbers) => inOrder(numbers, same).at(-1) ?? null),
  ...nth('LARGE', 'largest'),
  ...nth('SMALL', 'smallest'),
  COUNT: over('COUNT(a; b; …)', 'How many numbers.', (numbers) => whole(numbers.length)),
  COUNTA: {
    counts: [1, 200],
    usage: 'COUNTA(a; b; …)',
    gives: 'How many are not blank.',
    of: (given) => whole(filled(given).length),
  },
  COUNTBLANK: {
    counts: [1, 200],
    usage: 'COUNTBLANK(a; b; …)',
    gives: 'How many are blank.',
    of: (given) => whole(cellsOf(given).length - filled(given).length),
  },
  COUNTIF: {
    counts: [2, 2],
    usage: 'COUNTIF(list; ">=50")',
    gives: 'How many meet a condition.',
    of: ([list, condition]) => whole(cellsOf([list!]).filter(meets(condition!)).length),
  },
  SUMIF: {
    counts: [2, 3],
    usage: 'SUMIF(list; ">=50"; values)',
    gives: 'The sum of those that meet a condition.',
    of: (given) => numberCell(sum(chosen(given))),
  },
  AVERAGEIF: {
    counts: [2, 3],
    usage: 'AVERAGEIF(list; ">=50"; values)',
    gives: 'The mean of those that meet a condition.',
    of: (given) => orNone(mean(chosen(given))),
  },
  STDEV: over('STDEV(a; b; …)', 'The standard deviation of a sample.', (numbers) =>
    spread(numbers, 'sample'),
  ),
  STDEVP: over('STDEVP(a; b; …)', 'The standard deviation of a population.', (numbers) =>
    spread(numbers, 'population'),
  ),
  VAR: over('VAR(a; b; …)', 'The variance of a sample.', (numbers) => variance(numbers, 1)),
  VARP: over('VARP(a; b; …)', 'The variance of a population.', (numbers) => variance(numbers, 0)),
  AVEDEV: over('AVEDEV(a; b; …)', 'The mean distance from the mean.', (numbers) => {
    const middle = mean(numbers);
    return orNone(middle && mean(numbers.map((value) => value.sub(middle).abs())));
  }),
  ...part('PERCENTILE', 'PERCENTILE(list; 0.9)', 7, same),
  ...part('QUARTILE', 'QUARTILE(list; 1)', 7, quarter),
  RANK: {
    counts: [2, 3],
    usage: 'RANK(value; list; 1 for lowest first)',
    gives: 'The rank in a list; alike share the best.',
    of: (given) => rankOf(given, 'competition'),
  },
  PERCENTRANK: {
    counts: [2, 2],
    usage: 'PERCENTRANK(list; value)',
    gives: 'The share of the others that are below.',
    of: ([list, value]) => {
      const numbers = sorted([list!]);
      const own = numberOf(value!);
      const at = numbers.findIndex((one) => one.compare(own) >= 0);
      if (at < 0 || (at === 0 && !numbers[0]!.equals(own))) return stop('#N/A', 'outside-list');
      const share = (place: number): Ratio =>
        percentiles(numbers, 'inclusive')[place]?.div(100) ?? ratio('1');
      if (numbers[at]!.equals(own)) return numberCell(share(at));
      const [low, high] = [numbers[at - 1]!, numbers[at]!];
      const rest = own.sub(low).div(high.sub(low));
      const step = ratio('1').div(numbers.length - 1);
      return numberCell(
        ratio(String(at - 1))
          .mul(step)
          .add(rest.mul(step)),
      );
    },
  },
  CORREL: {
    counts: [2, 2],
    usage: 'CORREL(list; list)',
    gives: 'The correlation of two lists.',
    of: ([a, b]) => {
      const [x, y] = [cellsOf([a!]), cellsOf([b!])];
      if (x.length !== y.length)
        return stop('#VALUE!', 'lists-unlike', { name: 'CORREL', lengths: [x.length, y.length] });
      const pairs = x.flatMap((cell, n): [number, number][] => {
        const [own, other] = [exactOf(cell), exactOf(y[n]!)];
        return own && other ? [[nearest(own), nearest(other)]] : [];
      });
      if (pairs.length < 2) return stop('#DIV/0!', 'correlation-few');
      return doubleCell(
        formulas.CORREL(
          pairs.map(([p]) => p),
          pairs.map(([, q]) => q),
        ) as number,
      );
    },
  },
  GEOMEAN: over('GEOMEAN(a; b; …)', 'The geometric mean.', (numbers) => {
    if (numbers.length === 0) return none;
    if (numbers.some((value) => value.compare(0) <= 0))
      return stop('#NUM!', 'needs-positive', { name: 'GEOMEAN' });
    return doubleCell(formulas.GEOMEAN(numbers.map(nearest)) as number);
  }),
  HARMEAN: over('HARMEAN(a; b; …)', 'The harmonic mean.', (numbers) => {
    if (numbers.length === 0) return none;
    if (numbers.some((value) => value.compare(0) <= 0))
      return stop('#NUM!', 'needs-positive', { name: 'HARMEAN' });
    return numberCell(ratio(String(numbers.length)).div(sum(numbers.map((value) => value.inverse()))));
  }),
};

function spread(numbers: Ratio[], of: 'sample' | 'population'): Cell {
  if (numbers.length === 0) return none;
  const result = standardDeviation(numbers, of);
  return result === null ? stop('#DIV/0!', 'deviation-of-one') : numberCell(result);
}

function variance(numbers: Ratio[], less: 0 | 1): Cell {
  const middle = mean(numbers);
  if (middle === null) return none;
  if (numbers.length - less <= 0) return stop('#DIV/0!', 'variance-of-one');
  return numberCell(
    sum(numbers.map((value) => value.sub(middle).mul(value.sub(middle)))).div(numbers.length - less),
  );
}
