import type { FlowText, LineText } from '@scriptum/core/text';
import type { Filing } from '@scriptum/core/template';
import { ScrollingModule } from '@angular/cdk/scrolling';
import { ChangeDetectionStrategy, Component, computed, viewChild } from '@angular/core';
import { RouterLink } from '@angular/router';
import type { PaperLine } from '@scriptum/core/contract';
import { paperKey } from '@scriptum/core/paper';
import { FindingsList } from '../desk/findings-list';
import { TextEditor } from '../editor/text-editor';
import { WritingEditor } from '../editor/writing-editor';
import { FieldPicker } from '../editor/field-picker';
import { FieldsMargin } from '../editor/fields-margin';
import { deskActions, deskFeature } from '../state/desk';
import { selectLookIds } from '../state/findings';
import { selectFileNames } from '../state/file-name';
import { registerFeature } from '../state/register';
import { writingFeature } from '../state/writing';
import { StateMark } from '../ui/state-mark';
import { paperMark } from '../ui/paper-mark';

/** Station Press: who gets which paper under which name, and what stands against it. */
@Component({
  selector: 'sc-press-station',
  imports: [RouterLink, ScrollingModule, FieldPicker, FieldsMargin, FindingsList, StateMark, TextEditor],
  templateUrl: './press-station.html',
  host: { class: 'sc-middle' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PressStation extends WritingEditor<'filing'> {
  protected readonly editor = viewChild(TextEditor);
  protected readonly draft = this.store.selectSignal(writingFeature.selectFiling);
  private readonly roll = this.store.selectSignal(deskFeature.selectRoll);
  private readonly names = this.store.selectSignal(deskFeature.selectNames);
  private readonly fileNames = this.store.selectSignal(selectFileNames);
  private readonly templates = this.store.selectSignal(writingFeature.selectTemplates);
  private readonly look = this.store.selectSignal(selectLookIds);
  private readonly present = this.store.selectSignal(registerFeature.selectPresent);
  protected readonly lines = computed(() => {
    const papers = new Map<string, PaperLine>();
    for (const paper of this.present()) if (!papers.has(paperKey(paper))) papers.set(paperKey(paper), paper);
    const letters = new Map(this.templates().map(({ id, content }) => [id, content.name]));
    return this.roll().entries.flatMap((entry) =>
      (this.fileNames().get(entry.id) ?? []).map(({ templateId, fileName }, place) => ({
        key: paperKey({ entryId: entry.id, templateId }),
        entry,
        // Said once for all papers of a learner.
        name: place === 0 ? (this.names().get(entry.id) ?? '') : '',
        file: fileName,
        letter: letters.size > 1 ? (letters.get(templateId) ?? '') : '',
        look: this.look().has(entry.id),
        mark: paperMark(papers.get(paperKey({ entryId: entry.id, templateId }))),
      })),
    );
  });

  protected target(): TextEditor | undefined {
    return this.editor();
  }

  protected texts({ pattern }: Filing): readonly LineText[] {
    return [pattern];
  }

  protected setPattern(pattern: FlowText | LineText): void {
    if (!('content' in pattern)) this.change({ pattern });
  }

  protected readonly same = (_: number, { key }: { key: string }): string => key;

  protected pick(entryId: string): void {
    this.store.dispatch(deskActions.pick({ entryId }));
  }
}
