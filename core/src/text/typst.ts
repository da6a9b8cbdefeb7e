import {
  insidesOf,
  partOfWords,
  type Block,
  type FlowText,
  type Frame,
  type FreeTable,
  type Inline,
  type TableCellBlock,
  type TableRowBlock,
} from './flow-text.js';
import { isRightToLeft } from './direction.js';
import { Outline } from './outline.js';
import { goesOutSomewhere, linesOf, type BlankRules } from './lines.js';

/** How a field of the text is printed: by its key in the values, or as one that nothing fills. */
export type TypstField =
  | {
      readonly key: string;
      /** The code that sets it as a block of its own; its text alone where there is none. */
      /** The code of what is known only where it is set, in place of its value. */
      readonly code?: string;
      readonly block?: (fixed: (text: string) => number) => string;
    }
  | { readonly unmatched: string };

/** Alignment of a block, where it has one. */
type Side = 'left' | 'center' | 'right' | 'justify' | null | undefined;

/**
 * Writes text as Typst code that holds nothing a person typed: fixed text is looked up in `texts` by number, fields in the
 * entry's values by key, pictures by number in `assets`. The code calls `t`, `f`, `unmatched`, `picture`, `headed`, `styled`, `blank`, `frame`, `free-table`, and, where
 * something goes out, `gone`, `stands`, `stretches`, `lines` and `there`, which the program defines that it stands in.
 */
export class TypstWriter {
  readonly texts: string[] = [];
  private readonly outline = new Outline();
  private pages = false;
  private scaled = false;
  private depth = 0;
  private readonly rightToLeft: boolean;
  readonly assets: string[] = [];

  /** @param fieldOf by the identity of the field. */
  constructor(
    private readonly fieldOf: (fieldId: string) => TypstField,
    private readonly rules: BlankRules,
    /** The key of a part in the values; null for one that stands in every paper. */
    private readonly partOf: (partId: string) => string | null = () => null,
    /** The code of a sign-off; null for one that is gone. */
    private readonly signOffOf: (signOffId: string, writer: TypstWriter) => string | null = () => null,
  ) {
    this.rightToLeft = isRightToLeft(rules.language);
  }

  /**
   * @param pages whether the text stands on pages of its own, which can be broken, and which are shown beside it; not so in a
   * box. Then the program calls `mark` before each of its blocks.
   */
  flow(text: FlowText, pages = false): string {
    this.pages = pages;
    return text.content
      .map((block, n) => (pages ? `mark(${n})\n${this.block(block)}` : this.block(block)))
      .join('\n');
  }

  /** The text of a box; its sizes are times `scale`, which the code that it stands in defines. */
  boxed(text: FlowText): string {
    this.scaled = true;
    const code = this.flow(text);
    this.scaled = false;
    return code;
  }

  /** One line of text. */
  lineOf(line: readonly Inline[]): string {
    return this.line(line);
  }

  fixed(text: string): number {
    this.texts.push(text.toWellFormed());
    return this.texts.length - 1;
  }

  block(block: Block): string {
    const part = block.attrs?.part;
    const key = part ? this.partOf(part) : null;
    return key === null ? this.whole(block) : `if stands("${key}") { ${this.whole(block)} }`;
  }

  /** A block where it stands. */
  private whole(block: Block): string {
    switch (block.type) {
      case 'paragraph':
        return this.paragraph(block.attrs ?? {}, block.content);
      case 'heading':
        return this.heading(block.attrs, block.content ?? []);
      case 'horizontalRule':
        return 'block(above: 1.3em, below: 1.3em, line(length: 100%, stroke: 0.6pt + rgb("#55636E")))';
      case 'pageBreak':
        return this.pages && this.depth === 0 ? 'pagebreak(weak: true)' : '[]';
      case 'picture': {
        const { asset, width, align, alt } = block.attrs;
        return `picture(${this.picture(asset)}, ${width}mm, ${align}, ${this.fixed(alt)})`;
      }
      case 'fieldBlock':
        return this.fieldBlock(block.attrs.fieldId);
      case 'signOff': {
        const code = this.signOffOf(block.attrs.signOffId, this);
        return code ?? `par(unmatched(${this.fixed('Sign-off')}))`;
      }
      case 'frame':
        return this.frame(block);
      case 'table':
        return this.table(block);
      case 'bulletList':
      case 'orderedList': {
        const start = block.attrs?.start;
        this.depth++;
        const items = block.content.map((item) => this.item(item.content));
        this.depth--;
        const options = block.type === 'orderedList' && start != null ? [`start: ${start}`] : [];
        const name = block.type === 'bulletList' ? 'list' : 'enum';
        if (!block.content.some((item) => this.mayVanish(item.content)))
          return `${name}(${[...options, ...items].join(', ')})`;
        return `there(items => ${name}(${[...options, '..items'].join(', ')}), filled((${items.join(', ')},)))`;
      }
    }
  }

  private paragraph(
    { textAlign, style }: NonNullable<Extract<Block, { type: 'paragraph' }>['attrs']>,
    content: readonly Inline[] | undefined,
  ): string {
    return this.aligned(textAlign, content, (inner) =>
      style ? `styled("${style}", par(${inner}))` : `par(${inner})`,
    );
  }

  private fieldBlock(fieldId: string): string {
    const field = this.fieldOf(fieldId);
    if ('unmatched' in field) return `par(${this.field(fieldId)})`;
    const code = field.block?.((text) => this.fixed(text)) ?? `par(f("${field.key}"))`;
    return `if not gone("${field.key}") { ${code} }`;
  }

  private frame({ attrs: { ground, line, whole }, content }: Frame): string {
    const options = [
      ...(ground ? [`fill: rgb("${ground}")`] : []),
      ...(line ? ['stroke: 0.6pt + slate'] : []),
      ...(ground || line ? ['inset: 4mm', 'radius: 1mm'] : []),
    ];
    const look = [...options, `breakable: ${!whole}`].join(', ');
    const inside = this.inside(content);
    return this.mayVanish(content)
      ? `there(it => frame(it, ${look}), ${inside})`
      : `frame(${inside}, ${look})`;
  }

  /** A table that only puts things beside each other is none to a reader. */
  private table({ attrs, content }: FreeTable): string {
    const lines = attrs?.lines ?? 'rows';
    const name = lines === 'none' ? 'grid' : 'table';
    const isHead = ({ content: cells }: TableRowBlock): boolean =>
      cells.every(({ type }) => type === 'tableHeader');
    const most = Math.max(...content.map(columnsOf));
    const tall = content.some((one) => one.content.some((cell) => (cell.attrs?.rowspan ?? 1) > 1));
    const row = (one: TableRowBlock): string => {
      // A row that is short would take cells of the next one.
      const missing = tall ? 0 : most - columnsOf(one);
      const cells = [
        ...one.content.map((cell) => this.cell(cell, name)),
        ...Array<string>(missing).fill('[]'),
      ];
      const set = `(${cells.join(', ')},)`;
      const key = one.attrs?.part ? this.partOf(one.attrs.part) : null;
      return key === null ? `..${set}` : `..if stands("${key}") { ${set} } else { () }`;
    };
    const [first, ...rest] = content;
    const head = first && name === 'table' && !first.attrs?.part && isHead(first) ? first : null;
    const rows = head ? [`table.header(${row(head)})`, ...rest.map(row)] : content.map(row);
    return `free-table(${name}, "${lines}", (${columnWidths(content)}), ${rows.join(', ')})`;
  }

  private cell({ type, attrs, content }: TableCellBlock, name: 'grid' | 'table'): string {
    const spans = (['colspan', 'rowspan'] as const).flatMap((span) =>
      (attrs?.[span] ?? 1) > 1 ? [`${span}: ${attrs![span]}`] : [],
    );
    const inside = `[] + ${this.inside(content)}`;
    const set = type === 'tableHeader' ? `strong(${inside})` : inside;
    return `${name}.cell(${[...spans, set].join(', ')})`;
  }

  /** The blocks inside a frame or a cell, as one. */
  private inside(blocks: readonly Block[]): string {
    this.depth++;
    const set = blocks.map((block) => this.block(block)).join('\n');
    this.depth--;
    return `{\n${set}\n}`;
  }

  /** A heading without a word is no heading to a reader, only its space. */
  private heading(
    { level: look, textAlign: side, part }: Extract<Block, { type: 'heading' }>['attrs'],
    content: readonly Inline[],
  ): string {
    const said = content.some(
      (one) => one.type === 'text' && one.text.trim() !== '' && partOfWords(one) === null,
    );
    const parts = new Set(content.map(partOfWords).filter((one) => one !== null));
    const fields = content.flatMap((one) => (one.type === 'field' ? [this.fieldOf(one.attrs.fieldId)] : []));
    const sure = said || fields.some((field) => 'unmatched' in field);
    if (!sure && fields.length === 0 && parts.size === 0) return 'blank';
    const level = this.outline.next(look, !sure || Boolean(part) || goesOutSomewhere(content, this.rules));
    const set = this.aligned(side, content, (inner) => `headed(${look}, ${level}, ${inner})`);
    const blank = [
      ...fields.flatMap((field) => ('key' in field ? [`gone("${field.key}")`] : [])),
      ...[...parts].flatMap((one) => {
        const key = this.partOf(one);
        return key === null ? ['false'] : [`not stands("${key}")`];
      }),
    ];
    return sure || fields.length === 0 ? set : `if ${blank.join(' and ')} { blank } else { ${set} }`;
  }

  /** A list item. A leading paragraph is set without space of its own, so that simple lists stay close. */
  private item(blocks: readonly Block[]): string {
    const [first, ...rest] = blocks;
    const lead =
      first?.type === 'paragraph' && !first.attrs?.part
        ? this.text(first.content ?? [])
        : first
          ? this.block(first)
          : '[]';
    return rest.length === 0 ? lead : `{\n${[lead, ...rest.map((block) => this.block(block))].join('\n')}\n}`;
  }

  /** True where nothing may be left of some blocks, so that what holds them is to be left out too. */
  private mayVanish(blocks: readonly Block[]): boolean {
    return blocks.every((block) => {
      if (block.attrs?.part || block.type === 'fieldBlock') return true;
      if (block.type === 'paragraph' || block.type === 'heading')
        return goesOutSomewhere(block.content ?? [], this.rules);
      const insides = block.type === 'table' ? [] : insidesOf(block);
      return insides.length > 0 && insides.every((inside) => this.mayVanish(inside));
    });
  }

  private aligned(
    side: Side,
    content: readonly Inline[] | undefined,
    wrap: (inner: string) => string,
  ): string {
    if (!content?.length) return 'blank';
    const set = (inner: string): string => {
      const wrapped = wrap(inner);
      if (side === 'justify') return `{ set par(justify: true)\n${wrapped} }`;
      // Left is where text begins, but in a language from right to left.
      // A box may put its text elsewhere.
      const other =
        side === 'center' || side === 'right' || (side === 'left' && (this.rightToLeft || this.scaled));
      return other ? `align(${side}, ${wrapped})` : wrapped;
    };
    return goesOutSomewhere(content, this.rules)
      ? `there(it => ${set('it')}, ${this.text(content)})`
      : set(this.line(content));
  }

  /** The inside of a paragraph; `none` where all of it goes out. */
  private text(content: readonly Inline[]): string {
    if (!goesOutSomewhere(content, this.rules)) return this.line(content);
    const lines = linesOf(content, this.rules).map(({ stretches, goesWith }) => {
      const parts = stretches.map(({ part, goesWith: taken, inlines }) =>
        this.unless(taken, this.ifStands(part, this.line(inlines))),
      );
      return this.unless(goesWith, `stretches(${parts.join(', ')})`);
    });
    return `lines(${lines.join(', ')})`;
  }

  private ifStands(part: string | null, code: string): string {
    const key = part === null ? null : this.partOf(part);
    return key === null ? code : `if stands("${key}") { ${code} } else { none }`;
  }

  private unless(fieldIds: readonly string[], code: string): string {
    const gone = fieldIds.flatMap((id) => {
      const field = this.fieldOf(id);
      return 'key' in field ? [`gone("${field.key}")`] : [];
    });
    return gone.length === 0
      ? code
      : `if ${gone.join(' or ')} { none } else ${code.startsWith('{') || code.startsWith('if') ? code : `{ ${code} }`}`;
  }

  private line(content: readonly Inline[]): string {
    return content.length === 0 ? '[]' : `{ ${content.map((inline) => this.inline(inline)).join('; ')} }`;
  }

  private inline(inline: Inline): string {
    if (inline.type === 'hardBreak') return 'linebreak()';
    if (inline.type === 'footnote')
      return inline.attrs.text ? `footnote(t(${this.fixed(inline.attrs.text)}))` : '[]';
    let code = inline.type === 'text' ? `t(${this.fixed(inline.text)})` : this.field(inline.attrs.fieldId);
    const options: string[] = [];
    for (const mark of inline.marks ?? []) {
      if (mark.type === 'bold') options.push('weight: "bold"');
      if (mark.type === 'italic') options.push('style: "italic"');
      if (mark.type === 'underline') code = `underline(${code})`;
      if (mark.type === 'link') code = `link(texts.at(${this.fixed(mark.attrs.href)}), ${code})`;
      if (mark.type === 'textStyle' && mark.attrs.color) options.push(`fill: rgb("${mark.attrs.color}")`);
      if (mark.type === 'textStyle' && mark.attrs.fontSize)
        options.push(`size: ${parseFloat(mark.attrs.fontSize)}pt${this.scaled ? ' * scale' : ''}`);
    }
    return options.length > 0 ? `text(${options.join(', ')}, ${code})` : code;
  }

  private field(id: string): string {
    const field = this.fieldOf(id);
    if ('code' in field && field.code) return field.code;
    return 'key' in field ? `f("${field.key}")` : `unmatched(${this.fixed(field.unmatched)})`;
  }

  /** The number of a picture among the program's. */
  picture(asset: string): number {
    if (!this.assets.includes(asset)) this.assets.push(asset);
    return this.assets.indexOf(asset);
  }
}

const spanOf = ({ attrs }: TableCellBlock): number => attrs?.colspan ?? 1;
const columnsOf = ({ content }: TableRowBlock): number =>
  content.reduce((sum, cell) => sum + spanOf(cell), 0);

/** The columns' shares of the width, by what the first row's cells have on the screen; alike where nothing is said. */
function columnWidths(rows: readonly TableRowBlock[]): string {
  const widths = (rows[0]?.content ?? []).flatMap((cell): (number | null)[] =>
    Array.from({ length: spanOf(cell) }, (_, n) => cell.attrs?.colwidth?.[n] || null),
  );
  const most = Math.max(...rows.map(columnsOf));
  while (widths.length < most) widths.push(null);
  const known = widths.filter((width) => width !== null);
  const mean = known.reduce((sum, width) => sum + width, 0) / (known.length || 1) || 1;
  return widths.map((width) => `${Math.round((100 * (width ?? mean)) / mean) / 100}fr, `).join('');
}
