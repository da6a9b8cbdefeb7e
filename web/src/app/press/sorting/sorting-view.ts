import { ScrollingModule } from '@angular/cdk/scrolling';
import { ChangeDetectionStrategy, Component, computed, inject, linkedSignal } from '@angular/core';
import { RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import { isIn } from '@scriptum/core/roll';
import { changesOf, countsOf, rebaseRules, sorterOf } from '@scriptum/core/sorting';
import { noteName, type SortingRule } from '@scriptum/core/template';
import { newId } from '../../api/new-id';
import { FindingsList } from '../../desk/findings-list';
import { cellsOf } from '../../editor/cells-of';
import { newTest } from '../../editor/condition-sentence';
import { deskActions, deskFeature } from '../../state/desk';
import { selectSortedBy } from '../../state/sorting';
import { writingActions, writingFeature } from '../../state/writing';
import { Icon } from '../../ui/icon';
import { StateMark } from '../../ui/state-mark';
import { PressViews } from '../press-views';
import { ChangedBar } from './changed-bar';
import { RulesList } from './rules-list';
import { SortingHistory } from './sorting-history';
import type { RuleSurroundings } from './sorting-sentence';
import { whoLines } from './who-lines';
import { WhyPanel } from './why-panel';

/** The rules as they are in use. */
interface Kept {
  readonly id: string | undefined;
  readonly rules: readonly SortingRule[];
}

/** Who gets which papers: the rules, and what they come to for everybody. */
@Component({
  selector: 'sc-sorting-view',
  imports: [
    ChangedBar,
    FindingsList,
    Icon,
    PressViews,
    RouterLink,
    RulesList,
    ScrollingModule,
    StateMark,
    WhyPanel,
  ],
  templateUrl: './sorting-view.html',
  host: {
    class: 'sc-middle',
    '(window:keydown.control.z)': 'step("undo", $event)',
    '(window:keydown.meta.z)': 'step("undo", $event)',
    '(window:keydown.control.y)': 'step("redo", $event)',
    '(window:keydown.meta.shift.z)': 'step("redo", $event)',
  },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SortingView {
  private readonly store = inject(Store);
  private readonly history = inject(SortingHistory);
  private readonly writing = this.store.selectSignal(writingFeature.selectSorting);
  private readonly roll = this.store.selectSignal(deskFeature.selectRoll);
  private readonly templates = this.store.selectSignal(writingFeature.selectTemplates);
  private readonly all = this.store.selectSignal(writingFeature.selectAllTemplates);
  private readonly notes = this.store.selectSignal(writingFeature.selectNotes);
  private readonly by = this.store.selectSignal(selectSortedBy);
  protected readonly picked = this.store.selectSignal(deskFeature.selectPicked);
  protected readonly lines = whoLines();

  private readonly saved = computed((): readonly SortingRule[] => this.writing()?.content.rules ?? []);
  /** Rules that were changed here and are not taken yet. */
  private readonly draft = linkedSignal<Kept, readonly SortingRule[] | null>({
    source: computed(() => ({ id: this.writing()?.id, rules: this.saved() })),
    // What somebody else makes of the rules meanwhile is not lost.
    computation: (now, before) =>
      before?.value && before.source.id === now.id
        ? rebaseRules(before.source.rules, before.value, now.rules)
        : null,
  });
  protected readonly rules = computed(() => this.draft() ?? this.saved());
  private readonly entries = computed(() => this.roll().entries.filter(isIn));
  private readonly sorter = computed(() => this.sorterFor(this.rules()));
  protected readonly counts = computed(
    () => countsOf(this.entries(), this.sorter(), this.rules().length).rules,
  );
  /** Whom what is not taken yet would change; null where nothing waits. */
  protected readonly changes = computed(() =>
    this.draft() && this.draft() !== this.saved()
      ? changesOf(this.entries(), this.sorterFor(this.saved()), this.sorter())
      : null,
  );
  protected readonly around = computed((): RuleSurroundings => {
    const { columns } = this.roll();
    return {
      columns,
      entry: this.picked(),
      papers: true,
      cellsOf: (columnId) => cellsOf(this.roll().entries, columnId),
      // A variant comes by itself to those for whom it is.
      templates: this.all()
        .filter(({ content }) => !content.variant || !this.isOn(content.variant.of))
        .map(({ id, content }) => ({ id, name: content.name, off: content.off === true })),
      notes: this.notes()
        .filter(({ content }) => content.goes === 'ruled' && !content.variant)
        .map((one) => ({ id: one.id, name: noteName(one) })),
    };
  });
  protected readonly everybody = computed(() =>
    this.templates()
      .filter(({ content }) => !content.variant)
      .map(({ content }) => content.name)
      .join(' and '),
  );
  /** Which papers there are: more than one kind, or rules already. */
  protected readonly hasRules = computed(() => this.rules().length > 0);
  protected readonly can = computed(() => {
    const writing = this.writing();
    return {
      undo: writing ? this.history.can(writing.id, writing.content, 'undo') : false,
      redo: writing ? this.history.can(writing.id, writing.content, 'redo') : false,
    };
  });

  protected add(): void {
    const [first] = this.roll().columns;
    const rule: SortingRule = {
      id: newId(),
      if: first ? newTest(first.id) : { papers: 'new' },
      then: { kind: 'gives', templates: [] },
    };
    const rules = this.rules();
    if (rules.length === 0) {
      const templates = this.around()
        .templates.filter(({ off }) => !off)
        .map(({ id }) => id);
      this.change([rule, { id: newId(), if: null, then: { kind: 'gives', templates } }]);
      return;
    }
    // Behind a rule for everyone else nothing is taken any more.
    const at = rules.findIndex((one) => one.if === null && one.then.kind !== 'also');
    this.change(at < 0 ? [...rules, rule] : [...rules.slice(0, at), rule, ...rules.slice(at)]);
  }

  /** Takes a change that changes nobody's papers at once; else people see first whose it changes. */
  protected change(rules: readonly SortingRule[]): void {
    const changes = changesOf(this.entries(), this.sorterFor(this.saved()), this.sorterFor(rules));
    if (changes.length === 0) this.save(rules);
    else this.draft.set(rules);
  }

  protected take(): void {
    const rules = this.draft();
    if (rules) this.save(rules);
  }

  protected leave(): void {
    this.draft.set(null);
  }

  protected step(way: 'undo' | 'redo', event?: Event): void {
    const writing = this.writing();
    if (!writing || (event?.target as Element | null)?.closest?.('input, textarea, [contenteditable]'))
      return;
    event?.preventDefault();
    if (this.draft()) {
      // What was not taken yet is what is taken back first.
      if (way === 'undo') this.leave();
      return;
    }
    const content = this.history[way](writing.id, writing.content);
    if (content) this.store.dispatch(writingActions.changed({ id: writing.id, content }));
  }

  protected pick(entryId: string): void {
    this.store.dispatch(deskActions.pick({ entryId }));
  }

  protected readonly same = (_: number, { key }: { key: string }): string => key;

  private save(rules: readonly SortingRule[]): void {
    const writing = this.writing();
    if (!writing) return;
    const content = { rules: [...rules] };
    this.history.note(writing.id, writing.content, content, '', Date.now());
    this.store.dispatch(writingActions.changed({ id: writing.id, content }));
    this.draft.set(null);
  }

  private sorterFor(rules: readonly SortingRule[]) {
    return sorterOf(this.templates(), { ...this.by(), sorting: { rules: [...rules] } });
  }

  private isOn(templateId: string): boolean {
    return this.templates().some(({ id }) => id === templateId);
  }
}
