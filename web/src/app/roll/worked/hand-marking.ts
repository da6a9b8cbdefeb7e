import { CdkFixedSizeVirtualScroll, CdkVirtualForOf, CdkVirtualScrollViewport } from '@angular/cdk/scrolling';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  type ElementRef,
  inject,
  input,
  linkedSignal,
  signal,
  untracked,
  viewChild,
  afterNextRender,
  effect,
  type Signal,
} from '@angular/core';
import { Store } from '@ngrx/store';
import { isIn, valueOf } from '@scriptum/core/roll';
import { plainAnswer } from '@scriptum/core/marks';
import type { MarkingKey, Question } from '@scriptum/core/column';
import { deskActions, deskFeature } from '../../state/desk';
import { rollActions } from '../../state/roll';
import { Icon } from '../../ui/icon';
import { handColumn } from './hand-column';

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
  /** How the column is worked out, as it is at this moment: a quick hand changes it again before the screen is drawn. */
  readonly definition = input.required<Signal<MarkingKey>>();
  protected readonly worked = computed(() => this.definition()());
  /** The key's column. */
  readonly columnId = input.required<string>();
  readonly questionId = input.required<string>();

  private readonly store = inject(Store);
  private readonly roll = this.store.selectSignal(deskFeature.selectRoll);
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
  private readonly decimal = computed(
    () => this.roll().columns.find(({ id }) => id === this.question()?.handId)?.format?.decimal ?? '.',
  );
  /** Where there are fewer than ten points a digit says all, and goes on; else Enter does. */
  protected readonly digitDecides = computed(() => this.most() < 10);
  /** Everybody who is in; those without points are first in line when the pass begins. */
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
  protected readonly same = (_: number, { id }: { id: string }): string => id;
  private readonly given = computed(() =>
    this.lines().flatMap(({ points }) => {
      const number = Number(points.replace(',', '.'));
      return points === '' || Number.isNaN(number) ? [] : [number];
    }),
  );
  protected readonly marked = computed(() => this.given().length);
  protected readonly mean = computed(() => {
    const all = this.given();
    const mean = all.reduce((sum, one) => sum + one, 0) / all.length;
    return all.length === 0 ? null : mean.toLocaleString(undefined, { maximumFractionDigits: 2 });
  });
  /** Others whose answer is the same but for capitals, accents and the like, and whose points are not. */
  protected readonly alike = computed(() => {
    const line = this.here();
    const question = this.question();
    if (!line || !question || line.answer === '' || line.points === '') return [];
    const plain = (text: string): string => plainAnswer(text, question);
    const own = plain(line.answer);
    return this.lines().filter(
      ({ id, answer, points }) => id !== line.id && points !== line.points && plain(answer) === own,
    );
  });
  /** Who answered nothing and has no points. */
  protected readonly blanks = computed(() =>
    this.lines().filter(({ answer, points }) => answer === '' && points === ''),
  );
  /** The next question that is marked by hand, first those that come after this one. */
  protected readonly next = computed(() => {
    const { questions } = this.worked();
    const at = questions.findIndex(({ id }) => id === this.questionId());
    return [...questions.slice(at + 1), ...questions.slice(0, at)].find(
      (one) => one.mode === 'hand' && this.isOpen(one),
    );
  });

  private isOpen({ columnId, handId }: Question): boolean {
    return this.roll().entries.some(
      (entry) =>
        isIn(entry) && valueOf(entry, columnId).trim() !== '' && valueOf(entry, handId).trim() === '',
    );
  }

  protected titleOf({ columnId }: Question): string {
    return this.roll().columns.find(({ id }) => id === columnId)?.title ?? '';
  }
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
  /** What is being typed, until Enter takes it. */
  protected readonly typed = signal('');
  /** Why the last key was not taken. */
  protected readonly refused = signal('');
  /** The learner for whom a digit has just decided: a decimal sign after it means that it was not all. */
  private decided: { at: number; digit: string } | null = null;

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
    const { decided } = this;
    this.decided = null;
    if (/^[0-9]$/.test(key)) this.digit(key);
    else if (key === '.' || key === ',') this.point(decided);
    else if (key === 'Enter') this.take(1);
    else if (key === 'ArrowDown' || key === 'j') this.take(1);
    else if (key === 'ArrowUp' || key === 'k') this.take(-1);
    else if (key === 'f' || key === '+') this.give(String(this.most()), 1);
    else if (key === 'Backspace' && this.typed() !== '') this.typed.update((typed) => typed.slice(0, -1));
    else if (key === 'Backspace' || key === 'Delete') this.clear();
    else if (key === 's') this.giveAlike();
    else if (key === 'b') this.blanksAreNothing();
    else if (key === 'n') this.nextOpen();
    else if (key === 'q' && this.next()) this.open(this.next()!);
    else if (key === 'Escape') this.close();
    else {
      this.decided = decided;
      return;
    }
    event.preventDefault();
    event.stopPropagation();
  }

  private digit(key: string): void {
    if (this.digitDecides() && this.typed() === '') {
      const at = this.at();
      if (this.give(key, 1)) this.decided = { at, digit: key };
      return;
    }
    this.type(this.typed() + key);
  }

  private point(decided: { at: number; digit: string } | null): void {
    if (this.typed() === '' && decided) {
      this.at.set(decided.at);
      this.type(`${decided.digit}.`);
    } else this.type(`${this.typed() || '0'}.`);
  }

  private type(next: string): void {
    if (!/^\d{0,4}(?:\.\d{0,2})?$/.test(next)) return;
    this.refused.set('');
    this.typed.set(next);
  }

  /** Takes what was typed, if anything was, and goes on or back. */
  protected take(step: number): void {
    const typed = this.typed();
    if (typed === '') this.go(step);
    else this.give(String(Number(typed)), step);
  }

  /** @returns false where there are fewer points than that; nothing is stored then. */
  protected give(points: string, step: number): boolean {
    const line = this.here();
    if (!line) return false;
    if (Number(points) > this.most()) {
      this.typed.set('');
      this.refused.set(
        `${this.shown(points)} is more than there is: ${this.shown(String(this.most()))} at the most.`,
      );
      return false;
    }
    if (this.shown(points) !== line.points) this.write([line.id], points, `the points of ${line.name}`);
    this.go(step);
    return true;
  }

  private clear(): void {
    const line = this.here();
    this.typed.set('');
    this.refused.set('');
    if (line && line.points !== '') this.write([line.id], '', `the points of ${line.name}`);
  }

  /** The same points for all with the same answer. */
  protected giveAlike(): void {
    const line = this.here();
    const others = this.alike();
    if (line && others.length > 0)
      this.write(
        others.map(({ id }) => id),
        line.points.replace(',', '.'),
        `the points of ${others.length} with the same answer`,
      );
    this.desk()?.nativeElement.focus();
  }

  protected blanksAreNothing(): void {
    const blanks = this.blanks();
    if (blanks.length > 0)
      this.write(
        blanks.map(({ id }) => id),
        '0',
        `0 points for ${blanks.length} without an answer`,
      );
    this.desk()?.nativeElement.focus();
  }

  private write(entryIds: readonly string[], points: string, what: string): void {
    const { handId } = this.question() ?? {};
    if (!handId) return;
    const text = this.shown(points);
    this.store.dispatch(
      rollActions.change({
        patch: { cells: entryIds.map((entryId) => ({ entryId, columnId: handId, text })) },
        what,
      }),
    );
  }

  /** With the decimal sign of the column. */
  private shown(points: string): string {
    return points.replace('.', this.decimal());
  }

  protected go(step: number): void {
    this.typed.set('');
    this.refused.set('');
    this.at.update((at) => Math.min(this.lines().length - 1, Math.max(0, at + step)));
  }

  /** Takes what was typed, for the learner it was typed for. @returns false where that cannot be. */
  private settle(): boolean {
    return this.typed() === '' || this.give(String(Number(this.typed())), 0);
  }

  protected goTo(at: number): void {
    if (!this.settle()) return;
    this.go(at - this.at());
    this.desk()?.nativeElement.focus();
  }

  protected nextOpen(): void {
    if (!this.settle()) return;
    const lines = this.lines();
    const from = this.at();
    const next = [...lines.keys()]
      .map((n) => (from + 1 + n) % lines.length)
      .find((n) => lines[n]!.points === '');
    if (next !== undefined) this.goTo(next);
  }

  /** Opens the pass over another question. */
  protected open(question: Question): void {
    if (!this.settle()) return;
    const made = handColumn(this.roll().columns, this.columnId(), this.worked(), question);
    if (made) this.store.dispatch(rollActions.change(made));
    this.store.dispatch(rollActions.openQuestion({ questionId: question.id }));
    this.desk()?.nativeElement.focus();
  }

  protected close(): void {
    if (!this.settle()) return;
    this.store.dispatch(rollActions.openQuestion({ questionId: null }));
  }

  protected readonly above = computed(() => Number(this.here()?.points.replace(',', '.') || 0) > this.most());
}
