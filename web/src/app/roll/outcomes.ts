import { computed, inject, Injectable, signal } from '@angular/core';
import { Store } from '@ngrx/store';
import { outcomesOf } from '@scriptum/core/paper';
import { registerActions, registerFeature } from '../state/register';
import { writingFeature } from '../state/writing';

const KEPT = 'scriptum-outcomes';

/** Whether the table tells what became of each entry, and what; as people left it. */
@Injectable({ providedIn: 'root' })
export class Outcomes {
  private readonly store = inject(Store);
  private readonly lines = this.store.selectSignal(registerFeature.selectPresent);
  private readonly folioId = this.store.selectSignal(registerFeature.selectFolioId);
  private readonly templates = this.store.selectSignal(writingFeature.selectAllTemplates);
  readonly shown = signal(localStorage.getItem(KEPT) === 'yes');

  /** By the entry's identity; null where it is not shown. */
  readonly told = computed(() =>
    this.shown()
      ? outcomesOf(this.lines(), {
          letters: new Map(this.templates().map(({ id, content }) => [id, content.name])),
          link: ({ id }) => `${location.origin}/api/folios/${this.folioId()}/papers/${id}/file`,
          moment: (at) => MOMENT.format(new Date(at)),
        })
      : null,
  );

  constructor() {
    if (this.shown()) this.store.dispatch(registerActions.asked());
  }

  toggle(): void {
    this.shown.update((shown) => !shown);
    localStorage.setItem(KEPT, this.shown() ? 'yes' : 'no');
    if (this.shown()) this.store.dispatch(registerActions.asked());
  }
}

/** As ISO 8601 writes it but for the letter between, so that it sorts by time. */
const MOMENT = new Intl.DateTimeFormat('sv', { dateStyle: 'short', timeStyle: 'short' });
