import { DatePipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { RouterLink } from '@angular/router';
import { Dialog } from '@angular/cdk/dialog';
import type { FolioSummary } from '@scriptum/core/contract';
import { SHEET_LIMITS, tooLarge } from '@scriptum/core/table';
import { Icon } from '../ui/icon';
import { Store } from '@ngrx/store';
import { foliosActions, foliosFeature } from '../state/folios';
import { ConfirmDialog, type Confirmation } from '../ui/confirm-dialog';
import { SheetDrop } from '../ui/sheet-drop';
import { TroubleBar } from '../ui/trouble-bar';
import { TopBar } from './top-bar';

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
  protected readonly state = this.store.selectSignal(foliosFeature.selectFoliosState);
  protected readonly folios = this.store.selectSignal(foliosFeature.selectAll);
  protected readonly title = signal('');

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
