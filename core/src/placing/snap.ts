import {
  acrossOf,
  endOf,
  lengthOf,
  middleOf,
  startOf,
  tidy,
  tidyRect,
  type Axis,
  type Rect,
} from './rect.js';

/** A line that something was put in line with: at a place of its axis, from and to along the other. */
export interface Guide {
  readonly axis: Axis;
  readonly at: number;
  readonly from: number;
  readonly to: number;
}

/** A distance that is the same as another one: along its axis, at a place of the other. */
export interface Gap {
  readonly axis: Axis;
  readonly from: number;
  readonly to: number;
  readonly at: number;
}

export interface Snapped {
  readonly rect: Rect;
  readonly guides: readonly Guide[];
  readonly gaps: readonly Gap[];
}

/** What things are put in line with. */
export interface Surroundings {
  readonly others: readonly Rect[];
  /** What is printed on the page already, such as the lines of a form: no distances to it are looked at. */
  readonly printed?: readonly Rect[] | undefined;
  readonly page: { readonly width: number; readonly height: number };
  /** Margins of the page, as lines to keep to. */
  readonly margins?:
    | { readonly top: number; readonly right: number; readonly bottom: number; readonly left: number }
    | undefined;
  /** Millimetres between the lines of a grid, where there is one. */
  readonly grid?: number | undefined;
  /** Millimetres within which something is drawn to a line. */
  readonly near: number;
}

/** Which edges are moved: both with all between them, or one alone. */
export type Grip = 'all' | 'start' | 'end' | 'none';

const SAME = 0.006;
/** Where nothing is near, places are whole tenths of a millimetre. */
const tenth = (mm: number): number => Math.round(mm * 10) / 10;

/**
 * Puts a rectangle that is being moved or sized in line with what is near: edges and middles of others and of the page, its
 * margins, distances that others have, or else the grid.
 *
 * @param grips which edges move along each axis.
 */
export function snap(rect: Rect, around: Surroundings, grips: Readonly<Record<Axis, Grip>>): Snapped {
  let moved = rect;
  for (const axis of ['x', 'y'] as const) moved = along(axis, moved, around, grips[axis]);
  const placed = tidyRect(moved);
  const guides = (['x', 'y'] as const).flatMap((axis) =>
    grips[axis] === 'none' ? [] : guidesOf(axis, placed, around, grips[axis]),
  );
  const gaps = (['x', 'y'] as const).flatMap((axis) =>
    grips[axis] === 'all' ? gapsOf(axis, placed, around.others) : [],
  );
  return { rect: placed, guides, gaps };
}

/** The places of a rectangle that may come to stand on a line. */
function pointsOf(rect: Rect, axis: Axis, grip: Grip): number[] {
  if (grip === 'start') return [startOf(rect, axis)];
  if (grip === 'end') return [endOf(rect, axis)];
  return [startOf(rect, axis), middleOf(rect, axis), endOf(rect, axis)];
}

function linesOf(axis: Axis, { others, printed = [], page, margins }: Surroundings): number[] {
  const length = axis === 'x' ? page.width : page.height;
  const kept = margins
    ? axis === 'x'
      ? [margins.left, length - margins.right]
      : [margins.top, length - margins.bottom]
    : [];
  return [
    0,
    length / 2,
    length,
    ...kept,
    ...[...others, ...printed].flatMap((one) => [startOf(one, axis), middleOf(one, axis), endOf(one, axis)]),
  ];
}

function along(axis: Axis, rect: Rect, around: Surroundings, grip: Grip): Rect {
  if (grip === 'none') return rect;
  const lines = linesOf(axis, around);
  let best: number | null = null;
  const offer = (shift: number): void => {
    if (Math.abs(shift) <= around.near && (best === null || Math.abs(shift) < Math.abs(best) - 1e-9))
      best = shift;
  };
  for (const point of pointsOf(rect, axis, grip)) for (const line of lines) offer(line - point);
  if (grip === 'all')
    for (const start of evenStarts(axis, rect, around.others)) offer(start - startOf(rect, axis));
  const first = pointsOf(rect, axis, grip)[0]!;
  if (best === null && around.grid) best = Math.round(first / around.grid) * around.grid - first;
  return shifted(axis, rect, best ?? tenth(first) - first, grip);
}

function shifted(axis: Axis, rect: Rect, by: number, grip: Grip): Rect {
  const size = axis === 'x' ? 'width' : 'height';
  if (grip === 'all') return { ...rect, [axis]: rect[axis] + by };
  if (grip === 'end') return { ...rect, [size]: Math.max(0, rect[size] + by) };
  // The other edge stays where it is.
  const taken = Math.min(by, rect[size]);
  return { ...rect, [axis]: rect[axis] + taken, [size]: rect[size] - taken };
}

/** Others in a row with a rectangle along an axis, in their order: they share some of the room across. */
function rowOf(axis: Axis, rect: Rect, others: readonly Rect[]): Rect[] {
  const across = acrossOf(axis);
  return others
    .filter((one) => startOf(one, across) < endOf(rect, across) && startOf(rect, across) < endOf(one, across))
    .sort((a, b) => startOf(a, axis) - startOf(b, axis));
}

/** Where a rectangle would have the same distance to both its neighbours, or as others have among themselves. */
function evenStarts(axis: Axis, rect: Rect, others: readonly Rect[]): number[] {
  const row = rowOf(axis, rect, others);
  const starts: number[] = [];
  for (const [n, one] of row.entries()) {
    const next = row[n + 1];
    if (!next) continue;
    const room = startOf(next, axis) - endOf(one, axis);
    if (room >= lengthOf(rect, axis)) starts.push(endOf(one, axis) + (room - lengthOf(rect, axis)) / 2);
    if (room > 0) {
      starts.push(endOf(next, axis) + room);
      starts.push(startOf(one, axis) - room - lengthOf(rect, axis));
    }
  }
  return starts;
}

/** The distances beside a rectangle that are the same as another one in its row. */
function gapsOf(axis: Axis, rect: Rect, others: readonly Rect[]): Gap[] {
  const row = [...rowOf(axis, rect, others), rect].sort((a, b) => startOf(a, axis) - startOf(b, axis));
  const gaps = row.slice(1).map((one, n): Gap & { own: boolean } => {
    const before = row[n]!;
    const across = acrossOf(axis);
    const from = Math.max(startOf(before, across), startOf(one, across));
    const to = Math.min(endOf(before, across), endOf(one, across));
    return {
      axis,
      from: tidy(endOf(before, axis)),
      to: tidy(startOf(one, axis)),
      at: tidy((from + to) / 2),
      own: before === rect || one === rect,
    };
  });
  const length = ({ from, to }: Gap): number => to - from;
  const seen = gaps.filter((gap) => length(gap) > 0.05);
  return seen
    .filter((gap) =>
      seen.some(
        (other) =>
          other !== gap && (gap.own || other.own) && Math.abs(length(other) - length(gap)) < 2 * SAME,
      ),
    )
    .map(({ own: _, ...gap }) => gap);
}

/** The lines that a rectangle stands on now, each from the first to the last thing that stands on it. */
function guidesOf(axis: Axis, rect: Rect, around: Surroundings, grip: Grip): Guide[] {
  const across = acrossOf(axis);
  const { page, printed = [] } = around;
  const others = [...around.others, ...printed];
  const length = axis === 'x' ? page.width : page.height;
  const far = axis === 'x' ? page.height : page.width;
  const guides = new Map<number, Guide>();
  for (const point of pointsOf(rect, axis, grip)) {
    const on = others.filter((one) =>
      [startOf(one, axis), middleOf(one, axis), endOf(one, axis)].some((at) => Math.abs(at - point) < SAME),
    );
    const ofPage =
      Math.abs(point - length / 2) < SAME ||
      (around.margins !== undefined &&
        linesOf(axis, { ...around, others: [], printed: [] })
          .slice(3)
          .some((at) => Math.abs(at - point) < SAME));
    if (on.length === 0 && !ofPage) continue;
    const ends = [rect, ...on];
    guides.set(tidy(point), {
      axis,
      at: tidy(point),
      from: ofPage ? 0 : Math.min(...ends.map((one) => startOf(one, across))),
      to: ofPage ? far : Math.max(...ends.map((one) => endOf(one, across))),
    });
  }
  return [...guides.values()];
}
