import type { Logger } from 'pino';
import { In, type DataSource } from 'typeorm';
import type { FolioEvents } from '../folio-events.js';
import { conflict, notFound } from '../refusal.js';
import { isDatabaseAway } from '../store/database-away.js';
import { MailAccountRow, MailFaultRow } from '../store/entities/post.js';
import { EnclosureRow, MessageRow, PaperRow } from '../store/entities/register.js';
import { FileGone, type Enclosing } from './enclosing.js';
import { accountOn } from './accounts-on.js';
import {
  accountsDue,
  changeMessages,
  putBackMessages,
  settleExpired,
  type Due,
  type WaitingAccount,
} from './message-claims.js';
import { outgoing } from './outgoing.js';
import { recordOutcomes, type Outcome } from './record-outcomes.js';
import { CONNECTIONS, Sending } from './sending.js';
import { MailTransport, type Delivery, type OutgoingMessage } from './transport.js';
import type { Way, Ways } from './ways.js';

/** Milliseconds between two tries to write down what is known while the database is away. */
const RECORD_AGAIN = 500;
/** Accounts that are sent from at a time, and milliseconds for which one has its place where others wait for it. */
const ACCOUNTS_MOST = 8;
const PLACE_FOR = 4_000;
/** Milliseconds for which an account counts as it was read. */
const LOOK_AGAIN = 1_000;

export interface OutboxOptions {
  readonly ways: Ways;
  /** Milliseconds after which messages that a server took and says nothing about any more are unconfirmed. */
  readonly term: number;
  /** Milliseconds between two looks for due messages. */
  readonly poll: number;
  readonly enclosing: Enclosing;
}

/** An account whose connections are open. */
interface Known {
  readonly schoolId: string;
  readonly way: Way;
  readonly transport: MailTransport;
  /** `performance.now()` when it was read last. */
  looked: number;
}

/**
 * Hands queued messages to the mail server, each once. A message is taken by a claim that is committed before a byte of it
 * leaves, and never taken a second time: if the server dies then, nobody knows whether it arrived; it becomes unconfirmed
 * and waits for a person. Any number of servers may send side by side.
 */
export class Outbox {
  private readonly transports = new Map<string, Known>();
  /** Accounts that are being sent from, each by itself: one that hangs keeps no other waiting. */
  private readonly sendings = new Map<string, Promise<void>>();
  /** Accounts that something came for while they were being sent from. */
  private readonly lookAgain = new Set<string>();
  private timer: NodeJS.Timeout | null = null;
  private working: Promise<void> | null = null;
  private wanted = false;
  /** True where more accounts have something due than are sent from at a time. */
  private crowded = false;
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
    while (this.working || this.sendings.size > 0) {
      await this.working;
      await Promise.all(this.sendings.values());
    }
  }

  /** Waits for the messages at hand; the rest stays queued. */
  async close(): Promise<void> {
    this.closed = true;
    this.wanted = false;
    if (this.timer) clearInterval(this.timer);
    await this.working;
    await Promise.all(this.sendings.values());
    for (const { transport } of this.transports.values()) transport.close();
  }

  /**
   * Sends a message to one's own people at once, past the queue. It is handed over once, whatever comes of it.
   *
   * @param accountId the one that is on where nothing is said.
   */
  async sendOwn(
    schoolId: string,
    message: Omit<OutgoingMessage, 'from' | 'date'>,
    { from = null, accountId }: { from?: string | null; accountId?: string } = {},
  ): Promise<Delivery> {
    try {
      const on = accountId ?? (await accountOn(this.database.manager, schoolId));
      const { way, transport } = await this.transportFor({ schoolId, accountId: on });
      return await transport.deliver({
        ...message,
        from: { name: from ?? way.school, address: way.address },
        date: new Date(),
      });
    } catch (error) {
      if (isDatabaseAway(error)) throw error;
      return { state: 'fault', answer: (error as Error).message };
    }
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
      const there =
        message.accountId === schoolId || (await manager.existsBy(MailAccountRow, { id: message.accountId }));
      const changed = await manager.update(
        MessageRow,
        { id: messageId, schoolId, folioId, state: In(['refused', 'unconfirmed', 'deferred']) },
        // Without its claim: what the former sender may still say of it does not count any more.
        {
          state: 'queued',
          nextAttemptAt: new Date(),
          attempts: 0,
          claim: null,
          claimedUntil: null,
          // Somebody wants it now, whatever became of those that it was sent together with.
          dispatchId: null,
          ...(there ? {} : { accountId: await accountOn(manager, schoolId) }),
        },
      );
      if (!changed.affected)
        throw conflict(
          'not-resendable',
          'This message was sent, or is on its way. It is not sent a second time.',
        );
    });
    this.wake();
  }

  /** Tries a school's mail accounts again now, and with them all messages that wait for them. @returns how many wait. */
  async tryAccountsAgain(schoolId: string): Promise<number> {
    const { manager } = this.database;
    // As they are now, not as they were a moment ago.
    for (const known of this.transports.values()) if (known.schoolId === schoolId) known.looked = -Infinity;
    await manager.update(MailFaultRow, { schoolId }, { nextAttemptAt: new Date() });
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
    for (const account of await accountsDue(this.database.manager)) {
      if (this.sendings.size >= ACCOUNTS_MOST) break;
      if (this.closed) break;
      if (this.sendings.has(account.accountId)) {
        // It may have looked for the last time already.
        this.lookAgain.add(account.accountId);
        continue;
      }
      const sending = this.sendFrom(account)
        .catch((error: unknown) => {
          if (!isDatabaseAway(error))
            this.log.error({ err: error }, 'the outbox stumbled and will try again');
        })
        .finally(() => {
          this.sendings.delete(account.accountId);
          // Another account may have waited for the place, or more may have come for this one.
          if (this.lookAgain.delete(account.accountId) || this.crowded) this.wake();
        });
      this.sendings.set(account.accountId, sending);
    }
    this.crowded = this.sendings.size >= ACCOUNTS_MOST;
  }

  private async sendFrom(account: WaitingAccount): Promise<void> {
    const began = performance.now();
    const faulty = await this.database.manager.existsBy(MailFaultRow, { accountId: account.accountId });
    const sending = new Sending(this.database, {
      account,
      term: this.options.term,
      // Where others wait for the place, nobody has it for long.
      goesOn: () => !this.closed && !(this.crowded && performance.now() - began > PLACE_FOR),
      deliver: (due) => this.deliver(due),
      record: (claim, outcomes, left) =>
        this.record(claim, outcomes, left, faulty ? account.accountId : null),
    });
    await sending.run();
  }

  /** @returns null where nothing was tried, because the database is away. */
  private async deliver({ message, files }: Due): Promise<Delivery | null> {
    let there: OutgoingMessage['files'];
    try {
      there = await this.options.enclosing.all(this.database.manager, { message, files });
    } catch (error) {
      if (this.closed || isDatabaseAway(error)) return null;
      if (error instanceof FileGone) return { state: 'refused', answer: error.message };
      this.log.error({ err: error }, 'a paper could not be put on its PDF');
      return { state: 'deferred', answer: 'The paper could not be put on its PDF. It is tried again.' };
    }
    let known: { way: Way; transport: MailTransport };
    try {
      known = await this.transportFor(message);
    } catch (error) {
      if (this.closed || isDatabaseAway(error)) return null;
      // It is the account that is to be mended: its server may not be asked, or its password cannot be opened.
      return { state: 'fault', answer: (error as Error).message };
    }
    return known.transport.deliver(outgoing(message, known.way, there));
  }

  /** Writes down what became of messages. While the database is away it is tried again: what is known must not be lost. */
  private async record(
    claim: string,
    outcomes: readonly Outcome[],
    left: readonly string[],
    faulty: string | null,
  ): Promise<void> {
    const now = new Date();
    const known = new Set(faulty === null ? [] : [faulty]);
    for (;;) {
      try {
        if (outcomes.length > 0) await recordOutcomes(this.database, claim, outcomes, now, known);
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

  /** @throws HostRefused, WrongKey, or what the database says. */
  private async transportFor({
    schoolId,
    accountId,
  }: WaitingAccount): Promise<{ way: Way; transport: MailTransport }> {
    const known = this.transports.get(accountId);
    if (known && performance.now() - known.looked < LOOK_AGAIN) return known;
    const way = await this.options.ways.find(schoolId, accountId);
    if (known?.way.version === way.version) {
      known.looked = performance.now();
      return known;
    }
    const transport = new MailTransport(way.server, CONNECTIONS);
    const made = { schoolId, way, transport, looked: performance.now() };
    this.transports.set(accountId, made);
    // What is under way there goes on to its end.
    known?.transport.close();
    return made;
  }
}
