import { scaleBand } from 'd3-scale';
import { tickText, valueScale } from './axis.js';
import type { ChartData, ChartSize } from './chart-data.js';
import { aboutWidth, fitted, POINT, type Drawing, type Label, type Shape } from './drawing.js';
import { keyOf } from './key.js';
import { sayPoints } from './say.js';

const SIZE = 8;
const SMALL = 7;
const ROW = 6.4;

/** A bar across for each value, with the mean as a mark on it. */
export function drawBars(data: Extract<ChartData, { kind: 'bars' | 'course' }>, size: ChartSize): Drawing {
  const { points, axis, words } = data;
  const withMean = points.some(({ mean }) => mean !== null);
  const key = withMean ? keyOf(words, size.width) : null;
  const foot = (key?.height ?? 0) + 7 + (axis ? 3.4 : 0);
  const height = size.height ?? points.length * ROW + foot;
  const names = Math.min(
    size.width * 0.38,
    Math.max(...points.map(({ title }) => aboutWidth(title, SIZE)), 0),
  );
  const said = Math.max(...points.map(({ text }) => aboutWidth(text || '–', SIZE)), 0);
  const [left, right] = [names > 0 ? names + 2 : 0, size.width - said - 1.5];
  const bottom = Math.max(height - foot, 4);
  const x = valueScale(data.least, data.most, [left, Math.max(right, left + 5)]);
  const [from, to] = x.range() as [number, number];
  const zero = x(Math.max(x.domain()[0]!, Math.min(0, x.domain()[1]!)));
  const y = scaleBand(
    points.map((_, n) => n),
    [0, bottom],
  )
    .paddingInner(0.5)
    .paddingOuter(0.25);
  const thick = Math.min(y.bandwidth(), 4.5);
  const shapes: Shape[] = [];
  const labels: Label[] = [];
  const room = aboutWidth('0000', SMALL);
  for (const tick of x.ticks(Math.min(5, Math.max(1, Math.floor((to - from) / room / 1.6))))) {
    shapes.push(vertical(x(tick), 0, bottom));
    labels.push({
      x: x(tick),
      y: bottom + 3.2,
      text: tickText(tick),
      side: 'middle',
      size: SMALL,
      colour: 'slate',
    });
  }
  points.forEach(({ title, value, text, mean }, n) => {
    const middle = y(n)! + y.bandwidth() / 2;
    const line = middle + SIZE * POINT * 0.35;
    const at = value === null ? zero : x(value);
    shapes.push({
      kind: 'rect',
      x: from,
      y: middle - thick / 2,
      width: to - from,
      height: thick,
      fill: 'ground',
    });
    if (value !== null)
      shapes.push({
        kind: 'rect',
        x: Math.min(zero, at),
        y: middle - thick / 2,
        width: Math.abs(at - zero),
        height: thick,
        fill: 'own',
      });
    if (mean !== null)
      shapes.push({
        kind: 'rect',
        x: x(mean) - 0.35,
        y: middle - thick / 2 - 0.8,
        width: 0.7,
        height: thick + 1.6,
        fill: 'mean',
      });
    labels.push({
      x: 0,
      y: line,
      text: fitted(title, SIZE, names),
      side: 'start',
      size: SIZE,
      colour: 'ink',
    });
    labels.push({
      x: size.width,
      y: line,
      text: text || '–',
      side: 'end',
      size: SIZE,
      colour: 'ink',
      strong: true,
    });
  });
  if (axis)
    labels.push({
      x: (from + to) / 2,
      y: bottom + 6.6,
      text: fitted(axis, SMALL, size.width),
      side: 'middle',
      size: SMALL,
      colour: 'slate',
    });
  if (key) {
    const down = height - key.height;
    shapes.push(...key.shapes(down));
    labels.push(...key.labels(down));
  }
  return { width: size.width, height, shapes, labels, alt: sayPoints(data) };
}

const vertical = (x: number, from: number, to: number): Shape => ({
  kind: 'path',
  d: `M${round(x)} ${round(from)}V${round(to)}`,
  stroke: 'rule',
  width: 0.15,
});
const round = (value: number): number => Math.round(value * 1000) / 1000;
