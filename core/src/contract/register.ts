import { z } from 'zod';
import { Finding } from '../preflight/index.js';
import { Id, Instant } from './common.js';

export const PaperState = z.enum([
  'waiting',
  'pressed',
  'cleared',
  'held',
  'dispatched',
  'failed',
  'superseded',
  /** Somebody has said that it counts no more. */
  'void',
]);
export type PaperState = z.infer<typeof PaperState>;
export const MessageState = z.enum(['queued', 'sending', 'sent', 'deferred', 'refused', 'unconfirmed']);
export type MessageState = z.infer<typeof MessageState>;

export const MessageLine = z.object({
  id: Id,
  to: z.string(),
  /** How many messages have had the paper. */
  count: z.number().int(),
  state: MessageState,
  /** What the mail server answered, where it did not take the message. */
  answer: z.string().nullable(),
  sentAt: Instant.nullable(),
  /** Of a private link: whether somebody has opened it; null where there is none. */
  opened: z.boolean().nullable(),
});

export const PaperLine = z
  .object({
    id: Id,
    entryId: Id,
    templateId: Id,
    /** Of its entry in the roll when it was planned. */
    position: z.number().int(),
    /** Its order among the papers of its entry. */
    place: z.number().int(),
    learner: z.string(),
    /** As it is printed on it; null where it prints none. */
    number: z.string().nullable(),
    /** The number of the paper whose place it took by being issued again. */
    replacesNumber: z.string().nullable(),
    fileName: z.string(),
    state: PaperState,
    /** Why it failed. */
    reason: z.string().nullable(),
    pages: z.number().int().nullable(),
    bytes: z.number().int().nullable(),
    pressedAt: Instant.nullable(),
    /** Who pressed it. */
    madeBy: z.string().nullable(),
    /** Who cleared or held it last; null where nobody has, or who is gone. */
    judgedBy: z.string().nullable(),
    judgedAt: Instant.nullable(),
    /** Why somebody holds it. */
    note: z.string().nullable(),
    /** What is another one in it than in the cleared paper before it: it is to be cleared again. */
    changed: z.string().nullable(),
    /** True where something in it is another one for this learner alone. */
    excepted: z.boolean(),
    /** True where the template or the learner's data changed since. */
    outOfDate: z.boolean(),
    /** True where a cell of the learner is another one than when it was made. */
    entryChanged: z.boolean(),
    /** Where its file lies beside the register, where it was dropped off. */
    lies: z.string().nullable(),
    message: MessageLine.nullable(),
  })
  .meta({ id: 'PaperLine' });
export type PaperLine = z.infer<typeof PaperLine>;

export const RunState = z.enum(['running', 'finished', 'stopped']);
export const Run = z
  .object({
    id: Id,
    state: RunState,
    total: z.number().int(),
    pressed: z.number().int(),
    failed: z.number().int(),
    startedAt: Instant,
    finishedAt: Instant.nullable(),
  })
  .meta({ id: 'Run' });
export type Run = z.infer<typeof Run>;

/** Papers by what there is of them: nothing yet, one that would come out otherwise now, one that failed. */
export const PressKind = z.enum(['new', 'old', 'failed']);
export type PressKind = z.infer<typeof PressKind>;

/** Without `entryIds`, all entries; without `only`, papers of all kinds. Those that are up to date are not pressed again. */
export const StartRun = z
  .object({ entryIds: z.array(Id).min(1).max(20_000).optional(), only: z.array(PressKind).min(1).optional() })
  .meta({ id: 'StartRun' });
export type AskedPress = z.infer<typeof StartRun>;

/** Papers of one folio that are to be issued again, and why. */
export const IssueAgain = z
  .object({ paperIds: z.array(Id).min(1).max(2000), reason: z.string().trim().min(1, 'Say why.').max(1000) })
  .meta({ id: 'IssueAgain' });

/** A run with what became of it. */
export const RunLine = z
  .object({
    ...Run.shape,
    /** Null where it began by itself, or by somebody who is gone. */
    by: z.string().nullable(),
    /** What was asked for, so that it can be asked for once more; null where that is not known. */
    asked: StartRun.nullable(),
    /** The names of the standing orders that began it; none where a person did. */
    orders: z.array(z.string()),
    /** The templates as they were then, by name and version, with how many papers of each were made. */
    templates: z.array(z.object({ name: z.string(), version: z.number().int(), papers: z.number().int() })),
    letterheadVersion: z.number().int().nullable(),
    /** Papers that failed and were not made since. */
    failures: z.array(z.object({ entryId: Id, learner: z.string(), reason: z.string() })),
  })
  .meta({ id: 'RunLine' });
export type RunLine = z.infer<typeof RunLine>;
export const RunList = z.object({ runs: z.array(RunLine) }).meta({ id: 'RunList' });

/** Papers of some entries to be mailed to the person who asks, and to nobody else. */
export const TryPapers = z
  .object({
    entryIds: z.array(Id).min(1).max(40),
    /** True for the messages as their families would get them; else the papers alone. */
    messages: z.boolean().default(false),
  })
  .meta({ id: 'TryPapers' });
export const Tried = z
  .object({ to: z.string(), papers: z.number().int(), messages: z.number().int() })
  .meta({ id: 'Tried' });
export type Tried = z.infer<typeof Tried>;
export const RunStarted = z
  .object({ run: Run.nullable(), upToDate: z.number().int() })
  .meta({ id: 'RunStarted' });
export type RunStarted = z.infer<typeof RunStarted>;

export const DispatchProgress = z.object({
  total: z.number().int(),
  sent: z.number().int(),
  waiting: z.number().int(),
  refused: z.number().int(),
  unconfirmed: z.number().int(),
  /** Of those waiting, how many are kept back: their paper was held, or their learner left out, since. */
  keptBack: z.number().int(),
  /** Why no mail of this school goes out at all just now, where that is so. */
  fault: z.object({ answer: z.string(), since: Instant, nextAttemptAt: Instant }).nullable(),
});
export type DispatchProgress = z.infer<typeof DispatchProgress>;

export const Register = z
  .object({
    /** To be given the next time, so that only what changed since is told. */
    revision: z.number().int(),
    /** True where these are all papers, and others that are known are not there any more. */
    whole: z.boolean(),
    /** In the order of the roll. */
    papers: z.array(PaperLine),
    run: Run.nullable(),
    dispatch: DispatchProgress,
    /** True while it is being looked which papers are out of date; there is news when that is known. */
    comparing: z.boolean(),
  })
  .meta({ id: 'Register' });
export type Register = z.infer<typeof Register>;
export const RegisterSince = z.object({ since: z.coerce.number().int().nonnegative().optional() });

/** What is worth a look in papers as they would come out, found out in the background. */
export const Checks = z
  .object({
    findings: z.array(Finding),
    /** Papers that differ, and of how many of them it is known what they come to. */
    done: z.number().int(),
    total: z.number().int(),
    /** True while the others are looked at; there is news as more is known. */
    going: z.boolean(),
  })
  .meta({ id: 'Checks' });
export type Checks = z.infer<typeof Checks>;

/** Names a finding with the value that it is about. */
const Mark = z.string().regex(/^[0-9a-f]{32}$/);
/** What people have looked at and found right. */
export const SeenFindings = z
  .object({ seen: z.array(z.object({ mark: Mark, by: z.string().nullable(), at: Instant })) })
  .meta({ id: 'SeenFindings' });
export type SeenFindings = z.infer<typeof SeenFindings>;
export const SeeFindings = z
  .object({ marks: z.array(Mark).min(1).max(20_000), right: z.boolean() })
  .meta({ id: 'SeeFindings' });

export const HoldPapers = z
  .object({
    paperIds: z.array(Id).min(1).max(50_000),
    hold: z.boolean(),
    /** Why, where they are held. */
    note: z.string().trim().max(1000).optional(),
  })
  .meta({ id: 'HoldPapers' });
export const VoidPapers = z
  .object({
    paperIds: z.array(Id).min(1).max(50_000),
    reason: z.string().trim().min(1, 'Say why, so that others know.').max(1000),
  })
  .meta({ id: 'VoidPapers' });

/** All that is known of a paper. */
export const PaperHistory = z
  .object({
    /** What became of it, in the order of time. */
    steps: z.array(
      z.object({
        kind: z.enum([
          'pressed',
          'cleared',
          'held',
          'voided',
          'queued',
          'sent',
          'refused',
          'unconfirmed',
          'superseded',
          'replaced',
          /** A private link was opened for the first time, or somebody withdrew it. */
          'opened',
          'link-withdrawn',
        ]),
        at: Instant,
        by: z.string().nullable(),
        /** Why, to whom, or what was answered. */
        note: z.string().nullable(),
      }),
    ),
    /** The private links that lead to it. */
    links: z.array(
      z.object({
        messageId: Id,
        to: z.string(),
        /** The last day on which it works, ISO 8601. */
        ends: z.string(),
        /** `closed`: there were too many wrong answers. */
        state: z.enum(['works', 'ended', 'withdrawn', 'closed']),
        opens: z.number().int(),
        lastOpenedAt: Instant.nullable(),
        asks: z.string().nullable(),
      }),
    ),
    template: z.object({ name: z.string(), version: z.number().int() }),
    letterheadVersion: z.number().int().nullable(),
    /** Which one it is of this learner's papers of this letter, counted from 1; null for one that was never made. */
    version: z.number().int().nullable(),
    /** What it prints. */
    values: z.array(z.object({ name: z.string(), text: z.string() })),
  })
  .meta({ id: 'PaperHistory' });
export type PaperHistory = z.infer<typeof PaperHistory>;
export const RegisterFile = z.object({ kind: z.enum(['csv', 'xlsx']) });

/** What was done, and what was not. */
export const Judged = z
  .object({
    done: z.number().int(),
    /** Papers that one pressed oneself, where somebody else has to clear them. */
    own: z.number().int(),
    /** Papers that were superseded, sent, or so already. */
    passedOver: z.number().int(),
  })
  .meta({ id: 'Judged' });
export type Judged = z.infer<typeof Judged>;

export const PlannedMessage = z
  .object({
    /** The name of its cover note, where there are several. */
    note: z.string().optional(),
    learners: z.array(z.string()),
    /** Addresses. */
    to: z.array(z.string()),
    cc: z.array(z.string()),
    bcc: z.array(z.string()),
    papers: z.number().int(),
  })
  .meta({ id: 'PlannedMessage' });
export type PlannedMessage = z.infer<typeof PlannedMessage>;

/** Who would get mail, before anything leaves. */
export const DispatchPlan = z
  .object({
    /** A mark of exactly this plan; dispatch asks for it, so that nobody confirms one plan and sends another. */
    planId: z.string(),
    /** The messages, each with all whom it is about and all to whom it goes. */
    messages: z.array(PlannedMessage),
    /** Those to families that already got something. */
    messagesAgain: z.array(PlannedMessage),
    /** Those whose message was refused, and whose address is another one since. */
    messagesCorrected: z.array(PlannedMessage),
    send: z.array(z.object({ paperId: Id, learner: z.string(), to: z.string(), fileName: z.string() })),
    /** Learners that already got this paper or an earlier version of it. */
    again: z.array(z.object({ paperId: Id, learner: z.string(), to: z.string() })),
    held: z.number().int(),
    /** Papers that the school wants cleared before they leave. */
    notCleared: z.number().int(),
    noAddress: z.array(z.object({ learner: z.string(), reason: z.string() })),
    outOfDate: z.number().int(),
    blocked: z.array(z.string()),
  })
  .meta({ id: 'DispatchPlan' });
export type DispatchPlan = z.infer<typeof DispatchPlan>;
export const SendPapersAgain = z
  .object({
    paperIds: z.array(Id).min(1).max(200),
    /** One address; those of the roll as it is now where nothing is said. */
    to: z.string().trim().min(1).max(320).optional(),
    /** The cover note that goes along; the first of those that go to them where nothing is said. */
    noteId: Id.optional(),
    /** How many messages have had the papers, as the person was shown: so that a second click sends nothing. */
    seen: z.number().int().min(0),
  })
  .meta({ id: 'SendPapersAgain' });
export type SendPapersAgain = z.infer<typeof SendPapersAgain>;
/** Who shall get a message once more: all that were refused, those who have not opened their private link, or all who had one. */
export const AskAgain = z.object({
  whom: z.enum(['refused', 'unopened', 'sent']),
  /** The cover note that goes along; the one that went along before where nothing is said. */
  noteId: Id.optional(),
});
export type AskAgain = z.infer<typeof AskAgain>;

/** Who would get a message once more. */
export const AgainPlan = z
  .object({
    /** A mark of exactly this plan. */
    planId: z.string(),
    messages: z.array(
      PlannedMessage.extend({
        /** How many messages those whom it is about have had, and when the last one left. */
        before: z.number().int(),
        last: Instant.nullable(),
      }),
    ),
    /** Who is meant and gets none, and why. */
    passed: z.array(z.object({ learner: z.string(), reason: z.string() })),
  })
  .meta({ id: 'AgainPlan' });
export type AgainPlan = z.infer<typeof AgainPlan>;
export const SendManyAgain = AskAgain.extend({ planId: z.string() }).meta({ id: 'SendManyAgain' });
export type SendManyAgain = z.infer<typeof SendManyAgain>;

/** What is to become of the private link of a message. */
export const ChangeLink = z
  .discriminatedUnion('do', [
    z.object({ do: z.enum(['withdraw', 'allow']) }),
    /** Works up to the end of a day, ISO 8601. */
    z.object({ do: z.literal('lengthen'), ends: z.iso.date() }),
  ])
  .meta({ id: 'ChangeLink' });
export type ChangeLink = z.infer<typeof ChangeLink>;

/** A password that opens papers, of at most 127 bytes (ISO 32000-2, 7.6.4.3.3). */
export const SealPassword = z
  .object({ word: z.string().trim().min(4, 'A password has at least four letters.').max(127) })
  .meta({ id: 'SealPassword' });
export const SealedPassword = z.object({ sealed: z.string() }).meta({ id: 'SealedPassword' });
export const Dispatched = z.object({ queued: z.number().int() }).meta({ id: 'Dispatched' });
