import { Node } from '@tiptap/core';

export interface PictureAttrs {
  readonly asset: string;
  /** Millimetres. */
  readonly width: number;
  readonly align: 'left' | 'center' | 'right';
  readonly alt: string;
}

declare module '@tiptap/core' {
  interface Commands<ReturnType> {
    picture: { insertPicture: (attrs: PictureAttrs) => ReturnType };
  }
}

/** Millimetres on paper to CSS pixels (CSS Values 3, section 5.2: 96 px are 25.4 mm). */
export const pixels = (mm: number): number => (mm * 96) / 25.4;

/** A picture that stands as a block of its own. */
export const PictureNode = Node.create<{ urlOf: (asset: string) => string }>({
  name: 'picture',
  group: 'block',
  atom: true,
  draggable: true,
  addOptions: () => ({ urlOf: () => '' }),
  addAttributes: () => ({
    asset: { default: '' },
    width: { default: 60 },
    align: { default: 'left' },
    alt: { default: '' },
  }),
  parseHTML: () => [
    {
      tag: 'figure[data-asset]',
      getAttrs: (element) => ({
        asset: element.dataset['asset'],
        width: Number(element.dataset['width']) || 60,
        align: element.dataset['align'],
        alt: element.querySelector('img')?.alt ?? '',
      }),
    },
  ],
  renderHTML({ node }) {
    const { asset, width, align, alt } = node.attrs as PictureAttrs;
    return [
      'figure',
      { class: 'picture', 'data-asset': asset, 'data-width': width, 'data-align': align },
      ['img', { src: this.options.urlOf(asset), alt, style: `width: ${pixels(width)}px` }],
    ];
  },
  addCommands() {
    return {
      insertPicture:
        (attrs) =>
        ({ commands }) =>
          commands.insertContent({ type: this.name, attrs }),
    };
  },
});
