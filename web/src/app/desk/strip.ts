import { ScrollingModule, CdkVirtualScrollViewport } from '@angular/cdk/scrolling';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  untracked,
  viewChild,
} from '@angular/core';
import { Icon } from '../ui/icon';
import { Store } from '@ngrx/store';
import type { Entry } from '@scriptum/core/roll';
import { deskActions, deskFeature } from '../state/desk';
import { selectCounts, selectShown } from '../state/findings';
import { writingFeature } from '../state/writing';

const LINE = 30;

/** The roll as a list. One learner is always picked. */
@Component({
  selector: 'sc-strip',
  imports: [ScrollingModule, Icon],
  templateUrl: './strip.html',
  host: {
    role: 'complementary',
    'aria-label': 'Strip of learners',
    class: 'flex flex-col border-r border-rule bg-leaf',
  },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Strip {
  private readonly store = inject(Store);
  private readonly viewport = viewChild(CdkVirtualScrollViewport);
  protected readonly line = LINE;
  protected readonly shown = this.store.selectSignal(selectShown);
  protected readonly counts = this.store.selectSignal(selectCounts);
  protected readonly desk = this.store.selectSignal(deskFeature.selectDeskState);

  /** Learners for whom something is another one in a letter. */
  protected readonly excepted = this.store.selectSignal(writingFeature.selectExceptedIds);

  /** The picked learner's line, where it is among those that are shown. */
  protected readonly activeId = computed(() => {
    const { pickedId } = this.desk();
    return this.shown().some(({ entry }) => entry.id === pickedId) ? `line-${pickedId}` : null;
  });

  protected readonly only = computed(() => {
    const { filter, some } = this.desk();
    if (filter === 'some') return some?.label ?? '';
    return { all: '', look: 'Only those to look at', out: 'Only those left out', ready: 'Only those ready' }[
      filter
    ];
  });

  constructor() {
    // Keeps the picked learner in sight.
    effect(() => {
      const id = this.desk().pickedId;
      const viewport = this.viewport();
      untracked(() => {
        const at = this.shown().findIndex(({ entry }) => entry.id === id);
        if (!viewport || at < 0) return;
        const top = viewport.measureScrollOffset();
        const height = viewport.getViewportSize();
        if (at * LINE < top || (at + 1) * LINE > top + height)
          viewport.scrollToOffset(Math.max(0, at * LINE - height / 2));
      });
    });
  }

  /** A line stays the same element, so that a click goes where it was meant while names and findings change. */
  protected readonly same = (_: number, { entry }: { entry: Entry }): string => entry.id;

  protected pick(entryId: string): void {
    this.store.dispatch(deskActions.pick({ entryId }));
  }

  protected step(step: 1 | -1, event?: Event): void {
    event?.preventDefault();
    this.store.dispatch(deskActions.pickNext({ step }));
  }

  protected find(text: string): void {
    this.store.dispatch(deskActions.find({ find: text }));
  }

  protected showAll(): void {
    this.store.dispatch(deskActions.filter({ filter: 'all' }));
    this.find('');
  }
}
