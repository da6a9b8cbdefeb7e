import { z } from 'zod';
import { DecimalText, Identity } from '../column/index.js';
import { Condition, sizeOfAll } from '../condition/index.js';
import { columnIdsOf } from './given.js';
import { FORM_LIMITS } from './limits.js';
import { LanguageTag, ShortWords, Words } from './words.js';

/** A number in plain decimal notation. */
const Decimal = z.string().regex(/^-?\d{1,15}(\.\d{1,9})?$/, 'This is no number.');
const Day = z.iso.date();
const Time = z.string().regex(/^([01]\d|2[0-3]):[0-5]\d$/, 'A time is hours and minutes: 15:30.');
const Length = z.number().int().min(0).max(FORM_LIMITS.text);

/** One of the answers that can be picked. Its identity stays when its words change. */
export const Choice = z.object({ id: Identity, label: ShortWords });
export type Choice = z.infer<typeof Choice>;

/** What a text has to be like, in words: made of such signs alone, or with such words at its beginning, at its end or in it. */
export const TextRule = z.discriminatedUnion('is', [
  z.object({
    is: z.literal('only'),
    of: z.enum(['digits', 'letters', 'letters and digits', 'capitals and digits']),
  }),
  z.object({
    is: z.enum(['begins with', 'ends with', 'contains']),
    text: z.string().min(1).max(100),
  }),
]);
export type TextRule = z.infer<typeof TextRule>;

/** How a question of a quiz is marked; it becomes a question of a marking key (`keyOfForm`). Whoever answers never gets it. */
export const Mark = z.object({
  points: DecimalText.refine((text) => Number(text) > 0, 'A question gives more than no points.'),
  /** Identities of right choices; else what is right, in words or as a number. */
  right: z.array(z.string().max(2000)).max(60),
});
export type Mark = z.infer<typeof Mark>;

const common = {
  /** Identity of the item, and of the column in which its answer stands. */
  id: Identity,
  /** The column that the answers go into, where it is one that the roll had before. */
  columnId: Identity.optional(),
  /** It is asked, or stands there, under this condition on the answers before it. */
  shownIf: Condition.optional(),
};
const asked = {
  ...common,
  label: ShortWords,
  help: Words.optional(),
  required: z.boolean().default(false),
  /** The name under which a link brings the answer along. */
  prefill: z
    .string()
    .regex(/^[a-z][a-z0-9-]{0,39}$/, 'Small letters, digits and hyphens, a letter first.')
    .optional(),
};
const marked = { mark: Mark.optional() };
const text = {
  ...asked,
  least: Length.optional(),
  most: Length.min(1).optional(),
  rule: TextRule.optional(),
  /** What stands there to begin with. */
  initial: z.string().max(2000).optional(),
};
const choosing = {
  ...asked,
  ...marked,
  choices: z.array(Choice).max(FORM_LIMITS.choices),
  /** People can write something else instead. */
  other: z.boolean().default(false),
};

/** One thing in a form: a question, or what stands between questions. */
export const FormItem = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('short'), ...text, ...marked }),
  z.object({ kind: z.literal('long'), ...text }),
  z.object({
    kind: z.literal('number'),
    ...asked,
    ...marked,
    least: Decimal.optional(),
    most: Decimal.optional(),
    whole: z.boolean().default(false),
    unit: ShortWords.optional(),
    initial: Decimal.optional(),
  }),
  z.object({
    kind: z.literal('date'),
    ...asked,
    /** Days, ISO 8601. */
    first: Day.optional(),
    last: Day.optional(),
    withTime: z.boolean().default(false),
  }),
  z.object({ kind: z.literal('time'), ...asked, first: Time.optional(), last: Time.optional() }),
  /** One of several. */
  z.object({ kind: z.literal('one'), ...choosing, look: z.enum(['list', 'drop-down']).default('list') }),
  /** Any number of several. */
  z.object({
    kind: z.literal('several'),
    ...choosing,
    least: z.number().int().min(0).max(FORM_LIMITS.choices).optional(),
    most: z.number().int().min(1).max(FORM_LIMITS.choices).optional(),
  }),
  /** Rows that are answered alike; each is a column. */
  z.object({
    kind: z.literal('grid'),
    ...asked,
    rows: z.array(z.object({ id: Identity, label: ShortWords })).max(FORM_LIMITS.rows),
    choices: z.array(Choice).max(20),
    several: z.boolean().default(false),
  }),
  z.object({
    kind: z.literal('scale'),
    ...asked,
    from: z.number().int().min(0).max(1),
    to: z.number().int().min(2).max(10),
    low: ShortWords.optional(),
    high: ShortWords.optional(),
  }),
  z.object({ kind: z.literal('email'), ...asked }),
  z.object({ kind: z.literal('phone'), ...asked }),
  /** A name in two parts; each is a column. */
  z.object({ kind: z.literal('name'), ...asked, givenId: Identity, familyId: Identity }),
  z.object({
    kind: z.literal('file'),
    ...asked,
    takes: z.enum(['pictures', 'pdf', 'papers']),
    most: z.number().int().min(1).max(FORM_LIMITS.files).default(1),
    megabytes: z.number().int().min(1).max(FORM_LIMITS.megabytes).default(10),
  }),
  /** A box that is ticked to agree. */
  z.object({ kind: z.literal('consent'), ...asked }),
  /** Drawn by finger, pen or mouse. */
  z.object({ kind: z.literal('signature'), ...asked }),
  /** A value that a link brings along, and that nobody is asked for. */
  z.object({
    kind: z.literal('hidden'),
    ...common,
    name: z.string().max(200),
    prefill: asked.prefill.unwrap(),
    initial: z.string().max(2000).optional(),
  }),
  z.object({ kind: z.literal('section'), ...common, title: ShortWords, words: Words.optional() }),
  /** What follows stands on a page of its own. Its condition says whether that page comes at all. */
  z.object({ kind: z.literal('page'), ...common, title: ShortWords.optional() }),
  z.object({ kind: z.literal('words'), ...common, words: Words }),
  z.object({ kind: z.literal('picture'), ...common, assetId: Identity.nullable(), alt: ShortWords }),
]);
export type FormItem = z.infer<typeof FormItem>;
export type ItemKind = FormItem['kind'];

/** Kinds that people answer. */
export const ASKED_KINDS = [
  'short',
  'long',
  'number',
  'date',
  'time',
  'one',
  'several',
  'grid',
  'scale',
  'email',
  'phone',
  'name',
  'file',
  'consent',
  'signature',
] as const satisfies readonly ItemKind[];
/** Questions that can have a right answer. */
export type MarkedItem = Extract<FormItem, { mark?: Mark | undefined }>;
export type AskedItem = Extract<FormItem, { kind: (typeof ASKED_KINDS)[number] }>;

/** Who answers a form, when and how often. It counts from when the form is published. */
export const FormTerms = z.object({
  /**
   * `anyone` with its link; the learners of the `roll`, each by a link or a code of their own, and the answers stand in their own entries;
   * `staff` who are signed in.
   */
  who: z.enum(['anyone', 'roll', 'staff']).default('anyone'),
  /** Moments, ISO 8601 in UTC. */
  opens: z.iso.datetime().nullable().default(null),
  closes: z.iso.datetime().nullable().default(null),
  /** Answers at the most; null for as many as a form takes. */
  most: z.number().int().min(1).max(FORM_LIMITS.answers).nullable().default(null),
  /** The question whose answer counts once, such as an email address; null where people may answer as often as they like. */
  onceBy: Identity.nullable().default(null),
  /** Whoever answered gets a link with which the answers can be changed, as long as the form is open. */
  mayChange: z.boolean().default(false),
  /** The column of the address that a copy of each answer is mailed to; null where none is. */
  copyTo: Identity.nullable().default(null),
  /** Whoever answered can take their paper along, once it is pressed and may leave. */
  paper: z.boolean().default(false),
  /** The column in which the moment of each answer stands; null where it is not noted there. */
  stampId: Identity.nullable().default(null),
  /** Where people go afterwards in the place of the page's own words; null for these. */
  next: z
    .url({ protocol: /^https?$/, error: 'Write the address as https://…' })
    .max(1000)
    .nullable()
    .default(null),
  /** The form may stand inside a page of another site. */
  embed: z.boolean().default(false),
});
export type FormTerms = z.infer<typeof FormTerms>;

/** A web form of a folio. Its answers are entries of the roll. */
export const Form = z
  .object({
    name: z.string().trim().min(1).max(200),
    /** The first one is the one that all of it is written in. */
    languages: z.array(LanguageTag).min(1).max(FORM_LIMITS.languages),
    title: ShortWords,
    intro: Words.optional(),
    thanks: Words.optional(),
    items: z.array(FormItem).max(FORM_LIMITS.items),
    terms: FormTerms,
  })
  .superRefine(({ items, languages, terms }, context) => {
    if (sizeOfAll(items.flatMap(({ shownIf }) => shownIf ?? [])) > 600)
      context.addIssue({
        code: 'custom',
        message: 'There are too many tests in the conditions of this form.',
      });
    const ids = [...items.flatMap(identitiesOf), ...(terms.stampId === null ? [] : [terms.stampId])];
    if (new Set(ids).size < ids.length)
      context.addIssue({ code: 'custom', message: 'Two parts of a form have one identity.' });
    const columns = items.flatMap(columnIdsOf);
    if (new Set(columns).size < columns.length)
      context.addIssue({ code: 'custom', message: 'Two questions of a form go into one column.' });
    if (new Set(languages).size < languages.length)
      context.addIssue({ code: 'custom', message: 'A form has each language once.' });
  })
  .meta({ id: 'Form', description: 'A web form' });
export type Form = z.infer<typeof Form>;

function identitiesOf(item: FormItem): string[] {
  if (item.kind === 'grid') return [item.id, ...item.rows.map(({ id }) => id)];
  if (item.kind === 'name') return [item.id, item.givenId, item.familyId];
  return [item.id];
}

/** A form that asks nothing yet. */
export const emptyForm = (name: string, language: string): Form => ({
  name,
  languages: [language],
  title: { [language]: name },
  items: [],
  terms: FormTerms.parse({}),
});
