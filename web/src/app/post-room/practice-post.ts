import { DatePipe } from '@angular/common';
import { plainTitle } from '@scriptum/core/column';
import type { PracticeMood } from '@scriptum/core/contract';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { DomSanitizer } from '@angular/platform-browser';
import { Entered } from '../ui/bound';
import { Icon } from '../ui/icon';
import { Store } from '@ngrx/store';
import { TopBar } from '../shell/top-bar';
import { postActions, postFeature } from './state/post';
import { PostBanner } from '../ui/post-banner';
import { PostViews } from './post-views';
import { TroubleBar } from '../ui/trouble-bar';

/** How it behaves, as it is chosen. */
const MOODS: readonly { readonly mood: PracticeMood; readonly says: string }[] = [
  { mood: 'well', says: 'takes all mail' },
  { mood: 'refuse', says: 'refuses every address' },
  { mood: 'slow', says: 'is slow' },
  { mood: 'greylist', says: 'takes it at the second try only' },
  { mood: 'drop', says: 'hangs up once it has the text' },
  { mood: 'bad-tls', says: 'shows a wrong certificate' },
  { mood: 'return', says: 'takes all and sends it back' },
];

/** The practice post: every mailbox that got mail, and what is in it. */
@Component({
  selector: 'sc-practice-post',
  imports: [DatePipe, Entered, Icon, PostBanner, PostViews, TopBar, TroubleBar],
  templateUrl: './practice-post.html',
  host: {
    class:
      'grid h-dvh overflow-clip grid-cols-[clamp(130px,20vw,260px)_clamp(150px,22vw,280px)_minmax(0,1fr)] grid-rows-[auto_auto_minmax(0,1fr)]',
  },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PracticePostPage {
  private readonly store = inject(Store);
  private readonly sanitizer = inject(DomSanitizer);
  protected readonly post = this.store.selectSignal(postFeature.selectPostState);
  protected readonly asHtml = signal(true);
  protected readonly find = signal('');
  protected readonly mailboxes = computed(
    () =>
      this.post().mailboxes?.filter(({ address, learners }) => {
        const sought = plainTitle(this.find());
        return [address, ...learners].some((text) => plainTitle(text).includes(sought));
      }) ?? null,
  );
  protected readonly htmlUrl = computed(() => {
    const { mail } = this.post();
    // Our own address with an identity from our own server; the page behind it is sandboxed.
    return mail?.hasHtml
      ? this.sanitizer.bypassSecurityTrustResourceUrl(
          `/api/practice-post/messages/${encodeURIComponent(mail.id)}/html`,
        )
      : null;
  });

  constructor() {
    this.ask();
  }

  protected ask(): void {
    this.store.dispatch(postActions.asked());
  }

  protected readonly moods = MOODS;

  /** Isolates (Unicode UAX #9) keep a right-to-left name from turning its neighbours around. */
  protected listed(names: readonly string[]): string {
    return names.map((name) => `\u2068${name}\u2069`).join(', ');
  }

  protected choose(mood: string): void {
    this.store.dispatch(postActions.chooseMood({ mood: mood as PracticeMood }));
  }

  protected openMailbox(mailbox: string): void {
    this.store.dispatch(postActions.openMailbox({ mailbox }));
  }

  protected openMail(id: string): void {
    this.store.dispatch(postActions.openMail({ id }));
  }
}
