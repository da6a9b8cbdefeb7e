import { scalePoint } from 'd3-scale';
import { line } from 'd3-shape';
import { valueScale } from './axis.js';
import type { ChartData, ChartPoint, ChartSize } from './chart-data.js';
import { aboutWidth, type Drawing } from './drawing.js';
import { keyOf } from './key.js';
import { sayPoints } from './say.js';
import { headOf, linesAcross, namesBelow, roomForTicks } from './standing.js';

const SIZE = 7.5;

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
  const left = roomForTicks(ticks);
  const room = (width - left) / Math.max(1, points.length);
  const x = scalePoint(
    points.map((_, n) => n),
    [left + Math.min(6, room / 2), width - Math.min(6, room / 2)],
  );
  const { shapes, labels } = linesAcross(ticks, y, left, width);
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
  const nameAt = namesBelow(
    points.map(({ title }) => title),
    room,
  );
  points.forEach(({ value, text, mean }, n) => {
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
    const name = nameAt(n);
    if (name) labels.push({ x: at, y: bottom + 4, ...name });
  });
  if (axis) labels.push(headOf(axis, width));
  if (key) {
    shapes.push(...key.shapes(height - key.height));
    labels.push(...key.labels(height - key.height));
  }
  return { width, height, shapes, labels, alt: sayPoints(data) };
}
