import { DIALOG_DATA, DialogRef } from '@angular/cdk/dialog';
import { afterNextRender, ChangeDetectionStrategy, Component, ElementRef, inject } from '@angular/core';
import { writingPlain } from '@scriptum/core/note';
import type { Draft } from '../state/writing';

/** What is to stay where two people changed the same text. */
export type BothAnswer = 'mine' | 'theirs' | 'theirs, mine kept';

/** Two people’s versions of one text, side by side, to choose from. */
@Component({
  selector: 'sc-both-dialog',
  template: `
    <h2 id="both-title" class="text-title">Two versions of the {{ what }}</h2>
    <p class="max-w-160">
      {{ who }} changed the same part of it {{ when }}. Nothing is lost: choose which one is to stand.
    </p>
    <div class="grid min-h-0 gap-4 overflow-y-auto min-[700px]:grid-cols-2">
      @for (side of sides; track side.title) {
        <section class="flex min-h-0 flex-col gap-2" [attr.aria-label]="side.title">
          <h3 class="label">{{ side.title }}</h3>
          <div
            class="flex max-h-[45vh] grow flex-col gap-2 overflow-y-auto rounded border border-edge bg-ground p-3 text-small"
            tabindex="0"
            role="region"
            [attr.aria-label]="side.title + ', its text'"
          >
            @for (part of side.parts; track $index) {
              <p
                class="pl-2 [overflow-wrap:anywhere]"
                dir="auto"
                [class.other]="part.other"
                [class.bg-wash]="part.other"
              >
                @if (part.other) {
                  <span class="sr-only">Only here:</span>
                }
                <span class="whitespace-pre-wrap" [textContent]="part.text"></span>
              </p>
            } @empty {
              <p class="text-slate">(no text)</p>
            }
          </div>
          <div class="flex flex-wrap gap-2">
            @for (choice of side.choices; track choice.answer) {
              <button type="button" class="btn" (click)="dialog.close(choice.answer)">
                {{ choice.name }}
              </button>
            }
          </div>
        </section>
      }
    </div>
    <button type="button" class="btn self-end" (click)="dialog.close()">Decide later</button>
  `,
  styles: `
    .other {
      border-inline-start: 3px solid var(--ochre);
    }
  `,
  host: { class: 'panel flex max-h-[92vh] w-220 max-w-[94vw] flex-col gap-4 p-5' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class BothDialog {
  protected readonly dialog = inject<DialogRef<BothAnswer>>(DialogRef);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  private readonly draft = inject<Draft>(DIALOG_DATA);
  private readonly theirs = this.draft.theirs!;
  protected readonly what = WHAT[this.draft.kind];
  protected readonly who = this.theirs.changedBy ?? 'Somebody else';
  protected readonly when = whenOf(this.theirs.changedAt);
  protected readonly sides: readonly {
    title: string;
    parts: readonly Part[];
    choices: readonly { answer: BothAnswer; name: string }[];
  }[] = [
    {
      title: `${this.who}’s, ${this.when}`,
      parts: partsOf(this.theirs.writing, this.draft),
      choices: [
        { answer: 'theirs, mine kept', name: 'Take this one, keep mine as a copy' },
        { answer: 'theirs', name: 'Take this one' },
      ],
    },
    {
      title: 'Yours, on this screen',
      parts: partsOf(this.draft, this.theirs.writing),
      choices: [{ answer: 'mine', name: 'Keep mine' }],
    },
  ];

  constructor() {
    // Two long texts begin alike; what differs comes into sight.
    afterNextRender(() => {
      for (const region of this.host.nativeElement.querySelectorAll('[role=region]'))
        region.querySelector('.other')?.scrollIntoView({ block: 'nearest' });
    });
  }
}

/** A paragraph, and whether the other version lacks it. */
interface Part {
  readonly text: string;
  readonly other: boolean;
}

function partsOf(writing: Parameters<typeof writingPlain>[0], against: typeof writing): Part[] {
  const paragraphs = (one: typeof writing): string[] => writingPlain(one).split('\n\n').filter(Boolean);
  const there = new Set(paragraphs(against));
  return paragraphs(writing).map((text) => ({ text, other: !there.has(text) }));
}

export const WHAT = {
  letter: 'letter',
  placed: 'template',
  note: 'cover note',
  filing: 'file name',
  sorting: 'sorting',
  exception: 'exception',
  form: 'form',
} as const;

/** `at 14:32`, with the day where it is another one. */
export function whenOf(instant: string): string {
  const at = new Date(instant);
  if (Number.isNaN(at.getTime())) return 'meanwhile';
  const time = at.toLocaleTimeString(undefined, { hour: '2-digit', minute: '2-digit' });
  const today = at.toDateString() === new Date().toDateString();
  return today ? `at ${time}` : `on ${at.toLocaleDateString(undefined, { dateStyle: 'medium' })} at ${time}`;
}
