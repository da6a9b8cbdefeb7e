import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { CdkMenu, CdkMenuItem, CdkMenuTrigger } from '@angular/cdk/menu';
import { RouterLink } from '@angular/router';
import { Icon } from '../ui/icon';
import { Store } from '@ngrx/store';
import { sessionActions, sessionFeature } from '../state/session';
import { ThemeChoice } from '../ui/theme';

/** The bar at the top of every page: the school, what the page puts in the middle, and the person. */
@Component({
  selector: 'sc-top-bar',
  imports: [RouterLink, Icon, CdkMenu, CdkMenuItem, CdkMenuTrigger],
  template: `
    <a
      routerLink="/"
      class="flex shrink-0 items-center gap-2 font-semibold whitespace-nowrap"
      [attr.title]="'All folios of ' + (me()?.staff?.school ?? 'the school')"
    >
      <img src="scriptum.svg" alt="" class="h-6 w-6" />
      <span class="not-narrow">{{ me()?.staff?.school }}</span>
    </a>
    <ng-content />
    <div class="ml-auto flex shrink-0 items-center gap-1">
      <ng-content select="[tools]" />
      <a
        routerLink="/letterhead"
        class="btn bare"
        aria-label="Letterhead"
        title="Letterhead: how all papers of the school look"
      >
        <sc-icon name="lucideStamp" [size]="16" />
        <span class="not-narrow">Letterhead</span>
      </a>
      @if (me()?.post?.kind === 'practice') {
        <a
          routerLink="/practice-post"
          class="btn bare"
          aria-label="Practice post"
          title="Practice post: the local mail server's mailboxes"
        >
          <sc-icon name="lucideMailOpen" [size]="16" />
          <span class="not-narrow">Practice post</span>
        </a>
      } @else {
        <a
          routerLink="/post-room"
          class="btn bare"
          aria-label="Post room"
          title="Post room: what was sent, and what mail leaves through"
        >
          <sc-icon name="lucideMail" [size]="16" />
          <span class="not-narrow">Post room</span>
        </a>
      }
      <button
        type="button"
        class="tool"
        [attr.aria-label]="theme.theme() === 'dark' ? 'Use the light theme' : 'Use the dark theme'"
        [title]="theme.theme() === 'dark' ? 'Light theme' : 'Dark theme'"
        (click)="theme.toggle()"
      >
        @if (theme.theme() === 'dark') {
          <sc-icon name="lucideSun" [size]="16" />
        } @else {
          <sc-icon name="lucideMoon" [size]="16" />
        }
      </button>
      <button
        type="button"
        class="tool"
        [cdkMenuTriggerFor]="account"
        [attr.aria-label]="'Sign out ' + (me()?.staff?.name ?? '')"
        title="Sign out"
      >
        <sc-icon name="lucideLogOut" [size]="16" />
      </button>
    </div>
    <ng-template #account>
      <div cdkMenu class="menu" aria-label="Sign out">
        <p class="px-2 py-1 text-small text-slate">
          {{ me()?.staff?.name }}
          <span class="block [overflow-wrap:anywhere]">{{ me()?.staff?.email }}</span>
        </p>
        <hr class="menu-rule" />
        <button cdkMenuItem class="menu-line" (cdkMenuItemTriggered)="signOut()">
          <sc-icon name="lucideLogOut" [size]="14" />
          Sign out here
        </button>
        <button cdkMenuItem class="menu-line" (cdkMenuItemTriggered)="signOutEverywhere()">
          <sc-icon name="lucideGlobe" [size]="14" />
          Sign out everywhere
        </button>
      </div>
    </ng-template>
  `,
  host: {
    role: 'banner',
    class: 'relative flex h-12 min-w-0 items-center gap-3 border-b border-rule bg-leaf px-4',
  },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class TopBar {
  private readonly store = inject(Store);
  protected readonly theme = inject(ThemeChoice);
  protected readonly me = this.store.selectSignal(sessionFeature.selectMe);

  protected signOut(): void {
    this.store.dispatch(sessionActions.signOut());
  }

  protected signOutEverywhere(): void {
    this.store.dispatch(sessionActions.signOutEverywhere());
  }
}
