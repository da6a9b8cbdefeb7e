import { CdkFixedSizeVirtualScroll, CdkVirtualForOf, CdkVirtualScrollViewport } from '@angular/cdk/scrolling';
import { ChangeDetectionStrategy, Component, computed, inject, input, linkedSignal } from '@angular/core';
import { Store } from '@ngrx/store';
import { offerPatch, type Offer, type OfferLine } from '@scriptum/core/tidying';
import { deskActions, deskFeature } from '../state/desk';
import { rollActions } from '../state/roll';
import { Icon } from '../ui/icon';

/** One tidying offer: before and after for every entry, to be ticked or not, and taken as one step. */
@Component({
  selector: 'sc-offer-view',
  imports: [CdkFixedSizeVirtualScroll, CdkVirtualForOf, CdkVirtualScrollViewport, Icon],
  templateUrl: './offer-view.html',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class OfferView {
  readonly offer = input.required<Offer>();

  private readonly store = inject(Store);
  private readonly roll = this.store.selectSignal(deskFeature.selectRoll);
  private readonly names = this.store.selectSignal(deskFeature.selectNames);
  protected readonly wayId = linkedSignal({
    source: computed(() => this.offer().id),
    computation: () => this.offer().ways[0]!.id,
  });
  protected readonly way = computed(
    () => this.offer().ways.find(({ id }) => id === this.wayId()) ?? this.offer().ways[0]!,
  );
  protected readonly chosen = linkedSignal<readonly OfferLine[], ReadonlySet<string>>({
    source: () => this.way().lines,
    computation: (lines) => new Set(lines.filter(({ certain }) => certain).map(({ entryId }) => entryId)),
  });
  protected readonly all = computed(() => this.chosen().size === this.way().lines.length);
  protected readonly unsure = computed(() => this.way().lines.some(({ certain }) => !certain));

  protected nameOf(entryId: string): string {
    return this.names().get(entryId) ?? '';
  }

  /** Spaces are what the offer may be about, so they are shown. */
  protected visible(text: string): string {
    return text
      .replace(/^ +| +$|  +/g, (spaces) => '·'.repeat(spaces.length))
      .replace(/\u00a0|\u202f/g, '⍽')
      .replace(/\n/g, ' ↵ ');
  }

  protected toggle(entryId: string): void {
    const next = new Set(this.chosen());
    if (!next.delete(entryId)) next.add(entryId);
    this.chosen.set(next);
  }

  protected toggleAll(): void {
    this.chosen.set(new Set(this.all() ? [] : this.way().lines.map(({ entryId }) => entryId)));
  }

  protected take(): void {
    const { title } = this.offer();
    this.store.dispatch(
      rollActions.change({
        patch: offerPatch(this.roll(), this.way(), this.chosen()),
        what: `tidying: ${title.charAt(0).toLowerCase()}${title.slice(1)}`,
      }),
    );
    this.close();
  }

  protected close(): void {
    this.store.dispatch(rollActions.openOffer({ id: null }));
  }

  protected pick(entryId: string): void {
    this.store.dispatch(deskActions.pick({ entryId }));
  }
}
