import {
  boundsOf,
  overlap,
  snap,
  tidyRect,
  type Gap,
  type Grip,
  type Guide,
  type Rect,
} from '@scriptum/core/placing';
import { sizeOfPage, type Placed, type PlacedBox } from '@scriptum/core/template';

/** Which edges a handle moves. */
export interface Handle {
  readonly name: string;
  readonly x: Grip;
  readonly y: Grip;
  /** Where it stands, as shares of the box. */
  readonly at: readonly [x: number, y: number];
}

export const HANDLES: readonly Handle[] = [
  { name: 'nw', x: 'start', y: 'start', at: [0, 0] },
  { name: 'n', x: 'none', y: 'start', at: [0.5, 0] },
  { name: 'ne', x: 'end', y: 'start', at: [1, 0] },
  { name: 'e', x: 'end', y: 'none', at: [1, 0.5] },
  { name: 'se', x: 'end', y: 'end', at: [1, 1] },
  { name: 's', x: 'none', y: 'end', at: [0.5, 1] },
  { name: 'sw', x: 'start', y: 'end', at: [0, 1] },
  { name: 'w', x: 'start', y: 'none', at: [0, 0.5] },
];

/** What is moved, sized or swept over with the mouse, from where. Millimetres. */
export type Drag =
  | {
      readonly kind: 'move';
      readonly page: number;
      readonly from: Point;
      readonly boxes: readonly PlacedBox[];
    }
  | {
      readonly kind: 'size';
      readonly page: number;
      readonly from: Point;
      readonly box: PlacedBox;
      readonly handle: Handle;
    }
  | { readonly kind: 'sweep'; readonly page: number; readonly from: Point; readonly had: readonly string[] };

export interface Point {
  readonly x: number;
  readonly y: number;
}

/** How things stand while the mouse is held. */
export interface Moving {
  readonly page: number;
  /** Where each box that moves stands now, by its identity. */
  readonly rects: ReadonlyMap<string, Rect>;
  readonly guides: readonly Guide[];
  readonly gaps: readonly Gap[];
  /** What is swept over. */
  readonly sweep: Rect | null;
}

export interface DragKeys {
  /** Nothing is drawn to lines. */
  readonly free: boolean;
  /** Along one axis alone, or in proportion. */
  readonly straight: boolean;
}

/** What things are drawn to besides each other. Millimetres. */
export interface Drawing {
  /** How far from a line something is drawn to it. */
  readonly near: number;
  /** How far the lines of a grid are apart, where there is one. */
  readonly grid?: number | undefined;
  /** What is printed on the page already. */
  readonly printed?: readonly Rect[];
}

/** How things stand where the mouse is at a point. */
export function movingTo(
  drag: Drag,
  to: Point,
  template: Placed,
  keys: DragKeys,
  { near, grid, printed }: Drawing,
): Moving {
  const still = { page: drag.page, guides: [], gaps: [], sweep: null };
  const by = { x: to.x - drag.from.x, y: to.y - drag.from.y };
  if (drag.kind === 'sweep') return { ...still, rects: new Map(), sweep: between(drag.from, to) };
  const moved = drag.kind === 'move' ? drag.boxes : [drag.box];
  const ids = new Set(moved.map(({ id }) => id));
  const around = {
    others: template.boxes.filter((box) => box.page === drag.page && !ids.has(box.id) && !box.turn),
    page: sizeOfPage(template, drag.page),
    margins: template.page.margins,
    grid,
    printed,
    near: keys.free ? -1 : near,
  };
  if (drag.kind === 'move') {
    const bounds = boundsOf(moved);
    if (!bounds) return { ...still, rects: new Map() };
    const [x, y] = keys.straight ? (Math.abs(by.x) > Math.abs(by.y) ? [by.x, 0] : [0, by.y]) : [by.x, by.y];
    const held = {
      x: keys.straight && x === 0 ? 'none' : 'all',
      y: keys.straight && y === 0 ? 'none' : 'all',
    } as const;
    const snapped = snap({ ...bounds, x: bounds.x + x, y: bounds.y + y }, around, held);
    const shift = { x: snapped.rect.x - bounds.x, y: snapped.rect.y - bounds.y };
    const rects = new Map(
      moved.map((box) => [box.id, tidyRect({ ...rectOf(box), x: box.x + shift.x, y: box.y + shift.y })]),
    );
    return { ...still, rects, guides: snapped.guides, gaps: snapped.gaps };
  }
  const { box, handle } = drag;
  const sized = sizedBy(rectOf(box), handle, by, keys.straight);
  // In proportion, a line for one side would bend the other.
  if (keys.straight) return { ...still, rects: new Map([[box.id, tidyRect(sized)]]) };
  const { rect, guides } = snap(sized, around, { x: handle.x, y: handle.y });
  return { ...still, rects: new Map([[box.id, rect]]), guides };
}

/** The smallest side that a box keeps, but for lines, which may have none. */
const LEAST = 1;

function sizedBy(rect: Rect, { x, y }: Handle, by: Point, inProportion: boolean): Rect {
  const side = (grip: Grip, start: number, length: number, shift: number): readonly [number, number] => {
    if (grip === 'start') {
      const taken = Math.min(shift, length - LEAST);
      return [start + taken, length - taken];
    }
    return [start, grip === 'end' ? Math.max(LEAST, length + shift) : length];
  };
  const [left, width] = side(x, rect.x, rect.width, by.x);
  const [top, height] = side(y, rect.y, rect.height, by.y);
  if (!inProportion || rect.width === 0 || rect.height === 0) return { x: left, y: top, width, height };
  const times =
    x === 'none'
      ? height / rect.height
      : y === 'none'
        ? width / rect.width
        : Math.max(width / rect.width, height / rect.height);
  const [w, h] = [rect.width * times, rect.height * times];
  return {
    x: x === 'start' ? rect.x + rect.width - w : rect.x,
    y: y === 'start' ? rect.y + rect.height - h : rect.y,
    width: w,
    height: h,
  };
}

const between = (a: Point, b: Point): Rect => ({
  x: Math.min(a.x, b.x),
  y: Math.min(a.y, b.y),
  width: Math.abs(a.x - b.x),
  height: Math.abs(a.y - b.y),
});

export const rectOf = ({ x, y, width, height }: Rect): Rect => ({ x, y, width, height });

/** The boxes that what is swept touches; those that are locked or only frame others are left. */
export const sweptOver = (template: Placed, page: number, sweep: Rect): string[] =>
  template.boxes
    .filter((box) => box.page === page && !box.locked && !isFrame(box) && overlap(box, sweep))
    .map(({ id }) => id);

/** True for what runs around others: a press into its middle is not meant for it. */
export const isFrame = (box: PlacedBox): boolean =>
  box.kind === 'ornament' && (box.ornament.kind === 'border' || box.ornament.kind === 'corners');

/** How far a point is inside the edge of a box, in millimetres. */
export const insideEdge = (box: Rect, { x, y }: Point): number =>
  Math.min(x - box.x, y - box.y, box.x + box.width - x, box.y + box.height - y);
