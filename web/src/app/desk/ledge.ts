import { DecimalPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { RouterLink } from '@angular/router';
import { mayPress } from '@scriptum/core/preflight';
import { isIn } from '@scriptum/core/roll';
import { Icon } from '../ui/icon';
import { Store } from '@ngrx/store';
import { deskActions, deskFeature, type StripFilter } from '../state/desk';
import { selectCounts, selectFindings } from '../state/findings';
import { selectSorter } from '../state/sorting';
import { registerActions, registerFeature } from '../state/register';
import { timeLeft } from './time-left';

/** Always says how many are ready and why the others are not, and has the two ways to press. */
@Component({
  selector: 'sc-ledge',
  imports: [DecimalPipe, RouterLink, Icon],
  templateUrl: './ledge.html',
  host: {
    role: 'contentinfo',
    'aria-label': 'Ledge',
    class: 'flex min-h-12 flex-wrap items-center gap-x-4 gap-y-1 border-t border-rule bg-leaf px-4 py-1',
  },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Ledge {
  private readonly store = inject(Store);
  protected readonly counts = this.store.selectSignal(selectCounts);
  private readonly roll = this.store.selectSignal(deskFeature.selectSettledRoll);
  private readonly sorter = this.store.selectSignal(selectSorter);
  /** All papers of all learners. */
  protected readonly papers = computed(() => {
    const sorted = this.sorter();
    return this.roll()
      .entries.filter(isIn)
      .reduce((sum, entry) => sum + sorted(entry).templates.length, 0);
  });
  protected readonly picked = this.store.selectSignal(deskFeature.selectPicked);
  protected readonly register = this.store.selectSignal(registerFeature.selectRegisterState);
  protected readonly run = this.store.selectSignal(registerFeature.selectRun);
  private readonly findings = this.store.selectSignal(selectFindings);
  protected readonly blocking = computed(() =>
    this.findings().filter((finding) => finding.blocks === 'press'),
  );
  protected readonly mayPress = computed(
    () =>
      this.counts().all > 0 &&
      mayPress(this.findings()) &&
      !this.register().asking &&
      this.run()?.state !== 'running',
  );
  protected readonly progress = computed(() => {
    const run = this.run();
    if (run?.state !== 'running') return null;
    const done = run.pressed + run.failed;
    return {
      id: run.id,
      done,
      total: run.total,
      left: timeLeft(Date.parse(run.startedAt), Date.now(), done, run.total),
    };
  });
  /** The dispatch under way: messages that are neither sent nor given up. */
  protected readonly posting = computed(() => {
    const dispatch = this.register().register?.dispatch;
    // What is kept back, or waits for an account that does not work, is not on its way.
    return dispatch && !dispatch.fault && dispatch.waiting > dispatch.keptBack
      ? { done: dispatch.total - dispatch.waiting, total: dispatch.total }
      : null;
  });

  /** Messages that wait because no mail goes out at all just now. */
  protected readonly stuck = computed(() => {
    const dispatch = this.register().register?.dispatch;
    return dispatch?.fault ? dispatch.waiting - dispatch.keptBack : 0;
  });

  protected show(filter: Exclude<StripFilter, 'some'>): void {
    this.store.dispatch(deskActions.filter({ filter }));
  }

  protected pressOne(): void {
    const entry = this.picked();
    if (entry) this.store.dispatch(registerActions.press({ entryIds: [entry.id] }));
  }

  protected pressAll(): void {
    this.store.dispatch(registerActions.press({ entryIds: null }));
  }

  protected stop(runId: string): void {
    this.store.dispatch(registerActions.stop({ runId }));
  }

  protected close(): void {
    this.store.dispatch(registerActions.noticeSeen());
  }
}
