import { computed, inject, Injectable, signal } from '@angular/core';
import type { LetterheadNow } from '@scriptum/core/contract';
import { emptyLetterhead, Letterhead } from '@scriptum/core/template';
import { Actions, ofType } from '@ngrx/effects';
import { Store } from '@ngrx/store';
import { Api, troubleOf, type Trouble } from '../api/api';
import { deskActions } from '../state/desk-actions';
import { sessionActions } from '../state/session';

/**
 * The letterhead as it is changed on screen. It is not in use until somebody says so, since it changes the papers of the
 * whole school; what is not in use yet stays here while people look at something else.
 */
@Injectable({ providedIn: 'root' })
export class LetterheadDraft {
  private readonly api = inject(Api);
  private readonly store = inject(Store);
  /** Whose draft it is, by email address. */
  private owner: string | null = null;
  /** What is in use now. */
  readonly now = signal<LetterheadNow | null>(null);
  readonly draft = signal<Letterhead | null>(null);
  readonly trouble = signal<Trouble | null>(null);
  readonly busy = signal(false);
  /** True for a moment after it was put into use. */
  readonly used = signal(false);

  readonly isChanged = computed(() => {
    const [now, draft] = [this.now(), this.draft()];
    return draft !== null && JSON.stringify(draft) !== JSON.stringify(now?.letterhead ?? null);
  });
  /** What keeps it from being used, in a sentence; null where nothing does. */
  readonly missing = computed((): string | null => {
    const read = Letterhead.safeParse(this.draft());
    return read.success ? null : (read.error.issues[0]?.message ?? null);
  });

  constructor() {
    // Somebody else at this screen gets nothing of it; who signs in again goes on with it.
    inject(Actions)
      .pipe(ofType(sessionActions.known))
      .subscribe(({ me }) => {
        if (me.staff === null || (this.owner !== null && this.owner !== me.staff.email)) this.forget();
        this.owner = me.staff?.email ?? null;
      });
  }

  /** Fetches what is in use; what was changed here stays. @param school what a first letterhead is called. */
  open(school: string): void {
    this.trouble.set(null);
    this.api.letterhead().subscribe({
      next: (now) => {
        const kept = this.isChanged();
        this.now.set(now);
        if (!kept) this.draft.set(now.letterhead ?? emptyLetterhead(school));
      },
      error: (error: unknown) => this.fail(error),
    });
  }

  change(part: Partial<Letterhead>): void {
    this.used.set(false);
    this.draft.update((draft) => draft && { ...draft, ...part });
  }

  /** Puts it into use for all letters of the school. */
  use(): void {
    const [now, draft] = [this.now(), this.draft()];
    if (!now || !draft) return;
    this.busy.set(true);
    this.trouble.set(null);
    this.api.saveLetterhead({ version: now.version, letterhead: draft }).subscribe({
      next: (saved) => {
        this.busy.set(false);
        this.used.set(true);
        this.now.set(saved);
        // What was typed meanwhile stays.
        if (this.draft() === draft) this.draft.set(saved.letterhead);
      },
      error: (error: unknown) => {
        this.busy.set(false);
        const trouble = this.fail(error);
        if (trouble.code === 'changed-elsewhere')
          this.api.letterhead().subscribe({
            next: (theirs) => this.now.set(theirs),
            error: () => undefined,
          });
      },
    });
  }

  /** Takes back what is not in use yet. */
  giveUp(school: string): void {
    this.draft.set(this.now()?.letterhead ?? emptyLetterhead(school));
    this.trouble.set(null);
  }

  /** Says what is wrong. Who was signed out is asked to sign in again. */
  fail(error: unknown): Trouble {
    const trouble = troubleOf(error);
    this.trouble.set(trouble);
    if (trouble.code === 'signed-out') this.store.dispatch(deskActions.failed({ trouble }));
    return trouble;
  }

  private forget(): void {
    this.now.set(null);
    this.draft.set(null);
    this.trouble.set(null);
    this.used.set(false);
  }
}
