import { Chosen, Entered } from '../../ui/bound';
import { ChangeDetectionStrategy, Component, computed, input, output, type Signal } from '@angular/core';
import type { Column, CohortColumn } from '@scriptum/core/column';
import { ColumnPick, RoundingPick, numberText, type WorkedChange } from './fields';
import { WithinPick } from './within-pick';
import { NumberBox } from '../../ui/number-box';

type Measure = CohortColumn['measure'];

const MEASURES: readonly { readonly measure: Measure; readonly say: string }[] = [
  { measure: 'rank', say: 'rank' },
  { measure: 'percentile', say: 'percentile' },
  { measure: 'quarter', say: 'quarter, 1 lowest to 4 highest' },
  { measure: 'mean', say: 'mean of the group' },
  { measure: 'median', say: 'median of the group' },
  { measure: 'quantile', say: 'quantile of the group' },
  { measure: 'deviation', say: 'standard deviation of the group' },
  { measure: 'lowest', say: 'lowest of the group' },
  { measure: 'highest', say: 'highest of the group' },
  { measure: 'count', say: 'how many have a mark' },
  { measure: 'from mean', say: 'difference from the mean' },
  { measure: 'z-score', say: 'z-score' },
  { measure: 'change', say: 'change since another mark' },
];

/** How a learner stands among the others. */
@Component({
  selector: 'sc-cohort-form',
  imports: [Chosen, Entered, ColumnPick, RoundingPick, WithinPick, NumberBox],
  templateUrl: './cohort-form.html',
  host: { class: 'flex flex-col items-start gap-3 text-small' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class CohortForm {
  /** How the column is worked out, as it is at this moment: a quick hand changes it again before the screen is drawn. */
  readonly definition = input.required<Signal<CohortColumn>>();
  protected readonly worked = computed(() => this.definition()());
  readonly columns = input.required<readonly Column[]>();
  readonly columnId = input.required<string>();
  readonly changed = output<WorkedChange<CohortColumn>>();
  protected readonly measures = MEASURES;
  protected readonly types = [1, 2, 3, 4, 5, 6, 7, 8, 9];

  protected readonly text = numberText;

  protected set(change: Partial<CohortColumn>, what: string): void {
    this.changed.emit({ worked: { ...this.worked(), ...change }, what });
  }

  protected is(...measures: Measure[]): boolean {
    return measures.includes(this.worked().measure);
  }
}
