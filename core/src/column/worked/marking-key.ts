import { z } from 'zod';
import { Identity } from '../identity.js';
import { ColumnRef, DecimalText, Rounding } from './parts.js';

/** One accepted answer; without points it gives all of the question's. */
export const RightAnswer = z.object({ text: z.string().max(2000), points: DecimalText.optional() });

export const Question = z.object({
  id: Identity,
  columnId: ColumnRef,
  points: DecimalText,
  /**
   * `text`: one of the accepted spellings. `number`: within the tolerance. `several`: the right options out of several.
   * `hand`: marked by a person, into the column `handId`.
   */
  mode: z.enum(['text', 'number', 'several', 'hand']),
  answers: z.array(RightAnswer).max(60),
  /** Answers that are nearly right and were decided not to be. */
  refused: z.array(z.string().max(2000)).max(200).default([]),
  /** How far a number may be off, and still be right. */
  tolerance: DecimalText.default('0'),
  /** How several choices give points: all or nothing; a part for each right option; the same, less one for each wrong. */
  scoring: z.enum(['all', 'each', 'each less wrong']).default('all'),
  capitals: z.boolean().default(false),
  accents: z.boolean().default(false),
  /** Apostrophes and the sign at the end matter. */
  punctuation: z.boolean().default(false),
  handId: ColumnRef.optional(),
  /** What the question is about; named among what to look at again. */
  topic: z.string().max(300).default(''),
  rightRemark: z.string().max(2000).default(''),
  wrongRemark: z.string().max(2000).default(''),
});
export type Question = z.infer<typeof Question>;

/** A marking key: right answers with points. The column holds the score. */
export const MarkingKey = z.object({
  kind: z.literal('key'),
  questions: z.array(Question).max(200),
  give: z.enum(['points', 'percent']),
  /** A question without an answer gives no points; else it waits, and is left out of the score. */
  blankIsWrong: z.boolean().default(true),
  rounding: Rounding,
});
export type MarkingKey = z.infer<typeof MarkingKey>;
