import { z } from 'zod';

/** What a finding is written beside. */
export const FindingPlace = z.enum(['roll', 'letter', 'note', 'filing', 'sorting', 'register']);
export type FindingPlace = z.infer<typeof FindingPlace>;

/**
 * One thing that preflight found. A `blocking` one stops the press or the dispatch, as `blocks` says; one that is worth
 * a `look` stops nothing.
 */
export const Finding = z
  .object({
    code: z.string(),
    /** What the sentence is made from. */
    parameters: z.record(z.string(), z.unknown()).optional(),
    severity: z.enum(['blocking', 'look']),
    blocks: z.enum(['press', 'dispatch']).optional(),
    place: FindingPlace,
    message: z.string(),
    fieldId: z.string().optional(),
    columnId: z.string().optional(),
    /** The template that it is about, where it is about one. */
    templateId: z.string().optional(),
    /** The cover note that it is about, where there are several. */
    noteId: z.string().optional(),
    /** The entries that it is about; empty where it is about all. */
    entryIds: z.array(z.string()),
  })
  .meta({ id: 'Finding' });
export type Finding = z.infer<typeof Finding>;
