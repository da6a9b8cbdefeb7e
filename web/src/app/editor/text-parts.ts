import { Extension } from '@tiptap/core';
import type { Node } from '@tiptap/pm/model';
import { type EditorState, Plugin, PluginKey, type Transaction } from '@tiptap/pm/state';
import { Decoration, DecorationSet } from '@tiptap/pm/view';

/** Blocks that can belong to a part of the text which comes and goes. */
const BLOCKS = [
  'paragraph',
  'heading',
  'bulletList',
  'orderedList',
  'horizontalRule',
  'picture',
  'fieldBlock',
  'pageBreak',
  'signOff',
  'frame',
  'table',
  'tableRow',
];

declare module '@tiptap/core' {
  interface Commands<ReturnType> {
    textParts: {
      /** The blocks of the selection belong to a part from now on; to none for null. */
      setPart: (partId: string | null) => ReturnType;
    };
  }
}

/** Says whether a part stands for the picked learner; null for a part that is not known. */
export type StandsFor = (partId: string) => boolean | null;

const key = new PluginKey<{ stands: StandsFor }>('textParts');

/** The transaction that tells the blocks anew which of them stand. */
export const partsChanged = (state: EditorState, stands: StandsFor): Transaction =>
  state.tr.setMeta(key, stands).setMeta('addToHistory', false);

/** The part that the block at the caret belongs to. */
export function partAtCaret({ selection, doc }: EditorState): string | null {
  let part: string | null = null;
  doc.nodesBetween(selection.from, Math.max(selection.to, selection.from + 1), (node) => {
    part ??= partOf(node);
    return part === null;
  });
  return part;
}

const partOf = (node: Node): string | null => (node.attrs['part'] as string | null | undefined) ?? null;

/**
 * Parts of a text that come and go. A block knows its part; those that the picked learner does not get are dimmed, not gone,
 * so that they can be written.
 */
export const TextParts = Extension.create({
  name: 'textParts',
  addGlobalAttributes() {
    return [
      {
        types: BLOCKS,
        attributes: {
          part: {
            default: null,
            parseHTML: (element: HTMLElement) => element.getAttribute('data-part'),
            renderHTML: (attributes: Record<string, unknown>) =>
              attributes['part'] ? { 'data-part': attributes['part'] } : {},
          },
        },
      },
    ];
  },
  addCommands() {
    return {
      setPart:
        (partId) =>
        ({ state, tr, dispatch }) => {
          const { from, to } = state.selection;
          // The outermost blocks of the selection: a list as a whole only where all of it is selected.
          state.doc.nodesBetween(from, to, (node, at) => {
            if (!BLOCKS.includes(node.type.name)) return true;
            // How far inside its own edges the first and last text of what holds others stands.
            const deep = { bulletList: 3, orderedList: 3, table: 4, frame: 2 }[node.type.name];
            if (deep && (from > at + deep || to < at + node.nodeSize - deep)) return true;
            tr.setNodeAttribute(at, 'part', partId);
            return false;
          });
          dispatch?.(tr);
          return true;
        },
    };
  },
  addProseMirrorPlugins() {
    return [
      new Plugin<{ stands: StandsFor }>({
        key,
        state: {
          init: () => ({ stands: () => null }),
          apply: (transaction, value) => {
            const stands = transaction.getMeta(key) as StandsFor | undefined;
            return stands ? { stands } : value;
          },
        },
        props: {
          decorations(state) {
            const { stands } = key.getState(state)!;
            const marks: Decoration[] = [];
            state.doc.descendants((node, at) => {
              const part = partOf(node);
              if (!part) return true;
              const here = stands(part);
              const words = here === false ? 'Does not stand in this paper' : 'Stands in some papers only';
              marks.push(
                Decoration.node(at, at + node.nodeSize, {
                  class: here === false ? 'some-papers away' : 'some-papers',
                  title: words,
                }),
              );
              return false;
            });
            return DecorationSet.create(state.doc, marks);
          },
        },
      }),
    ];
  },
});
