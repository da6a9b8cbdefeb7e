import { z } from 'zod';

const decimals = z.number().int().min(0).max(20);
const word = z.string().max(200);

/**
 * How a value is printed, whatever it looks like in its cell; in the language of what it stands in. A cell that is none of
 * the kind is printed as it stands.
 */
export const FillFormat = z.discriminatedUnion('kind', [
  z
    .object({
      kind: z.literal('number'),
      /** Digits after the decimal sign: at least, and at most; halves are rounded away from zero. */
      least: decimals.default(0),
      most: decimals.default(20),
      /** Whether thousands are set apart. */
      thousands: z.boolean().default(true),
      /** Whether a plus stands before what is over zero. */
      plus: z.boolean().default(false),
      /** Stands behind the number, with the space that is to be before it. */
      unit: z.string().max(40).default(''),
    })
    .refine(({ least, most }) => least <= most, {
      message: 'There cannot be more digits at least than at most.',
    }),
  z.object({
    kind: z.literal('date'),
    /** As the language writes it, shorter or longer; `iso` is ISO 8601. */
    style: z.enum(['short', 'medium', 'long', 'full', 'iso']).default('long'),
    /** Whether the time stands behind the day, where there is one. */
    time: z.boolean().default(false),
  }),
  z.object({
    kind: z.literal('list'),
    /** The first of several choices alone, or all. */
    take: z.enum(['first', 'all']).default('all'),
    /** What stands before the last one. */
    last: z.enum(['and', 'or', 'nothing']).default('and'),
  }),
  z.object({ kind: z.literal('yes/no'), yes: word, no: word }),
  /** As it stands in its cell, also where others of its column have another form. */
  z.object({ kind: z.literal('cell') }),
]);
export type FillFormat = z.infer<typeof FillFormat>;
