import { DatePipe } from '@angular/common';
import { Dialog } from '@angular/cdk/dialog';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { takeUntilDestroyed, toObservable } from '@angular/core/rxjs-interop';
import { ActivatedRoute, Router } from '@angular/router';
import { Store } from '@ngrx/store';
import type { QueuedMessage, QueueSought, TakenReturns } from '@scriptum/core/contract';
import {
  catchError,
  concatMap,
  debounceTime,
  EMPTY,
  from,
  merge,
  of,
  switchMap,
  timer,
  toArray,
  type Observable,
} from 'rxjs';
import { Api, troubleOf } from '../api/api';
import { TopBar } from '../shell/top-bar';
import { foliosActions, foliosFeature } from '../state/folios';
import { ConfirmDialog, type Confirmation } from '../ui/confirm-dialog';
import { Icon } from '../ui/icon';
import { PostBanner } from '../ui/post-banner';
import { StateMark } from '../ui/state-mark';
import { TroubleBar } from '../ui/trouble-bar';
import { queueMark } from './queue-mark';
import { PostViews } from './post-views';

const STATES: readonly (readonly [NonNullable<QueueSought['state']> | '', string])[] = [
  ['', 'in any state'],
  ['waiting', 'waiting'],
  ['sent', 'sent'],
  ['refused', 'refused'],
  ['unconfirmed', 'unconfirmed'],
];

/** Milliseconds after which what waits is looked at again. */
const LOOK_AGAIN = 3_000;

/** Messages of the school over all folios, and what became of each. */
@Component({
  selector: 'sc-queue-page',
  imports: [DatePipe, Icon, PostBanner, PostViews, StateMark, TopBar, TroubleBar],
  templateUrl: './queue-page.html',
  host: { class: 'flex h-dvh flex-col' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class QueuePage {
  private readonly api = inject(Api);
  private readonly dialogs = inject(Dialog);
  private readonly router = inject(Router);
  private readonly store = inject(Store);
  protected readonly folios = this.store.selectSignal(foliosFeature.selectAll);
  protected readonly states = STATES;
  protected readonly sought = signal<QueueSought>(fromAddress(inject(ActivatedRoute).snapshot.queryParams));
  protected readonly messages = signal<readonly QueuedMessage[] | null>(null);
  protected readonly after = signal<string | null>(null);
  protected readonly count = signal('');
  protected readonly trouble = signal('');
  protected readonly said = signal('');
  protected readonly busy = signal(false);
  /** The one that is told in full beside the list. */
  private readonly lookedId = signal<string | null>(null);
  protected readonly looked = computed(
    () => (this.messages() ?? []).find(({ id }) => id === this.lookedId()) ?? null,
  );
  protected readonly narrowed = computed(() => Object.values(this.sought()).some(Boolean));
  protected readonly lines = computed(() =>
    (this.messages() ?? []).map((message) => ({
      message,
      mark: queueMark(message),
      learners: message.learners.map((name) => `\u2068${name}\u2069`).join(', '),
      to: [...message.to, ...message.cc, ...message.bcc].join(', '),
    })),
  );
  private readonly asked = signal(0);
  private readonly query = computed(() => ({ sought: this.sought(), asked: this.asked() }));

  constructor() {
    this.store.dispatch(foliosActions.asked());
    const waits = (): boolean =>
      (this.messages() ?? []).some(({ state }) => ['queued', 'sending', 'deferred'].includes(state));
    merge(
      toObservable(this.query).pipe(debounceTime(200)),
      // Only the first ones: what was asked for besides stays as it was.
      timer(LOOK_AGAIN, LOOK_AGAIN).pipe(
        switchMap(() => (waits() && (this.messages()?.length ?? 0) <= 50 ? of(this.query()) : EMPTY)),
      ),
    )
      .pipe(
        switchMap(({ sought }) =>
          this.api.mailQueue(sought).pipe(catchError((error: unknown) => this.fail(error))),
        ),
        takeUntilDestroyed(),
      )
      .subscribe(({ messages, after, count: counted, more }) => {
        const count = counted ?? messages.length;
        this.messages.set(messages);
        this.after.set(after);
        this.count.set(
          more
            ? `more than ${count.toLocaleString('en')} messages`
            : count === 1
              ? '1 message'
              : `${count.toLocaleString('en')} messages`,
        );
      });
  }

  protected change(part: Partial<Record<keyof QueueSought, string>>): void {
    this.trouble.set('');
    this.sought.update((sought) => {
      const next = { ...sought, ...part } as Record<string, string | undefined>;
      return Object.fromEntries(Object.entries(next).filter(([, value]) => value)) as QueueSought;
    });
  }

  protected clearAll(): void {
    this.sought.set({});
  }

  protected look(id: string): void {
    this.lookedId.update((one) => (one === id ? null : id));
  }

  protected more(): void {
    const after = this.after();
    if (!after || this.busy()) return;
    this.busy.set(true);
    this.api.mailQueue({ ...this.sought(), after }).subscribe({
      next: (found) => {
        this.busy.set(false);
        this.messages.update((messages) => [...(messages ?? []), ...found.messages]);
        this.after.set(found.after);
      },
      error: (error: unknown) => {
        this.busy.set(false);
        this.fail(error);
      },
    });
  }

  /** Sends what was refused, or is unconfirmed, once more, by a person's word. */
  protected again(message: QueuedMessage): void {
    const data: Confirmation =
      message.state === 'unconfirmed'
        ? {
            title: 'Send it again?',
            text: 'Nobody knows whether this message arrived. If it did, the family gets it a second time.',
            yes: 'Send again',
          }
        : {
            title: 'Send it again?',
            text: `It goes to ${message.to.join(', ')} as it is. Where the address has to be another one, mend it in the roll and send from the register.`,
            yes: 'Send again',
          };
    this.dialogs
      .open<boolean>(ConfirmDialog, { data, ariaLabelledBy: 'confirm-title' })
      .closed.subscribe((yes) => {
        if (!yes) return;
        this.api.sendAgain(message.folioId, message.id).subscribe({
          next: () => {
            this.said.set('It is in the queue again');
            this.asked.update((n) => n + 1);
          },
          error: (error: unknown) => this.fail(error),
        });
      });
  }

  /** Reports of messages that came back, as files. */
  protected takeIn(box: HTMLInputElement): void {
    const files = [...(box.files ?? [])];
    box.value = '';
    if (files.length === 0 || this.busy()) return;
    this.busy.set(true);
    this.trouble.set('');
    this.said.set('');
    from(files)
      .pipe(
        concatMap((file) => this.api.takeReturns(file)),
        toArray(),
      )
      .subscribe({
        next: (all) => {
          this.busy.set(false);
          this.said.set(saidOf(all));
          this.asked.update((n) => n + 1);
        },
        error: (error: unknown) => {
          this.busy.set(false);
          this.asked.update((n) => n + 1);
          this.fail(error);
        },
      });
  }

  protected goTo({ folioId }: QueuedMessage): void {
    void this.router.navigateByUrl(`/folio/${folioId}/register`);
  }

  private fail(error: unknown): Observable<never> {
    this.trouble.set(troubleOf(error).message);
    return EMPTY;
  }
}

/** What reports were good for, in a few words. */
function saidOf(all: readonly TakenReturns[]): string {
  const sum = (of: (one: TakenReturns) => number): number => all.reduce((n, one) => n + of(one), 0);
  const [marked, known, strange] = [
    sum((one) => one.marked),
    sum((one) => one.known),
    sum((one) => one.strange),
  ];
  return [
    `${marked === 1 ? '1 message is' : `${marked} messages are`} marked as come back`,
    ...(known > 0 ? [`${known} ${known === 1 ? 'report says' : 'reports say'} nothing new`] : []),
    ...(strange > 0 ? [`${strange} ${strange === 1 ? 'is' : 'are'} about no message from here`] : []),
  ].join(', ');
}

/** What the address of the page asks for, such as all that was refused. */
const fromAddress = (query: Record<string, string | undefined>): QueueSought => ({
  ...(query['folio'] ? { folioId: query['folio'] } : {}),
  ...(STATES.some(([state]) => state === query['state'] && state !== '')
    ? { state: query['state'] as NonNullable<QueueSought['state']> }
    : {}),
});
