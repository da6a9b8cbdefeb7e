import { z } from 'zod';
import { phrase } from '../sentences/index.js';

/** What the cells of a column are. */
export const ColumnType = z.enum([
  'text',
  'number',
  'percentage',
  'date',
  'date-time',
  'yes/no',
  'choice',
  'several choices',
  'email',
  'phone',
  'web',
  'picture',
]);
export type ColumnType = z.infer<typeof ColumnType>;

/** How the cells of a column are written. */
export const ColumnFormat = z.object({
  /** The decimal sign of numbers. A full stop where nothing is said. */
  decimal: z.enum(['.', ',']).optional(),
  /** Which way round 3/4/2026 is. Unanswered where the column itself cannot tell. */
  dateOrder: z.enum(['dmy', 'mdy', 'ymd']).optional(),
  /** What stands between several choices. */
  separator: z.string().min(1).max(5).optional(),
});
export type ColumnFormat = z.infer<typeof ColumnFormat>;

/** The names of the types as people read them. */
export const TYPE_NAMES = Object.fromEntries(
  ColumnType.options.map((type) => [type, phrase('column-type', { type })]),
) as Readonly<Record<ColumnType, string>>;
