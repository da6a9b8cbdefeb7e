import { Chosen, Ticked } from '../../ui/bound';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  inject,
  input,
  output,
  type Signal,
} from '@angular/core';
import { Store } from '@ngrx/store';
import {
  type Column,
  ATTENDANCE_KINDS,
  type AttendanceColumn,
  type AttendanceKind,
} from '@scriptum/core/column';
import { deskFeature } from '../../state/desk';
import { ColumnPick, RoundingPick, type WorkedChange } from './fields';

const NAMES: Readonly<Record<AttendanceKind, string>> = {
  present: 'Present',
  late: 'Late',
  excused: 'Away, excused',
  unexcused: 'Away, not excused',
  none: 'No session',
};

type Totals = Extract<AttendanceColumn['from'], { kind: 'totals' }>;

/** Attendance: where the register stands, what its codes mean, and what the column says. */
@Component({
  selector: 'sc-attendance-form',
  imports: [Chosen, Ticked, ColumnPick, RoundingPick],
  templateUrl: './attendance-form.html',
  host: { class: 'block text-small' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class AttendanceForm {
  /** How the column is worked out, as it is at this moment: a quick hand changes it again before the screen is drawn. */
  readonly definition = input.required<Signal<AttendanceColumn>>();
  protected readonly worked = computed(() => this.definition()());
  readonly columns = input.required<readonly Column[]>();
  readonly columnId = input.required<string>();
  readonly changed = output<WorkedChange<AttendanceColumn>>();
  private readonly folio = inject(Store).selectSignal(deskFeature.selectFolio);
  protected readonly kinds = ATTENDANCE_KINDS.map((kind) => ({ kind, name: NAMES[kind] }));
  protected readonly totals = (['present', 'late', 'excused', 'unexcused', 'possible'] as const).map(
    (part) => ({
      part,
      name: part === 'possible' ? 'All sessions' : NAMES[part],
    }),
  );
  /** Joined sheets whose rows are the entries' own small tables. */
  protected readonly tables = computed(() =>
    (this.folio()?.sources ?? []).flatMap(({ id, fileName, columns }) =>
      columns ? [{ id, fileName, columns }] : [],
    ),
  );
  protected readonly table = computed(() => {
    const { from } = this.worked();
    return from.kind === 'table' ? this.tables().find(({ id }) => id === from.sourceId) : undefined;
  });
  /** Which column of the joined sheet says what each was. */
  protected readonly tableAt = computed(() => {
    const { from } = this.worked();
    return from.kind === 'table' ? from.at : -1;
  });
  protected readonly sessions = computed(() => {
    const { from } = this.worked();
    return new Set(from.kind === 'sessions' ? from.columnIds : []);
  });
  protected readonly candidates = computed(() =>
    this.columns().filter(({ id, worked }) => !worked && id !== this.columnId()),
  );

  protected set(change: Partial<AttendanceColumn>, what: string): void {
    this.changed.emit({ worked: { ...this.worked(), ...change }, what });
  }

  protected setKind(kind: AttendanceColumn['from']['kind']): void {
    const [first] = this.tables();
    const from: AttendanceColumn['from'] =
      kind === 'sessions'
        ? { kind, columnIds: [] }
        : kind === 'totals'
          ? { kind, presentHasLate: false }
          : { kind, sourceId: first?.id ?? '', at: 0 };
    this.set({ from }, 'where the register stands');
  }

  protected toggleSession(id: string): void {
    const next = new Set(this.sessions());
    if (!next.delete(id)) next.add(id);
    const columnIds = this.candidates().flatMap((column) => (next.has(column.id) ? [column.id] : []));
    this.set({ from: { kind: 'sessions', columnIds } }, 'the sessions');
  }

  protected total(part: keyof Omit<Totals, 'kind' | 'presentHasLate'>): string | undefined {
    const { from } = this.worked();
    return from.kind === 'totals' ? from[part] : undefined;
  }

  protected presentHasLate(): boolean {
    const { from } = this.worked();
    return from.kind === 'totals' && from.presentHasLate;
  }

  protected setPresentHasLate(presentHasLate: boolean): void {
    const { from } = this.worked();
    if (from.kind === 'totals') this.set({ from: { ...from, presentHasLate } }, 'coming late');
  }

  protected setTotal(part: keyof Omit<Totals, 'kind' | 'presentHasLate'>, columnId: string | null): void {
    const { from } = this.worked();
    if (from.kind === 'totals') this.set({ from: { ...from, [part]: columnId ?? undefined } }, 'the totals');
  }

  protected setTable(sourceId: string, at: number): void {
    this.set({ from: { kind: 'table', sourceId, at } }, 'the register');
  }

  protected setCodes(kind: AttendanceKind, text: string): void {
    const codes = text
      .split(',')
      .map((code) => code.trim().slice(0, 40))
      .filter(Boolean)
      .slice(0, 40);
    this.set({ codes: { ...this.worked().codes, [kind]: codes } }, 'the codes');
  }
}
