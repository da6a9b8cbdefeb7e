import { z } from 'zod';
import { Identity } from '../identity.js';
import { AttendanceColumn } from './attendance.js';
import { BandColumn } from './bands.js';
import { CohortColumn } from './cohort.js';
import { RemarkColumn } from './comment-bank.js';
import { MarkScheme } from './mark-scheme.js';
import { MarkingKey } from './marking-key.js';
import { ColumnRef, Rounding } from './parts.js';
import { PersonalColumn } from './personal.js';

/** A formula: text, with columns in it. */
export const FormulaPart = z.union([
  z.object({ text: z.string().min(1).max(4000) }),
  z.object({ columnId: ColumnRef }),
]);
export type FormulaPart = z.infer<typeof FormulaPart>;

export const ExpressionColumn = z.object({
  kind: z.literal('expression'),
  formula: z.array(FormulaPart).max(400),
  /** Null leaves numbers as they come out. */
  rounding: Rounding.nullable(),
});
export type ExpressionColumn = z.infer<typeof ExpressionColumn>;

/** Something else that another worked column knows. */
export const PartColumn = z.object({
  kind: z.literal('part'),
  of: ColumnRef,
  /**
   * Of a mark scheme: `open` (percent of the weight still to come), `lowest` and `highest` it can still end at, `group`.
   * Of a marking key: `review` (what to look at again), `answers` (each question on a line), `verdict`, `right`,
   * `points` and `remark` of a question. Of any column: `steps`, how its value came about.
   */
  part: z.enum([
    'open',
    'lowest',
    'highest',
    'group',
    'review',
    'answers',
    'verdict',
    'right',
    'points',
    'remark',
    'steps',
  ]),
  /** The group or the question. */
  which: Identity.optional(),
  rounding: Rounding.default({ places: 1, mode: 'half up' }),
});
export type PartColumn = z.infer<typeof PartColumn>;

/** What a worked column is worked out from, and how. */
export const Worked = z.discriminatedUnion('kind', [
  MarkScheme,
  BandColumn,
  CohortColumn,
  AttendanceColumn,
  MarkingKey,
  RemarkColumn,
  ExpressionColumn,
  PartColumn,
  PersonalColumn,
]);
export type Worked = z.infer<typeof Worked>;
export type WorkedKind = Worked['kind'];
