import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { Store } from '@ngrx/store';
import { deskFeature } from '../state/desk';
import { PanelButton } from '../ui/panel-button';
import { selectSorter } from '../state/sorting';
import { writingFeature } from '../state/writing';
import { LettersPanel } from './letters-panel';

/** Which letter of the folio is written, and the way to the others. */
@Component({
  selector: 'sc-letters-menu',
  imports: [LettersPanel, PanelButton],
  template: `
    <sc-panel-button [label]="label()" [chosen]="letter()?.content?.name ?? ''" [aside]="place()">
      <ng-template let-close="close">
        <sc-letters-panel (left)="close()" />
      </ng-template>
    </sc-panel-button>
    @if (instead(); as other) {
      <p class="mt-1 text-[12px] text-slate" role="status">
        <bdi>{{ other.learner }}</bdi>
        gets
        <bdi>“{{ other.letter }}”</bdi>
        instead.
      </p>
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class LettersMenu {
  private readonly store = inject(Store);
  private readonly letters = this.store.selectSignal(writingFeature.selectAllTemplates);
  protected readonly letter = this.store.selectSignal(writingFeature.selectCommonTemplate);
  private readonly sorter = this.store.selectSignal(selectSorter);
  private readonly picked = this.store.selectSignal(deskFeature.selectPicked);
  private readonly names = this.store.selectSignal(deskFeature.selectNames);
  protected readonly place = computed(() => {
    const all = this.letters();
    return all.length < 2
      ? ''
      : `${all.findIndex(({ id }) => id === this.letter()?.id) + 1} of ${all.length}`;
  });

  protected readonly label = computed(() =>
    `Letters of this folio: ${this.letter()?.content.name} ${this.place()}`.trim(),
  );

  /** Where the picked learner gets another language’s letter than the one that is written on. */
  protected readonly instead = computed(() => {
    const [here, entry, names] = [this.letter(), this.picked(), this.names()];
    if (!here || here.content.off || !entry) return null;
    const of = here.content.variant?.of ?? here.id;
    const gets = this.sorter()(entry).templates.find(
      ({ id, content }) => id === of || content.variant?.of === of,
    );
    return gets && gets.id !== here.id
      ? { learner: names.get(entry.id) ?? '', letter: gets.content.name }
      : null;
  });
}
