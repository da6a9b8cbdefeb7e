import { DatePipe, DecimalPipe } from '@angular/common';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  signal,
  untracked,
} from '@angular/core';
import { Store } from '@ngrx/store';
import type { RunLine } from '@scriptum/core/contract';
import { Api, troubleOf } from '../api/api';
import { deskActions, deskFeature } from '../state/desk';
import { registerActions, registerFeature } from '../state/register';
import { Icon } from '../ui/icon';
import { PressViews } from './press-views';

/** What was asked for, in words. */
const KINDS = { new: 'new ones', old: 'those out of date', failed: 'those that had failed' } as const;

/** Every press run: who, when, how many, from which versions; what failed can be pressed again alone. */
@Component({
  selector: 'sc-runs-view',
  imports: [DatePipe, DecimalPipe, Icon, PressViews],
  templateUrl: './runs-view.html',
  host: { class: 'block h-full' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class RunsView {
  private readonly store = inject(Store);
  private readonly api = inject(Api);
  private readonly folio = this.store.selectSignal(deskFeature.selectFolio);
  private readonly register = this.store.selectSignal(registerFeature.selectRegisterState);
  private readonly run = this.store.selectSignal(registerFeature.selectRun);
  protected readonly runs = signal<readonly RunLine[] | null>(null);
  protected readonly trouble = signal('');
  /** Asked for anew whenever a run begins, goes on or ends. */
  private readonly of = computed(() => {
    const [folio, run] = [this.folio(), this.run()];
    return folio ? `${folio.id} ${run?.id} ${run?.state} ${run?.failed}` : null;
  });
  protected readonly goes = computed(() => this.run()?.state === 'running' || this.register().asking);

  constructor() {
    effect(() => {
      if (this.of() !== null) untracked(() => this.load());
    });
  }

  /** How long it took, and what was asked for. */
  protected more({ state, startedAt, finishedAt, asked }: RunLine): string {
    const took = finishedAt
      ? Math.max(1, Math.round((Date.parse(finishedAt) - Date.parse(startedAt)) / 1000))
      : 0;
    const kinds = (asked?.only ?? []).map((kind) => KINDS[kind]);
    const people = asked?.entryIds?.length;
    const parts = [
      ...(state === 'finished' ? [`in ${took} s`] : []),
      ...(kinds.length > 0 ? [`only ${kinds.join(' and ')}`] : []),
      ...(people === undefined ? [] : [`of ${people} ${people === 1 ? 'learner' : 'learners'}`]),
    ];
    return parts.map((part) => `· ${part}`).join(' ');
  }

  /** From which versions, and how many papers of each. */
  protected versions({ templates, letterheadVersion }: RunLine): string {
    const parts = templates.map(({ name, version, papers }) => `${papers} × ${name} (version ${version})`);
    return [...parts, ...(letterheadVersion ? [`letterhead (version ${letterheadVersion})`] : [])].join(
      ' · ',
    );
  }

  protected goOn({ asked }: RunLine): void {
    this.store.dispatch(
      registerActions.press({
        entryIds: asked?.entryIds ? [...asked.entryIds] : null,
        ...(asked?.only ? { only: [...asked.only] } : {}),
      }),
    );
  }

  protected again({ failures }: RunLine): void {
    const entryIds = [...new Set(failures.map(({ entryId }) => entryId))];
    this.store.dispatch(registerActions.press({ entryIds, only: ['failed'] }));
  }

  protected pick(entryId: string): void {
    this.store.dispatch(deskActions.pick({ entryId }));
  }

  private load(): void {
    this.api.runs(this.folio()!.id).subscribe({
      next: ({ runs }) => {
        this.runs.set(runs);
        this.trouble.set('');
      },
      error: (error: unknown) => this.trouble.set(troubleOf(error).message),
    });
  }
}
