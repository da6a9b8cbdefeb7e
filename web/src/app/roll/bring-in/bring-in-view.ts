import { ChangeDetectionStrategy, Component, computed, inject, signal, type OnDestroy } from '@angular/core';
import { Store } from '@ngrx/store';
import { megabytes } from '@scriptum/core/sentences';
import { TYPE_NAMES } from '@scriptum/core/column';
import { bringingInActions, bringingInFeature, type Purpose } from '../state/bringing-in';
import { deskFeature } from '../../state/desk';
import { TroubleBar } from '../../ui/trouble-bar';
import { SheetThread } from '../thread/sheet-thread';
import { ComparisonView } from './comparison-view';
import { JoinForm } from './join-form';
import { ReadingForm } from './reading-form';

/** A file on its way into the roll: its first rows, how they are read, and what they will become. */
@Component({
  selector: 'sc-bring-in-view',
  imports: [ComparisonView, JoinForm, ReadingForm, TroubleBar],
  templateUrl: './bring-in-view.html',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class BringInView implements OnDestroy {
  private readonly store = inject(Store);
  private readonly thread = inject(SheetThread);
  protected readonly state = this.store.selectSignal(bringingInFeature.selectBringingInState);
  private readonly folio = this.store.selectSignal(deskFeature.selectFolio);
  private readonly roll = this.store.selectSignal(deskFeature.selectRoll);
  protected readonly types = TYPE_NAMES;
  private readonly now = signal(Date.now());
  private readonly clock = setInterval(() => this.now.set(Date.now()), 250);

  /** How large the file is, and what was found in it. */
  protected readonly sizes = computed(() => {
    const { file, view } = this.state();
    const count = (n: number, one: string): string => `${n.toLocaleString()} ${n === 1 ? one : `${one}s`}`;
    return [
      megabytes(file?.bytes ?? 0),
      ...(view ? [count(view.rows, 'row'), count(view.columns.length, 'column')] : []),
    ].join(', ');
  });
  /** How far the reading or the taking is, by what files of this size took before. */
  protected readonly progress = computed(() => {
    const { file, stage } = this.state();
    const elapsed = Math.max(0, this.now() - (file?.since ?? this.now()));
    // The server reads the file once more, and keeps the rows.
    const expected =
      Math.max(400, this.thread.expected(file?.name ?? '', file?.bytes ?? 0)) * (stage === 'taking' ? 2 : 1);
    const left = Math.ceil((expected - elapsed) / 1000);
    return {
      long: expected > 1500,
      share: Math.min(0.97, elapsed / expected),
      say:
        left > 1
          ? `About ${left} seconds left`
          : elapsed > expected * 2
            ? 'It takes longer than usual'
            : 'Nearly there',
    };
  });
  protected readonly width = computed(() =>
    Math.min(60, Math.max(1, ...this.state().top.map(({ cells }) => cells.length))),
  );
  protected readonly headerLines = computed(() => {
    const header = this.state().view?.reading.header;
    return header ? { from: header.row, to: header.row + header.count - 1 } : null;
  });
  protected readonly purposes = computed(() => {
    const sources = this.folio()?.sources ?? [];
    if (this.roll().entries.length === 0) return [];
    return [
      ...sources.map((source) => ({
        purpose: { kind: 'refresh', sourceId: source.id } as Purpose,
        label: `A newer version of ${source.fileName}`,
      })),
      { purpose: { kind: 'join' } as Purpose, label: 'A second sheet, to be joined by a key' },
      { purpose: { kind: 'base' } as Purpose, label: 'A new roll in the place of this one' },
    ];
  });
  protected readonly action = computed(() => {
    const { purpose, view, comparison } = this.state();
    const rows = view?.rows ?? 0;
    const entries = rows === 1 ? '1 entry' : `${rows.toLocaleString()} entries`;
    if (purpose.kind === 'base') return `Make the roll: ${entries}`;
    if (purpose.kind === 'join') return 'Join this sheet';
    return comparison?.nothing ? 'Take it over (nothing changed)' : 'Take the newer version over';
  });
  protected readonly ready = computed(() => {
    const { view, purpose, comparison, spec, join, comparing, stage } = this.state();
    if (!view || stage !== 'open' || comparing) return false;
    if (purpose.kind === 'base') return true;
    return spec ? join !== null : purpose.kind === 'refresh' && comparison !== null;
  });

  ngOnDestroy(): void {
    clearInterval(this.clock);
  }

  protected sameAs(purpose: Purpose): boolean {
    const now = this.state().purpose;
    return now.kind === 'refresh' && purpose.kind === 'refresh'
      ? now.sourceId === purpose.sourceId
      : now.kind === purpose.kind;
  }

  protected choosePurpose(purpose: Purpose): void {
    this.store.dispatch(bringingInActions.choosePurpose({ purpose }));
  }

  protected titlesAt(row: number): void {
    const count = Math.max(1, this.state().view?.reading.header?.count ?? 1);
    this.store.dispatch(bringingInActions.ask({ asked: { header: { row, count } } }));
  }

  protected indexes(): number[] {
    return Array.from({ length: this.width() }, (_, n) => n);
  }

  protected take(): void {
    this.store.dispatch(bringingInActions.take({ since: Date.now() }));
  }

  protected close(): void {
    this.store.dispatch(bringingInActions.close());
  }

  protected seen(): void {
    this.store.dispatch(bringingInActions.troubleSeen());
  }
}
