import { DecimalPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, effect, inject, untracked } from '@angular/core';
import { Store } from '@ngrx/store';
import { deskFeature } from '../../state/desk';
import { rollActions, rollFeature } from '../../state/roll';

/** A moment after the last change, so that a row being written is not looked through at every cell. */
const WAIT = 700;

/** What could be put in order, each with how many entries it is about. */
@Component({
  selector: 'sc-offers-panel',
  imports: [DecimalPipe],
  template: `
    <section class="text-small">
      <h2>Tidying</h2>
      @for (offer of offers(); track offer.id) {
        <button
          type="button"
          class="mb-1 flex w-full items-baseline gap-2 rounded px-1.5 py-1 text-left hover:bg-wash"
          (click)="open(offer.id)"
        >
          <span class="w-10 shrink-0 text-right font-semibold text-verdigris tabular-nums">
            {{ offer.count | number }}
          </span>
          <span class="grow">{{ offer.title }}</span>
        </button>
      } @empty {
        <p class="text-slate">{{ state().offers ? 'Nothing to tidy.' : 'Looking the roll through …' }}</p>
      }
    </section>
  `,
  host: { class: 'block' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class OffersPanel {
  private readonly store = inject(Store);
  protected readonly state = this.store.selectSignal(rollFeature.selectRollState);
  private readonly roll = this.store.selectSignal(deskFeature.selectRoll);
  protected readonly offers = computed(() =>
    (this.state().offers ?? []).map((offer) => ({
      id: offer.id,
      title: offer.title,
      count: offer.ways[0]!.lines.length,
    })),
  );

  constructor() {
    effect((onCleanup) => {
      const roll = this.roll();
      if (roll.entries.length === 0 || untracked(this.state).offersOf === roll) return;
      const timer = setTimeout(() => this.store.dispatch(rollActions.askOffers()), WAIT);
      onCleanup(() => clearTimeout(timer));
    });
  }

  protected open(id: string): void {
    this.store.dispatch(rollActions.openOffer({ id }));
  }
}
