import { z } from 'zod';
import { ColumnRef, DecimalText, Rounding } from './parts.js';

/** How learners with the same mark are ranked; `1 2 2 4`, `1 2 2 3`, `1 2 3 4`, `1 2.5 2.5 4`. */
export const RankTies = z.enum(['competition', 'dense', 'ordinal', 'mean']);
export type RankTies = z.infer<typeof RankTies>;

/**
 * Percent of the learners that a mark stands above. `below`: those below. `at or below`. `middle`: those below and half
 * of those alike. `inclusive`: OpenFormula's PERCENTRANK, rank among the n - 1 others. `exclusive`: rank out of n + 1.
 */
export const PercentileMethod = z.enum(['below', 'at or below', 'middle', 'inclusive', 'exclusive']);
export type PercentileMethod = z.infer<typeof PercentileMethod>;

/** A column that compares a learner with the others. */
export const CohortColumn = z.object({
  kind: z.literal('cohort'),
  of: ColumnRef,
  measure: z.enum([
    'rank',
    'percentile',
    'quarter',
    'quantile',
    'mean',
    'median',
    'deviation',
    'lowest',
    'highest',
    'count',
    'z-score',
    'from mean',
    'change',
  ]),
  /** Columns whose cells together say who is compared, such as the class; the whole roll where none is named. */
  within: z.array(ColumnRef).max(4).default([]),
  /** The mark before, for `change`. */
  earlier: ColumnRef.optional(),
  first: z.enum(['highest', 'lowest']).default('highest'),
  ties: RankTies.default('competition'),
  method: PercentileMethod.default('middle'),
  /** The type of Hyndman and Fan (1996) for quantiles and quarters. */
  quantileType: z.number().int().min(1).max(9).default(7),
  /** Percent, for `quantile`. */
  at: DecimalText.default('50'),
  spread: z.enum(['sample', 'population']).default('sample'),
  /** Learners with the same shown mark are alike, or only those with exactly the same. */
  by: z.enum(['shown', 'exact']).default('shown'),
  /** Where fewer learners than this have a mark, nothing is told of them. 0 tells always. */
  least: z.number().int().min(0).max(1000).default(0),
  /** What is written then. */
  fewer: z.string().max(200).default(''),
  rounding: Rounding.default({ places: 1, mode: 'half up' }),
});
export type CohortColumn = z.infer<typeof CohortColumn>;
