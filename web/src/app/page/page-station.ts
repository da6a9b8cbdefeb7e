import { ChangeDetectionStrategy, Component, computed, inject, signal, viewChild } from '@angular/core';
import type { Column } from '@scriptum/core/table';
import {
  fieldForColumn,
  fieldsUsed,
  type FlowText,
  type Letter,
  type LineText,
} from '@scriptum/core/template';
import { Store } from '@ngrx/store';
import { Api, troubleOf } from '../api/api';
import { newId } from '../editor/new-id';
import { TextEditor } from '../editor/text-editor';
import { Toolbar } from '../editor/toolbar';
import { FindingsList } from '../desk/findings-list';
import { KeptCopies } from '../desk/kept-copies';
import { deskActions, deskFeature } from '../state/desk';
import { rematch, writingActions, writingFeature } from '../state/writing';
import { FieldsMargin } from './fields-margin';
import { PageSetupForm } from './page-setup-form';
import { ProofView } from './proof-view';

/** Station Page: the letter as it is written, beside the picked learner's paper as it will be. */
@Component({
  selector: 'sc-page-station',
  imports: [FieldsMargin, FindingsList, KeptCopies, PageSetupForm, ProofView, TextEditor, Toolbar],
  templateUrl: './page-station.html',
  host: { class: 'sc-middle' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PageStation {
  private readonly store = inject(Store);
  private readonly api = inject(Api);
  protected readonly editor = viewChild(TextEditor);
  protected readonly draft = this.store.selectSignal(writingFeature.selectLetter);
  protected readonly letter = this.store.selectSignal(writingFeature.selectLetterValue);
  protected readonly arrival = this.store.selectSignal(writingFeature.selectArrival);
  protected readonly columns = this.store.selectSignal(deskFeature.selectColumns);
  protected readonly picked = this.store.selectSignal(deskFeature.selectPicked);
  private readonly folio = this.store.selectSignal(deskFeature.selectFolio);
  protected readonly used = computed(() => (this.letter() ? fieldsUsed(this.letter()!.body) : []));
  protected readonly pictureUrl = (asset: string): string =>
    `/api/folios/${this.folio()?.id}/assets/${asset}`;
  protected readonly adding = signal(false);

  protected change(part: Partial<Letter>): void {
    const draft = this.draft();
    if (draft)
      this.store.dispatch(writingActions.changed({ id: draft.id, content: { ...draft.content, ...part } }));
  }

  protected setBody(body: FlowText | LineText): void {
    if ('content' in body) this.change({ body });
  }

  protected put(column: Column): void {
    const letter = this.letter();
    const editor = this.editor();
    if (!letter || !editor) return;
    const { fields, field } = fieldForColumn(letter.fields, column, newId);
    if (fields.length > letter.fields.length) this.change({ fields });
    // The chip looks its field up; it is there after this turn.
    queueMicrotask(() => editor.insertField(field.id));
  }

  protected rematch({ fieldId, columnId }: { fieldId: string; columnId: string | null }): void {
    const letter = this.letter();
    if (letter) this.change({ fields: rematch(letter.fields, fieldId, columnId) });
  }

  protected addPictures(files: readonly File[]): void {
    const folio = this.folio();
    const file = files[0];
    if (!folio || !file) return;
    this.adding.set(true);
    this.api.addPicture(folio.id, file).subscribe({
      next: (picture) => {
        this.adding.set(false);
        this.store.dispatch(deskActions.pictureAdded({ picture }));
        const alt = picture.name.replace(/\.\w+$/, '').replace(/[_-]+/g, ' ');
        this.editor()
          ?.editor?.chain()
          .focus()
          .insertPicture({ asset: picture.id, width: 60, align: 'left', alt })
          .run();
      },
      error: (error: unknown) => {
        this.adding.set(false);
        this.store.dispatch(deskActions.failed({ trouble: troubleOf(error) }));
      },
    });
  }
}
