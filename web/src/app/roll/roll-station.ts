import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import { isOutcome, withOutcomes } from '@scriptum/core/paper';
import { arrange, type Entry } from '@scriptum/core/roll';
import { FindingsList } from '../desk/findings-list';
import { bringingInActions, bringingInFeature } from './state/bringing-in';
import { deskActions, deskFeature } from '../state/desk';
import { rollActions, rollFeature } from '../state/roll';
import { Icon } from '../ui/icon';
import { SheetDrop } from '../ui/sheet-drop';
import { BringInView } from './bring-in/bring-in-view';
import type { Box } from './grid/range';
import { RangeBar } from './grid/range-bar';
import { RollGrid, type GridWish } from './grid/roll-grid';
import { CellPanel } from './margin/cell-panel';
import { EntryPanel } from './margin/entry-panel';
import { OffersPanel } from './margin/offers-panel';
import { SourcesPanel } from './margin/sources-panel';
import { OfferView } from './offer-view';
import { Outcomes } from './outcomes';
import { RollTools } from './roll-tools';
import { RollViews } from './roll-views';
import { WorkedView } from './worked/worked-view';

/** Said where somebody would write in what is told. */
const FIXED = 'What became of the papers stands in the register. Nothing was written there.';

/** Station Roll: the table of the folio's people, and what brings it into order. */
@Component({
  selector: 'sc-roll-station',
  imports: [
    BringInView,
    CellPanel,
    EntryPanel,
    FindingsList,
    Icon,
    OffersPanel,
    OfferView,
    RangeBar,
    RollGrid,
    RollTools,
    RollViews,
    RouterLink,
    SheetDrop,
    SourcesPanel,
    WorkedView,
  ],
  templateUrl: './roll-station.html',
  host: {
    class: 'block h-full',
    '(document:keydown)': 'key($event)',
    '(document:paste)': 'pasteAnywhere($event)',
  },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class RollStation {
  private readonly store = inject(Store);
  protected readonly desk = this.store.selectSignal(deskFeature.selectDeskState);
  protected readonly roll = this.store.selectSignal(deskFeature.selectRoll);
  protected readonly state = this.store.selectSignal(rollFeature.selectRollState);
  protected readonly undoWhat = this.store.selectSignal(rollFeature.selectUndoWhat);
  protected readonly offer = this.store.selectSignal(rollFeature.selectOffer);
  protected readonly bringing = this.store.selectSignal(bringingInFeature.selectBringingInState);
  private readonly outcomes = inject(Outcomes);
  /** The roll as it is shown: with what became of each entry behind, where that is wanted. */
  protected readonly shown = computed(() => {
    const told = this.outcomes.told();
    return told ? withOutcomes(this.roll(), told) : this.roll();
  });
  protected readonly columns = computed(() => this.shown().columns.filter((column) => !column.hidden));
  protected readonly isFixed = isOutcome;
  /** The worked column whose working-out is open. */
  protected readonly openWorked = computed(() =>
    this.roll().columns.find(({ id, worked }) => worked && id === this.state().openWorked),
  );
  protected readonly activeColumnId = signal<string | null>(null);
  private readonly grid = viewChild(RollGrid);
  protected readonly choice = signal<Box>({ top: 0, bottom: 0, left: 0, right: 0 });
  /**
   * The order in which entries are shown. It follows the view and who is on the roll, not each cell: a row must not jump
   * away while somebody writes in it.
   */
  private readonly order = signal<{ readonly of: readonly Entry[]; readonly places: readonly number[] }>({
    of: [],
    places: [],
  });
  /** Who is on the roll; another list only where somebody comes or goes, though the entries in it may be older ones. */
  private readonly members = computed(() => this.roll().entries, {
    equal: (a, b) => a.length === b.length && a.every((entry, n) => entry === b[n] || entry.id === b[n]!.id),
  });
  private readonly view = computed(() => this.state().view);
  protected readonly entries = computed(() => {
    const { of, places } = this.order();
    const { entries } = this.shown();
    // Between a change of who is there and the new order.
    if (of !== this.members()) return entries;
    return places.map((at) => entries[at]!);
  });

  constructor() {
    effect(() => {
      const view = this.view();
      const members = this.members();
      untracked(() => {
        const places = new Map(this.roll().entries.map(({ id }, at) => [id, at]));
        const arranged = arrange(this.shown(), view, navigator.language);
        this.order.set({ of: members, places: arranged.map(({ id }) => places.get(id)!) });
      });
    });
  }

  protected pick(entryId: string): void {
    this.store.dispatch(deskActions.pick({ entryId }));
  }

  protected choose(file: File): void {
    const purpose = this.roll().entries.length > 0 ? this.likelyPurpose() : ({ kind: 'base' } as const);
    this.store.dispatch(bringingInActions.fileChosen({ file, purpose }));
  }

  /** A further file is most often a newer version of what is there. */
  private likelyPurpose() {
    const base = this.desk().folio?.sources.find(({ kind }) => kind === 'base');
    return base ? ({ kind: 'refresh', sourceId: base.id } as const) : ({ kind: 'base' } as const);
  }

  protected wish(wish: GridWish): void {
    switch (wish.kind) {
      case 'cells': {
        const cells = wish.cells.filter(({ columnId }) => !isOutcome(columnId));
        if (cells.length < wish.cells.length) this.store.dispatch(rollActions.notice({ text: FIXED }));
        if (cells.length > 0) this.store.dispatch(rollActions.change({ patch: { cells } }));
        break;
      }
      case 'undo':
        this.store.dispatch(rollActions.undo());
        break;
      case 'redo':
        this.store.dispatch(rollActions.redo());
        break;
      case 'notice':
        this.store.dispatch(rollActions.notice({ text: wish.text }));
    }
  }

  protected rangeWish(wish: 'fill down' | 'clear' | 'focus'): void {
    if (wish === 'fill down') this.grid()?.fillDown();
    else if (wish === 'clear') this.grid()?.clear();
    this.grid()?.focus();
  }

  /** Undo works in the whole station, where no text is being written. */
  protected key(event: KeyboardEvent): void {
    const target = event.target as HTMLElement;
    if (
      event.defaultPrevented ||
      target.closest('input, textarea, [contenteditable="true"], [role="grid"], [role="dialog"]')
    )
      return;
    if (!(event.ctrlKey || event.metaKey) || event.altKey) return;
    if (event.key.toLowerCase() === 'z') {
      event.preventDefault();
      this.wish({ kind: event.shiftKey ? 'redo' : 'undo' });
    } else if (event.key === 'y') {
      event.preventDefault();
      this.wish({ kind: 'redo' });
    }
  }

  /** Cells pasted into an empty roll become the roll. */
  protected pasteAnywhere(event: ClipboardEvent): void {
    const target = event.target as HTMLElement;
    if (this.roll().entries.length > 0 || this.bringing().stage !== 'none') return;
    if (target.closest('input, textarea, [contenteditable="true"]')) return;
    const text = event.clipboardData?.getData('text/plain');
    if (!text?.includes('\n')) return;
    event.preventDefault();
    this.store.dispatch(
      bringingInActions.fileChosen({
        file: new File([text], 'Pasted cells.tsv', { type: 'text/tab-separated-values' }),
        purpose: { kind: 'base' },
        asked: text.includes('\t') ? { delimiter: '\t' } : {},
      }),
    );
  }
}
