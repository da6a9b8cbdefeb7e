import { sum, ZERO, type Ratio } from '../../ratio/index.js';

/** A piece that counts: what it weighs, and its share of the points (1 is all of them). */
export interface Weighed {
  readonly weight: Ratio;
  readonly share: Ratio;
}

/** Pieces of which some are kept. */
export interface Choice {
  readonly pieces: readonly Weighed[];
  readonly count: number;
}

/**
 * The pieces with which the weighted mean of all that is kept is highest, so many of each choice. Where all pieces weigh
 * the same these are the ones with the highest shares; else the lowest share is not always the one to drop (D. M. Kane
 * and J. M. Kane, “Dropping lowest grades”, Mathematics Magazine 79, 2006; from memory), and the best set is found by
 * Dinkelbach's method for ratios (1967): the mean rises with each round until it is the highest. Of two alike the later
 * one is kept. A mark that is highest over all sets never falls when a piece gets better.
 *
 * @returns for each choice the places of its pieces that are kept, in their order.
 */
export function bestKept(choices: readonly Choice[]): number[][] {
  const whole = choices.map(({ pieces }) => pieces.map((_, n) => n));
  if (choices.every(({ pieces, count }) => count >= pieces.length)) return whole;
  let mean = meanOf(choices.flatMap(({ pieces }) => pieces)) ?? ZERO;
  for (let before: number[][] | null = null; ;) {
    const kept = choices.map(({ pieces, count }) => keptAt(pieces, count, mean));
    const next = meanOf(kept.flatMap((places, c) => places.map((n) => choices[c]!.pieces[n]!)));
    if (next === null || (before && next.compare(mean) <= 0)) return before ?? kept;
    before = kept;
    mean = next;
  }
}

/** The pieces that lift the mean most, or pull it down least. */
function keptAt(pieces: readonly Weighed[], count: number, mean: Ratio): number[] {
  if (count <= 0) return [];
  const places = pieces.map((_, n) => n);
  if (count >= pieces.length) return places;
  const gain = pieces.map(({ weight, share }) => weight.mul(share.sub(mean)));
  return places
    .sort((a, b) => gain[b]!.compare(gain[a]!) || b - a)
    .slice(0, count)
    .sort((a, b) => a - b);
}

/** The weighted mean of the shares, with what is added above the line; null where nothing weighs anything. */
export function meanOf(pieces: readonly Weighed[], extra: Ratio = ZERO): Ratio | null {
  const weight = sum(pieces.map((piece) => piece.weight));
  return weight.equals(0)
    ? null
    : sum(pieces.map((piece) => piece.weight.mul(piece.share)))
        .add(extra)
        .div(weight);
}
