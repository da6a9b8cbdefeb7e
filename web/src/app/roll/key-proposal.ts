import { ChangeDetectionStrategy, Component, computed, inject, output } from '@angular/core';
import { Store } from '@ngrx/store';
import { proposeKey, type Entry } from '@scriptum/core/roll';
import { deskFeature } from '../state/desk';
import { rollActions } from '../state/roll';

/** Learners that are named; beyond, a number says how many more there are. */
const NAMED = 4;

/** Where no key is chosen: the column that would do, and whom it does not tell apart. */
@Component({
  selector: 'sc-key-proposal',
  template: `
    @if (proposal(); as one) {
      <p class="mt-2 border-l-[3px] border-woad pl-2">
        “{{ one.title }}” tells {{ one.all ? 'everybody' : 'nearly everybody' }} apart.
        @for (group of one.repeated; track $index) {
          {{ group }} have the same one.
        }
        @if (one.blank) {
          {{ one.blank }} none.
        }
        <button type="button" class="link" (click)="take(one.id, one.title)">Take it as the key</button>
      </p>
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class KeyProposal {
  readonly taken = output();

  private readonly store = inject(Store);
  private readonly roll = this.store.selectSignal(deskFeature.selectSettledRoll);
  private readonly names = this.store.selectSignal(deskFeature.selectNames);
  protected readonly proposal = computed(() => {
    const found = proposeKey(this.roll());
    if (!found) return null;
    const { column, repeated, blank } = found;
    return {
      id: column.id,
      title: column.title,
      all: repeated.length + blank.length === 0,
      repeated: repeated.slice(0, NAMED).map((group) => this.list(group)),
      blank: blank.length > 0 ? `${this.list(blank)} ${blank.length === 1 ? 'has' : 'have'}` : '',
    };
  });

  private list(entries: readonly Entry[]): string {
    const names = entries.slice(0, NAMED).map(({ id }) => this.names().get(id) ?? '');
    if (entries.length > NAMED) names.push(`${entries.length - NAMED} more`);
    const last = names.pop()!;
    return names.length > 0 ? `${names.join(', ')} and ${last}` : last;
  }

  protected take(columnId: string, title: string): void {
    this.store.dispatch(rollActions.change({ patch: { key: [columnId] }, what: `“${title}” as the key` }));
    this.taken.emit();
  }
}
