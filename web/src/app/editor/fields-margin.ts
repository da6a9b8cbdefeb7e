import { Entered } from '../ui/bound';
import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { oneLine, printable } from '@scriptum/core/fill';
import { valueOf } from '@scriptum/core/roll';
import type { Column } from '@scriptum/core/column';
import { fieldLabel, type Field } from '@scriptum/core/template';
import { Icon } from '../ui/icon';
import { Store } from '@ngrx/store';
import { deskFeature } from '../state/desk';

/** The columns to put in as fields, with the picked learner's values, and what fills the fields that are there. */
@Component({
  selector: 'sc-fields-margin',
  imports: [Entered, Icon],
  templateUrl: './fields-margin.html',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class FieldsMargin {
  readonly fields = input.required<readonly Field[]>();
  /** Identities of the fields that stand in the text. */
  readonly used = input.required<readonly string[]>();
  readonly where = input('the letter');
  readonly put = output<Column>();
  readonly rematched = output<{ fieldId: string; columnId: string | null }>();

  private readonly store = inject(Store);
  protected readonly columns = this.store.selectSignal(deskFeature.selectColumns);
  private readonly picked = this.store.selectSignal(deskFeature.selectPicked);
  protected readonly offers = computed(() => {
    const used = new Set(this.inUse().map((field) => field.columnId));
    return this.columns().map((column) => ({
      column,
      value: oneLine(printable(valueOf(this.picked(), column.id))),
      used: used.has(column.id),
    }));
  });
  protected readonly inUse = computed(() =>
    this.used().map(
      (id) => this.fields().find((field) => field.id === id) ?? { id, name: 'removed field', columnId: null },
    ),
  );
  protected readonly unmatched = computed(() => this.inUse().filter((field) => !field.columnId).length);

  protected label(field: Field): string {
    return fieldLabel(field, this.columns());
  }
}
