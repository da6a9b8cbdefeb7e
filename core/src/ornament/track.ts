import type { Point } from './strokes.js';

/** A way around a rectangle with round corners, told in repeats of a pattern. */
export interface Track {
  /** Repeats of the pattern all around. */
  readonly repeats: number;
  /** The point that is `u` repeats from the start, and `out` millimetres off the way, outwards. */
  readonly at: (u: number, out: number) => Point;
}

/** Repeats of a pattern on one way around. */
const REPEATS_MOST = 600;

interface Piece {
  readonly repeats: number;
  readonly place: (share: number, out: number) => Point;
}

/**
 * A track inside a rectangle. Each side and each corner holds whole repeats, so that all four corners look alike.
 *
 * @param period how long a repeat is, about.
 */
export function trackAround(
  width: number,
  height: number,
  inset: number,
  radius: number,
  period: number,
): Track {
  const [w, h] = [width - 2 * inset, height - 2 * inset];
  // No more repeats than anybody could tell apart.
  const step = Math.max(period, (2 * (w + h)) / REPEATS_MOST);
  const r = Math.max(0.01, Math.min(radius, w / 2, h / 2));
  const count = (length: number): number => Math.max(1, Math.round(length / step));
  const [across, down, bend] = [w - 2 * r, h - 2 * r, (Math.PI / 2) * r];
  const straight = (length: number, place: (s: number, out: number) => Point): Piece => ({
    repeats: length < 0.01 ? 0 : count(length),
    place: (share, out) => place(share * length, out),
  });
  const corner = (x: number, y: number, from: number): Piece => ({
    repeats: bend < step / 2 ? 1 : count(bend),
    place: (share, out) => {
      const angle = from + (share * Math.PI) / 2;
      return [x + (r + out) * Math.cos(angle), y + (r + out) * Math.sin(angle)];
    },
  });
  const [left, top, right, bottom] = [inset + r, inset + r, width - inset - r, height - inset - r];
  const pieces = [
    straight(across, (s, out) => [left + s, inset - out]),
    corner(right, top, -Math.PI / 2),
    straight(down, (s, out) => [width - inset + out, top + s]),
    corner(right, bottom, 0),
    straight(across, (s, out) => [right - s, height - inset + out]),
    corner(left, bottom, Math.PI / 2),
    straight(down, (s, out) => [inset - out, bottom - s]),
    corner(left, top, Math.PI),
  ].filter(({ repeats }) => repeats > 0);
  const repeats = pieces.reduce((sum, piece) => sum + piece.repeats, 0);
  return {
    repeats,
    at: (u, out) => {
      let left = ((u % repeats) + repeats) % repeats;
      for (const piece of pieces) {
        if (left <= piece.repeats) return piece.place(left / piece.repeats, out);
        left -= piece.repeats;
      }
      return pieces.at(-1)!.place(1, out);
    },
  };
}
