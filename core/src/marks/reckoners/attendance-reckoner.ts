import { phrase } from '../../sentences/index.js';
import type { AttendanceKind } from '../../column/index.js';
import {
  attendanceFromTotals,
  countSessions,
  readCodes,
  type Attendance,
  type Totals,
} from '../attendance.js';
import { blank, number, text, type Cell } from '../cell.js';
import { step, type Step } from '../explanation.js';
import { plainRatio, ratio, withSign, type Ratio } from '../../ratio/index.js';
import { notice, type Notice, type Reckoner, type ReckonerInput } from '../reckoner.js';
import { plainNumber } from '../scheme/read-mark.js';

/** A column made from a register. */
export class AttendanceReckoner implements Reckoner {
  readonly together = false;
  private readonly known: Map<string, AttendanceKind>;

  constructor(private readonly input: ReckonerInput<'attendance'>) {
    this.known = readCodes(input.worked.codes);
  }

  attendance(at: number): Attendance | null {
    const { worked, rollCells } = this.input;
    const { from, lateIsPresent } = worked;
    const entry = rollCells.entries[at]!;
    switch (from.kind) {
      case 'sessions':
        return countSessions(
          from.columnIds.map((id) => rollCells.written(id, at)),
          this.known,
          lateIsPresent,
        );
      case 'table':
        return countSessions(
          (entry.tables?.[from.sourceId] ?? []).map((row) => row[from.at] ?? ''),
          this.known,
          lateIsPresent,
        );
      case 'totals':
        return attendanceFromTotals(this.totals(from, at), from.presentHasLate ?? false, lateIsPresent);
    }
  }

  private totals(
    from: Extract<ReckonerInput<'attendance'>['worked']['from'], { kind: 'totals' }>,
    at: number,
  ): Totals {
    const total = (id: string | undefined): Ratio | null => {
      if (id === undefined) return null;
      const cell = this.input.rollCells.cell(id, at);
      if (cell.kind === 'number') return cell.exact;
      const plain = cell.kind === 'text' ? plainNumber(cell.text, this.input.rollCells.decimal(id)) : null;
      return plain === null ? null : ratio(plain);
    };
    return {
      present: total(from.present),
      late: total(from.late),
      excused: total(from.excused),
      unexcused: total(from.unexcused),
      possible: total(from.possible),
    };
  }

  /** An error among what is counted. */
  private error(at: number): Cell | null {
    const { from } = this.input.worked;
    const ids =
      from.kind === 'sessions'
        ? from.columnIds
        : from.kind === 'totals'
          ? [from.present, from.late, from.excused, from.unexcused, from.possible]
          : [];
    for (const id of ids) {
      const cell = id === undefined ? null : this.input.rollCells.cell(id, at);
      if (cell?.kind === 'error') return cell;
    }
    return null;
  }

  row(at: number): Cell {
    const { worked } = this.input;
    const error = this.error(at);
    if (error) return error;
    const attendance = this.attendance(at);
    if (!attendance) return blank('no-sessions');
    const { possible } = attendance;
    if (possible === null && ['rate', 'possible', 'present', 'sentence'].includes(worked.give))
      return blank('sessions-unsaid');
    if (possible?.equals(0)) return blank('no-sessions');
    if (worked.give === 'sentence') return text(this.sentence(attendance, possible!));
    const value = attendance[worked.give];
    if (value === null) return blank('sessions-over');
    const whole = worked.give !== 'rate' && value.d === 1n;
    return number(value, whole ? { places: 0, mode: 'half up' } : worked.rounding);
  }

  private sentence({ present, late, excused, unexcused }: Attendance, possible: Ratio): string {
    const counts = Object.entries({ present, late, excused, unexcused }).flatMap(([as, value]) =>
      as !== 'present' && value!.equals(0)
        ? []
        : [{ as: as as 'present' | 'late' | 'excused' | 'unexcused', value: value && this.say(value) }],
    );
    return phrase('sessions-sentence', { counts, possible: this.say(possible) });
  }

  explain(at: number): Step[] {
    const attendance = this.attendance(at);
    if (!attendance) return [];
    const { present, late, excused, unexcused, possible, rate } = attendance;
    const counts = [
      phrase('sessions-counted', { as: 'present', value: present && this.say(present) }),
      phrase('sessions-counted', { as: 'late', value: this.say(late) }),
      phrase('sessions-counted', { as: 'excused', value: this.say(excused) }),
      phrase('sessions-counted', { as: 'unexcused', value: this.say(unexcused) }),
    ];
    const lateCounts = phrase('late-counts', { present: this.input.worked.lateIsPresent });
    return [
      step(phrase('sessions'), counts, possible ? this.say(possible) : phrase('not-known')),
      step(
        phrase('rate'),
        possible ? [lateCounts, phrase('out-of', { whole: this.say(possible) })] : [lateCounts],
        rate && phrase('percent', { value: this.say(rate) }),
      ),
    ];
  }

  private say(value: Ratio): string {
    return withSign(plainRatio(value, 2), this.input.rollCells.decimal(this.input.column.id));
  }

  notices(): Notice[] {
    const { rollCells, column } = this.input;
    const unknown = new Map<string, number[]>();
    const over: number[] = [];
    const unlike: number[] = [];
    const unsaid: number[] = [];
    for (let at = 0; at < rollCells.entries.length; at++) {
      const attendance = rollCells.isIn(at) ? this.attendance(at) : null;
      if (!attendance) continue;
      for (const code of new Set(attendance.unknown)) unknown.set(code, [...(unknown.get(code) ?? []), at]);
      if (attendance.possible === null) unsaid.push(at);
      else if (attendance.trouble === 'over') over.push(at);
      else if (attendance.trouble === 'unlike') unlike.push(at);
    }
    const { title } = column;
    const notices = [...unknown]
      .slice(0, 10)
      .map(([code, places]) => notice('register-code', places, { title, code: code.slice(0, 40) }));
    if (over.length > 0) notices.push(notice('attendance-over', over, { title }));
    if (unlike.length > 0) notices.push(notice('attendance-unlike', unlike, { title }));
    if (unsaid.length > 0) notices.push(notice('attendance-unsaid', unsaid, { title }));
    return notices;
  }
}
