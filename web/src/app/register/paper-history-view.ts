import { DatePipe, formatDate } from '@angular/common';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  signal,
  untracked,
} from '@angular/core';
import type { ChangeLink, PaperHistory, PaperLine } from '@scriptum/core/contract';
import { Api, troubleOf } from '../api/api';

const WORDS: Readonly<Record<PaperHistory['steps'][number]['kind'], string>> = {
  pressed: 'Pressed',
  cleared: 'Cleared',
  held: 'Held',
  voided: 'Voided',
  queued: 'Queued for',
  sent: 'Sent to',
  refused: 'Refused',
  unconfirmed: 'Unconfirmed',
  superseded: 'A newer one took its place',
  replaced: 'Issued again',
  opened: 'First opened through the link to',
  'link-withdrawn': 'Link withdrawn',
};

/** What a paper was made from and what became of it; asked for once somebody wants to see it. */
@Component({
  selector: 'sc-paper-history',
  imports: [DatePipe],
  template: `
    @for (link of links(); track link.messageId) {
      <div class="mb-2 border-l-[3px] border-edge pl-2 text-small">
        <p class="[overflow-wrap:anywhere]">
          <span class="text-slate">Private link to</span>
          {{ link.to }}: {{ says(link) }}
          @if (link.asks) {
            Asks for “{{ link.asks }}”.
          }
        </p>
        <p class="flex flex-wrap gap-x-3">
          @if (link.state === 'works') {
            <button type="button" class="link min-h-6" (click)="change(link, { do: 'withdraw' })">
              Withdraw it
            </button>
          } @else if (link.state !== 'ended') {
            <button type="button" class="link min-h-6" (click)="change(link, { do: 'allow' })">
              Let it work again
            </button>
          }
          @if (link.state === 'works' || link.state === 'ended') {
            <button type="button" class="link min-h-6" (click)="lengthen(link)">30 days more</button>
          }
        </p>
      </div>
    }
    @if (trouble(); as t) {
      <p class="text-small text-madder" role="alert">{{ t }}</p>
    }
    <details #box (toggle)="toggled(box.open)">
      <summary class="link w-fit text-small">History</summary>
      @if (history(); as h) {
        <ol class="mt-1 flex flex-col gap-1 text-small">
          @for (step of h.steps; track $index) {
            <li class="[overflow-wrap:anywhere]">
              <span class="text-slate tabular-nums">{{ step.at | date: 'd MMM, HH:mm' }}</span>
              {{ words[step.kind] }} {{ step.by ? 'by ' + step.by : '' }}
              @if (step.note; as note) {
                <span class="text-slate">{{ note }}</span>
              }
            </li>
          }
        </ol>
        <p class="mt-2 text-small text-slate">{{ madeFrom(h) }}</p>
        @if (h.values.length > 0) {
          <dl class="mt-1 grid grid-cols-[minmax(0,2fr)_minmax(0,3fr)] gap-x-2 text-small">
            @for (one of h.values; track one.name) {
              <dt class="truncate text-slate" [title]="one.name">{{ one.name }}</dt>
              <dd class="[overflow-wrap:anywhere]">
                <bdi>{{ one.text || '–' }}</bdi>
              </dd>
            }
          </dl>
        }
      }
    </details>
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PaperHistoryView {
  readonly folioId = input.required<string | null>();
  readonly paper = input.required<PaperLine>();
  private readonly api = inject(Api);
  protected readonly history = signal<PaperHistory | null>(null);
  protected readonly trouble = signal('');
  protected readonly words = WORDS;
  private open = false;

  constructor() {
    // Another paper, or something that became of this one.
    effect(() => {
      this.paper();
      untracked(() => {
        this.history.set(null);
        this.trouble.set('');
        if (this.open || this.hasLink()) this.load();
      });
    });
  }

  protected readonly links = computed(() => this.history()?.links ?? []);

  private hasLink(): boolean {
    return (this.paper().message?.opened ?? null) !== null;
  }

  protected says({ state, ends, opens, lastOpenedAt }: PaperHistory['links'][number]): string {
    const day = formatDate(ends, 'd MMMM y', 'en');
    const how = {
      works: `works until ${day}`,
      ended: `ended on ${day}`,
      withdrawn: 'withdrawn',
      closed: 'closed after too many wrong answers',
    }[state];
    if (opens === 0 || !lastOpenedAt) return `${how}, not opened yet.`;
    const last = formatDate(lastOpenedAt, 'd MMM, HH:mm', 'en');
    return `${how}, opened ${opens === 1 ? 'once' : `${opens} times`}, ${opens === 1 ? '' : 'last '}on ${last}.`;
  }

  protected change({ messageId }: PaperHistory['links'][number], change: ChangeLink): void {
    const folioId = this.folioId();
    if (!folioId) return;
    this.trouble.set('');
    this.api.changeLink(folioId, messageId, change).subscribe({
      next: () => this.load(),
      error: (error: unknown) => this.trouble.set(troubleOf(error).message),
    });
  }

  /** From its last day, or from today where that has passed. */
  protected lengthen(link: PaperHistory['links'][number]): void {
    const today = new Date().toISOString().slice(0, 10);
    const from = link.ends > today ? link.ends : today;
    const ends = new Date(Date.parse(`${from}T00:00:00Z`) + 30 * 86_400_000).toISOString().slice(0, 10);
    this.change(link, { do: 'lengthen', ends });
  }

  protected toggled(open: boolean): void {
    this.open = open;
    if (open && !this.history()) this.load();
  }

  protected madeFrom({ template, letterheadVersion, version }: PaperHistory): string {
    const parts = [
      `From “${template.name}”, version ${template.version}`,
      ...(letterheadVersion ? [`the letterhead, version ${letterheadVersion}`] : []),
    ];
    const count =
      version !== null && version > 1 ? ` It is the ${version}. paper of this learner from it.` : '';
    return `${parts.join(' and ')}.${count}`;
  }

  private load(): void {
    const [folioId, { id }] = [this.folioId(), this.paper()];
    if (!folioId) return;
    this.api.paperHistory(folioId, id).subscribe({
      next: (history) => {
        if (this.paper().id === id) this.history.set(history);
      },
      error: (error: unknown) => this.trouble.set(troubleOf(error).message),
    });
  }
}
