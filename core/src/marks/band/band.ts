import type { Band, BandColumn } from '../../column/index.js';
import { ratio, roundRatio, ZERO, type Ratio } from '../../ratio/index.js';

/** Where a mark falls on a scale. */
export interface Banded {
  readonly band: Band;
  /** The mark whose band was looked up: rounded where the column says so. */
  readonly counted: Ratio;
  /** The next band, and how much is missing to it; null in the best one. */
  readonly next: { readonly band: Band; readonly missing: Ratio } | null;
  readonly borderline: boolean;
}

/** The bands of a scale in their order, ready to be looked up. */
export class Ladder {
  /** From the lowest to the highest; of two with the same threshold the first one counts. */
  readonly bands: readonly Band[];
  /** The thresholds as doubles. */
  private readonly near: readonly number[];

  /** @param bands in any order. */
  constructor(bands: readonly Band[]) {
    const all = [...bands].sort((a, b) =>
      a.from === null ? -1 : b.from === null ? 1 : ratio(a.from).compare(ratio(b.from)),
    );
    this.bands = all.filter((band, n) => n === 0 || !alike(band.from, all[n - 1]!.from));
    this.near = this.bands.map(({ from }) => (from === null ? -Infinity : Number(from)));
  }

  /** The place of the highest band whose threshold is not above the mark, or -1. Doubles decide where they can tell. */
  placeOf(mark: Ratio): number {
    const near = mark.valueOf();
    let at = this.bands.length - 1;
    for (; at >= 0; at--) {
      const gap = near - this.near[at]!;
      if (Math.abs(gap) > 1e-6 ? gap > 0 : ratio(this.bands[at]!.from!).compare(mark) <= 0) return at;
    }
    return at;
  }
}

const alike = (a: string | null, b: string | null): boolean =>
  a === null || b === null ? a === b : ratio(a).equals(ratio(b));

/** The mark whose band is looked up. */
export const countedMark = ({ before }: Pick<BandColumn, 'before'>, mark: Ratio): Ratio =>
  before ? ratio(roundRatio(mark, before)) : mark;

/**
 * Finds the band of a mark. A mark that is exactly a threshold belongs to the band above it.
 *
 * @returns null where the mark is below all thresholds and no band takes what is below.
 */
export function bandOf(
  column: Pick<BandColumn, 'bands' | 'before' | 'near'>,
  mark: Ratio,
  ladder = new Ladder(column.bands),
): Banded | null {
  const counted = countedMark(column, mark);
  const at = ladder.placeOf(counted);
  if (at < 0) return null;
  const above = ladder.bands[at + 1];
  const missing = above ? ratio(above.from!).sub(mark) : null;
  const near = column.near === null ? ZERO : ratio(column.near);
  return {
    band: ladder.bands[at]!,
    counted,
    next: above ? { band: above, missing: missing! } : null,
    borderline: missing !== null && missing.compare(0) > 0 && missing.compare(near) < 0,
  };
}

/**
 * Gives bands by shares: the best share of the learners gets the first band, and so on. Each learner's place is the share
 * of learners that are better; where learners with the same mark would fall on both sides, all fall on the side that
 * `ties` says.
 *
 * @param values marks, in any order; the bands come back in the same order.
 */
export function bandsByShare(
  bands: readonly Band[],
  values: readonly Ratio[],
  ties: 'better' | 'worse',
): Band[] {
  const order = values.map((_, n) => n).sort((a, b) => values[b]!.compare(values[a]!));
  const total = bands.reduce((all, band) => all.add(ratio(band.share ?? '0')), ZERO);
  const result = new Array<Band>(values.length);
  for (let from = 0; from < order.length;) {
    let to = from + 1;
    while (to < order.length && values[order[to]!]!.equals(values[order[from]!]!)) to++;
    // The place that decides: of the best of those alike, or of the last.
    const place = ties === 'better' ? from : to - 1;
    let upTo = ZERO;
    const band =
      bands.find((candidate) => {
        upTo = upTo.add(ratio(candidate.share ?? '0'));
        return upTo.mul(order.length).compare(total.mul(place)) > 0;
      }) ?? bands.at(-1)!;
    for (let n = from; n < to; n++) result[order[n]!] = band;
    from = to;
  }
  return result;
}
