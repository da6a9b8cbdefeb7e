import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { RouterLink, RouterLinkActive } from '@angular/router';
import { Store } from '@ngrx/store';
import { deskFeature } from '../state/desk';
import { registerFeature } from '../state/register';

/** The parts of the station Register: all papers, and looking at them one after the other. */
@Component({
  selector: 'sc-register-views',
  imports: [RouterLink, RouterLinkActive],
  template: `
    <nav class="views" aria-label="Parts of the station">
      @for (view of views(); track view.link) {
        <a
          class="view"
          [routerLink]="view.link"
          routerLinkActive="here"
          ariaCurrentWhenActive="page"
          [routerLinkActiveOptions]="{ exact: true }"
        >
          {{ view.name }}
        </a>
      }
    </nav>
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class RegisterViews {
  private readonly store = inject(Store);
  private readonly folio = this.store.selectSignal(deskFeature.selectFolio);
  private readonly present = this.store.selectSignal(registerFeature.selectPresent);
  protected readonly views = computed(() => {
    const base = `/folio/${this.folio()?.id}/register`;
    const waiting = this.present().filter(({ state, outOfDate }) => state === 'pressed' && !outOfDate).length;
    return [
      { name: 'Papers', link: base },
      { name: waiting > 0 ? `Review (${waiting})` : 'Review', link: `${base}/review` },
      { name: 'Packs', link: `${base}/packs` },
    ];
  });
}
