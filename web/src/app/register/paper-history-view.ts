import { DatePipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, effect, inject, input, signal, untracked } from '@angular/core';
import type { PaperHistory, PaperLine } from '@scriptum/core/contract';
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
};

/** What a paper was made from and what became of it; asked for once somebody wants to see it. */
@Component({
  selector: 'sc-paper-history',
  imports: [DatePipe],
  template: `
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
      } @else if (trouble()) {
        <p class="text-small text-madder" role="alert">{{ trouble() }}</p>
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
        if (this.open) this.load();
      });
    });
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
