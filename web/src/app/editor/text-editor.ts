import {
  ChangeDetectionStrategy,
  Component,
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
import type { Column } from '@scriptum/core/table';
import type { Field, FlowText, LineText } from '@scriptum/core/template';
import { Editor, Extension, type JSONContent } from '@tiptap/core';
import { TextAlign } from '@tiptap/extension-text-align';
import { TextStyleKit } from '@tiptap/extension-text-style';
import { TextSelection } from '@tiptap/pm/state';
import { StarterKit } from '@tiptap/starter-kit';
import { ChipSource } from './chip-source';
import { FieldNode } from './field-node';
import { PictureNode } from './picture-node';

/** One line: Enter does nothing, and pasted text loses its line ends. */
const OneLine = Extension.create({
  name: 'oneLine',
  addKeyboardShortcuts: () => ({ Enter: () => true, 'Shift-Enter': () => true, 'Mod-Enter': () => true }),
});

export type EditorForm = 'letter' | 'note' | 'line';

/**
 * An editor for text with fields. `form` says how much formatting there is: a letter's, an email's, or a single line.
 * Takes its text anew when `arrival` changes; else what people type is the truth, and goes out through `changed`.
 */
@Component({
  selector: 'sc-text-editor',
  template: "<div #host [class]=\"form() === 'line' ? 'line' : 'flow h-full'\"></div>",
  host: { class: 'block' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class TextEditor implements OnDestroy {
  readonly form = input.required<EditorForm>();
  readonly label = input.required<string>();
  readonly hint = input('');
  readonly value = input.required<FlowText | LineText>();
  readonly arrival = input.required<number>();
  readonly fields = input.required<readonly Field[]>();
  readonly columns = input.required<readonly Column[]>();
  readonly entry = input<Entry>();
  /** What chips show: the picked learner's value, or the name of the field. */
  readonly chips = input<'values' | 'names'>('values');
  readonly pictureUrl = input<(asset: string) => string>(() => '');
  readonly changed = output<FlowText | LineText>();
  /** Files that were dropped or pasted into the text. */
  readonly files = output<File[]>();
  readonly focused = output<void>();

  /** Counts transactions, so that a toolbar can follow the selection. */
  readonly beat = signal(0);
  editor: Editor | null = null;

  private readonly host = viewChild.required<ElementRef<HTMLElement>>('host');
  private readonly nonce = inject(CSP_NONCE, { optional: true });
  private readonly faces = new ChipSource();
  private taken = -1;

  constructor() {
    afterNextRender(() => this.make());
    effect(() => this.faces.set(this.fields(), this.columns(), this.entry(), this.chips() === 'names'));
    effect(() => {
      const arrival = this.arrival();
      this.beat();
      untracked(() => this.take(arrival));
    });
  }

  ngOnDestroy(): void {
    this.editor?.destroy();
  }

  insertField(fieldId: string): void {
    this.editor?.chain().focus().insertField(fieldId).run();
  }

  private make(): void {
    const line = this.form() === 'line';
    this.taken = this.arrival();
    this.editor = new Editor({
      element: this.host().nativeElement,
      injectNonce: this.nonce ?? undefined,
      content: this.content(),
      extensions: [
        StarterKit.configure({
          heading: line ? false : { levels: [1, 2, 3] },
          bulletList: line ? false : {},
          orderedList: line ? false : {},
          listItem: line ? false : {},
          listKeymap: line ? false : {},
          horizontalRule: this.form() === 'letter' ? {} : false,
          hardBreak: line ? false : {},
          bold: line ? false : {},
          italic: line ? false : {},
          underline: line ? false : {},
          blockquote: false,
          code: false,
          codeBlock: false,
          strike: false,
          link: false,
          trailingNode: false,
        }),
        ...(line
          ? [OneLine]
          : [
              TextAlign.configure({ types: ['heading', 'paragraph'] }),
              TextStyleKit.configure({ backgroundColor: false, fontFamily: false, lineHeight: false }),
            ]),
        ...(this.form() === 'letter'
          ? [PictureNode.configure({ urlOf: (asset) => this.pictureUrl()(asset) })]
          : []),
        FieldNode.configure({ faces: this.faces }),
      ],
      editorProps: {
        attributes: {
          role: 'textbox',
          'aria-label': this.label(),
          'aria-multiline': String(!line),
          spellcheck: 'true',
        },
        handleDrop: (_view, event) => this.takeFiles((event as DragEvent).dataTransfer?.files),
        handlePaste: (_view, event) => this.takeFiles(event.clipboardData?.files),
        // A line end in pasted text would make a second paragraph.
        transformPastedText: (text) => (line ? text.replace(/\s*\r?\n\s*/g, ' ') : text),
      },
      onUpdate: () => this.changed.emit(this.read()),
      onTransaction: () => {
        this.markBlank();
        this.beat.update((n) => n + 1);
      },
      onFocus: () => this.focused.emit(),
    });
    this.caretIntoText();
    this.markBlank();
    this.beat.update((n) => n + 1);
  }

  /** Where a picture comes first it would be selected; people want to write. */
  private caretIntoText(): void {
    const { state, view } = this.editor!;
    const first = TextSelection.findFrom(state.doc.resolve(0), 1, true);
    if (first) view.dispatch(state.tr.setSelection(first).setMeta('addToHistory', false));
  }

  /** Takes the text from outside where it came anew from the server and is another. */
  private take(arrival: number): void {
    if (!this.editor || arrival === this.taken) return;
    this.taken = arrival;
    const content = this.content();
    if (JSON.stringify(this.read()) === JSON.stringify(this.value())) return;
    this.editor.commands.setContent(content, { emitUpdate: false });
    this.caretIntoText();
  }

  private content(): JSONContent {
    const value = this.value();
    return 'content' in value
      ? (value as JSONContent)
      : { type: 'doc', content: [{ type: 'paragraph', content: value as JSONContent[] }] };
  }

  private read(): FlowText | LineText {
    const json = this.editor!.getJSON();
    if (this.form() !== 'line') return json as unknown as FlowText;
    return (json.content?.[0]?.content ?? []) as unknown as LineText;
  }

  private markBlank(): void {
    const dom = this.editor?.view.dom as HTMLElement | undefined;
    if (!dom || !this.editor) return;
    dom.classList.toggle('blank', this.editor.isEmpty);
    dom.dataset['hint'] = this.hint();
  }

  private takeFiles(files: FileList | undefined): boolean {
    if (this.form() !== 'letter' || !files?.length) return false;
    this.files.emit([...files]);
    return true;
  }
}
