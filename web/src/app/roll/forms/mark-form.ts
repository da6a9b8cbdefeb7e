import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import type { Column } from '@scriptum/core/column';
import { columnIdsOf, type Form, type Mark, type MarkedItem } from '@scriptum/core/form';
import { Entered, Ticked } from '../../ui/bound';
import { Sentence } from '../../ui/sentence/sentence';
import type { SentenceChange, SentencePiece } from '../../ui/sentence/sentence-piece';
import { changeMark, markSentence } from './mark-sentence';

/** What is right for a question of a quiz, and how much it gives. */
@Component({
  selector: 'sc-mark-form',
  imports: [Entered, Sentence, Ticked],
  template: `
    <h2>Marking</h2>
    <sc-sentence label="Marking" [pieces]="pieces()" (changed)="say($event)" />
    @if (!mark() && marks(); as title) {
      <p class="mt-1 text-small text-slate">
        The marking key “
        <bdi>{{ title }}</bdi>
        ” of the roll marks its column already. What is right here goes into that key.
      </p>
    }
    @if (mark(); as mark) {
      @switch (item().kind) {
        @case ('short') {
          <label class="label mt-2 block">
            Right answers, one on each line
            <textarea
              class="input mt-0.5 block w-full py-1 font-normal"
              rows="3"
              dir="auto"
              #lines
              [value]="
                mark.right.join(
                  '
'
                )
              "
              (change)="
                setRight(
                  lines.value.split(
                    '
'
                  )
                )
              "
            ></textarea>
          </label>
        }
        @case ('number') {
          <label class="label mt-2 block">
            The right number
            <input
              class="input mt-0.5 w-full font-normal"
              inputmode="decimal"
              [value]="mark.right[0] ?? ''"
              (scEntered)="setNumber($event)"
            />
          </label>
        }
        @default {
          <fieldset class="mt-2">
            <legend class="label">
              {{ item().kind === 'several' ? 'All that is right' : 'What is right' }}
            </legend>
            @for (choice of choices(); track choice.id) {
              <label class="flex min-h-7 items-center gap-2">
                <input
                  type="checkbox"
                  [checked]="mark.right.includes(choice.id)"
                  (scTicked)="tick(choice.id, $event)"
                />
                <bdi class="min-w-0 truncate">{{ choice.words || 'Without words yet' }}</bdi>
              </label>
            }
          </fieldset>
        }
      }
      @if (isMissing()) {
        <p class="mt-1 text-small text-madder">Say what is right, so that the form can be published.</p>
      }
      <p class="mt-1 text-small text-slate">
        Once the form is published the points stand in a column of the roll, by a marking key, where other
        spellings can be taken and a mark can be made of them. Whoever answers never sees what is right.
        @if (item().shownIf) {
          Who is not asked this question gets no points for it.
        }
      </p>
    }
  `,
  host: { class: 'block' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class MarkForm {
  readonly form = input.required<Form>();
  readonly item = input.required<MarkedItem>();
  /** The columns of the roll. */
  readonly columns = input.required<readonly Column[]>();
  readonly changed = output<MarkedItem>();
  /** The key that marks the column of the answers already. */
  protected readonly marks = computed(() => {
    const [own] = columnIdsOf(this.item());
    const isMarked = ({ worked }: Column): boolean =>
      worked?.kind === 'key' && worked.questions.some(({ columnId }) => columnId === own);
    return this.columns().find(isMarked)?.title ?? '';
  });
  protected readonly mark = computed((): Mark | null => this.item().mark ?? null);
  protected readonly isMissing = computed(
    () => this.mark()?.right.every((text) => text.trim() === '') ?? false,
  );
  protected readonly pieces = computed((): SentencePiece[] => markSentence(this.item()));
  protected readonly choices = computed(() => {
    const item = this.item();
    return 'choices' in item
      ? item.choices.map(({ id, label }) => ({ id, words: label[this.form().languages[0]!] ?? '' }))
      : [];
  });

  protected say(change: SentenceChange): void {
    this.changed.emit(changeMark(this.item(), change));
  }

  protected setRight(right: readonly string[]): void {
    const mark = this.mark();
    if (!mark) return;
    const texts = right.map((text) => text.trim().slice(0, 2000)).filter(Boolean);
    this.changed.emit({ ...this.item(), mark: { ...mark, right: [...new Set(texts)].slice(0, 60) } });
  }

  protected setNumber(text: string): void {
    this.setRight([text.trim().replace(',', '.')]);
  }

  protected tick(id: string, right: boolean): void {
    const mark = this.mark();
    if (!mark) return;
    const known = new Set(this.choices().map((choice) => choice.id));
    const others = mark.right.filter((one) => one !== id && known.has(one));
    this.setRight(right ? [...others, id] : others);
  }
}
