import fc from 'fast-check';
import { checkSvg } from '../picture/index.js';
import { FIRST_ORNAMENTS, Ornament, ORNAMENT_PATTERNS, ornamentSvg, type OrnamentKind } from './index.js';

const all = (Object.keys(FIRST_ORNAMENTS) as OrnamentKind[]).flatMap((kind) =>
  ORNAMENT_PATTERNS[kind].map((pattern) => [kind, pattern] as const),
);
const of = (kind: OrnamentKind, pattern: string): Ornament =>
  Ornament.parse({ ...FIRST_ORNAMENTS[kind], pattern });

/** Every coordinate pair of the paths of a picture; arcs and the rest are told apart by their letters. */
function points(svg: string): [number, number][] {
  const found: [number, number][] = [];
  for (const [, d] of svg.matchAll(/ d="([^"]+)"/g)) {
    let [x, y] = [0, 0];
    for (const [, command, rest] of d!.matchAll(/([MLCQAHVZz])([^MLCQAHVZz]*)/g)) {
      const numbers = (rest!.match(/-?\d*\.?\d+/g) ?? []).map(Number);
      if (command === 'H') [x] = numbers as [number];
      else if (command === 'V') [y] = numbers as [number];
      else if (command === 'A') [x, y] = numbers.slice(5) as [number, number];
      else for (let n = 0; n + 1 < numbers.length; n += 2) [x, y] = [numbers[n]!, numbers[n + 1]!];
      found.push([x, y]);
    }
  }
  return found;
}

test.each(all)(
  '%s, %s: a drawing that may be printed, the same each time, within its room',
  (kind, pattern) => {
    const ornament = of(kind, pattern);
    const room = { width: 120, height: 80 };
    const svg = ornamentSvg(ornament, room);
    expect(checkSvg(new TextEncoder().encode(svg)).ok).toBe(true);
    expect(svg).toBe(ornamentSvg(structuredClone(ornament), room));
    expect(svg).not.toMatch(/NaN|Infinity|undefined/);
    expect(svg).toContain('width="120mm" height="80mm" viewBox="0 0 120 80"');
    const drawn = points(svg);
    expect(drawn.length).toBeGreaterThan(2);
    for (const [x, y] of drawn) {
      expect(x).toBeGreaterThanOrEqual(-1);
      expect(x).toBeLessThanOrEqual(121);
      expect(y).toBeGreaterThanOrEqual(-1);
      expect(y).toBeLessThanOrEqual(81);
    }
  },
);

test('no two patterns are drawn alike', () => {
  const drawn = all.map(([kind, pattern]) => ornamentSvg(of(kind, pattern), { width: 100, height: 70 }));
  expect(new Set(drawn).size).toBe(drawn.length);
});

test('its colours, the thickness of its lines and its strength are those that are asked for', () => {
  const svg = ornamentSvg(
    { ...FIRST_ORNAMENTS.rosette, colour: '#123456', second: undefined, weight: 0.5, strength: 0.25 },
    { width: 50, height: 50 },
  );
  expect(new Set([...svg.matchAll(/stroke="([^"]+)"/g)].map(([, colour]) => colour))).toEqual(
    new Set(['#123456']),
  );
  expect(svg).toContain('stroke-width="0.5"');
  expect(svg).toContain('opacity="0.25"');
});

test('corner pieces are the same one turned over: what they draw is as far from each edge', () => {
  for (const pattern of ORNAMENT_PATTERNS.corners) {
    const drawn = points(ornamentSvg(of('corners', pattern), { width: 100, height: 100 }));
    const key = ([x, y]: [number, number]): string => `${x.toFixed(0)} ${y.toFixed(0)}`;
    const left = new Set(drawn.filter(([x]) => x < 49).map(key));
    const right = new Set(drawn.filter(([x]) => x > 51).map(([x, y]) => key([100 - x, y])));
    const shared = [...left].filter((one) => right.has(one)).length;
    // Rounded to whole millimetres a few points fall to either side.
    expect(shared / left.size).toBeGreaterThan(0.85);
  }
});

test('whatever its numbers and its room, it is drawn of numbers', () => {
  const room = fc.record({
    width: fc.double({ min: 1, max: 2000, noNaN: true }),
    height: fc.double({ min: 1, max: 2000, noNaN: true }),
  });
  fc.assert(
    fc.property(
      fc.constantFrom(...all),
      room,
      fc.double({ min: 0.05, max: 2, noNaN: true }),
      ([kind, pattern], size, weight) => {
        expect(ornamentSvg({ ...of(kind, pattern), weight }, size)).not.toMatch(/NaN|Infinity|undefined/);
      },
    ),
    { numRuns: 120 },
  );
});

test('however fine it is asked for, it stays small enough to be drawn while others wait', () => {
  const room = { width: 2000, height: 2000 };
  for (const [kind, pattern] of all) {
    const finest = Ornament.parse({
      ...of(kind, pattern),
      ...('size' in of(kind, pattern) && kind === 'border' ? { size: 0.5, radius: 0 } : {}),
      ...('count' in of(kind, pattern)
        ? { count: { rosette: 48, waves: 80, seal: 80, laurel: 24 }[kind as 'seal'] }
        : {}),
    });
    expect(ornamentSvg(finest, room).length).toBeLessThan(1_200_000);
  }
});
