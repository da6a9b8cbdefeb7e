import { z } from 'zod';
import { ENCODINGS } from './encodings.js';

export const Encoding = z.enum(ENCODINGS.map(({ id }) => id));
export type Encoding = z.infer<typeof Encoding>;

/** How a file is to be read. What is left out is found out. */
export const Reading = z.object({
  /** The name of the sheet in a workbook. */
  sheet: z.string().max(255).optional(),
  /** Of a text file. */
  encoding: Encoding.optional(),
  /** What stands between the cells of a text file. */
  delimiter: z.string().length(1).optional(),
  /** The decimal sign of numbers that are text. */
  decimal: z.enum(['.', ',']).optional(),
  /** The rows that hold the titles: the 1-based number of the first, and how many; `count` 0 where there are none. */
  header: z
    .object({ row: z.number().int().min(1).max(2_000_000), count: z.number().int().min(0).max(3) })
    .optional(),
  /** True to keep rows that hold totals of the rows above. */
  keepTotals: z.boolean().optional(),
  /** True to leave out rows that the file hides. */
  skipHidden: z.boolean().optional(),
});
export type Reading = z.infer<typeof Reading>;
