import { scalePoint } from 'd3-scale';
import { line } from 'd3-shape';
import { tickText, valueScale } from './axis.js';
import type { ChartData, ChartPoint, ChartSize } from './chart-data.js';
import { aboutWidth, fitted, type Drawing, type Label, type Shape } from './drawing.js';
import { keyOf } from './key.js';
import { sayPoints } from './say.js';

const SIZE = 7.5;
const SMALL = 7;

/** Values one after the other, joined by a line where none is missing between; the means as a dashed line. */
export function drawCourse(data: Extract<ChartData, { kind: 'bars' | 'course' }>, size: ChartSize): Drawing {
  const { points, axis, words } = data;
  const { width } = size;
  const height = size.height ?? Math.min(60, Math.max(32, width * 0.42));
  const key = points.some(({ mean }) => mean !== null) ? keyOf(words, width, 'lines') : null;
  const top = axis ? 6 : 3.5;
  const bottom = Math.max(height - 5.5 - (key?.height ?? 0), top + 8);
  const y = valueScale(data.least, data.most, [bottom, top]);
  const ticks = y.ticks(4);
  const left = Math.max(...ticks.map((tick) => aboutWidth(tickText(tick), SMALL))) + 2;
  const room = (width - left) / Math.max(1, points.length);
  const x = scalePoint(
    points.map((_, n) => n),
    [left + Math.min(6, room / 2), width - Math.min(6, room / 2)],
  );
  const shapes: Shape[] = ticks.map((tick) => ({
    kind: 'path',
    d: `M${round(left)} ${round(y(tick))}H${round(width)}`,
    stroke: 'rule',
    width: 0.15,
  }));
  const labels: Label[] = ticks.map((tick) => ({
    x: left - 1.5,
    y: y(tick) + 0.9,
    text: tickText(tick),
    side: 'end',
    size: SMALL,
    colour: 'slate',
  }));
  const path = (of: (point: ChartPoint) => number | null): string =>
    line<ChartPoint>()
      .defined((point) => of(point) !== null)
      .x((_, n) => x(n)!)
      .y((point) => y(of(point)!))
      .digits(3)([...points]) ?? '';
  const means = path(({ mean }) => mean);
  if (means) shapes.push({ kind: 'path', d: means, stroke: 'mean', width: 0.4, dashes: '1.2 0.9' });
  const own = path(({ value }) => value);
  if (own) shapes.push({ kind: 'path', d: own, stroke: 'own', width: 0.6 });
  const every = Math.ceil(
    (Math.max(...points.map(({ title }) => Math.min(aboutWidth(title, SMALL), 22)), 4) + 1.5) / room,
  );
  points.forEach(({ title, value, text, mean }, n) => {
    const at = x(n)!;
    if (mean !== null)
      shapes.push({ kind: 'rect', x: at - 0.6, y: y(mean) - 0.6, width: 1.2, height: 1.2, fill: 'mean' });
    if (value !== null) {
      shapes.push({ kind: 'dot', x: at, y: y(value), radius: 0.95, fill: 'own' });
      // Above the point, unless the mean is just there.
      const below = mean !== null && mean > value && y(value) - y(mean) < 5 && y(value) + 4 < bottom;
      if (room > aboutWidth(text, SIZE) + 0.5)
        labels.push({
          x: at,
          y: y(value) + (below ? 4 : -1.9),
          text,
          side: 'middle',
          size: SIZE,
          colour: 'ink',
          strong: true,
        });
    }
    if (n % every === 0)
      labels.push({
        x: at,
        y: bottom + 4,
        text: fitted(title, SMALL, room * every - 1),
        side: 'middle',
        size: SMALL,
        colour: 'slate',
      });
  });
  if (axis)
    labels.push({
      x: 0,
      y: 2.6,
      text: fitted(axis, SMALL, width),
      side: 'start',
      size: SMALL,
      colour: 'slate',
    });
  if (key) {
    shapes.push(...key.shapes(height - key.height));
    labels.push(...key.labels(height - key.height));
  }
  return { width, height, shapes, labels, alt: sayPoints(data) };
}

const round = (value: number): number => Math.round(value * 1000) / 1000;
