import { z } from 'zod';
import { sizeOfAll } from '../condition/index.js';
import { Colour, LineText } from '../text/index.js';
import { conditionsOf, Field, TextPart } from './field.js';
import { PageSetup } from './page-setup.js';
import { Variant } from './variants.js';

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
  'Cormorant Garamond',
  'Pinyon Script',
] as const;

/** Those that look like handwriting, for signatures. */
export const SCRIPT_FONTS = ['Dancing Script', 'Great Vibes', 'Pinyon Script'] as const;

/**
 * What a file of a paper keeps to: PDF/UA-1 (ISO 14289-1), which readers for the blind understand, or one of the archive
 * forms PDF/A-2b and PDF/A-3b (ISO 19005-2 and 3), which can still be shown in decades. All are tagged.
 */
export const FileStandard = z.enum(['ua-1', 'a-2b', 'a-3b']);
export type FileStandard = z.infer<typeof FileStandard>;

/** Tests of cells in all conditions of a writing together: each is asked for every entry. */
const TESTS_MOST = 300;

export const fewTests = ({
  fields,
  parts = [],
}: {
  fields: readonly Field[];
  parts?: readonly TextPart[] | undefined;
}): boolean => sizeOfAll([...parts.map((part) => part.if), ...fields.flatMap(conditionsOf)]) <= TESTS_MOST;
export const TOO_MANY = `All conditions together may have ${TESTS_MOST} tests. Work some of them out in a column of their own.`;

/** What stands at the head or the foot of the pages. */
export const PageLine = z.object({
  left: LineText,
  right: LineText,
  /** The first page has none. */
  later: z.boolean(),
});
export type PageLine = z.infer<typeof PageLine>;

export const family = z.enum(PAPER_FONTS);

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
export const TemplateBase = z.object({
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
