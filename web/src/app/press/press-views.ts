import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { RouterLink, RouterLinkActive } from '@angular/router';
import { Store } from '@ngrx/store';
import { deskFeature } from '../state/desk';
import { selectFindings } from '../state/findings';

/** The parts of the station Press: who gets what, file names, checks, runs, and what is done by itself. */
@Component({
  selector: 'sc-press-views',
  imports: [RouterLink, RouterLinkActive],
  template: `
    <nav class="views" aria-label="Parts of the station">
      @for (view of views(); track view.name) {
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
export class PressViews {
  private readonly store = inject(Store);
  private readonly folio = this.store.selectSignal(deskFeature.selectFolio);
  private readonly findings = this.store.selectSignal(selectFindings);

  protected readonly views = computed(() => {
    const base = ['/folio', this.folio()?.id ?? '', 'press'];
    const found = new Set(this.findings().map(({ code }) => code)).size;
    return [
      { name: 'Who gets what', link: base },
      { name: 'File names', link: [...base, 'names'] },
      { name: found > 0 ? `Checks (${found})` : 'Checks', link: [...base, 'checks'] },
      { name: 'Runs', link: [...base, 'runs'] },
      { name: 'By itself', link: [...base, 'orders'] },
    ];
  });
}
