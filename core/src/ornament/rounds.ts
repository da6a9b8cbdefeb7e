import type { Room } from './borders.js';
import type { OrnamentOf } from './ornament.js';
import { chain, circle, curve, leaf, type Point, type Stroke } from './strokes.js';

const TURN = 2 * Math.PI;
/** Pieces of curves in one ground: more cannot be told apart, and take long to draw. */
const PIECES_MOST = 12_000;

/** A closed curve around a middle by its distance from it at each angle. */
const around = (x: number, y: number, radius: (angle: number) => number, steps: number): string =>
  curve(
    (angle) => {
      const r = radius(angle);
      return [x + r * Math.cos(angle), y + r * Math.sin(angle)];
    },
    0,
    TURN,
    steps,
    true,
  );

/** Rings of waves: `lines` curves that are the same but for where they begin. */
function ring(
  x: number,
  y: number,
  {
    radius,
    depth,
    waves,
    lines,
    swell = () => 1,
  }: {
    radius: number;
    depth: number;
    waves: number;
    lines: number;
    swell?: (angle: number) => number;
  },
): string[] {
  return Array.from({ length: lines }, (_, n) =>
    around(
      x,
      y,
      (angle) => radius + depth * swell(angle) * Math.sin(waves * angle + (n / lines) * TURN),
      waves * 6,
    ),
  );
}

/** Draws a rosette in the middle of its room. */
export function rosette(
  { pattern, count, weight }: OrnamentOf<'rosette'>,
  { width, height }: Room,
): Stroke[] {
  const [x, y] = [width / 2, height / 2];
  const full = Math.min(width, height) / 2 - weight;
  const first = (ds: readonly string[], heavy = 1): Stroke[] =>
    ds.map((d) => ({ d, colour: 'first', weight: heavy }));
  const second = (ds: readonly string[], heavy = 1): Stroke[] =>
    ds.map((d) => ({ d, colour: 'second', weight: heavy }));
  switch (pattern) {
    case 'petals': {
      const petal = (times: number) => (angle: number) => 0.25 + 0.75 * Math.cos((times * angle) / 2) ** 2;
      return [
        ...first(
          ring(x, y, {
            radius: full * 0.74,
            depth: full * 0.26,
            waves: count * 2,
            lines: 8,
            swell: petal(count),
          }),
        ),
        ...second(
          ring(x, y, {
            radius: full * 0.42,
            depth: full * 0.15,
            waves: count,
            lines: 6,
            swell: petal(Math.ceil(count / 2)),
          }),
        ),
        ...first(
          ring(x, y, {
            radius: full * 0.2,
            depth: full * 0.07,
            waves: Math.max(3, Math.round(count / 2)),
            lines: 5,
          }),
        ),
      ];
    }
    case 'rings':
      return [
        ...first(ring(x, y, { radius: full * 0.9, depth: full * 0.1, waves: count * 2, lines: 4 })),
        ...second(ring(x, y, { radius: full * 0.68, depth: full * 0.1, waves: count, lines: 6 })),
        ...first(ring(x, y, { radius: full * 0.46, depth: full * 0.1, waves: count, lines: 4 })),
        ...second([circle(x, y, full * 0.79), circle(x, y, full * 0.57), circle(x, y, full * 0.34)], 0.8),
      ];
    case 'star': {
      // Ellipses that are turned around one middle.
      const one = (turned: number, broad: number): string =>
        curve(
          (t) => {
            const [a, b] = [full * Math.cos(t), full * broad * Math.sin(t)];
            return [
              x + a * Math.cos(turned) - b * Math.sin(turned),
              y + a * Math.sin(turned) + b * Math.cos(turned),
            ];
          },
          0,
          TURN,
          16,
          true,
        );
      return Array.from({ length: count }, (_, n): Stroke[] => [
        { d: one((n / count) * Math.PI, 0.42), colour: 'first', weight: 1 },
        ...(n % 2 === 0
          ? [{ d: one((n / count) * Math.PI, 0.16), colour: 'second', weight: 0.8 } as const]
          : []),
      ]).flat();
    }
  }
}

/** Draws waves from the left edge of its room to the right one. */
export function waves({ pattern, count, weight }: OrnamentOf<'waves'>, { width, height }: Room): Stroke[] {
  const y = height / 2;
  const high = height / 2 - weight;
  const line = (offset: (t: number) => number, steps: number): string =>
    curve((t) => [t * width, y + offset(t)], 0, 1, steps);
  switch (pattern) {
    case 'braid':
      return [
        ...Array.from({ length: 4 }, (_, n): Stroke => ({
          d: line((t) => high * Math.sin(count * TURN * t + (n * Math.PI) / 2), count * 8),
          colour: 'first',
          weight: 1,
        })),
        ...Array.from({ length: 2 }, (_, n): Stroke => ({
          d: line((t) => high * 0.45 * Math.sin(count * TURN * t + n * Math.PI + 0.6), count * 8),
          colour: 'second',
          weight: 1,
        })),
      ];
    case 'swell': {
      const swell = (t: number): number => Math.sin(Math.PI * t) ** 2;
      return Array.from({ length: 7 }, (_, n): Stroke => ({
        d: line(
          (t) => high * swell(t) * Math.sin(count * TURN * t + (n / 7) * Math.PI) * (1 - n * 0.09),
          count * 8,
        ),
        colour: n % 2 === 0 ? 'first' : 'second',
        weight: 1,
      }));
    }
    case 'ground': {
      // Lines over the whole room that bend together: a ground to write on.
      const lines = Math.max(3, Math.min(90, Math.round(height / 2.2)));
      return Array.from({ length: lines }, (_, n): Stroke => {
        const at = (n + 0.5) / lines;
        // The first and the last one bend within the room too.
        const bow = height / (lines + 4);
        return {
          d: curve(
            (t) => [
              t * width,
              1.6 * bow +
                (height - 3.2 * bow) * at +
                bow *
                  (Math.sin(count * TURN * t + at * 9) + 0.6 * Math.sin(count * 0.5 * TURN * t - at * 14)),
            ],
            0,
            1,
            Math.min(count * 6, Math.ceil(PIECES_MOST / lines)),
          ),
          colour: n % 2 === 0 ? 'first' : 'second',
          weight: 1,
        };
      });
    }
  }
}

/** Draws a seal in the middle of its room. Words can be put upon it in a box of their own. */
export function seal({ pattern, count, weight }: OrnamentOf<'seal'>, { width, height }: Room): Stroke[] {
  const ribbons = pattern === 'ribbons';
  const full = Math.min(width, ribbons ? height * 0.72 : height) / 2 - weight;
  const [x, y] = [width / 2, ribbons ? full + weight : height / 2];
  const edge =
    pattern === 'scalloped' || ribbons
      ? around(x, y, (a) => full * (0.965 + 0.035 * Math.abs(Math.cos((count * a) / 2)) ** 0.7), count * 8)
      : chain(
          Array.from({ length: count * 2 }, (_, n): Point => {
            const [r, a] = [n % 2 === 0 ? full : full * 0.9, (n * Math.PI) / count];
            return [x + r * Math.cos(a), y + r * Math.sin(a)];
          }),
          true,
        );
  const tail = (side: 1 | -1): string => {
    const [top, end, w] = [y + full * 0.72, height - weight, full * 0.42];
    const at = (dx: number): number => x + side * dx;
    return chain(
      [
        [at(full * 0.12), top],
        [at(full * 0.12 + w * 0.25), end],
        [at(full * 0.12 + w * 0.8), end - w * 0.35],
        [at(full * 0.12 + w * 1.35), end - w * 0.1],
        [at(full * 0.62), top - full * 0.12],
      ],
      true,
    );
  };
  return [
    ...(ribbons
      ? [1, -1].map((side): Stroke => ({ d: tail(side as 1 | -1), colour: 'second', weight: 1.2 }))
      : []),
    { d: edge, colour: 'first', weight: 1.6 },
    { d: circle(x, y, full * 0.84), colour: 'first', weight: 1 },
    { d: circle(x, y, full * 0.8), colour: 'second', weight: 0.8 },
    ...ring(x, y, { radius: full * 0.7, depth: full * 0.07, waves: Math.round(count * 0.75), lines: 3 }).map(
      (d): Stroke => ({ d, colour: 'first', weight: 0.7 }),
    ),
    { d: circle(x, y, full * 0.6), colour: 'second', weight: 0.8 },
  ];
}

/** Draws two branches around the middle of its room, open above. */
export function laurel({ pattern, count, weight }: OrnamentOf<'laurel'>, { width, height }: Room): Stroke[] {
  const [x, y] = [width / 2, height / 2];
  const [rx, ry] = [width / 2, height / 2].map((half) => half * 0.8 - weight) as [number, number];
  // Leaves lie over each other by a third.
  const long = (Math.min(rx, ry) * 2.55 * 1.5) / count;
  const branch = (side: 1 | -1): Stroke[] => {
    // From the foot, a little past the middle below, up to where the branches leave the top open.
    const at = (t: number): Point => {
      const a = Math.PI / 2 - 0.1 + t * 2.55;
      return [x - side * rx * Math.cos(a - Math.PI) * -1, y + ry * Math.sin(a)];
    };
    const leaves = Array.from({ length: count }, (_, n): Stroke[] => {
      const t = 0.1 + (n / count) * 0.88;
      const [foot, ahead] = [at(t), at(t + 0.01)];
      const way = Math.atan2(ahead[1] - foot[1], ahead[0] - foot[0]);
      const size = long * (1 - 0.35 * (n / count));
      return [-1, 1].map((hand): Stroke => ({
        d:
          pattern === 'oak'
            ? lobed(foot, way + hand * 0.62, size * 1.1)
            : leaf(foot, way + hand * 0.55, size, pattern === 'outline' ? 0.24 : 0.28),
        colour: hand === side ? 'second' : 'first',
        ...(pattern === 'outline' ? { weight: 1 } : { weight: 0, filled: true }),
      }));
    }).flat();
    return [
      { d: curve(at, 0, 1, 12), colour: 'first', weight: 1.4 },
      ...leaves,
      {
        d: leaf(
          at(0.97),
          Math.atan2(at(0.98)[1] - at(0.96)[1], at(0.98)[0] - at(0.96)[0]),
          long * 0.65,
          0.26,
        ),
        colour: 'first',
        ...(pattern === 'outline' ? { weight: 1 } : { weight: 0, filled: true }),
      },
    ];
  };
  return [...branch(1), ...branch(-1)];
}

/** A leaf with round lobes, as an oak has. */
function lobed([x, y]: Point, angle: number, length: number): string {
  const [c, s] = [Math.cos(angle), Math.sin(angle)];
  return curve(
    (t) => {
      // Along one side and back along the other.
      const along = t < 0.5 ? t * 2 : 2 - t * 2;
      const across =
        Math.sin(Math.PI * along) * 0.3 * (0.75 + 0.25 * Math.cos(along * 3 * TURN)) * (t < 0.5 ? 1 : -1);
      return [x + (along * c - across * s) * length, y + (along * s + across * c) * length];
    },
    0,
    1,
    28,
    true,
  );
}
