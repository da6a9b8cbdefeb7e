import { Extension, getMarkRange, Mark } from '@tiptap/core';
import type { Node } from '@tiptap/pm/model';
import { type EditorState, Plugin, PluginKey, TextSelection, type Transaction } from '@tiptap/pm/state';
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
      /**
       * The blocks of the selection belong to a part from now on, or the words where it is some words of a block; to none
       * for null.
       */
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

/** What is at the caret, or selected, that can belong to a part. */
export interface PartPlace {
  readonly what: 'block' | 'words';
  /** The part that it belongs to. */
  readonly part: string | null;
}

/** Some words of a block where these are selected, or the words of a part where the caret is in them; else the block. */
export function partAtCaret(state: EditorState): PartPlace {
  const range = wordsAtCaret(state);
  if (!range) return { what: 'block', part: blockPart(state) };
  let part: string | null = null;
  state.doc.nodesBetween(range.from, range.to, (node) => {
    part ??= markOf(node);
  });
  return { what: 'words', part };
}

/** The words that a part is set for; null where that is the whole block, or more. */
function wordsAtCaret(state: EditorState): { from: number; to: number } | null {
  const { selection, schema } = state;
  const type = schema.marks['part'];
  if (!type || !(selection instanceof TextSelection)) return null;
  const { $from, $to, from, to, empty } = selection;
  if (empty) return getMarkRange($from, type) ?? null;
  if (!$from.sameParent($to)) return null;
  return from > $from.start() || to < $from.end() ? { from, to } : null;
}

const markOf = (node: Node): string | null =>
  (node.marks.find(({ type }) => type.name === 'part')?.attrs['part'] as string | undefined) ?? null;

function blockPart({ selection, doc }: EditorState): string | null {
  let part: string | null = null;
  doc.nodesBetween(selection.from, Math.max(selection.to, selection.from + 1), (node) => {
    part ??= partOf(node);
    return part === null;
  });
  return part;
}

const partOf = (node: Node): string | null => (node.attrs['part'] as string | null | undefined) ?? null;

/** Words that belong to a part. */
export const PartMark = Mark.create({
  name: 'part',
  inclusive: false,
  addAttributes: () => ({
    part: { default: null, parseHTML: (element) => element.getAttribute('data-words-part') },
  }),
  parseHTML: () => [{ tag: 'span[data-words-part]' }],
  renderHTML: ({ mark }) => ['span', { 'data-words-part': mark.attrs['part'] as string }, 0],
});

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
          const words = wordsAtCaret(state);
          const type = state.schema.marks['part'];
          if (words && type) {
            tr.removeMark(words.from, words.to, type);
            if (partId !== null) tr.addMark(words.from, words.to, type.create({ part: partId }));
            dispatch?.(tr);
            return true;
          }
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
              const words = node.isInline ? markOf(node) : null;
              const part = words ?? partOf(node);
              if (!part) return true;
              const here = stands(part);
              const look = `${words ? 'some-words' : 'some-papers'}${here === false ? ' away' : ''}`;
              const title = here === false ? 'Does not stand in this paper' : 'Stands in some papers only';
              const set = words ? Decoration.inline : Decoration.node;
              marks.push(set(at, at + node.nodeSize, { class: look, title }));
              return false;
            });
            return DecorationSet.create(state.doc, marks);
          },
        },
      }),
    ];
  },
});
