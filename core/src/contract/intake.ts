import { z } from 'zod';
import { Form, FormTerms, type Given, LanguageTag } from '../form/index.js';
import { Id, Instant } from './common.js';

const given: z.ZodType<Given> = z.record(
  z.string().max(40),
  z.union([
    z.string().max(100_000, 'An answer may have at most 100,000 characters.'),
    z.array(z.string().max(2000, 'A choice may have at most 2,000 characters.')).max(200),
  ]),
);

/** Why a form takes no answers, or that it does. */
export const DoorState = z.enum(['open', 'not yet', 'over', 'full', 'closed']);
export type DoorState = z.infer<typeof DoorState>;

/**
 * What the page of a form shows: as the door, or that it is answered already, wants a code first, is for staff who are signed in, or is
 * about the papers of somebody who has answered.
 */
export const FormPageState = z.enum([...DoorState.options, 'answered', 'code', 'staff', 'paper']);
export type FormPageState = z.infer<typeof FormPageState>;

/** A form as it is published. */
export const FormDoor = z
  .object({
    writingId: Id,
    /** The version that people answer. */
    version: z.number().int(),
    link: z.string(),
    isOpen: z.boolean(),
    state: DoorState,
    terms: FormTerms,
    answers: z.number().int(),
    lastAt: Instant.nullable(),
    publishedAt: Instant,
  })
  .meta({ id: 'FormDoor' });
export type FormDoor = z.infer<typeof FormDoor>;
export const FormDoors = z.object({ doors: z.array(FormDoor) }).meta({ id: 'FormDoors' });

/** Which version people are to answer from now on. */
export const PublishForm = z.object({ version: z.number().int() }).meta({ id: 'PublishForm' });
export const OpenForm = z.object({ isOpen: z.boolean() }).meta({ id: 'OpenForm' });

/** A file that came with an answer. */
export const AnswerUpload = z.object({
  id: Id,
  itemId: z.string(),
  name: z.string(),
  mime: z.string(),
  bytes: z.number().int(),
});
export type AnswerUpload = z.infer<typeof AnswerUpload>;

/**
 * What became of the copy of an answer that is mailed to whoever answered. `passed over`: its address has had too many on one day;
 * `unconfirmed`: it was handed to the mail server, and no answer came.
 */
export const CopyState = z.enum(['owed', 'sending', 'sent', 'refused', 'unconfirmed', 'passed over']);
export type CopyState = z.infer<typeof CopyState>;

/** What is known of an answer beside its cells. */
export const AnswerAbout = z
  .object({
    writingId: Id,
    form: z.string(),
    receivedAt: Instant,
    changedAt: Instant.nullable(),
    language: z.string(),
    version: z.number().int(),
    uploads: z.array(AnswerUpload),
    /** With which whoever answered can change it; null where they may not. */
    editLink: z.string().nullable(),
    /** Null where no copy is mailed. */
    copy: z.object({ state: CopyState, at: Instant, says: z.string().nullable() }).nullable(),
  })
  .meta({ id: 'AnswerAbout' });
export type AnswerAbout = z.infer<typeof AnswerAbout>;
export const AnswersOf = z.object({ answers: z.array(AnswerAbout) }).meta({ id: 'AnswersOf' });
export type AnswersOf = z.infer<typeof AnswersOf>;

/** A form as whoever answers gets it. */
export const OpenedForm = z
  .object({
    school: z.object({
      name: z.string(),
      colour: z.string(),
      crest: z.object({ href: z.string(), alt: z.string() }).nullable(),
    }),
    state: FormPageState,
    /** Whom it is about, where it is one learner’s own. */
    about: z.string().nullable(),
    /** When it opens, or has closed. */
    at: Instant.nullable(),
    version: z.number().int(),
    form: Form.nullable(),
    /** To be handed in with the answers. */
    ticket: z.string(),
    /** What was answered before, where it is to be changed. */
    given: given.optional(),
    /** Names of files that were brought before, by their identities. */
    files: z.record(z.string(), z.string()).optional(),
  })
  .meta({ id: 'OpenedForm' });
export type OpenedForm = z.infer<typeof OpenedForm>;

export const SendAnswer = z
  .object({
    ticket: z.string().max(200),
    nonce: z.string().max(20),
    version: z.number().int(),
    language: LanguageTag,
    given,
  })
  .meta({ id: 'SendAnswer' });
export type SendAnswer = z.infer<typeof SendAnswer>;

/** That an answer is kept. */
export const AnswerKept = z
  .object({
    receivedAt: Instant,
    editLink: z.string().nullable(),
    /** With which whoever answered can take their paper along; null where they cannot. */
    paperLink: z.string().nullable(),
    /** A copy of the answers is mailed. */
    copy: z.boolean(),
  })
  .meta({ id: 'AnswerKept' });
export type AnswerKept = z.infer<typeof AnswerKept>;

/** The papers of whoever answered, as they are now; none while they are not made, or may not leave yet. */
export const OwnPapers = z
  .object({ papers: z.array(z.object({ id: Id, name: z.string(), bytes: z.number().int() })) })
  .meta({ id: 'OwnPapers' });
export type OwnPapers = z.infer<typeof OwnPapers>;

/** A file that was taken. */
export const UploadKept = z.object({ id: Id, name: z.string() }).meta({ id: 'UploadKept' });
export type UploadKept = z.infer<typeof UploadKept>;
