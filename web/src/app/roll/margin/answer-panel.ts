import { DatePipe, DecimalPipe } from '@angular/common';
import { Dialog } from '@angular/cdk/dialog';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  untracked,
} from '@angular/core';
import { Store } from '@ngrx/store';
import type { AnswerAbout, CopyState } from '@scriptum/core/contract';
import { deskFeature } from '../../state/desk';
import { ConfirmDialog, type Confirmation } from '../../ui/confirm-dialog';
import { formsActions, formsFeature } from '../state/forms';

/** What is known of an entry that answered a form, beside its cells: when, with which files, and the link to change it. */
@Component({
  selector: 'sc-answer-panel',
  imports: [DatePipe, DecimalPipe],
  templateUrl: './answer-panel.html',
  host: { class: 'block text-small' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class AnswerPanel {
  readonly entryId = input.required<string>();
  readonly name = input.required<string>();
  /** True where the row is the learner’s own, and not the answer alone. */
  readonly isOwn = input(false);

  private readonly store = inject(Store);
  private readonly dialog = inject(Dialog);
  private readonly folio = this.store.selectSignal(deskFeature.selectFolio);
  private readonly picked = this.store.selectSignal(deskFeature.selectPicked);
  private readonly shown = this.store.selectSignal(formsFeature.selectAnswers);
  protected readonly copySays: Readonly<Record<CopyState, string>> = {
    owed: 'A copy of it is to be mailed',
    sending: 'A copy of it is being mailed',
    sent: 'A copy of it was mailed',
    refused: 'The copy of it was refused',
    unconfirmed: 'Nobody knows whether the copy of it left',
    'passed over': 'No copy of it was mailed',
  };
  protected readonly answers = computed((): readonly AnswerAbout[] => {
    const shown = this.shown();
    return shown?.entryId === this.entryId() ? shown.answers : [];
  });

  constructor() {
    effect(() => {
      const entryId = this.entryId();
      // Its cells are others where an answer came or went.
      this.picked();
      untracked(() => this.store.dispatch(formsActions.askAnswers({ entryId })));
    });
  }

  protected file(uploadId: string): string {
    return `/api/folios/${this.folio()?.id}/uploads/${uploadId}`;
  }

  protected delete(): void {
    const data: Confirmation = {
      title: `Delete the answer of ${this.name() || 'this entry'}?`,
      text: this.isOwn()
        ? 'Its cells are blank then, and the files that came with it are deleted. The learner stays on the roll. This cannot be taken back.'
        : 'Its row goes out of the roll, and the files that came with it are deleted. This cannot be taken back.',
      yes: 'Delete the answer',
      grave: true,
    };
    this.dialog
      .open<boolean>(ConfirmDialog, { data, ariaLabelledBy: 'confirm-title' })
      .closed.subscribe((yes) => {
        if (yes) this.store.dispatch(formsActions.deleteAnswer({ entryId: this.entryId() }));
      });
  }
}
