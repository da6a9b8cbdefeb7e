import { Dialog } from '@angular/cdk/dialog';
import { DecimalPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { RouterLink } from '@angular/router';
import { CdkMenu, CdkMenuItem, CdkMenuTrigger } from '@angular/cdk/menu';
import { mayPress } from '@scriptum/core/preflight';
import { phrase } from '@scriptum/core/sentences';
import { Icon } from '../ui/icon';
import { Store } from '@ngrx/store';
import { deskActions, deskFeature, type SomeEntries, type StripFilter } from '../state/desk';
import { selectCounts, selectFindings } from '../state/findings';
import { registerActions, registerFeature } from '../state/register';
import { rateOf, timeLeft } from './time-left';
import { PressMenu } from './press-menu';
import { reasonsOf } from './reasons';
import { TryDialog } from './try-dialog';

/** Always says how many are ready and why the others are not, and has the two ways to press. */
@Component({
  selector: 'sc-ledge',
  imports: [CdkMenu, CdkMenuItem, CdkMenuTrigger, DecimalPipe, RouterLink, Icon, PressMenu],
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
  private readonly dialogs = inject(Dialog);
  protected readonly counts = this.store.selectSignal(selectCounts);
  protected readonly picked = this.store.selectSignal(deskFeature.selectPicked);
  protected readonly register = this.store.selectSignal(registerFeature.selectRegisterState);
  protected readonly run = this.store.selectSignal(registerFeature.selectRun);
  private readonly findings = this.store.selectSignal(selectFindings);
  private readonly present = this.store.selectSignal(registerFeature.selectPresent);
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
      rate: rateOf(Date.parse(run.startedAt), Date.now(), done),
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

  /** Why papers are not ready, with whose they are. */
  protected readonly reasons = computed((): SomeEntries[] =>
    reasonsOf(this.findings(), this.present(), (code) => phrase('finding-kind', { code })),
  );

  protected showThese(some: SomeEntries): void {
    this.store.dispatch(deskActions.showSome({ some }));
  }

  protected show(filter: Exclude<StripFilter, 'some'>): void {
    this.store.dispatch(deskActions.filter({ filter }));
  }

  protected pressOne(): void {
    const entry = this.picked();
    if (entry) this.store.dispatch(registerActions.press({ entryIds: [entry.id] }));
  }

  /** Papers as they would come out, to oneself. */
  protected openTry(): void {
    this.dialogs.open(TryDialog, { ariaLabelledBy: 'try-title' });
  }

  protected stop(runId: string): void {
    this.store.dispatch(registerActions.stop({ runId }));
  }

  protected close(): void {
    this.store.dispatch(registerActions.noticeSeen());
  }
}
