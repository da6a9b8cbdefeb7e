import { Node } from '@tiptap/core';

export interface FrameAttrs {
  /** `#rrggbb`, or null for none. */
  readonly ground: string | null;
  readonly line: boolean;
  readonly whole: boolean;
}

declare module '@tiptap/core' {
  interface Commands<ReturnType> {
    frame: {
      /** Puts a frame around the blocks of the selection. */
      putFrame: () => ReturnType;
      takeFrameAway: () => ReturnType;
    };
  }
}

const GROUND = '#EDF1EF';

/** Blocks that stand together: on a ground, inside a line, or kept on one page. */
export const FrameNode = Node.create({
  name: 'frame',
  group: 'block',
  content: 'block+',
  defining: true,
  addAttributes: () => ({
    ground: { default: null, parseHTML: (element) => element.getAttribute('data-ground') },
    line: { default: false, parseHTML: (element) => element.hasAttribute('data-line') },
    whole: { default: true, parseHTML: (element) => element.hasAttribute('data-whole') },
  }),
  parseHTML: () => [{ tag: 'div[data-frame]' }],
  renderHTML({ node }) {
    const { ground, line, whole } = node.attrs as FrameAttrs;
    return [
      'div',
      {
        'data-frame': '',
        class: 'frame',
        ...(ground ? { 'data-ground': ground, style: `background: ${ground}` } : {}),
        ...(line ? { 'data-line': '' } : {}),
        ...(whole ? { 'data-whole': '' } : {}),
      },
      0,
    ];
  },
  addCommands() {
    return {
      putFrame:
        () =>
        ({ commands }) =>
          commands.wrapIn(this.name, { ground: GROUND, line: false, whole: true }),
      takeFrameAway:
        () =>
        ({ commands }) =>
          commands.lift(this.name),
    };
  },
});
