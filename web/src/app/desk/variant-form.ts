import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { Store } from '@ngrx/store';
import { isIn } from '@scriptum/core/roll';
import { isFor, type Variant } from '@scriptum/core/template';
import { deskActions, deskFeature } from '../state/desk';
import { Entered } from '../ui/bound';

/** For whom a letter, or a cover note, stands in for another one. */
@Component({
  selector: 'sc-variant-form',
  imports: [Entered],
  template: `
    <p class="text-slate">
      Instead of
      <bdi>“{{ base() }}”</bdi>
      for those with
    </p>
    <div class="grid grid-cols-[1fr_auto_1fr] items-center gap-1">
      <select
        class="pick w-full border border-edge"
        aria-label="The column that says it"
        (scEntered)="setColumn($event)"
      >
        <option value="" [selected]="!known()">choose a column</option>
        @for (column of columns(); track column.id) {
          <option [value]="column.id" [selected]="column.id === variant().columnId">
            {{ column.title }}
          </option>
        }
      </select>
      <span>that is</span>
      <input
        class="input w-full min-w-0 px-2"
        aria-label="What it says, several with commas between"
        placeholder="Polish, pl"
        maxlength="600"
        [value]="variant().says.join(', ')"
        (scEntered)="setSays($event)"
      />
    </div>
    <button type="button" class="link min-h-6" [class.text-ochre]="who().length === 0" (click)="show()">
      for {{ who().length }} of {{ all() }} learners
    </button>
    <button type="button" class="link ml-3 min-h-6" (click)="changed.emit(null)">
      Make it {{ what() }} for everybody
    </button>
  `,
  host: { class: 'block text-small' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class VariantForm {
  readonly variant = input.required<Variant>();
  /** What it is, with its article. */
  readonly what = input('a letter');
  /** The name of what the others get. */
  readonly base = input.required<string>();
  readonly changed = output<Variant | null>();

  private readonly store = inject(Store);
  private readonly roll = this.store.selectSignal(deskFeature.selectSettledRoll);
  protected readonly columns = computed(() => this.roll().columns);
  protected readonly known = computed(() => this.columns().some(({ id }) => id === this.variant().columnId));
  protected readonly all = computed(() => this.roll().entries.filter(isIn).length);
  protected readonly who = computed(() =>
    this.roll()
      .entries.filter((entry) => isIn(entry) && isFor(this.variant(), entry))
      .map(({ id }) => id),
  );

  protected setColumn(columnId: string): void {
    const name = this.columns().find(({ id }) => id === columnId)?.title ?? '';
    this.changed.emit({ ...this.variant(), columnId: columnId || null, name });
  }

  protected setSays(text: string): void {
    const says = text
      .split(/[,;،]/)
      .map((one) => one.trim().slice(0, 200))
      .filter(Boolean)
      .slice(0, 30);
    this.changed.emit({ ...this.variant(), says });
  }

  protected show(): void {
    const { name, says } = this.variant();
    const label = `${name} is ${says.join(' or ')}`;
    this.store.dispatch(deskActions.showSome({ some: { label, entryIds: this.who() } }));
  }
}
