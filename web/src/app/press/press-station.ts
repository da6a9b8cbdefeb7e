import { ScrollingModule } from '@angular/cdk/scrolling';
import { ChangeDetectionStrategy, Component, computed, inject, viewChild } from '@angular/core';
import { RouterLink } from '@angular/router';
import type { PaperLine } from '@scriptum/core/contract';
import type { Column } from '@scriptum/core/table';
import {
  fieldForColumn,
  fieldsUsed,
  type Filing,
  type FlowText,
  type LineText,
} from '@scriptum/core/template';
import { Store } from '@ngrx/store';
import { FindingsList } from '../desk/findings-list';
import { newId } from '../editor/new-id';
import { TextEditor } from '../editor/text-editor';
import { FieldsMargin } from '../page/fields-margin';
import { deskActions, deskFeature } from '../state/desk';
import { selectLookIds } from '../state/findings';
import { selectFileNames } from '../state/file-name';
import { registerFeature } from '../state/register';
import { rematch, writingActions, writingFeature } from '../state/writing';
import { StateMark } from '../ui/state-mark';
import { paperMark } from '../register/paper-mark';

/** Station Press: who gets which paper under which name, and what stands against it. */
@Component({
  selector: 'sc-press-station',
  imports: [RouterLink, ScrollingModule, FieldsMargin, FindingsList, StateMark, TextEditor],
  templateUrl: './press-station.html',
  host: { class: 'sc-middle' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PressStation {
  private readonly store = inject(Store);
  protected readonly editor = viewChild(TextEditor);
  private readonly draft = this.store.selectSignal(writingFeature.selectFiling);
  protected readonly filing = this.store.selectSignal(writingFeature.selectFilingValue);
  protected readonly arrival = this.store.selectSignal(writingFeature.selectArrival);
  protected readonly columns = this.store.selectSignal(deskFeature.selectColumns);
  protected readonly picked = this.store.selectSignal(deskFeature.selectPicked);
  private readonly roll = this.store.selectSignal(deskFeature.selectRoll);
  private readonly names = this.store.selectSignal(deskFeature.selectNames);
  private readonly fileNames = this.store.selectSignal(selectFileNames);
  private readonly look = this.store.selectSignal(selectLookIds);
  private readonly present = this.store.selectSignal(registerFeature.selectPresent);
  protected readonly used = computed(() => fieldsUsed(this.filing()?.pattern ?? []));
  protected readonly lines = computed(() => {
    const papers = new Map<string, PaperLine>();
    for (const paper of this.present()) if (!papers.has(paper.entryId)) papers.set(paper.entryId, paper);
    return this.roll().entries.map((entry) => ({
      entry,
      name: this.names().get(entry.id) ?? '',
      file: this.fileNames().get(entry.id) ?? '',
      look: this.look().has(entry.id),
      mark: paperMark(papers.get(entry.id)),
    }));
  });

  protected change(part: Partial<Filing>): void {
    const draft = this.draft();
    if (draft)
      this.store.dispatch(writingActions.changed({ id: draft.id, content: { ...draft.content, ...part } }));
  }

  protected setPattern(pattern: FlowText | LineText): void {
    if (!('content' in pattern)) this.change({ pattern });
  }

  protected put(column: Column): void {
    const filing = this.filing();
    const editor = this.editor();
    if (!filing || !editor) return;
    const { fields, field } = fieldForColumn(filing.fields, column, newId);
    if (fields.length > filing.fields.length) this.change({ fields });
    queueMicrotask(() => editor.insertField(field.id));
  }

  protected rematch({ fieldId, columnId }: { fieldId: string; columnId: string | null }): void {
    const filing = this.filing();
    if (filing) this.change({ fields: rematch(filing.fields, fieldId, columnId) });
  }

  protected pick(entryId: string): void {
    this.store.dispatch(deskActions.pick({ entryId }));
  }
}
