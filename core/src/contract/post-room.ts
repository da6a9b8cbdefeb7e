import { z } from 'zod';
import { MessageState } from './register.js';
import { Id, Instant } from './common.js';

/** How the line to a mail server is secured: from its beginning, by STARTTLS (RFC 3207), or not at all. */
export const MailSecurity = z.enum(['tls', 'starttls', 'none']);
export type MailSecurity = z.infer<typeof MailSecurity>;

const clock = z.string().regex(/^([01]\d|2[0-3]):[0-5]\d$/, 'Write the time as 08:30.');

/** Hours of some days of the week, by the school's clock. */
export const DispatchHours = z
  .object({
    /** ISO 8601: 1 is Monday. */
    days: z.array(z.number().int().min(1).max(7)).min(1).max(7),
    from: clock,
    /** When they end. */
    to: clock,
  })
  .refine(({ from, to }) => from < to, { message: 'The hours end after they begin.' })
  .meta({ id: 'DispatchHours' });
export type DispatchHours = z.infer<typeof DispatchHours>;

const perMinute = z.number().int().min(1).max(600).nullable();
const host = z
  .string()
  .trim()
  .toLowerCase()
  .min(1, 'Say the mail server, such as smtp.school.example.')
  .max(253)
  .regex(/^[\p{L}\p{N}.:[\]-]+$/u, 'Write the name of the mail server alone, such as smtp.school.example.');

const settings = {
  name: z.string().trim().min(1, 'Give it a name.').max(200),
  host,
  port: z.number().int().min(1).max(65_535),
  security: MailSecurity,
  /** Blank where the server asks for none. */
  user: z.string().trim().max(320),
  /** What messages are from. */
  address: z.string().trim().max(320),
  /** Messages a minute at the most; null for as many as it takes. */
  perMinute,
  /** People in 24 hours at the most. */
  perDay: z.number().int().min(1).max(1_000_000).nullable(),
};

/** A mailbox in which reports of mail that came back arrive (IMAP). */
export const ReturnBox = z
  .object({
    host,
    port: z.number().int().min(1).max(65_535),
    security: MailSecurity,
    /** Such as `INBOX`. */
    folder: z.string().trim().min(1, 'Say the folder, such as INBOX.').max(200),
  })
  .meta({ id: 'ReturnBox' });
export type ReturnBox = z.infer<typeof ReturnBox>;

/** What a look into a mailbox was good for. */
export const LookedForReturns = z
  .object({
    /** New messages that were looked at. */
    messages: z.number().int(),
    /** Reports by which a message of the school was marked; that say nothing new; about no message of the school. */
    marked: z.number().int(),
    known: z.number().int(),
    strange: z.number().int(),
  })
  .meta({ id: 'LookedForReturns' });
export type LookedForReturns = z.infer<typeof LookedForReturns>;

export const SaveMailAccount = z
  .object({
    ...settings,
    /** One's own, which one's own messages leave through; else the whole school's. */
    own: z.boolean(),
    /** Stays as it is where nothing is said. */
    password: z.string().max(1000).optional(),
    /** Null for none. The key stays as it is where nothing is said; `new` makes one. */
    dkim: z
      .object({
        domain: z.string().trim().toLowerCase().max(253),
        selector: z.string().trim().toLowerCase().max(63),
        key: z.union([z.literal('new'), z.string().max(10_000)]).optional(),
      })
      .nullable(),
    /** Where mail that comes back is fetched from, as the same user; null for nowhere. Stays as it is where nothing is said. */
    returns: ReturnBox.nullable().optional(),
    /** Of the account that was changed; nothing for a new one. */
    version: z.number().int().optional(),
  })
  .meta({ id: 'SaveMailAccount' });
export type SaveMailAccount = z.infer<typeof SaveMailAccount>;

export const MailFault = z.object({ answer: z.string(), since: Instant, nextAttemptAt: Instant });

export const MailAccount = z
  .object({
    id: Id,
    ...settings,
    /** Whose own it is; null for the whole school's. */
    owner: z.string().nullable(),
    /** Whether one may change it: the school's, and one's own. */
    mine: z.boolean(),
    hasPassword: z.boolean(),
    dkim: z
      .object({
        domain: z.string(),
        selector: z.string(),
        /** The name and the text of the record that the domain has to have (RFC 6376, 3.6.2). */
        record: z.object({ name: z.string(), text: z.string() }),
      })
      .nullable(),
    returns: ReturnBox.extend({
      /** When it was looked into last, and why it could not be read. */
      at: Instant.nullable(),
      fault: z.string().nullable(),
    }).nullable(),
    version: z.number().int(),
    /** Why its mail does not go out just now. */
    fault: MailFault.nullable(),
    waiting: z.number().int(),
    /** People in the last 24 hours, where there is a limit. */
    used: z.number().int(),
    /** When it goes on, where its limit is reached. */
    opensAt: Instant.nullable(),
  })
  .meta({ id: 'MailAccount' });
export type MailAccount = z.infer<typeof MailAccount>;

export const PostRoom = z
  .object({
    /** The account that is on; null for the way that the server knows by itself. */
    accountId: Id.nullable(),
    /** That way: the practice post, or another mail server. */
    builtIn: z.object({
      kind: z.enum(['practice', 'server']),
      host: z.string(),
      address: z.string(),
      fault: MailFault.nullable(),
      waiting: z.number().int(),
    }),
    accounts: z.array(MailAccount),
  })
  .meta({ id: 'PostRoom' });
export type PostRoom = z.infer<typeof PostRoom>;

/** Which account is on from now. `from` is the one that was on as the person saw it. */
export const ChoosePost = z
  .object({ accountId: Id.nullable(), from: Id.nullable() })
  .meta({ id: 'ChoosePost' });

export const TestMailAccount = z
  .object({ /** Also sends a message to oneself. */ send: z.boolean() })
  .meta({ id: 'TestMailAccount' });

export const MailTest = z
  .object({
    /** What was done, one after the other, up to what failed. */
    steps: z.array(z.object({ what: z.string(), ok: z.boolean(), says: z.string() })),
    /** What both sides said, without passwords. */
    lines: z.array(z.string()),
  })
  .meta({ id: 'MailTest' });
export type MailTest = z.infer<typeof MailTest>;

/** What is looked for among the messages of a school. */
export const QueueSought = z.object({
  text: z.string().max(200).optional(),
  folioId: Id.optional(),
  state: z.enum(['waiting', 'sent', 'refused', 'unconfirmed']).optional(),
  /** Behind this one, in an answer before. */
  after: z
    .string()
    .regex(/^\d{4}-\d\d-\d\dT[\d:.]+Z [0-9a-z]{6,40}$/)
    .optional(),
});
export type QueueSought = z.infer<typeof QueueSought>;

export const QueuedMessage = z
  .object({
    id: Id,
    folioId: Id,
    folio: z.string(),
    learners: z.array(z.string()),
    to: z.array(z.string()),
    cc: z.array(z.string()),
    bcc: z.array(z.string()),
    subject: z.string(),
    note: z.string().nullable(),
    state: MessageState,
    answer: z.string().nullable(),
    attempts: z.number().int(),
    papers: z.number().int(),
    /** What it leaves through, by name. */
    through: z.string(),
    queuedAt: Instant,
    sentAt: Instant.nullable(),
    /** When it is tried, where it waits. */
    nextAttemptAt: Instant.nullable(),
  })
  .meta({ id: 'QueuedMessage' });
export type QueuedMessage = z.infer<typeof QueuedMessage>;

export const MailQueue = z
  .object({
    messages: z.array(QueuedMessage),
    /** Behind which the next ones are asked for; null at the end. */
    after: z.string().nullable(),
    /** How many there are, where they are asked for first. */
    count: z.number().int().nullable(),
    more: z.boolean(),
  })
  .meta({ id: 'MailQueue' });
export type MailQueue = z.infer<typeof MailQueue>;

/** Messages of a folio that somebody sent together. */
export const Dispatching = z
  .object({
    id: Id,
    by: z.string().nullable(),
    startedAt: Instant,
    startsAt: Instant,
    hours: DispatchHours.nullable(),
    perMinute,
    through: z.string(),
    total: z.number().int(),
    waiting: z.number().int(),
    sent: z.number().int(),
    stopped: z.object({ at: Instant, by: z.string().nullable() }).nullable(),
    /** When it goes on, where its hours are over or have not begun. */
    opensAt: Instant.nullable(),
  })
  .meta({ id: 'Dispatching' });
export type Dispatching = z.infer<typeof Dispatching>;
export const Dispatchings = z.object({ dispatches: z.array(Dispatching) }).meta({ id: 'Dispatchings' });
export type Dispatchings = z.infer<typeof Dispatchings>;

/** What becomes of a dispatch: it waits, it goes on, or what has not left of it is taken back. */
export const ChangeDispatch = z
  .object({ to: z.enum(['stop', 'go on', 'take back']) })
  .meta({ id: 'ChangeDispatch' });

/** When messages leave, and how fast. */
export const DispatchTiming = z.object({
  /** At once where nothing is said. */
  startsAt: Instant.optional(),
  hours: DispatchHours.optional(),
  perMinute: z.number().int().min(1).max(600).optional(),
});
export type DispatchTiming = z.infer<typeof DispatchTiming>;

export const StartDispatch = DispatchTiming.extend({
  planId: z.string(),
  /** Also send new versions to those who got an earlier one. */
  again: z.boolean().default(false),
  /** Also send what was refused to addresses that were put right since. */
  corrected: z.boolean().default(false),
  /** What they leave through, where it is one's own account; else what is on for the school. */
  accountId: Id.optional(),
}).meta({ id: 'StartDispatch' });
export type StartDispatch = z.infer<typeof StartDispatch>;

/** What reports of messages that came back were good for. */
export const TakenReturns = z
  .object({
    /** Messages in the file. */
    messages: z.number().int(),
    /** Reports by which a message of the school was marked. */
    marked: z.number().int(),
    /** Those that say nothing new. */
    known: z.number().int(),
    /** Those about no message of the school. */
    strange: z.number().int(),
  })
  .meta({ id: 'TakenReturns' });
export type TakenReturns = z.infer<typeof TakenReturns>;
