import { tickText } from './axis.js';
import { aboutWidth, fitted, type Label, type Shape } from './drawing.js';

/** Points; of what stands at axes. */
export const AXIS_SIZE = 7;

const round = (value: number): number => Math.round(value * 1000) / 1000;

/** Millimetres that the numbers of an upright axis take, with what is free beside them. */
export const roomForTicks = (ticks: readonly number[]): number =>
  Math.max(...ticks.map((tick) => aboutWidth(tickText(tick), AXIS_SIZE))) + 2;

/** The lines across a chart at the ticks of its upright axis, each with its number. */
export function linesAcross(
  ticks: readonly number[],
  y: (value: number) => number,
  left: number,
  width: number,
): { shapes: Shape[]; labels: Label[] } {
  return {
    shapes: ticks.map((tick) => ({
      kind: 'path',
      d: `M${round(left)} ${round(y(tick))}H${round(width)}`,
      stroke: 'rule',
      width: 0.15,
    })),
    labels: ticks.map((tick) => ({
      x: left - 1.5,
      y: y(tick) + 0.9,
      text: tickText(tick),
      side: 'end',
      size: AXIS_SIZE,
      colour: 'slate',
    })),
  };
}

/** What the values are called, in the upper corner. */
export const headOf = (words: string, width: number): Label => ({
  x: 0,
  y: 2.6,
  text: fitted(words, AXIS_SIZE, width),
  side: 'start',
  size: AXIS_SIZE,
  colour: 'slate',
});

/** Says below which of some columns their names stand, where there is no room for all; and the name as it fits. */
export function namesBelow(
  titles: readonly string[],
  step: number,
): (n: number) => Pick<Label, 'text' | 'side' | 'size' | 'colour'> | null {
  const widest = Math.max(...titles.map((title) => Math.min(aboutWidth(title, AXIS_SIZE), 22)), 4);
  const every = Math.ceil((widest + 1.5) / step);
  return (n) =>
    n % every === 0
      ? {
          text: fitted(titles[n]!, AXIS_SIZE, step * every - 1),
          side: 'middle',
          size: AXIS_SIZE,
          colour: 'slate',
        }
      : null;
}
