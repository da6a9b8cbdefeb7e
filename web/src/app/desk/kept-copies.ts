import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  signal,
  untracked,
} from '@angular/core';
import { Store } from '@ngrx/store';
import type { KeptVersion } from '@scriptum/core/contract';
import { Api, troubleOf } from '../api/api';
import { deskActions } from '../state/desk-actions';
import { writingActions, type Draft } from '../state/writing';
import { whenOf } from './both-dialog';

/** Versions of a text that somebody kept under a name, to be taken up again. Shows nothing where there are none. */
@Component({
  selector: 'sc-kept-copies',
  template: `
    @if (copies().length > 0) {
      <section class="mt-4 border-t border-rule pt-3">
        <h2>Kept copies</h2>
        <ul class="flex flex-col gap-2 text-small">
          @for (copy of copies(); track copy.id) {
            <li>
              <span class="block">{{ copy.name }}</span>
              <span class="block text-slate">{{ copy.keptBy ?? 'Somebody' }}, {{ when(copy) }}</span>
              <button type="button" class="link" (click)="takeUp(copy)">
                Put it in the place of the text
              </button>
            </li>
          }
        </ul>
      </section>
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class KeptCopies {
  readonly draft = input.required<Pick<Draft, 'id' | 'folioId' | 'version'>>();
  private readonly api = inject(Api);
  private readonly store = inject(Store);
  protected readonly copies = signal<readonly KeptVersion[]>([]);

  constructor() {
    // Asked anew where the server has another version: a copy may have been kept with it.
    const of = computed(
      () => ({ folioId: this.draft().folioId, id: this.draft().id, version: this.draft().version }),
      { equal: (a, b) => a.id === b.id && a.version === b.version },
    );
    effect((done) => {
      const { folioId, id } = of();
      const asked = untracked(() => this.api.keptVersions(folioId, id)).subscribe({
        next: ({ versions }) => this.copies.set(versions.filter(({ name }) => name !== null)),
        error: () => undefined,
      });
      done(() => asked.unsubscribe());
    });
  }

  protected when({ keptAt }: KeptVersion): string {
    return whenOf(keptAt);
  }

  protected takeUp({ id: versionId }: KeptVersion): void {
    const { folioId, id } = this.draft();
    this.api.keptVersion(folioId, id, versionId).subscribe({
      next: ({ content }) => this.store.dispatch(writingActions.replaced({ id, content })),
      error: (error: unknown) => this.store.dispatch(deskActions.failed({ trouble: troubleOf(error) })),
    });
  }
}
