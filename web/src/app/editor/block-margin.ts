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
import { Store } from '@ngrx/store';
import { kindsOf } from '@scriptum/core/begin';
import type { Field } from '@scriptum/core/template';
import { newId } from '../api/new-id';
import { Sentence } from '../ui/sentence/sentence';
import type { SentenceChange } from '../ui/sentence/sentence-piece';
import { deskFeature } from '../state/desk';
import { changeChart, chartSentences } from './chart-sentence';
import { changePicture, pictureSentence } from './picture-sentence';
import { changeTable } from './table-change';
import { tableSentences, type SentenceLine, type TableSurroundings } from './table-sentence';

/** Sentences under a head. */
interface Group {
  readonly head: string;
  readonly lines: readonly SentenceLine[];
}

/** The table, the chart or the learner's picture that is selected in the text, as sentences to be changed. */
@Component({
  selector: 'sc-block-margin',
  imports: [Sentence],
  templateUrl: './block-margin.html',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class BlockMargin {
  readonly field = input.required<Field>();
  /** Counts up where the sentences are wanted. */
  readonly asked = input(0);
  readonly changed = output<Field>();
  /** Back into the text. */
  readonly left = output<void>();

  private readonly store = inject(Store);
  private readonly columns = this.store.selectSignal(deskFeature.selectColumns);
  private readonly picked = this.store.selectSignal(deskFeature.selectPicked);
  private readonly folio = this.store.selectSignal(deskFeature.selectFolio);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  private readonly around = computed((): TableSurroundings => ({
    columns: this.columns(),
    entry: this.picked(),
    kinds: kindsOf(this.columns()),
    sheet: (sourceId) =>
      (this.folio()?.sources.find(({ id }) => id === sourceId)?.columns ?? []).map(({ title }) => title),
    newId,
  }));
  protected readonly what = computed(() =>
    this.field().table ? 'This table' : this.field().chart ? 'This chart' : 'This picture',
  );
  protected readonly groups = computed((): Group[] => {
    const { table, chart, picture } = this.field();
    if (picture) return [{ head: '', lines: [pictureSentence(this.field(), picture, this.around())] }];
    if (table) {
      const { about, columns, rows } = tableSentences(table, this.around());
      return [
        { head: '', lines: [about] },
        { head: 'Columns', lines: columns },
        ...(rows.length > 0 ? [{ head: 'Rows', lines: rows }] : []),
      ];
    }
    if (!chart) return [];
    const { about, values } = chartSentences(chart, this.around());
    return [{ head: '', lines: [about] }, ...(values.length > 0 ? [{ head: 'Values', lines: values }] : [])];
  });

  constructor() {
    effect(() => {
      if (this.asked() > 0)
        queueMicrotask(() => this.host.nativeElement.querySelector<HTMLElement>('.part')?.focus());
    });
  }

  protected change(lineId: string, change: SentenceChange): void {
    const field = this.field();
    const { table, chart, picture } = field;
    if (picture) this.changed.emit(changePicture(field, picture, change, this.around()));
    if (table) this.changed.emit({ ...field, table: changeTable(table, lineId, change, this.around()) });
    else if (chart) this.changed.emit({ ...field, chart: changeChart(chart, lineId, change, this.around()) });
  }
}
