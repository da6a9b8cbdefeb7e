import { ATTENDANCE_KINDS, type AttendanceColumn, type AttendanceKind } from '../column/index.js';
import { HUNDRED, ratio, ZERO, type Ratio } from '../ratio/index.js';

/** How often a learner was there. */
export interface Attendance {
  /** Null where nothing says so. */
  readonly present: Ratio | null;
  readonly late: Ratio;
  readonly excused: Ratio;
  readonly unexcused: Ratio;
  /** Null where only absences are counted. */
  readonly possible: Ratio | null;
  /** Percent of 100; null where there were no sessions, or where nothing says how many there were. */
  readonly rate: Ratio | null;
  /** What the register holds and no code explains. */
  readonly unknown: readonly string[];
  /** `over`: more is counted than there was. `unlike`: the parts do not add up to all of it. */
  readonly trouble: 'over' | 'unlike' | null;
}

/** What a sheet counts already; null for what it does not. */
export interface Totals {
  readonly present: Ratio | null;
  readonly late: Ratio | null;
  readonly excused: Ratio | null;
  readonly unexcused: Ratio | null;
  readonly possible: Ratio | null;
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
  const whole = (count: number): Ratio => ratio(String(count));
  const all = counts.present + counts.late + counts.excused + counts.unexcused;
  const there = lateIsPresent ? counts.present + counts.late : counts.present;
  return {
    present: whole(counts.present),
    late: whole(counts.late),
    excused: whole(counts.excused),
    unexcused: whole(counts.unexcused),
    possible: whole(all),
    rate: all === 0 ? null : whole(there).div(all).mul(HUNDRED),
    unknown,
    trouble: null,
  };
}

/**
 * The rate is present over possible: coming late counts as present or not, as the school says. Where the sheet counts only
 * who was away, the others were there; where it does not say how many sessions there were, either present and away make
 * them up, or nobody knows. Common practice; no published source.
 *
 * @param presentHasLate those who came late are counted among the present too.
 * @returns null where nothing is counted.
 */
export function attendanceFromTotals(
  totals: Totals,
  presentHasLate: boolean,
  lateIsPresent: boolean,
): Attendance | null {
  const { possible } = totals;
  if ([totals.present, totals.late, totals.excused, totals.unexcused].every((one) => one === null))
    return null;
  const late = totals.late ?? ZERO;
  const excused = totals.excused ?? ZERO;
  const unexcused = totals.unexcused ?? ZERO;
  const away = late.add(excused).add(unexcused);
  let { present } = totals;
  if (present && presentHasLate) present = present.sub(late);
  present ??= possible?.sub(away) ?? null;
  const all = possible ?? present?.add(away) ?? null;
  const counted = present?.add(away) ?? null;
  const negative = [present, late, excused, unexcused, all].some(
    (one) => one !== null && one.compare(ZERO) < 0,
  );
  const over = negative || (all !== null && counted !== null && counted.compare(all) > 0);
  const there = present && lateIsPresent ? present.add(late) : present;
  // Where both ends are counted and do not meet, the late may be in twice.
  const asked = over && !negative && totals.present !== null && !late.equals(0) && !presentHasLate;
  const meets = asked && all !== null && counted!.sub(late).compare(all) <= 0;
  const bounded =
    all === null ||
    all.compare(ZERO) <= 0 ||
    there === null ||
    there.compare(ZERO) < 0 ||
    there.compare(all) > 0;
  return {
    present,
    late,
    excused,
    unexcused,
    possible: all,
    rate: bounded ? null : there.div(all).mul(HUNDRED),
    unknown: [],
    trouble: meets ? 'unlike' : over ? 'over' : null,
  };
}
