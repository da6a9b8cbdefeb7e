import { z } from 'zod';
import { Identity } from '../column/index.js';

/** A colour as `#rrggbb`. */
export const Colour = z.string().regex(/^#[0-9a-fA-F]{6}$/, 'A colour is written #rrggbb.');

/** A size of type such as `11pt` or `10.5pt`, from 5 to 96 points. */
export const TypeSize = z
  .string()
  .regex(/^\d{1,2}(\.\d)?pt$/, 'A size is written in points, such as 11pt.')
  .refine((size) => parseFloat(size) >= 5 && parseFloat(size) <= 96, 'A size is 5pt to 96pt.');

/** Where a link leads: a page of the web, or an address to write to. */
export const LinkAddress = z
  .string()
  .max(2000)
  .regex(/^(https?:\/\/|mailto:)[^\s"<>]+$/i, 'A link begins with https:// or mailto:');

export type TextMark =
  | { type: 'bold' | 'italic' | 'underline' }
  | { type: 'textStyle'; attrs: { color?: string | null | undefined; fontSize?: string | null | undefined } }
  | { type: 'link'; attrs: { href: string } }
  /** Words that belong to a part of the text, which comes and goes with its condition. */
  | { type: 'part'; attrs: { part: string } };
export const TextMark: z.ZodType<TextMark> = z.discriminatedUnion('type', [
  z.object({ type: z.literal('bold') }),
  z.object({ type: z.literal('italic') }),
  z.object({ type: z.literal('underline') }),
  z.object({
    type: z.literal('textStyle'),
    attrs: z.object({ color: Colour.nullish(), fontSize: TypeSize.nullish() }),
  }),
  z.object({ type: z.literal('link'), attrs: z.object({ href: LinkAddress }) }),
  z.object({ type: z.literal('part'), attrs: z.object({ part: Identity }) }),
]);

const marks = z.array(TextMark).optional();

/** A run of fixed text. */
export const TextRun = z.object({ type: z.literal('text'), text: z.string().min(1), marks });
/** The place of a field; its marks are the formatting of its value. */
export const FieldPlace = z.object({
  type: z.literal('field'),
  attrs: z.object({ fieldId: Identity }),
  marks,
});
export type FieldPlace = z.infer<typeof FieldPlace>;
export const LineBreak = z.object({ type: z.literal('hardBreak'), marks });

/** A note at the foot of the page; its number stands here. */
export const Footnote = z.object({
  type: z.literal('footnote'),
  attrs: z.object({ text: z.string().max(2000) }),
  marks,
});

export const Inline = z.discriminatedUnion('type', [TextRun, FieldPlace, LineBreak, Footnote]);
export type Inline = z.infer<typeof Inline>;

const inlines = z.array(Inline).optional();

/** The part that words belong to; null for those that stand wherever their block does. */
export const partOfWords = ({ marks = [] }: Inline): string | null =>
  marks.find((mark) => mark.type === 'part')?.attrs.part ?? null;

export const Alignment = z.enum(['left', 'center', 'right', 'justify']);
export type Alignment = z.infer<typeof Alignment>;

/** The part of a text that a block belongs to, which comes and goes with its condition; most belong to none. */
const part = Identity.nullish();
const blockAttrs = z.object({ textAlign: Alignment.nullish(), part });

/** What a paragraph is besides text; how each looks is said once for the template. */
export const ParagraphStyle = z.enum(['title', 'small', 'quotation', 'signature']);
export type ParagraphStyle = z.infer<typeof ParagraphStyle>;

export const Paragraph = z.object({
  type: z.literal('paragraph'),
  attrs: blockAttrs.extend({ style: ParagraphStyle.nullish() }).optional(),
  content: inlines,
});
export const Heading = z.object({
  type: z.literal('heading'),
  attrs: blockAttrs.extend({ level: z.number().int().min(1).max(3) }),
  content: inlines,
});
export const Rule = z.object({ type: z.literal('horizontalRule'), attrs: z.object({ part }).optional() });
export const Picture = z.object({
  type: z.literal('picture'),
  attrs: z.object({
    /** Which of the template's pictures: an asset's id, or in a template file a path beside the file. */
    asset: z.string().min(1),
    /** Width in millimetres. */
    width: z.number().min(2).max(400),
    align: z.enum(['left', 'center', 'right']).default('left'),
    /** What the picture shows, for those who cannot see it. */
    alt: z.string().default(''),
    part,
  }),
});
export type Picture = z.infer<typeof Picture>;

/** What follows begins on another page. Between blocks of the text itself only, not in lists or boxes. */
export const PageBreak = z.object({ type: z.literal('pageBreak'), attrs: z.object({ part }).optional() });

/** A field that takes a block of its own: a table, a chart. */
export const FieldBlock = z.object({
  type: z.literal('fieldBlock'),
  attrs: z.object({ fieldId: Identity, part }),
});
export type FieldBlock = z.infer<typeof FieldBlock>;

/** Where somebody signs; who and how is said in the school's letterhead. */
export const SignOffPlace = z.object({
  type: z.literal('signOff'),
  attrs: z.object({ signOffId: Identity, part }),
});
export type SignOffPlace = z.infer<typeof SignOffPlace>;

export interface ListItem {
  type: 'listItem';
  content: Block[];
}
export interface List {
  type: 'bulletList' | 'orderedList';
  attrs?: { start?: number | null | undefined; part?: string | null | undefined } | undefined;
  content: ListItem[];
}
/** Blocks that stand together: on a ground, inside a line, or kept on one page. */
export interface Frame {
  type: 'frame';
  attrs: {
    /** Its colour; none where left out. */
    ground?: string | null | undefined;
    /** A thin line around it. */
    line?: boolean | undefined;
    /** Never broken over two pages. */
    whole?: boolean | undefined;
    part?: string | null | undefined;
  };
  content: Block[];
}
export interface TableCellBlock {
  type: 'tableCell' | 'tableHeader';
  attrs?:
    | {
        colspan?: number | undefined;
        rowspan?: number | undefined;
        /** Width of each of its columns on the screen, where it was set. */
        colwidth?: number[] | null | undefined;
      }
    | undefined;
  content: Block[];
}
export interface TableRowBlock {
  type: 'tableRow';
  attrs?: { part?: string | null | undefined } | undefined;
  content: TableCellBlock[];
}
/** A table whose cells are written by hand. */
export interface FreeTable {
  type: 'table';
  attrs?: { lines?: TableLines | null | undefined; part?: string | null | undefined } | undefined;
  content: TableRowBlock[];
}
/** Lines between rows, around all cells, or none: then it only puts things beside each other. */
export const TableLines = z.enum(['rows', 'all', 'none']);
export type TableLines = z.infer<typeof TableLines>;

export type Block =
  | z.infer<typeof Paragraph>
  | z.infer<typeof Heading>
  | z.infer<typeof Rule>
  | z.infer<typeof PageBreak>
  | Picture
  | FieldBlock
  | SignOffPlace
  | Frame
  | FreeTable
  | List;

const ListItem: z.ZodType<ListItem> = z.lazy(() =>
  z.object({ type: z.literal('listItem'), content: z.array(Block) }),
);
const List: z.ZodType<List> = z.lazy(() =>
  z.object({
    type: z.enum(['bulletList', 'orderedList']),
    attrs: z.object({ start: z.number().int().min(0).max(100_000).nullish(), part }).optional(),
    content: z.array(ListItem),
  }),
);
const Frame: z.ZodType<Frame> = z.lazy(() =>
  z.object({
    type: z.literal('frame'),
    attrs: z.object({
      ground: Colour.nullish(),
      line: z.boolean().optional(),
      whole: z.boolean().optional(),
      part,
    }),
    content: z.array(Block).min(1),
  }),
);
const span = z.number().int().min(1).max(20).optional();
const TableCellBlock: z.ZodType<TableCellBlock> = z.lazy(() =>
  z.object({
    type: z.enum(['tableCell', 'tableHeader']),
    attrs: z
      .object({ colspan: span, rowspan: span, colwidth: z.array(z.number().min(0).max(5000)).nullish() })
      .optional(),
    content: z.array(Block),
  }),
);
const FreeTable: z.ZodType<FreeTable> = z.lazy(() =>
  z.object({
    type: z.literal('table'),
    attrs: z.object({ lines: TableLines.nullish(), part }).optional(),
    content: z
      .array(
        z.object({
          type: z.literal('tableRow'),
          attrs: z.object({ part }).optional(),
          content: z.array(TableCellBlock).min(1).max(20),
        }),
      )
      .min(1)
      .max(300),
  }),
);
export const Block: z.ZodType<Block> = z.lazy(() =>
  z.union([Paragraph, Heading, Rule, PageBreak, Picture, FieldBlock, SignOffPlace, Frame, FreeTable, List]),
);

/** The blocks that stand inside a block, one list for each item, cell or frame. */
export function insidesOf(block: Block): readonly (readonly Block[])[] {
  switch (block.type) {
    case 'bulletList':
    case 'orderedList':
      return block.content.map((item) => item.content);
    case 'frame':
      return [block.content];
    case 'table':
      return block.content.flatMap((row) => row.content.map((cell) => cell.content));
    default:
      return [];
  }
}

/** A block with other blocks inside it. */
export function withInsides(block: Block, change: (blocks: readonly Block[]) => Block[]): Block {
  switch (block.type) {
    case 'bulletList':
    case 'orderedList':
      return { ...block, content: block.content.map((item) => ({ ...item, content: change(item.content) })) };
    case 'frame':
      return { ...block, content: change(block.content) };
    case 'table':
      return {
        ...block,
        content: block.content.map((row) => ({
          ...row,
          content: row.content.map((cell) => ({ ...cell, content: change(cell.content) })),
        })),
      };
    default:
      return block;
  }
}

/** How deep lists, frames and tables may stand in each other. */
const BLOCKS_DEEP = 12;

const isShallow = (blocks: readonly Block[], levels: number): boolean =>
  blocks.every((block) => {
    const insides = insidesOf(block);
    return insides.length === 0 || (levels > 0 && insides.every((inside) => isShallow(inside, levels - 1)));
  });

/** A table has no other inside it: nobody could read that on paper. */
const isTablesApart = (blocks: readonly Block[], inTable = false): boolean =>
  blocks.every(
    (block) =>
      !(inTable && block.type === 'table') &&
      insidesOf(block).every((inside) => isTablesApart(inside, inTable || block.type === 'table')),
  );

/** Flowing text: an immutable tree in the JSON form of ProseMirror documents, limited to what Scriptum typesets. */
export const FlowText = z
  .object({ type: z.literal('doc'), content: z.array(Block) })
  .refine(
    (text) => isShallow(text.content, BLOCKS_DEEP),
    `Lists may stand in lists up to ${BLOCKS_DEEP} deep.`,
  )
  .refine((text) => isTablesApart(text.content), 'A table cannot stand in a table.')
  .meta({ id: 'FlowText', description: 'Flowing text with fields' });
export interface FlowText {
  type: 'doc';
  content: Block[];
}

/** One line of text with fields, such as a subject or a file name. */
export const LineText = z.array(z.discriminatedUnion('type', [TextRun, FieldPlace])).max(200);
export type LineText = z.infer<typeof LineText>;
