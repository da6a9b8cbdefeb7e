import type { DataSource, EntityManager } from 'typeorm';
import type { Logger } from 'pino';
import type { FolioEvents } from '../folio-events.js';
import { DueLoop } from '../jobs/due-loop.js';
import type { ClaimedSlice, SliceQueue } from '../jobs/slice-queue.js';
import type { SliceHandler } from '../jobs/slice-worker.js';
import type { Outbox } from '../post/outbox.js';
import { Refusal } from '../refusal.js';
import { isDatabaseAway } from '../store/database-away.js';
import { OrderWorkRow, StandingOrderRow } from '../store/entities/orders.js';
import { newId } from '../store/id.js';
import { again, inTransaction } from '../store/in-transaction.js';
import { In } from 'typeorm';
import type { OrdersDone } from './do-orders.js';
import type { OwnMail } from './order-mails.js';

interface Place {
  readonly schoolId: string;
  readonly folioId: string;
}

/** Rounds of one slice, after which others have their turn. */
const ROUNDS_MOST = 20;
/** Milliseconds before a folio whose orders could not be done is tried once more. */
const LATER = 60_000;
/** Milliseconds before mail that did not leave is tried again. */
const MAIL_AGAIN = 600_000;

export interface StandingOrdersOptions {
  /** Milliseconds between two looks for what is due. */
  readonly poll: number;
  /** Does what the orders of a folio have to do now, beside the server. */
  readonly act: (place: Place) => Promise<OrdersDone>;
  /** Lets this server look for slices now. */
  readonly wake: () => void;
  /** Domain of the Message-IDs. */
  readonly domain: string;
}

/**
 * Sees to it that standing orders are done: at set times, and whenever something comes that they wait for. What is to be done stands in
 * the database, so any server does it and two never do the same; a slice says which folio is to be looked at.
 */
export class StandingOrders implements SliceHandler {
  private readonly loop: DueLoop;
  /** Folios that could not be done, with when they are tried again. */
  private readonly resting = new Map<string, number>();

  constructor(
    private readonly database: DataSource,
    private readonly queue: SliceQueue,
    private readonly outbox: Pick<Outbox, 'wake' | 'sendOwn'>,
    private readonly events: FolioEvents,
    private readonly log: Logger,
    private readonly options: StandingOrdersOptions,
  ) {
    this.loop = new DueLoop(
      options.poll,
      () => this.offerDue(),
      (error) => this.report(error, 'standing orders could not be looked after'),
    );
  }

  open(): Promise<void> {
    return this.loop.open();
  }

  close(): Promise<void> {
    return this.loop.close();
  }

  /** The orders of a folio may have something to do. Never rejects. */
  async due(place: Place): Promise<void> {
    try {
      this.resting.delete(place.folioId);
      await this.offer([place]);
    } catch (error) {
      this.report(error, 'standing orders could not be woken');
    }
  }

  /**
   * A roll or a text is another one now: what was blocked is looked at once more. Written down as such, since the folio may be looked at
   * just now, by what was there before. Never rejects.
   */
  async changed(place: Place): Promise<void> {
    try {
      const { affected } = await again(() =>
        this.database.manager.update(
          OrderWorkRow,
          { ...place, state: 'blocked' },
          { state: 'owed', notBefore: new Date() },
        ),
      );
      if (affected) await this.due(place);
    } catch (error) {
      this.report(error, 'standing orders could not be woken');
    }
  }

  /** A run of a folio has ended, or papers of it may have been waited for. Never rejects. */
  async ended(place: Place): Promise<void> {
    try {
      if (await this.database.manager.existsBy(OrderWorkRow, { ...place, state: In(['pressing', 'owed']) }))
        await this.due(place);
    } catch (error) {
      this.report(error, 'standing orders could not be woken');
    }
  }

  async work(slice: ClaimedSlice, goesOn: () => boolean): Promise<void> {
    const { schoolId, folioId } = slice;
    for (let round = 0; goesOn(); round++) {
      let done: OrdersDone;
      try {
        done = await this.options.act({ schoolId, folioId });
      } catch (error) {
        if (!(error instanceof Refusal)) throw error;
        // Such as a roll that is too much to work out. It is looked at again later, or when something changes.
        this.log.warn({ folioId, code: error.code }, 'standing orders could not be done');
        await this.giveUp(slice);
        return;
      }
      if (done.pressing) this.options.wake();
      if (done.queued > 0) {
        this.outbox.wake();
        this.events.tell(folioId, { kind: 'dispatch' });
      }
      if (done.pressing) this.events.tell(folioId, { kind: 'run' });
      if (done.changed) this.events.tell(folioId, { kind: 'order' });
      for (const mail of done.mails) await this.mail(mail);
      // What came meanwhile is seen here, or whoever brings it finds the slice ended and offers it anew.
      if (await this.endUnlessDue(slice, round >= ROUNDS_MOST)) return;
    }
  }

  async giveUp(slice: ClaimedSlice): Promise<void> {
    this.resting.set(slice.folioId, performance.now() + LATER);
    await inTransaction(this.database, (manager) => this.queue.end(manager, slice, 'failed'));
  }

  private endUnlessDue(slice: ClaimedSlice, whatever: boolean): Promise<boolean> {
    return inTransaction(this.database, async (manager) => {
      await this.queue.fence(manager, slice);
      if (!whatever && (await dueFolios(manager, slice.folioId)).length > 0) return false;
      await this.queue.end(manager, slice, 'done');
      return true;
    });
  }

  private async offerDue(): Promise<void> {
    const due = await dueFolios(this.database.manager);
    await this.offer(due.filter(({ folioId }) => (this.resting.get(folioId) ?? 0) <= performance.now()));
  }

  private async offer(places: readonly Place[]): Promise<void> {
    if (places.length === 0) return;
    const slices = places.map(({ schoolId, folioId }) => ({
      id: `order${folioId}`,
      kind: 'order' as const,
      schoolId,
      folioId,
      jobId: `order${folioId}`,
      lane: 'quick' as const,
      size: 1,
    }));
    await inTransaction(this.database, (manager) => this.queue.offer(manager, slices));
    this.options.wake();
  }

  /** Mail that does not leave is written once more later. */
  private async mail({ schoolId, orderId, workIds, to, subject, text, html }: OwnMail): Promise<void> {
    const messageId = `<order-${newId()}@${this.options.domain}>`;
    const { state, answer } = await this.outbox.sendOwn(schoolId, {
      messageId,
      to: [to],
      subject,
      text,
      html,
      files: [],
    });
    if (state === 'sent') return;
    this.log.warn({ orderId, answer }, 'mail of a standing order to staff did not leave');
    const mailAt = new Date(Date.now() + MAIL_AGAIN);
    await inTransaction(this.database, async (manager) => {
      await manager.update(StandingOrderRow, { id: orderId }, { mailAt, toldOn: null, askedAt: null });
      await manager.update(OrderWorkRow, { id: In([...workIds]) }, { toldAt: null });
    });
  }

  private report(error: unknown, what: string): void {
    if (!isDatabaseAway(error)) this.log.error({ err: error }, what);
  }
}

/** Folios whose orders have something to do now. */
async function dueFolios(manager: EntityManager, folioId?: string): Promise<Place[]> {
  const of = (alias: string): string => (folioId === undefined ? '' : `AND ${alias}.folioId = ?`);
  const given = folioId === undefined ? [] : [folioId];
  // While papers of a folio are pressed nothing new can be begun with there.
  const free = `NOT EXISTS (SELECT 1 FROM press_run r WHERE r.folioId = w.folioId AND r.state = 'running')`;
  return manager.query<Place[]>(
    `SELECT DISTINCT d.schoolId, d.folioId FROM (
       SELECT o.schoolId, o.folioId FROM standing_order o
         WHERE o.deletedAt IS NULL AND o.isOn AND o.nextAt <= UTC_TIMESTAMP(3) ${of('o')}
       UNION ALL SELECT o.schoolId, o.folioId FROM standing_order o
         WHERE o.deletedAt IS NULL AND o.mailAt <= UTC_TIMESTAMP(3) ${of('o')}
       UNION ALL SELECT w.schoolId, w.folioId FROM order_work w JOIN standing_order o ON o.id = w.orderId
         WHERE w.state = 'owed' AND w.notBefore <= UTC_TIMESTAMP(3) AND o.isOn AND o.deletedAt IS NULL AND ${free} ${of('w')}
       UNION ALL SELECT w.schoolId, w.folioId FROM order_work w WHERE w.state = 'said yes' AND w.notBefore <= UTC_TIMESTAMP(3) ${of('w')}
       UNION ALL SELECT w.schoolId, w.folioId FROM order_work w JOIN standing_order o ON o.id = w.orderId
         WHERE w.state = 'asked' AND w.until <= UTC_TIMESTAMP(3) AND o.isOn ${of('w')}
       UNION ALL SELECT w.schoolId, w.folioId FROM order_work w WHERE w.state = 'pressing' ${of('w')}
         AND NOT EXISTS (SELECT 1 FROM press_run r WHERE r.id = w.runId AND r.state = 'running')
     ) d JOIN folio f ON f.id = d.folioId WHERE f.archivedAt IS NULL`,
    [...given, ...given, ...given, ...given, ...given, ...given],
  );
}
