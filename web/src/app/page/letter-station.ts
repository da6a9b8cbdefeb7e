import { from, switchMap } from 'rxjs';
import type { FlowText, LineText } from '@scriptum/core/text';
import {
  ApplicationRef,
  ChangeDetectionStrategy,
  Component,
  computed,
  HostListener,
  inject,
  linkedSignal,
  signal,
  viewChild,
} from '@angular/core';
import { lineWidth, pageLinesOf, type Letter } from '@scriptum/core/template';
import { Api, troubleOf } from '../api/api';
import { FindingsList } from '../desk/findings-list';
import { KeptCopies } from '../desk/kept-copies';
import { TextEditor } from '../editor/text-editor';
import { Toolbar } from '../editor/toolbar';
import { Icon } from '../ui/icon';
import { WritingEditor } from '../editor/writing-editor';
import { deskActions, deskFeature } from '../state/desk';
import { writingFeature } from '../state/writing';
import { FieldPicker } from '../editor/field-picker';
import { FieldsMargin } from '../editor/fields-margin';
import { PartMargin } from '../editor/part-margin';
import { PageSetupForm } from './page-setup-form';
import { forPage } from '../ui/picture-files';
import { BehindForm } from './behind-form';
import { ExceptionBar } from './exception-bar';
import { ExceptionMargin } from './exception-margin';
import { Exceptions } from './exceptions';
import { LettersMenu } from './letters-menu';
import { PageLines } from './page-lines';
import { PagePanes, type Pane } from './page-panes';
import { ProofView } from './proof-view';

const PANE_BUTTONS = [
  { shows: 'text', name: 'The text alone', icon: 'lucidePencilLine' },
  { shows: 'both', name: 'Text and paper', icon: 'lucideColumns2' },
  { shows: 'paper', name: 'The paper alone', icon: 'lucideFileText' },
] as const;

/** The letter as it is written, beside the picked learner's paper as it will be. */
@Component({
  selector: 'sc-letter-station',
  imports: [
    BehindForm,
    ExceptionBar,
    ExceptionMargin,
    FieldPicker,
    FieldsMargin,
    Icon,
    FindingsList,
    KeptCopies,
    LettersMenu,
    PartMargin,
    PageLines,
    PageSetupForm,
    ProofView,
    TextEditor,
    Toolbar,
  ],
  templateUrl: './letter-station.html',
  host: { class: 'sc-middle' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class LetterStation extends WritingEditor<'letter'> {
  private readonly api = inject(Api);
  private readonly pagePanes = inject(PagePanes);
  private readonly app = inject(ApplicationRef);
  /** Whether one learner's own letter is written. */
  protected readonly isOwn = inject(Exceptions).isShown;
  protected readonly shown = this.pagePanes.shown;
  protected readonly panes = PANE_BUTTONS;
  protected readonly editor = viewChild<TextEditor>('bodyEditor');
  /** The head or foot of the pages where the caret was last, if it was there. */
  protected readonly lineEditor = linkedSignal({
    // Each letter has editors of its own.
    source: computed(() => this.draft()?.id),
    computation: (): TextEditor | null => null,
  });
  private readonly template = this.store.selectSignal(writingFeature.selectTemplate);
  protected readonly draft = computed(() => {
    const draft = this.template();
    return draft?.kind === 'letter' ? draft : null;
  });
  private readonly folio = this.store.selectSignal(deskFeature.selectFolio);
  protected readonly letterhead = computed(() => this.folio()?.letterhead ?? null);
  protected readonly pictureUrl = (asset: string): string =>
    `/api/folios/${this.folio()?.id}/assets/${asset}`;
  protected readonly adding = signal(false);

  /** Millimetres between the margins. */
  protected readonly lineWidth = computed(() => {
    const page = this.content()?.page;
    return page && lineWidth(page);
  });

  /** A field goes where the caret was last. */
  protected target(): TextEditor | undefined {
    return this.lineEditor() ?? this.editor();
  }

  protected texts(letter: Letter): readonly (FlowText | LineText)[] {
    return [letter.body, ...pageLinesOf(letter)];
  }

  protected show(pane: Pane): void {
    this.pagePanes.show(pane);
  }

  @HostListener('document:keydown', ['$event'])
  protected key(event: KeyboardEvent): void {
    if (!event.altKey || event.ctrlKey || event.metaKey || event.code !== 'Digit0') return;
    event.preventDefault();
    this.pagePanes.next();
  }

  /** Goes to a block of the text, which is shown beside the paper by then. */
  protected goTo(block: number): void {
    if (this.shown() === 'paper') {
      this.pagePanes.show('both');
      this.app.tick();
    }
    this.lineEditor.set(null);
    this.editor()?.goToBlock(block);
  }

  protected setBody(body: FlowText | LineText): void {
    if ('content' in body) this.change({ body });
  }

  protected addPictures(files: readonly File[]): void {
    const folio = this.folio();
    const file = files[0];
    if (!folio || !file) return;
    this.adding.set(true);
    from(forPage(file))
      .pipe(switchMap((small) => this.api.addPicture(folio.id, small)))
      .subscribe({
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
