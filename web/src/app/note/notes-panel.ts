import { A11yModule } from '@angular/cdk/a11y';
import { DatePipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed } from '@angular/core';
import type { AddWriting } from '@scriptum/core/contract';
import {
  emptyNote,
  noteName,
  writingsOf,
  type CoverNote,
  type Variant,
  type WritingKind,
} from '@scriptum/core/template';
import { languageName, PAPER_LANGUAGES, variantIn } from '../desk/paper-languages';
import { VariantForm } from '../desk/variant-form';
import { WritingsPanel } from '../desk/writings-panel';
import { deskFeature } from '../state/desk';
import { writingActions, writingFeature } from '../state/writing';
import { Entered } from '../ui/bound';
import { Icon } from '../ui/icon';

/** Whom a note goes to of those who get papers, as it is chosen. */
const GOES: readonly { readonly value: '' | 'ruled' | 'asked'; readonly label: string }[] = [
  { value: '', label: 'Goes to everybody with papers' },
  { value: 'ruled', label: 'Goes where the sorting names it' },
  { value: 'asked', label: 'Only when somebody sends it, as a reminder' },
];

/** All cover notes of the folio, and what can be done with them. */
@Component({
  selector: 'sc-notes-panel',
  imports: [A11yModule, DatePipe, Entered, Icon, VariantForm],
  templateUrl: './notes-panel.html',
  host: {
    class: 'panel block max-h-[80vh] w-[440px] max-w-[95vw] overflow-y-auto p-3',
    role: 'dialog',
    'aria-label': 'Cover notes of this folio',
    '(keydown.escape)': 'left.emit()',
  },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class NotesPanel extends WritingsPanel {
  protected readonly kind = 'note';
  private readonly notes = this.store.selectSignal(writingFeature.selectNotes);
  protected readonly note = this.store.selectSignal(writingFeature.selectNote);
  private readonly columns = this.store.selectSignal(deskFeature.selectColumns);
  protected readonly named = computed(() =>
    this.notes().map((one) => ({ id: one.id, name: noteName(one), content: one.content })),
  );
  protected readonly fromNotes = computed(() => writingsOf(this.from()?.writings ?? [], 'note'));
  protected readonly goes = GOES;
  protected readonly languages = PAPER_LANGUAGES;

  protected isOne(kind: WritingKind): boolean {
    return kind === 'note';
  }

  protected pick(id: string): void {
    this.store.dispatch(writingActions.pickNote({ id }));
  }

  protected nameOf(id: string): string {
    return this.named().find((one) => one.id === id)?.name ?? 'a note that is gone';
  }

  protected rename(id: string, content: CoverNote, box: HTMLInputElement): void {
    const name = box.value.trim();
    if (name === '') box.value = this.nameOf(id);
    else this.change(id, { ...content, name });
  }

  protected setGoes(id: string, { goes: _, ...rest }: CoverNote, value: string): void {
    this.change(id, value ? { ...rest, goes: value as 'ruled' | 'asked' } : rest);
  }

  protected setVariant(id: string, { variant: _, ...rest }: CoverNote, variant: Variant | null): void {
    this.change(id, variant ? { ...rest, variant } : rest);
  }

  /** A copy to be translated, for those whose language it is. */
  protected addVariant(of: string, note: CoverNote, box: HTMLSelectElement): void {
    const language = box.value;
    box.value = '';
    if (!language) return;
    const variant = variantIn(language, of, this.columns());
    const name = this.freeName(`${this.nameOf(of).slice(0, 150)}, ${languageName(language)}`);
    this.put({ ...note, name, language, variant });
  }

  /** Another note to the same people, on which nothing is written yet. */
  protected addBlank(): void {
    const like = this.note()?.content;
    const { to, cc, bcc, replyTo, from, family, apart } = like ?? emptyNote();
    const same = { to, cc, bcc, replyTo, from, family, apart };
    this.put({ ...emptyNote(), ...same, name: this.freeName('Cover note') });
  }

  private put(content: CoverNote): void {
    const body: AddWriting = { kind: 'note', content, ...(content.name ? { name: content.name } : {}) };
    this.add((folioId) => this.api.addWriting(folioId, body));
  }

  private change(id: string, content: CoverNote): void {
    this.store.dispatch(writingActions.changed({ id, content }));
  }
}
