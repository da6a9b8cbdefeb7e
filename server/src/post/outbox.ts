import type { Logger } from 'pino';
import { In, type DataSource } from 'typeorm';
import type { FolioEvents } from '../folio-events.js';
import type { Leaving } from '../ground/leaving.js';
import { conflict, notFound } from '../refusal.js';
import { isDatabaseAway } from '../store/database-away.js';
import { School } from '../store/entities/people.js';
import { EnclosureRow, MailAccountRow, MessageRow, PaperRow } from '../store/entities/register.js';
import type { LaidOn } from '../store/laid-on.js';
import { changeMessages, putBackMessages, settleExpired, type Due } from './message-claims.js';
import { recordOutcomes, type Outcome } from './record-outcomes.js';
import { CONNECTIONS, Sending } from './sending.js';
import { MailTransport, type Delivery, type OutgoingMessage } from './transport.js';

/** Milliseconds between two tries to write down what is known while the database is away. */
const RECORD_AGAIN = 500;

export interface OutboxOptions {
  /** The mail server for a school's messages. */
  readonly urlFor: (schoolId: string) => string;
  readonly from: string;
  /** Milliseconds after which messages that a server took and says nothing about any more are unconfirmed. */
  readonly term: number;
  /** Milliseconds between two looks for due messages. */
  readonly poll: number;
  readonly leaving: Leaving;
}

/**
 * Hands queued messages to the mail server, each once. A message is taken by a claim that is committed before a byte of it
 * leaves, and never taken a second time: if the server dies then, nobody knows whether it arrived; it becomes unconfirmed
 * and waits for a person. Any number of servers may send side by side.
 */
export class Outbox {
  private readonly transports = new Map<string, { transport: MailTransport; school: string }>();
  /** Schools whose account was known not to work when sending began. */
  private faulty: ReadonlySet<string> = new Set();
  private timer: NodeJS.Timeout | null = null;
  private working: Promise<void> | null = null;
  private wanted = false;
  private closed = false;

  constructor(
    private readonly database: DataSource,
    private readonly options: OutboxOptions,
    private readonly events: FolioEvents,
    private readonly log: Logger,
  ) {}

  /** Starts to work: settles what a crash left, then sends what is due, now and whenever it becomes due. */
  async open(): Promise<void> {
    this.timer = setInterval(() => this.wake(), this.options.poll);
    this.timer.unref();
    this.wake();
    await this.working;
  }

  /** Looks for due messages now. */
  wake(): void {
    this.wanted = true;
    if (this.working || this.closed) return;
    this.working = this.work()
      .catch((error: unknown) => {
        if (!isDatabaseAway(error)) this.log.error({ err: error }, 'the outbox stumbled and will try again');
      })
      .finally(() => {
        this.working = null;
        if (this.wanted && !this.closed) this.wake();
      });
  }

  /** Resolves when nothing is due any more. */
  async idle(): Promise<void> {
    while (this.working) await this.working;
  }

  /** Waits for the messages at hand; the rest stays queued. */
  async close(): Promise<void> {
    this.closed = true;
    this.wanted = false;
    if (this.timer) clearInterval(this.timer);
    await this.working;
    for (const { transport } of this.transports.values()) transport.close();
  }

  /** Sends a message to one's own people at once, past the queue. It is handed over once, whatever comes of it. */
  async sendOwn(
    schoolId: string,
    message: Omit<OutgoingMessage, 'from' | 'date'>,
    from: string | null = null,
  ): Promise<Delivery> {
    const { transport, school } = await this.transportFor(schoolId);
    return transport.deliver({
      ...message,
      from: { name: from ?? school, address: this.options.from },
      date: new Date(),
    });
  }

  /** Queues a refused, deferred or unconfirmed message again, by a person's word. */
  async again(schoolId: string, folioId: string, messageId: string): Promise<void> {
    await changeMessages(this.database, [messageId], async (manager) => {
      const message = await manager.findOneBy(MessageRow, { id: messageId, schoolId, folioId });
      if (!message) throw notFound('This message');
      const enclosed = await manager.findBy(EnclosureRow, { messageId, schoolId });
      if (enclosed.some(({ settledBy }) => settledBy !== null))
        throw conflict(
          'sent-since',
          'A paper of this message was sent in another one since. Send the others by themselves, with “Send again …”.',
        );
      const papers = await manager.find(PaperRow, {
        select: { id: true, state: true },
        where: { id: In(enclosed.map(({ paperId }) => paperId)), schoolId },
      });
      if (papers.some(({ state }) => state === 'held'))
        throw conflict('paper-held', 'The paper of this message is held. Clear it first, then send it.');
      // Another message may have taken the paper along already.
      const stand = papers.filter(({ state }) => ['pressed', 'cleared', 'dispatched'].includes(state));
      if (stand.length === 0 || stand.length < enclosed.length)
        throw conflict(
          'paper-replaced',
          'There is a newer paper for this learner. Send that one instead, from the list of who gets mail.',
        );
      const changed = await manager.update(
        MessageRow,
        { id: messageId, schoolId, folioId, state: In(['refused', 'unconfirmed', 'deferred']) },
        // Without its claim: what the former sender may still say of it does not count any more.
        { state: 'queued', nextAttemptAt: new Date(), attempts: 0, claim: null, claimedUntil: null },
      );
      if (!changed.affected)
        throw conflict(
          'not-resendable',
          'This message was sent, or is on its way. It is not sent a second time.',
        );
    });
    this.wake();
  }

  /** Tries a school's mail account again now, and with it all messages that wait for it. @returns how many wait. */
  async tryAccountAgain(schoolId: string): Promise<number> {
    const { manager } = this.database;
    await manager.update(MailAccountRow, { schoolId }, { nextAttemptAt: new Date() });
    await manager.update(MessageRow, { schoolId, state: 'deferred' }, { nextAttemptAt: new Date() });
    this.wake();
    return manager.countBy(MessageRow, { schoolId, state: In(['queued', 'deferred']) });
  }

  private async work(): Promise<void> {
    this.wanted = false;
    for (const folioId of await settleExpired(this.database)) {
      this.log.warn('messages are unconfirmed: the server that took them is gone');
      this.events.tell(folioId, { kind: 'dispatch' });
    }
    const accounts = await this.database.manager.find(MailAccountRow, { select: { schoolId: true } });
    this.faulty = new Set(accounts.map(({ schoolId }) => schoolId));
    await new Sending(this.database, {
      term: this.options.term,
      goesOn: () => !this.closed,
      deliver: (due) => this.deliver(due),
      record: (claim, outcomes, left) => this.record(claim, outcomes, left),
    }).run();
  }

  /** @returns null where nothing was tried, because the database is away. */
  private async deliver({ message, files }: Due): Promise<Delivery | null> {
    if (files.length === 0 || files.some(({ bytes }) => bytes === null))
      return { state: 'refused', answer: 'The paper is not there any more. Press it again.' };
    const there: { name: string; bytes: Buffer }[] = [];
    for (const { fileName, bytes, laidOn } of files) {
      try {
        const file = { bytes: bytes!, laidOn: laidOn === null ? null : (JSON.parse(laidOn) as LaidOn) };
        const whole = await this.options.leaving.whole(this.database.manager, message.schoolId, file);
        there.push({ name: fileName.split('/').at(-1)!, bytes: whole });
      } catch (error) {
        if (this.closed || isDatabaseAway(error)) return null;
        this.log.error({ err: error }, 'a paper could not be put on its PDF');
        return { state: 'deferred', answer: 'The paper could not be put on its PDF. It is tried again.' };
      }
    }
    let known: { transport: MailTransport; school: string };
    try {
      known = await this.transportFor(message.schoolId);
    } catch {
      return null;
    }
    return known.transport.deliver({
      messageId: message.messageId,
      from: { name: message.envelope?.from ?? known.school, address: this.options.from },
      to: message.recipients.map((address, n) => ({ address, name: message.envelope?.names[n] ?? '' })),
      cc: message.envelope?.cc ?? [],
      bcc: message.envelope?.bcc ?? [],
      replyTo: message.envelope?.replyTo ?? null,
      subject: message.subject,
      text: message.text,
      html: message.html,
      date: message.queuedAt,
      files: there,
    });
  }

  /** Writes down what became of messages. While the database is away it is tried again: what is known must not be lost. */
  private async record(claim: string, outcomes: readonly Outcome[], left: readonly string[]): Promise<void> {
    const now = new Date();
    for (;;) {
      try {
        if (outcomes.length > 0) await recordOutcomes(this.database, claim, outcomes, now, this.faulty);
        await putBackMessages(this.database, claim, left);
        break;
      } catch (error) {
        if (this.closed || !isDatabaseAway(error)) throw error;
        await new Promise((resolve) => setTimeout(resolve, RECORD_AGAIN));
      }
    }
    for (const folioId of new Set(outcomes.map(({ message }) => message.folioId)))
      this.events.tell(folioId, { kind: 'dispatch' });
  }

  private async transportFor(schoolId: string): Promise<{ transport: MailTransport; school: string }> {
    let known = this.transports.get(schoolId);
    if (!known) {
      const school = await this.database.manager.findOneBy(School, { id: schoolId });
      known = {
        transport: new MailTransport(this.options.urlFor(schoolId), CONNECTIONS),
        school: school?.name ?? '',
      };
      this.transports.set(schoolId, known);
    }
    return known;
  }
}
