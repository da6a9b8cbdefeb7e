import { Dialog } from '@angular/cdk/dialog';
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
import type { Writing } from '@scriptum/core/template';
import { Api, troubleOf } from '../api/api';
import { deskActions } from '../state/desk-actions';
import { writingActions, type Draft } from '../state/writing';
import { whenOf } from './both-dialog';
import { VersionDialog, type VersionsBeside } from './version-dialog';

/**
 * Versions of a text that are kept: those that somebody gave a name, and those that papers or messages were made from. Each can
 * be looked at and taken up again; the text as it is now can be kept under a name.
 */
@Component({
  selector: 'sc-kept-copies',
  templateUrl: './kept-copies.html',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class KeptCopies {
  readonly draft = input.required<Draft>();
  private readonly api = inject(Api);
  private readonly store = inject(Store);
  private readonly dialog = inject(Dialog);
  protected readonly copies = signal<readonly KeptVersion[]>([]);
  /** Counts what was kept here. */
  private readonly keeping = signal(0);

  constructor() {
    // Asked anew where the server has another version: a copy may have been kept with it.
    const of = computed(
      () => ({
        folioId: this.draft().folioId,
        id: this.draft().id,
        version: this.draft().version,
        kept: this.keeping(),
      }),
      { equal: (a, b) => a.id === b.id && a.version === b.version && a.kept === b.kept },
    );
    effect((done) => {
      const { folioId, id } = of();
      const asked = untracked(() => this.api.keptVersions(folioId, id)).subscribe({
        next: ({ versions }) => this.copies.set(versions),
        error: () => undefined,
      });
      done(() => asked.unsubscribe());
    });
  }

  protected when({ keptAt }: KeptVersion): string {
    return whenOf(keptAt);
  }

  protected keep(box: HTMLInputElement): void {
    const name = box.value.trim();
    if (name === '') return;
    const draft = this.draft();
    this.api.keepCopy(draft.folioId, draft, name).subscribe({
      next: () => {
        box.value = '';
        this.keeping.update((n) => n + 1);
      },
      error: (error: unknown) => this.fail(error),
    });
  }

  protected look(kept: KeptVersion): void {
    this.fetch(kept, ({ content }) => {
      const then = { name: kept.name ?? 'As something was made from it', when: this.when(kept), content };
      const data: VersionsBeside = { then, now: this.draft().content };
      this.dialog
        .open<boolean>(VersionDialog, { data, ariaLabelledBy: 'version-title' })
        .closed.subscribe((take) => {
          if (take) this.take(content);
        });
    });
  }

  private take(content: Writing['content']): void {
    this.store.dispatch(writingActions.replaced({ id: this.draft().id, content }));
  }

  private fetch({ id: versionId }: KeptVersion, then: (version: Writing) => void): void {
    const { folioId, id } = this.draft();
    this.api.keptVersion(folioId, id, versionId).subscribe({
      next: then,
      error: (error: unknown) => this.fail(error),
    });
  }

  private fail(error: unknown): void {
    this.store.dispatch(deskActions.failed({ trouble: troubleOf(error) }));
  }

  protected takeUp(kept: KeptVersion): void {
    this.fetch(kept, ({ content }) => this.take(content));
  }
}
