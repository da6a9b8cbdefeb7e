import { Chosen, Entered } from '../../ui/bound';
import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import type { Column, OutOf, Rounding } from '@scriptum/core/column';
import { NumberBox } from '../../ui/number-box';

/** A choice among the roll's columns. */
@Component({
  imports: [Entered],
  selector: 'sc-column-pick',
  template: `
    <select
      class="pick h-8! w-full min-w-0 truncate border border-edge px-1!"
      [attr.aria-label]="label()"
      (scEntered)="changed.emit($event || null)"
    >
      @if (none() || !known()) {
        <option value="" [selected]="!known()">{{ none() || 'Choose a column' }}</option>
      }
      @for (column of fitting(); track column.id) {
        <option [value]="column.id" [selected]="column.id === value()">{{ column.title }}</option>
      }
    </select>
  `,
  host: { class: 'inline-block min-w-0' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ColumnPick {
  readonly columns = input.required<readonly Column[]>();
  readonly value = input.required<string | null | undefined>();
  readonly label = input.required<string>();
  /** What stands for no column; empty where one is needed. */
  readonly none = input('');
  readonly numeric = input(false);
  /** The column that is being worked out, which cannot stand on itself. */
  readonly without = input('');
  readonly changed = output<string | null>();
  protected readonly fitting = computed(() =>
    this.columns().filter(
      ({ id, type, worked }) =>
        id === this.value() ||
        (id !== this.without() && (!this.numeric() || type === 'number' || type === 'percentage' || worked)),
    ),
  );
  protected readonly known = computed(() => this.columns().some(({ id }) => id === this.value()));
}

const MODES: readonly { readonly mode: Rounding['mode']; readonly say: string }[] = [
  { mode: 'half up', say: 'half up' },
  { mode: 'half even', say: 'half to even' },
  { mode: 'down', say: 'always down' },
  { mode: 'up', say: 'always up' },
];

/** How a number is rounded: places, and what becomes of the rest. */
@Component({
  imports: [Entered, Chosen],
  selector: 'sc-rounding-pick',
  template: `
    <select
      class="pick h-8! border border-edge px-1!"
      [attr.aria-label]="label() + ': places'"
      (scEntered)="set({ places: +$event })"
    >
      @for (places of all; track places) {
        <option [value]="places" [selected]="places === value().places">
          {{ places === 0 ? 'whole numbers' : places === 1 ? '1 place' : places + ' places' }}
        </option>
      }
    </select>
    <select
      class="pick ml-1 h-8! border border-edge px-1!"
      [attr.aria-label]="label() + ': mode'"
      [scOf]="value().mode"
      (scChosen)="set({ mode: $event })"
    >
      @for (one of modes; track one.mode) {
        <option [value]="one.mode" [selected]="one.mode === value().mode">{{ one.say }}</option>
      }
    </select>
  `,
  host: { class: 'inline-flex' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class RoundingPick {
  readonly value = input.required<Rounding>();
  readonly label = input('Rounded to');
  readonly changed = output<Rounding>();
  protected readonly all = [0, 1, 2, 3, 4];
  protected readonly modes = MODES;

  protected set(change: Partial<Rounding>): void {
    this.changed.emit({ ...this.value(), ...change });
  }
}

/** What a mark is out of where it is looked up in percent. */
@Component({
  selector: 'sc-out-of-pick',
  imports: [Entered, NumberBox],
  template: `
    <span>looked up</span>
    <select
      class="pick h-8! border border-edge px-1!"
      aria-label="How the mark is looked up"
      (scEntered)="choose($event)"
    >
      <option value="" [selected]="value() === null">as it stands</option>
      @if (key() !== null || value() === 'key') {
        <option value="key" [selected]="value() === 'key'">
          in percent of all points of the key ({{ key() ?? '?' }})
        </option>
      }
      <option value="points" [selected]="points() !== null">in percent of</option>
    </select>
    @if (points(); as most) {
      <sc-number-box
        class="w-16"
        label="Points in all"
        [least]="0"
        [value]="most"
        (changed)="changed.emit($event)"
      />
      <span>points</span>
    }
  `,
  host: { class: 'inline-flex flex-wrap items-center gap-1.5' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class OutOfPick {
  readonly value = input.required<OutOf>();
  /** The points that the marking key gives in all; null where the mark is not from a key. */
  readonly key = input.required<string | null>();
  readonly changed = output<OutOf>();
  protected readonly points = computed(() => (this.value() === 'key' ? null : this.value()));

  protected choose(what: string): void {
    this.changed.emit(what === '' ? null : what === 'key' ? 'key' : (this.key() ?? '100'));
  }
}

/** The points of a marking key that says points; null for another column. */
export function pointsOfKey(columns: readonly Column[], columnId: string): string | null {
  const worked = columns.find(({ id }) => id === columnId)?.worked;
  if (worked?.kind !== 'key' || worked.give !== 'points') return null;
  const total = worked.questions.reduce((sum, { points }) => sum + Number(points), 0);
  return String(Math.round(total * 1e6) / 1e6);
}

/** What a form of a worked column says: the new definition, and what was changed, to stand after “Undo”. */
export interface WorkedChange<W> {
  readonly worked: W;
  readonly what: string;
  /** True for a change of which people first see whose marks it changes. */
  readonly asks?: boolean;
}

/** A whole number as a number box takes it. */
export const numberText = (number: number | null): string | null => (number === null ? null : String(number));
