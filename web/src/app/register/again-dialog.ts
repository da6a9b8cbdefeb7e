import { DatePipe } from '@angular/common';
import { DIALOG_DATA, DialogRef } from '@angular/cdk/dialog';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import type { AgainPlan, AskAgain } from '@scriptum/core/contract';
import { Api, troubleOf } from '../api/api';
import { Entered } from '../ui/bound';

/** Of which folio, with which cover notes, and how many papers each group is about now. */
export interface AgainData {
  readonly folioId: string;
  readonly notes: readonly { readonly id: string; readonly name: string }[];
  readonly counts: Readonly<Record<AskAgain['whom'], number>>;
}

const GROUPS: readonly { whom: AskAgain['whom']; title: string; hint: string }[] = [
  {
    whom: 'refused',
    title: 'Those whose message was refused',
    hint: 'Once the mail server, or the address, is mended',
  },
  {
    whom: 'unopened',
    title: 'Those who have not opened their private link',
    hint: 'As a reminder, with a link of its own',
  },
  { whom: 'sent', title: 'All who had a message', hint: 'As a reminder to everybody' },
];

/** Asks who of many gets a message once more, and shows them before anything leaves. */
@Component({
  selector: 'sc-again-dialog',
  imports: [DatePipe, Entered],
  template: `
    <h2 id="many-again-title" class="text-title">Send to many again</h2>
    <fieldset class="flex flex-col gap-2">
      <legend class="sr-only">To whom</legend>
      @for (group of groups; track group.whom) {
        <label class="flex items-start gap-2" [class.text-slate]="data.counts[group.whom] === 0">
          <input
            type="radio"
            name="whom"
            class="mt-1"
            [checked]="whom() === group.whom"
            [disabled]="data.counts[group.whom] === 0"
            (change)="choose(group.whom)"
          />
          <span>
            {{ group.title }} ({{ data.counts[group.whom] }})
            <span class="block text-small text-slate">{{ group.hint }}</span>
          </span>
        </label>
      }
    </fieldset>
    @if (data.notes.length > 1 || whom() !== 'refused') {
      <label class="flex flex-col gap-1">
        <span class="label">With the cover note</span>
        <select class="input min-h-9" (scEntered)="chooseNote($event)">
          @if (whom() === 'refused') {
            <option value="" [selected]="noteId() === ''">the one that went along before</option>
          }
          @for (one of data.notes; track one.id) {
            <option [value]="one.id" [selected]="one.id === noteId()">{{ one.name }}</option>
          }
        </select>
      </label>
    }
    @if (trouble()) {
      <p class="border-l-[3px] border-madder pl-2 text-small" role="alert">{{ trouble() }}</p>
    }
    @if (plan(); as p) {
      <p class="text-small" role="status">
        {{ p.messages.length }} {{ p.messages.length === 1 ? 'message' : 'messages' }} would leave, with the
        cover note and the addresses as they are now.
      </p>
      @if (p.messages.length > 0) {
        <ul
          class="min-h-0 shrink overflow-y-auto rounded border border-rule text-small"
          aria-label="Who gets mail again"
          tabindex="0"
        >
          @for (line of p.messages; track $index) {
            <li class="flex flex-wrap justify-between gap-x-3 border-b border-rule px-3 py-1 last:border-b-0">
              <bdi class="max-w-full truncate">{{ line.learners.join(', ') }}</bdi>
              <span class="max-w-full truncate text-slate" dir="ltr">{{ line.to.join(', ') }}</span>
              <span class="w-full text-[12px] text-slate">
                Had {{ line.before }} {{ line.before === 1 ? 'message' : 'messages' }} so far{{
                  line.last
                    ? ', the last on ' + (line.last | date: 'd MMM, HH:mm')
                    : ', none of which arrived'
                }}.
              </span>
            </li>
          }
        </ul>
      }
      @if (p.passed.length > 0) {
        <p class="text-small [overflow-wrap:anywhere]">Passed over: {{ passed() }}.</p>
      }
    } @else if (!trouble()) {
      <p class="text-small text-slate" role="status">Looking who that is …</p>
    }
    <div class="flex justify-end gap-2">
      <button type="button" class="btn" (click)="dialog.close()">Cancel</button>
      <button
        type="button"
        class="btn primary"
        [disabled]="sending() || !plan()?.messages?.length"
        (click)="send()"
      >
        {{ says() }}
      </button>
    </div>
  `,
  host: { class: 'panel flex max-h-[90vh] w-140 max-w-[92vw] flex-col gap-4 overflow-y-auto p-5' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class AgainDialog {
  protected readonly dialog = inject<DialogRef<number>>(DialogRef);
  protected readonly data = inject<AgainData>(DIALOG_DATA);
  private readonly api = inject(Api);
  protected readonly groups = GROUPS;
  protected readonly whom = signal<AskAgain['whom']>(
    GROUPS.find(({ whom }) => this.data.counts[whom] > 0)?.whom ?? 'sent',
  );
  protected readonly noteId = signal(this.whom() === 'refused' ? '' : (this.data.notes[0]?.id ?? ''));
  protected readonly plan = signal<AgainPlan | null>(null);
  protected readonly trouble = signal('');
  protected readonly sending = signal(false);
  protected readonly passed = computed(() =>
    (this.plan()?.passed ?? []).map(({ learner, reason }) => `${learner} (${reason})`).join(', '),
  );
  protected readonly says = computed(() => {
    const count = this.plan()?.messages.length ?? 0;
    return count === 0 ? 'Send' : `Send ${count} ${count === 1 ? 'message' : 'messages'}`;
  });
  private asked = 0;

  constructor() {
    this.look();
  }

  protected choose(whom: AskAgain['whom']): void {
    this.whom.set(whom);
    this.noteId.set(whom === 'refused' ? '' : this.noteId() || (this.data.notes[0]?.id ?? ''));
    this.look();
  }

  protected chooseNote(id: string): void {
    this.noteId.set(id);
    this.look();
  }

  protected send(): void {
    const plan = this.plan();
    if (!plan || this.sending()) return;
    this.sending.set(true);
    this.api.sendManyAgain(this.data.folioId, { ...this.what(), planId: plan.planId }).subscribe({
      next: ({ queued }) => this.dialog.close(queued),
      error: (error: unknown) => {
        this.sending.set(false);
        this.look();
        this.trouble.set(troubleOf(error).message);
      },
    });
  }

  private what(): AskAgain {
    return { whom: this.whom(), ...(this.noteId() ? { noteId: this.noteId() } : {}) };
  }

  private look(): void {
    const asked = ++this.asked;
    this.plan.set(null);
    this.trouble.set('');
    this.api.againPlan(this.data.folioId, this.what()).subscribe({
      // What was asked for before is not what is chosen now.
      next: (plan) => asked === this.asked && this.plan.set(plan),
      error: (error: unknown) => asked === this.asked && this.trouble.set(troubleOf(error).message),
    });
  }
}
