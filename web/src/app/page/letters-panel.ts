import { A11yModule } from '@angular/cdk/a11y';
import { Dialog } from '@angular/cdk/dialog';
import { DatePipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import type { Ground } from '@scriptum/core/contract';
import {
  allTemplatesOf,
  emptyLetter,
  emptyPlaced,
  isTemplateBlank,
  isTemplateKind,
  type Placed,
  type Template,
  type Variant,
  type WritingKind,
} from '@scriptum/core/template';
import { from, map, of, switchMap, type Observable } from 'rxjs';
import { newId } from '../api/new-id';
import { Entered, Ticked } from '../ui/bound';
import { Icon } from '../ui/icon';
import { deskFeature } from '../state/desk';
import { writingActions, writingFeature } from '../state/writing';
import { FirstPage } from '../desk/first-page';
import { fileOfForm, isForm, type FormStarter } from './form-starters';
import { GROUND_NOTICES, onGround } from './ground';
import { languageName, PAPER_LANGUAGES, variantIn } from '../desk/paper-languages';
import { isLikely, offersOf, withBlanks } from './placed/blank-boxes';
import { StartersDialog } from './starters-dialog';
import { WritingsPanel } from '../desk/writings-panel';
import { VariantForm } from '../desk/variant-form';

/** All letters of the folio with their first pages, and what can be done with them. */
@Component({
  selector: 'sc-letters-panel',
  imports: [A11yModule, DatePipe, Entered, FirstPage, Icon, Ticked, VariantForm],
  templateUrl: './letters-panel.html',
  host: {
    class: 'panel block max-h-[80vh] w-[440px] max-w-[95vw] overflow-y-auto p-3',
    role: 'dialog',
    'aria-label': 'Letters of this folio',
    '(keydown.escape)': 'left.emit()',
  },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class LettersPanel extends WritingsPanel {
  protected readonly kind = 'letter';
  private readonly dialog = inject(Dialog);
  protected readonly letters = this.store.selectSignal(writingFeature.selectAllTemplates);
  private readonly columns = this.store.selectSignal(deskFeature.selectColumns);
  private readonly roll = this.store.selectSignal(deskFeature.selectSettledRoll);
  protected readonly letter = this.store.selectSignal(writingFeature.selectCommonTemplate);
  /** Letters that are on, but for those that stand in for another one. */
  protected readonly on = computed(
    () => this.letters().filter(({ content }) => !content.off && !content.variant).length,
  );
  protected readonly languages = PAPER_LANGUAGES;
  protected readonly fromLetters = computed(() => allTemplatesOf(this.from()?.writings ?? []));
  /** What is worth knowing of a PDF that was brought in. */
  protected readonly told = signal<readonly string[]>([]);

  protected readonly named = computed(() =>
    this.letters().map(({ id, content }) => ({ id, name: content.name })),
  );

  protected isOne(kind: WritingKind): boolean {
    return isTemplateKind(kind);
  }

  protected pick(id: string): void {
    this.store.dispatch(writingActions.pickTemplate({ id }));
  }

  protected rename(id: string, content: Template, box: HTMLInputElement): void {
    const name = box.value.trim();
    if (name === '') box.value = content.name;
    else this.change(id, { ...content, name });
  }

  protected switch(id: string, content: Template, on: boolean): void {
    const { off: _, ...rest } = content;
    this.change(id, on ? rest : { ...rest, off: true });
  }

  private change(id: string, content: Template): void {
    this.store.dispatch(writingActions.changed({ id, content }));
  }

  protected hasVariants(id: string): boolean {
    return this.letters().some(({ content }) => content.variant?.of === id && !content.off);
  }

  protected nameOf(id: string): string {
    return this.letters().find((one) => one.id === id)?.content.name ?? 'a letter that is gone';
  }

  protected setVariant(id: string, { variant: _, ...rest }: Template, variant: Variant | null): void {
    this.change(id, variant ? { ...rest, variant } : rest);
  }

  /** A copy to be translated, for those whose language it is. */
  protected addVariant(of: string, letter: Template, box: HTMLSelectElement): void {
    const language = box.value;
    box.value = '';
    if (!language) return;
    const variant = variantIn(language, of, this.columns());
    const name = this.freeName(`${letter.name.slice(0, 150)}, ${languageName(language)}`);
    const content: Template = { ...letter, name, language, variant };
    this.add((folioId) => this.api.addTemplate(folioId, content));
  }

  protected addPlaced(): void {
    const content = emptyPlaced(this.freeName('Certificate'));
    const like = this.letter()?.content;
    this.add((folioId) =>
      this.api.addTemplate(folioId, like ? { ...content, language: like.language } : content),
    );
  }

  /** A certificate on the pages of a PDF, such as a form that is there already. */
  protected bringGround(box: HTMLInputElement): void {
    const file = box.files?.[0];
    box.value = '';
    if (file) this.addOnPdf(of(file), (content) => content);
  }

  /** A form of ours, with places in its blanks already. */
  private addForm(form: FormStarter): void {
    this.addOnPdf(from(fileOfForm(form)), (content, ground) => {
      const { columns, entries } = this.roll();
      const blanks = new Map([[ground.id, ground.about.blanks ?? []]]);
      const offers = offersOf(content, blanks, columns, entries).filter(isLikely);
      return { ...content, ...withBlanks(content, offers, columns, newId).part };
    });
  }

  private addOnPdf(file: Observable<File>, filled: (content: Placed, ground: Ground) => Placed): void {
    this.told.set([]);
    const language = this.letter()?.content.language;
    this.do(
      (folioId) =>
        file.pipe(
          switchMap((one) => this.api.addGround(folioId, one)),
          switchMap((ground) => {
            const { id, name, about } = ground;
            const free = this.freeName(name.replace(/\.pdf$/i, '').slice(0, 150) || 'Form');
            const content = filled(onGround(free, id, about), ground);
            return this.api
              .addTemplate(folioId, language ? { ...content, language } : content)
              .pipe(map((added) => ({ added, about })));
          }),
        ),
      ({ added, about }) => {
        this.told.set(about.notices.map((notice) => GROUND_NOTICES[notice]));
        this.pick(added.id);
      },
    );
  }

  protected addBlank(): void {
    const content = emptyLetter(this.freeName('Letter'));
    const like = this.letter()?.content;
    // The same paper and language as what is there.
    const blank =
      like?.kind === 'letter'
        ? { ...content, language: like.language, page: like.page, font: like.font }
        : content;
    this.add((folioId) => this.api.addTemplate(folioId, blank));
  }

  /** One of the starters becomes a letter of its own; it takes the place of one on which nothing is written. */
  protected begin(): void {
    this.left.emit();
    this.dialog
      .open<Template | FormStarter>(StartersDialog, { ariaLabelledBy: 'starters-title' })
      .closed.subscribe((begun) => {
        if (!begun) return;
        if (isForm(begun)) this.addForm(begun);
        else this.begun(begun);
      });
  }

  private begun(letter: Template): void {
    const here = this.letter();
    const content = { ...letter, name: this.freeName(letter.name) };
    if (here && here.kind === letter.kind && isTemplateBlank(here.content))
      this.store.dispatch(writingActions.replaced({ id: here.id, content }));
    else this.add((folioId) => this.api.addTemplate(folioId, content));
  }

  protected fileOf(writingId: string): string {
    return `/api/folios/${this.folio()?.id}/writings/${writingId}/file`;
  }

  protected bring(box: HTMLInputElement): void {
    const file = box.files?.[0];
    box.value = '';
    if (!file) return;
    this.add((folioId) => this.api.bringLetter(folioId, file));
  }
}
