import { dueAt } from '@scriptum/core/order';
import { IsNull, type EntityManager } from 'typeorm';
import type { SliceQueue } from '../jobs/slice-queue.js';
import { type Posting } from '../post/dispatch.js';
import { loadPlanning, type Planning } from '../register/planning.js';
import { OrderWorkRow, StandingOrderRow } from '../store/entities/orders.js';
import { School } from '../store/entities/people.js';
import { PressRunRow } from '../store/entities/register.js';
import { lockFolio } from '../store/folios.js';
import { owe } from './owe.js';
import { Round } from './round.js';
import { dueMails, type OwnMail } from './order-mails.js';
import { whomFor } from './whom-for.js';

interface Place {
  readonly schoolId: string;
  readonly folioId: string;
}

/** What was done for the orders of a folio. */
export interface OrdersDone {
  /** A run was planned, whose end is waited for. */
  readonly pressing: boolean;
  /** Messages that were queued. */
  readonly queued: number;
  /** To staff: that something waits for their yes, or is wrong. */
  readonly mails: readonly OwnMail[];
  /** True where what is shown of the orders is another one now. */
  readonly changed: boolean;
}

/** Works that are looked at in one go; the others have their turn after them. */
const AT_ONCE = 500;

const NOTHING: OrdersDone = { pressing: false, queued: 0, mails: [], changed: false };

/**
 * Does what the standing orders of a folio have to do now, in one transaction: notes whom set times make due, has papers pressed,
 * asks for a yes, and queues messages of papers that may leave. What is begun is written down with it, so whatever is ended
 * afterwards, nothing is done twice and nothing is left out.
 */
export async function doOrders(
  manager: EntityManager,
  queue: Pick<SliceQueue, 'offer'>,
  { schoolId, folioId, posting }: Place & { readonly posting: Posting },
  now = new Date(),
): Promise<OrdersDone> {
  const folio = await lockFolio(manager, schoolId, folioId);
  const orders = await manager.findBy(StandingOrderRow, { schoolId, folioId, deletedAt: IsNull() });
  if (orders.length === 0 || folio.archivedAt !== null) return NOTHING;
  const { timeZone } = await manager.findOneByOrFail(School, { id: schoolId });
  const timed = orders.filter(({ isOn, nextAt }) => isOn && nextAt !== null && nextAt <= now);
  let planning: Planning | undefined;
  for (const row of timed) {
    const due = dueAt(row.content, row.nextAt!, now, timeZone);
    await manager.update(
      StandingOrderRow,
      { id: row.id },
      { nextAt: due.next, ...(due.acts ? { lastAt: now } : {}) },
    );
    if (!due.acts) continue;
    planning ??= await loadPlanning(manager, folio);
    const { takes } = await whomFor(manager, row, planning.roll, { at: now, timeZone, now: false });
    await owe(manager, row, takes, now);
  }
  const works = await acting(manager, { schoolId, folioId }, orders, now);
  let done = { pressing: false, queued: 0 };
  if (works.length > 0) {
    planning ??= await loadPlanning(manager, folio);
    const round = new Round(manager, queue, { planning, posting, orders, timeZone, now });
    done = await round.go(works);
  }
  const mails = await dueMails(manager, { schoolId, folio, orders, posting, timeZone }, now);
  return { ...done, mails, changed: timed.length > 0 || works.length > 0 };
}

/** Works of which something is to be done now. */
async function acting(
  manager: EntityManager,
  { schoolId, folioId }: Place,
  orders: readonly StandingOrderRow[],
  now: Date,
): Promise<OrderWorkRow[]> {
  const on = orders.filter(({ isOn }) => isOn).map(({ id }) => id);
  const running = await runningOf(manager, { schoolId, folioId });
  const rows = await manager
    .createQueryBuilder(OrderWorkRow, 'w')
    .where('w.schoolId = :schoolId AND w.folioId = :folioId', { schoolId, folioId })
    .andWhere('w.orderId IN (:...orders)', { orders: orders.map(({ id }) => id) })
    .andWhere(
      `((w.state IN ('owed', 'blocked') AND w.orderId IN (:...on) AND w.notBefore <= :now AND :free)
        OR (w.state = 'pressing' AND w.runId NOT IN (:...running))
        OR (w.state = 'asked' AND w.orderId IN (:...on) AND w.until <= :now) OR (w.state = 'said yes' AND w.notBefore <= :now))`,
      {
        on: on.length > 0 ? on : [''],
        now,
        // While papers of the folio are pressed nothing new can be begun with.
        free: running.length === 0,
        running: running.length > 0 ? running : [''],
      },
    )
    .orderBy('w.owedAt', 'ASC')
    .addOrderBy('w.id', 'ASC')
    .take(AT_ONCE)
    .getMany();
  return rows;
}

const runningOf = async (manager: EntityManager, place: Place): Promise<string[]> =>
  (await manager.find(PressRunRow, { select: { id: true }, where: { ...place, state: 'running' } })).map(
    ({ id }) => id,
  );
