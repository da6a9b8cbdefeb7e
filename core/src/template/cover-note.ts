import { z } from 'zod';
import { Identity } from '../column/index.js';
import { FlowText, LineText } from '../text/index.js';
import { Field, TextPart } from './field.js';
import { fewTests, TOO_MANY } from './template-base.js';
import { Variant } from './variants.js';

/** Who gets a message: whom a column says, or one address for everybody. */
export const Recipient = z.union([
  z.strictObject({
    columnId: Identity,
    /** The column that says what the person is called. */
    nameId: Identity.nullable().optional(),
  }),
  z.strictObject({ address: z.string().max(320) }),
]);
export type Recipient = z.infer<typeof Recipient>;

const recipients = z.array(Recipient).max(10);

/** The email that goes with the papers. */
export const CoverNote = z
  .object({
    /** What people call it among several. */
    name: z.string().max(200).optional(),
    to: recipients,
    cc: recipients.optional(),
    bcc: recipients.optional(),
    /** Where answers go; to the sender where nothing is said. */
    replyTo: Recipient.optional(),
    /** What the sender is called; as the school is where nothing is said. */
    from: z.string().max(200).optional(),
    /** Each address of a learner gets a message of its own, instead of all of them one. */
    apart: z.boolean().optional(),
    /** Learners who are written to at the same addresses share a message. */
    family: z.boolean().optional(),
    /**
     * Whom it is for of those who get papers: everybody where nothing is said; those for whom a rule of the sorting names it; or nobody
     * by itself, as a reminder that somebody sends.
     */
    goes: z.enum(['ruled', 'asked']).optional(),
    /** The note that the others get, where this one stands in for it. */
    variant: Variant.optional(),
    /** BCP 47; that of the papers where nothing is said. */
    language: z.string().max(35).optional(),
    fields: z.array(Field).max(500),
    subject: LineText,
    /** What mail programs show beside the subject. */
    preview: LineText.optional(),
    body: FlowText,
    parts: z.array(TextPart).max(200).optional(),
  })
  .refine(fewTests, TOO_MANY)
  .meta({ id: 'CoverNote', description: 'The email that goes with the papers' });
export type CoverNote = z.infer<typeof CoverNote>;

export const emptyNote = (): CoverNote => ({
  to: [],
  fields: [],
  subject: [],
  body: { type: 'doc', content: [{ type: 'paragraph' }] },
});

/** What a note is called; `name` is what its writing was called when it was made. */
export const noteName = ({ name, content }: { readonly name: string; readonly content: CoverNote }): string =>
  content.name ?? name;

/** Every column that a note is sent to, to copies of it or with answers. */
export const addressColumns = ({ to, cc = [], bcc = [], replyTo }: CoverNote): string[] => [
  ...new Set(
    [...to, ...cc, ...bcc, ...(replyTo ? [replyTo] : [])].flatMap((one) =>
      'columnId' in one ? [one.columnId] : [],
    ),
  ),
];
