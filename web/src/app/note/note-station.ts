import { ChangeDetectionStrategy, Component, computed, inject, signal, viewChild } from '@angular/core';
import { writeNote } from '@scriptum/core/note';
import type { Column } from '@scriptum/core/table';
import {
  fieldForColumn,
  fieldsUsed,
  type CoverNote,
  type FlowText,
  type LineText,
} from '@scriptum/core/template';
import { Icon } from '../ui/icon';
import { Store } from '@ngrx/store';
import { FindingsList } from '../desk/findings-list';
import { KeptCopies } from '../desk/kept-copies';
import { newId } from '../editor/new-id';
import { TextEditor } from '../editor/text-editor';
import { Toolbar } from '../editor/toolbar';
import { FieldsMargin } from '../page/fields-margin';
import { selectFileName } from '../state/file-name';
import { deskFeature } from '../state/desk';
import { rematch, writingActions, writingFeature } from '../state/writing';

/** Station Note: the email that goes with the papers, beside what the picked learner's family reads. */
@Component({
  selector: 'sc-note-station',
  imports: [FieldsMargin, FindingsList, KeptCopies, TextEditor, Toolbar, Icon],
  templateUrl: './note-station.html',
  host: { class: 'sc-middle' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class NoteStation {
  private readonly store = inject(Store);
  protected readonly body = viewChild<TextEditor>('bodyEditor');
  protected readonly subject = viewChild<TextEditor>('subjectEditor');
  protected readonly inSubject = signal(false);
  protected readonly draft = this.store.selectSignal(writingFeature.selectNote);
  protected readonly note = this.store.selectSignal(writingFeature.selectNoteValue);
  protected readonly arrival = this.store.selectSignal(writingFeature.selectArrival);
  protected readonly columns = this.store.selectSignal(deskFeature.selectColumns);
  protected readonly picked = this.store.selectSignal(deskFeature.selectPicked);
  private readonly letter = this.store.selectSignal(writingFeature.selectLetterValue);
  protected readonly fileName = this.store.selectSignal(selectFileName);
  protected readonly used = computed(() => {
    const note = this.note();
    return note ? [...new Set([...fieldsUsed(note.subject), ...fieldsUsed(note.body)])] : [];
  });
  /** What arrives, as the server will write it. */
  protected readonly written = computed(() => {
    const note = this.note();
    const entry = this.picked();
    return note && entry ? writeNote(note, entry, this.letter()?.language ?? 'en') : null;
  });

  protected change(part: Partial<CoverNote>): void {
    const draft = this.draft();
    if (draft)
      this.store.dispatch(writingActions.changed({ id: draft.id, content: { ...draft.content, ...part } }));
  }

  protected setBody(body: FlowText | LineText): void {
    if ('content' in body) this.change({ body });
  }

  protected setSubject(subject: FlowText | LineText): void {
    if (!('content' in subject)) this.change({ subject });
  }

  /** A field goes where the caret was last: the subject or the text. */
  protected put(column: Column): void {
    const note = this.note();
    const editor = this.inSubject() ? this.subject() : this.body();
    if (!note || !editor) return;
    const { fields, field } = fieldForColumn(note.fields, column, newId);
    if (fields.length > note.fields.length) this.change({ fields });
    queueMicrotask(() => editor.insertField(field.id));
  }

  protected rematch({ fieldId, columnId }: { fieldId: string; columnId: string | null }): void {
    const note = this.note();
    if (note) this.change({ fields: rematch(note.fields, fieldId, columnId) });
  }
}
