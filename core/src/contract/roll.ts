import { z } from 'zod';
import { JoinSpec, RefreshDecisions } from '../sources/index.js';
import { Column } from '../column/index.js';
import { Reading, SheetNote } from '../table/index.js';
import { Id, Instant } from './common.js';

/** Where columns of the roll come from. */
export const Source = z
  .object({
    id: Id,
    /** The base makes the entries; a joined source gives them more columns. */
    kind: z.enum(['base', 'joined']),
    fileName: z.string(),
    /** How the file was read, all found out. */
    reading: Reading,
    rows: z.number().int(),
    broughtInAt: Instant,
    notes: z.array(SheetNote),
    /** The columns of a joined source's rows. */
    columns: z.array(Column).optional(),
    join: JoinSpec.optional(),
  })
  .meta({ id: 'Source' });
export type Source = z.infer<typeof Source>;

export const KeptFile = z
  .object({
    /** Names the bytes; the same file gives the same. */
    fileId: z.string().regex(/^[0-9a-f]{64}$/),
  })
  .meta({ id: 'KeptFile' });

/** What a file is brought in as. */
export const BringIn = z
  .object({
    fileId: KeptFile.shape.fileId,
    name: z.string().min(1).max(255),
    reading: Reading.default({}),
    as: z.discriminatedUnion('kind', [
      /** The roll, new; what was there goes. */
      z.object({ kind: z.literal('base') }),
      /** A newer version of a source. */
      z.object({
        kind: z.literal('refresh'),
        sourceId: Id,
        decisions: RefreshDecisions.prefault({}),
        join: JoinSpec.optional(),
      }),
      /** A second sheet, matched by a key. */
      z.object({ kind: z.literal('join'), join: JoinSpec }),
    ]),
  })
  .meta({ id: 'BringIn' });
export type BringIn = z.infer<typeof BringIn>;

/** A state of the roll before a larger change, which can be had back. */
export const Earlier = z
  .object({
    id: Id,
    what: z.string(),
    at: Instant,
    /** True where cells were changed since. */ changedSince: z.boolean(),
  })
  .meta({ id: 'Earlier' });
export type Earlier = z.infer<typeof Earlier>;

export const RollFileQuery = z.object({
  kind: z.enum(['csv', 'xlsx', 'ods']),
  /** Those who get papers, or all. */
  who: z.enum(['in', 'all']).default('all'),
  /** With what became of each entry behind its own columns. */
  outcome: z.enum(['yes', 'no']).default('no'),
});
