import { z } from 'zod';
import { Identity } from '../identity.js';
import { ColumnRef, DecimalText, OutOf, Rounding } from './parts.js';

/** One band of a scale: a letter, a level, a word. */
export const Band = z.object({
  id: Identity,
  label: z.string().max(200),
  /** The lowest mark of the band, which belongs to it; null for the band below all thresholds. */
  from: DecimalText.nullable(),
  /** Percent of the learners that get it, on a scale that goes by shares. */
  share: DecimalText.optional(),
  /** The number that the band stands for: grade points. */
  points: DecimalText.optional(),
  pass: z.boolean().optional(),
});
export type Band = z.infer<typeof Band>;

/** A column that says which band a mark is in. */
export const BandColumn = z.object({
  kind: z.literal('band'),
  of: ColumnRef,
  outOf: OutOf.default(null),
  /** `thresholds`: by the mark itself. `shares`: by the place among the others, each band having its share of them. */
  basis: z.enum(['thresholds', 'shares']),
  /** Highest first. */
  bands: z.array(Band).min(1).max(60),
  /** How the mark is rounded before its band is looked up; null where the mark counts as it is. */
  before: Rounding.nullable(),
  /** The mark counts as it is shown, so that two who are shown the same mark get the same band. */
  asShown: z.boolean().default(false),
  /** A mark less than this below the next band is borderline. */
  near: DecimalText.nullable(),
  /** Columns whose cells together say who is compared, for shares; all where none is named. */
  within: z.array(ColumnRef).max(4).default([]),
  /** Which side learners fall on who are alike where a share ends. */
  ties: z.enum(['better', 'worse']).default('better'),
  /** Fewer learners than this get no band by shares. */
  least: z.number().int().min(0).max(1000).default(0),
  give: z.enum(['label', 'points', 'pass', 'distance']),
  /** What is written for passing and not passing. */
  passWords: z.tuple([z.string().max(60), z.string().max(60)]).default(['Pass', 'Not yet']),
});
export type BandColumn = z.infer<typeof BandColumn>;
