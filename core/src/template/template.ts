import { z } from 'zod';
import { Letter } from './letter.js';
import { Placed } from './placed.js';

/** What papers are made from. */
export const Template = z.discriminatedUnion('kind', [Letter, Placed]).meta({ id: 'Template' });
export type Template = z.infer<typeof Template>;
