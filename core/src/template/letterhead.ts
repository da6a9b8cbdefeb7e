import { z } from 'zod';
import { Identity } from '../column/index.js';
import { blocksOf, Colour } from '../text/index.js';
import type { Template } from './template.js';
import { PAPER_FONTS } from './template-base.js';
import { boxesOf, textsOf } from './parts.js';

const family = z.enum(PAPER_FONTS);
const line = z.string().max(120);

/** A picture of the school's: which, and how large in millimetres. */
const schoolPicture = { asset: Identity };

/** Somebody who signs papers. */
export const SignOff = z.object({
  id: Identity,
  name: z.string().min(1, 'Say who signs.').max(120),
  /** Such as “Head of Year 8”. */
  role: z.string().max(200),
  /** A scanned signature; its height in millimetres. Where there is none the name is set in `family`. */
  picture: z.object({ ...schoolPicture, height: z.number().min(4).max(60) }).nullable(),
  family,
});
export type SignOff = z.infer<typeof SignOff>;

/** How the crest, the name and the address stand: in the middle, the crest beside them, or the address at the other side. */
export const LetterheadLayout = z.enum(['centred', 'beside', 'apart']);
export type LetterheadLayout = z.infer<typeof LetterheadLayout>;

/** How a school's papers look, for all its letters. */
export const Letterhead = z
  .object({
    layout: LetterheadLayout,
    crest: z
      .object({
        ...schoolPicture,
        /** Height in millimetres. */
        height: z.number().min(5).max(80),
        alt: z.string().min(1, 'Say in words what the crest shows.').max(300),
      })
      .nullable(),
    name: z.object({ text: line, family, size: z.number().min(6).max(60), colour: Colour }),
    /** Address, telephone and the like. */
    lines: z.array(line).max(6),
    rule: z.enum(['none', 'thin', 'double']),
    ruleColour: Colour,
    /** Small, at the foot of the first page. */
    foot: z.array(line).max(3),
    /** Whether the name stands small at the head of the pages after the first. */
    later: z.boolean(),
    /** Millimetres from the upper edge that pre-printed paper needs free. */
    room: z.number().min(0).max(200),
    /** The house's typefaces and colours, for letters that take them. */
    looks: z.object({ family, headings: family, headingColour: Colour }),
    /** The house's own colours, to be chosen in texts. */
    colours: z.array(z.object({ name: z.string().min(1).max(40), value: Colour })).max(8),
    signOffs: z.array(SignOff).max(30),
  })
  .meta({ id: 'Letterhead', description: "How a school's papers look" });
export type Letterhead = z.infer<typeof Letterhead>;

/** What a school begins with. */
export const emptyLetterhead = (school: string): Letterhead => ({
  layout: 'centred',
  crest: null,
  name: { text: school.slice(0, 120), family: 'Source Serif 4', size: 20, colour: '#22303C' },
  lines: [],
  rule: 'thin',
  ruleColour: '#55636E',
  foot: [],
  later: true,
  room: 45,
  looks: { family: 'Source Serif 4', headings: 'Source Serif 4', headingColour: '#22303C' },
  colours: [],
  signOffs: [],
});

/** What a template takes from the letterhead, and nothing else of it: another sign-off changes no paper. */
export interface Dress {
  /** Printed, or its room left free; null where the letter has none. */
  readonly head:
    ({ readonly print: 'printed' | 'room' } & Omit<Letterhead, 'looks' | 'colours' | 'signOffs'>) | null;
  readonly signOffs: readonly SignOff[];
}

/** A template with what it takes from the school's letterhead. */
export type DressedTemplate = Template & { readonly dress?: Dress };

/** Identities of the sign-offs that stand in a template, each once. */
export const signOffsOf = (template: Template): string[] => [
  ...new Set([
    ...textsOf(template).flatMap((text) =>
      [...blocksOf(text)].flatMap((block) => (block.type === 'signOff' ? [block.attrs.signOffId] : [])),
    ),
    ...boxesOf(template).flatMap((box) => (box.kind === 'signOff' ? [box.signOffId] : [])),
  ]),
];

/** Whether the letterhead itself is printed, or its room left free; on pages with boxes where a box shows it. */
function headOf(template: Template): 'printed' | 'room' | 'none' {
  const print = template.kind === 'letter' ? (template.letterhead?.print ?? 'none') : 'none';
  if (print !== 'none') return print;
  return boxesOf(template).some(({ kind }) => kind === 'letterhead') ? 'printed' : 'none';
}

/**
 * A template with what it takes from the school's letterhead. One that takes nothing stays the same, and so do its papers
 * whatever becomes of the letterhead.
 */
export function dressed<T extends Template>(
  template: T,
  letterhead: Letterhead | null,
): T & { readonly dress?: Dress } {
  const use = template.letterhead;
  const signing = new Set(signOffsOf(template));
  const print = headOf(template);
  if (!letterhead || (print === 'none' && !use && signing.size === 0)) return template;
  const { looks, colours: _colours, signOffs, ...head } = letterhead;
  const house = use?.looks
    ? {
        font: { ...template.font, family: looks.family },
        headings: { family: looks.headings, colour: looks.headingColour },
      }
    : {};
  return {
    ...template,
    ...house,
    dress: {
      head: print === 'none' ? null : { print, ...head },
      signOffs: signOffs.filter(({ id }) => signing.has(id)),
    },
  };
}

/** The pictures of the school that a dressed template shows. */
export const picturesOfDress = ({ head, signOffs }: Dress): string[] => [
  ...(head?.print === 'printed' && head.crest ? [head.crest.asset] : []),
  ...signOffs.flatMap(({ picture }) => (picture ? [picture.asset] : [])),
];
