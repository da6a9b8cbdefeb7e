import { computed, inject, Injectable, signal } from '@angular/core';
import { Store } from '@ngrx/store';
import type { AddWriting } from '@scriptum/core/contract';
import { isIn } from '@scriptum/core/roll';
import { switchMap, type Observable } from 'rxjs';
import { Api, troubleOf } from '../api/api';
import { deskActions, deskFeature } from '../state/desk';
import { selectSorter } from '../state/sorting';
import { allSaved } from '../state/when-saved';
import { writingActions, writingFeature } from '../state/writing';

/** What is another one for single learners in the letter that is worked on, and what can be done about it. */
@Injectable({ providedIn: 'root' })
export class Exceptions {
  private readonly store = inject(Store);
  private readonly api = inject(Api);
  private readonly folioId = this.store.selectSignal(writingFeature.selectFolioId);
  private readonly template = this.store.selectSignal(writingFeature.selectCommonTemplate);
  private readonly shown = this.store.selectSignal(writingFeature.selectTemplate);
  private readonly all = this.store.selectSignal(writingFeature.selectExceptions);
  private readonly excepted = this.store.selectSignal(writingFeature.selectExcepted);
  private readonly picked = this.store.selectSignal(deskFeature.selectPicked);
  private readonly names = this.store.selectSignal(deskFeature.selectNames);
  private readonly sorter = this.store.selectSignal(selectSorter);
  /** The picked learner's one, whether it is shown or not. */
  readonly here = this.store.selectSignal(writingFeature.selectExceptionHere);
  readonly busy = signal(false);
  /** One that was taken back just now. */
  readonly takenBack = signal<{ readonly id: string; readonly name: string } | null>(null);

  readonly learner = computed(() => this.names().get(this.picked()?.id ?? '') ?? '');
  /** True while the learner's own is worked on. */
  readonly isShown = computed(() => this.here() !== null && this.shown()?.id === this.here()!.id);
  /** True where everybody's was changed in the same place since. */
  readonly isTouched = computed(
    () => this.excepted().find(({ id }) => id === this.here()?.id)?.touched ?? false,
  );
  /** True where the picked learner gets this letter, and nothing is another one in it yet. */
  readonly mayMake = computed(() => {
    const [entry, template] = [this.picked(), this.template()];
    if (!entry || !template || this.here() || !isIn(entry)) return false;
    return this.sorter()(entry).templates.some(({ id }) => id === template.id);
  });
  /** Those of this letter, with their learners' names; null for one who is not on the roll any more. */
  readonly list = computed(() => {
    const [names, of] = [this.names(), this.template()?.id];
    return this.all()
      .filter(({ content }) => content.of === of)
      .map(({ id, content: { entryId } }) => ({ id, entryId, name: names.get(entryId) ?? null }));
  });

  make(): void {
    const [template, entry] = [this.template(), this.picked()];
    if (!template || !entry) return;
    const { content, id: of } = template;
    const body = {
      kind: 'exception',
      name: this.learner().slice(0, 200) || undefined,
      content: { kind: 'exception', entryId: entry.id, of, base: content, own: content },
    } as AddWriting;
    this.do((folioId) => this.api.addWriting(folioId, body));
  }

  /** Shows everybody's letter, or, for false, what the picked learner gets. */
  showCommon(common: boolean): void {
    this.store.dispatch(writingActions.showCommon({ entryId: common ? (this.picked()?.id ?? null) : null }));
  }

  takeBack(id: string, name: string): void {
    this.do(
      (folioId) => this.api.deleteWriting(folioId, id),
      () => this.takenBack.set({ id, name }),
    );
  }

  haveBack(): void {
    const taken = this.takenBack();
    if (!taken) return;
    this.do(
      (folioId) => this.api.restoreWriting(folioId, taken.id),
      () => this.takenBack.set(null),
    );
  }

  /** What was changed under it has been looked at: it stays as it is shown. */
  keep(): void {
    const shown = this.shown();
    if (shown && this.isShown())
      this.store.dispatch(writingActions.changed({ id: shown.id, content: shown.content }));
  }

  pick(entryId: string): void {
    this.store.dispatch(writingActions.showCommon({ entryId: null }));
    this.store.dispatch(deskActions.pick({ entryId }));
  }

  private do(work: (folioId: string) => Observable<unknown>, then: () => void = () => undefined): void {
    const folioId = this.folioId();
    if (!folioId || this.busy()) return;
    this.busy.set(true);
    allSaved(this.store)
      .pipe(switchMap(() => work(folioId)))
      .subscribe({
        next: () => {
          this.busy.set(false);
          this.takenBack.set(null);
          this.store.dispatch(deskActions.rollNews({ folioId }));
          then();
        },
        error: (error: unknown) => {
          this.busy.set(false);
          this.store.dispatch(deskActions.failed({ trouble: troubleOf(error) }));
        },
      });
  }
}
