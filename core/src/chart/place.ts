import { scaleLinear } from 'd3-scale';
import { tickText } from './axis.js';
import type { ChartData, ChartSize } from './chart-data.js';
import { aboutWidth, fitted, type Drawing } from './drawing.js';
import { sayPlace } from './say.js';
import { AXIS_SIZE as SMALL, headOf, linesAcross, roomForTicks } from './standing.js';

/** How many learners have which mark, with the one whose paper it is. */
export function drawPlace(data: Extract<ChartData, { kind: 'place' }>, size: ChartSize): Drawing {
  const { counts, least, most, value, text, axis, words } = data;
  const { width } = size;
  const height = size.height ?? Math.min(55, Math.max(32, width * 0.4));
  const [top, bottom] = [9, height - 5 - (axis ? 3.6 : 0)];
  const y = scaleLinear([0, Math.max(1, ...counts)], [bottom, top]);
  const ticks = y.ticks(3).filter(Number.isInteger);
  const left = roomForTicks(ticks);
  const x = scaleLinear([least, most], [left, width - 2]);
  const step = (most - least) / counts.length;
  const mine = Math.min(counts.length - 1, Math.max(0, Math.floor((value - least) / step)));
  const { shapes, labels } = linesAcross(ticks, y, left, width);
  counts.forEach((count, n) => {
    const [from, to] = [x(least + n * step), x(least + (n + 1) * step)];
    shapes.push({
      kind: 'rect',
      x: from + 0.3,
      y: y(count),
      width: to - from - 0.6,
      height: bottom - y(count),
      fill: n === mine ? 'own' : 'others',
    });
  });
  for (const tick of x.ticks(Math.max(2, Math.min(8, Math.floor(width / 14)))))
    labels.push({
      x: x(tick),
      y: bottom + 3.6,
      text: tickText(tick),
      side: 'middle',
      size: SMALL,
      colour: 'slate',
    });
  const at = Math.min(x.range()[1]!, Math.max(left, x(value)));
  const said = fitted(`${words.own} ${text}`.trim(), 7.5, width);
  const half = aboutWidth(said, 7.5) / 2;
  shapes.push({
    kind: 'path',
    d: `M${round(at)} ${round(top - 2.2)}V${round(y(counts[mine]!) - 0.4)}`,
    stroke: 'own',
    width: 0.4,
  });
  labels.push({
    x: Math.min(width - half, Math.max(half, at)),
    y: top - 3.2,
    text: said,
    side: 'middle',
    size: 7.5,
    colour: 'own',
    strong: true,
  });
  labels.push(headOf(words.count, width));
  if (axis)
    labels.push({
      x: (left + width) / 2,
      y: height - 0.8,
      text: fitted(axis, SMALL, width),
      side: 'middle',
      size: SMALL,
      colour: 'slate',
    });
  return { width, height, shapes, labels, alt: sayPlace(data) };
}

const round = (value: number): number => Math.round(value * 1000) / 1000;
