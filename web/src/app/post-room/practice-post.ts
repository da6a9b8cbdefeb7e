import { DatePipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { DomSanitizer } from '@angular/platform-browser';
import { Icon } from '../ui/icon';
import { Store } from '@ngrx/store';
import { TopBar } from '../shell/top-bar';
import { postActions, postFeature } from './state/post';
import { TroubleBar } from '../ui/trouble-bar';

/** The practice post: every mailbox that got mail, and what is in it. */
@Component({
  selector: 'sc-practice-post',
  imports: [DatePipe, Icon, TopBar, TroubleBar],
  templateUrl: './practice-post.html',
  host: {
    class:
      'grid h-dvh overflow-clip grid-cols-[clamp(130px,20vw,260px)_clamp(150px,22vw,280px)_minmax(0,1fr)] grid-rows-[auto_minmax(0,1fr)]',
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
      this.post().mailboxes?.filter(({ address }) => address.includes(this.find().trim().toLowerCase())) ??
      null,
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

  protected openMailbox(mailbox: string): void {
    this.store.dispatch(postActions.openMailbox({ mailbox }));
  }

  protected openMail(id: string): void {
    this.store.dispatch(postActions.openMail({ id }));
  }
}
