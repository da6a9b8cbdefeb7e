import { z } from 'zod';
import { Identity } from '../column/index.js';
import { FlowText, LineText, picturesOf, withPictures } from '../text/index.js';
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

/** A file that goes along to everybody. */
export const AlongFile = z.strictObject({
  /** Which of the folio's files. */
  asset: Identity,
  name: z.string().min(1).max(200),
  bytes: z.number().int().nonnegative(),
});
export type AlongFile = z.infer<typeof AlongFile>;

/** Files, and bytes of them together, that go along to everybody. */
export const ALONG_MOST = { files: 10, bytes: 10 * 1024 * 1024 } as const;

/** How a day is written as a password: its digits (`04032012`), as ISO 8601 has it, or as it stands in its cell. */
export const PasswordForm = z.enum(['digits', 'iso', 'cell']);
export type PasswordForm = z.infer<typeof PasswordForm>;

/** With what the papers of a message are opened: what a column says for each learner, or one password, which only the server can read. */
export const Lock = z.union([
  z.strictObject({ columnId: Identity, form: PasswordForm.optional() }),
  z.strictObject({ sealed: z.string().min(1).max(2000) }),
]);
export type Lock = z.infer<typeof Lock>;

/** The page that a private link leads to. */
export const PrivateLink = z.strictObject({
  /** For how many days it works. */
  days: z.number().int().min(1).max(400),
  /** The column that says what somebody has to know to see the papers; nothing is asked where nothing is said. */
  askId: Identity.nullable().optional(),
});
export type PrivateLink = z.infer<typeof PrivateLink>;

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
    /** What goes with it in place of its papers: a private link to them, or nothing. */
    along: z.enum(['link', 'nothing']).optional(),
    link: PrivateLink.optional(),
    /** Papers that go along as files, or behind a link, are locked. */
    lock: Lock.optional(),
    files: z
      .array(AlongFile)
      .max(ALONG_MOST.files)
      .refine(
        (files) => files.reduce((sum, { bytes }) => sum + bytes, 0) <= ALONG_MOST.bytes,
        'The files for everybody come to more than 10 MB together.',
      )
      .optional(),
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

/** The columns besides those of addresses that a message cannot go without. */
export const neededColumns = ({ along, link, lock }: CoverNote): string[] => [
  ...(along !== 'nothing' && lock && 'columnId' in lock ? [lock.columnId] : []),
  ...(along === 'link' && link?.askId ? [link.askId] : []),
];

/** The folio's pictures and files that a note brings along, each once. */
export const assetsOfNote = ({ body, files = [] }: CoverNote): string[] => [
  ...new Set([...picturesOf(body).map(({ attrs }) => attrs.asset), ...files.map(({ asset }) => asset)]),
];

/** The note with other pictures and files in their places; one that `assetOf` does not know stays. */
export const withNoteAssets = (
  note: CoverNote,
  assetOf: (asset: string) => string | undefined,
): CoverNote => ({
  ...note,
  body: withPictures(note.body, assetOf),
  ...(note.files
    ? { files: note.files.map((file) => ({ ...file, asset: assetOf(file.asset) ?? file.asset })) }
    : {}),
});
