import fc from 'fast-check';
import {
  alignBoxes,
  boundsOf,
  distributeBoxes,
  overlap,
  reorder,
  snap,
  stepCopies,
  tidy,
  type Rect,
} from './index.js';

const rect = (x: number, y: number, width: number, height: number): Rect => ({ x, y, width, height });
const named = (id: string, x: number, y: number, width = 10, height = 10, group?: string) => ({
  id,
  ...rect(x, y, width, height),
  ...(group ? { group } : {}),
});
const page = { width: 297, height: 210 };
const move = (moving: Rect, others: readonly Rect[], near = 2, grid?: number) =>
  snap(moving, { others, page, near, grid }, { x: 'all', y: 'all' });

const millimetres = fc.integer({ min: 0, max: 2900 }).map((n) => n / 10);
const rects = fc.record({ x: millimetres, y: millimetres, width: millimetres, height: millimetres });

test('what is moved is drawn to edges and middles of others, and of the page', () => {
  const other = rect(100, 50, 40, 20);
  // The left edges, and the lower edge on the other's upper one.
  expect(move(rect(101.2, 39.1, 10, 10), [other]).rect).toEqual(rect(100, 40, 10, 10));
  // The middles.
  expect(move(rect(114.3, 120, 10, 10), [other]).rect.x).toBe(115);
  expect(move(rect(143, 99, 10, 10), []).rect).toEqual(rect(143.5, 100, 10, 10));
});

test('nothing is drawn to what is not near, and places are tenths of a millimetre then', () => {
  const { rect: placed, guides, gaps } = move(rect(33.333, 71.777, 10, 10), [rect(100, 150, 40, 20)]);
  expect(placed).toEqual(rect(33.3, 71.8, 10, 10));
  expect([...guides, ...gaps]).toEqual([]);
});

test('margins are lines to keep to, a grid only where nothing else is near', () => {
  const margins = { top: 20, right: 20, bottom: 20, left: 20 };
  const around = { others: [], page, near: 2, margins };
  const both = { x: 'all', y: 'all' } as const;
  expect(snap(rect(18.9, 60, 10, 10), around, both).rect.x).toBe(20);
  expect(snap(rect(266.2, 60, 10, 10), around, both).rect.x).toBe(267);
  expect(move(rect(33.3, 61, 10, 10), [], 2, 5).rect).toEqual(rect(35, 60, 10, 10));
});

test('what is printed on the page is kept to, and no distances to it are looked at', () => {
  const printed = [rect(20, 40, 10, 10), rect(45, 40, 10, 10)];
  const around = { others: [], printed, page, near: 1 };
  const both = { x: 'all', y: 'all' } as const;
  const line = snap(rect(45.6, 100, 7, 10), around, both);
  expect(line.rect.x).toBe(45);
  expect(line.guides).toContainEqual({ axis: 'x', at: 45, from: 40, to: 110 });
  // The same distance as the two have would be at 70.
  expect(snap(rect(69.5, 40.2, 10, 10), around, both)).toMatchObject({ rect: { x: 69.5, y: 40 }, gaps: [] });
});

test('guides run from the first to the last thing on a line', () => {
  const { guides } = move(rect(50.4, 100, 10, 10), [rect(50, 20, 30, 10), rect(50, 150, 5, 5)]);
  expect(guides).toContainEqual({ axis: 'x', at: 50, from: 20, to: 155 });
});

test('a third one comes to the same distance, and both distances are shown', () => {
  const row = [rect(20, 40, 10, 10), rect(45, 40, 10, 10)];
  const { rect: placed, gaps } = move(rect(69.2, 40, 10, 10), row, 1);
  expect(placed.x).toBe(70);
  expect(gaps).toEqual([
    { axis: 'x', from: 30, to: 45, at: 45 },
    { axis: 'x', from: 55, to: 70, at: 45 },
  ]);
  // Between two: as far from the one as from the other.
  expect(move(rect(36.6, 40, 4, 10), [rect(20, 40, 10, 10), rect(50, 40, 10, 10)], 2).rect.x).toBe(38);
});

test('a side that is sized is drawn to lines, and the other side stays', () => {
  const around = { others: [rect(100, 0, 10, 10)], page, near: 2 };
  expect(snap(rect(40, 30, 59, 10), around, { x: 'end', y: 'none' }).rect).toEqual(rect(40, 30, 60, 10));
  expect(snap(rect(111, 30, 50, 10), around, { x: 'start', y: 'none' }).rect).toEqual(rect(110, 30, 51, 10));
});

test('nothing is drawn further than what is near', () => {
  fc.assert(
    fc.property(rects, fc.array(rects, { maxLength: 12 }), (moving, others) => {
      const near = 1.5;
      const { rect: placed } = move(moving, others, near);
      // Half a tenth more, where nothing is near and the place becomes a whole tenth.
      expect(Math.abs(placed.x - moving.x)).toBeLessThanOrEqual(near + 0.06);
      expect(Math.abs(placed.y - moving.y)).toBeLessThanOrEqual(near + 0.06);
      expect([placed.width, placed.height]).toEqual([moving.width, moving.height]);
    }),
  );
});

test('each guide is a line that the moved one and another, or the page, stand on', () => {
  fc.assert(
    fc.property(rects, fc.array(rects, { maxLength: 8 }), (moving, others) => {
      const { rect: placed, guides } = move(moving, others);
      const points = (one: Rect, axis: 'x' | 'y'): number[] =>
        axis === 'x'
          ? [one.x, one.x + one.width / 2, one.x + one.width]
          : [one.y, one.y + one.height / 2, one.y + one.height];
      for (const { axis, at } of guides) {
        const lines = [...others.flatMap((one) => points(one, axis)), axis === 'x' ? 148.5 : 105];
        expect(points(placed, axis).some((one) => Math.abs(one - at) < 0.02)).toBe(true);
        expect(lines.some((one) => Math.abs(one - at) < 0.02)).toBe(true);
      }
    }),
  );
});

test('aligned boxes stand in line; one alone stands in line with the page', () => {
  const boxes = [named('a', 10, 10, 20, 10), named('b', 50, 40, 10, 30), named('c', 30, 90, 40, 10)];
  const xs = (side: 'left' | 'centre' | 'right') =>
    alignBoxes(boxes, side, { x: 0, y: 0, ...page }).map(({ x }) => x);
  expect(xs('left')).toEqual([10, 10, 10]);
  expect(xs('right')).toEqual([50, 60, 30]);
  expect(xs('centre')).toEqual([30, 35, 20]);
  expect(alignBoxes([boxes[0]!], 'middle', { x: 0, y: 0, ...page })[0]).toMatchObject({ x: 10, y: 100 });
});

test('a group is moved as a whole', () => {
  const boxes = [named('a', 10, 10, 10, 10, 'g'), named('b', 30, 20, 10, 10, 'g'), named('c', 100, 50)];
  const moved = alignBoxes(boxes, 'right', { x: 0, y: 0, ...page });
  expect(moved.map(({ x }) => x)).toEqual([80, 100, 100]);
});

test('distributed boxes have one distance; the outer ones stay', () => {
  const boxes = [named('c', 100, 0, 10), named('a', 0, 0, 20), named('b', 30, 0, 30)];
  const moved = new Map(distributeBoxes(boxes, 'x').map((box) => [box.id, box]));
  expect([moved.get('a')!.x, moved.get('b')!.x, moved.get('c')!.x]).toEqual([0, 45, 100]);
  expect(distributeBoxes(boxes.slice(0, 2), 'x')).toEqual(boxes.slice(0, 2));
});

test('whatever is distributed has one distance from each to the next', () => {
  const some = fc
    .array(rects, { minLength: 3, maxLength: 10 })
    .map((all) => all.map((one, n) => ({ id: `b${n}`, ...one })));
  fc.assert(
    fc.property(some, (boxes) => {
      const order = [...boxes].sort((a, b) => a.y - b.y).map(({ id }) => id);
      const moved = new Map(distributeBoxes(boxes, 'y').map((box) => [box.id, box]));
      const sorted = order.map((id) => moved.get(id)!);
      const gaps = sorted.slice(1).map((box, n) => box.y - sorted[n]!.y - sorted[n]!.height);
      for (const gap of gaps) expect(Math.abs(gap - gaps[0]!)).toBeLessThan(0.03);
      expect(sorted.map(({ height }) => height)).toEqual(
        order.map((id) => boxes.find((box) => box.id === id)!.height),
      );
    }),
  );
});

test('copies in steps stand so far from each other, in groups of their own', () => {
  let n = 0;
  const copies = stepCopies(
    [named('a', 10, 10, 5, 5, 'g'), named('b', 20, 10, 5, 5, 'g')],
    2,
    { x: 0, y: 12.5 },
    () => `n${++n}`,
  );
  expect(copies.map(({ x, y }) => [x, y])).toEqual([
    [10, 22.5],
    [20, 22.5],
    [10, 35],
    [20, 35],
  ]);
  expect(new Set(copies.map(({ id }) => id)).size).toBe(4);
  expect(copies[0]!.group).toBe(copies[1]!.group);
  expect(copies[2]!.group).not.toBe(copies[0]!.group);
  expect(copies[0]!.group).not.toBe('g');
});

test('an order is changed by one place, or to an end, and keeps everybody', () => {
  const all = ['a', 'b', 'c', 'd'].map((id) => ({ id }));
  const said = (ids: string[], to: Parameters<typeof reorder>[2]) =>
    reorder(all, new Set(ids), to)
      .map(({ id }) => id)
      .join('');
  expect(said(['c'], 'earlier')).toBe('acbd');
  expect(said(['b', 'c'], 'later')).toBe('adbc');
  expect(said(['a'], 'earlier')).toBe('abcd');
  expect(said(['d'], 'later')).toBe('abcd');
  expect(said(['c'], 'first')).toBe('cabd');
  expect(said(['a', 'c'], 'last')).toBe('bdac');
});

test('bounds are the least rectangle around all; touching is no overlap', () => {
  expect(boundsOf([rect(10, 20, 5, 5), rect(30, 0, 1, 1)])).toEqual(rect(10, 0, 21, 25));
  expect(boundsOf([])).toBeNull();
  expect(overlap(rect(0, 0, 10, 10), rect(10, 0, 5, 5))).toBe(false);
  expect(overlap(rect(0, 0, 10, 10), rect(9.9, 9.9, 5, 5))).toBe(true);
  expect(tidy(0.1 + 0.2)).toBe(0.3);
});
