import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { RouterLink, RouterLinkActive } from '@angular/router';
import { Store } from '@ngrx/store';
import { deskFeature } from '../state/desk';
import { writingFeature } from '../state/writing';

/** The parts of the station Roll: the table, and the forms, other services and files whose answers and rows come into it. */
@Component({
  selector: 'sc-roll-views',
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
export class RollViews {
  private readonly store = inject(Store);
  private readonly folio = this.store.selectSignal(deskFeature.selectFolio);
  private readonly forms = this.store.selectSignal(writingFeature.selectForms);
  protected readonly views = computed(() => {
    const base = ['/folio', this.folio()?.id ?? '', 'roll'];
    const count = this.forms().length;
    return [
      { name: 'Table', link: base },
      { name: count > 0 ? `Forms (${count})` : 'Forms', link: [...base, 'forms'] },
      { name: 'Other services', link: [...base, 'hooks'] },
      { name: 'Watched files', link: [...base, 'watched'] },
    ];
  });
}
