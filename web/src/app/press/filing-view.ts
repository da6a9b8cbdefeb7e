import type { FlowText, LineText } from '@scriptum/core/text';
import { fieldsOf, isNumberField, PLAIN_NUMBERS, type Filing } from '@scriptum/core/template';
import { ScrollingModule } from '@angular/cdk/scrolling';
import { ChangeDetectionStrategy, Component, computed, viewChild } from '@angular/core';
import { RouterLink } from '@angular/router';
import { checkName, namedFor } from '@scriptum/core/filing';
import { fillFields, textsOfFilled } from '@scriptum/core/fill';
import { FindingsList } from '../desk/findings-list';
import { FieldPicker } from '../editor/field-picker';
import { FieldsMargin } from '../editor/fields-margin';
import { TextEditor } from '../editor/text-editor';
import { WritingEditor } from '../editor/writing-editor';
import { deskActions, deskFeature } from '../state/desk';
import { selectFileNames, selectOwnFileNames } from '../state/file-name';
import { selectGetsPaper } from '../state/findings';
import { writingFeature } from '../state/writing';
import { Sentence } from '../ui/sentence/sentence';
import type { SentenceChange, SentencePiece } from '../ui/sentence/sentence-piece';
import { changeNumbers, numberSentence } from './number-sentence';
import { PressViews } from './press-views';

/** The pattern of file names, and what it comes to for everybody. */
@Component({
  selector: 'sc-filing-view',
  imports: [
    RouterLink,
    ScrollingModule,
    FieldPicker,
    FieldsMargin,
    FindingsList,
    PressViews,
    Sentence,
    TextEditor,
  ],
  templateUrl: './filing-view.html',
  host: { class: 'sc-middle' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class FilingView extends WritingEditor<'filing'> {
  protected readonly editor = viewChild(TextEditor);
  protected readonly draft = this.store.selectSignal(writingFeature.selectFiling);
  private readonly templates = this.store.selectSignal(writingFeature.selectTemplates);
  private readonly roll = this.store.selectSignal(deskFeature.selectRoll);
  private readonly names = this.store.selectSignal(deskFeature.selectNames);
  private readonly fileNames = this.store.selectSignal(selectFileNames);
  private readonly getsPaper = this.store.selectSignal(selectGetsPaper);
  protected readonly own = this.store.selectSignal(selectOwnFileNames);

  protected readonly lines = computed(() => {
    const gets = this.getsPaper();
    return this.roll()
      .entries.filter(gets)
      .flatMap((entry) =>
        (this.fileNames().get(entry.id) ?? []).map(({ templateId, fileName }, place) => {
          const cut = fileName.lastIndexOf('/') + 1;
          return {
            key: `${entry.id} ${templateId}`,
            entryId: entry.id,
            name: place === 0 ? (this.names().get(entry.id) ?? '') : '',
            folder: fileName.slice(0, cut),
            file: fileName.slice(cut),
          };
        }),
      );
  });
  /** What was done to names, each with those whose names they are. */
  protected readonly notes = computed(() => {
    const content = this.content();
    const { columns, entries } = this.roll();
    if (!content || content.pattern.length === 0) return [];
    const gets = this.getsPaper();
    const [changed, cut, apart]: [string[], string[], string[]] = [[], [], []];
    const context = { columns, language: this.language(), day: '' };
    for (const entry of entries) {
      if (!gets(entry)) continue;
      const values = textsOfFilled(fillFields(content.fields, entry, context));
      const check = checkName(content, values);
      if (check.changed) changed.push(entry.id);
      if (check.cut) cut.push(entry.id);
      const [first] = this.fileNames().get(entry.id) ?? [];
      if (
        first &&
        !check.blank &&
        / \([^()]+\)\.pdf$/.test(first.fileName) &&
        !endsSo(values, first.fileName)
      )
        apart.push(entry.id);
    }
    return [
      {
        key: 'changed',
        entryIds: changed,
        text: 'with signs that Windows does not allow, which became -',
        label: 'Signs that Windows does not allow',
      },
      { key: 'cut', entryIds: cut, text: 'too long, and cut', label: 'Names that were cut' },
      {
        key: 'apart',
        entryIds: apart,
        text: 'told apart from another one',
        label: 'Told apart from another name',
      },
    ].filter(({ entryIds }) => entryIds.length > 0);
  });
  protected readonly longest = computed(() =>
    this.lines().reduce((most, { folder, file }) => Math.max(most, folder.length + file.length), 0),
  );
  protected readonly apartPieces = computed((): SentencePiece[] => {
    const apart = this.content()?.apart ?? null;
    const column = this.columns().find(({ id }) => id === apart);
    return [
      'Two papers of one name are told apart by ',
      {
        id: 'apart',
        label: 'what tells them apart',
        text: apart === null ? 'a number' : (column?.title ?? 'a column that is gone'),
        value: apart ?? '',
        options: [
          { value: '', label: 'a number', hint: 'Sam Hill (2).pdf' },
          ...this.columns().map(({ id, title }) => {
            const hint = this.picked()?.values[id];
            return { value: id, label: title, ...(hint ? { hint: hint.slice(0, 60) } : {}) };
          }),
        ],
        ...(apart !== null && !column ? { look: 'missing' as const } : {}),
      },
      apart === null ? '.' : ', and by a number where that is the same too.',
    ];
  });

  /** Whether a paper prints a number. */
  protected readonly numbered = computed(() =>
    this.templates().some(({ content }) => {
      const used = new Set(fieldsOf(content));
      return content.fields.some((field) => used.has(field.id) && isNumberField(field));
    }),
  );
  protected readonly numberPieces = computed(() => numberSentence(this.content()?.numbers ?? PLAIN_NUMBERS));

  protected setNumbers(change: SentenceChange): void {
    this.change({ numbers: changeNumbers(this.content()?.numbers ?? PLAIN_NUMBERS, change) });
  }

  protected target(): TextEditor | undefined {
    return this.editor();
  }

  protected texts({ pattern }: Filing): readonly LineText[] {
    return [pattern];
  }

  protected setPattern(pattern: FlowText | LineText): void {
    if (!('content' in pattern)) this.change({ pattern });
  }

  protected setApart({ value }: SentenceChange): void {
    this.change({ apart: value || null });
  }

  protected readonly same = (_: number, { key }: { key: string }): string => key;

  protected pick(entryId: string): void {
    this.store.dispatch(deskActions.pick({ entryId }));
  }

  protected show(label: string, entryIds: readonly string[]): void {
    this.store.dispatch(deskActions.showSome({ some: { label, entryIds: [...entryIds] } }));
  }
}

/** True where the sign in brackets comes from a value, not from telling names apart. */
const endsSo = (values: Readonly<Record<string, string>>, fileName: string): boolean =>
  Object.values(values).some((value) => value !== '' && namedFor(fileName, value));
