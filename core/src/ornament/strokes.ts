import { pathRound } from 'd3-path';

/** A point in millimetres. */
export type Point = readonly [x: number, y: number];

/** One drawn shape: lines of a thickness, or a ground, in the ornament's first or second colour. */
export interface Stroke {
  readonly d: string;
  readonly colour: 'first' | 'second';
  /** Times the ornament's weight; 0 for a ground without lines. */
  readonly weight: number;
  readonly filled?: boolean;
}

/** Digits behind the decimal sign: a hundredth of a millimetre is finer than any printer. */
const DIGITS = 2;
const STEP = 1e-4;

/**
 * A smooth curve through a function of the plane, as cubic Béziers that have its direction at both ends (Hermite form).
 *
 * @param steps pieces from `from` to `to`; eight for each wave are as good as exact.
 */
export function curve(
  at: (t: number) => Point,
  from: number,
  to: number,
  steps: number,
  closed = false,
): string {
  const path = pathRound(DIGITS);
  const dt = (to - from) / steps;
  const slope = (t: number): Point => {
    const [[ax, ay], [bx, by]] = [at(t - STEP), at(t + STEP)];
    return [(bx - ax) / (2 * STEP), (by - ay) / (2 * STEP)];
  };
  let [point, tangent] = [at(from), slope(from)];
  path.moveTo(...point);
  for (let n = 1; n <= steps; n++) {
    const t = from + n * dt;
    const [next, turned] = [at(t), slope(t)];
    path.bezierCurveTo(
      point[0] + (tangent[0] * dt) / 3,
      point[1] + (tangent[1] * dt) / 3,
      next[0] - (turned[0] * dt) / 3,
      next[1] - (turned[1] * dt) / 3,
      ...next,
    );
    [point, tangent] = [next, turned];
  }
  if (closed) path.closePath();
  return path.toString();
}

/** Straight lines from point to point. */
export function chain(points: readonly Point[], closed = false): string {
  const path = pathRound(DIGITS);
  points.forEach(([x, y], n) => (n === 0 ? path.moveTo(x, y) : path.lineTo(x, y)));
  if (closed) path.closePath();
  return path.toString();
}

/** A circle; a point where its radius would be less than nothing, as in too little room. */
export function circle(x: number, y: number, given: number): string {
  const radius = Math.max(0, given);
  const path = pathRound(DIGITS);
  path.moveTo(x + radius, y);
  path.arc(x, y, radius, 0, 2 * Math.PI);
  path.closePath();
  return path.toString();
}

/** A rectangle with round corners, by its edges. */
export function roundRect(x: number, y: number, width: number, height: number, radius: number): string {
  const r = Math.max(0, Math.min(radius, width / 2, height / 2));
  const path = pathRound(DIGITS);
  if (r === 0) path.rect(x, y, width, height);
  else {
    path.moveTo(x + r, y);
    path.arcTo(x + width, y, x + width, y + height, r);
    path.arcTo(x + width, y + height, x, y + height, r);
    path.arcTo(x, y + height, x, y, r);
    path.arcTo(x, y, x + width, y, r);
    path.closePath();
  }
  return path.toString();
}

/** A leaf from its foot to its tip: two arcs, as broad as a part of its length. */
export function leaf([x, y]: Point, angle: number, length: number, broad = 0.32): string {
  const [c, s] = [Math.cos(angle), Math.sin(angle)];
  const place = (along: number, across: number): Point => [
    x + (along * c - across * s) * length,
    y + (along * s + across * c) * length,
  ];
  const path = pathRound(DIGITS);
  path.moveTo(x, y);
  path.bezierCurveTo(...place(0.25, broad), ...place(0.7, broad * 0.9), ...place(1, 0));
  path.bezierCurveTo(...place(0.7, -broad * 0.9), ...place(0.25, -broad), x, y);
  path.closePath();
  return path.toString();
}
