import { sum, ZERO, type Ratio } from '../ratio.js';

/** A piece that counts: what it weighs, and its share of the points (1 is all of them). */
export interface Weighed {
  readonly weight: Ratio;
  readonly share: Ratio;
}

/**
 * The `count` pieces with which the weighted mean is highest. Where all weigh the same these are the ones with the
 * highest shares; else the lowest share is not always the one to drop (D. M. Kane and J. M. Kane, “Dropping lowest
 * grades”, Mathematics Magazine 79, 2006; from memory), and the best set is found by Dinkelbach's method for ratios
 * (1967): the mean rises with each round until it is the highest. Of two alike the later one is kept.
 *
 * @returns the places of the pieces that are kept, in their order.
 */
export function bestKept(pieces: readonly Weighed[], count: number): number[] {
  if (count >= pieces.length) return pieces.map((_, n) => n);
  if (count <= 0) return [];
  let mean = meanOf(pieces) ?? ZERO;
  for (;;) {
    const gain = pieces.map(({ weight, share }) => weight.mul(share.sub(mean)));
    const kept = pieces
      .map((_, n) => n)
      .sort((a, b) => gain[b]!.compare(gain[a]!) || b - a)
      .slice(0, count)
      .sort((a, b) => a - b);
    const next = meanOf(kept.map((n) => pieces[n]!));
    if (next === null || next.compare(mean) <= 0) return kept;
    mean = next;
  }
}

/** The weighted mean of the shares; null where nothing weighs anything. */
export function meanOf(pieces: readonly Weighed[]): Ratio | null {
  const weight = sum(pieces.map((piece) => piece.weight));
  return weight.equals(0) ? null : sum(pieces.map((piece) => piece.weight.mul(piece.share))).div(weight);
}
