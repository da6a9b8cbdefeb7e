import { Node } from '@tiptap/core';
import { NodeSelection } from '@tiptap/pm/state';

declare module '@tiptap/core' {
  interface Commands<ReturnType> {
    footnote: { insertFootnote: () => ReturnType };
  }
}

/** A note at the foot of the page. In the text stands its number; what it says is written above the text. */
export const FootnoteNode = Node.create({
  name: 'footnote',
  group: 'inline',
  inline: true,
  atom: true,
  selectable: true,
  addAttributes: () => ({
    text: { default: '', parseHTML: (element) => element.getAttribute('data-footnote') ?? '' },
  }),
  parseHTML: () => [{ tag: 'sup[data-footnote]' }],
  renderHTML: ({ node }) => [
    'sup',
    {
      'data-footnote': node.attrs['text'] as string,
      class: 'footnote',
      title: (node.attrs['text'] as string) || 'Footnote that says nothing yet',
    },
  ],
  renderText: () => '',
  addCommands() {
    return {
      insertFootnote:
        () =>
        ({ tr, dispatch }) => {
          const at = tr.selection.to;
          tr.insert(at, this.type.create());
          tr.setSelection(NodeSelection.create(tr.doc, at)).scrollIntoView();
          dispatch?.(tr);
          return true;
        },
    };
  },
});
