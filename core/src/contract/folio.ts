import { z } from 'zod';
import { FIT_STATES } from '../page/index.js';
import { Roll } from '../roll/index.js';
import { GroundAbout, Letterhead, Placed, Template } from '../template/index.js';
import { Id, Instant } from './common.js';
import { Earlier, Source } from './roll.js';
import { Writing } from './writing.js';

export const FolioTitle = z
  .object({ title: z.string().trim().min(1, 'Give the folio a title.').max(200) })
  .meta({ id: 'FolioTitle' });

export const FolioSummary = z
  .object({
    id: Id,
    title: z.string(),
    entries: z.number().int(),
    /** Papers that stand for their learners, and of these: how many are to be looked at, may leave, are held, were sent. */
    pressed: z.number().int(),
    toReview: z.number().int(),
    cleared: z.number().int(),
    held: z.number().int(),
    dispatched: z.number().int(),
    outOfDate: z.number().int(),
    failed: z.number().int(),
    /** Messages. */
    refused: z.number().int(),
    unconfirmed: z.number().int(),
    /** Learners whose papers a standing order waits with for a yes. */
    asked: z.number().int(),
    /** Learners for whom a standing order can do nothing before something is mended. */
    orderBlocked: z.number().int(),
    /** Watched files that could not be read, or whose newer version waits for somebody to look at it. */
    filesWait: z.number().int(),
    /** Findings that stand in the way of a press, as it was looked last. */
    blocking: z.number().int(),
    changedAt: Instant,
    changedBy: z.string().nullable(),
    /** Put away. */
    archived: z.boolean(),
  })
  .meta({ id: 'FolioSummary' });
export type FolioSummary = z.infer<typeof FolioSummary>;
/** A copy of a folio, for the next term: with its people, or with its columns alone. */
export const CopyFolio = z
  .object({ title: FolioTitle.shape.title, people: z.boolean() })
  .meta({ id: 'CopyFolio' });
export const ArchiveFolio = z.object({ archived: z.boolean() }).meta({ id: 'ArchiveFolio' });
/** A learner of some folio. */
export const FoundLearner = z
  .object({ folioId: Id, folio: z.string(), entryId: Id, name: z.string() })
  .meta({ id: 'FoundLearner' });
export type FoundLearner = z.infer<typeof FoundLearner>;
export const FoundLearners = z.object({ learners: z.array(FoundLearner) }).meta({ id: 'FoundLearners' });
export const FolioList = z.object({ folios: z.array(FolioSummary) }).meta({ id: 'FolioList' });

export const PictureAsset = z
  .object({ id: Id, name: z.string(), mime: z.string() })
  .meta({ id: 'PictureAsset' });
export type PictureAsset = z.infer<typeof PictureAsset>;

/** A PDF whose pages can lie under others. */
export const Ground = z
  .object({ id: Id, name: z.string(), mime: z.string(), about: GroundAbout })
  .meta({ id: 'Ground' });
export type Ground = z.infer<typeof Ground>;

/** A folio with all that its desk shows but the register. */
export const Folio = z
  .object({
    id: Id,
    title: z.string(),
    sources: z.array(Source),
    /** What the last larger change to the roll can be taken back to. */
    earlier: Earlier.nullable(),
    roll: Roll,
    /** What people write: at least one letter, cover note and pattern of file names. */
    writings: z.array(Writing),
    assets: z.array(PictureAsset),
    /** The school's; null while it has none. */
    letterhead: Letterhead.nullable(),
  })
  .meta({ id: 'Folio' });
export type Folio = z.infer<typeof Folio>;

export const ProofRequest = z
  .object({ entryId: Id.nullable(), template: Template })
  .meta({ id: 'ProofRequest' });
/** Of a template that is on, those are measured who get it by the sorting; of others everybody. */
export const FitsRequest = z
  .object({ template: Placed, templateId: Id.optional() })
  .meta({ id: 'FitsRequest' });

const boxFit = { state: z.enum(FIT_STATES), size: z.number(), used: z.number() };
/** How what stands in boxes fits, for everybody who gets a paper. */
export const Fits = z
  .object({
    boxes: z.array(
      z.object({
        /** The box's identity. */
        box: Id,
        /** Who has each state; nobody is told where there is nobody. */
        who: z.partialRecord(z.enum(FIT_STATES), z.array(Id)),
        /** Points of the smallest type that it is set in; 0 for what has no type of its own. */
        least: z.number(),
      }),
    ),
  })
  .meta({ id: 'Fits' });
export type Fits = z.infer<typeof Fits>;
/** The typeset pages, each with its own size in points. */
export const Proof = z
  .object({
    pages: z.array(z.object({ svg: z.string(), width: z.number(), height: z.number() })),
    /** Where the blocks of the letter's text begin: both counted from 0, points from the upper edge of the page. */
    blocks: z.array(z.object({ block: z.number().int(), page: z.number().int(), y: z.number() })),
    /** How the texts of boxes fit, by the box's place in the template: points of type, millimetres of height. */
    fits: z.array(z.object({ box: z.number().int(), ...boxFit })),
    /** Server time in milliseconds. */
    took: z.number(),
  })
  .meta({ id: 'Proof' });
export type Proof = z.infer<typeof Proof>;
