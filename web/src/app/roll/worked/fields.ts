import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import type { Column } from '@scriptum/core/table';
import type { OutOf, Rounding } from '@scriptum/core/worked';

/** The reader's decimal sign. */
const SIGN = (1.5).toLocaleString(navigator.language).includes(',') ? ',' : '.';

/** A box for a number, which is taken when it is left. What is no number is refused where it stands. */
@Component({
  selector: 'sc-decimal-box',
  template: `
    <input
      #box
      class="input w-full px-1.5! text-right tabular-nums"
      inputmode="decimal"
      [attr.aria-label]="label()"
      [value]="shown()"
      [placeholder]="hint()"
      (change)="take(box)"
      (keydown.escape)="box.value = shown()"
    />
  `,
  host: { class: 'inline-block' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class DecimalBox {
  readonly value = input.required<string | null>();
  readonly label = input.required<string>();
  readonly hint = input('');
  /** True where the box may be blank. */
  readonly optional = input(false);
  readonly changed = output<string | null>();
  protected readonly shown = computed(() => this.value()?.replace('.', SIGN) ?? '');

  protected take(box: HTMLInputElement): void {
    const text = box.value.trim().replace(',', '.');
    const blank = text === '' && this.optional();
    const fits = blank || /^-?\d{1,9}(?:\.\d{1,9})?$/.test(text);
    box.setCustomValidity(fits ? '' : 'Write a number, such as 12 or 12.5.');
    if (!fits) {
      box.reportValidity();
      return;
    }
    const next = blank ? null : text;
    if (next !== this.value()) this.changed.emit(next);
  }
}

/** A choice among the roll's columns. */
@Component({
  selector: 'sc-column-pick',
  template: `
    <select
      class="pick h-8! w-full min-w-0 truncate border border-edge px-1!"
      [attr.aria-label]="label()"
      (change)="changed.emit($any($event.target).value || null)"
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
  selector: 'sc-rounding-pick',
  template: `
    <select
      class="pick h-8! border border-edge px-1!"
      [attr.aria-label]="label() + ': places'"
      (change)="set({ places: +$any($event.target).value })"
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
      (change)="set({ mode: $any($event.target).value })"
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
  imports: [DecimalBox],
  template: `
    <span>looked up</span>
    <select
      class="pick h-8! border border-edge px-1!"
      aria-label="How the mark is looked up"
      (change)="choose($any($event.target).value)"
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
      <sc-decimal-box class="w-16" label="Points in all" [value]="most" (changed)="changed.emit($event)" />
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
}

/** The whole number that a box holds, within what may stand there; the lowest where it holds none. */
export const wholeIn = (text: string, most: number, least = 0): number =>
  Math.min(most, Math.max(least, Math.round(Number(text) || 0)));
