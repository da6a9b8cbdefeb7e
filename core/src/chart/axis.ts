import { scaleLinear, type ScaleLinear } from 'd3-scale';

/** A scale for the values of a chart that ends at round numbers; one unit wide where all values are the same. */
export function valueScale(
  least: number,
  most: number,
  range: readonly [number, number],
): ScaleLinear<number, number> {
  const ends = least === most ? [least - 0.5, most + 0.5] : [least, most];
  return scaleLinear(ends, range).nice(4);
}

/** A tick of an axis as it is read: a minus is a minus. */
export const tickText = (value: number): string =>
  String(Number(value.toPrecision(12))).replace('-', '\u2212');
