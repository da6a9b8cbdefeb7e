import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  signal,
  untracked,
} from '@angular/core';
import { Store } from '@ngrx/store';
import { describeWorked, followTitle } from '@scriptum/core/marks';
import type { Column } from '@scriptum/core/table';
import type { Worked } from '@scriptum/core/worked';
import { FindingsList } from '../../desk/findings-list';
import { deskActions, deskFeature } from '../../state/desk';
import { rollActions, rollFeature } from '../../state/roll';
import { Icon } from '../../ui/icon';
import type { ColumnOverview } from '../thread/marks-desk';
import { MarksThread } from '../thread/marks-thread';
import { UndoTools } from '../undo-tools';
import { AttendanceForm } from './attendance-form';
import { BandForm } from './band-form';
import { CohortForm } from './cohort-form';
import { DistributionChart } from './distribution-chart';
import type { WorkedChange } from './fields';
import { FormulaForm } from './formula-form';
import { HandMarking } from './hand-marking';
import { KeyForm } from './key-form';
import { PartForm } from './part-form';
import { RemarkForm } from './remark-form';
import { SchemeForm } from './scheme-form';
import { StepsPanel } from './steps-panel';

const ABOUT: Readonly<Record<Worked['kind'], string>> = {
  scheme: 'Pieces of work and their weights come to one mark in percent.',
  band: 'A mark gets a letter, a level or a word.',
  cohort: 'How a learner stands among the others.',
  attendance: 'Sessions present, late and away.',
  key: 'Right answers with their points come to a score.',
  remark: 'Each learner gets a remark that fits the mark.',
  expression: 'A formula over the columns of the roll.',
  part: 'Something that another worked column knows, to be printed.',
};

/** How a worked column is worked out: what goes into it, what it comes to, and the steps for the picked learner. */
@Component({
  selector: 'sc-worked-view',
  imports: [
    AttendanceForm,
    BandForm,
    CohortForm,
    DistributionChart,
    FindingsList,
    FormulaForm,
    HandMarking,
    Icon,
    KeyForm,
    PartForm,
    RemarkForm,
    SchemeForm,
    StepsPanel,
    UndoTools,
  ],
  templateUrl: './worked-view.html',
  host: { class: 'sc-middle wide' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class WorkedView {
  readonly column = input.required<Column>();

  private readonly store = inject(Store);
  private readonly thread = inject(MarksThread);
  protected readonly roll = this.store.selectSignal(deskFeature.selectRoll);
  protected readonly columns = this.store.selectSignal(deskFeature.selectColumns);
  protected readonly entry = this.store.selectSignal(deskFeature.selectPicked);
  protected readonly names = this.store.selectSignal(deskFeature.selectNames);
  protected readonly question = this.store.selectSignal(rollFeature.selectOpenQuestion);
  private readonly results = this.store.selectSignal(deskFeature.selectWorked);
  protected readonly worked = computed(() => this.column().worked!);
  protected readonly about = computed(() => ABOUT[this.worked().kind]);
  protected readonly kind = computed(() => describeWorked(this.worked()));
  protected readonly percent = computed(() => {
    const worked = this.worked();
    return (
      worked.kind === 'scheme' || ('give' in worked && (worked.give === 'rate' || worked.give === 'percent'))
    );
  });
  protected readonly counted = computed(() => {
    const { kind } = this.worked();
    return kind === 'remark' || kind === 'part' ? [] : (this.overview()?.counts ?? []);
  });
  protected readonly others = computed(() => this.columns().filter(({ worked }) => worked));
  protected readonly overview = signal<ColumnOverview | null>(null);
  private asked = 0;

  constructor() {
    effect(() => {
      const { id } = this.column();
      this.results();
      untracked(() => void this.look(id));
    });
  }

  private async look(columnId: string): Promise<void> {
    const asked = ++this.asked;
    if (!this.thread.ready) return;
    const overview = await this.thread.desk().overview(columnId);
    if (asked === this.asked) this.overview.set(overview);
  }

  protected change({ worked, what }: WorkedChange<Worked>): void {
    const { id, title } = this.column();
    const columns = this.columns().map((column) =>
      column.id === id
        ? { ...column, ...typed(column, worked), title: followTitle(column, worked, this.roll()) }
        : column,
    );
    this.store.dispatch(rollActions.change({ patch: { columns }, what: `${what} of “${title}”` }));
  }

  protected rename(box: HTMLInputElement): void {
    const title = box.value.trim();
    const { id } = this.column();
    if (!title) box.value = this.column().title;
    else if (title !== this.column().title) {
      const columns = this.columns().map((column) => (column.id === id ? { ...column, title } : column));
      this.store.dispatch(rollActions.change({ patch: { columns }, what: `the title of “${title}”` }));
    }
  }

  protected open(columnId: string | null): void {
    this.store.dispatch(rollActions.openWorked({ columnId }));
  }

  protected pick(entryId: string): void {
    this.store.dispatch(deskActions.pick({ entryId }));
  }
}

/** The type that follows from what a column gives, so that it is written and sorted as numbers where it is one. */
function typed(column: Column, worked: Worked): Pick<Column, 'worked' | 'type'> {
  const numeric =
    worked.kind === 'scheme' ||
    worked.kind === 'key' ||
    worked.kind === 'cohort' ||
    (worked.kind === 'attendance' && worked.give !== 'sentence') ||
    (worked.kind === 'band' && worked.give === 'points') ||
    (worked.kind === 'part' && ['open', 'lowest', 'highest', 'group', 'points'].includes(worked.part));
  // What is written for small groups is no number.
  const texts = worked.kind === 'cohort' && worked.fewer !== '';
  return { worked, type: numeric && !texts ? 'number' : column.type === 'number' ? undefined : column.type };
}
