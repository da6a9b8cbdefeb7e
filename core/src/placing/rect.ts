/** A rectangle on a page. Millimetres from the page's upper left corner. */
export interface Rect {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

/** Hundredths of a millimetre, so that sums of tenths stay what people read. */
export const tidy = (mm: number): number => Math.round(mm * 100) / 100 || 0;

export const tidyRect = ({ x, y, width, height }: Rect): Rect => ({
  x: tidy(x),
  y: tidy(y),
  width: tidy(width),
  height: tidy(height),
});

/** The least rectangle around some; null around none. */
export function boundsOf(rects: readonly Rect[]): Rect | null {
  if (rects.length === 0) return null;
  const x = Math.min(...rects.map((one) => one.x));
  const y = Math.min(...rects.map((one) => one.y));
  return tidyRect({
    x,
    y,
    width: Math.max(...rects.map((one) => one.x + one.width)) - x,
    height: Math.max(...rects.map((one) => one.y + one.height)) - y,
  });
}

/** True where two share some room; touching edges share none. */
export const overlap = (a: Rect, b: Rect): boolean =>
  a.x < b.x + b.width && b.x < a.x + a.width && a.y < b.y + b.height && b.y < a.y + a.height;

/** Directions on a page, and what is said of a rectangle along each. */
export type Axis = 'x' | 'y';
export const startOf = (rect: Rect, axis: Axis): number => rect[axis];
export const lengthOf = (rect: Rect, axis: Axis): number => (axis === 'x' ? rect.width : rect.height);
export const endOf = (rect: Rect, axis: Axis): number => startOf(rect, axis) + lengthOf(rect, axis);
export const middleOf = (rect: Rect, axis: Axis): number => startOf(rect, axis) + lengthOf(rect, axis) / 2;
export const acrossOf = (axis: Axis): Axis => (axis === 'x' ? 'y' : 'x');
