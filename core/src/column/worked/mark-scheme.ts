import { z } from 'zod';
import { Identity } from '../identity.js';
import { ColumnRef, DecimalText, PLAIN_ROUNDING, Rounding } from './parts.js';

/** What may stand in a mark's cell instead of a number. */
export const MARK_STATES = ['missing', 'excused', 'absent', 'unmarked'] as const;
export type MarkState = (typeof MARK_STATES)[number];

/** What a piece without a number counts as. */
export const StatePolicy = z.object({
  /**
   * `zero`: nothing of its points. `skip`: it does not count, its weight passes to the others. `open`: it still counts
   * later; the mark so far leaves it out and the range holds it. `share`: this part of its points.
   */
  as: z.enum(['zero', 'skip', 'open', 'share']),
  /** Percent of the points, for `share`. */
  share: DecimalText.optional(),
  /** What people write into the cell; capitals do not matter. */
  words: z.array(z.string().max(40)).max(20),
});
export type StatePolicy = z.infer<typeof StatePolicy>;

/** One marked piece of work. */
export const Piece = z.object({
  id: Identity,
  columnId: ColumnRef,
  /** The most points it gives. */
  outOf: DecimalText,
  /** What it counts for within its group, where the group goes by weights. */
  weight: DecimalText.default('1'),
  /** Adds its points without being asked for: it can raise the mark and never lowers it. */
  extra: z.boolean().default(false),
  /** The column that says how many days late it came, or when it came. */
  lateColumnId: ColumnRef.optional(),
  /** ISO 8601 date it was due, where that column holds dates. */
  due: z
    .string()
    .regex(/^\d{4}-\d{2}-\d{2}$/)
    .optional(),
});
export type Piece = z.infer<typeof Piece>;

/** Pieces that are weighed together. */
export const PieceGroup = z.object({
  id: Identity,
  name: z.string().max(200),
  /** What the group counts for in the whole. */
  weight: DecimalText,
  /** `points`: each counts by its points. `equal`: each counts the same. `weights`: each by its weight. */
  weigh: z.enum(['points', 'equal', 'weights']),
  /** Pieces that are dropped: those without which the group's mark is highest, or the whole where all count by points. */
  drop: z.number().int().min(0).max(99).default(0),
  /** Pieces that are kept at the most: those with which the group's mark, or the whole, is highest. */
  keep: z.number().int().min(1).max(99).nullable().default(null),
  /** Percent that the group's mark is cut at. */
  cap: DecimalText.nullable().default(null),
  pieces: z.array(Piece).max(200),
});
export type PieceGroup = z.infer<typeof PieceGroup>;

/** What a late piece loses. */
export const LatePolicy = z.object({
  perDay: DecimalText,
  /** Percent of what: of the points that there are, or of the points that were got. */
  of: z.enum(['out of', 'mark']),
  /** Days that cost nothing. */
  grace: z.number().int().min(0).max(60),
  /** Percent of the points that there are below which lateness takes nothing away. */
  floor: DecimalText,
});
export type LatePolicy = z.infer<typeof LatePolicy>;

/** A mark scheme: pieces of work with their points, in weighted groups. The column holds the mark in percent of 100. */
export const MarkScheme = z.object({
  kind: z.literal('scheme'),
  groups: z.array(PieceGroup).min(1).max(40),
  /** `weights`: groups count by their weights. `points`: all pieces count by their points, groups or not. */
  weigh: z.enum(['weights', 'points']),
  states: z.object({
    missing: StatePolicy,
    excused: StatePolicy,
    absent: StatePolicy,
    /** A blank cell, always, and the words for it. */
    unmarked: StatePolicy,
  }),
  late: LatePolicy.nullable().default(null),
  /** Percent that the whole mark is cut at. */
  cap: DecimalText.nullable().default(null),
  rounding: Rounding.default(PLAIN_ROUNDING),
});
export type MarkScheme = z.infer<typeof MarkScheme>;

/** Common practice, no published source: missing work is nothing, excused work does not count, the rest is still to come. */
export const PLAIN_STATES: MarkScheme['states'] = {
  missing: { as: 'zero', words: ['missing', 'm', 'not handed in'] },
  excused: { as: 'skip', words: ['excused', 'exempt', 'ex', 'e'] },
  absent: { as: 'open', words: ['absent', 'abs', 'a'] },
  unmarked: { as: 'open', words: ['not marked', 'to mark', '…', '...'] },
};
