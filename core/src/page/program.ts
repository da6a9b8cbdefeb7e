import {
  allPicturesOf,
  type Block,
  type FlowText,
  type Inline,
  type Placed,
  type Template,
} from '../template/index.js';

/**
 * A template turned into a typesetter's program, once for all its entries. `source` is Typst code that holds nothing a
 * person typed: fixed text is looked up in `texts` by number, fields in the entry's values, pictures by number in
 * `assets`. Texts and values travel as JSON in the compiler's inputs `texts` and `values`.
 */
export interface Program {
  readonly source: string;
  /** JSON of the fixed texts. */
  readonly texts: string;
  /** The pictures' asset names; number n is the file `/assets/<n>` to the program. */
  readonly assets: readonly string[];
}

/** Families that follow the letter's own, for the scripts that it has no letters for. */
export const FALLBACK_FONTS = [
  'Noto Sans',
  'Vazirmatn',
  'Noto Sans Hebrew',
  'Noto Sans Devanagari',
  'Noto Sans Thai',
  'Noto Sans SC',
  'Noto Sans KR',
] as const;

const PRELUDE = `#let texts = json(bytes(sys.inputs.texts))
#let values = json(bytes(sys.inputs.values))
#let t(n) = text(texts.at(n))
#let f(id) = values.at(id, default: "").split("\\n").map(line => text(line)).join(linebreak())
#let unmatched(n) = box(stroke: 0.7pt + rgb("#A63D40"), inset: (x: 2pt), outset: (y: 2pt), text(fill: rgb("#A63D40"), texts.at(n)))
#let picture(n, width, side, alt) = align(side, image("/assets/" + str(n), width: calc.min(width, 400mm), alt: texts.at(alt)))
#let blank = par(box(width: 0pt, height: 0.7em))
#set heading(numbering: none, outlined: false)
#show heading: set block(above: 1.25em, below: 0.7em)
#show heading.where(level: 1): set text(size: 1.45em)
#show heading.where(level: 2): set text(size: 1.15em)
#show heading.where(level: 3): set text(size: 1em)
`;

/** Turns a template into its program. */
export function typeset(template: Template): Program {
  const writer = new Writer(template);
  const { width, height, margins } = template.page;
  const [lang, region] = template.language.split('-');
  const fonts = [template.font.family, ...FALLBACK_FONTS].map((family) => JSON.stringify(family)).join(', ');
  const title = writer.fixed(template.name);
  const body = template.kind === 'letter' ? writer.flow(template.body) : placedPages(template, writer);
  const source = `${PRELUDE}#set document(title: texts.at(${title}))
#set page(width: ${width}mm, height: ${height}mm, margin: (top: ${margins.top}mm, right: ${margins.right}mm, bottom: ${margins.bottom}mm, left: ${margins.left}mm))
#set text(font: (${fonts}), size: ${template.font.size}pt, lang: "${lang}"${region ? `, region: "${region}"` : ''})
#set par(leading: 0.62em, spacing: 1.1em)
#{
${body}
}
`;
  return { source, texts: JSON.stringify(writer.texts), assets: writer.assets };
}

/** Each box where it belongs, measured from the corner of the page. */
function placedPages({ page, pages, boxes }: Placed, writer: Writer): string {
  const { top, left } = page.margins;
  return Array.from({ length: pages }, (_, n) =>
    boxes
      .filter((box) => box.page === n)
      .map(
        ({ x, y, width, height, body }) =>
          `place(top + left, dx: ${x - left}mm, dy: ${y - top}mm, block(width: ${width}mm, height: ${height}mm, clip: true, {\n${writer.flow(body)}\n}))`,
      )
      .join('\n'),
  ).join('\npagebreak(weak: false)\n');
}

class Writer {
  readonly texts: string[] = [];
  readonly assets: string[] = [];
  private readonly fields: Map<string, { name: string; matched: boolean; place: number }>;

  constructor(template: Template) {
    this.fields = new Map(
      template.fields.map((field, place) => [
        field.id,
        { name: field.name, matched: field.columnId !== null, place },
      ]),
    );
    for (const { attrs } of allPicturesOf(template))
      if (!this.assets.includes(attrs.asset)) this.assets.push(attrs.asset);
  }

  flow(text: FlowText): string {
    return text.content.map((block) => this.block(block)).join('\n');
  }

  fixed(text: string): number {
    this.texts.push(text.toWellFormed());
    return this.texts.length - 1;
  }

  block(block: Block): string {
    switch (block.type) {
      case 'paragraph':
        return this.aligned(block.attrs?.textAlign, block.content, (inner) => `par(${inner})`);
      case 'heading': {
        if (!block.content?.length) return 'blank';
        const { level, textAlign } = block.attrs;
        return this.aligned(textAlign, block.content, (inner) => `heading(level: ${level}, ${inner})`);
      }
      case 'horizontalRule':
        return 'block(above: 1.3em, below: 1.3em, line(length: 100%, stroke: 0.6pt + rgb("#55636E")))';
      case 'picture': {
        const { asset, width, align, alt } = block.attrs;
        return `picture(${this.assets.indexOf(asset)}, ${width}mm, ${align}, ${this.fixed(alt)})`;
      }
      case 'bulletList':
      case 'orderedList': {
        const start = block.attrs?.start;
        const items = block.content.map((item) => this.item(item.content));
        const options = block.type === 'orderedList' && start != null ? [`start: ${start}`] : [];
        return `${block.type === 'bulletList' ? 'list' : 'enum'}(${[...options, ...items].join(', ')})`;
      }
    }
  }

  /** A list item. A leading paragraph is set without space of its own, so that simple lists stay close. */
  private item(blocks: readonly Block[]): string {
    const [first, ...rest] = blocks;
    const lead =
      first?.type === 'paragraph' ? this.line(first.content ?? []) : first ? this.block(first) : '[]';
    return rest.length === 0 ? lead : `{\n${[lead, ...rest.map((block) => this.block(block))].join('\n')}\n}`;
  }

  private aligned(
    side: 'left' | 'center' | 'right' | 'justify' | null | undefined,
    content: readonly Inline[] | undefined,
    wrap: (inner: string) => string,
  ): string {
    if (!content?.length) return 'blank';
    const set = wrap(this.line(content));
    if (side === 'justify') return `{ set par(justify: true)\n${set} }`;
    return side === 'center' || side === 'right' ? `align(${side}, ${set})` : set;
  }

  private line(content: readonly Inline[]): string {
    return content.length === 0 ? '[]' : `{ ${content.map((inline) => this.inline(inline)).join('; ')} }`;
  }

  private inline(inline: Inline): string {
    if (inline.type === 'hardBreak') return 'linebreak()';
    let code = inline.type === 'text' ? `t(${this.fixed(inline.text)})` : this.field(inline.attrs.fieldId);
    const options: string[] = [];
    for (const mark of inline.marks ?? []) {
      if (mark.type === 'bold') options.push('weight: "bold"');
      if (mark.type === 'italic') options.push('style: "italic"');
      if (mark.type === 'underline') code = `underline(${code})`;
      if (mark.type === 'textStyle' && mark.attrs.color) options.push(`fill: rgb("${mark.attrs.color}")`);
      if (mark.type === 'textStyle' && mark.attrs.fontSize)
        options.push(`size: ${parseFloat(mark.attrs.fontSize)}pt`);
    }
    return options.length > 0 ? `text(${options.join(', ')}, ${code})` : code;
  }

  private field(id: string): string {
    const field = this.fields.get(id);
    if (!field?.matched) return `unmatched(${this.fixed(field?.name ?? 'removed field')})`;
    return `f("${fieldKey(field.place)}")`;
  }
}

/** The key of a field's value in the program's inputs: its place in the letter's list, so that no typed text is a key. */
export const fieldKey = (place: number): string => `f${place}`;
