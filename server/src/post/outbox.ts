import type { Logger } from 'pino';
import { In, LessThanOrEqual, type DataSource } from 'typeorm';
import type { FolioEvents } from '../folio-events.js';
import { conflict, notFound } from '../refusal.js';
import { School } from '../store/entities/people.js';
import { MessageRow } from '../store/entities/register.js';
import { takeNamedLock, type NamedLock } from '../store/named-lock.js';
import { MailTransport, type Delivery } from './transport.js';

/** Messages that are marked as sending at a time, and so could become unconfirmed by a crash. */
const CLAIM = 16;
const CONNECTIONS = 2;
/** Minutes until a deferred message is tried again, by how often it was tried. */
const WAITS = [1, 5, 15, 60, 180, 360, 720];
const POLL = 15_000;

interface Due {
  readonly message: MessageRow;
  readonly file: { readonly fileName: string; readonly bytes: Buffer } | undefined;
}

interface Outcome {
  readonly message: MessageRow;
  readonly delivery: Delivery;
}

export interface OutboxOptions {
  /** The mail server for a school's messages. */
  readonly urlFor: (schoolId: string) => string;
  readonly from: string;
}

/**
 * Hands queued messages to the mail server, each once. A message is marked as sending, and that is committed, before a
 * byte of it leaves. If the process dies then, nobody knows whether it arrived: it becomes unconfirmed and waits for a
 * person. One server at a time works on the outbox.
 */
export class Outbox {
  private readonly transports = new Map<string, { transport: MailTransport; school: string }>();
  private lock: NamedLock | null = null;
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
    this.timer = setInterval(() => this.wake(), POLL);
    this.timer.unref();
    this.wake();
    await this.working;
  }

  /** Looks for due messages now. */
  wake(): void {
    this.wanted = true;
    if (this.working || this.closed) return;
    this.working = this.work()
      .catch(async (error: unknown) => {
        this.log.error({ err: error }, 'the outbox stumbled and will try again');
        // What is marked as sending cannot be told any more; taking the outbox anew settles it.
        await this.lock?.release();
        this.lock = null;
      })
      .finally(() => {
        this.working = null;
        if (this.wanted) this.wake();
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
    await this.lock?.release();
    this.lock = null;
  }

  /** Queues a refused or unconfirmed message again, by a person's word. */
  async again(schoolId: string, folioId: string, messageId: string): Promise<void> {
    const message = await this.database.manager.findOneBy(MessageRow, { id: messageId, schoolId, folioId });
    if (!message) throw notFound('This message');
    const changed = await this.database.manager.update(
      MessageRow,
      { id: messageId, schoolId, folioId, state: In(['refused', 'unconfirmed', 'deferred']) },
      { state: 'queued', nextAttemptAt: new Date(), attempts: 0 },
    );
    if (!changed.affected)
      throw conflict(
        'not-resendable',
        'This message was sent, or is on its way. It is not sent a second time.',
      );
    this.wake();
  }

  private async work(): Promise<void> {
    this.wanted = false;
    if (!(await this.own())) return;
    let recorded: Promise<void> = Promise.resolve();
    let loading = this.load();
    while (!this.closed) {
      const due = await loading;
      if (due.length === 0) break;
      await this.mark(due);
      // The next ones are fetched, and the last ones written down, while these are on the wire.
      loading = this.load();
      loading.catch(() => undefined);
      const outcomes = await this.send(due);
      await recorded;
      recorded = this.record(outcomes);
      recorded.catch(() => undefined);
    }
    await recorded;
  }

  /** Takes the outbox. Who takes it knows that no other server is sending, so what says so was left by a crash. */
  private async own(): Promise<boolean> {
    if (this.lock) return true;
    this.lock = await takeNamedLock(this.database, 'outbox');
    if (!this.lock) return false;
    const left = await this.database.manager.update(
      MessageRow,
      { state: 'sending' },
      {
        state: 'unconfirmed',
        answer: 'Scriptum was stopped between handing the message over and hearing the answer.',
      },
    );
    if (left.affected) this.log.warn({ count: left.affected }, 'messages are unconfirmed after a crash');
    return true;
  }

  /** The messages that are due, with their files. */
  private async load(): Promise<Due[]> {
    const { manager } = this.database;
    const messages = await manager.find(MessageRow, {
      where: { state: In(['queued', 'deferred']), nextAttemptAt: LessThanOrEqual(new Date()) },
      order: { queuedAt: 'ASC', id: 'ASC' },
      take: CLAIM,
    });
    if (messages.length === 0) return [];
    const files: { paperId: string; fileName: string; bytes: Buffer }[] = await manager.query(
      `SELECT p.id AS paperId, p.fileName, b.bytes FROM paper p
       JOIN blob_file b ON b.schoolId = p.schoolId AND b.hash = p.blobHash WHERE p.id IN (?)`,
      [messages.map(({ paperId }) => paperId)],
    );
    const fileOf = new Map(files.map((file) => [file.paperId, file]));
    return messages.map((message) => ({ message, file: fileOf.get(message.paperId) }));
  }

  private async mark(due: readonly Due[]): Promise<void> {
    await this.database.manager.update(
      MessageRow,
      { id: In(due.map(({ message }) => message.id)) },
      { state: 'sending' },
    );
  }

  private async send(due: readonly Due[]): Promise<Outcome[]> {
    const outcomes: Outcome[] = [];
    let next = 0;
    const lane = async (): Promise<void> => {
      while (next < due.length) {
        const { message, file } = due[next++]!;
        outcomes.push({ message, delivery: await this.deliver(message, file) });
      }
    };
    await Promise.all(Array.from({ length: CONNECTIONS + 2 }, lane));
    return outcomes;
  }

  private async deliver(message: MessageRow, file: Due['file']): Promise<Delivery> {
    if (!file) return { state: 'refused', answer: 'The paper is not there any more. Press it again.' };
    let known: { transport: MailTransport; school: string };
    try {
      known = await this.transportFor(message.schoolId);
    } catch (error) {
      return { state: 'deferred', answer: (error as Error).message.slice(0, 1000) };
    }
    return known.transport.deliver({
      messageId: message.messageId,
      from: { name: known.school, address: this.options.from },
      to: message.recipient,
      subject: message.subject,
      text: message.text,
      html: message.html,
      date: message.queuedAt,
      files: [{ name: file.fileName.split('/').at(-1)!, bytes: file.bytes }],
    });
  }

  private async record(outcomes: readonly Outcome[]): Promise<void> {
    const now = new Date();
    const sent = outcomes.filter(({ delivery }) => delivery.state === 'sent').map(({ message }) => message);
    await this.database.transaction(async (manager) => {
      if (sent.length > 0) {
        await manager.query(
          "UPDATE message SET state = 'sent', sentAt = ?, attempts = attempts + 1, answer = NULL WHERE id IN (?)",
          [now, sent.map(({ id }) => id)],
        );
        await manager.query(
          "UPDATE paper SET state = 'dispatched' WHERE id IN (?) AND state IN ('pressed', 'cleared')",
          [sent.map(({ paperId }) => paperId)],
        );
      }
      for (const { message, delivery } of outcomes) {
        if (delivery.state === 'sent') continue;
        await manager.update(MessageRow, { id: message.id }, this.setback(message, delivery, now));
      }
    });
    for (const folioId of new Set(outcomes.map(({ message }) => message.folioId))) {
      this.events.tell(folioId, { kind: 'dispatch' });
    }
  }

  private setback(message: MessageRow, delivery: Delivery, now: Date): Partial<MessageRow> {
    const attempts = message.attempts + 1;
    const minutes = WAITS[attempts - 1];
    if (delivery.state !== 'deferred') return { state: delivery.state, answer: delivery.answer, attempts };
    if (minutes === undefined) {
      return {
        state: 'refused',
        answer: `Not taken after ${attempts} tries. Last answer: ${delivery.answer}`.slice(0, 1000),
        attempts,
      };
    }
    return {
      state: 'deferred',
      answer: delivery.answer,
      attempts,
      nextAttemptAt: new Date(now.getTime() + minutes * 60_000),
    };
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
