import { z } from 'zod';
import { Form } from '../form/index.js';
import {
  CoverNote,
  Exception,
  Filing,
  Letter,
  Placed,
  Sorting,
  WritingKind,
  type Writing as WritingOf,
  type WritingContents,
} from '../template/index.js';
import { Id, Instant } from './common.js';

const version = z.number().int().nonnegative();
const kept = { id: Id, name: z.string(), place: z.number().int(), version };

/** One thing that people write in a folio, with the version that it is of. */
export const Writing: z.ZodType<WritingOf> = z
  .discriminatedUnion('kind', [
    z.object({ ...kept, kind: z.literal('letter'), content: Letter }),
    z.object({ ...kept, kind: z.literal('placed'), content: Placed }),
    z.object({ ...kept, kind: z.literal('note'), content: CoverNote }),
    z.object({ ...kept, kind: z.literal('filing'), content: Filing }),
    z.object({ ...kept, kind: z.literal('sorting'), content: Sorting }),
    z.object({ ...kept, kind: z.literal('exception'), content: Exception }),
    z.object({ ...kept, kind: z.literal('form'), content: Form }),
  ])
  .meta({ id: 'Writing' });
export type Writing = WritingOf;

const name = z.string().trim().min(1, 'Give it a name.').max(200);
const added = { name: name.optional() };
/** The kinds with their contents, and what else is said with each. */
type EachKind<More> = {
  [Kind in WritingKind]: { kind: Kind; content: WritingContents[Kind] } & More;
}[WritingKind];
export type AddWriting = EachKind<{ name?: string | undefined }>;
export const AddWriting: z.ZodType<AddWriting> = z
  .discriminatedUnion('kind', [
    z.object({ ...added, kind: z.literal('letter'), content: Letter }),
    z.object({ ...added, kind: z.literal('placed'), content: Placed }),
    z.object({ ...added, kind: z.literal('note'), content: CoverNote }),
    z.object({ ...added, kind: z.literal('filing'), content: Filing }),
    z.object({ ...added, kind: z.literal('sorting'), content: Sorting }),
    z.object({ ...added, kind: z.literal('exception'), content: Exception }),
    z.object({ ...added, kind: z.literal('form'), content: Form }),
  ])
  .meta({ id: 'AddWriting' });

/** A copy of a writing, perhaps of another folio. */
export const CopyWriting = z
  .object({ folioId: Id, writingId: Id, name: name.optional() })
  .meta({ id: 'CopyWriting' });

/** The writings of a kind in their order, each once. */
export const OrderWritings = z
  .object({ kind: WritingKind, ids: z.array(Id).min(1).max(400) })
  .meta({ id: 'OrderWritings' });

/** Writings that were deleted, the last one first. */
export const DeletedWritings = z
  .object({
    writings: z.array(z.object({ id: Id, kind: WritingKind, name: z.string(), deletedAt: Instant })),
  })
  .meta({ id: 'DeletedWritings' });
export type DeletedWritings = z.infer<typeof DeletedWritings>;

const saved = {
  ...added,
  version: version.describe('The version that was changed; another one on the server is a conflict.'),
};
export type SaveWriting = EachKind<{ name?: string | undefined; version: number }>;
export const SaveWriting: z.ZodType<SaveWriting> = z
  .discriminatedUnion('kind', [
    z.object({ ...saved, kind: z.literal('letter'), content: Letter }),
    z.object({ ...saved, kind: z.literal('placed'), content: Placed }),
    z.object({ ...saved, kind: z.literal('note'), content: CoverNote }),
    z.object({ ...saved, kind: z.literal('filing'), content: Filing }),
    z.object({ ...saved, kind: z.literal('sorting'), content: Sorting }),
    z.object({ ...saved, kind: z.literal('exception'), content: Exception }),
    z.object({ ...saved, kind: z.literal('form'), content: Form }),
  ])
  .meta({ id: 'SaveWriting' });

/** Says what was saved, so that a late answer is told from another's. */
export const WritingSaved = z.object({ folioId: Id, writingId: Id, version }).meta({ id: 'WritingSaved' });
export type WritingSaved = z.infer<typeof WritingSaved>;

/** A writing as it is now, and who changed it last, and when. */
export const WritingNow = z
  .object({ writing: Writing, changedAt: Instant, changedBy: z.string().nullable() })
  .meta({ id: 'WritingNow' });
export type WritingNow = z.infer<typeof WritingNow>;

/** A version that is kept: a paper or a message was made from it, or somebody gave it a name. */
export const KeptVersion = z
  .object({
    id: Id,
    /** Null for a copy that never was the writing's own version. */
    version: version.nullable(),
    name: z.string().nullable(),
    keptAt: Instant,
    keptBy: z.string().nullable(),
  })
  .meta({ id: 'KeptVersion' });
export type KeptVersion = z.infer<typeof KeptVersion>;
export const KeptVersions = z.object({ versions: z.array(KeptVersion) }).meta({ id: 'KeptVersions' });
export type KeptVersions = z.infer<typeof KeptVersions>;

/** Keeps the writing as it is, or another text of its kind, under a name. */
export const KeepVersion = z.object({ name, copy: AddWriting.optional() }).meta({ id: 'KeepVersion' });
