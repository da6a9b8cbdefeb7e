import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { Store } from '@ngrx/store';
import { holds, sentence, type Condition } from '@scriptum/core/condition';
import { isIn } from '@scriptum/core/roll';
import type { TextPart } from '@scriptum/core/template';
import { Sentence } from '../ui/sentence/sentence';
import type { SentenceChange } from '../ui/sentence/sentence-piece';
import { deskActions, deskFeature } from '../state/desk';
import { changePart, partSentence } from './condition-sentence';

/** In whose papers the block at the caret stands, as a sentence to be changed. */
@Component({
  selector: 'sc-part-margin',
  imports: [Sentence],
  template: `
    <section class="mb-3 border-b border-rule pb-3" [attr.aria-label]="label()">
      <div
        class="border-l-[3px] pl-2 text-small"
        [class]="condition() === null ? 'border-rule' : 'border-woad'"
      >
        <sc-sentence [label]="label()" [pieces]="pieces()" (changed)="change($event)" />
        @if (condition()) {
          <button
            type="button"
            class="link min-h-6"
            [class.text-ochre]="standing().length === 0"
            (click)="show()"
          >
            for {{ standing().length }} of {{ all() }}
          </button>
        }
      </div>
    </section>
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PartMargin {
  readonly parts = input.required<readonly TextPart[]>();
  /** The part that the block at the caret belongs to. */
  readonly partId = input.required<string | null>();
  /** Whether it is set for the block, for the words that are selected, or for a box on its page. */
  readonly of = input<'block' | 'words' | 'box'>('block');
  readonly changed = output<Condition | null>();

  private readonly store = inject(Store);
  private readonly roll = this.store.selectSignal(deskFeature.selectRoll);
  private readonly picked = this.store.selectSignal(deskFeature.selectPicked);
  protected readonly condition = computed(
    (): Condition | null => this.parts().find(({ id }) => id === this.partId())?.if ?? null,
  );
  private readonly around = computed(() => ({ columns: this.roll().columns, entry: this.picked() }));
  protected readonly pieces = computed(() =>
    partSentence(
      this.condition(),
      this.around(),
      { words: 'These words stand ', block: 'This block stands ', box: 'It stands ' }[this.of()],
    ),
  );
  protected readonly label = computed(
    () =>
      ({ words: 'When these words stand', block: 'When this block stands', box: 'When it stands' })[
        this.of()
      ],
  );
  protected readonly all = computed(() => this.roll().entries.filter(isIn).length);
  protected readonly standing = computed((): string[] => {
    const condition = this.condition();
    const { columns, entries } = this.roll();
    if (!condition) return [];
    return entries.filter((entry) => isIn(entry) && holds(condition, entry, columns)).map(({ id }) => id);
  });

  protected change(change: SentenceChange): void {
    this.changed.emit(changePart(this.condition(), change, this.around()));
  }

  protected show(): void {
    const label = sentence(this.condition()!, this.roll().columns);
    this.store.dispatch(deskActions.showSome({ some: { label, entryIds: this.standing() } }));
  }
}
