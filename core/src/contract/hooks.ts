import { z } from 'zod';
import { Id, Instant } from './common.js';

/** A door for answers from another service. */
export const HookLine = z
  .object({
    id: Id,
    name: z.string(),
    /** Where the other service sends its submissions. */
    link: z.string(),
    isOn: z.boolean(),
    answers: z.number().int(),
    lastAt: Instant.nullable(),
    /** Why a request was refused last, and when. */
    refused: z.object({ says: z.string(), at: Instant }).nullable(),
    /** The answers that came so far, and the column of each; null for one that is left out. */
    fields: z.array(z.object({ key: z.string(), columnId: Id.nullable() })),
    /** Until when the key before the present one counts too. */
    formerUntil: Instant.nullable(),
  })
  .meta({ id: 'HookLine' });
export type HookLine = z.infer<typeof HookLine>;
export const HookList = z
  .object({
    hooks: z.array(HookLine),
    /** A key that was just made; it is told this once. */
    key: z.object({ hookId: Id, key: z.string() }).nullable(),
    /** True where there is a practice service that can send something. */
    practice: z.boolean(),
  })
  .meta({ id: 'HookList' });
export type HookList = z.infer<typeof HookList>;

const name = z.string().trim().min(1, 'Give it the name of the service.').max(200);
export const AddHook = z.object({ id: Id, name }).meta({ id: 'AddHook' });
export const ChangeHook = z
  .object({
    name: name.optional(),
    isOn: z.boolean().optional(),
    /** Another column for one answer, from now on; null leaves it out. */
    field: z.object({ key: z.string().max(200), columnId: Id.nullable() }).optional(),
  })
  .meta({ id: 'ChangeHook' });
export type ChangeHook = z.infer<typeof ChangeHook>;

/** What the practice service was answered. */
export const Practised = z.object({ status: z.number().int(), says: z.string() }).meta({ id: 'Practised' });
export type Practised = z.infer<typeof Practised>;
