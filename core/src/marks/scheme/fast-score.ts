import type { MarkScheme, PieceGroup } from '../../worked/index.js';
import { ratio, ratioOf, type Ratio } from '../ratio.js';
import type { Mark } from './read-mark.js';

/** Marks with up to this many decimal places are reckoned with as whole numbers. */
const SCALE = 10_000;
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
  readonly weight: bigint;
}

/**
 * A scheme made ready for many learners: whole numbers that a double holds exactly, no fractions made on the way. Gives
 * what `scoreScheme` gives, or `undefined` for a learner whose case it does not cover (late work, a cap, extra pieces, marks
 * with many places), who is then worked out the exact way.
 */
export class FastScheme {
  private constructor(
    private readonly groups: readonly FastGroup[],
    private readonly zero: ReadonlySet<string>,
    private readonly byPoints: boolean,
  ) {}

  /** Null where the scheme itself needs the exact way. */
  static of(scheme: MarkScheme): FastScheme | null {
    if (scheme.cap !== null) return null;
    const byPoints = scheme.weigh === 'points';
    const groups = scheme.groups.map((group) => fastGroup(group, byPoints));
    if (groups.some((group) => group === null)) return null;
    const states = Object.entries(scheme.states);
    if (states.some(([, policy]) => policy.as === 'share')) return null;
    return new FastScheme(
      groups as FastGroup[],
      new Set(states.filter(([, policy]) => policy.as === 'zero').map(([state]) => state)),
      byPoints,
    );
  }

  /** The mark in percent of 100, null where nothing counts, undefined where it has to be worked out the exact way. */
  mark(cells: readonly (readonly Mark[])[]): Ratio | null | undefined {
    let above = 0n;
    let below = 1n;
    let weight = 0n;
    let points = 0;
    let most = 0;
    for (let g = 0; g < this.groups.length; g++) {
      const group = this.groups[g]!;
      if (!this.sumGroup(group, cells[g]!)) return undefined;
      if (this.below === 0) continue;
      if (this.byPoints) {
        points += this.above;
        most += this.below;
        continue;
      }
      const divisor = commonDivisor(this.above, this.below);
      const d = BigInt(this.below / divisor);
      above = above * d + group.weight * BigInt(this.above / divisor) * below;
      below *= d;
      weight += group.weight;
    }
    if (this.byPoints) return most === 0 ? null : shortRatio(points * 100, most);
    if (weight === 0n) return null;
    above *= 100n;
    below *= weight;
    return above < SAFE_WHOLE && below < SAFE_WHOLE
      ? shortRatio(Number(above), Number(below))
      : ratioOf(above, below);
  }

  /** The sums of the group that was looked at last. */
  private above = 0;
  private below = 0;
  private readonly gained = new Float64Array(200);

  /** False where the group has to be worked out the exact way. */
  private sumGroup(group: FastGroup, cells: readonly Mark[]): boolean {
    let above = 0;
    let below = 0;
    let count = 0;
    const choosing = group.drop > 0 || group.keep < Infinity;
    if (choosing && !group.even) return false;
    for (let p = 0; p < cells.length; p++) {
      const mark = cells[p]!;
      let scaled = 0;
      if (mark.kind === 'points') {
        scaled = mark.scaled;
        // Not a number where the mark has too many places.
        if (!(scaled >= 0 && scaled <= 2 * group.outOf[p]!)) return false;
      } else if (mark.kind === 'share') return false;
      else if (!this.zero.has(mark.kind)) continue;
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

const SAFE_WHOLE = BigInt(SAFE);

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
    weight: BigInt(weight),
  };
}

const leastCommonMultiple = (a: number, b: number): number => (a / commonDivisor(a, b)) * b;
