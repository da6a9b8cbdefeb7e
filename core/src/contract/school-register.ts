import { z } from 'zod';
import { Id } from './common.js';
import { PaperLine } from './register.js';

/** How papers stand, as people look for them. */
export const SoughtState = z.enum([
  /** Those that count: not superseded, void or failed. */
  'present',
  'pressed',
  'cleared',
  'held',
  'sent',
  'old',
  'failed',
  'void',
  'superseded',
]);
export type SoughtState = z.infer<typeof SoughtState>;

const day = z.iso.date().optional();

/** Which papers of a school are looked for. */
export const RegisterSought = z.object({
  /** Words of the learner’s name, the class, the number or the folio; all of them have to agree. */
  text: z.string().max(200).optional(),
  folioId: Id.optional(),
  klass: z.string().max(100).optional(),
  state: SoughtState.optional(),
  /** Pressed on these days, of the school's own. */
  from: day,
  to: day,
  /** Behind this one, in an answer before. */
  after: z
    .string()
    .regex(/^\d{4}-\d\d-\d\dT[\d:.]+Z [0-9a-z]{6,40}$/)
    .optional(),
});
export type RegisterSought = z.infer<typeof RegisterSought>;

export const SchoolPaper = z
  .object({ ...PaperLine.shape, folioId: Id, folio: z.string(), letter: z.string(), klass: z.string() })
  .meta({ id: 'SchoolPaper' });
export type SchoolPaper = z.infer<typeof SchoolPaper>;

export const SchoolRegister = z
  .object({
    /** The newest first. */
    papers: z.array(SchoolPaper),
    /** What asks for those behind; null where these are all. */
    after: z.string().nullable(),
    /** How many there are, up to a most; `more` where there are more than that. Null in an answer that goes on. */
    count: z.number().int().nullable(),
    more: z.boolean(),
  })
  .meta({ id: 'SchoolRegister' });
export type SchoolRegister = z.infer<typeof SchoolRegister>;

/** Classes that papers of the school are of. */
export const SchoolClasses = z.object({ classes: z.array(z.string()) }).meta({ id: 'SchoolClasses' });

export const SchoolRegisterFile = z.object({ ...RegisterSought.shape, kind: z.enum(['csv', 'xlsx']) });
