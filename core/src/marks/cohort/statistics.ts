import { Decimal } from 'decimal.js';
import { exactRoot, ratio, ratioOf, sum, type Ratio } from '../../ratio/index.js';

/** Digits that roots are worked out to; results are rounded for people long before. */
const Root = Decimal.clone({ precision: 50, rounding: Decimal.ROUND_HALF_EVEN });

/** The arithmetic mean, exact; null for none. */
export const mean = (values: readonly Ratio[]): Ratio | null =>
  values.length === 0 ? null : sum(values).div(values.length);

/**
 * The standard deviation. `sample` divides by n - 1, `population` by n.
 *
 * @returns null for no values, and for a sample of one. The variance is exact; its root has 40 decimal places.
 */
export function standardDeviation(values: readonly Ratio[], spread: 'sample' | 'population'): Ratio | null {
  const by = spread === 'sample' ? values.length - 1 : values.length;
  const middle = mean(values);
  if (by <= 0 || middle === null) return null;
  const variance = sum(values.map((value) => square(value.sub(middle)))).div(by);
  return rootOf(variance);
}

const square = (value: Ratio): Ratio => value.mul(value);

/** The square root of a number that is not negative: exact where there is one, else to 40 decimal places. */
export function rootOf(value: Ratio): Ratio {
  const exact = exactRoot(value, 2);
  if (exact) return exact;
  const root = new Root(String(value.n)).div(new Root(String(value.d))).sqrt();
  return ratio(root.toFixed(40).replace(/\.?0+$/, ''));
}

/**
 * A quantile by one of the nine ways of R. J. Hyndman and Y. Fan, “Sample quantiles in statistical packages”, The American
 * Statistician 50 (1996) 361–365. Type 7 is what spreadsheets call inclusive, type 6 exclusive; type 2 is the mean of two
 * where it falls between.
 *
 * @param sorted lowest first.
 * @param p from 0 to 1.
 * @returns null for no values.
 */
export function quantile(sorted: readonly Ratio[], p: Ratio, type = 7): Ratio | null {
  const n = sorted.length;
  if (n === 0) return null;
  const at = (k: number): Ratio => sorted[Math.min(Math.max(k, 1), n) - 1]!;
  const half = ratio('0.5');
  if (type <= 3) {
    const np = type === 3 ? p.mul(n).sub(half) : p.mul(n);
    const j = Number(np.floor());
    const rest = np.sub(j);
    if (!rest.equals(0)) return at(j + 1);
    if (type === 1) return at(j);
    if (type === 2)
      return at(j)
        .add(at(j + 1))
        .div(2);
    return j % 2 === 0 ? at(j) : at(j + 1);
  }
  const np = position(n, p, type);
  const j = Number(np.floor());
  const rest = np.sub(j);
  return at(j).add(rest.mul(at(j + 1).sub(at(j))));
}

/** n p + m, with the m of the type. */
function position(n: number, p: Ratio, type: number): Ratio {
  const np = p.mul(n);
  switch (type) {
    case 4:
      return np;
    case 5:
      return np.add(ratio('0.5'));
    case 6:
      return np.add(p);
    case 7:
      return np.add(1).sub(p);
    case 8:
      return np.add(p.add(1).div(3));
    default:
      return np.add(p.div(4).add(ratioOf(3n, 8n)));
  }
}

/** The middle value, or the mean of the two in the middle. */
export const median = (sorted: readonly Ratio[]): Ratio | null => quantile(sorted, ratio('0.5'), 2);

/** Lowest first. Doubles decide where they can tell, exact numbers where not. */
export function inOrder<T>(items: readonly T[], of: (item: T) => Ratio): T[] {
  return items
    .map((item) => ({ item, exact: of(item), near: of(item).valueOf() }))
    .sort((a, b) =>
      Math.abs(a.near - b.near) > 1e-9 * Math.abs(a.near) ? a.near - b.near : a.exact.compare(b.exact),
    )
    .map(({ item }) => item);
}
