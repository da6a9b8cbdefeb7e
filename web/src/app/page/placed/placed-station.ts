import {
  ApplicationRef,
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  HostListener,
  inject,
  linkedSignal,
  signal,
  viewChild,
} from '@angular/core';
import type { Column } from '@scriptum/core/column';
import type { Condition } from '@scriptum/core/condition';
import { mayGoOnIn } from '@scriptum/core/page';
import {
  fieldForColumn,
  linesOfTemplate,
  placedOf,
  sizeOfPage,
  textsOf,
  withPlaced,
  type Field,
  type Placed,
  type PlacedBox,
  type Template,
  type TextBox,
} from '@scriptum/core/template';
import { textPlain, type FlowText, type LineText } from '@scriptum/core/text';
import { Api, troubleOf } from '../../api/api';
import { newId } from '../../api/new-id';
import { FindingsList } from '../../desk/findings-list';
import { KeptCopies } from '../../desk/kept-copies';
import { coloursWith } from '../../editor/colours';
import { FieldPicker } from '../../editor/field-picker';
import { FieldsMargin } from '../../editor/fields-margin';
import { PartMargin } from '../../editor/part-margin';
import type { TextEditor } from '../../editor/text-editor';
import { Toolbar } from '../../editor/toolbar';
import { WritingEditor } from '../../editor/writing-editor';
import { deskActions, deskFeature } from '../../state/desk';
import { extremesOf } from '../../state/extremes';
import { writingActions, writingFeature } from '../../state/writing';
import { BehindPages } from '../behind-pages';
import { ExceptionBar } from '../exception-bar';
import { ExceptionMargin } from '../exception-margin';
import { Exceptions } from '../exceptions';
import { LettersMenu } from '../letters-menu';
import { Icon } from '../../ui/icon';
import { AddMenu } from './add-menu';
import { ArrangeBar, type Arranging } from './arrange-bar';
import { arranged, withCondition } from './arranging';
import { withBlanks, type Offer } from './blank-boxes';
import { BlanksPanel } from './blanks-panel';
import { BoxForm } from './box-form';
import { bringPicture, type Brought } from './bring-picture';
import { FitBar } from './fit-bar';
import { boxName } from './box-names';
import type { BoxSurroundings } from './box-sentence';
import { Forms, groundsOf, linesThrough, printedOn } from './forms';
import { newBox, type Adding } from './new-box';
import { nudgeOf } from './place-keys';
import { PagesForm } from './pages-form';
import { changePages } from './pages-sentence';
import {
  copyOf,
  mapBoxes,
  movedTo,
  nudgedBoxes,
  goesOnFrom,
  wholeGroups,
  withBox,
  withCopies,
  withGoingOn,
  type Copied,
} from './placed-edits';
import { PlacedHistory } from './placed-history';
import { PlacedPaper, type Moved, type Zoom } from './placed-paper';
import { PlacesList } from './places-list';

const ZOOMS: readonly (readonly [Zoom, string])[] = [
  ['fit', 'Whole page'],
  [50, '50 %'],
  [75, '75 %'],
  [100, 'True size'],
  [150, '150 %'],
  [200, '200 %'],
  [400, '400 %'],
];

/** What was copied last, also of another certificate. */
let clipboard: Copied | null = null;

/** Pages with boxes: the picked learner's paper, on which they are put in their places, and the list of the places. */
@Component({
  selector: 'sc-placed-station',
  imports: [
    AddMenu,
    ArrangeBar,
    BlanksPanel,
    BoxForm,
    FieldPicker,
    ExceptionBar,
    ExceptionMargin,
    FitBar,
    FieldsMargin,
    FindingsList,
    Icon,
    KeptCopies,
    LettersMenu,
    PagesForm,
    PartMargin,
    PlacedPaper,
    PlacesList,
    Toolbar,
  ],
  templateUrl: './placed-station.html',
  providers: [Forms],
  host: { class: 'sc-middle wide' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PlacedStation extends WritingEditor<'placed'> {
  private readonly api = inject(Api);
  private readonly app = inject(ApplicationRef);
  private readonly history = inject(PlacedHistory);
  private readonly forms = inject(Forms);
  /** Whether one learner's own paper is arranged. */
  protected readonly isOwn = inject(Exceptions).isShown;
  private readonly paper = viewChild(PlacedPaper);
  private readonly form = viewChild(BoxForm);
  private readonly template = this.store.selectSignal(writingFeature.selectTemplate);
  /** What is arranged: a certificate, or the pages behind a letter's text. */
  protected readonly draft = computed(() => {
    const draft = this.template();
    if (!draft || draft.kind === 'placed') return draft;
    const content = placedOf(draft.content);
    return content && { ...draft, kind: 'placed' as const, content };
  });
  /** The letter behind which these pages stand. */
  protected readonly behind = computed(() => {
    const draft = this.template();
    return draft?.kind === 'letter' ? draft : null;
  });
  protected readonly pages = inject(BehindPages);
  /** As it is kept. */
  protected readonly whole = this.template;

  /** What is kept where the pages become these. */
  private kept(content: Placed): Template {
    const letter = this.behind();
    return letter ? withPlaced(letter.content, content) : content;
  }
  private readonly folio = this.store.selectSignal(deskFeature.selectFolio);
  private readonly roll = this.store.selectSignal(deskFeature.selectRoll);
  private readonly proof = this.store.selectSignal(writingFeature.selectProof);
  protected readonly letterhead = computed(() => this.folio()?.letterhead ?? null);
  protected readonly pictureUrl = (asset: string): string =>
    `/api/folios/${this.folio()?.id}/assets/${asset}`;
  protected readonly adding = signal(false);
  protected readonly zooms = ZOOMS;
  protected readonly zoom = signal<Zoom>('fit');
  protected readonly rulers = signal(false);
  /** The page that was looked at last. */
  protected readonly looked = linkedSignal({
    source: computed(() => this.draft()?.id),
    computation: () => 0,
  });
  /** The page that is looked at, on which new boxes come to stand; pages may have gone since. */
  protected readonly page = computed(() =>
    Math.max(0, Math.min(this.looked(), (this.content()?.pages.length ?? 1) - 1)),
  );

  /** Whether a PDF lies under some page. */
  protected readonly onForm = computed(() => this.content()?.pages.some(({ ground }) => ground) ?? false);
  /** A blank of it that is pointed at in the list. */
  protected readonly pointed = signal<Offer | null>(null);

  constructor() {
    super();
    effect(() => this.forms.want(groundsOf(this.content() ?? { pages: [] })));
  }

  protected takeBlanks(offers: readonly Offer[]): void {
    const content = this.content();
    if (!content) return;
    const { part, ids } = withBlanks(content, offers, this.columns(), newId);
    this.change(part);
    this.wanted.set(ids);
  }

  /** Boxes that are picked, as far as they are there: other learners and other people's changes leave them. */
  private readonly wanted = linkedSignal({
    // A signal of its own: a change to the same one is none of it.
    source: computed(() => this.draft()?.id),
    computation: (): readonly string[] => [],
  });
  protected readonly boxes = computed(() => {
    const wanted = new Set(this.wanted());
    return (this.content()?.boxes ?? []).filter(({ id }) => wanted.has(id));
  });
  protected readonly pickedIds = computed(() => this.boxes().map(({ id }) => id));
  private readonly pickedSet = computed(() => new Set(this.pickedIds()));
  /** The one that is picked, where it is one. */
  protected readonly box = computed(() => (this.boxes().length === 1 ? this.boxes()[0]! : null));
  protected readonly editor = computed((): TextEditor | undefined => this.form()?.editor());
  /** The side that the text which is written keeps to. */
  protected readonly side = computed(() => {
    const box = this.box();
    return (box?.kind === 'text' && box.align) || 'left';
  });
  protected readonly fits = computed(() => this.proof()?.fits ?? []);
  private readonly measured = this.store.selectSignal(writingFeature.selectFits);
  /** How texts fit for everybody, by the box's identity. */
  protected readonly fitsOfAll = computed(() => {
    const measured = this.measured();
    const boxes = measured?.templateId === this.draft()?.id ? measured?.boxes : undefined;
    return new Map((boxes ?? []).map((one) => [one.box, one]));
  });
  protected readonly isGroup = computed(() => {
    const [first, ...rest] = this.boxes();
    return Boolean(first?.group) && rest.length > 0 && rest.every(({ group }) => group === first!.group);
  });
  protected readonly isLocked = computed(() => this.boxes().every(({ locked }) => locked));

  protected readonly nameOf = computed(() => {
    const [content, columns, letterhead] = [this.content(), this.columns(), this.letterhead()];
    const plain = (box: PlacedBox): string => boxName(box, content?.fields ?? [], columns, letterhead);
    return (box: PlacedBox): string => {
      // A place that has nothing of its own is called by what goes on in it.
      const own = box.kind !== 'text' || box.name || textPlain(box.body, {}).trim();
      const from = own ? undefined : content && goesOnFrom(content, box.id);
      return from ? `${plain(from)}, going on` : plain(box);
    };
  });
  protected readonly boxAround = computed((): BoxSurroundings => ({
    colours: coloursWith(this.letterhead()),
    letterhead: this.letterhead(),
    font: this.content()?.font ?? { family: '', size: 12 },
    fillable: this.content()?.fillable ?? false,
    linesThrough: (box) => {
      const content = this.content();
      return content && linesThrough(box, printedOn(content, box.page, this.forms.blanks()));
    },
    goOnIn: (box) => {
      const [content, nameOf] = [this.content(), this.nameOf()];
      return (content?.boxes ?? []).flatMap((one) =>
        one.kind === 'text' && content && mayGoOnIn(content, box, one)
          ? [[one.id, content.pages.length > 1 ? `${nameOf(one)} (page ${one.page + 1})` : nameOf(one)]]
          : [],
      );
    },
  }));

  protected readonly canUndo = computed(() => this.can('undo'));
  protected readonly canRedo = computed(() => this.can('redo'));

  private can(which: 'undo' | 'redo'): boolean {
    const draft = this.draft();
    return draft !== null && this.history.can(draft.id, draft.content, which);
  }

  protected target(): TextEditor | undefined {
    return this.editor();
  }

  protected texts(content: Placed): readonly (FlowText | LineText)[] {
    return [...textsOf(content), ...linesOfTemplate(content)];
  }

  /** Every change is a step that can be taken back. */
  protected override change(part: Partial<Placed>, reason = ''): void {
    const draft = this.draft();
    if (!draft) return;
    const content = { ...draft.content, ...part };
    this.history.note(draft.id, draft.content, content, reason, performance.now());
    this.store.dispatch(writingActions.changed({ id: draft.id, content: this.kept(content) }));
  }

  /** Takes the last step back, or does it again; texts are taken anew. */
  protected step(which: 'undo' | 'redo'): void {
    const draft = this.draft();
    const content = draft && this.history[which](draft.id, draft.content);
    if (content) this.store.dispatch(writingActions.replaced({ id: draft.id, content: this.kept(content) }));
  }

  protected pick(ids: readonly string[]): void {
    this.wanted.set(ids);
  }

  protected pickFromList(ids: readonly string[]): void {
    this.wanted.set(ids);
    const last = ids.at(-1);
    if (last) this.paper()?.show(last, false);
  }

  protected changeBox({ box, reason }: { box: PlacedBox; reason: string }): void {
    const content = this.content();
    if (content)
      this.change(
        mapBoxes(content, new Set([box.id]), () => box),
        reason,
      );
  }

  protected goOn(box: TextBox): void {
    const content = this.content();
    if (content) this.change(withGoingOn(content, box, newId()));
  }

  protected move(moved: Moved): void {
    const content = this.content();
    if (content) this.change(movedTo(content, moved));
  }

  /** Into the text of a box. */
  protected write(id: string): void {
    this.wanted.set([id]);
    this.app.tick();
    const editor = this.editor();
    if (editor) editor.focus();
    else document.querySelector<HTMLElement>('sc-box-form .part')?.focus();
  }

  protected backToPaper(): void {
    const id = this.pickedIds()[0];
    if (id) this.paper()?.show(id, true);
  }

  protected add(adding: Adding): void {
    const content = this.content();
    if (!content) return;
    if (adding.what === 'date') return this.addDate(content);
    if (adding.what === 'letterhead' && !this.letterhead()) {
      const message =
        'The school has no letterhead yet. Make one first; the way to it is beside the name of the school.';
      this.store.dispatch(deskActions.failed({ trouble: { code: 'no-letterhead', message } }));
      return;
    }
    this.putBox(content, adding, content.fields);
  }

  private addDate(content: Placed): void {
    const known = content.fields.find(({ same, format }) => same?.kind === 'day' && !format);
    const field: Field = known ?? { id: newId(), name: 'Date', columnId: null, same: { kind: 'day' } };
    this.putBox(
      content,
      { what: 'field', fieldId: field.id },
      known ? content.fields : [...content.fields, field],
    );
  }

  private putBox(content: Placed, adding: Adding, fields: readonly Field[]): void {
    const page = this.page();
    const box = newBox(adding, { page, ...sizeOfPage(content, page) }, newId());
    this.change({ ...withBox(content, box), fields: [...fields] });
    this.wanted.set([box.id]);
    this.app.tick();
    this.paper()?.show(box.id, true);
  }

  /** Into the text that is written, or as a box of its own where none is. */
  protected override put(column: Column): void {
    const content = this.content();
    if (!content) return;
    if (this.editor()) return super.put(column);
    const { fields, field } = fieldForColumn(content.fields, column, newId);
    this.putBox(content, { what: 'field', fieldId: field.id }, fields);
  }

  /** A field of its own for the learners' pictures of a column. */
  protected addOwnPicture(column: Column): void {
    const content = this.content();
    if (!content) return;
    const known = content.fields.find(({ columnId, picture }) => columnId === column.id && picture);
    const field: Field = known ?? {
      id: newId(),
      name: column.title,
      columnId: column.id,
      picture: { width: 35, height: 45, fit: 'cut below', side: 'center' },
    };
    this.putBox(
      content,
      { what: 'ownPicture', fieldId: field.id },
      known ? content.fields : [...content.fields, field],
    );
  }

  protected addPicture(file: File): void {
    this.bring(file, ({ picture, ratio }) => {
      const name = picture.name.replace(/\.\w+$/, '').replace(/[_-]+/g, ' ');
      this.add({ what: 'picture', asset: picture.id, name, ratio });
    });
  }

  protected addGroundPicture(file: File): void {
    const page = this.page();
    this.bring(file, ({ picture }) => {
      const content = this.content();
      if (content) this.change(changePages(content, page, { id: 'picture', value: picture.id }));
    });
  }

  private bring(file: File, then: (brought: Brought) => void): void {
    const folio = this.folio();
    if (!folio) return;
    this.adding.set(true);
    bringPicture(this.api, folio.id, file).subscribe({
      next: (brought) => {
        this.adding.set(false);
        this.store.dispatch(deskActions.pictureAdded({ picture: brought.picture }));
        then(brought);
      },
      error: (error: unknown) => {
        this.adding.set(false);
        this.store.dispatch(deskActions.failed({ trouble: troubleOf(error) }));
      },
    });
  }

  /** Says for whom the picked box stands; null is everybody. */
  protected setBoxCondition(condition: Condition | null): void {
    const [content, box] = [this.content(), this.box()];
    if (content && box) this.change(withCondition(content, box, condition, newId));
  }

  protected arrange(arranging: Arranging): void {
    const content = this.content();
    const chosen = this.pickedSet();
    if (!content || chosen.size === 0) return;
    if (arranging.do === 'copy') {
      clipboard = copyOf(content, chosen);
      return this.paste();
    }
    const { part, ids } = arranged(content, chosen, arranging, newId);
    this.change(part);
    if (ids) this.wanted.set(ids);
  }

  private paste(): void {
    const content = this.content();
    if (!content || !clipboard || clipboard.boxes.length === 0) return;
    const page = this.page();
    const { part, ids } = withCopies(content, clipboard, page, newId);
    this.change(part);
    this.wanted.set(ids);
    this.app.tick();
    this.paper()?.show(ids[0]!, true);
  }

  /** Keys over the paper and the list of places; what is typed into texts and boxes of numbers is theirs. */
  protected key(event: KeyboardEvent): void {
    const content = this.content();
    if (!content) return;
    const nudge = nudgeOf(event);
    const control = event.ctrlKey || event.metaKey;
    if (nudge) {
      this.change(nudgedBoxes(content, this.pickedSet(), nudge), `${nudge.what} by keys`);
    } else if (event.key === 'Delete' || event.key === 'Backspace') this.arrange({ do: 'delete' });
    else if (event.key === 'PageUp' || event.key === 'PageDown')
      this.arrange({ do: 'order', to: event.key === 'PageUp' ? 'earlier' : 'later' });
    else if (event.key === 'Escape') this.wanted.set([]);
    else if (control && event.key.toLowerCase() === 'a')
      this.wanted.set(
        content.boxes.filter(({ page, locked }) => page === this.page() && !locked).map(({ id }) => id),
      );
    else if (control && event.key.toLowerCase() === 'c') clipboard = copyOf(content, this.pickedSet());
    else if (control && event.key.toLowerCase() === 'x') {
      clipboard = copyOf(content, this.pickedSet());
      this.arrange({ do: 'delete' });
    } else if (control && event.key.toLowerCase() === 'v') this.paste();
    else if (control && event.key.toLowerCase() === 'd') this.arrange({ do: 'copy' });
    else if (control && event.key.toLowerCase() === 'g')
      this.arrange({ do: event.shiftKey ? 'ungroup' : 'group' });
    else return;
    event.preventDefault();
  }

  /** Steps are taken back from anywhere at the station but in a text, which has steps of its own. */
  @HostListener('document:keydown', ['$event'])
  protected undoKey(event: KeyboardEvent): void {
    if (!(event.ctrlKey || event.metaKey) || event.altKey || event.defaultPrevented) return;
    const target = event.target as HTMLElement;
    if (target.closest('input, textarea, select, [contenteditable="true"], [role="dialog"]')) return;
    const key = event.key.toLowerCase();
    const redo = key === 'y' || (key === 'z' && event.shiftKey);
    if (key !== 'z' && !redo) return;
    event.preventDefault();
    this.step(redo ? 'redo' : 'undo');
  }

  /** All of a group is picked with one of it in the list too. */
  protected pickGroup(): void {
    const content = this.content();
    if (content) this.wanted.set(wholeGroups(content, this.pickedIds()));
  }

  /** The learner with the longest or the shortest text: a certificate has to hold both. */
  protected pickExtreme(which: 'longest' | 'shortest'): void {
    const content = this.content();
    const found = content && extremesOf(content, this.roll(), this.day());
    if (found) this.store.dispatch(deskActions.pick({ entryId: found[which] }));
  }

  protected setZoom(text: string): void {
    this.zoom.set(text === 'fit' ? 'fit' : Number(text));
  }

  protected zoomToBox(): void {
    const [box, paper] = [this.box(), this.paper()];
    if (!box || !paper) return;
    this.zoom.set(paper.zoomFor(box));
    this.app.tick();
    paper.show(box.id, false);
  }

  protected readonly isKnownZoom = computed(() => ZOOMS.some(([value]) => value === this.zoom()));
}
