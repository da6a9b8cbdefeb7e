import type { FlowText, LineText } from '@scriptum/core/text';
import { ChangeDetectionStrategy, Component, inject, signal, viewChild } from '@angular/core';
import type { Letter } from '@scriptum/core/template';
import { Api, troubleOf } from '../api/api';
import { FindingsList } from '../desk/findings-list';
import { KeptCopies } from '../desk/kept-copies';
import { TextEditor } from '../editor/text-editor';
import { Toolbar } from '../editor/toolbar';
import { WritingEditor } from '../editor/writing-editor';
import { deskActions, deskFeature } from '../state/desk';
import { writingFeature } from '../state/writing';
import { FieldsMargin } from '../editor/fields-margin';
import { PartMargin } from '../editor/part-margin';
import { PageSetupForm } from './page-setup-form';
import { ProofView } from './proof-view';

/** Station Page: the letter as it is written, beside the picked learner's paper as it will be. */
@Component({
  selector: 'sc-page-station',
  imports: [
    FieldsMargin,
    FindingsList,
    KeptCopies,
    PartMargin,
    PageSetupForm,
    ProofView,
    TextEditor,
    Toolbar,
  ],
  templateUrl: './page-station.html',
  host: { class: 'sc-middle' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PageStation extends WritingEditor<'letter'> {
  private readonly api = inject(Api);
  protected readonly editor = viewChild(TextEditor);
  protected readonly draft = this.store.selectSignal(writingFeature.selectLetter);
  private readonly folio = this.store.selectSignal(deskFeature.selectFolio);
  protected readonly pictureUrl = (asset: string): string =>
    `/api/folios/${this.folio()?.id}/assets/${asset}`;
  protected readonly adding = signal(false);

  protected target(): TextEditor | undefined {
    return this.editor();
  }

  protected texts({ body }: Letter): readonly FlowText[] {
    return [body];
  }

  protected setBody(body: FlowText | LineText): void {
    if ('content' in body) this.change({ body });
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
        this.editor()?.insertPicture({ asset: picture.id, width: 60, align: 'left', alt });
      },
      error: (error: unknown) => {
        this.adding.set(false);
        this.store.dispatch(deskActions.failed({ trouble: troubleOf(error) }));
      },
    });
  }
}
