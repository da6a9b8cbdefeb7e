import { DecimalPipe, PercentPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { Store } from '@ngrx/store';
import { summaryOf, type Form } from '@scriptum/core/form';
import { deskActions, deskFeature } from '../../state/desk';
import { formsFeature } from '../state/forms';
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
  private readonly doors = this.store.selectSignal(formsFeature.selectDoors);
  /** True where there are answers of which the roll does not say whose they are: they stand in columns of the sheet alone. */
  protected readonly isElsewhere = computed(
    () => (this.doors()?.find(({ writingId }) => writingId === this.writingId())?.answers ?? 0) > 0,
  );
  protected readonly summary = computed(() => summaryOf(this.writingId(), this.form(), this.roll()));
  protected readonly items = computed(() => {
    const all = this.summary().entryIds.length;
    return this.summary().items.map((item, n) => ({
      ...item,
      n: n + 1,
      blank: all - item.entryIds.length,
      groups: item.rows.map(({ title, tallies, of }) => ({
        title,
        bars: tallies.map((one) => ({ ...one, share: one.entryIds.length / Math.max(1, of) })),
      })),
    }));
  });

  /** Shows who gave an answer, in the list of learners. */
  protected show(answer: string, question: string, entryIds: readonly string[]): void {
    if (entryIds.length > 0)
      this.store.dispatch(deskActions.showSome({ some: { label: `${answer} · ${question}`, entryIds } }));
  }
}
