import { valueOf } from '../../roll/index.js';
import type { AttendanceKind } from '../../worked/index.js';
import { attendanceOf, countSessions, readCodes, type Attendance } from '../attendance.js';
import { blank, number, text, type Cell } from '../cell.js';
import { step, type Step } from '../explanation.js';
import { plainRatio, withSign, ZERO, type Ratio } from '../ratio.js';
import type { Ground, Notice, Reckoner } from '../reckoner.js';

/** A column made from a register. */
export class AttendanceReckoner implements Reckoner {
  readonly together = false;
  private readonly known: Map<string, AttendanceKind>;

  constructor(private readonly ground: Ground<'attendance'>) {
    this.known = readCodes(ground.worked.codes);
  }

  attendance(at: number): Attendance | null {
    const { worked, book } = this.ground;
    const { from, lateIsPresent } = worked;
    const entry = book.entries[at]!;
    switch (from.kind) {
      case 'sessions':
        return countSessions(
          from.columnIds.map((id) => valueOf(entry, id)),
          this.known,
          lateIsPresent,
        );
      case 'table':
        return countSessions(
          (entry.tables?.[from.sourceId] ?? []).map((row) => row[from.at] ?? ''),
          this.known,
          lateIsPresent,
        );
      case 'totals': {
        const total = (id: string | undefined): Ratio | null => {
          const cell = id === undefined ? null : book.cell(id, at);
          return cell?.kind === 'number' ? cell.exact : null;
        };
        const [present, late, excused, unexcused] = [
          from.present,
          from.late,
          from.excused,
          from.unexcused,
        ].map(total);
        const possible = total(from.possible);
        const given = [present, late, excused, unexcused].filter((one) => one !== null && one !== undefined);
        if (given.length === 0) return null;
        const away = (excused ?? ZERO).add(unexcused ?? ZERO).add(late ?? ZERO);
        return attendanceOf(
          {
            // Where the sheet counts only who was away, the others were there.
            present: present ?? (possible ? possible.sub(away) : ZERO),
            late: late ?? ZERO,
            excused: excused ?? ZERO,
            unexcused: unexcused ?? ZERO,
          },
          possible,
          lateIsPresent,
        );
      }
    }
  }

  row(at: number): Cell {
    const { worked } = this.ground;
    const attendance = this.attendance(at);
    if (!attendance || attendance.possible.equals(0))
      return blank('the register has no sessions for this learner');
    if (worked.give === 'sentence') return text(this.sentence(attendance));
    const value = attendance[worked.give];
    if (value === null) return blank('there were no sessions');
    const whole = worked.give !== 'rate' && value.d === 1n;
    return number(value, whole ? { places: 0, mode: 'half up' } : worked.rounding);
  }

  private sentence({ possible, present, late, excused, unexcused }: Attendance): string {
    const parts = [
      `present ${this.say(present)}`,
      late.equals(0) ? '' : `late ${this.say(late)}`,
      excused.equals(0) ? '' : `excused ${this.say(excused)}`,
      unexcused.equals(0) ? '' : `unexcused ${this.say(unexcused)}`,
    ].filter(Boolean);
    return `${parts.join(', ')} of ${this.say(possible)} sessions`;
  }

  explain(at: number): Step[] {
    const attendance = this.attendance(at);
    if (!attendance) return [];
    const { present, late, excused, unexcused, possible, rate } = attendance;
    const counts = [
      `present ${this.say(present)}`,
      `late ${this.say(late)}`,
      `excused ${this.say(excused)}`,
      `unexcused ${this.say(unexcused)}`,
    ];
    const { lateIsPresent } = this.ground.worked;
    return [
      step('Sessions', counts, this.say(possible)),
      step(
        'Rate',
        [
          lateIsPresent ? 'late counts as present' : 'late does not count as present',
          `of ${this.say(possible)}`,
        ],
        rate === null ? null : `${this.say(rate)} %`,
      ),
    ];
  }

  private say(value: Ratio): string {
    return withSign(plainRatio(value, 2), this.ground.book.decimal(this.ground.column.id));
  }

  notices(): Notice[] {
    const { book, column } = this.ground;
    const unknown = new Map<string, number[]>();
    const over: number[] = [];
    for (let at = 0; at < book.entries.length; at++) {
      const attendance = book.isIn(at) ? this.attendance(at) : null;
      if (!attendance) continue;
      for (const code of new Set(attendance.unknown)) unknown.set(code, [...(unknown.get(code) ?? []), at]);
      if (attendance.rate && attendance.rate.compare(100) > 0) over.push(at);
    }
    const notices = [...unknown].slice(0, 10).map(([code, places]): Notice => ({
      code: 'register-code',
      places,
      say: (who) =>
        `The register holds “${code.slice(0, 40)}” (${who}), which “${column.title}” does not know. It is not counted; say what it means.`,
    }));
    if (over.length > 0)
      notices.push({
        code: 'attendance-over',
        places: over,
        say: (who) =>
          `“${column.title}” is more than 100 % for ${who}: more sessions attended than there were.`,
      });
    return notices;
  }
}
