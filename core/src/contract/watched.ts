import { z } from 'zod';
import { Id, Instant } from './common.js';
import { FilePath, WebAddress } from './places.js';

/** Minutes between two looks at a watched file. */
export const WATCH_EVERY = [1, 5, 15, 60, 360, 1440] as const;
const Every = z.union(WATCH_EVERY.map((minutes) => z.literal(minutes)));

const folder = { kind: z.literal('folder'), path: FilePath };
const web = { kind: z.literal('web'), url: WebAddress, user: z.string().max(200).default('') };

/** Where newer versions of a file lie. */
export const WatchPlace = z.discriminatedUnion('kind', [
  /** Below the school's own folder. Where a `*` stands in its name the newest of these files counts. */
  z.object(folder),
  /** A password is kept sealed and never told; where it is left out the one that there is stays. */
  z.object({ ...web, password: z.string().max(500).optional() }),
]);
export type WatchPlace = z.infer<typeof WatchPlace>;

const Missing = z.enum(['leave out', 'keep']);

/** A file of which newer versions are taken over by themselves. */
export const WatchedFile = z
  .object({
    id: Id,
    /** The source that it brings newer versions of. */
    sourceId: Id,
    /** Null where the source is not on the roll any more. */
    source: z.string().nullable(),
    place: z.discriminatedUnion('kind', [z.object(folder), z.object({ ...web, hasPassword: z.boolean() })]),
    everyMinutes: Every,
    /** What becomes of learners that a newer version does not have. */
    missing: Missing,
    isOn: z.boolean(),
    lookedAt: Instant.nullable(),
    nextAt: Instant.nullable(),
    /** The version that was taken over last, and what it brought. */
    took: z
      .object({
        at: Instant,
        name: z.string(),
        added: z.number().int(),
        changed: z.number().int(),
        missing: z.number().int(),
      })
      .nullable(),
    /** Why nothing can be read there. */
    fault: z.string().nullable(),
    /** Why a version waits for somebody to look at it, and what that is called. */
    waits: z.object({ says: z.string(), name: z.string() }).nullable(),
  })
  .meta({ id: 'WatchedFile' });
export type WatchedFile = z.infer<typeof WatchedFile>;

export const WatchedList = z
  .object({
    files: z.array(WatchedFile),
    /** What the school's own folder is called; null where no folder is watched. */
    folder: z.string().nullable(),
    /** Files that lie in the school's folder; null where no folder is watched. */
    there: z.array(z.string()).nullable(),
    /** Where addresses may lead. */
    origins: z.array(z.string()),
  })
  .meta({ id: 'WatchedList' });
export type WatchedList = z.infer<typeof WatchedList>;

export const AddWatched = z
  .object({
    id: Id,
    sourceId: Id,
    place: WatchPlace,
    everyMinutes: Every.default(15),
    missing: Missing.default('leave out'),
    isOn: z.boolean().default(true),
  })
  .meta({ id: 'AddWatched' });
export type AddWatched = z.infer<typeof AddWatched>;
export const ChangeWatched = z
  .object({
    place: WatchPlace.optional(),
    sourceId: Id.optional(),
    everyMinutes: Every.optional(),
    missing: Missing.optional(),
    isOn: z.boolean().optional(),
  })
  .meta({ id: 'ChangeWatched' });
export type ChangeWatched = z.infer<typeof ChangeWatched>;
