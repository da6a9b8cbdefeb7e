import { mergeAttributes, Node } from '@tiptap/core';
import { NodeSelection } from '@tiptap/pm/state';

/** What a chip shows for the picked learner. */
export interface ChipFace {
  readonly label: string;
  readonly value: string;
  readonly state: 'filled' | 'empty' | 'unmatched';
}

/** Tells each chip what to show, and tells all of them when to look again. */
export interface ChipFaces {
  faceOf(fieldId: string): ChipFace;
  onChange(listener: () => void): () => void;
}

declare module '@tiptap/core' {
  interface Commands<ReturnType> {
    field: {
      /** Puts a field at the caret, in the formatting that text typed there would have. */
      insertField: (fieldId: string) => ReturnType;
    };
  }
}

/** A field in the text: one object that shows the picked learner's value and takes formatting as text does. */
export const FieldNode = Node.create<{ faces: ChipFaces | null; open: ((fieldId: string) => void) | null }>({
  name: 'field',
  group: 'inline',
  inline: true,
  atom: true,
  selectable: true,
  addOptions: () => ({ faces: null, open: null }),
  addAttributes: () => ({
    fieldId: { default: '', parseHTML: (element) => element.getAttribute('data-field') ?? '' },
  }),
  parseHTML: () => [{ tag: 'span[data-field]' }],
  renderHTML({ node, HTMLAttributes }) {
    const face = this.options.faces?.faceOf(String(node.attrs['fieldId']));
    return [
      'span',
      mergeAttributes(HTMLAttributes, { 'data-field': node.attrs['fieldId'] }),
      face?.value ?? '',
    ];
  },
  renderText({ node }) {
    return this.options.faces?.faceOf(String(node.attrs['fieldId'])).value ?? '';
  },
  addNodeView() {
    const { faces } = this.options;
    return ({ node }) => {
      const dom = document.createElement('span');
      const show = (): void => {
        const face = faces?.faceOf(String(node.attrs['fieldId'])) ?? {
          label: '',
          value: '',
          state: 'unmatched' as const,
        };
        // Whether it is selected is the editor's to say.
        dom.classList.remove('filled', 'empty', 'unmatched');
        dom.classList.add('field', face.state);
        dom.textContent =
          face.state === 'filled'
            ? face.value
            : face.state === 'empty'
              ? `${face.label}: empty`
              : `${face.label}: no column`;
        dom.title = `${face.label}. Press Enter to choose what it prints.`;
        dom.setAttribute(
          'aria-label',
          `Field ${face.label}: ${face.state === 'filled' ? face.value : dom.textContent}`,
        );
        dom.setAttribute('role', 'img');
      };
      dom.setAttribute('data-field', String(node.attrs['fieldId']));
      show();
      const stop = faces?.onChange(show);
      return { dom, ignoreMutation: () => true, destroy: () => stop?.() };
    };
  },
  addKeyboardShortcuts() {
    return {
      Enter: () => {
        const { selection } = this.editor.state;
        if (!(selection instanceof NodeSelection) || selection.node.type !== this.type) return false;
        this.options.open?.(String(selection.node.attrs['fieldId']));
        return true;
      },
    };
  },
  addCommands() {
    return {
      insertField:
        (fieldId) =>
        ({ state, tr, dispatch }) => {
          const marks = state.storedMarks ?? state.selection.$from.marks();
          const node = this.type.create({ fieldId }, null, marks);
          dispatch?.(tr.replaceSelectionWith(node, false).setStoredMarks(marks).scrollIntoView());
          return true;
        },
    };
  },
});
