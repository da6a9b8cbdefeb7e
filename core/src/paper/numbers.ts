import type { PaperNumbers } from '../template/index.js';

/** The number of a paper as it is printed, such as `TQ-2026-0042`. */
export const writtenNumber = ({ before, digits, after }: PaperNumbers, n: number): string =>
  `${before}${String(n).padStart(digits, '0')}${after}`;

/** Papers that are numbered alike share one row of numbers, also of several folios. */
export const seriesOf = ({ before, after }: PaperNumbers): string => `${before}#${after}`;
