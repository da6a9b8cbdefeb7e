import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  ElementRef,
  inject,
  input,
  output,
} from '@angular/core';
import { beginnings, type Beginning } from '@scriptum/core/begin';
import type { Column } from '@scriptum/core/column';
import { isBlankField, oneLine, printable } from '@scriptum/core/fill';
import { isIn, valueOf } from '@scriptum/core/roll';
import { fieldLabel, isBlockField, isMatched, type Field } from '@scriptum/core/template';
import { Store } from '@ngrx/store';
import { NgTemplateOutlet } from '@angular/common';
import { newId } from '../api/new-id';
import { BlockMargin } from './block-margin';
import { Icon } from '../ui/icon';
import { Sentence } from '../ui/sentence/sentence';
import type { SentenceChange } from '../ui/sentence/sentence-piece';
import { deskActions, deskFeature } from '../state/desk';
import { changeField, fieldSentence, type FieldSurroundings } from './field-sentence';

/** What each field prints, as a sentence to be changed, and the columns to put in as fields. */
@Component({
  selector: 'sc-fields-margin',
  imports: [BlockMargin, Icon, NgTemplateOutlet, Sentence],
  templateUrl: './fields-margin.html',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class FieldsMargin {
  readonly fields = input.required<readonly Field[]>();
  /** How often each field stands in the text, by identity. */
  readonly places = input.required<ReadonlyMap<string, number>>();
  /** What the fields stand in: a text, or the name of a file, which has no sentences and is the same each day. */
  readonly form = input<'text' | 'name'>('text');
  readonly language = input.required<string>();
  /** Today at the school, ISO 8601. */
  readonly day = input.required<string>();
  /** The field whose chip is selected in the text. */
  readonly chosen = input<string | null>(null);
  /** Counts up where the sentence of the chosen field is wanted. */
  readonly asked = input(0);
  /** Whether tables and charts can be put in. */
  readonly blocks = input(false);
  /** Whether the number of the paper can be printed. */
  readonly numbers = input(false);
  readonly message = input(false);
  readonly put = output<Column>();
  readonly putBlock = output<Beginning>();
  readonly changed = output<Field>();
  /** The chosen chip is to have a field of its own. */
  readonly parted = output<Field>();
  /** Back into the text. */
  readonly left = output<void>();

  private readonly store = inject(Store);
  protected readonly columns = this.store.selectSignal(deskFeature.selectColumns);
  private readonly picked = this.store.selectSignal(deskFeature.selectPicked);
  private readonly roll = this.store.selectSignal(deskFeature.selectRoll);
  private readonly settled = this.store.selectSignal(deskFeature.selectSettledRoll);
  private readonly folio = this.store.selectSignal(deskFeature.selectFolio);
  private readonly cohort = this.store.selectSignal(deskFeature.selectCohort);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  private readonly sheets = computed(() =>
    (this.folio()?.sources ?? []).flatMap(({ id, fileName, columns }) =>
      columns ? [{ id, name: fileName, titles: columns.map(({ title }) => title) }] : [],
    ),
  );
  protected readonly around = computed((): FieldSurroundings => ({
    columns: this.columns(),
    entry: this.picked(),
    cohort: this.cohort(),
    sheets: this.sheets(),
    language: this.language(),
    day: this.day(),
    form: this.form(),
    numbers: this.numbers(),
    message: this.message(),
  }));
  protected readonly offers = computed(() => {
    const used = new Set(this.inUse().map((field) => field.columnId));
    return this.columns().map((column) => ({
      column,
      value: oneLine(printable(valueOf(this.picked(), column.id))),
      used: used.has(column.id),
    }));
  });
  protected readonly inUse = computed(() =>
    [...this.places().keys()].map(
      (id): Field =>
        this.fields().find((field) => field.id === id) ?? { id, name: 'removed field', columnId: null },
    ),
  );
  /** The table or chart that is selected. */
  protected readonly block = computed(() =>
    this.inUse().find((one) => one.id === this.chosen() && isBlockField(one)),
  );
  protected readonly beginnings = computed((): Beginning[] => {
    const sources = this.folio()?.sources ?? [];
    const shapes = sources.flatMap(({ id, fileName, columns }) =>
      columns ? [{ id, name: fileName, columns }] : [],
    );
    return this.blocks() ? beginnings(this.settled(), shapes, newId) : [];
  });
  protected readonly inText = computed(() => this.inUse().filter((one) => !isBlockField(one)));
  protected readonly told = computed(() =>
    this.inText().map((field) => ({
      field,
      label: fieldLabel(field, this.columns()),
      open: !isMatched(field),
      pieces: fieldSentence(field, this.around()),
      blank: this.blankFor(field),
    })),
  );
  /** The chosen field, and what nothing fills. */
  protected readonly first = computed(() => {
    const first = this.told().filter(({ field, open }) => open || field.id === this.chosen());
    return first.sort((a, b) => Number(b.field.id === this.chosen()) - Number(a.field.id === this.chosen()));
  });

  constructor() {
    effect(() => {
      if (this.asked() > 0)
        queueMicrotask(() => this.host.nativeElement.querySelector<HTMLElement>('.first .part')?.focus());
    });
  }

  protected readonly several = computed(() => (this.places().get(this.chosen() ?? '') ?? 0) > 1);

  protected change(field: Field, change: SentenceChange): void {
    this.changed.emit(changeField(field, change, this.around()));
  }

  protected showBlank(label: string, entryIds: readonly string[]): void {
    this.store.dispatch(deskActions.showSome({ some: { label: `${label} is blank`, entryIds } }));
  }

  /** The learners who have nothing there. */
  private blankFor(field: Field): string[] {
    if (!isMatched(field) || field.same) return [];
    const { columns, language, day } = this.around();
    const cohort = this.cohort();
    return this.roll()
      .entries.filter(
        (entry) => isIn(entry) && isBlankField(field, entry, { columns, language, day, cohort }),
      )
      .map(({ id }) => id);
  }
}
