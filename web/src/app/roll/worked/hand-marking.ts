import { CdkFixedSizeVirtualScroll, CdkVirtualForOf, CdkVirtualScrollViewport } from '@angular/cdk/scrolling';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  type ElementRef,
  inject,
  input,
  linkedSignal,
  untracked,
  viewChild,
  afterNextRender,
  effect,
} from '@angular/core';
import { Store } from '@ngrx/store';
import { isIn, valueOf, type Roll } from '@scriptum/core/roll';
import type { MarkingKey } from '@scriptum/core/worked';
import { deskActions, deskFeature } from '../../state/desk';
import { rollActions } from '../../state/roll';
import { Icon } from '../../ui/icon';

/** Height of a line of the list, in pixels. */
const LINE = 28;

/** The pass by hand: one question, the answers of all learners, points by keyboard. */
@Component({
  selector: 'sc-hand-marking',
  imports: [CdkFixedSizeVirtualScroll, CdkVirtualForOf, CdkVirtualScrollViewport, Icon],
  templateUrl: './hand-marking.html',
  host: { class: 'flex h-full min-h-0 flex-col' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class HandMarking {
  readonly worked = input.required<MarkingKey>();
  readonly questionId = input.required<string>();
  readonly roll = input.required<Roll>();

  private readonly store = inject(Store);
  private readonly names = this.store.selectSignal(deskFeature.selectNames);
  private readonly pickedId = this.store.selectSignal(deskFeature.selectPickedId);
  private readonly list = viewChild(CdkVirtualScrollViewport);
  private readonly desk = viewChild<ElementRef<HTMLElement>>('desk');
  protected readonly question = computed(() =>
    this.worked().questions.find(({ id }) => id === this.questionId()),
  );
  protected readonly most = computed(() => Number(this.question()?.points ?? 0));
  protected readonly title = computed(
    () => this.roll().columns.find(({ id }) => id === this.question()?.columnId)?.title ?? '',
  );
  /** Everybody who answered; those without points are first in line when the pass begins. */
  protected readonly lines = computed(() => {
    const question = this.question();
    return this.roll()
      .entries.filter((entry) => isIn(entry))
      .map((entry) => ({
        id: entry.id,
        name: this.names().get(entry.id) ?? '',
        answer: valueOf(entry, question?.columnId).trim(),
        points: valueOf(entry, question?.handId).trim(),
      }));
  });
  protected readonly marked = computed(() => this.lines().filter(({ points }) => points !== '').length);
  protected readonly at = linkedSignal({
    source: () => this.questionId(),
    // Where the pass begins; giving points must not move it.
    computation: () =>
      untracked(() =>
        Math.max(
          0,
          this.lines().findIndex(({ points, answer }) => points === '' && answer !== ''),
        ),
      ),
  });
  protected readonly here = computed(() => this.lines()[this.at()]);
  /** What is being typed: a second digit or a decimal place may follow. */
  protected typed = '';

  constructor() {
    afterNextRender(() => this.desk()?.nativeElement.focus());
    effect(() => {
      const id = this.here()?.id;
      this.at();
      untracked(() => this.reveal());
      if (id && id !== this.pickedId()) this.store.dispatch(deskActions.pick({ entryId: id }));
    });
  }

  /** Keeps the learner whose answer is marked in sight. */
  private reveal(): void {
    const list = this.list();
    if (!list) return;
    const start = list.measureScrollOffset('top') / LINE;
    const end = start + list.getViewportSize() / LINE;
    if (this.at() < start || this.at() + 1 > end) list.scrollToIndex(Math.max(0, this.at() - 3));
  }

  protected key(event: KeyboardEvent): void {
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    const { key } = event;
    if (/^[0-9.,]$/.test(key)) this.type(key.replace(',', '.'));
    else if (key === 'Enter' || key === 'ArrowDown' || key === 'j') this.go(1);
    else if (key === 'ArrowUp' || key === 'k') this.go(-1);
    else if (key === 'f' || key === '+') this.give(String(this.most()), true);
    else if (key === 'Backspace' || key === 'Delete') this.give('', false);
    else if (key === 'n') this.nextOpen();
    else if (key === 'Escape') this.close();
    else return;
    event.preventDefault();
    event.stopPropagation();
  }

  private type(key: string): void {
    const next = this.typed + key;
    if (!/^\d{0,4}(?:\.\d{0,2})?$/.test(next)) return;
    this.typed = next;
    if (/\d$/.test(next)) this.give(String(Number(next)), false);
    // A single digit goes on by itself where no second one could follow.
    if (/^\d+$/.test(next) && Number(`${next}0`) > this.most()) this.go(1);
  }

  protected give(points: string, on: boolean): void {
    const { handId } = this.question() ?? {};
    const line = this.here();
    if (!handId || !line) return;
    if (points === '') this.typed = '';
    this.store.dispatch(
      rollActions.change({
        patch: { cells: [{ entryId: line.id, columnId: handId, text: points }] },
        what: `the points of ${line.name}`,
      }),
    );
    if (on) this.go(1);
  }

  protected go(step: number): void {
    this.typed = '';
    this.at.update((at) => Math.min(this.lines().length - 1, Math.max(0, at + step)));
  }

  protected goTo(at: number): void {
    this.typed = '';
    this.at.set(at);
    this.desk()?.nativeElement.focus();
  }

  private nextOpen(): void {
    const lines = this.lines();
    const from = this.at();
    const next = [...lines.keys()]
      .map((n) => (from + 1 + n) % lines.length)
      .find((n) => lines[n]!.points === '');
    if (next !== undefined) this.goTo(next);
  }

  protected close(): void {
    this.store.dispatch(rollActions.openQuestion({ questionId: null }));
  }

  protected readonly above = computed(() => Number(this.here()?.points.replace(',', '.') || 0) > this.most());
}
