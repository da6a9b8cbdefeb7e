import { z } from 'zod';
import { Blank } from '../blanks/index.js';
import { Identity } from '../column/index.js';
import { Ornament } from '../ornament/index.js';
import { Colour, FlowText, LineText } from '../text/index.js';
import { PAPER_SIZES, type PageSetup } from './page-setup.js';
import { family, fewTests, TemplateBase, TOO_MANY } from './template-base.js';

const place = z.number().min(-2000).max(2000);
const length = z.number().min(0).max(2000);
/** Thickness of a line in millimetres. */
const weight = z.number().min(0.05).max(20);

/** What every box has. Millimetres from the page's upper left corner. */
const box = {
  id: Identity,
  /** Which page, from 0. */
  page: z.number().int().min(0).max(49),
  x: place,
  y: place,
  width: length,
  height: length,
  /** What people call it; where nothing is said it is called by what stands in it. */
  name: z.string().max(200).optional(),
  /** The part that comes and goes which it belongs to. */
  part: Identity.nullish(),
  /** Degrees clockwise about its middle. */
  turn: z.number().min(-180).max(180).optional(),
  /** Not to be moved by hand. */
  locked: z.boolean().optional(),
  /** Boxes of one group are moved together. */
  group: Identity.optional(),
  /** The field of the form below that it fills, where that stays a form: its full name, and which of its marks this one is. */
  fills: z.object({ field: z.string().min(1).max(1000), mark: z.string().max(500).optional() }).optional(),
};

/** How text in a box looks, where otherwise than the template's. */
export const BoxType = z.object({
  family: family.optional(),
  /** Points. */
  size: z.number().min(4).max(200).optional(),
  colour: Colour.optional(),
  /** Room between letters, in thousandths of the size. */
  spacing: z.number().min(-100).max(1000).optional(),
  /** Room between lines, in hundredths of the size. */
  leading: z.number().min(0).max(300).optional(),
});
export type BoxType = z.infer<typeof BoxType>;

/** What happens where a value is longer than its box. */
export const WhenLong = z.discriminatedUnion('do', [
  /** Goes on in the next line, and past the lower edge where that is not enough: a finding. */
  z.object({ do: z.literal('wrap') }),
  /** Is set smaller, down to a least size in points. */
  z.object({ do: z.literal('shrink'), least: z.number().min(3).max(200) }),
  /** Ends at the edge: a finding. */
  z.object({ do: z.literal('cut') }),
  /** Goes on in another text box, before what that one says itself. */
  z.object({ do: z.literal('on'), to: Identity }),
]);
export type WhenLong = z.infer<typeof WhenLong>;

export const TextBox = z.object({
  kind: z.literal('text'),
  ...box,
  body: FlowText,
  type: BoxType.optional(),
  long: WhenLong.optional(),
  /** Never broken into two lines by itself, such as a name. */
  oneLine: z.boolean().optional(),
  /** Of its paragraphs, but for those that say otherwise; where text begins if nothing is said. */
  align: z.enum(['left', 'center', 'right', 'justify']).optional(),
  vertical: z.enum(['top', 'middle', 'bottom']).optional(),
  /**
   * Stands on lines that are there already, as forms have them: the first baseline so many millimetres below the upper edge,
   * and each further one below it.
   */
  baseline: z
    .object({
      first: z.number().min(0).max(500),
      pitch: z.number().min(1).max(100).optional(),
    })
    .optional(),
});
export type TextBox = z.infer<typeof TextBox>;

const fit = z.enum(['whole', 'cut']);

export const PictureBox = z.object({
  kind: z.literal('picture'),
  ...box,
  asset: z.string().min(1),
  /** All of it, or the box full and what is larger cut. */
  fit,
  /** What it shows, for those who cannot see it; decoration where nothing is said. */
  alt: z.string().max(1000),
});

/** The picture of each learner's own that a field names. */
export const OwnPictureBox = z.object({ kind: z.literal('ownPicture'), ...box, fieldId: Identity, fit });

const stroke = z.object({
  colour: Colour,
  weight,
  dashes: z.enum(['dashed', 'dotted']).optional(),
});

/** A straight line from corner to corner of its box. */
export const LineBox = z.object({
  kind: z.literal('line'),
  ...box,
  stroke,
  /** From the lower left corner to the upper right one. */
  rising: z.boolean().optional(),
});

export const ShapeBox = z.object({
  kind: z.literal('shape'),
  ...box,
  form: z.enum(['rectangle', 'ellipse']),
  fill: Colour.optional(),
  stroke: stroke.optional(),
  /** Of a rectangle's corners, in millimetres. */
  radius: z.number().min(0).max(200).optional(),
});

export const OrnamentBox = z.object({ kind: z.literal('ornament'), ...box, ornament: Ornament });

/** A line to sign on, with a sign-off of the letterhead upon and below it. */
export const SignOffBox = z.object({
  kind: z.literal('signOff'),
  ...box,
  signOffId: Identity,
  align: z.enum(['left', 'center', 'right']),
  rule: z.boolean(),
  /** Whether name and role stand below; they do where nothing is said. A form has words of its own there. */
  words: z.boolean().optional(),
});

/** The letterhead as it stands on letters, or its crest or name alone. */
export const LetterheadBox = z.object({
  kind: z.literal('letterhead'),
  ...box,
  show: z.enum(['whole', 'crest', 'name']),
  /** Where the crest or the name stands in its box; in the middle where nothing is said. */
  align: z.enum(['left', 'center', 'right']).optional(),
});

/** A mark, as forms want them in their squares. It stands under a condition like every box. */
export const TickBox = z.object({
  kind: z.literal('tick'),
  ...box,
  mark: z.enum(['cross', 'check', 'dot', 'ring', 'bar']),
  colour: Colour,
  /** Thickness of its lines in millimetres. */
  weight,
});

/** One letter a cell. */
export const CombBox = z.object({
  kind: z.literal('comb'),
  ...box,
  line: LineText,
  cells: z.number().int().min(1).max(100),
  type: BoxType.optional(),
  /** Which end of the cells is filled first. */
  from: z.enum(['left', 'right']),
  capitals: z.boolean().optional(),
  /** Lines between the cells. */
  ruled: z.boolean().optional(),
});

/** A code that machines read: QR (ISO/IEC 18004), Code 128 (ISO/IEC 15417). */
export const CodeBox = z.object({
  kind: z.literal('code'),
  ...box,
  code: z.enum(['qr', 'code128']),
  line: LineText,
  colour: Colour,
  /** Whether what it says is printed below it, to be read by people. */
  words: z.boolean().optional(),
});

const AnyBox = z
  .discriminatedUnion('kind', [
    TextBox,
    PictureBox,
    OwnPictureBox,
    LineBox,
    ShapeBox,
    OrnamentBox,
    SignOffBox,
    LetterheadBox,
    TickBox,
    CombBox,
    CodeBox,
  ])
  .meta({ id: 'PlacedBox' });
export type PlacedBox = z.infer<typeof AnyBox>;
/** A box at a fixed place of a page. */
export const PlacedBox: z.ZodType<PlacedBox> = AnyBox;
export type BoxKind = PlacedBox['kind'];
export type BoxOf<Kind extends BoxKind> = Extract<PlacedBox, { kind: Kind }>;

/** A page of a placed template, and what lies under its boxes. */
export const PlacedPage = z.object({
  /** Where it is another one than the template's. Millimetres. */
  size: z.object({ width: z.number().min(20).max(2000), height: z.number().min(20).max(2000) }).optional(),
  /** Of the whole page, the bleed too. */
  colour: Colour.optional(),
  /** A picture that covers the whole page, the bleed too. */
  picture: z.object({ asset: z.string().min(1) }).optional(),
  /** A page of a PDF that was brought in, counted from 0, at its own size from the upper left corner. */
  ground: z.object({ asset: z.string().min(1), page: z.number().int().min(0).max(49) }).optional(),
});
export type PlacedPage = z.infer<typeof PlacedPage>;

/** What is worth knowing of a PDF that is the ground of pages. */
export const GroundNotice = z.enum(['scan', 'layers', 'fonts', 'fields']);
export type GroundNotice = z.infer<typeof GroundNotice>;

/** A PDF that can be the ground of pages: its pages in millimetres, and what is worth knowing of it. */
export const GroundAbout = z.object({
  pages: z.array(z.object({ width: z.number(), height: z.number() })),
  notices: z.array(GroundNotice),
  /** Where something is to be filled in, page by page, as far as it can be told. */
  blanks: z.array(z.array(Blank)).optional(),
  /** Whether it is a form whose fields can stay fields. */
  fillable: z.boolean().optional(),
  /** Whether all its fonts are in it: else a paper on it cannot claim to be accessible. */
  embedded: z.boolean(),
});
export type GroundAbout = z.infer<typeof GroundAbout>;

/** Ornaments that one template may have: each is drawn anew with the template. */
const ORNAMENTS_MOST = 60;

/** Pages with boxes, and what may be said of both together. */
const ON_PAGES = {
  pages: z.array(PlacedPage).min(1).max(50),
  /** In the order in which they are read, which is the order in which they lie upon each other. */
  boxes: z.array(PlacedBox).max(500),
  /** Whether the fields of the form below stay fields; else they are part of its pages. */
  fillable: z.boolean().optional(),
};
interface OnPages {
  readonly pages: readonly PlacedPage[];
  readonly boxes: readonly PlacedBox[];
}
const fewOrnaments = ({ boxes }: OnPages): boolean =>
  boxes.filter(({ kind }) => kind === 'ornament').length <= ORNAMENTS_MOST;
const onItsPages = ({ pages, boxes }: OnPages): boolean => boxes.every(({ page }) => page < pages.length);
const TOO_ORNATE = `A certificate holds ${ORNAMENTS_MOST} ornaments at most.`;
const NO_PAGE = 'A box stands on a page that is not there.';

/** Pages with boxes behind the text of a letter. Fields, parts and language are the letter's. */
const AnyBehind = z
  .object({ page: TemplateBase.shape.page, font: TemplateBase.shape.font, ...ON_PAGES })
  .refine(fewOrnaments, TOO_ORNATE)
  .refine(onItsPages, NO_PAGE);
export type Behind = z.infer<typeof AnyBehind>;
export const Behind: z.ZodType<Behind> = AnyBehind;

/** A certificate: boxes at fixed places of its pages. */
export const Placed = z
  .object({
    kind: z.literal('placed'),
    ...TemplateBase.shape,
    ...ON_PAGES,
    /** For the print shop: ground beyond the edge, to be cut off, and marks where to cut. */
    bleed: z
      .object({
        /** Millimetres on every side. */
        width: z.number().min(0).max(20),
        marks: z.boolean(),
      })
      .optional(),
  })
  .refine(fewTests, TOO_MANY)
  .refine(fewOrnaments, TOO_ORNATE)
  .refine(onItsPages, NO_PAGE)
  .meta({ id: 'Placed', description: 'A template of boxes at fixed places' });
export type Placed = z.infer<typeof Placed>;

/** How large a page is, in millimetres. */
export const sizeOfPage = (
  { page, pages }: Pick<Placed, 'page' | 'pages'>,
  n: number,
): Pick<PageSetup, 'width' | 'height'> => {
  const { width, height } = pages[n]?.size ?? page;
  return { width, height };
};

/** A page in landscape with nothing on it. */
export const emptyPlaced = (name: string): Placed => ({
  kind: 'placed',
  name,
  language: 'en-GB',
  page: {
    width: PAPER_SIZES.A4.height,
    height: PAPER_SIZES.A4.width,
    margins: { top: 20, right: 20, bottom: 20, left: 20 },
  },
  font: { family: 'EB Garamond', size: 14 },
  fields: [],
  pages: [{}],
  boxes: [],
});
