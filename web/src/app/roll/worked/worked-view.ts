import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  signal,
  untracked,
  type Signal,
} from '@angular/core';
import { Dialog } from '@angular/cdk/dialog';
import { Store } from '@ngrx/store';
import { describeWorked, followTitle } from '@scriptum/core/marks';
import { patchOf } from '@scriptum/core/roll';
import type { Column, Worked } from '@scriptum/core/column';
import { FindingsList } from '../../desk/findings-list';
import { deskActions, deskFeature } from '../../state/desk';
import { rollActions, rollFeature, type Draft } from '../../state/roll';
import { ConfirmDialog, type Confirmation } from '../../ui/confirm-dialog';
import { Icon } from '../../ui/icon';
import type { ColumnOverview, ColumnPreview } from '../thread/marks-desk';
import { MarksThread } from '../thread/marks-thread';
import { UndoTools } from '../undo-tools';
import { AttendanceForm } from './attendance-form';
import { BandForm } from './band-form';
import { CohortForm } from './cohort-form';
import { DistributionChart } from './distribution-chart';
import { DraftBar } from './draft-bar';
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
  personal:
    'Each learner’s own way to a form, which is to be given to nobody else. Put it into a note as a field, or print it. Who has it sees the learner’s name.',
};

/** How a worked column is worked out: what goes into it, what it comes to, and the steps for the picked learner. */
@Component({
  selector: 'sc-worked-view',
  imports: [
    AttendanceForm,
    BandForm,
    CohortForm,
    DistributionChart,
    DraftBar,
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
  private readonly dialog = inject(Dialog);
  protected readonly roll = this.store.selectSignal(deskFeature.selectRoll);
  protected readonly columns = this.store.selectSignal(deskFeature.selectColumns);
  protected readonly entry = this.store.selectSignal(deskFeature.selectPicked);
  protected readonly names = this.store.selectSignal(deskFeature.selectNames);
  protected readonly question = this.store.selectSignal(rollFeature.selectOpenQuestion);
  private readonly results = this.store.selectSignal(deskFeature.selectWorked);
  /** The column as the store has it at this moment. */
  private readonly now = computed(
    () => this.columns().find(({ id }) => id === this.column().id) ?? this.column(),
  );
  private readonly pending = this.store.selectSignal(rollFeature.selectDraft);
  private readonly draft = computed(() => {
    const draft = this.pending();
    return draft?.columnId === this.column().id ? draft : null;
  });
  /** What the draft would change; null while there is none, or it is still being looked at. */
  protected readonly preview = signal<readonly ColumnPreview[] | null>(null);
  protected readonly worked = computed(() => this.draft()?.worked ?? this.now().worked!);
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
    effect(() => {
      const draft = this.draft();
      this.results();
      untracked(() => void this.weigh(draft));
    });
  }

  private async look(columnId: string): Promise<void> {
    const asked = ++this.asked;
    if (!this.thread.ready) return;
    const overview = await this.thread.desk().overview(columnId);
    if (asked === this.asked) this.overview.set(overview);
  }

  /** A change of weights or thresholds waits until people have seen whose marks it changes, and what follows it waits too. */
  protected change({ worked, what, asks }: WorkedChange<Worked>): void {
    if (asks || this.draft())
      this.store.dispatch(rollActions.draft({ draft: { columnId: this.column().id, worked, what } }));
    else this.apply(worked, what);
  }

  /** The definition for the form of its kind: as a signal, so that a quick second change stands on the first. */
  protected ofKind<Kind extends Worked['kind']>(_kind: Kind): Signal<Extract<Worked, { kind: Kind }>> {
    return this.worked as Signal<Extract<Worked, { kind: Kind }>>;
  }

  private apply(worked: Worked, what: string): void {
    const patch = this.wanted(worked);
    this.store.dispatch(rollActions.change({ patch, what: `${what} of “${this.column().title}”` }));
  }

  private wanted(worked: Worked): { columns: Column[] } {
    const { id } = this.column();
    return {
      columns: this.columns().map((column) =>
        column.id === id
          ? { ...column, ...typed(column, worked), title: followTitle(column, worked, this.roll()) }
          : column,
      ),
    };
  }

  private async weigh(draft: Draft | null): Promise<void> {
    if (!draft) {
      this.preview.set(null);
      return;
    }
    const preview = this.thread.ready
      ? await this.thread.desk().preview(patchOf(this.wanted(draft.worked), this.roll()))
      : [];
    if (this.draft() !== draft) return;
    // What changes nothing for anybody need not wait.
    if (preview.length === 0) this.take();
    else this.preview.set(preview);
  }

  protected take(): void {
    const draft = this.draft();
    this.leave();
    if (draft) this.apply(draft.worked, draft.what);
  }

  protected leave(): void {
    this.store.dispatch(rollActions.draft({ draft: null }));
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
    const go = (): void => this.store.dispatch(rollActions.openWorked({ columnId }));
    if (!this.draft()) {
      go();
      return;
    }
    const data: Confirmation = {
      title: 'Take the change?',
      text: `The change to “${this.column().title}” is not taken yet. Without it everything stays as it was.`,
      yes: 'Take it',
      no: 'Leave it as it was',
    };
    this.dialog
      .open<boolean>(ConfirmDialog, { data, ariaLabelledBy: 'confirm-title' })
      .closed.subscribe((yes) => {
        if (yes === undefined) return;
        if (yes) this.take();
        else this.leave();
        go();
      });
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
