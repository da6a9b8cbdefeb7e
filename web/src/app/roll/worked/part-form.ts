import { Chosen, Entered } from '../../ui/bound';
import { ChangeDetectionStrategy, Component, computed, input, output, type Signal } from '@angular/core';
import type { Column, PartColumn } from '@scriptum/core/column';
import { RoundingPick, type WorkedChange } from './fields';

type Part = PartColumn['part'];

const OF_SCHEME: readonly { readonly part: Part; readonly say: string }[] = [
  { part: 'open', say: 'percent that is still open' },
  { part: 'lowest', say: 'lowest it can still end at' },
  { part: 'highest', say: 'highest it can still end at' },
  { part: 'group', say: 'mark of one group' },
];
const OF_KEY: readonly { readonly part: Part; readonly say: string }[] = [
  { part: 'review', say: 'what to look at again' },
  { part: 'answers', say: 'all questions, a line each' },
  { part: 'verdict', say: 'right or not, one question' },
  { part: 'right', say: 'right answer, one question' },
  { part: 'points', say: 'points, one question' },
  { part: 'remark', say: 'remark, one question' },
];
const STEPS = { part: 'steps', say: 'how it came about, step by step' } as const;

/** Something else that a worked column knows, as a column of its own, so that it can be printed. */
@Component({
  selector: 'sc-part-form',
  imports: [Entered, Chosen, RoundingPick],
  template: `
    <p class="flex flex-wrap items-center gap-1.5">
      Take out of
      <select
        class="pick h-8! border border-edge px-1!"
        aria-label="Of which column"
        (scEntered)="setOf($event)"
      >
        @for (column of sources(); track column.id) {
          <option [value]="column.id" [selected]="column.id === worked().of">{{ column.title }}</option>
        }
      </select>
      the
      <select
        class="pick h-8! border border-edge px-1!"
        aria-label="What is taken"
        [scOf]="worked().part"
        (scChosen)="set({ part: $event }, 'what is taken')"
      >
        @for (one of parts(); track one.part) {
          <option [value]="one.part" [selected]="one.part === worked().part">{{ one.say }}</option>
        }
      </select>
      @if (whiches().length > 0) {
        <select
          class="pick h-8! max-w-64 border border-edge px-1!"
          aria-label="Which one"
          [scOf]="worked().which"
          (scChosen)="set({ which: $event }, 'which one')"
        >
          @for (one of whiches(); track one.id) {
            <option [value]="one.id" [selected]="one.id === worked().which">{{ one.name }}</option>
          }
        </select>
      }
    </p>
    @if (numeric()) {
      <p class="mt-3 flex items-center gap-1.5">
        Shown with
        <sc-rounding-pick
          label="Shown with"
          [value]="worked().rounding"
          (changed)="set({ rounding: $event }, 'the rounding')"
        />
      </p>
    }
  `,
  host: { class: 'block text-small' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PartForm {
  /** How the column is worked out, as it is at this moment: a quick hand changes it again before the screen is drawn. */
  readonly definition = input.required<Signal<PartColumn>>();
  protected readonly worked = computed(() => this.definition()());
  readonly columns = input.required<readonly Column[]>();
  readonly columnId = input.required<string>();
  readonly changed = output<WorkedChange<PartColumn>>();
  protected readonly sources = computed(() =>
    this.columns().filter(({ id, worked }) => worked && id !== this.columnId()),
  );
  private readonly source = computed(() => this.columns().find(({ id }) => id === this.worked().of)?.worked);
  protected readonly parts = computed(() => {
    const kind = this.source()?.kind;
    return [...(kind === 'scheme' ? OF_SCHEME : kind === 'key' ? OF_KEY : []), STEPS];
  });
  protected readonly whiches = computed(() => {
    const source = this.source();
    if (source?.kind === 'scheme' && this.worked().part === 'group')
      return source.groups.map(({ id, name }) => ({ id, name }));
    if (source?.kind === 'key' && ['verdict', 'right', 'points', 'remark'].includes(this.worked().part))
      return source.questions.map(({ id, columnId }) => ({
        id,
        name: this.columns().find((column) => column.id === columnId)?.title ?? '',
      }));
    return [];
  });
  protected readonly numeric = computed(() =>
    ['open', 'lowest', 'highest', 'group'].includes(this.worked().part),
  );

  protected setOf(of: string): void {
    this.set({ of, part: 'steps', which: undefined }, 'of what it is taken');
  }

  protected set(change: Partial<PartColumn>, what: string): void {
    const next = { ...this.worked(), ...change };
    const source = this.columns().find(({ id }) => id === next.of)?.worked;
    if (
      next.part === 'group' &&
      source?.kind === 'scheme' &&
      !source.groups.some(({ id }) => id === next.which)
    )
      next.which = source.groups[0]?.id;
    if (source?.kind === 'key' && !source.questions.some(({ id }) => id === next.which))
      next.which = source.questions[0]?.id;
    this.changed.emit({ worked: next, what });
  }
}
