import type { MarkScheme, PieceGroup } from '../../column/index.js';
import { ratio, ratioOf, type Ratio } from '../../ratio/index.js';

/** Marks with up to four decimal places are reckoned with as whole numbers, in ten thousandths of a point. */
export const SCALE = 10_000;
/**
 * A mark as the quick way reads it: ten thousandths of a point, `NOTHING` where it does not count, not a number where the
 * entry has to be worked out the exact way.
 */
export type QuickMark = number;
export const NOTHING = -1;
const SAFE = Number.MAX_SAFE_INTEGER;

interface FastGroup {
  /** What a point of each piece adds: the scaled points times this are the sum above the line. */
  readonly factors: readonly number[];
  /** What each piece adds below the line. */
  readonly parts: readonly number[];
  /** Scaled points that there are; a mark of more than twice that is left to the exact way. */
  readonly outOf: readonly number[];
  readonly drop: number;
  readonly keep: number;
  /** All pieces weigh the same, so that what is dropped is what adds least. */
  readonly even: boolean;
  readonly weight: number;
}

/**
 * A scheme made ready for many learners: whole numbers that a double holds exactly, no fractions made on the way. Gives
 * what `scoreScheme` gives, or `undefined` for a learner whose case it does not cover (late work, a cap, extra pieces, marks
 * with many places), who is then worked out the exact way.
 */
export class FastScheme {
  private constructor(
    private readonly groups: readonly FastGroup[],
    private readonly byPoints: boolean,
  ) {}

  /** Null where the scheme itself needs the exact way. */
  static of(scheme: MarkScheme): FastScheme | null {
    if (scheme.cap !== null) return null;
    const byPoints = scheme.weigh === 'points';
    const groups = scheme.groups.flatMap((group) => fastGroup(group, byPoints) ?? []);
    if (groups.length < scheme.groups.length) return null;
    if (Object.values(scheme.states).some(({ as }) => as === 'share')) return null;
    // 4, 3 and 3 weigh as 40, 30 and 30 do.
    const divisor = groups.reduce((common, { weight }) => commonDivisor(common, weight), 0) || 1;
    return new FastScheme(
      groups.map((group) => ({ ...group, weight: group.weight / divisor })),
      byPoints,
    );
  }

  /** The mark in percent of 100, null where nothing counts, undefined where it has to be worked out the exact way. */
  mark(cells: readonly (readonly QuickMark[])[]): Ratio | null | undefined {
    let points = 0;
    let most = 0;
    for (let g = 0; g < this.groups.length; g++) {
      if (!this.sumGroup(this.groups[g]!, cells[g]!)) return undefined;
      points += this.above;
      most += this.below;
      const divisor = this.byPoints || this.below === 0 ? 1 : commonDivisor(this.above, this.below);
      this.numerators[g] = this.above / divisor;
      this.denominators[g] = this.below / divisor;
    }
    if (most === 0) return null;
    if (this.byPoints) return shortRatio(points * 100, most);
    return this.weighed();
  }

  private readonly numerators: number[] = [];
  private readonly denominators: number[] = [];

  /** The groups' shares together by weight; in doubles as long as they hold it. */
  private weighed(): Ratio | null {
    let above = 0;
    let below = 1;
    let weight = 0;
    for (let g = 0; g < this.groups.length; g++) {
      const d = this.denominators[g]!;
      if (d === 0) continue;
      above = above * d + this.groups[g]!.weight * this.numerators[g]! * below;
      below *= d;
      weight += this.groups[g]!.weight;
    }
    if (weight === 0) return null;
    // Each term on the way is at most as large as these, all being 0 or more.
    return above * 100 <= SAFE && below * weight <= SAFE
      ? shortRatio(above * 100, below * weight)
      : this.weighedAtLength();
  }

  private weighedAtLength(): Ratio {
    let above = 0n;
    let below = 1n;
    let weight = 0n;
    for (let g = 0; g < this.groups.length; g++) {
      const d = BigInt(this.denominators[g]!);
      if (d === 0n) continue;
      const share = BigInt(this.groups[g]!.weight);
      above = above * d + share * BigInt(this.numerators[g]!) * below;
      below *= d;
      weight += share;
    }
    return ratioOf(above * 100n, below * weight);
  }

  /** The sums of the group that was looked at last. */
  private above = 0;
  private below = 0;
  private readonly gained = new Float64Array(200);

  /** False where the group has to be worked out the exact way. */
  private sumGroup(group: FastGroup, cells: readonly QuickMark[]): boolean {
    let above = 0;
    let below = 0;
    let count = 0;
    const choosing = group.drop > 0 || group.keep < Infinity;
    if (choosing && !group.even) return false;
    for (let p = 0; p < cells.length; p++) {
      const scaled = cells[p]!;
      if (scaled === NOTHING) continue;
      if (!(scaled <= 2 * group.outOf[p]!)) return false;
      if (choosing) this.gained[count++] = scaled * group.factors[p]!;
      else {
        above += scaled * group.factors[p]!;
        below += group.parts[p]!;
      }
    }
    if (choosing) {
      const sorted = this.gained.subarray(0, count).sort();
      const kept = Math.max(0, Math.min(group.keep, count - group.drop));
      for (let n = count - kept; n < count; n++) above += sorted[n]!;
      below = kept * (group.parts[0] ?? 0);
    }
    this.above = above;
    this.below = below;
    return true;
  }
}

function commonDivisor(a: number, b: number): number {
  let [x, y] = [a, b];
  while (y !== 0) {
    const rest = x % y;
    x = y;
    y = rest;
  }
  return x;
}

function shortRatio(n: number, d: number): Ratio {
  const divisor = commonDivisor(n, d);
  return ratioOf(BigInt(n / divisor), BigInt(d / divisor));
}

/** Points in ten thousandths; NaN where they are no whole number of them. */
export function scaledPoints(points: Ratio): number {
  const times = points.mul(SCALE);
  return times.d === 1n && times.n < 1n << 40n ? Number(times.s * times.n) : NaN;
}

function fastGroup(group: PieceGroup, byPoints: boolean): FastGroup | null {
  if (group.cap !== null) return null;
  const { pieces } = group;
  if (pieces.some((piece) => piece.extra || piece.lateColumnId)) return null;
  const outOf = pieces.map((piece) => scaledPoints(ratio(piece.outOf)));
  if (outOf.some((points) => !(points > 0))) return null;
  const weighByPoints = byPoints || group.weigh === 'points';
  const weights = pieces.map((piece) =>
    weighByPoints || group.weigh === 'equal' ? 1 : scaledPoints(ratio(piece.weight)),
  );
  const weight = scaledPoints(ratio(group.weight));
  if ([...weights, weight].some((value) => !(value >= 0))) return null;
  const common = weighByPoints ? 1 : outOf.reduce(leastCommonMultiple, 1);
  const factors = pieces.map((_, p) => (weighByPoints ? 1 : (weights[p]! * common) / outOf[p]!));
  const parts = pieces.map((_, p) => (weighByPoints ? outOf[p]! : weights[p]! * common));
  const bound = pieces.reduce((total, _, p) => total + 2 * outOf[p]! * factors[p]! + parts[p]!, 0);
  if (!(bound < SAFE)) return null;
  return {
    factors,
    parts,
    outOf,
    drop: group.drop,
    keep: group.keep ?? Infinity,
    even: parts.every((part) => part === parts[0]),
    weight,
  };
}

const leastCommonMultiple = (a: number, b: number): number => (a / commonDivisor(a, b)) * b;
