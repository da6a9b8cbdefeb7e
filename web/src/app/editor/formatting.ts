import type { Editor } from '@tiptap/core';
import type { PictureAttrs } from './picture-node';
import type { ParagraphStyle } from '@scriptum/core/text';
import { partAtCaret } from './text-parts';

export type TextSide = 'left' | 'center' | 'right' | 'justify';
export type BlockKind = 'p' | 'h1' | 'h2' | 'h3' | ParagraphStyle;

/** How the text at the caret is set, or the picture that is selected; and whether there is something to undo. */
export interface Formatting {
  readonly block: BlockKind;
  /** What is on: bold, lists … */
  readonly on: ReadonlySet<Toggle>;
  /** `#RRGGBB`, or blank. */
  readonly colour: string;
  /** Such as `11pt`, or blank. */
  readonly size: string;
  readonly align: TextSide;
  readonly picture: Pick<PictureAttrs, 'width' | 'align' | 'alt'> | null;
  /** The part that comes and goes which the block at the caret belongs to. */
  readonly part: string | null;
  /** The field whose chip, table or chart is selected. */
  readonly fieldId: string | null;
  readonly undo: boolean;
  readonly redo: boolean;
}

export type Toggle = 'bold' | 'italic' | 'underline' | 'bulletList' | 'orderedList';

/** What can be done to a text from outside. */
export type Format =
  | { readonly toggle: Toggle }
  | { readonly step: 'undo' | 'redo' }
  | { readonly block: BlockKind }
  | { readonly colour: string }
  | { readonly size: string }
  | { readonly align: TextSide }
  | { readonly put: 'line' | 'page' }
  | { readonly signOff: string }
  | { readonly picture: Partial<Pick<PictureAttrs, 'width' | 'align' | 'alt'>> };

const TOGGLES: readonly Toggle[] = ['bold', 'italic', 'underline', 'bulletList', 'orderedList'];

export function readFormatting(editor: Editor): Formatting {
  const style = editor.getAttributes('textStyle') as { color?: string | null; fontSize?: string | null };
  const level = ([1, 2, 3] as const).find((n) => editor.isActive('heading', { level: n }));
  return {
    block: level
      ? `h${level}`
      : ((editor.getAttributes('paragraph')['style'] as ParagraphStyle | null) ?? 'p'),
    on: new Set(TOGGLES.filter((name) => editor.isActive(name))),
    colour: (style.color ?? '').toUpperCase(),
    size: style.fontSize ?? '',
    align:
      (['center', 'right', 'justify'] as const).find((side) => editor.isActive({ textAlign: side })) ??
      'left',
    picture: editor.isActive('picture') ? (editor.getAttributes('picture') as PictureAttrs) : null,
    part: partAtCaret(editor.state),
    fieldId: fieldChosen(editor),
    undo: editor.can().undo(),
    redo: editor.can().redo(),
  };
}

function fieldChosen(editor: Editor): string | null {
  const node = (['field', 'fieldBlock'] as const).find((name) => editor.isActive(name));
  return node ? String(editor.getAttributes(node)['fieldId']) : null;
}

export function applyFormat(editor: Editor, format: Format): void {
  // The caret stays where somebody writes into a box about a picture.
  if ('picture' in format) editor.chain().updateAttributes('picture', format.picture).run();
  else {
    const chain = editor.chain().focus();
    if ('toggle' in format) toggled(chain, format.toggle).run();
    else if ('step' in format) (format.step === 'undo' ? chain.undo() : chain.redo()).run();
    else if ('block' in format) setBlock(chain, format.block).run();
    else if ('colour' in format) (format.colour ? chain.setColor(format.colour) : chain.unsetColor()).run();
    else if ('size' in format) (format.size ? chain.setFontSize(format.size) : chain.unsetFontSize()).run();
    else if ('signOff' in format) chain.insertSignOff(format.signOff).run();
    else if ('align' in format) chain.setTextAlign(format.align).run();
    else (format.put === 'line' ? chain.setHorizontalRule() : chain.insertPageBreak()).run();
  }
}

function setBlock(chain: ReturnType<Editor['chain']>, block: BlockKind): ReturnType<Editor['chain']> {
  const level = /^h([123])$/.exec(block)?.[1];
  if (level) return chain.setHeading({ level: Number(level) as 1 | 2 | 3 });
  return chain.setParagraph().updateAttributes('paragraph', { style: block === 'p' ? null : block });
}

function toggled(chain: ReturnType<Editor['chain']>, what: Toggle): ReturnType<Editor['chain']> {
  switch (what) {
    case 'bold':
      return chain.toggleBold();
    case 'italic':
      return chain.toggleItalic();
    case 'underline':
      return chain.toggleUnderline();
    case 'bulletList':
      return chain.toggleBulletList();
    case 'orderedList':
      return chain.toggleOrderedList();
  }
}
