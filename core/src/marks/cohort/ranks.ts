import { ratio, ratioOf, wholeRatio, type Ratio } from '../../ratio/index.js';
import type { PercentileMethod, RankTies } from '../../column/index.js';
import { inOrder } from './statistics.js';

/**
 * The rank of each value, in the order of the values.
 *
 * `competition`: alike share the best rank and the next ones are skipped (1 2 2 4). `dense`: none is skipped (1 2 2 3).
 * `ordinal`: each its own, in the order of the roll (1 2 3 4). `mean`: alike share the mean of their places (1 2.5 2.5 4).
 */
export function ranks(values: readonly Ratio[], first: 'highest' | 'lowest', ties: RankTies): Ratio[] {
  const lowestFirst = inOrder(
    values.map((_, n) => n),
    (n) => values[n]!,
  );
  const result = new Array<Ratio>(values.length);
  const order = first === 'lowest' ? lowestFirst : lowestFirst.reverse();
  let dense = 0;
  for (let from = 0; from < order.length;) {
    let to = from + 1;
    while (to < order.length && values[order[to]!]!.equals(values[order[from]!]!)) to++;
    dense++;
    const alike = order.slice(from, to).sort((a, b) => a - b);
    alike.forEach((n, k) => {
      result[n] =
        ties === 'ordinal'
          ? wholeRatio(from + k + 1)
          : ties === 'dense'
            ? wholeRatio(dense)
            : ties === 'mean'
              ? ratioOf(BigInt(from + 1 + to), 2n)
              : wholeRatio(from + 1);
    });
    from = to;
  }
  return result;
}

/**
 * The percentile of each value: percent of 100 of the others, or of all, that it stands above.
 *
 * @returns null where the method has none: `inclusive` for a single value.
 */
export function percentiles(values: readonly Ratio[], method: PercentileMethod): (Ratio | null)[] {
  const n = values.length;
  const order = inOrder(
    values.map((_, at) => at),
    (at) => values[at]!,
  );
  const result = new Array<Ratio | null>(n).fill(null);
  for (let from = 0; from < n;) {
    let to = from + 1;
    while (to < n && values[order[to]!]!.equals(values[order[from]!]!)) to++;
    const share = percentileOf(from, to - from, n, method);
    for (let at = from; at < to; at++) result[order[at]!] = share;
    from = to;
  }
  return result;
}

function percentileOf(below: number, alike: number, n: number, method: PercentileMethod): Ratio | null {
  const percent = (above: number, of: number): Ratio => ratio(String(above)).mul(100).div(of);
  switch (method) {
    case 'below':
      return percent(below, n);
    case 'at or below':
      return percent(below + alike, n);
    case 'middle':
      return percent(2 * below + alike, 2 * n);
    case 'inclusive':
      return n < 2 ? null : percent(below, n - 1);
    case 'exclusive':
      return percent(below + 1, n + 1);
  }
}
