import { DatePipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import { FormsModule } from '@angular/forms';
import { Router, RouterLink } from '@angular/router';
import { Dialog } from '@angular/cdk/dialog';
import { plainTitle } from '@scriptum/core/column';
import type { FolioSummary, FoundLearner } from '@scriptum/core/contract';
import { SHEET_LIMITS, tooLarge } from '@scriptum/core/table';
import { catchError, debounceTime, map, of, switchMap } from 'rxjs';
import { Api } from '../api/api';
import { Icon } from '../ui/icon';
import { Store } from '@ngrx/store';
import { foliosActions, foliosFeature } from '../state/folios';
import { ConfirmDialog, type Confirmation } from '../ui/confirm-dialog';
import { SheetDrop } from '../ui/sheet-drop';
import { TroubleBar } from '../ui/trouble-bar';
import { CopyDialog, type CopyAnswer } from './copy-dialog';
import { TopBar } from './top-bar';
import { waitingIn } from './waiting';

/** As much of what waits is told at once. */
const WAITING_SHOWN = 6;

/** The school's folios, and the place to start one. */
@Component({
  selector: 'sc-folio-list',
  imports: [DatePipe, FormsModule, RouterLink, Icon, SheetDrop, TroubleBar, TopBar],
  templateUrl: './folio-list.html',
  host: { class: 'flex min-h-screen flex-col' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class FolioListPage {
  private readonly store = inject(Store);
  private readonly dialog = inject(Dialog);
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  protected readonly state = this.store.selectSignal(foliosFeature.selectFoliosState);
  private readonly all = this.store.selectSignal(foliosFeature.selectAll);
  protected readonly title = signal('');
  protected readonly find = signal('');
  protected readonly withArchived = signal(false);
  protected readonly archivedCount = computed(() => this.all().filter(({ archived }) => archived).length);
  protected readonly folios = computed(() => {
    const sought = plainTitle(this.find());
    return this.all().filter(
      ({ title, archived }) =>
        (!archived || this.withArchived() || sought !== '') && plainTitle(title).includes(sought),
    );
  });
  protected readonly waiting = computed(() => waitingIn(this.all()));
  protected readonly allWaiting = signal(false);
  protected readonly waitingShown = computed(() =>
    this.allWaiting() ? this.waiting() : this.waiting().slice(0, WAITING_SHOWN),
  );
  /** Of all folios, whose name has what is typed in it; asked for once nobody types for a moment. */
  protected readonly learners = toSignal(
    toObservable(this.find).pipe(
      debounceTime(250),
      switchMap((text) =>
        text.trim().length < 2
          ? of([])
          : this.api.findLearners(text).pipe(
              map(({ learners }) => learners),
              catchError(() => of([])),
            ),
      ),
    ),
    { initialValue: [] },
  );

  constructor() {
    this.store.dispatch(foliosActions.asked());
  }

  /** Without a title of its own, a folio is called after its file. */
  protected start(file: File | null): void {
    const title =
      this.title().trim() ||
      (file?.name
        .replace(/\.\w{1,5}$/, '')
        .replace(/_+/g, ' ')
        .trim() ??
        '');
    const refused = file && file.size > SHEET_LIMITS.bytes ? tooLarge(file.size) : null;
    if (refused && !refused.ok) {
      this.store.dispatch(foliosActions.failed({ trouble: refused.problem }));
      return;
    }
    this.store.dispatch(foliosActions.start({ title: title.slice(0, 200) || 'New folio', file }));
  }

  /** How its papers stand, in few words. */
  protected standing({
    pressed,
    toReview,
    asked,
    cleared,
    held,
    dispatched,
    outOfDate,
  }: FolioSummary): string {
    if (pressed === 0) return '· nothing pressed yet';
    const parts: [number, string][] = [
      [toReview, 'pressed'],
      [asked, asked === 1 ? 'waits for a yes' : 'wait for a yes'],
      [cleared, 'cleared'],
      [held, 'held'],
      [dispatched, 'sent'],
      [outOfDate, 'out of date'],
    ];
    return parts
      .filter(([count]) => count > 0)
      .map(([count, word]) => `· ${count.toLocaleString()} ${word}`)
      .join(' ');
  }

  /** Where there is no paper yet an empty page stands. */
  protected without({ target }: Event): void {
    (target as HTMLElement).hidden = true;
  }

  protected open({ folioId, entryId }: FoundLearner): void {
    void this.router.navigateByUrl(`/folio/${folioId}/register`, { state: { pick: entryId } });
  }

  protected copy(folio: FolioSummary): void {
    this.dialog
      .open<CopyAnswer>(CopyDialog, { data: folio, ariaLabelledBy: 'copy-title' })
      .closed.subscribe((answer) => {
        if (answer) this.store.dispatch(foliosActions.copy({ id: folio.id, ...answer }));
      });
  }

  protected archive({ id, archived }: FolioSummary): void {
    this.store.dispatch(foliosActions.archive({ id, archived: !archived }));
  }

  protected remove(folio: FolioSummary): void {
    const data: Confirmation = {
      title: `Delete “${folio.title}”?`,
      text: `Its roll of ${folio.entries} ${folio.entries === 1 ? 'entry' : 'entries'}, its letter and its ${folio.pressed} pressed ${folio.pressed === 1 ? 'paper' : 'papers'} go for good. Mail that was sent stays with those who got it.`,
      yes: 'Delete the folio',
      grave: true,
    };
    this.dialog
      .open<boolean>(ConfirmDialog, { data, ariaLabelledBy: 'confirm-title' })
      .closed.subscribe((yes) => {
        if (yes) this.store.dispatch(foliosActions.delete({ id: folio.id }));
      });
  }
}
