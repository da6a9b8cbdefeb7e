import { z } from 'zod';

export const Id = z.string().regex(/^[0-9a-z]{6,40}$/, 'An identity is 6 to 40 letters and digits.');

/** An error as problem details (RFC 9457). `code` is stable; `detail` is a sentence for the person. */
export const ProblemDetails = z
  .object({
    type: z.string(),
    title: z.string(),
    status: z.number().int(),
    detail: z.string(),
    code: z.string(),
    rows: z.array(z.number().int()).optional(),
    /** What the sentence is made from, so that it can be made in another language. */
    parameters: z.record(z.string(), z.unknown()).optional(),
  })
  .meta({ id: 'ProblemDetails', description: 'RFC 9457 problem details' });
export type ProblemDetails = z.infer<typeof ProblemDetails>;

/** ISO 8601 instant in UTC. */
export const Instant = z.iso.datetime();

export const Nothing = z.object({});
