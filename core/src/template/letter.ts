import { z } from 'zod';
import { Identity } from '../column/index.js';
import { FlowText, LineText } from '../text/index.js';
import { Field } from './field.js';
import { PAPER_SIZES } from './page-setup.js';
import { Behind } from './placed.js';
import { fewTests, TemplateBase, TOO_MANY } from './template-base.js';

/** A letter: flowing text on a page. */
export const Letter = z
  .object({ kind: z.literal('letter'), ...TemplateBase.shape, body: FlowText, behind: Behind.optional() })
  .refine(fewTests, TOO_MANY)
  .meta({ id: 'Letter', description: 'A letter template' });
export type Letter = z.infer<typeof Letter>;

/** The pattern of the numbers of papers. */
export const PaperNumbers = z.object({
  before: z.string().max(40),
  digits: z.number().int().min(1).max(10),
  after: z.string().max(40),
  /** The first one, where there are none of this pattern yet. */
  from: z.number().int().min(1).max(999_999_999),
});
export type PaperNumbers = z.infer<typeof PaperNumbers>;

export const PLAIN_NUMBERS: PaperNumbers = { before: '', digits: 4, after: '', from: 1 };

/** The pattern of a paper's file name, without `.pdf`. A `/` makes a folder. */
export const Filing = z
  .object({
    fields: z.array(Field).max(100),
    pattern: LineText,
    /** The column that tells two papers of one name apart, such as the class; a number where nothing is said. */
    apart: Identity.nullable().optional(),
    /** How papers are numbered that print a number. */
    numbers: PaperNumbers.optional(),
  })
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

export const emptyFiling = (): Filing => ({ fields: [], pattern: [] });
