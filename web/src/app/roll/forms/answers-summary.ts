import { DecimalPipe, PercentPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { Store } from '@ngrx/store';
import { summaryOf, type Form, type ItemSummary, type Tally } from '@scriptum/core/form';
import { deskActions, deskFeature } from '../../state/desk';
import { DistributionChart } from '../worked/distribution-chart';

/** What was answered to a form, question by question: bars of choices, numbers as they spread, the last words. */
@Component({
  selector: 'sc-answers-summary',
  imports: [DecimalPipe, DistributionChart, PercentPipe],
  templateUrl: './answers-summary.html',
  host: { class: 'block min-h-0 overflow-y-auto' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class AnswersSummary {
  readonly form = input.required<Form>();
  readonly writingId = input.required<string>();
  private readonly store = inject(Store);
  private readonly roll = this.store.selectSignal(deskFeature.selectRoll);
  protected readonly summary = computed(() => summaryOf(this.writingId(), this.form(), this.roll()));
  protected readonly items = computed(() => {
    const all = this.summary().entryIds.length;
    return this.summary().items.map((item, n) => ({
      ...item,
      n: n + 1,
      blank: all - item.entryIds.length,
      groups: item.rows.map(({ title, tallies }) => ({ title, bars: barsOf(tallies, item, all) })),
    }));
  });

  /** Shows who gave an answer, in the list of learners. */
  protected show(title: string, label: string, entryIds: readonly string[]): void {
    if (entryIds.length > 0)
      this.store.dispatch(deskActions.showSome({ some: { label: `${title}: ${label}`, entryIds } }));
  }
}

interface Bar extends Tally {
  /** Of those who answered the question; the bar is as long. */
  readonly share: number;
}

function barsOf(tallies: readonly Tally[], { entryIds }: ItemSummary, all: number): Bar[] {
  // Who has not agreed has answered too.
  const sum = tallies.reduce((n, one) => n + one.entryIds.length, 0);
  const of = Math.max(1, sum === all ? all : entryIds.length);
  return tallies.map((one) => ({ ...one, share: one.entryIds.length / of }));
}
