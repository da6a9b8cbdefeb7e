import { Extension, Node } from '@tiptap/core';
import { ParagraphStyle } from '@scriptum/core/text';

declare module '@tiptap/core' {
  interface Commands<ReturnType> {
    pageBreak: { insertPageBreak: () => ReturnType };
  }
}

/** Kinds of paragraphs besides text; how each looks on paper is said once for the letter. */
export const ParagraphStyles = Extension.create({
  name: 'paragraphStyles',
  addGlobalAttributes() {
    return [
      {
        types: ['paragraph'],
        attributes: {
          style: {
            default: null,
            parseHTML: (element: HTMLElement) =>
              ParagraphStyle.safeParse(element.getAttribute('data-style')).data ?? null,
            renderHTML: ({ style }: Record<string, unknown>) => (style ? { 'data-style': style } : {}),
          },
        },
      },
    ];
  },
});

/** What follows begins on another page. */
export const PageBreakNode = Node.create({
  name: 'pageBreak',
  group: 'block',
  atom: true,
  selectable: true,
  parseHTML: () => [{ tag: 'div[data-page-break]' }],
  renderHTML: () => ['div', { 'data-page-break': '', class: 'page-break' }, 'Next page'],
  addCommands() {
    return {
      insertPageBreak:
        () =>
        ({ tr, dispatch }) => {
          // Before the outermost block at the caret, which then begins the page; behind it where the caret is at its end.
          const { $to } = tr.selection;
          const atEnd = $to.depth > 0 && $to.pos + $to.depth === $to.after(1) && $to.node(1).content.size > 0;
          const at = $to.depth === 0 ? tr.selection.to : atEnd ? $to.after(1) : $to.before(1);
          tr.insert(at, this.type.create()).scrollIntoView();
          dispatch?.(tr);
          return true;
        },
    };
  },
});
