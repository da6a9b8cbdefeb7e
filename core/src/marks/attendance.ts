import { ATTENDANCE_KINDS, type AttendanceColumn, type AttendanceKind } from '../worked/index.js';
import { HUNDRED, ratio, ZERO, type Ratio } from './ratio.js';

/** How often a learner was there. */
export interface Attendance {
  readonly present: Ratio;
  readonly late: Ratio;
  readonly excused: Ratio;
  readonly unexcused: Ratio;
  readonly possible: Ratio;
  /** Percent of 100; null where there were no sessions. */
  readonly rate: Ratio | null;
  /** What the register holds and no code explains. */
  readonly unknown: readonly string[];
}

/** What a register's codes mean; capitals do not matter. */
export function readCodes(codes: AttendanceColumn['codes']): Map<string, AttendanceKind> {
  const known = new Map<string, AttendanceKind>();
  for (const kind of ATTENDANCE_KINDS) {
    for (const code of codes[kind])
      if (!known.has(code.trim().toLowerCase())) known.set(code.trim().toLowerCase(), kind);
  }
  return known;
}

/** Counts sessions by their codes. A blank says nothing, and is no session. */
export function countSessions(
  texts: readonly string[],
  known: ReadonlyMap<string, AttendanceKind>,
  lateIsPresent: boolean,
): Attendance {
  const counts = { present: 0, late: 0, excused: 0, unexcused: 0, none: 0 };
  const unknown: string[] = [];
  for (const text of texts) {
    const code = text.trim().toLowerCase();
    if (code === '') continue;
    const kind = known.get(code);
    if (kind) counts[kind]++;
    else unknown.push(text.trim());
  }
  return attendanceOf(
    {
      present: ratio(String(counts.present)),
      late: ratio(String(counts.late)),
      excused: ratio(String(counts.excused)),
      unexcused: ratio(String(counts.unexcused)),
    },
    null,
    lateIsPresent,
    unknown,
  );
}

/**
 * The rate is present over possible: coming late counts as present or not, as the school says. Common practice; no
 * published source.
 *
 * @param possible all sessions, where the sheet says so; null adds them up.
 */
export function attendanceOf(
  counts: Pick<Attendance, 'present' | 'late' | 'excused' | 'unexcused'>,
  possible: Ratio | null,
  lateIsPresent: boolean,
  unknown: readonly string[] = [],
): Attendance {
  const all = possible ?? counts.present.add(counts.late).add(counts.excused).add(counts.unexcused);
  const there = lateIsPresent ? counts.present.add(counts.late) : counts.present;
  return {
    ...counts,
    possible: all,
    rate: all.compare(ZERO) <= 0 ? null : there.div(all).mul(HUNDRED),
    unknown,
  };
}
