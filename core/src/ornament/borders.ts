import type { OrnamentOf } from './ornament.js';
import { chain, circle, curve, leaf, roundRect, type Point, type Stroke } from './strokes.js';
import { trackAround, type Track } from './track.js';

/** The room that an ornament has, in millimetres. */
export interface Room {
  readonly width: number;
  readonly height: number;
}

/** Draws a border along the edge of its room. */
export function border(ornament: OrnamentOf<'border'>, { width, height }: Room): Stroke[] {
  const { pattern, radius, weight } = ornament;
  const size = Math.min(ornament.size, width / 3, height / 3);
  const edge = weight;
  const rule = (inset: number, heavy: number, colour: Stroke['colour'] = 'first'): Stroke => ({
    d: roundRect(inset, inset, width - 2 * inset, height - 2 * inset, radius - inset),
    colour,
    weight: heavy,
  });
  const outer = rule(edge, 2.2);
  const inner = rule(size - edge / 2, 1.4);
  // Patterns that bend need a bend to follow.
  const bend = Math.max(radius - size / 2, size * 0.55);
  const track = (period: number): Track => trackAround(width, height, size / 2, bend, period);
  const room = size / 2 - 2 * edge;
  switch (pattern) {
    case 'rules':
      return [
        rule(edge, 3),
        rule(size * 0.55, 1),
        rule(size - edge, 1, 'second'),
        ...studs(size, { width, height }),
      ];
    case 'interlace': {
      const along = track(size * 0.62);
      const wave = (phase: number, high: number, times: number): string =>
        curve(
          (u) => along.at(u, high * Math.sin(2 * Math.PI * times * u + phase)),
          0,
          along.repeats,
          along.repeats * 4 * times,
          true,
        );
      return [
        outer,
        inner,
        ...[0, 1, 2, 3].map((n): Stroke => ({
          d: wave((n * Math.PI) / 2, room * 0.9, 1),
          colour: 'first',
          weight: 1,
        })),
        ...[0, 1].map((n): Stroke => ({
          d: wave(n * Math.PI, room * 0.45, 1),
          colour: 'second',
          weight: 1.1,
        })),
      ];
    }
    case 'twist': {
      const along = track(size * 1.5);
      const wave = (phase: number, high: number): string =>
        curve(
          (u) => along.at(u, high * Math.sin(2 * Math.PI * u + phase)),
          0,
          along.repeats,
          along.repeats * 8,
          true,
        );
      return [
        outer,
        inner,
        ...[0.86, 0.7, 0.54].flatMap((high, n): Stroke[] =>
          [0, Math.PI].map((phase) => ({
            d: wave(phase, room * high),
            colour: n === 1 ? 'second' : 'first',
            weight: n === 1 ? 1 : 1.3,
          })),
        ),
      ];
    }
    case 'beads': {
      const along = track(size * 0.9);
      return [
        outer,
        inner,
        ...Array.from({ length: along.repeats }, (_, n): Stroke[] => {
          const [x, y] = along.at(n + 0.5, 0);
          const [a, b] = along.at(n, 0);
          return [
            { d: circle(x, y, room * 0.55), colour: 'first', weight: 1 },
            { d: circle(x, y, room * 0.22), colour: 'first', weight: 0, filled: true },
            { d: circle(a, b, room * 0.14), colour: 'second', weight: 0, filled: true },
          ];
        }).flat(),
      ];
    }
    case 'steps':
      return [outer, inner, ...runningSteps(size, room, { width, height })];
    case 'leaves': {
      const along = track(size * 1.1);
      const stem = curve(
        (u) => along.at(u, room * 0.22 * Math.sin(2 * Math.PI * u)),
        0,
        along.repeats,
        along.repeats * 6,
        true,
      );
      const leaves = Array.from({ length: along.repeats * 2 }, (_, n): Stroke => {
        const u = n / 2 + 0.25;
        const side = n % 2 === 0 ? 1 : -1;
        const foot = along.at(u - 0.2, room * 0.2 * side);
        const tip = along.at(u + 0.25, room * 0.85 * side);
        const [dx, dy] = [tip[0] - foot[0], tip[1] - foot[1]];
        return {
          d: leaf(foot, Math.atan2(dy, dx), Math.hypot(dx, dy), 0.26),
          colour: n % 2 === 0 ? 'first' : 'second',
          weight: 0,
          filled: true,
        };
      });
      return [outer, inner, { d: stem, colour: 'first', weight: 1.4 }, ...leaves];
    }
  }
}

/** Small squares on their points where two rules meet in a corner. */
const studs = (size: number, { width, height }: Room): Stroke[] =>
  [
    [size * 0.55, size * 0.55],
    [width - size * 0.55, size * 0.55],
    [width - size * 0.55, height - size * 0.55],
    [size * 0.55, height - size * 0.55],
  ].map(([x, y]): Stroke => {
    const r = size * 0.2;
    return {
      d: chain(
        [
          [x! - r, y!],
          [x!, y! - r],
          [x! + r, y!],
          [x!, y! + r],
        ],
        true,
      ),
      colour: 'second',
      weight: 0,
      filled: true,
    };
  });

/** Steps that run along each side, with a square in each corner. */
function runningSteps(size: number, room: number, { width, height }: Room): Stroke[] {
  // Up, along, down, along: shares of a repeat, and of the room to both sides.
  const shape: readonly Point[] = [
    [0, -0.7],
    [0, 0.7],
    [0.66, 0.7],
    [0.66, -0.1],
    [0.33, -0.1],
    [0.33, -0.7],
  ];
  const middle = size / 2;
  const side = (length: number, place: (along: number, out: number) => Point): Stroke => {
    const [from, run] = [size * 1.15, length - size * 2.3];
    const repeats = Math.max(1, Math.min(300, Math.round(run / (size * 1.3))));
    const points = Array.from({ length: repeats }, (_, n) =>
      shape.map(([u, out]) => place(from + ((n + u) / (repeats - 0.34)) * run, out * room)),
    ).flat();
    return { d: chain(points), colour: 'second', weight: 1.6 };
  };
  const corner = (x: number, y: number): Stroke[] =>
    [0.7, 0.3].map((share): Stroke => {
      const r = room * share;
      const d = chain(
        [
          [x - r, y - r],
          [x + r, y - r],
          [x + r, y + r],
          [x - r, y + r],
        ],
        true,
      );
      return share > 0.5
        ? { d, colour: 'second', weight: 1.6 }
        : { d, colour: 'first', weight: 0, filled: true };
    });
  return [
    side(width, (s, out) => [s, middle - out]),
    side(height, (s, out) => [width - middle + out, s]),
    side(width, (s, out) => [width - s, height - middle + out]),
    side(height, (s, out) => [middle - out, height - s]),
    ...corner(middle, middle),
    ...corner(width - middle, middle),
    ...corner(width - middle, height - middle),
    ...corner(middle, height - middle),
  ];
}
