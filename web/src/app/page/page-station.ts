import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { Store } from '@ngrx/store';
import { PlacedStation } from './placed/placed-station';
import { writingFeature } from '../state/writing';
import { BehindPages } from './behind-pages';
import { LetterStation } from './letter-station';

/** Station Page: what papers are made from, a letter or pages with boxes. */
@Component({
  selector: 'sc-page-station',
  imports: [LetterStation, PlacedStation],
  template: `
    @if (kind() === 'placed' || behind.open()) {
      <sc-placed-station />
    } @else if (kind() === 'letter') {
      <sc-letter-station />
    }
  `,
  host: { class: 'block h-full' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PageStation {
  private readonly template = inject(Store).selectSignal(writingFeature.selectTemplate);
  protected readonly behind = inject(BehindPages);
  protected readonly kind = computed(() => this.template()?.kind);
}
