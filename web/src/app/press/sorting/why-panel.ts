import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { Store } from '@ngrx/store';
import { evaluate } from '@scriptum/core/condition';
import { isIn } from '@scriptum/core/roll';
import { say } from '@scriptum/core/sentences';
import { deskFeature } from '../../state/desk';
import { selectSortedBy, selectSorter } from '../../state/sorting';
import { getsText } from './changed-bar';

/** What the picked learner gets, and why. */
@Component({
  selector: 'sc-why-panel',
  template: `
    @if (told(); as t) {
      <h2>
        <bdi>{{ t.name }}</bdi>
      </h2>
      <p class="text-small">
        <span class="text-slate">Gets</span>
        {{ t.gets }}
      </p>
      @for (line of t.lines; track line.rule) {
        <p class="mt-1 text-small">
          <span class="font-semibold">Rule {{ line.rule }}</span>
          {{ line.text }}
        </p>
      }
    }
  `,
  host: { class: 'block' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class WhyPanel {
  private readonly store = inject(Store);
  private readonly picked = this.store.selectSignal(deskFeature.selectPicked);
  private readonly names = this.store.selectSignal(deskFeature.selectNames);
  private readonly sorter = this.store.selectSignal(selectSorter);
  private readonly by = this.store.selectSignal(selectSortedBy);

  protected readonly told = computed(() => {
    const entry = this.picked();
    if (!entry) return null;
    const name = this.names().get(entry.id) || 'No name';
    if (!isIn(entry)) return { name, gets: `nothing: ${entry.leftOut ?? 'left out'}`, lines: [] };
    const sorted = this.sorter()(entry);
    const { sorting, columns, made } = this.by();
    const why = (at: number): string => {
      const condition = sorting.rules[at]!.if;
      if (condition === null) return 'takes everyone who is left.';
      return `takes ${name}, because ${say(evaluate(condition, entry, columns, made?.(entry.id)).why)}.`;
    };
    const lines = [
      ...(sorted.by === null ? [] : [{ rule: sorted.by + 1, text: why(sorted.by) }]),
      ...sorted.also.map((at) => ({ rule: at + 1, text: why(at) })),
      ...sorted.overtaken.map((at) => ({ rule: at + 1, text: 'would fit too, but an earlier one decides.' })),
    ];
    return { name, gets: getsText(sorted), lines };
  });
}
