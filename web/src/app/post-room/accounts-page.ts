import { Dialog } from '@angular/cdk/dialog';
import { DatePipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { Store } from '@ngrx/store';
import type { LookedForReturns, MailAccount, MailTest, PostRoom } from '@scriptum/core/contract';
import type { Observable } from 'rxjs';
import { Api, troubleOf } from '../api/api';
import { TopBar } from '../shell/top-bar';
import { sessionActions, sessionFeature } from '../state/session';
import { ConfirmDialog, type Confirmation } from '../ui/confirm-dialog';
import { Icon } from '../ui/icon';
import { PostBanner } from '../ui/post-banner';
import { TroubleBar } from '../ui/trouble-bar';
import { AccountForm } from './account-form';
import { PostViews } from './post-views';

const LINES: Readonly<Record<MailAccount['security'], string>> = {
  tls: 'TLS',
  starttls: 'STARTTLS',
  none: 'not secured',
};

/** What mail leaves through: the way that the server knows by itself, and the school’s own accounts. */
@Component({
  selector: 'sc-accounts-page',
  imports: [AccountForm, DatePipe, Icon, PostBanner, PostViews, TopBar, TroubleBar],
  templateUrl: './accounts-page.html',
  host: { class: 'flex h-dvh flex-col' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class AccountsPage {
  private readonly api = inject(Api);
  private readonly store = inject(Store);
  private readonly dialogs = inject(Dialog);
  private readonly me = this.store.selectSignal(sessionFeature.selectMe);
  protected readonly room = signal<PostRoom | null>(null);
  protected readonly trouble = signal('');
  protected readonly busy = signal(false);
  /** The account that is filled in; `new` for another one, null for none. */
  protected readonly edited = signal<string | null>(null);
  /** How the last conversation with each went. */
  protected readonly tests = signal<ReadonlyMap<string, MailTest | 'going'>>(new Map());
  protected readonly lines = LINES;
  protected readonly myAddress = computed(() => this.me()?.staff?.email ?? '');
  protected readonly on = computed(() => this.room()?.accountId ?? null);

  constructor() {
    this.api.postRoom().subscribe(this.arrives());
  }

  protected choose(account: MailAccount | null): void {
    const [room, from] = [this.room(), this.on()];
    if (!room || (account?.id ?? null) === from) return;
    const waiting = from === null ? room.builtIn.waiting : (this.accountOf(from)?.waiting ?? 0);
    const stays =
      waiting > 0
        ? ` ${waiting === 1 ? 'The message that waits' : `The ${waiting} messages that wait`} still ${waiting === 1 ? 'leaves' : 'leave'} the way ${waiting === 1 ? 'it was' : 'they were'} sent.`
        : '';
    const data: Confirmation = account
      ? {
          title: `Let mail leave through “${account.name}”?`,
          text: `From now on what is dispatched goes to families for good, from ${account.address}.${stays}`,
          yes: 'Let mail leave',
        }
      : room.builtIn.kind === 'practice'
        ? {
            title: 'Put the practice post on?',
            text: `From now on nothing leaves this machine: families get nothing, whatever is dispatched.${stays}`,
            yes: 'Put it on',
          }
        : {
            title: `Let mail leave through ${room.builtIn.host}?`,
            text: `From now on what is dispatched goes to families from ${room.builtIn.address}.${stays}`,
            yes: 'Let mail leave',
          };
    this.ask(data, () =>
      this.do(this.api.choosePost(account?.id ?? null, from), () =>
        this.store.dispatch(sessionActions.askedAgain()),
      ),
    );
  }

  protected delete(account: MailAccount): void {
    this.ask(
      {
        title: `Delete “${account.name}”?`,
        text: 'Its password and its key are forgotten. What was sent through it stays in the list of messages.',
        yes: 'Delete',
        grave: true,
      },
      () => this.do(this.api.deleteMailAccount(account.id)),
    );
  }

  protected saved(account: MailAccount): void {
    this.edited.set(null);
    this.tests.update((tests) => new Map([...tests].filter(([id]) => id !== account.id)));
    this.api.postRoom().subscribe(this.arrives());
    this.store.dispatch(sessionActions.askedAgain());
  }

  protected test({ id }: MailAccount, send: boolean): void {
    if (this.tests().get(id) === 'going') return;
    const put = (test: MailTest | 'going' | null): void =>
      this.tests.update((tests) => {
        const next = new Map(tests);
        if (test) next.set(id, test);
        else next.delete(id);
        return next;
      });
    put('going');
    this.api.testMailAccount(id, send).subscribe({
      next: (test) => put(test),
      error: (error: unknown) => {
        put(null);
        this.trouble.set(troubleOf(error).message);
      },
    });
  }

  /** The account whose mailbox is looked into, and what was found in each. */
  protected readonly looking = signal<string | null>(null);
  protected readonly found = signal<ReadonlyMap<string, string>>(new Map());

  protected lookForReturns({ id }: MailAccount): void {
    if (this.looking() !== null) return;
    this.looking.set(id);
    const ended = (): void => {
      this.looking.set(null);
      this.api.postRoom().subscribe(this.arrives());
    };
    this.api.lookForReturns(id).subscribe({
      next: (looked) => {
        this.found.update((found) => new Map(found).set(id, sayLooked(looked)));
        ended();
      },
      // Why it could not be read stands with the account by then.
      error: (error: unknown) => {
        const { code, message } = troubleOf(error);
        if (code !== 'box-fault') this.trouble.set(message);
        ended();
      },
    });
  }

  protected testOf(id: string): MailTest | null {
    const test = this.tests().get(id);
    return test === undefined || test === 'going' ? null : test;
  }

  protected tryAgain(): void {
    this.api.tryMailAgain().subscribe({
      next: () => this.api.postRoom().subscribe(this.arrives()),
      error: (error: unknown) => this.trouble.set(troubleOf(error).message),
    });
  }

  private accountOf(id: string): MailAccount | undefined {
    return this.room()?.accounts.find((account) => account.id === id);
  }

  private ask(data: Confirmation, then: () => void): void {
    this.dialogs
      .open<boolean>(ConfirmDialog, { data, ariaLabelledBy: 'confirm-title' })
      .closed.subscribe((yes) => {
        if (yes) then();
      });
  }

  private do(work: Observable<PostRoom>, then: () => void = () => undefined): void {
    if (this.busy()) return;
    this.busy.set(true);
    this.trouble.set('');
    work.subscribe({
      next: (room) => {
        this.busy.set(false);
        this.room.set(room);
        then();
      },
      error: (error: unknown) => {
        this.busy.set(false);
        this.trouble.set(troubleOf(error).message);
        this.api.postRoom().subscribe({ next: (room) => this.room.set(room), error: () => undefined });
      },
    });
  }

  private arrives() {
    return {
      next: (room: PostRoom): void => this.room.set(room),
      error: (error: unknown): void => this.trouble.set(troubleOf(error).message),
    };
  }
}

function sayLooked({ messages, marked, known, strange }: LookedForReturns): string {
  if (messages === 0) return 'Nothing new was there.';
  const reports = marked + known + strange;
  const looked = `${messages === 1 ? 'One new message was' : `${messages} new messages were`} looked at`;
  if (reports === 0) return `${looked}. Nothing has come back.`;
  return `${looked}: ${marked === 0 ? 'none' : marked} of yours came back${known + strange > 0 ? `, ${known + strange} said nothing new` : ''}.`;
}
