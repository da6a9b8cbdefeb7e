import { z } from 'zod';
import { Id, Instant } from './common.js';

/** Columns that papers of a pack are sorted by, at the most. */
const SORTED_BY_MOST = 4;

/** Many papers in one file. */
export const PackAsked = z
  .discriminatedUnion('kind', [
    z.object({
      /** One PDF for the printer. */
      kind: z.literal('print'),
      /** Of everybody, or of those alone whom no mail reaches. */
      who: z.enum(['all', 'no-address']),
      /** Of these entries alone; of all where left out. */
      entryIds: z.array(Id).max(20_000).optional(),
      /** Of these papers alone, as far as they may be printed. */
      paperIds: z.array(Id).max(20_000).optional(),
      /** Columns, the first one counts most; the order of the roll where there are none. */
      sort: z.array(Id).max(SORTED_BY_MOST),
      /** A sheet stands between the papers of two values of this column. */
      apart: Id.nullable(),
      /** Each paper begins on the front of a sheet that is printed on both sides. */
      fronts: z.boolean(),
      /** A column that says how many copies a learner's papers are printed in. */
      copies: Id.nullable(),
    }),
    z.object({
      /** An archive with the folders of their file names, and a sheet that lists them. */
      kind: z.literal('zip'),
      entryIds: z.array(Id).max(20_000).optional(),
      paperIds: z.array(Id).max(20_000).optional(),
    }),
    z.object({
      /** One PDF that new papers join at its end. */
      kind: z.literal('growing'),
      fronts: z.boolean(),
    }),
  ])
  .meta({ id: 'PackAsked' });
export type PackAsked = z.infer<typeof PackAsked>;

export const PackState = z.enum(['waiting', 'making', 'done', 'failed']);
export type PackState = z.infer<typeof PackState>;

export const Pack = z
  .object({
    id: Id,
    asked: PackAsked,
    state: PackState,
    /** Papers that are in it, or will be; and of how many that is done. */
    papers: z.number().int(),
    done: z.number().int(),
    /** Pages, the empty ones and the sheets between among them; 0 for an archive. */
    pages: z.number().int(),
    bytes: z.number().int(),
    /** Why it could not be made. */
    reason: z.string().nullable(),
    madeBy: z.string().nullable(),
    askedAt: Instant,
    endedAt: Instant.nullable(),
    /** When it is taken away; null for one that grows, or is not made yet. */
    keptUntil: Instant.nullable(),
    /** Papers in it that are other ones by now, or do not count any more. */
    old: z.number().int(),
  })
  .meta({ id: 'Pack' });
export type Pack = z.infer<typeof Pack>;

export const PackList = z.object({ packs: z.array(Pack) }).meta({ id: 'PackList' });
export type PackList = z.infer<typeof PackList>;

/** A paper in a pack. */
export const PackLine = z.object({
  paperId: Id,
  learner: z.string(),
  fileName: z.string(),
  /** Before which sheet it stands; null where there are none. */
  group: z.string().nullable(),
  copies: z.number().int(),
  /** The page of the pack on which it begins, counted from 1; null in an archive. */
  page: z.number().int().nullable(),
  /** When it joined one that grows. */
  joinedAt: Instant.nullable(),
});
export type PackLine = z.infer<typeof PackLine>;
export const PackContents = z.object({ lines: z.array(PackLine) }).meta({ id: 'PackContents' });
export type PackContents = z.infer<typeof PackContents>;
