import { z } from 'zod';
import { Identity } from '../identity.js';
import { ColumnRef, Rounding } from './parts.js';

export const ATTENDANCE_KINDS = ['present', 'late', 'excused', 'unexcused', 'none'] as const;
export type AttendanceKind = (typeof ATTENDANCE_KINDS)[number];

const Codes = z.array(z.string().max(40)).max(40);

/** A column made from a register: one column a session, a small table with one row a session, or totals. */
export const AttendanceColumn = z.object({
  kind: z.literal('attendance'),
  from: z.discriminatedUnion('kind', [
    z.object({ kind: z.literal('sessions'), columnIds: z.array(ColumnRef).max(400) }),
    /** The rows of a joined sheet; `title` names the column of it that holds the code. */
    z.object({ kind: z.literal('table'), sourceId: Identity, at: z.number().int().min(0) }),
    z.object({
      kind: z.literal('totals'),
      present: ColumnRef.optional(),
      late: ColumnRef.optional(),
      excused: ColumnRef.optional(),
      unexcused: ColumnRef.optional(),
      /** All sessions, where the sheet says so; else they are added up. */
      possible: ColumnRef.optional(),
      /** Those who came late are counted among the present too. */
      presentHasLate: z.boolean().default(false),
    }),
  ]),
  /** What is written in the register for each; capitals do not matter. `none`: no session took place. */
  codes: z.object({ present: Codes, late: Codes, excused: Codes, unexcused: Codes, none: Codes }),
  /** In the rate, coming late counts as being there. */
  lateIsPresent: z.boolean(),
  give: z.enum(['rate', 'possible', 'present', 'late', 'excused', 'unexcused', 'sentence']),
  rounding: Rounding,
});
export type AttendanceColumn = z.infer<typeof AttendanceColumn>;

/** Common practice, no published source. */
export const PLAIN_CODES: AttendanceColumn['codes'] = {
  present: ['/', '\\', 'p', 'present', '1', '✓', 'x'],
  late: ['l', 'late'],
  excused: ['e', 'excused', 'ill', 'm', 'i'],
  unexcused: ['u', 'unexcused', 'o', 'absent', '0', 'n'],
  none: ['#', '-', 'y'],
};
