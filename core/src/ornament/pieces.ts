import type { Room } from './borders.js';
import type { OrnamentOf } from './ornament.js';
import { chain, circle, curve, leaf, type Point, type Stroke } from './strokes.js';

const TURN = 2 * Math.PI;

/** A piece in each corner, the same one turned over. */
export function corners({ pattern, ...ornament }: OrnamentOf<'corners'>, { width, height }: Room): Stroke[] {
  const size = Math.min(ornament.size, width / 2, height / 2);
  const flips: readonly ((point: Point) => Point)[] = [
    ([x, y]) => [x, y],
    ([x, y]) => [width - x, y],
    ([x, y]) => [width - x, height - y],
    ([x, y]) => [x, height - y],
  ];
  return flips.flatMap((flip) => oneCorner(pattern, size, ornament.weight, flip));
}

function oneCorner(
  pattern: OrnamentOf<'corners'>['pattern'],
  size: number,
  edge: number,
  flip: (point: Point) => Point,
): Stroke[] {
  const swing = (at: (t: number) => Point, steps: number, to = 1): string =>
    curve((t) => flip(at(t)), 0, to, steps);
  switch (pattern) {
    case 'curl': {
      const near = size * 0.06;
      const arm = (swap: boolean): Stroke[] => {
        const to = ([x, y]: Point): Point => flip(swap ? [y * size, x * size] : [x * size, y * size]);
        /** A curl that begins at the top of its round and winds inwards, towards the corner or away from it. */
        const winding = (cx: number, radius: number, way: 1 | -1): string =>
          curve(
            (t) => {
              const r = radius * (1 - 0.84 * t);
              const a = -Math.PI / 2 - way * t * TURN * 1.4;
              return to([cx + r * Math.cos(a), 0.06 + radius + r * Math.sin(a)]);
            },
            0,
            1,
            12,
          );
        return [
          { d: chain([to([0.5, 0.06]), to([1, 0.06])]), colour: 'first', weight: 1.4 },
          { d: winding(0.5, 0.15, 1), colour: 'first', weight: 1.4 },
          { d: winding(0.74, 0.085, 1), colour: 'second', weight: 1.1 },
          { d: circle(...to([1, 0.06]), near * 0.25), colour: 'second', weight: 0, filled: true },
        ];
      };
      const bend = (t: number): Point => {
        const a = Math.PI + (t * Math.PI) / 2;
        return [size * (0.5 + 0.44 * Math.cos(a)), size * (0.5 + 0.44 * Math.sin(a))];
      };
      const foot = flip([size * 0.2, size * 0.2]);
      const tip = flip([size * 0.42, size * 0.42]);
      return [
        ...arm(false),
        ...arm(true),
        { d: swing(bend, 4), colour: 'first', weight: 1.4 },
        {
          d: leaf(foot, Math.atan2(tip[1] - foot[1], tip[0] - foot[0]), size * 0.26, 0.2),
          colour: 'second',
          weight: 0,
          filled: true,
        },
        {
          d: circle(...flip([size * 0.1, size * 0.1]), near * 0.4),
          colour: 'first',
          weight: 0,
          filled: true,
        },
      ];
    }
    case 'fan': {
      const rings = [0.34, 0.5, 0.66, 0.82, 0.98];
      const arc = (r: number): string =>
        swing((t) => [r * size * Math.sin((t * Math.PI) / 2), r * size * Math.cos((t * Math.PI) / 2)], 4);
      const rays = Array.from({ length: 9 }, (_, n): Stroke => {
        const a = ((n + 0.5) / 9) * (Math.PI / 2);
        const [from, to] = [0.34, n % 2 === 0 ? 0.98 : 0.82];
        return {
          d: chain([
            flip([from * size * Math.cos(a), from * size * Math.sin(a)]),
            flip([to * size * Math.cos(a), to * size * Math.sin(a)]),
          ]),
          colour: 'second',
          weight: 0.8,
        };
      });
      return [
        ...rings.map((r, n): Stroke => ({
          d: arc(r),
          colour: 'first',
          weight: n === rings.length - 1 ? 1.6 : 1,
        })),
        ...rays,
        { d: chain([flip([0, edge]), flip([size * 1.0, edge])]), colour: 'first', weight: 1.4 },
        { d: chain([flip([edge, 0]), flip([edge, size * 1.0])]), colour: 'first', weight: 1.4 },
      ];
    }
    case 'steps':
      return [0, 0.12, 0.24, 0.36].map((inset, n): Stroke => {
        const [i, far] = [inset * size + edge, size * (1 - n * 0.06)];
        const step = size * 0.14;
        return {
          d: chain(
            [
              [i, far],
              [i, i + step],
              [i + step, i + step],
              [i + step, i],
              [far, i],
            ].map((point) => flip(point as unknown as Point)),
          ),
          colour: n % 2 === 0 ? 'first' : 'second',
          weight: n === 0 ? 2.2 : 1,
        };
      });
    case 'sprig': {
      const arms = [false, true].flatMap((swap): Stroke[] => {
        const to = ([x, y]: Point): Point => (swap ? [y, x] : [x, y]);
        const stem = (t: number): Point =>
          to([size * (0.08 + 0.9 * t), size * (0.08 + 0.1 * Math.sin(t * Math.PI * 1.1))]);
        const leaves = [0.2, 0.36, 0.52, 0.68, 0.84].flatMap((t, n): Stroke[] =>
          [-1, 1].map((side) => {
            const foot = flip(stem(t));
            const ahead = flip(stem(t + 0.05));
            const turned = Math.atan2(ahead[1] - foot[1], ahead[0] - foot[0]);
            const hand = handOf(flip) * (swap ? -1 : 1) * side;
            return {
              d: leaf(foot, turned + hand * 0.75, size * (0.15 - n * 0.016), 0.28),
              colour: side === 1 ? 'first' : 'second',
              weight: 0,
              filled: true,
            };
          }),
        );
        return [{ d: curve((t) => flip(stem(t)), 0, 1, 8), colour: 'first', weight: 1.2 }, ...leaves];
      });
      return [
        ...arms,
        {
          d: circle(...flip([size * 0.09, size * 0.09]), size * 0.022),
          colour: 'second',
          weight: 0,
          filled: true,
        },
      ];
    }
  }
}

/** 1 where turning over keeps what is left and right, -1 where it swaps them. */
const handOf = (flip: (point: Point) => Point): 1 | -1 => {
  const [[ox, oy], [ax, ay], [bx, by]] = [flip([0, 0]), flip([1, 0]), flip([0, 1])];
  return (ax - ox) * (by - oy) - (ay - oy) * (bx - ox) > 0 ? 1 : -1;
};

/** A rule across the middle of its room. */
export function divider({ pattern, weight }: OrnamentOf<'divider'>, { width, height }: Room): Stroke[] {
  const [x, y] = [width / 2, height / 2];
  const r = Math.min(height / 2 - weight, width / 8);
  const rules = (gap: number, heavy = 1): Stroke[] => [
    {
      d: chain([
        [0, y],
        [x - gap, y],
      ]),
      colour: 'first',
      weight: heavy,
    },
    {
      d: chain([
        [x + gap, y],
        [width, y],
      ]),
      colour: 'first',
      weight: heavy,
    },
  ];
  const diamond = (cx: number, size: number): Stroke => ({
    d: chain(
      [
        [cx - size, y],
        [cx, y - size],
        [cx + size, y],
        [cx, y + size],
      ],
      true,
    ),
    colour: 'second',
    weight: 0,
    filled: true,
  });
  switch (pattern) {
    case 'diamond':
      return [
        ...rules(r * 1.6),
        diamond(x, r * 0.8),
        diamond(x - r * 1.25, r * 0.3),
        diamond(x + r * 1.25, r * 0.3),
      ];
    case 'dots':
      return [
        ...rules(r * 2.6),
        ...[-2, -1, 0, 1, 2].map((n): Stroke => ({
          d: circle(x + n * r * 0.95, y, r * (n === 0 ? 0.42 : Math.abs(n) === 1 ? 0.28 : 0.17)),
          colour: n === 0 ? 'second' : 'first',
          weight: 0,
          filled: true,
        })),
      ];
    case 'taper': {
      // A rule that is thick in the middle and runs out to both sides.
      const half = Math.min(r * 0.28, 0.9);
      const path = (side: 1 | -1): string =>
        `M0 ${y.toFixed(2)}Q${x.toFixed(2)} ${(y + 2 * side * half).toFixed(2)} ${width.toFixed(2)} ${y.toFixed(2)}Z`;
      return [
        { d: path(1), colour: 'first', weight: 0, filled: true },
        { d: path(-1), colour: 'first', weight: 0, filled: true },
      ];
    }
    case 'curls': {
      const winding = (side: 1 | -1, up: 1 | -1): string =>
        curve(
          (t) => {
            const radius = r * 0.8 * (1 - 0.8 * t);
            const a = t * TURN * 1.3;
            return [x + side * (r * 2.2 - radius * Math.cos(a) - r * 1.4), y + up * radius * Math.sin(a)];
          },
          0,
          1,
          11,
        );
      return [
        ...rules(r * 2.2),
        ...([1, -1] as const).flatMap((side): Stroke[] =>
          ([1, -1] as const).map((up) => ({
            d: winding(side, up),
            colour: up === 1 ? 'first' : 'second',
            weight: 1.2,
          })),
        ),
        ...([1, -1] as const).map((side): Stroke => ({
          d: chain([
            [x + side * r * 2.2, y],
            [x, y],
          ]),
          colour: 'first',
          weight: 1,
        })),
      ];
    }
  }
}
