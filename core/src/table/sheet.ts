import { z } from 'zod';
import { say, saying, type Code, type Given } from '../sentences/index.js';
import type { Column } from '../column/index.js';

/** Something worth saying about a sheet that was read all the same. */
export const SheetNote = z.object({
  code: z.string(),
  /** What the sentence is made from; notes of earlier versions have none. */
  parameters: z.record(z.string(), z.any()).optional(),
  message: z.string(),
  /** 1-based row numbers as a spreadsheet counts them. */
  rows: z.array(z.number().int()).optional(),
});
export type SheetNote = z.infer<typeof SheetNote>;

export const noteThat = <C extends Code>(code: C, ...given: Given<C>): SheetNote =>
  noteAt(undefined, code, ...given);

/** @param rows 1-based row numbers as a spreadsheet counts them. */
export function noteAt<C extends Code>(
  rows: readonly number[] | undefined,
  code: C,
  ...given: Given<C>
): SheetNote {
  const said = saying(code, ...given);
  return { ...said, message: say(said), ...(rows ? { rows: [...rows] } : {}) };
}

/** One table: `rows[i][j]` is the text of row i in column j, exactly as it stood in the file. */
export interface Sheet {
  readonly columns: readonly Column[];
  readonly rows: readonly (readonly string[])[];
  /** What a workbook knows beyond the text, by row and column: see {@link Exact}. */
  readonly exact: readonly (Readonly<Record<number, string>> | undefined)[];
  /** The 1-based number of each row in the file. */
  readonly lines: readonly number[];
  readonly notes: readonly SheetNote[];
}
