import type { ChartWords } from './chart-data.js';
import { aboutWidth, fitted, type Label, type Shape } from './drawing.js';

const SIZE = 7;
const SIGN = 6;

/** The key below a chart: what is the learner's own, and what the mean. On two lines where one is too narrow. */
export function keyOf(
  { own, mean }: ChartWords,
  width: number,
  signs: 'bars' | 'lines' = 'bars',
): { height: number; shapes: (top: number) => Shape[]; labels: (top: number) => Label[] } {
  const wide = SIGN + 1.5 + aboutWidth(own, SIZE) + 5;
  const beside = wide + SIGN + aboutWidth(mean, SIZE) <= width;
  const places = [{ x: 0, y: 3.4 }, beside ? { x: wide, y: 3.4 } : { x: 0, y: 7.2 }] as const;
  const sign = (n: 0 | 1, top: number): Shape => {
    const [x, y] = [places[n].x, places[n].y + top - 1];
    if (signs === 'lines')
      return {
        kind: 'path',
        d: `M${x} ${y}h${SIGN}`,
        stroke: n ? 'mean' : 'own',
        width: n ? 0.4 : 0.6,
        ...(n ? { dashes: '1.2 0.9' } : {}),
      };
    return n
      ? { kind: 'rect', x: x + SIGN / 2 - 0.35, y: y - 1.6, width: 0.7, height: 3.2, fill: 'mean' }
      : { kind: 'rect', x, y: y - 0.9, width: SIGN, height: 1.8, fill: 'own' };
  };
  return {
    height: beside ? 5 : 8.6,
    shapes: (top) => [sign(0, top), sign(1, top)],
    labels: (top) =>
      [own, mean].map((text, n): Label => ({
        x: places[n]!.x + SIGN + 1.5,
        y: places[n]!.y + top,
        text: fitted(text, SIZE, width - places[n]!.x - SIGN - 1.5),
        side: 'start',
        size: SIZE,
        colour: 'slate',
      })),
  };
}
