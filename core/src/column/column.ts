import { z } from 'zod';
import { Identity } from './identity.js';
import { Worked } from './worked/worked.js';
import { ColumnFormat, ColumnType } from './column-type.js';

/**
 * A column. Its `id` is its identity and never changes; `title` is a label that people may change.
 */
export const Column = z.object({
  id: Identity,
  title: z.string().max(1000),
  /** Set where the column holds the learner's name, or this part of it; stays when the title changes. */
  role: z.enum(['name', 'given name', 'surname']).optional(),
  /** What the cells are. Text where nothing is said. */
  type: ColumnType.optional(),
  /** How the cells of this type are written. */
  format: ColumnFormat.optional(),
  /** The source that the column comes from; none for a column that was added here. */
  sourceId: Identity.optional(),
  /** The title in the source, by which a newer version of it finds the column again. */
  sourceTitle: z.string().max(1000).optional(),
  /** Made from the entry's own small table of the source: which of its columns, and how. */
  summary: z
    .object({ of: z.string().max(1000), how: z.enum(['count', 'sum', 'mean', 'latest', 'list']) })
    .optional(),
  /** Set where Scriptum works the column out: from what, and how. A cell written by hand stands in its stead. */
  worked: Worked.optional(),
  /** Not shown in the table; still there for fields and finding. */
  hidden: z.boolean().optional(),
  /** Stays in view when the table is moved sideways. */
  frozen: z.boolean().optional(),
});
export type Column = z.infer<typeof Column>;
