import { z } from 'zod';
import { Identity } from '../identity.js';

/** Names a column by its identity. */
export const ColumnRef = Identity;

/** A number in plain decimal notation with a full stop: `12.5`. Kept as text, so that it stays what was written. */
export const DecimalText = z
  .string()
  .regex(/^-?\d{1,9}(?:\.\d{1,9})?$/, 'Write a plain number, such as 12 or 12.5.');

/**
 * How a number is rounded, by its names in IEEE 754-2019, 4.3: `half up` is roundTiesToAway, `half even` is
 * roundTiesToEven, `down` is roundTowardZero, `up` goes away from zero.
 */
export const RoundingMode = z.enum(['half up', 'half even', 'down', 'up']);
export type RoundingMode = z.infer<typeof RoundingMode>;

/** How many decimal places a result has, and what becomes of the rest. */
export const Rounding = z.object({ places: z.number().int().min(0).max(6), mode: RoundingMode });
export type Rounding = z.infer<typeof Rounding>;

/**
 * What a mark is out of where it is looked up in percent: so many points, or (`key`) as many as its marking key gives. Null
 * where it is looked up as it stands.
 */
export const OutOf = z.union([z.literal('key'), DecimalText]).nullable();
export type OutOf = z.infer<typeof OutOf>;

export const PLAIN_ROUNDING: Rounding = { places: 1, mode: 'half up' };
