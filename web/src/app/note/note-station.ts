import { Entered } from '../ui/bound';
import type { FlowText, LineText } from '@scriptum/core/text';
import type { CoverNote } from '@scriptum/core/template';
import { ChangeDetectionStrategy, Component, computed, signal, viewChild } from '@angular/core';
import { writeNote } from '@scriptum/core/note';
import { FindingsList } from '../desk/findings-list';
import { KeptCopies } from '../desk/kept-copies';
import { TextEditor } from '../editor/text-editor';
import { Toolbar } from '../editor/toolbar';
import { WritingEditor } from '../editor/writing-editor';
import { FieldPicker } from '../editor/field-picker';
import { FieldsMargin } from '../editor/fields-margin';
import { PartMargin } from '../editor/part-margin';
import { selectOwnFileNames } from '../state/file-name';
import { writingFeature } from '../state/writing';
import { Icon } from '../ui/icon';
import { Said } from '../ui/said';

/** Station Note: the email that goes with the papers, beside what the picked learner's family reads. */
@Component({
  selector: 'sc-note-station',
  imports: [
    Entered,
    FieldPicker,
    FieldsMargin,
    FindingsList,
    KeptCopies,
    PartMargin,
    TextEditor,
    Toolbar,
    Icon,
    Said,
  ],
  templateUrl: './note-station.html',
  host: { class: 'sc-middle' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class NoteStation extends WritingEditor<'note'> {
  protected readonly body = viewChild<TextEditor>('bodyEditor');
  protected readonly subject = viewChild<TextEditor>('subjectEditor');
  protected readonly inSubject = signal(false);
  protected readonly draft = this.store.selectSignal(writingFeature.selectNote);
  protected readonly fileNames = this.store.selectSignal(selectOwnFileNames);
  /** What arrives, as the server will write it. */
  protected readonly written = computed(() => {
    const note = this.content();
    const entry = this.picked();
    return note && entry
      ? writeNote(note, entry, {
          columns: this.columns(),
          language: this.language(),
          day: this.day(),
          cohort: this.cohort(),
        })
      : null;
  });

  protected texts({ subject, body }: CoverNote): readonly (FlowText | LineText)[] {
    return [subject, body];
  }

  /** A field goes where the caret was last: the subject or the text. */
  protected target(): TextEditor | undefined {
    return this.inSubject() ? this.subject() : this.body();
  }

  protected setBody(body: FlowText | LineText): void {
    if ('content' in body) this.change({ body });
  }

  protected setSubject(subject: FlowText | LineText): void {
    if (!('content' in subject)) this.change({ subject });
  }
}
