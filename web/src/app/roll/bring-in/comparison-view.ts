import { Entered } from '../../ui/bound';
import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { Store } from '@ngrx/store';
import { bringingInActions, bringingInFeature } from '../state/bringing-in';
import { deskFeature } from '../../state/desk';
import { registerFeature } from '../../state/register';
import { KeyProposal } from '../key-proposal';
import type { Comparison } from '../thread/sheet-desk';

/** Lines that are listed; beyond, a number says how many more there are. */
const LISTED = 100;

/** How a newer version differs from the roll, and what shall become of each difference. */
@Component({
  selector: 'sc-comparison-view',
  imports: [Entered, KeyProposal],
  templateUrl: './comparison-view.html',
  host: { class: 'block' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ComparisonView {
  readonly comparison = input.required<Comparison>();

  private readonly store = inject(Store);
  private readonly names = this.store.selectSignal(deskFeature.selectNames);
  private readonly roll = this.store.selectSignal(deskFeature.selectRoll);
  private readonly folio = this.store.selectSignal(deskFeature.selectFolio);
  private readonly sources = computed(() => this.folio()?.sources ?? []);
  private readonly purpose = this.store.selectSignal(bringingInFeature.selectPurpose);
  private readonly papers = this.store.selectSignal(registerFeature.selectPresent);
  protected readonly decisions = this.store.selectSignal(bringingInFeature.selectDecisions);
  private readonly titles = computed(() => new Map(this.roll().columns.map(({ id, title }) => [id, title])));
  private readonly withPaper = computed(() => new Set(this.papers().map(({ entryId }) => entryId)));
  protected readonly listed = LISTED;

  protected readonly fresh = computed(() => this.comparison().columns.filter(({ how }) => how === 'new'));
  protected readonly lost = computed(() => this.comparison().columns.filter(({ how }) => how === 'removed'));
  protected readonly renamed = computed(() =>
    this.comparison().columns.filter(({ how }) => how === 'renamed'),
  );
  /** Columns of the file that the roll has from somewhere else, as in a file that was saved from here. */
  protected readonly elsewhere = computed(() =>
    this.comparison()
      .columns.filter(({ how }) => how === 'elsewhere')
      .map((pair) => {
        const column = this.roll().columns.find(({ id }) => id === pair.columnId);
        const source = this.sources().find(({ id }) => id === column?.sourceId);
        return {
          ...pair,
          why: column?.worked
            ? 'the roll works it out'
            : source
              ? `it comes from ${source.fileName}`
              : 'it holds points that were given here',
        };
      }),
  );
  protected readonly missing = computed(() =>
    this.comparison().missing.map((id) => ({
      name: this.names().get(id) ?? '',
      paper: this.withPaper().has(id),
    })),
  );
  protected readonly changes = computed(() =>
    this.comparison()
      .changes.slice(0, LISTED)
      .map((change) => ({
        ...change,
        name: this.names().get(change.entryId),
        title: this.titles().get(change.columnId),
      })),
  );
  protected readonly changedWithPaper = computed(
    () =>
      new Set(
        this.comparison()
          .changes.map(({ entryId }) => entryId)
          .filter((id) => this.withPaper().has(id)),
      ).size,
  );
  protected readonly conflicts = computed(() =>
    this.comparison().conflicts.map((conflict) => ({
      ...conflict,
      key: `${conflict.entryId} ${conflict.columnId}`,
      name: this.names().get(conflict.entryId),
      title: this.titles().get(conflict.columnId),
    })),
  );

  /** Compares anew, under another key. */
  protected again(): void {
    this.store.dispatch(bringingInActions.choosePurpose({ purpose: this.purpose() }));
  }

  protected titleOf(columnId: string | null): string {
    return this.titles().get(columnId ?? '') ?? '';
  }

  protected decide(key: string, side: 'mine' | 'theirs'): void {
    const conflicts = { ...this.decisions().conflicts, [key]: side };
    this.store.dispatch(bringingInActions.decide({ decisions: { conflicts } }));
  }

  protected decideAll(side: 'mine' | 'theirs'): void {
    this.store.dispatch(bringingInActions.decide({ decisions: { conflicts: {}, otherConflicts: side } }));
  }

  protected side(key: string): 'mine' | 'theirs' {
    return this.decisions().conflicts?.[key] ?? this.decisions().otherConflicts;
  }

  protected setMissing(missing: 'leave out' | 'keep'): void {
    this.store.dispatch(bringingInActions.decide({ decisions: { missing } }));
  }

  /** Says which column of the roll a new or renamed column of the sheet is. */
  protected match(title: string | null, columnId: string): void {
    const columns = { ...this.decisions().columns, [title ?? '']: columnId || null };
    this.store.dispatch(bringingInActions.decide({ decisions: { columns } }));
  }
}
