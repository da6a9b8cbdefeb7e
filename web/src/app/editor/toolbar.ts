import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { Icon } from '../ui/icon';
import { NumberBox } from '../ui/number-box';
import type { ICONS } from '../ui/icons';
import type { Editor } from '@tiptap/core';
import type { TextEditor } from './text-editor';

const COLOURS = [
  ['#000000', 'Black'],
  ['#22303C', 'Ink'],
  ['#55636E', 'Slate'],
  ['#1D6B61', 'Verdigris'],
  ['#35588A', 'Woad'],
  ['#A63D40', 'Madder'],
  ['#8F5B0C', 'Ochre'],
  ['#5B3A78', 'Plum'],
] as const;
const SIZES = [
  '8pt',
  '9pt',
  '10pt',
  '10.5pt',
  '11pt',
  '12pt',
  '13pt',
  '14pt',
  '16pt',
  '18pt',
  '20pt',
  '24pt',
  '30pt',
  '36pt',
  '48pt',
];

type Side = 'left' | 'center' | 'right' | 'justify';

interface Tool {
  readonly name: string;
  readonly icon: keyof typeof ICONS;
  readonly isOn: (editor: Editor) => boolean;
  readonly work: (chain: ReturnType<Editor['chain']>) => ReturnType<Editor['chain']>;
}

const MARKS: readonly Tool[] = [
  { name: 'Bold', icon: 'lucideBold', isOn: (e) => e.isActive('bold'), work: (c) => c.toggleBold() },
  { name: 'Italic', icon: 'lucideItalic', isOn: (e) => e.isActive('italic'), work: (c) => c.toggleItalic() },
  {
    name: 'Underline',
    icon: 'lucideUnderline',
    isOn: (e) => e.isActive('underline'),
    work: (c) => c.toggleUnderline(),
  },
];
const LISTS: readonly Tool[] = [
  {
    name: 'Bullet list',
    icon: 'lucideList',
    isOn: (e) => e.isActive('bulletList'),
    work: (c) => c.toggleBulletList(),
  },
  {
    name: 'Numbered list',
    icon: 'lucideListOrdered',
    isOn: (e) => e.isActive('orderedList'),
    work: (c) => c.toggleOrderedList(),
  },
];
const SIDES: readonly { side: Side; name: string; icon: keyof typeof ICONS }[] = [
  { side: 'left', name: 'Align left', icon: 'lucideAlignLeft' },
  { side: 'center', name: 'Centre', icon: 'lucideAlignCenter' },
  { side: 'right', name: 'Align right', icon: 'lucideAlignRight' },
  { side: 'justify', name: 'Justify', icon: 'lucideAlignJustify' },
];

/** The formatting of the text at the caret, or of the picture that is selected. */
@Component({
  selector: 'sc-toolbar',
  imports: [Icon, NumberBox],
  templateUrl: './toolbar.html',
  host: {
    role: 'toolbar',
    'aria-label': 'Formatting',
    class: 'flex min-h-10 flex-wrap items-center gap-0.5 border-b border-rule bg-leaf px-2 py-1',
  },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Toolbar {
  readonly source = input.required<TextEditor>();
  readonly pictures = input(true);
  readonly picture = output<File>();

  protected readonly colours = COLOURS;
  protected readonly kinds = [
    ['p', 'Text'],
    ['h1', 'Heading 1'],
    ['h2', 'Heading 2'],
    ['h3', 'Heading 3'],
  ] as const;
  protected readonly sizes = SIZES;
  protected readonly groups = [MARKS, LISTS];
  protected readonly sides = SIDES;
  protected readonly state = computed(() => {
    const source = this.source();
    source.beat();
    const { editor } = source;
    if (!editor) return null;
    const style = editor.getAttributes('textStyle') as { color?: string | null; fontSize?: string | null };
    const level = [1, 2, 3].find((n) => editor.isActive('heading', { level: n }));
    const align =
      (['center', 'right', 'justify'] as const).find((side) => editor.isActive({ textAlign: side })) ??
      'left';
    return {
      block: level ? `h${level}` : 'p',
      on: new Set([...MARKS, ...LISTS].filter((tool) => tool.isOn(editor))),
      colour: (style.color ?? '').toUpperCase(),
      size: style.fontSize ?? '',
      align,
      picture: editor.isActive('picture')
        ? (editor.getAttributes('picture') as { width: number; align: string; alt: string })
        : null,
      undo: editor.can().undo(),
      redo: editor.can().redo(),
    };
  });

  protected do(work: (chain: ReturnType<Editor['chain']>) => ReturnType<Editor['chain']>): void {
    const { editor } = this.source();
    if (editor) work(editor.chain().focus()).run();
  }

  protected setBlock(kind: string): void {
    this.do((chain) =>
      kind === 'p' ? chain.setParagraph() : chain.setHeading({ level: Number(kind.slice(1)) as 1 | 2 | 3 }),
    );
  }

  protected setColour(colour: string): void {
    this.do((chain) => (colour ? chain.setColor(colour) : chain.unsetColor()));
  }

  protected setSize(size: string): void {
    this.do((chain) => (size ? chain.setFontSize(size) : chain.unsetFontSize()));
  }

  protected setAlign(side: Side): void {
    if (this.state()?.picture) {
      if (side !== 'justify') this.setPicture({ align: side });
    } else this.do((chain) => chain.setTextAlign(side));
  }

  protected setPicture(change: { width?: number; align?: string; alt?: string }): void {
    this.source().editor?.chain().updateAttributes('picture', change).run();
  }

  protected readonly text = String;

  protected setWidth(width: number): void {
    this.setPicture({ width });
  }

  protected choosePicture(target: EventTarget | null): void {
    const element = target as HTMLInputElement;
    const file = element.files?.[0];
    if (file) this.picture.emit(file);
    element.value = '';
  }
}
