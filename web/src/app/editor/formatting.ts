import type { Editor } from '@tiptap/core';
import { Selection } from '@tiptap/pm/state';
import type { PictureAttrs } from './picture-node';
import type { ParagraphStyle, TableLines } from '@scriptum/core/text';
import type { FrameAttrs } from './frame-node';
import { partAtCaret, type PartPlace } from './text-parts';

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
  /** Null where the block does not say. */
  readonly align: TextSide | null;
  readonly picture: Pick<PictureAttrs, 'width' | 'align' | 'alt'> | null;
  /** The part that comes and goes which the block at the caret, or the words there, belong to. */
  readonly part: PartPlace;
  /** The field whose chip, table or chart is selected. */
  readonly fieldId: string | null;
  /** Where the link at the caret leads; null where there is none. */
  readonly link: string | null;
  /** What the selected footnote says; null where none is selected. */
  readonly footnote: string | null;
  readonly frame: FrameAttrs | null;
  /** The lines of the table at the caret; null outside of tables. */
  readonly table: TableLines | null;
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
  | { readonly put: 'line' | 'page' | 'footnote' | 'frame' | 'table' }
  /** Blank takes the link away. */
  | { readonly link: string }
  | { readonly footnote: string }
  | { readonly frame: Partial<FrameAttrs> | null }
  | { readonly lines: TableLines }
  | { readonly table: TableStep }
  | { readonly signOff: string }
  | { readonly picture: Partial<Pick<PictureAttrs, 'width' | 'align' | 'alt'>> };

/** What can be done to a table at the caret. */
export type TableStep =
  'rowAbove' | 'rowBelow' | 'rowAway' | 'columnBefore' | 'columnAfter' | 'columnAway' | 'head' | 'away';

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
      (['left', 'center', 'right', 'justify'] as const).find((side) =>
        editor.isActive({ textAlign: side }),
      ) ?? null,
    picture: editor.isActive('picture') ? (editor.getAttributes('picture') as PictureAttrs) : null,
    part: partAtCaret(editor.state),
    fieldId: fieldChosen(editor),
    link: editor.isActive('link') ? String(editor.getAttributes('link')['href']) : null,
    footnote: editor.isActive('footnote') ? String(editor.getAttributes('footnote')['text']) : null,
    frame: editor.isActive('frame') ? (editor.getAttributes('frame') as FrameAttrs) : null,
    table: editor.isActive('table') ? (editor.getAttributes('table')['lines'] as TableLines) : null,
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
  else if ('footnote' in format) editor.chain().updateAttributes('footnote', { text: format.footnote }).run();
  else if ('frame' in format && format.frame) editor.chain().updateAttributes('frame', format.frame).run();
  else {
    // At once, so that what is typed next comes into the text.
    editor.view.focus();
    const chain = editor.chain();
    if ('toggle' in format) toggled(chain, format.toggle).run();
    else if ('step' in format) (format.step === 'undo' ? chain.undo() : chain.redo()).run();
    else if ('block' in format) setBlock(chain, format.block).run();
    else if ('colour' in format) (format.colour ? chain.setColor(format.colour) : chain.unsetColor()).run();
    else if ('size' in format) (format.size ? chain.setFontSize(format.size) : chain.unsetFontSize()).run();
    else if ('signOff' in format) chain.insertSignOff(format.signOff).run();
    else if ('align' in format) chain.setTextAlign(format.align).run();
    else if ('link' in format) linked(editor, chain, format.link).run();
    else if ('frame' in format) chain.takeFrameAway().run();
    else if ('lines' in format) chain.updateAttributes('table', { lines: format.lines }).run();
    else if ('table' in format) TABLE_STEPS[format.table](chain).run();
    else put(chain, format.put).run();
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

type Chain = ReturnType<Editor['chain']>;

const TABLE_STEPS: Readonly<Record<TableStep, (chain: Chain) => Chain>> = {
  rowAbove: (chain) => chain.addRowBefore(),
  rowBelow: (chain) => chain.addRowAfter(),
  rowAway: (chain) => chain.deleteRow(),
  columnBefore: (chain) => chain.addColumnBefore(),
  columnAfter: (chain) => chain.addColumnAfter(),
  columnAway: (chain) => chain.deleteColumn(),
  head: (chain) => chain.toggleHeaderRow(),
  away: (chain) => chain.deleteTable(),
};

function put(chain: Chain, what: 'line' | 'page' | 'footnote' | 'frame' | 'table'): Chain {
  switch (what) {
    case 'line':
      return chain.setHorizontalRule();
    case 'page':
      return chain.insertPageBreak();
    case 'footnote':
      return chain.insertFootnote();
    case 'frame':
      return chain.putFrame();
    case 'table':
      return chain.insertTable({ rows: 3, cols: 3, withHeaderRow: true });
  }
}

/** A link over the selection, or over all of the link at the caret; where nothing is selected its address is the text. */
function linked(editor: Editor, chain: Chain, href: string): Chain {
  if (href === '') return chain.extendMarkRange('link').unsetLink();
  if (editor.isActive('link') || !editor.state.selection.empty)
    return (
      chain
        .extendMarkRange('link')
        .setLink({ href })
        // What is typed next comes behind it.
        .command(({ tr }) => Boolean(tr.setSelection(Selection.near(tr.doc.resolve(tr.selection.to)))))
    );
  const text = href.replace(/^mailto:/i, '');
  return chain.insertContent({ type: 'text', text, marks: [{ type: 'link', attrs: { href } }] });
}
