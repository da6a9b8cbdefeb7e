import { computed, inject, type Signal } from '@angular/core';
import { Store } from '@ngrx/store';
import type { Column } from '@scriptum/core/column';
import { fieldForColumn, type Field, type WritingContents, type WritingKind } from '@scriptum/core/template';
import { deskFeature } from '../state/desk';
import { rematch, writingActions, writingFeature, type Draft } from '../state/writing';
import { newId } from '../api/new-id';
import type { TextEditor } from './text-editor';

type DraftOf<Kind extends WritingKind> = Extract<Draft, { kind: Kind }>;

/**
 * What the stations share in which something is written: the draft with its fields, what chips show, the arrival of another
 * version, putting fields in and matching them.
 */
export abstract class WritingEditor<Kind extends WritingKind> {
  protected readonly store = inject(Store);
  protected abstract readonly draft: Signal<DraftOf<Kind> | null>;
  /** The editor that a field goes into. */
  protected abstract target(): TextEditor | undefined;

  protected readonly content = computed(
    () => (this.draft()?.content ?? null) as WritingContents[Kind] | null,
  );
  protected readonly arrival = this.store.selectSignal(writingFeature.selectArrival);
  protected readonly columns = this.store.selectSignal(deskFeature.selectColumns);
  protected readonly picked = this.store.selectSignal(deskFeature.selectPicked);

  private readonly letter = this.store.selectSignal(writingFeature.selectLetterValue);
  /** In which values are printed. */
  protected readonly language = computed(() => this.letter()?.language ?? 'en');

  /** Names a text of the draft for its editor. */
  protected part(name: string): string {
    return `${this.draft()?.id ?? ''} ${name}`;
  }

  protected change(part: Partial<WritingContents[Kind]>): void {
    const draft = this.draft();
    if (draft)
      this.store.dispatch(
        writingActions.changed({ id: draft.id, content: { ...draft.content, ...part } as Draft['content'] }),
      );
  }

  protected put(column: Column): void {
    const content = this.content();
    const editor = this.target();
    if (!content || !editor) return;
    const { fields, field } = fieldForColumn(content.fields, column, newId);
    if (fields.length > content.fields.length) this.changeFields(fields);
    // The chip looks its field up; it is there after this turn.
    queueMicrotask(() => editor.insertField(field.id));
  }

  protected rematch({ fieldId, columnId }: { fieldId: string; columnId: string | null }): void {
    const content = this.content();
    if (content) this.changeFields(rematch(content.fields, fieldId, columnId));
  }

  private changeFields(fields: Field[]): void {
    this.change({ fields } as unknown as Partial<WritingContents[Kind]>);
  }
}
