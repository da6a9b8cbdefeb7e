import { Node } from '@tiptap/core';
import { NodeSelection } from '@tiptap/pm/state';
import { drawingSvg, type Drawing } from '@scriptum/core/chart';
import type { PrintedCell, PrintedTable } from '@scriptum/core/fill';
import { pixels } from './picture-node';
import { BAND_TINTS } from '@scriptum/core/page';
import type { PictureFilling, TableFilling } from '@scriptum/core/template';

/** What a table or chart in the text shows for the picked learner. */
export interface BlockFace {
  readonly label: string;
  readonly state: 'filled' | 'empty' | 'unmatched';
  readonly table: { readonly columns: TableFilling['columns']; readonly printed: PrintedTable } | null;
  readonly drawing: Drawing | null;
  readonly picture: BlockPicture | null;
}

/** The learner's own picture, and how it stands. */
export interface BlockPicture extends PictureFilling {
  readonly url: string;
  readonly alt: string;
}

/** Tells each block what to show, and tells all of them when to look again. */
export interface BlockFaces {
  /** The same face as long as nothing in it changes. */
  blockFaceOf(fieldId: string): BlockFace;
  onChange(listener: () => void): () => void;
}

declare module '@tiptap/core' {
  interface Commands<ReturnType> {
    fieldBlock: { insertFieldBlock: (fieldId: string) => ReturnType };
  }
}

/** A field that takes a block of its own: a table or a chart, as the picked learner has it. */
export const FieldBlockNode = Node.create<{
  faces: BlockFaces | null;
  open: ((fieldId: string) => void) | null;
}>({
  name: 'fieldBlock',
  group: 'block',
  atom: true,
  draggable: true,
  selectable: true,
  addOptions: () => ({ faces: null, open: null }),
  addAttributes: () => ({
    fieldId: { default: '', parseHTML: (element) => element.getAttribute('data-field-block') ?? '' },
  }),
  parseHTML: () => [{ tag: 'div[data-field-block]' }],
  renderHTML: ({ node }) => ['div', { 'data-field-block': node.attrs['fieldId'] as string }],
  addNodeView() {
    const { faces, open } = this.options;
    return ({ node }) => {
      const fieldId = String(node.attrs['fieldId']);
      const dom = document.createElement('div');
      dom.className = 'field-block';
      dom.setAttribute('data-field-block', fieldId);
      dom.setAttribute('role', 'group');
      dom.addEventListener('dblclick', () => open?.(fieldId));
      let shown: BlockFace | null = null;
      const show = (): void => {
        const face = faces?.blockFaceOf(fieldId) ?? null;
        if (face === shown && face) return;
        shown = face;
        dom.replaceChildren(...(face ? partsOf(face) : []));
        dom.setAttribute('aria-label', face?.label ?? '');
        dom.title = `${face?.label ?? ''}. Press Enter to change it.`;
      };
      show();
      const stop = faces?.onChange(show);
      return { dom, destroy: () => stop?.(), ignoreMutation: () => true };
    };
  },
  addKeyboardShortcuts() {
    return {
      Enter: ({ editor }) => {
        if (!editor.isActive(this.name)) return false;
        this.options.open?.(String(editor.getAttributes(this.name)['fieldId']));
        return true;
      },
    };
  },
  addCommands() {
    return {
      insertFieldBlock:
        (fieldId) =>
        ({ tr, dispatch }) => {
          // Behind the outermost block at the caret: a table in an item of a list is none that people mean. A blank
          // paragraph makes room for it.
          const { $to } = tr.selection;
          const outer = $to.depth > 0 ? $to.node(1) : null;
          const blank = outer?.type.name === 'paragraph' && outer.content.size === 0;
          const at = $to.depth > 0 ? $to.after(1) : tr.selection.to;
          const from = blank ? $to.before(1) : at;
          tr.replaceWith(from, at, this.type.create({ fieldId }));
          tr.setSelection(NodeSelection.create(tr.doc, from)).scrollIntoView();
          dispatch?.(tr);
          return true;
        },
    };
  },
});

function partsOf({ label, state, table, drawing, picture }: BlockFace): HTMLElement[] {
  if (state !== 'filled') {
    const note = element(
      'p',
      state === 'empty' ? `${label}: nothing to print for this learner` : `${label}: removed`,
    );
    note.className = state;
    return [note];
  }
  if (table) return [tableOf(table)];
  if (drawing) return [chartOf(drawing)];
  if (picture) return [pictureOf(picture)];
  return [element('p', label)];
}

function tableOf({ columns, printed }: NonNullable<BlockFace['table']>): HTMLElement {
  const table = document.createElement('table');
  const shares = columns.reduce(
    (all, { width }) => all + (typeof width === 'object' && 'share' in width ? width.share : 0),
    0,
  );
  const group = table.appendChild(document.createElement('colgroup'));
  for (const { width } of columns) {
    const column = group.appendChild(document.createElement('col'));
    if (typeof width === 'object' && 'share' in width)
      column.style.width = `${(width.share * 100) / shares}%`;
  }
  if (columns.some(({ title }) => title !== '')) {
    const head = table.createTHead().insertRow();
    columns.forEach(({ title }, x) => {
      const cell = element(title === '' ? 'td' : 'th', title);
      if (cell.tagName === 'TH') cell.setAttribute('scope', 'col');
      if (printed.numeric?.[x]) cell.className = 'number';
      head.append(cell);
    });
  }
  const body = table.createTBody();
  printed.rows.forEach((row, y) => {
    const line = body.insertRow();
    if (printed.strong?.includes(y)) line.className = 'strong';
    row.forEach((cell, x) => {
      const box = line.insertCell();
      const look = columns[x]?.look.kind ?? 'plain';
      box.className = `${look}${printed.numeric?.[x] ? ' number' : ''}`;
      box.append(cellOf(cell, look));
    });
  });
  return table;
}

function cellOf(cell: PrintedCell, look: string): HTMLElement | Text {
  if (typeof cell === 'string') return document.createTextNode(cell);
  if (look === 'bar') return barOf(cell);
  const text = element('span', cell.text);
  if (cell.tint !== undefined) {
    text.className = 'band-ground';
    text.style.background = BAND_TINTS[Math.round(cell.tint * (BAND_TINTS.length - 1))]!;
  }
  return text;
}

function barOf({ bar, mean, alt }: Exclude<PrintedCell, string>): HTMLElement {
  const ground = element('span', '');
  ground.className = 'bar-ground';
  ground.setAttribute('role', 'img');
  ground.setAttribute('aria-label', alt ?? '');
  for (const [name, at] of [
    ['bar-own', bar],
    ['bar-mean', mean],
  ] as const) {
    if (at == null) continue;
    const mark = element('span', '');
    mark.className = name;
    mark.style[name === 'bar-own' ? 'width' : 'left'] = `${at * 100}%`;
    ground.append(mark);
  }
  return ground;
}

function pictureOf({ url, alt, width, height, fit, side }: BlockPicture): HTMLElement {
  const figure = document.createElement('figure');
  figure.className = 'own-picture';
  figure.style.textAlign = side;
  const image = figure.appendChild(document.createElement('img'));
  image.src = url;
  image.alt = alt;
  const [wide, high] = [pixels(width), pixels(height)];
  if (fit === 'whole') {
    image.style.maxWidth = `min(100%, ${wide}px)`;
    image.style.maxHeight = `${high}px`;
  } else {
    image.style.width = `${wide}px`;
    image.style.height = `${high}px`;
    image.style.objectFit = 'cover';
    image.style.objectPosition = fit === 'cut below' ? '50% 12%' : '50% 50%';
  }
  return figure;
}

function chartOf(drawing: Drawing): HTMLElement {
  const figure = document.createElement('figure');
  const { documentElement } = new DOMParser().parseFromString(drawingSvg(drawing), 'image/svg+xml');
  documentElement.setAttribute('role', 'img');
  documentElement.setAttribute('aria-label', drawing.alt);
  figure.append(document.importNode(documentElement, true));
  return figure;
}

function element<K extends keyof HTMLElementTagNameMap>(name: K, text: string): HTMLElementTagNameMap[K] {
  const made = document.createElement(name);
  made.textContent = text;
  return made;
}
