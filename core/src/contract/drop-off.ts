import { z } from 'zod';
import { FolderPath, WebAddress } from './places.js';
import { Instant } from './common.js';

/** Where papers of a folio go as files too. */
const Folder = z.object({
  kind: z.literal('folder'),
  /** Below the school's own folder on the server, such as `Reports/2026`; blank for that itself. */
  path: FolderPath,
});
const webDav = {
  kind: z.literal('webdav'),
  url: WebAddress,
  user: z.string().max(200),
};
export const DropPlace = z.discriminatedUnion('kind', [
  Folder,
  /** A password is kept and never told; where it is left out the one that there is stays. */
  z.object({ ...webDav, password: z.string().max(500).optional() }),
]);
export type DropPlace = z.infer<typeof DropPlace>;
export const SetDropOff = z.object({ place: DropPlace }).meta({ id: 'SetDropOff' });

export const DropOff = z
  .object({
    /** Null where papers go nowhere. */
    place: z
      .discriminatedUnion('kind', [Folder, z.object({ ...webDav, hasPassword: z.boolean() })])
      .nullable(),
    /** Papers that lie there, and those that are still to be put there. */
    there: z.number().int(),
    waiting: z.number().int(),
    /** Why nothing goes there just now; it is tried again by itself. */
    fault: z.string().nullable(),
    checkedAt: Instant.nullable(),
    /** Where addresses may lead, as whoever looks after Scriptum has set it. */
    origins: z.array(z.string()),
    /** A WebDAV address on this machine to try it with; null where there is none. */
    practice: z.object({ url: z.string(), user: z.string(), password: z.string() }).nullable(),
  })
  .meta({ id: 'DropOff' });
export type DropOff = z.infer<typeof DropOff>;
