import { z } from 'zod';
import { Identity } from '../worked/index.js';
import { Field } from './field.js';
import { FlowText, LineText } from './text.js';

/** Paper sizes in millimetres, portrait: ISO 216 A4; ANSI/ASME Y14.1 A (8.5 × 11 in). */
export const PAPER_SIZES = {
  A4: { width: 210, height: 297 },
  Letter: { width: 215.9, height: 279.4 },
} as const;

export const PaperSize = z.enum(['A4', 'Letter']);
export type PaperSize = z.infer<typeof PaperSize>;

const margin = z.number().min(0).max(100);

/** The sheet of paper. Margins in millimetres. */
export const PageSetup = z.object({
  size: PaperSize,
  margins: z.object({ top: margin, right: margin, bottom: margin, left: margin }),
});
export type PageSetup = z.infer<typeof PageSetup>;

/** The families a letter may be set in; all ship with the application. */
export const PAPER_FONTS = [
  'Source Serif 4',
  'Source Sans 3',
  'EB Garamond',
  'Atkinson Hyperlegible Next',
] as const;

/** A letter: flowing text on a page. */
export const Letter = z
  .object({
    kind: z.literal('letter'),
    name: z.string().min(1).max(200),
    /** BCP 47 language of the text; decides hyphenation. */
    language: z.string().regex(/^[a-z]{2,3}(-[A-Z]{2})?$/, 'A language is written like en or en-GB.'),
    page: PageSetup,
    font: z.object({
      family: z.enum(PAPER_FONTS),
      /** Points. */
      size: z.number().min(6).max(36),
    }),
    fields: z.array(Field).max(500),
    body: FlowText,
  })
  .meta({ id: 'Letter', description: 'A letter template' });
export type Letter = z.infer<typeof Letter>;

/** The email that goes with the papers. */
export const CoverNote = z
  .object({
    /** The column that holds the address, or null while none is chosen. */
    toColumnId: Identity.nullable(),
    fields: z.array(Field).max(500),
    subject: LineText,
    body: FlowText,
  })
  .meta({ id: 'CoverNote', description: 'The email that goes with the papers' });
export type CoverNote = z.infer<typeof CoverNote>;

/** The pattern of a paper's file name, without `.pdf`. A `/` makes a folder. */
export const Filing = z.object({ fields: z.array(Field).max(100), pattern: LineText }).meta({ id: 'Filing' });
export type Filing = z.infer<typeof Filing>;

const paragraph = { type: 'paragraph' as const };

export const emptyLetter = (name: string): Letter => ({
  kind: 'letter',
  name,
  language: 'en-GB',
  page: { size: 'A4', margins: { top: 25, right: 25, bottom: 25, left: 25 } },
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
