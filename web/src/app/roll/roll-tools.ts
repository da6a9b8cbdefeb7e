import { Chosen } from '../ui/bound';
import { Dialog } from '@angular/cdk/dialog';
import { CdkMenu, CdkMenuItem, CdkMenuItemCheckbox, CdkMenuTrigger } from '@angular/cdk/menu';
import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { Store } from '@ngrx/store';
import { OUTCOME_COLUMNS } from '@scriptum/core/paper';
import type { ColumnFilter, View } from '@scriptum/core/roll';
import { deskFeature } from '../state/desk';
import { rollActions, rollFeature } from '../state/roll';
import { Icon, type IconName } from '../ui/icon';
import { Outcomes } from './outcomes';
import { PicturesDialog } from './pictures/pictures-dialog';
import { UndoTools } from './undo-tools';
import { beginWorked, type BegunKind } from '@scriptum/core/marks';
import { newId } from '../api/new-id';

const WORKS: readonly { readonly kind: BegunKind; readonly label: string; readonly icon: IconName }[] = [
  { kind: 'scheme', label: 'Mark scheme', icon: 'lucideScale' },
  { kind: 'band', label: 'Bands: letters, levels, words', icon: 'lucideLayers' },
  { kind: 'cohort', label: 'Comparison: rank, mean, change', icon: 'lucideChartColumn' },
  { kind: 'attendance', label: 'Attendance', icon: 'lucideCalendar' },
  { kind: 'key', label: 'Marking key for answers', icon: 'lucideListChecks' },
  { kind: 'remark', label: 'Remarks from a comment bank', icon: 'lucideMessageSquareText' },
  { kind: 'expression', label: 'Formula', icon: 'lucideSquareFunction' },
  { kind: 'part', label: 'Steps, or part of another one', icon: 'lucideListTree' },
];

/** Above the table: finding, narrowing, undoing, columns, saving as a file. */
@Component({
  selector: 'sc-roll-tools',
  imports: [Chosen, CdkMenu, CdkMenuItem, CdkMenuItemCheckbox, CdkMenuTrigger, Icon, UndoTools],
  templateUrl: './roll-tools.html',
  host: { class: 'block border-b border-rule bg-leaf' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class RollTools {
  /** Entries that the table shows now. */
  readonly activeColumnId = input<string | null>(null);
  readonly shown = input.required<number>();

  private readonly store = inject(Store);
  private readonly dialog = inject(Dialog);
  protected readonly outcomes = inject(Outcomes);
  protected readonly state = this.store.selectSignal(rollFeature.selectRollState);
  protected readonly folio = this.store.selectSignal(deskFeature.selectFolio);
  protected readonly roll = this.store.selectSignal(deskFeature.selectRoll);
  protected readonly narrowed = this.store.selectSignal(rollFeature.selectNarrowed);
  protected readonly hidden = computed(() => this.roll().columns.filter(({ hidden }) => hidden).length);
  protected readonly filters = computed(() =>
    Object.entries(this.state().view.filters).map(([columnId, filter]) => ({
      columnId,
      text: `${[...this.roll().columns, ...OUTCOME_COLUMNS].find(({ id }) => id === columnId)?.title ?? ''}: ${say(filter)}`,
    })),
  );
  protected readonly kinds = [
    { kind: 'xlsx', label: 'Excel workbook (XLSX)' },
    { kind: 'ods', label: 'OpenDocument spreadsheet (ODS)' },
    { kind: 'csv', label: 'Text file (CSV)' },
  ];

  protected readonly kindsOfWork = WORKS;

  protected addWorked(kind: BegunKind): void {
    const column = beginWorked(kind, this.roll(), this.activeColumnId(), newId);
    const columns = [...this.roll().columns, column];
    this.store.dispatch(rollActions.change({ patch: { columns }, what: `the column “${column.title}”` }));
    this.store.dispatch(rollActions.openWorked({ columnId: column.id }));
  }

  protected look(view: Partial<View>): void {
    this.store.dispatch(rollActions.lookDifferent({ view }));
  }

  protected unfilter(columnId: string): void {
    this.store.dispatch(rollActions.filter({ columnId, filter: null }));
  }

  protected showAll(): void {
    this.look({ find: '', who: 'all', filters: {} });
  }

  protected closeNotice(): void {
    this.store.dispatch(rollActions.notice({ text: null }));
  }

  protected toggle(columnId: string): void {
    const columns = this.roll().columns.map((column) =>
      column.id === columnId ? { ...column, hidden: !column.hidden } : column,
    );
    this.store.dispatch(rollActions.change({ patch: { columns }, what: 'which columns are shown' }));
  }

  protected addColumn(): void {
    const titles = new Set(this.roll().columns.map(({ title }) => title));
    let title = 'New column';
    for (let n = 2; titles.has(title); n++) title = `New column ${n}`;
    const columns = [...this.roll().columns, { id: newId(), title }];
    this.store.dispatch(rollActions.change({ patch: { columns }, what: `the column “${title}”` }));
  }

  protected bringPictures(): void {
    this.dialog.open(PicturesDialog, { ariaLabelledBy: 'pictures-title' });
  }

  protected file(kind: string): string {
    return `/api/folios/${this.folio()!.id}/roll-file?kind=${kind}${this.outcomes.shown() ? '&outcome=yes' : ''}`;
  }
}

function say(filter: ColumnFilter): string {
  switch (filter.kind) {
    case 'has':
      return `has “${filter.text}”`;
    case 'is':
      return filter.texts.join(', ');
    case 'wrong':
      return 'does not fit the type';
    default:
      return filter.kind;
  }
}
