import { DatePipe, DecimalPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, DestroyRef, inject, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { Actions, ofType } from '@ngrx/effects';
import { Store } from '@ngrx/store';
import type { Pack, PackAsked, PackContents } from '@scriptum/core/contract';
import { catchError, EMPTY, exhaustMap, startWith, throttleTime, asyncScheduler } from 'rxjs';
import { Api, troubleOf } from '../api/api';
import { deskActions, deskFeature } from '../state/desk';
import { selectShown } from '../state/findings';
import { registerActions, registerFeature } from '../state/register';
import { sizeSays } from '../ui/size-says';
import { Icon } from '../ui/icon';
import { Sentence } from '../ui/sentence/sentence';
import type { SentenceChange } from '../ui/sentence/sentence-piece';
import { DropOffPanel } from './drop-off-panel';
import { changePack, EMPTY_PRINT, packSentence, type PrintAsked } from './pack-sentence';
import { RegisterViews } from './register-views';

/** Many papers in one file: for the printer, for a folder, and one that grows as papers come. */
@Component({
  selector: 'sc-packs-view',
  imports: [DatePipe, DecimalPipe, DropOffPanel, Icon, RegisterViews, Sentence],
  templateUrl: './packs-view.html',
  host: { class: 'block h-full' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PacksView {
  private readonly store = inject(Store);
  private readonly api = inject(Api);
  protected readonly folio = this.store.selectSignal(deskFeature.selectFolio);
  private readonly columns = this.store.selectSignal(deskFeature.selectColumns);
  private readonly shown = this.store.selectSignal(selectShown);
  private readonly filter = this.store.selectSignal(deskFeature.selectFilter);
  private readonly find = this.store.selectSignal(deskFeature.selectFind);
  private readonly present = this.store.selectSignal(registerFeature.selectPresent);

  protected readonly packs = signal<readonly Pack[] | null>(null);
  protected readonly trouble = signal('');
  protected readonly busy = signal(false);
  private readonly asked = signal<PrintAsked>(EMPTY_PRINT);
  protected readonly files = computed(() => this.present().filter(({ bytes }) => bytes !== null).length);
  /** Those whom the strip shows, where it does not show everybody. */
  private readonly some = computed(() =>
    this.filter() === 'all' && this.find().trim() === ''
      ? null
      : { entryIds: this.shown().map(({ entry }) => entry.id) },
  );
  protected readonly pieces = computed(() => packSentence(this.asked(), this.columns(), this.some()));
  protected readonly grows = computed(
    () => this.packs()?.some(({ asked }) => asked.kind === 'growing') ?? false,
  );
  /** The pack whose papers are listed. */
  protected readonly opened = signal<string | null>(null);
  protected readonly contents = signal<PackContents['lines']>([]);

  constructor() {
    this.store.dispatch(registerActions.asked());
    inject(Actions)
      .pipe(
        ofType(registerActions.packNews, deskActions.folioArrived),
        startWith(null),
        throttleTime(300, asyncScheduler, { leading: true, trailing: true }),
        exhaustMap(() => {
          const folio = this.folio();
          return folio
            ? this.api.packs(folio.id).pipe(catchError((error: unknown) => this.fail(error)))
            : EMPTY;
        }),
        takeUntilDestroyed(inject(DestroyRef)),
      )
      .subscribe(({ packs }) => this.packs.set(packs));
  }

  protected change(change: SentenceChange): void {
    this.asked.update((asked) => changePack(asked, change, this.some()));
  }

  protected print(): void {
    this.make(this.asked());
  }

  protected archive(): void {
    this.make({ kind: 'zip' });
  }

  protected grow(): void {
    this.make({ kind: 'growing', fronts: true });
  }

  private make(asked: PackAsked): void {
    const folio = this.folio();
    if (!folio || this.busy()) return;
    this.busy.set(true);
    this.trouble.set('');
    this.api.makePack(folio.id, asked).subscribe({
      next: (pack) => {
        this.busy.set(false);
        this.packs.update((packs) => [pack, ...(packs ?? []).filter(({ id }) => id !== pack.id)]);
      },
      error: (error: unknown) => {
        this.busy.set(false);
        this.fail(error);
      },
    });
  }

  protected delete({ id }: Pack): void {
    this.api.deletePack(this.folio()!.id, id).subscribe({
      next: () => this.packs.update((packs) => (packs ?? []).filter((pack) => pack.id !== id)),
      error: (error: unknown) => this.fail(error),
    });
  }

  protected open({ id }: Pack): void {
    if (this.opened() === id) {
      this.opened.set(null);
      return;
    }
    this.api.packContents(this.folio()!.id, id).subscribe({
      next: ({ lines }) => {
        this.contents.set(lines);
        this.opened.set(id);
      },
      error: (error: unknown) => this.fail(error),
    });
  }

  protected url({ id }: Pack, download = false): string {
    return `/api/folios/${this.folio()?.id}/packs/${id}/file${download ? '?download=1' : ''}`;
  }

  /** What it is, in words. */
  protected about({ asked }: Pack): string {
    if (asked.kind === 'zip') return `ZIP archive with folders${asked.paperIds ? ', picked papers' : ''}`;
    if (asked.kind === 'growing') return 'Growing pack';
    const title = (id: string): string =>
      this.columns().find((column) => column.id === id)?.title ?? 'a column';
    const parts = [
      ...(asked.who === 'no-address'
        ? ['those without an address']
        : asked.paperIds
          ? ['picked papers']
          : asked.entryIds
            ? ['some learners']
            : []),
      ...(asked.sort.length > 0 ? [`by ${asked.sort.map(title).join(', then ')}`] : []),
      ...(asked.apart ? [`a sheet before each ${title(asked.apart)}`] : []),
      ...(asked.copies ? [`copies as ${title(asked.copies)} says`] : []),
    ];
    return `For the printer${parts.map((part) => ` · ${part}`).join('')}`;
  }

  protected readonly size = sizeSays;

  protected counted(n: number, one: string, more: string): string {
    return `${n.toLocaleString()} ${n === 1 ? one : more}`;
  }

  private fail(error: unknown): typeof EMPTY {
    this.trouble.set(troubleOf(error).message);
    return EMPTY;
  }
}
