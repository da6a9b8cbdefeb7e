import { Chosen, Entered, Ticked } from '../../ui/bound';
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
import { copyScheme, guessOutOf, holdsMarks, schemeCopies } from '@scriptum/core/marks';
import type { Roll } from '@scriptum/core/roll';
import type { MarkScheme, MarkState, Piece, PieceGroup, StatePolicy } from '@scriptum/core/column';
import { newId } from '../../api/new-id';
import { rollActions } from '../../state/roll';
import { Icon } from '../../ui/icon';
import { NumberBox } from '../../ui/number-box';
import { ColumnPick, RoundingPick, numberText, type WorkedChange } from './fields';

const STATES: readonly { readonly state: MarkState; readonly name: string; readonly hint: string }[] = [
  { state: 'missing', name: 'Missing', hint: 'not handed in' },
  { state: 'excused', name: 'Excused', hint: 'need not be done' },
  { state: 'absent', name: 'Absent', hint: 'was not there' },
  { state: 'unmarked', name: 'Not marked yet', hint: 'every blank cell' },
];

const POLICIES: readonly { readonly as: StatePolicy['as']; readonly say: string }[] = [
  { as: 'zero', say: 'counts as 0' },
  { as: 'skip', say: 'does not count' },
  { as: 'open', say: 'is still to come' },
  { as: 'share', say: 'counts as a share:' },
];

/** The mark scheme: groups of pieces, their weights, and what becomes of cells without a mark. */
@Component({
  selector: 'sc-scheme-form',
  imports: [Chosen, Entered, Ticked, ColumnPick, Icon, RoundingPick, NumberBox],
  templateUrl: './scheme-form.html',
  host: { class: 'block' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SchemeForm {
  /** How the column is worked out, as it is at this moment: a quick hand changes it again before the screen is drawn. */
  readonly definition = input.required<Signal<MarkScheme>>();
  protected readonly worked = computed(() => this.definition()());
  readonly roll = input.required<Roll>();
  readonly columnId = input.required<string>();
  readonly changed = output<WorkedChange<MarkScheme>>();
  private readonly store = inject(Store);
  protected readonly columns = computed(() => this.roll().columns);
  protected readonly states = STATES;
  protected readonly policies = POLICIES;
  protected readonly total = computed(
    () => Math.round(this.worked().groups.reduce((sum, { weight }) => sum + Number(weight), 0) * 1e6) / 1e6,
  );
  /** Number columns that no group has yet. */
  protected readonly free = computed(() => {
    const taken = new Set(
      this.worked().groups.flatMap(({ pieces }) => pieces.map(({ columnId }) => columnId)),
    );
    return this.columns().filter(
      (column) =>
        column.id !== this.columnId() &&
        !taken.has(column.id) &&
        (column.worked?.kind === 'key' || holdsMarks(column, this.roll())),
    );
  });

  protected readonly text = numberText;

  protected set(change: Partial<MarkScheme>, what: string, asks = false): void {
    this.changed.emit({ worked: { ...this.worked(), ...change }, what, asks });
  }

  protected setGroup(id: string, change: Partial<PieceGroup>, what = 'a group of the scheme'): void {
    this.set(
      { groups: this.worked().groups.map((group) => (group.id === id ? { ...group, ...change } : group)) },
      what,
      change.weight !== undefined || change.drop !== undefined || change.keep !== undefined,
    );
  }

  protected setPiece(group: PieceGroup, id: string, change: Partial<Piece>): void {
    const pieces = group.pieces.map((piece) => (piece.id === id ? { ...piece, ...change } : piece));
    this.set(
      { groups: this.worked().groups.map((one) => (one.id === group.id ? { ...one, pieces } : one)) },
      'a piece of work',
      change.weight !== undefined || change.outOf !== undefined,
    );
  }

  /** Other subjects that this scheme can be copied for. */
  protected readonly copies = computed(() => schemeCopies(this.worked(), this.roll()));

  /** @param subject empty for a copy over the same columns. */
  protected copy(subject: string): void {
    const { columns } = this.roll();
    const at = columns.findIndex(({ id }) => id === this.columnId());
    const made = copyScheme(columns[at]!, this.worked(), subject || null, this.roll(), newId);
    this.store.dispatch(
      rollActions.change({
        patch: { columns: [...columns.slice(0, at + 1), made, ...columns.slice(at + 1)] },
        what: `“${made.title}”`,
      }),
    );
    this.store.dispatch(rollActions.openWorked({ columnId: made.id }));
  }

  protected addPieces(group: PieceGroup, columnId: string | null): void {
    if (!columnId) return;
    const added = columnId === 'all' ? this.free() : this.free().filter(({ id }) => id === columnId);
    const pieces = added.map((column): Piece => ({
      id: newId(),
      columnId: column.id,
      outOf: guessOutOf(column, this.roll()),
      weight: '1',
      extra: false,
    }));
    this.setGroup(group.id, { pieces: [...group.pieces, ...pieces] }, 'a piece of work');
  }

  protected takeOut(group: PieceGroup, id: string): void {
    this.setGroup(
      group.id,
      { pieces: group.pieces.filter((piece) => piece.id !== id) },
      'taking a piece out',
    );
  }

  /** Moves a piece into another group. */
  protected move(from: PieceGroup, piece: Piece, to: string): void {
    this.set(
      {
        groups: this.worked().groups.map((group) =>
          group.id === from.id
            ? { ...group, pieces: group.pieces.filter(({ id }) => id !== piece.id) }
            : group.id === to
              ? { ...group, pieces: [...group.pieces, piece] }
              : group,
        ),
      },
      'moving a piece of work',
    );
  }

  protected addGroup(): void {
    const { groups } = this.worked();
    const weight = Math.max(0, 100 - this.total());
    const group: PieceGroup = {
      id: newId(),
      name: `Group ${groups.length + 1}`,
      weight: String(weight),
      weigh: 'points',
      drop: 0,
      keep: null,
      cap: null,
      pieces: [],
    };
    this.set({ groups: [...groups, group] }, 'a new group');
  }

  protected removeGroup(id: string): void {
    this.set({ groups: this.worked().groups.filter((group) => group.id !== id) }, 'taking a group out');
  }

  protected setState(state: MarkState, change: Partial<StatePolicy>): void {
    const { states } = this.worked();
    const next = { ...states[state], ...change };
    if (next.as === 'share' && next.share === undefined) next.share = '50';
    this.set({ states: { ...states, [state]: next } }, `what ${state} counts as`);
  }

  protected setWords(state: MarkState, text: string): void {
    const words = text
      .split(',')
      .map((word) => word.trim().slice(0, 40))
      .filter(Boolean)
      .slice(0, 20);
    this.setState(state, { words });
  }

  protected isDate(columnId: string | undefined): boolean {
    const type = this.columns().find(({ id }) => id === columnId)?.type;
    return type === 'date' || type === 'date-time';
  }

  protected toggleLate(on: boolean): void {
    this.set({ late: on ? { perDay: '10', of: 'out of', grace: 0, floor: '0' } : null }, 'late work');
  }
}
