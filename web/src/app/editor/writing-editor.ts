import { computed, inject, signal, type Signal } from '@angular/core';
import { Store } from '@ngrx/store';
import type { Column } from '@scriptum/core/column';
import type { Beginning } from '@scriptum/core/begin';
import type { Condition } from '@scriptum/core/condition';
import { fieldPlaces, type FlowText, type LineText } from '@scriptum/core/text';
import {
  fieldForColumn,
  type Field,
  type TextPart,
  type WritingContents,
  type WritingKind,
} from '@scriptum/core/template';
import { dayIn } from '@scriptum/core/time';
import { deskFeature } from '../state/desk';
import { sessionFeature } from '../state/session';
import { writingActions, writingFeature, type Draft } from '../state/writing';
import { newId } from '../api/new-id';
import { pageField } from './field-sentence';
import type { TextEditor } from './text-editor';

/** What has texts with fields in them. */
export type TextKind = Exclude<WritingKind, 'sorting' | 'exception' | 'form'>;

type DraftOf<Kind extends TextKind> = Extract<
  Exclude<Draft, { kind: 'sorting' | 'exception' | 'form' }>,
  { kind: Kind }
>;

/**
 * What the stations share in which something is written: the draft with its fields, what chips show, the arrival of another
 * version, putting fields in and matching them.
 */
export abstract class WritingEditor<Kind extends TextKind> {
  protected readonly store = inject(Store);
  protected abstract readonly draft: Signal<DraftOf<Kind> | null>;
  /** The editor that a field goes into. */
  protected abstract target(): TextEditor | undefined;

  protected readonly content = computed(
    () => (this.draft()?.content ?? null) as WritingContents[Kind] | null,
  );
  protected readonly arrival = this.store.selectSignal(writingFeature.selectArrival);
  protected readonly columns = this.store.selectSignal(deskFeature.selectColumns);
  protected readonly cohort = this.store.selectSignal(deskFeature.selectCohort);
  protected readonly picked = this.store.selectSignal(deskFeature.selectPicked);

  private readonly letter = this.store.selectSignal(writingFeature.selectTemplateValue);
  /** In which values are printed. */
  protected readonly language = computed(() => this.letter()?.language ?? 'en');
  private readonly timeZone = this.store.selectSignal(sessionFeature.selectTimeZone);
  /** Today at the school, ISO 8601. */
  protected readonly day = computed(() => dayIn(new Date(), this.timeZone()));

  /** The texts of the content, in which fields stand. */
  protected abstract texts(content: WritingContents[Kind]): readonly (FlowText | LineText)[];

  /** How often each field stands in the texts. */
  protected readonly places = computed(() => {
    const content = this.content();
    return content ? fieldPlaces(...this.texts(content)) : new Map<string, number>();
  });
  protected readonly chosen = computed(() => this.target()?.formatting()?.fieldId ?? null);
  /** The part that the block at the caret belongs to. */
  protected readonly partId = computed(() => this.target()?.formatting()?.part.part ?? null);
  /** Whether a part is set for some words or for a block. */
  protected readonly partOf = computed(() => this.target()?.formatting()?.part.what ?? 'block');
  protected readonly parts = computed((): readonly TextPart[] => {
    const content = this.content();
    return (content && 'parts' in content && content.parts) || [];
  });
  /** Counts how often the sentence of the chosen field was asked for. */
  protected readonly asked = signal(0);

  protected ask(): void {
    this.asked.update((n) => n + 1);
  }

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

  /** Puts in the number of the page, or of all pages. */
  protected putPage(all: boolean): void {
    const content = this.content();
    const editor = this.target();
    if (!content || !editor) return;
    const known = content.fields.find(({ same }) => same?.kind === 'page' && same.all === all);
    const field = known ?? { ...pageField(all), id: newId() };
    if (!known) this.changeFields([...content.fields, field]);
    queueMicrotask(() => editor.insertField(field.id));
  }

  /** Puts in a field that no column alone fills; the one that is there already, where there is one. */
  protected putField(made: Omit<Field, 'id'>): void {
    const content = this.content();
    const editor = this.target();
    if (!content || !editor || !made.same) return;
    const known = content.fields.find(({ same }) => same?.kind === made.same!.kind);
    const field = known ?? { ...made, id: newId() };
    if (!known) this.changeFields([...content.fields, field]);
    queueMicrotask(() => editor.insertField(field.id));
  }

  /** Puts in a table or a chart, as a field of its own. */
  protected putBlock(beginning: Beginning): void {
    const content = this.content();
    const editor = this.target();
    if (!content || !editor) return;
    const field = { ...beginning.field, id: newId() };
    this.changeFields([...content.fields, field]);
    queueMicrotask(() => editor.insertBlock(field.id));
  }

  protected changeField(field: Field): void {
    const fields = this.content()?.fields;
    if (fields) this.changeFields(fields.map((one) => (one.id === field.id ? field : one)));
  }

  /** Gives the selected chip a field of its own, which prints the same until it is changed. */
  protected partField(field: Field): void {
    const fields = this.content()?.fields;
    if (!fields) return;
    const own = { ...field, id: newId() };
    this.changeFields([...fields, own]);
    queueMicrotask(() => this.target()?.replaceField(own.id));
  }

  /** Says for whom the blocks at the caret stand; null is everybody. */
  protected setCondition(condition: Condition | null): void {
    const [editor, parts] = [this.target(), this.parts()];
    // A block that was pasted from another text may name a part that is not known here.
    const known = parts.find(({ id }) => id === this.partId())?.id;
    if (!editor) return;
    if (condition === null) {
      editor.setPart(null);
      return;
    }
    const id = known ?? newId();
    const one = { id, if: condition };
    this.changeParts(known ? parts.map((part) => (part.id === known ? one : part)) : [...parts, one]);
    if (!known) editor.setPart(id);
  }

  private changeParts(parts: readonly TextPart[]): void {
    this.change({ parts } as unknown as Partial<WritingContents[Kind]>);
  }

  protected backToText(): void {
    this.target()?.focus();
  }

  private changeFields(fields: Field[]): void {
    this.change({ fields } as unknown as Partial<WritingContents[Kind]>);
  }
}
