import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { RouterLink, RouterLinkActive } from '@angular/router';
import { Store } from '@ngrx/store';
import { sessionFeature } from '../state/session';

/** The parts of the post room. */
@Component({
  selector: 'sc-post-views',
  imports: [RouterLink, RouterLinkActive],
  template: `
    <nav class="views" aria-label="Parts of the post room">
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
export class PostViews {
  private readonly me = inject(Store).selectSignal(sessionFeature.selectMe);
  protected readonly views = computed(() => [
    { name: 'Messages', link: '/post-room' },
    { name: 'Accounts', link: '/post-room/accounts' },
    ...(this.me()?.practicePost ? [{ name: 'Practice post', link: '/practice-post' }] : []),
  ]);
}
