import { isRightToLeft, LinkAddress, type FlowText, type LineText } from '@scriptum/core/text';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  CSP_NONCE,
  effect,
  type ElementRef,
  inject,
  input,
  type OnDestroy,
  output,
  signal,
  untracked,
  viewChild,
  afterNextRender,
} from '@angular/core';
import type { Entry } from '@scriptum/core/roll';
import type { Column } from '@scriptum/core/column';
import { filledParts, standsIn, type Cohort } from '@scriptum/core/fill';
import type { Field, SignOff, TextPart } from '@scriptum/core/template';
import { Editor, Extension, type JSONContent } from '@tiptap/core';
import { TextAlign } from '@tiptap/extension-text-align';
import { TextStyleKit } from '@tiptap/extension-text-style';
import { NodeSelection, TextSelection } from '@tiptap/pm/state';
import { StarterKit } from '@tiptap/starter-kit';
import { ChipSource } from './chip-source';
import { FieldBlockNode } from './field-block-node';
import { FieldNode } from './field-node';
import type { ScreenPlace } from './field-picker';
import { FootnoteNode } from './footnote-node';
import { FrameNode } from './frame-node';
import { FREE_TABLE } from './free-table';
import { applyFormat, readFormatting, type Format } from './formatting';
import { KeptEditors, type EditorListener, type KeptEditor } from './kept-editors';
import { PageBreakNode, ParagraphStyles } from './paragraph-styles';
import { lookingParser } from './looking-parser';
import { pastedHtml } from './pasted';
import { PictureNode, type PictureAttrs } from './picture-node';
import { SignOffNode } from './sign-off-node';
import { partsChanged, PartMark, TextParts, type StandsFor } from './text-parts';

/** One line: Enter does nothing, and pasted text loses its line ends. */
const OneLine = Extension.create({
  name: 'oneLine',
  addKeyboardShortcuts: () => ({ Enter: () => true, 'Shift-Enter': () => true, 'Mod-Enter': () => true }),
});

const NOBODY: readonly SignOff[] = [];

export type EditorForm = 'letter' | 'note' | 'line';

/**
 * An editor for text with fields. `form` says how much formatting there is: a letter's, an email's, or a single line.
 * Takes its text anew when `arrival` changes; else what people type is the truth, and goes out through `changed`.
 */
@Component({
  selector: 'sc-text-editor',
  template:
    "<div #host [class]=\"form() === 'line' ? 'line' : 'flow h-full'\" [attr.dir]=\"direction()\"></div>",
  host: { class: 'block' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class TextEditor implements OnDestroy {
  readonly form = input.required<EditorForm>();
  readonly label = input.required<string>();
  /** Names the text, so that its history is still there when it is shown again; null where it need not be. */
  readonly of = input<string | null>(null);
  readonly hint = input('');
  readonly value = input.required<FlowText | LineText>();
  readonly arrival = input.required<number>();
  readonly fields = input.required<readonly Field[]>();
  readonly columns = input.required<readonly Column[]>();
  /** BCP 47; in which values are printed. */
  readonly language = input('en');
  protected readonly direction = computed(() => (isRightToLeft(this.language()) ? 'rtl' : null));
  /** Today at the school, ISO 8601. */
  readonly day = input('');
  /** The parts that come and go. */
  readonly parts = input<readonly TextPart[]>([]);
  readonly entry = input<Entry>();
  /** The others, for what is compared with them. */
  readonly cohort = input<Cohort>();
  /** Millimetres that the text is wide on paper. */
  readonly lineWidth = input<number>();
  /** What chips show: the picked learner's value, or the name of the field. */
  readonly chips = input<'values' | 'names'>('values');
  /** Who signs letters. */
  readonly signOffs = input<readonly SignOff[]>(NOBODY);
  readonly pictureUrl = input<(asset: string) => string>(() => '');
  readonly changed = output<FlowText | LineText>();
  /** Files that were dropped or pasted into the text. */
  readonly files = output<File[]>();
  readonly focused = output<void>();
  /** F2: a field is wanted at the caret. */
  readonly wanted = output<ScreenPlace>();
  /** Enter on a selected chip: its sentence is wanted. */
  readonly opened = output<string>();

  private readonly host = viewChild.required<ElementRef<HTMLElement>>('host');
  private readonly nonce = inject(CSP_NONCE, { optional: true });
  private readonly editors = inject(KeptEditors);
  private kept: KeptEditor | null = null;
  private keptAs: string | null = null;
  /** Counts transactions. */
  private readonly beat = signal(0);
  private taken = -1;

  /** How the text at the caret is set; null as long as there is no editor. */
  readonly formatting = computed(() => {
    this.beat();
    return this.kept && readFormatting(this.kept.editor);
  });

  constructor() {
    afterNextRender(() => this.make());
    effect(() => {
      this.beat();
      this.setChips();
    });
    effect(() => {
      const stands = this.stands();
      // A transaction of its own: it must not be asked for again by what it changes.
      untracked(() => this.showParts(stands));
    });
    effect(() => {
      const arrival = this.arrival();
      this.beat();
      untracked(() => this.take(arrival));
    });
  }

  ngOnDestroy(): void {
    if (this.kept) this.editors.putAway(this.keptAs, this.kept);
    this.kept = null;
  }

  format(format: Format): void {
    if (this.kept) applyFormat(this.kept.editor, format);
  }

  insertField(fieldId: string): void {
    this.focus();
    this.kept?.editor.commands.insertField(fieldId);
  }

  /** Puts in a field that takes a block of its own, behind the block at the caret. */
  insertBlock(fieldId: string): void {
    this.focus();
    this.kept?.editor.commands.insertFieldBlock(fieldId);
  }

  /** Puts another field where the selected chip stands. */
  replaceField(fieldId: string): void {
    if (!this.kept) return;
    const { editor } = this.kept;
    const at = editor.state.selection.from;
    // It stays selected, since its sentence is what people want to change now.
    const node = editor.isActive('fieldBlock') ? 'fieldBlock' : 'field';
    this.focus();
    editor.chain().updateAttributes(node, { fieldId }).setNodeSelection(at).run();
  }

  /** At once, so that what is typed next comes here. */
  focus(): void {
    this.kept?.editor.view.focus();
  }

  /** Begins a paragraph at the end of the text. */
  goToEnd(): void {
    if (!this.kept) return;
    const { editor } = this.kept;
    this.focus();
    const last = editor.state.doc.lastChild;
    editor.commands.setTextSelection(editor.state.doc.content.size);
    if (last?.type.name !== 'paragraph' || last.content.size > 0)
      editor.commands.insertContentAt(editor.state.doc.content.size, { type: 'paragraph' });
    editor.commands.setTextSelection(editor.state.doc.content.size);
  }

  /** Goes on writing behind what is selected. */
  goBehind(): void {
    this.focus();
    this.kept?.editor.commands.command(({ tr }) => {
      tr.setSelection(TextSelection.near(tr.doc.resolve(tr.selection.to)));
      return true;
    });
  }

  /** Goes to one of the blocks of the text itself, counted from 0: into its words, or selects what has none. */
  goToBlock(n: number): void {
    if (!this.kept) return;
    const { state, view } = this.kept.editor;
    const { doc } = state;
    if (n >= doc.childCount) return;
    let at = 0;
    for (let before = 0; before < n; before++) at += doc.child(before).nodeSize;
    const block = doc.child(n);
    const selection =
      block.isAtom || block.isLeaf
        ? NodeSelection.create(doc, at)
        : TextSelection.near(doc.resolve(at + 1), 1);
    view.focus();
    view.dispatch(state.tr.setSelection(selection).scrollIntoView());
  }

  insertText(text: string): void {
    this.focus();
    this.kept?.editor.commands.insertContent(text);
  }

  insertPicture(picture: PictureAttrs): void {
    this.focus();
    this.kept?.editor.commands.insertPicture(picture);
  }

  /** Gives the blocks of the selection a part, or none. */
  setPart(partId: string | null): void {
    this.kept?.editor.chain().setPart(partId).run();
  }

  /** Which parts stand for the picked learner. */
  private readonly stands = computed((): StandsFor => {
    const [parts, columns, entry] = [this.parts(), this.columns(), this.entry()];
    const values = entry ? filledParts(parts, entry, columns) : {};
    return (partId) => (partId in values ? standsIn(values, partId) : null);
  });

  private showParts(stands: StandsFor): void {
    const editor = this.kept?.editor;
    if (editor && this.form() !== 'line') editor.view.dispatch(partsChanged(editor.state, stands));
  }

  private setChips(): void {
    const width = this.lineWidth();
    this.kept?.chips.set(this.fields(), {
      columns: this.columns(),
      language: this.language(),
      day: this.day(),
      entry: this.entry(),
      cohort: this.cohort(),
      named: this.chips() === 'names',
      signOffs: this.signOffs(),
      pictureUrl: this.pictureUrl(),
      ...(width === undefined ? {} : { width }),
    });
  }

  private make(): void {
    this.taken = this.arrival();
    this.keptAs = this.of();
    const fresh = (): KeptEditor => this.newEditor();
    this.kept = this.keptAs === null ? fresh() : this.editors.take(this.keptAs, fresh);
    this.kept.listener = {
      changed: () => this.changed.emit(this.read()),
      moved: () => {
        this.markBlank();
        this.beat.update((n) => n + 1);
      },
      focused: () => this.focused.emit(),
      files: (files) => this.takeFiles(files),
      opened: (fieldId) => this.opened.emit(fieldId),
      wanted: () => this.wanted.emit(this.caretPlace()),
    };
    this.host().nativeElement.append(this.kept.element);
    this.setChips();
    this.showParts(this.stands());
    // What came from the server while it was put away.
    this.follow();
    this.caretIntoText();
    this.markBlank();
    this.beat.update((n) => n + 1);
  }

  private newEditor(): KeptEditor {
    const form = this.form();
    const line = form === 'line';
    const element = document.createElement('div');
    element.className = 'h-full';
    const chips = new ChipSource();
    // Needed while the text is first drawn, before anybody listens.
    const pictureUrl = this.pictureUrl();
    const listener = (): EditorListener | null => made?.listener ?? null;
    let made: KeptEditor | null = null;
    const editor: Editor = new Editor({
      element,
      injectNonce: this.nonce ?? undefined,
      content: this.content(),
      extensions: [
        StarterKit.configure({
          heading: line ? false : { levels: [1, 2, 3] },
          bulletList: line ? false : {},
          orderedList: line ? false : {},
          listItem: line ? false : {},
          listKeymap: line ? false : {},
          horizontalRule: form === 'letter' ? {} : false,
          hardBreak: line ? false : {},
          bold: line ? false : {},
          italic: line ? false : {},
          underline: line ? false : {},
          blockquote: false,
          code: false,
          codeBlock: false,
          strike: false,
          link: line
            ? false
            : {
                openOnClick: false,
                autolink: false,
                defaultProtocol: 'https',
                isAllowedUri: (address) => LinkAddress.safeParse(address).success,
                HTMLAttributes: { target: null, rel: null, class: null },
              },
          trailingNode: false,
        }),
        ...(line
          ? [OneLine]
          : [
              TextAlign.configure({ types: ['heading', 'paragraph'] }),
              TextStyleKit.configure({ backgroundColor: false, fontFamily: false, lineHeight: false }),
            ]),
        ...(line ? [] : [PictureNode.configure({ urlOf: pictureUrl })]),
        ...(form === 'letter'
          ? [
              PageBreakNode,
              SignOffNode.configure({ faces: chips }),
              FootnoteNode,
              FrameNode,
              ...FREE_TABLE,
              FieldBlockNode.configure({ faces: chips, open: (fieldId) => listener()?.opened(fieldId) }),
            ]
          : []),
        ...(line ? [] : [TextParts, PartMark, ParagraphStyles]),
        FieldNode.configure({ faces: chips, open: (fieldId) => listener()?.opened(fieldId) }),
      ],
      editorProps: {
        attributes: {
          role: 'textbox',
          'aria-label': this.label(),
          'aria-multiline': String(!line),
          spellcheck: 'true',
        },
        handleKeyDown: (_view, event) => {
          if (event.key !== 'F2') return false;
          listener()?.wanted();
          return true;
        },
        handleDrop: (_view, event) => listener()?.files((event as DragEvent).dataTransfer?.files) ?? false,
        handlePaste: (_view, event) => listener()?.files(event.clipboardData?.files) ?? false,
        transformPastedHTML: pastedHtml,
        clipboardParser: lookingParser(() => editor.schema),
        // A line end in pasted text would make a second paragraph.
        transformPastedText: (text) => (line ? text.replace(/\s*\r?\n\s*/g, ' ') : text),
      },
      onUpdate: () => listener()?.changed(),
      onTransaction: () => listener()?.moved(),
      onFocus: () => listener()?.focused(),
    });
    return (made = { editor, chips, element, listener: null });
  }

  private caretPlace(): ScreenPlace {
    const { view, state } = this.kept!.editor;
    const { left, top, bottom } = view.coordsAtPos(state.selection.head);
    return { x: left, y: top, height: bottom - top };
  }

  /** Where a picture comes first it would be selected; people want to write. */
  private caretIntoText(): void {
    const { state, view } = this.kept!.editor;
    if (state.selection instanceof TextSelection) return;
    const first = TextSelection.findFrom(state.doc.resolve(0), 1, true);
    if (first) view.dispatch(state.tr.setSelection(first).setMeta('addToHistory', false));
  }

  /** Takes the text from outside where it came anew from the server. */
  private take(arrival: number): void {
    if (!this.kept || arrival === this.taken) return;
    this.taken = arrival;
    this.follow();
  }

  /**
   * Changes what is other than in the text from outside, and nothing else: the caret stays where it is, and what was typed
   * here can still be undone, without what others wrote.
   */
  private follow(): void {
    const { state, view, schema } = this.kept!.editor;
    const next = schema.nodeFromJSON(this.content());
    const start = state.doc.content.findDiffStart(next.content);
    const ends = state.doc.content.findDiffEnd(next.content);
    if (start === null || !ends) return;
    // Where the same signs stand at both sides of the change, the ends may lie before its start.
    const overlap = Math.max(0, start - Math.min(ends.a, ends.b));
    view.dispatch(
      state.tr
        .replace(start, ends.a + overlap, next.slice(start, ends.b + overlap))
        .setMeta('addToHistory', false)
        .setMeta('preventUpdate', true),
    );
  }

  private content(): JSONContent {
    const value = this.value();
    return 'content' in value
      ? (value as JSONContent)
      : { type: 'doc', content: [{ type: 'paragraph', content: value as JSONContent[] }] };
  }

  private read(): FlowText | LineText {
    const json = this.kept!.editor.getJSON();
    if (this.form() !== 'line') return withoutBlankAttributes(json) as unknown as FlowText;
    return (json.content?.[0]?.content ?? []) as unknown as LineText;
  }

  private markBlank(): void {
    const { editor } = this.kept ?? {};
    const dom = editor?.view.dom as HTMLElement | undefined;
    if (!dom || !editor) return;
    dom.classList.toggle('blank', editor.isEmpty);
    dom.dataset['hint'] = this.hint();
  }

  private takeFiles(files: FileList | undefined): boolean {
    if (this.form() === 'line' || !files?.length) return false;
    this.files.emit([...files]);
    return true;
  }
}

/** What stands for a part or style that is none, and for what only the screen needs, is left out, as it was before there were any. */
function withoutBlankAttributes(node: JSONContent): JSONContent {
  const { attrs, content, marks, ...rest } = node;
  const kept = Object.fromEntries(
    Object.entries(attrs ?? {}).filter(
      ([name, value]) => !(OPTIONAL.has(name) && (value == null || value === 1)),
    ),
  );
  return {
    ...rest,
    ...(attrs && Object.keys(kept).length > 0 ? { attrs: kept } : {}),
    ...(marks ? { marks: marks.map(bareLink) } : {}),
    ...(content ? { content: content.map(withoutBlankAttributes) } : {}),
  };
}

const OPTIONAL = new Set(['part', 'style', 'colspan', 'rowspan', 'colwidth', 'align', 'ground']);

type Mark = NonNullable<JSONContent['marks']>[number];

const bareLink = (mark: Mark): Mark =>
  mark.type === 'link' ? { type: 'link', attrs: { href: mark.attrs?.['href'] as string } } : mark;
