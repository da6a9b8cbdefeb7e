import { computed, Directive, inject, output, signal, type Signal } from '@angular/core';
import { Store } from '@ngrx/store';
import type { DeletedWritings, Folio } from '@scriptum/core/contract';
import type { Writing, WritingKind } from '@scriptum/core/template';
import type { Observable } from 'rxjs';
import { Api, troubleOf } from '../api/api';
import { deskActions, deskFeature } from '../state/desk';
import { foliosActions, foliosFeature } from '../state/folios';
import { writingActions } from '../state/writing';

/** What lists of several things that are written in a folio share: copying, ordering, deleting, having back, taking from another folio. */
@Directive()
export abstract class WritingsPanel {
  readonly left = output<void>();

  protected readonly store = inject(Store);
  protected readonly api = inject(Api);
  protected readonly folio = this.store.selectSignal(deskFeature.selectFolio);
  private readonly folios = this.store.selectSignal(foliosFeature.selectAll);
  protected readonly others = computed(() => this.folios().filter(({ id }) => id !== this.folio()?.id));
  protected readonly deleted = signal<DeletedWritings['writings']>([]);
  /** Another folio, from which some can be copied. */
  protected readonly from = signal<Folio | null>(null);
  protected readonly busy = signal(false);

  /** The kind under which they are put in order. */
  protected abstract readonly kind: WritingKind;
  /** What there is, in its order, by the names that people see. */
  protected abstract readonly named: Signal<readonly { readonly id: string; readonly name: string }[]>;
  protected abstract isOne(kind: WritingKind): boolean;
  protected abstract pick(id: string): void;

  constructor() {
    // Copies and files are made of what is saved.
    this.store.dispatch(writingActions.flush());
    this.store.dispatch(foliosActions.asked());
    // The kind is known once the list is there.
    queueMicrotask(() => this.lookForDeleted());
  }

  /** What is put in becomes the one that is written. */
  protected add(work: (folioId: string) => Observable<Writing>): void {
    this.do(work, ({ id }) => this.pick(id));
  }

  protected copy(writingId: string, name: string): void {
    const copied = this.freeName(name);
    this.add((folioId) => this.api.copyWriting(folioId, { folioId, writingId, name: copied }));
  }

  protected look(folioId: string): void {
    if (folioId === '') {
      this.from.set(null);
      return;
    }
    this.api.folio(folioId).subscribe({
      next: (folio) => this.from.set(folio),
      error: (error: unknown) => this.fail(error),
    });
  }

  protected take(writingId: string, name: string): void {
    const from = this.from();
    if (!from) return;
    const free = this.freeName(name);
    this.do(
      (folioId) => this.api.copyWriting(folioId, { folioId: from.id, writingId, name: free }),
      ({ id }) => {
        this.from.set(null);
        this.pick(id);
      },
    );
  }

  protected move(n: number, by: 1 | -1): void {
    const ids = this.named().map(({ id }) => id);
    const [one] = ids.splice(n, 1);
    ids.splice(n + by, 0, one!);
    this.do((folioId) => this.api.orderWritings(folioId, this.kind, ids));
  }

  protected delete(id: string): void {
    this.do(
      (folioId) => this.api.deleteWriting(folioId, id),
      () => this.lookForDeleted(),
    );
  }

  protected restore(id: string): void {
    this.do(
      (folioId) => this.api.restoreWriting(folioId, id),
      () => {
        this.lookForDeleted();
        this.pick(id);
      },
    );
  }

  /** A name that none here has: with a number behind it where need be. */
  protected freeName(name: string): string {
    const taken = new Set(this.named().map((one) => one.name));
    for (let n = 1; ; n++) {
      const free = n === 1 ? name : `${name.slice(0, 190)} ${n}`;
      if (!taken.has(free)) return free;
    }
  }

  private lookForDeleted(): void {
    const folio = this.folio();
    if (!folio) return;
    this.api.deletedWritings(folio.id).subscribe({
      next: ({ writings }) => this.deleted.set(writings.filter(({ kind }) => this.isOne(kind))),
      error: () => this.deleted.set([]),
    });
  }

  /** Does something on the server, and takes in the folio as it is then. What is not saved yet is saved before. */
  protected do<T>(work: (folioId: string) => Observable<T>, then: (done: T) => void = () => undefined): void {
    const folio = this.folio();
    if (!folio || this.busy()) return;
    this.busy.set(true);
    this.store.dispatch(writingActions.flush());
    work(folio.id).subscribe({
      next: (done) => {
        this.busy.set(false);
        this.store.dispatch(deskActions.rollNews({ folioId: folio.id }));
        then(done);
      },
      error: (error: unknown) => {
        this.busy.set(false);
        this.fail(error);
      },
    });
  }

  private fail(error: unknown): void {
    this.store.dispatch(deskActions.failed({ trouble: troubleOf(error) }));
  }
}
