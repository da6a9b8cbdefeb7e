import { z } from 'zod';
import { Roll } from '../roll/index.js';
import { CoverNote, Filing, Letter } from '../template/index.js';
import { Id, Instant } from './common.js';
import { Earlier, Source } from './roll.js';

export const FolioTitle = z
  .object({ title: z.string().trim().min(1, 'Give the folio a title.').max(200) })
  .meta({ id: 'FolioTitle' });

export const FolioSummary = z
  .object({
    id: Id,
    title: z.string(),
    entries: z.number().int(),
    pressed: z.number().int(),
    dispatched: z.number().int(),
    changedAt: Instant,
  })
  .meta({ id: 'FolioSummary' });
export type FolioSummary = z.infer<typeof FolioSummary>;
export const FolioList = z.object({ folios: z.array(FolioSummary) }).meta({ id: 'FolioList' });

export const PictureAsset = z
  .object({ id: Id, name: z.string(), mime: z.string() })
  .meta({ id: 'PictureAsset' });
export type PictureAsset = z.infer<typeof PictureAsset>;

/** A folio with all that its desk shows but the register. */
export const Folio = z
  .object({
    id: Id,
    title: z.string(),
    sources: z.array(Source),
    /** What the last larger change to the roll can be taken back to. */
    earlier: Earlier.nullable(),
    roll: Roll,
    letter: Letter,
    letterVersion: z.number().int(),
    note: CoverNote,
    noteVersion: z.number().int(),
    filing: Filing,
    filingVersion: z.number().int(),
    assets: z.array(PictureAsset),
  })
  .meta({ id: 'Folio' });
export type Folio = z.infer<typeof Folio>;

const version = z
  .number()
  .int()
  .nonnegative()
  .describe('The version that was changed; another one on the server is a conflict.');
export const SaveLetter = z.object({ version, letter: Letter }).meta({ id: 'SaveLetter' });
export const SaveNote = z.object({ version, note: CoverNote }).meta({ id: 'SaveNote' });
export const SaveFiling = z.object({ version, filing: Filing }).meta({ id: 'SaveFiling' });
export const Saved = z.object({ version: z.number().int() }).meta({ id: 'Saved' });

export const ProofRequest = z.object({ entryId: Id.nullable(), letter: Letter }).meta({ id: 'ProofRequest' });
/** The typeset pages as one SVG, one below the other. Sizes in points. */
export const Proof = z
  .object({
    svg: z.string(),
    pages: z.number().int(),
    width: z.number(),
    height: z.number(),
    /** Server time in milliseconds. */
    took: z.number(),
  })
  .meta({ id: 'Proof' });
export type Proof = z.infer<typeof Proof>;
