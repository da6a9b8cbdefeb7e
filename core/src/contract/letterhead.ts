import { z } from 'zod';
import { Letterhead } from '../template/index.js';
import { Instant } from './common.js';
import { PictureAsset } from './folio.js';

const version = z.number().int().nonnegative();

/** The school's letterhead as it is now, and its pictures. */
export const LetterheadNow = z
  .object({
    /** 0 while the school has none. */
    version,
    letterhead: Letterhead.nullable(),
    changedAt: Instant.nullable(),
    changedBy: z.string().nullable(),
    pictures: z.array(PictureAsset),
    /** Letters of all folios that stand on it. */
    letters: z.number().int(),
  })
  .meta({ id: 'LetterheadNow' });
export type LetterheadNow = z.infer<typeof LetterheadNow>;

export const SaveLetterhead = z
  .object({
    version: version.describe('The version that was changed; another one on the server is a conflict.'),
    letterhead: Letterhead,
  })
  .meta({ id: 'SaveLetterhead' });
export type SaveLetterhead = z.infer<typeof SaveLetterhead>;

/** All that the letterhead has been, the last one first. */
export const LetterheadVersions = z
  .object({
    versions: z.array(z.object({ version, changedAt: Instant, changedBy: z.string().nullable() })),
  })
  .meta({ id: 'LetterheadVersions' });
export type LetterheadVersions = z.infer<typeof LetterheadVersions>;

export const LetterheadProof = z
  .object({ letterhead: Letterhead, print: z.enum(['printed', 'room']) })
  .meta({ id: 'LetterheadProof' });
export type LetterheadProof = z.infer<typeof LetterheadProof>;
