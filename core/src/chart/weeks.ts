import { scaleBand, scaleLinear } from 'd3-scale';
import { tickText } from './axis.js';
import type { ChartData, ChartSize, ChartWords } from './chart-data.js';
import { aboutWidth, fitted, type Drawing, type Label, type Shape } from './drawing.js';
import { sayWeeks } from './say.js';
import { AXIS_SIZE as SMALL, headOf, linesAcross, namesBelow, roomForTicks } from './standing.js';

const SIGN = 3;
const GAP = 0.3;

/**
 * A column of sessions for each week: who was there stands full and dark, who came late half as wide, who was away as an
 * empty frame; so they are told apart without colours too.
 */
export function drawWeeks(data: Extract<ChartData, { kind: 'weeks' }>, size: ChartSize): Drawing {
  const { weeks, axis, words, most } = data;
  const { width } = size;
  const key = keyOf(words, width);
  const height = size.height ?? Math.min(52, Math.max(30, width * 0.34)) + key.height - 5;
  const top = axis ? 7.5 : 5;
  const bottom = Math.max(height - 5.5 - key.height, top + 8);
  const y = scaleLinear([0, Math.max(1, most)], [bottom, top]);
  const ticks = y.ticks(3).filter(Number.isInteger);
  const left = roomForTicks(ticks);
  const x = scaleBand(
    weeks.map((_, n) => n),
    [left, width],
  )
    .paddingInner(0.35)
    .paddingOuter(0.2);
  const thick = Math.min(x.bandwidth(), 9);
  const { shapes, labels } = linesAcross(ticks, y, left, width);
  const step = x.step();
  const nameAt = namesBelow(
    weeks.map(({ title }) => title),
    step,
  );
  weeks.forEach(({ present, late, away }, n) => {
    const middle = x(n)! + x.bandwidth() / 2;
    shapes.push(...stack(middle, thick, y, { present, late, away }));
    const all = present + late + away;
    const said = `${tickText(present + late)}/${tickText(all)}`;
    if (step > aboutWidth(said, SMALL) + 0.8)
      labels.push({
        x: middle,
        y: y(all) - 1.2,
        text: said,
        side: 'middle',
        size: SMALL,
        colour: 'ink',
        strong: true,
      });
    const name = nameAt(n);
    if (name) labels.push({ x: middle, y: bottom + 3.8, ...name });
  });
  if (axis) labels.push(headOf(axis, width));
  shapes.push(...key.shapes(height - key.height));
  labels.push(...key.labels(height - key.height));
  return { width, height, shapes, labels, alt: sayWeeks(data) };
}

/** One upon the other: there, late, away. */
function stack(
  middle: number,
  thick: number,
  y: (value: number) => number,
  { present, late, away }: { present: number; late: number; away: number },
): Shape[] {
  const shapes: Shape[] = [];
  const box = (
    from: number,
    to: number,
    wide: number,
  ): { x: number; y: number; width: number; height: number } => ({
    x: middle - wide / 2,
    y: y(to) + GAP / 2,
    width: wide,
    height: Math.max(0, y(from) - y(to) - GAP),
  });
  if (present > 0) shapes.push({ kind: 'rect', ...box(0, present, thick), fill: 'own' });
  if (late > 0) shapes.push({ kind: 'rect', ...box(present, present + late, thick / 2), fill: 'mean' });
  if (away > 0) shapes.push(frame(box(present + late, present + late + away, thick)));
  return shapes;
}

const frame = (box: { x: number; y: number; width: number; height: number }): Shape => ({
  kind: 'path',
  d: `M${round(box.x + 0.15)} ${round(box.y + 0.15)}h${round(Math.max(0, box.width - 0.3))}v${round(Math.max(0, box.height - 0.3))}h${round(-Math.max(0, box.width - 0.3))}z`,
  stroke: 'others',
  width: 0.3,
});

/** What full, narrow and empty columns are; on as many lines as it needs. */
function keyOf(
  { own, mean, count }: ChartWords,
  width: number,
): { height: number; shapes: (top: number) => Shape[]; labels: (top: number) => Label[] } {
  let [at, line] = [0, 0];
  const places = [own, mean, count].map((text) => {
    const wide = SIGN + 1.5 + aboutWidth(text, SMALL) + 4;
    if (at > 0 && at + wide - 4 > width) [at, line] = [0, line + 1];
    const place = { text, x: at, y: 3.4 + line * 3.8 };
    at += wide;
    return place;
  });
  const sign = (n: number, top: number): Shape => {
    const { x, y } = places[n]!;
    const box = { x, y: y + top - 2.1, width: SIGN, height: 2.2 };
    if (n === 0) return { kind: 'rect', ...box, fill: 'own' };
    if (n === 1) return { kind: 'rect', ...box, x: x + SIGN / 4, width: SIGN / 2, fill: 'mean' };
    return frame(box);
  };
  return {
    height: 5 + line * 3.8,
    shapes: (top) => places.map((_, n) => sign(n, top)),
    labels: (top) =>
      places.map(({ text, x, y }): Label => ({
        x: x + SIGN + 1.5,
        y: y + top,
        text: fitted(text, SMALL, width - x - SIGN - 1.5),
        side: 'start',
        size: SMALL,
        colour: 'slate',
      })),
  };
}

const round = (value: number): number => Math.round(value * 1000) / 1000;
