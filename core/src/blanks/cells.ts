import type { Area, Rule } from './page-marks.js';

/** Millimetres within which two edges are one. */
export const TOUCH = 0.3;

interface Span {
  readonly at: number;
  from: number;
  to: number;
}

/** Lines of one direction, those that lie on each other as one. */
function spansOf(rules: readonly Rule[], across: boolean): Span[] {
  const spans: Span[] = [];
  const all = rules
    .filter(({ x1, y1, x2, y2 }) => (across ? Math.abs(y1 - y2) : Math.abs(x1 - x2)) < TOUCH)
    .map(({ x1, y1, x2, y2 }) =>
      across
        ? { at: (y1 + y2) / 2, from: Math.min(x1, x2), to: Math.max(x1, x2) }
        : { at: (x1 + x2) / 2, from: Math.min(y1, y2), to: Math.max(y1, y2) },
    )
    .sort((a, b) => a.at - b.at || a.from - b.from);
  for (const one of all) {
    const same = spans.find(
      (span) =>
        Math.abs(span.at - one.at) < TOUCH && span.from - TOUCH <= one.to && one.from - TOUCH <= span.to,
    );
    if (!same) spans.push({ ...one });
    else {
      same.from = Math.min(same.from, one.from);
      same.to = Math.max(same.to, one.to);
    }
  }
  return spans;
}

const covers = (spans: readonly Span[], at: number, from: number, to: number): boolean =>
  spans.some((span) => Math.abs(span.at - at) < TOUCH && span.from - TOUCH <= from && span.to + TOUCH >= to);

/** As many lines of one direction are looked at: a page of more is a drawing. */
const LINES_MOST = 400;

/** The smallest rectangles that lines enclose on all four sides. */
export function cellsOf(rules: readonly Rule[]): Area[] {
  const [across, down] = [spansOf(rules, true), spansOf(rules, false)];
  if (across.length > LINES_MOST || down.length > LINES_MOST) return [];
  const unique = (all: readonly Span[]): number[] => {
    const places: number[] = [];
    for (const { at } of all) if (!places.some((one) => Math.abs(one - at) < TOUCH)) places.push(at);
    return places.sort((a, b) => a - b);
  };
  const [xs, ys] = [unique(down), unique(across)];
  const cells: Area[] = [];
  for (const [j, y] of ys.entries())
    for (const [i, x] of xs.entries()) {
      const cell = cellAt(i, j);
      if (cell) cells.push(cell);
      function cellAt(left: number, top: number): Area | null {
        if (!covers(across, y, x, x + 2 * TOUCH) || !covers(down, x, y, y + 2 * TOUCH)) return null;
        for (const right of xs.slice(left + 1)) {
          if (!covers(across, y, x, right)) return null;
          if (!covers(down, right, y, y + 2 * TOUCH)) continue;
          for (const bottom of ys.slice(top + 1)) {
            if (!covers(down, x, y, bottom) || !covers(down, right, y, bottom)) break;
            if (covers(across, bottom, x, right)) return { x, y, width: right - x, height: bottom - y };
          }
        }
        return null;
      }
    }
  return cells;
}

/** Horizontal lines that enclose nothing: none of their ends meets an upright one. */
export function freeRules(
  rules: readonly Rule[],
): { readonly x: number; readonly y: number; readonly width: number }[] {
  const down = spansOf(rules, false).filter(({ from, to }) => to - from > 1);
  return spansOf(rules, true)
    .filter(
      ({ at, from, to }) =>
        !down.some(
          (span) => span.at > from - 1 && span.at < to + 1 && span.from < at + 1 && span.to > at - 1,
        ),
    )
    .map(({ at, from, to }) => ({ x: from, y: at, width: to - from }));
}
