import { Colour, FlowText, LineText } from '../text/index.js';
import { z } from 'zod';
import { Variant } from './variants.js';
import { Identity } from '../column/index.js';
import { sizeOfAll } from '../condition/index.js';
import { conditionsOf, Field, TextPart } from './field.js';

/** Names of sizes of paper, in millimetres, portrait: ISO 216 A4; ANSI/ASME Y14.1 A (8.5 × 11 in). */
export const PAPER_SIZES = {
  A4: { width: 210, height: 297 },
  Letter: { width: 215.9, height: 279.4 },
} as const;

export const PaperSize = z.enum(['A4', 'Letter']);
export type PaperSize = z.infer<typeof PaperSize>;

const margin = z.number().min(0).max(100);
const side = z.number().min(20).max(2000);

/** The sheet of paper, portrait or landscape. All in millimetres. */
export const PageSetup = z.object({
  width: side,
  height: side,
  margins: z.object({ top: margin, right: margin, bottom: margin, left: margin }),
  /** Columns that the text runs in, side by side; one where nothing is said. */
  columns: z.number().int().min(2).max(3).optional(),
});
export type PageSetup = z.infer<typeof PageSetup>;

/** Millimetres between two columns of text. */
export const COLUMN_GAP = 7;

/** How wide the lines of text are, in millimetres. */
export function lineWidth({ width, margins, columns = 1 }: PageSetup): number {
  const room = Math.max(20, width - margins.left - margins.right);
  return Math.max(15, (room - COLUMN_GAP * (columns - 1)) / columns);
}

/** The name of a page's size, upright or lying; null where it has none. */
export function paperSizeOf({ width, height }: Pick<PageSetup, 'width' | 'height'>): PaperSize | null {
  const [short, long] = [Math.min(width, height), Math.max(width, height)];
  const known = PaperSize.options.find(
    (name) => PAPER_SIZES[name].width === short && PAPER_SIZES[name].height === long,
  );
  return known ?? null;
}

/** The families that paper may be set in; all ship with the application. */
export const PAPER_FONTS = [
  'Source Serif 4',
  'Source Sans 3',
  'EB Garamond',
  'Atkinson Hyperlegible Next',
  'Lora',
  'Crimson Pro',
  'Merriweather',
  'Work Sans',
  'Nunito Sans',
  'Playfair Display',
  'Cinzel',
  'Dancing Script',
  'Great Vibes',
] as const;

/** Those that look like handwriting, for signatures. */
export const SCRIPT_FONTS = ['Dancing Script', 'Great Vibes'] as const;

/**
 * What a file of a paper keeps to: PDF/UA-1 (ISO 14289-1), which readers for the blind understand, or one of the archive
 * forms PDF/A-2b and PDF/A-3b (ISO 19005-2 and 3), which can still be shown in decades. All are tagged.
 */
export const FileStandard = z.enum(['ua-1', 'a-2b', 'a-3b']);
export type FileStandard = z.infer<typeof FileStandard>;

/** Tests of cells in all conditions of a writing together: each is asked for every entry. */
const TESTS_MOST = 300;

const fewTests = ({
  fields,
  parts = [],
}: {
  fields: readonly Field[];
  parts?: readonly TextPart[] | undefined;
}): boolean => sizeOfAll([...parts.map((part) => part.if), ...fields.flatMap(conditionsOf)]) <= TESTS_MOST;
const TOO_MANY = `All conditions together may have ${TESTS_MOST} tests. Work some of them out in a column of their own.`;

/** What stands at the head or the foot of the pages. */
export const PageLine = z.object({
  left: LineText,
  right: LineText,
  /** The first page has none. */
  later: z.boolean(),
});
export type PageLine = z.infer<typeof PageLine>;

const family = z.enum(PAPER_FONTS);

/** Kinds of text whose look is said once for a template. */
export const TextStyle = z.enum(['title', 'h1', 'h2', 'h3', 'small', 'quotation', 'signature']);
export type TextStyle = z.infer<typeof TextStyle>;

/** How a kind of text looks, where otherwise than it does by itself. */
export const StyleLook = z.object({
  /** Points. */
  size: z.number().min(5).max(96).optional(),
  colour: Colour.optional(),
});
export type StyleLook = z.infer<typeof StyleLook>;

/** What all templates have. */
const TemplateBase = z.object({
  name: z.string().min(1).max(200),
  /** BCP 47 language of the text; decides hyphenation. */
  language: z.string().regex(/^[a-z]{2,3}(-[A-Z]{2})?$/, 'A language is written like en or en-GB.'),
  page: PageSetup,
  font: z.object({
    family,
    /** Points. */
    size: z.number().min(6).max(36),
  }),
  /** How headings and titles look, where otherwise than the text. */
  headings: z.object({ family: family.optional(), colour: Colour.optional() }).optional(),
  styles: z.partialRecord(TextStyle, StyleLook).optional(),
  /** The type of signatures. */
  signature: family.optional(),
  /** What it takes from the school's letterhead; nothing where nothing is said. */
  letterhead: z
    .object({
      /** At the head of the first page: printed, its room left free for pre-printed paper, or nothing. */
      print: z.enum(['printed', 'room', 'none']),
      /** Typefaces and colours are the house's. */
      looks: z.boolean(),
    })
    .optional(),
  head: PageLine.optional(),
  foot: PageLine.optional(),
  fields: z.array(Field).max(500),
  parts: z.array(TextPart).max(200).optional(),
  /** For whom it stands in for another one; everybody gets it where nothing is said. */
  variant: Variant.optional(),
  /** True for one that no papers are made from just now. */
  off: z.boolean().optional(),
  /** PDF/UA-1 where nothing is said. */
  standard: FileStandard.optional(),
});

/** A letter: flowing text on a page. */
export const Letter = z
  .object({ kind: z.literal('letter'), ...TemplateBase.shape, body: FlowText })
  .refine(fewTests, TOO_MANY)
  .meta({ id: 'Letter', description: 'A letter template' });
export type Letter = z.infer<typeof Letter>;

const place = z.number().min(-2000).max(2000);

/** A box at a fixed place of a page. Millimetres from the page's upper left corner. */
export const PlacedBox = z.object({
  id: Identity,
  /** Which page, from 0. */
  page: z.number().int().min(0).max(19),
  x: place,
  y: place,
  width: side.min(1),
  height: side.min(1),
  body: FlowText,
});
export type PlacedBox = z.infer<typeof PlacedBox>;

/** A placed template: boxes at fixed places, as a certificate has them. */
export const Placed = z
  .object({
    kind: z.literal('placed'),
    ...TemplateBase.shape,
    pages: z.number().int().min(1).max(20),
    boxes: z.array(PlacedBox).max(500),
  })
  .refine(fewTests, TOO_MANY)
  .meta({ id: 'Placed', description: 'A template of boxes at fixed places' });
export type Placed = z.infer<typeof Placed>;

/** What papers are made from. */
export const Template = z.discriminatedUnion('kind', [Letter, Placed]).meta({ id: 'Template' });
export type Template = z.infer<typeof Template>;

/** The email that goes with the papers. */
export const CoverNote = z
  .object({
    /** The column that holds the address, or null while none is chosen. */
    toColumnId: Identity.nullable(),
    fields: z.array(Field).max(500),
    subject: LineText,
    body: FlowText,
    parts: z.array(TextPart).max(200).optional(),
  })
  .refine(fewTests, TOO_MANY)
  .meta({ id: 'CoverNote', description: 'The email that goes with the papers' });
export type CoverNote = z.infer<typeof CoverNote>;

/** The pattern of a paper's file name, without `.pdf`. A `/` makes a folder. */
export const Filing = z
  .object({ fields: z.array(Field).max(100), pattern: LineText })
  .refine(fewTests, TOO_MANY)
  .meta({ id: 'Filing' });
export type Filing = z.infer<typeof Filing>;

const paragraph = { type: 'paragraph' as const };

export const emptyLetter = (name: string): Letter => ({
  kind: 'letter',
  name,
  language: 'en-GB',
  page: { ...PAPER_SIZES.A4, margins: { top: 25, right: 25, bottom: 25, left: 25 } },
  font: { family: 'Source Serif 4', size: 11 },
  fields: [],
  body: { type: 'doc', content: [paragraph] },
});

export const emptyNote = (): CoverNote => ({
  toColumnId: null,
  fields: [],
  subject: [],
  body: { type: 'doc', content: [paragraph] },
});

export const emptyFiling = (): Filing => ({ fields: [], pattern: [] });
