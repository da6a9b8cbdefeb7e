import { z } from 'zod';
import { Identity } from '../column/index.js';

/** A colour as `#rrggbb`. */
export const Colour = z.string().regex(/^#[0-9a-fA-F]{6}$/, 'A colour is written #rrggbb.');

/** A size of type such as `11pt` or `10.5pt`, from 5 to 96 points. */
export const TypeSize = z
  .string()
  .regex(/^\d{1,2}(\.\d)?pt$/, 'A size is written in points, such as 11pt.')
  .refine((size) => parseFloat(size) >= 5 && parseFloat(size) <= 96, 'A size is 5pt to 96pt.');

export const TextMark = z.discriminatedUnion('type', [
  z.object({ type: z.literal('bold') }),
  z.object({ type: z.literal('italic') }),
  z.object({ type: z.literal('underline') }),
  z.object({
    type: z.literal('textStyle'),
    attrs: z.object({ color: Colour.nullish(), fontSize: TypeSize.nullish() }),
  }),
]);
export type TextMark = z.infer<typeof TextMark>;

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

export const Inline = z.discriminatedUnion('type', [TextRun, FieldPlace, LineBreak]);
export type Inline = z.infer<typeof Inline>;

const inlines = z.array(Inline).optional();

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
export type Block =
  | z.infer<typeof Paragraph>
  | z.infer<typeof Heading>
  | z.infer<typeof Rule>
  | z.infer<typeof PageBreak>
  | Picture
  | FieldBlock
  | SignOffPlace
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
export const Block: z.ZodType<Block> = z.lazy(() =>
  z.union([Paragraph, Heading, Rule, PageBreak, Picture, FieldBlock, SignOffPlace, List]),
);

/** How deep lists may stand in lists. */
const LISTS_DEEP = 12;

const isShallow = (blocks: readonly Block[], levels: number): boolean =>
  blocks.every(
    (block) =>
      (block.type !== 'bulletList' && block.type !== 'orderedList') ||
      (levels > 0 && block.content.every((item) => isShallow(item.content, levels - 1))),
  );

/** Flowing text: an immutable tree in the JSON form of ProseMirror documents, limited to what Scriptum typesets. */
export const FlowText = z
  .object({ type: z.literal('doc'), content: z.array(Block) })
  .refine((text) => isShallow(text.content, LISTS_DEEP), `Lists may stand in lists up to ${LISTS_DEEP} deep.`)
  .meta({ id: 'FlowText', description: 'Flowing text with fields' });
export interface FlowText {
  type: 'doc';
  content: Block[];
}

/** One line of text with fields, such as a subject or a file name. */
export const LineText = z.array(z.discriminatedUnion('type', [TextRun, FieldPlace])).max(200);
export type LineText = z.infer<typeof LineText>;
