import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { Store } from '@ngrx/store';
import { PlacedStation } from './placed/placed-station';
import { writingFeature } from '../state/writing';
import { LetterStation } from './letter-station';

/** Station Page: what papers are made from, a letter or pages with boxes. */
@Component({
  selector: 'sc-page-station',
  imports: [LetterStation, PlacedStation],
  template: `
    @switch (kind()) {
      @case ('letter') {
        <sc-letter-station />
      }
      @case ('placed') {
        <sc-placed-station />
      }
    }
  `,
  host: { class: 'block h-full' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PageStation {
  private readonly template = inject(Store).selectSignal(writingFeature.selectTemplate);
  protected readonly kind = computed(() => this.template()?.kind);
}
