import { z } from 'zod';
import { Identity } from '../identity.js';
import { ColumnRef, DecimalText, OutOf } from './parts.js';

/**
 * Words in a remark that change with the learner: the name, the forms of the pronoun, and the verbs that agree with it.
 * `s` and `es` are endings: `work` + `s`.
 */
export const REMARK_WORDS = [
  'name',
  'they',
  'them',
  'their',
  'theirs',
  'themself',
  'are',
  'were',
  'have',
  'do',
  's',
  'es',
] as const;
export const RemarkWord = z.enum(REMARK_WORDS);
export type RemarkWord = z.infer<typeof RemarkWord>;

export const RemarkPart = z.union([
  z.object({ text: z.string().min(1).max(4000) }),
  z.object({ word: RemarkWord }),
]);
export type RemarkPart = z.infer<typeof RemarkPart>;

/** A reusable remark, and the marks that it fits. */
export const Remark = z.object({
  id: Identity,
  parts: z.array(RemarkPart).max(200),
  /** The lowest and the highest mark it fits, both included; null where there is no bound. */
  from: DecimalText.nullable(),
  to: DecimalText.nullable(),
  subject: z.string().max(100).default(''),
  tone: z.string().max(60).default(''),
  /** BCP 47; empty for any. */
  language: z.string().max(35).default(''),
});
export type Remark = z.infer<typeof Remark>;

/** A column with a remark for each learner, out of a comment bank. */
export const RemarkColumn = z.object({
  kind: z.literal('remark'),
  /** The mark that the remark fits. */
  of: ColumnRef,
  outOf: OutOf.default(null),
  bank: z.array(Remark).max(2000),
  /** Another remark column, whose bank is used instead. */
  bankOf: ColumnRef.optional(),
  /** Only remarks of this subject, tone and language, and those that name none. */
  subject: z.string().max(100).default(''),
  tone: z.string().max(60).default(''),
  language: z.string().max(35).default(''),
  /** Columns that say who sits in one class; neighbours there get different remarks. */
  within: z.array(ColumnRef).max(4).default([]),
  nameId: ColumnRef.optional(),
  /** The learner's pronouns; without it, and where the cell is blank, the name stands for them. */
  pronounId: ColumnRef.optional(),
  /** Letters that fit the printed space; null for any number. */
  room: z.number().int().min(1).max(5000).nullable().default(null),
});
export type RemarkColumn = z.infer<typeof RemarkColumn>;
