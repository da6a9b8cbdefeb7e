import { Dialog } from '@angular/cdk/dialog';
import { Chosen, Entered } from '../../ui/bound';
import { DatePipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { Store } from '@ngrx/store';
import { meaningOf, valueOf } from '@scriptum/core/roll';
import {
  ColumnType,
  readExact,
  readMoment,
  TYPE_NAMES,
  type Column,
  type ColumnFormat,
} from '@scriptum/core/column';
import { PicturesDialog } from '../pictures/pictures-dialog';
import { deskFeature } from '../../state/desk';
import { rollActions } from '../../state/roll';
import { Icon } from '../../ui/icon';
import { Said } from '../../ui/said';
import { StepsPanel } from '../worked/steps-panel';

const ORDERS = [
  { order: 'dmy', say: 'day first' },
  { order: 'mdy', say: 'month first' },
] as const;

/** The column and the cell that are looked at: the type, what it means, what the source says. */
@Component({
  selector: 'sc-cell-panel',
  imports: [Chosen, Entered, DatePipe, Icon, Said, StepsPanel],
  templateUrl: './cell-panel.html',
  host: { class: 'block' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class CellPanel {
  readonly columnId = input.required<string | null>();

  private readonly store = inject(Store);
  private readonly dialog = inject(Dialog);
  private readonly folio = this.store.selectSignal(deskFeature.selectFolio);
  private readonly roll = this.store.selectSignal(deskFeature.selectRoll);
  private readonly entry = this.store.selectSignal(deskFeature.selectPicked);
  protected readonly types = ColumnType.options.map((type) => ({ type, name: TYPE_NAMES[type] }));
  protected readonly orders = ORDERS;
  protected readonly column = computed(() => this.roll().columns.find(({ id }) => id === this.columnId()));
  protected readonly cell = computed(() => {
    const column = this.column();
    const entry = this.entry();
    if (!column || !entry) return null;
    const exact = entry.exact?.[column.id];
    return {
      text: valueOf(entry, column.id),
      value: meaningOf(entry, column),
      mend: column.sourceId === undefined ? null : (entry.mends?.[column.id] ?? null),
      exact: exact === undefined ? null : readExact(exact),
    };
  });
  /** A date of this column that can be read two ways, while nobody has said which. */
  protected readonly unclear = computed(() => {
    const column = this.column();
    if (!column || (column.type !== 'date' && column.type !== 'date-time') || column.format?.dateOrder)
      return null;
    return this.roll()
      .entries.map((entry) => (entry.exact?.[column.id] ? '' : valueOf(entry, column.id)))
      .find((text) => text && readMoment(text)?.ambiguous);
  });
  protected readonly numeric = computed(
    () => this.column()?.type === 'number' || this.column()?.type === 'percentage',
  );

  protected openWorked(columnId: string): void {
    this.store.dispatch(rollActions.openWorked({ columnId }));
  }

  protected setType(type: ColumnType): void {
    this.set({ type }, 'the type of');
  }

  protected setFormat(change: ColumnFormat): void {
    this.set({ format: { ...this.column()?.format, ...change } }, 'how to read');
  }

  private set(change: Partial<Column>, what: string): void {
    const column = this.column();
    if (!column) return;
    const columns = this.roll().columns.map((each) =>
      each.id === column.id ? { ...each, ...change } : each,
    );
    this.store.dispatch(rollActions.change({ patch: { columns }, what: `${what} “${column.title}”` }));
  }

  /** Gives the cell back what its source says. */
  protected restore(): void {
    const column = this.column();
    const entry = this.entry();
    const mend = this.cell()?.mend;
    if (!column || !entry || !mend) return;
    this.store.dispatch(
      rollActions.change({ patch: { cells: [{ entryId: entry.id, columnId: column.id, text: mend.text }] } }),
    );
  }

  protected pictureUrl(asset: string): string {
    return `/api/folios/${this.folio()?.id}/assets/${asset}`;
  }

  protected bringPictures(): void {
    this.dialog.open(PicturesDialog, { ariaLabelledBy: 'pictures-title' });
  }

  protected sample(text: string, order: 'dmy' | 'mdy'): string {
    return readMoment(text, order)?.iso ?? '';
  }
}
