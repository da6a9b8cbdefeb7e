import type { OrderLine, OrderNext, OrderState, OrderWork } from '@scriptum/core/contract';
import { columnsOf } from '@scriptum/core/condition';
import { nextTime, ORDER_LIMITS, type Order } from '@scriptum/core/order';
import { learnerName, nameColumns } from '@scriptum/core/roll';
import { dayBegins, dayIn } from '@scriptum/core/time';
import { In, IsNull, Not, type EntityManager } from 'typeorm';
import { conflict, notFound, Refusal } from '../refusal.js';
import { judgePapers } from '../register/judge-papers.js';
import { loadWorkedRoll } from '../roll/worked-roll.js';
import { OrderWorkRow, StandingOrderRow } from '../store/entities/orders.js';
import { School, Staff } from '../store/entities/people.js';
import { PaperRow } from '../store/entities/register.js';
import { findFolio, lockFolio } from '../store/folios.js';
import { recordHappening } from '../store/happenings.js';
import { loadEntries } from '../store/rolls.js';
import { namesOf } from '../store/staff-names.js';
import { owe } from './owe.js';
import { whomFor } from './whom-for.js';

export interface OrdersPlace {
  readonly schoolId: string;
  readonly folioId: string;
}
interface Asked extends OrdersPlace {
  readonly staffId: string;
  readonly orderId: string;
}

/** Times that are told of those to come. */
const TIMES_TOLD = 3;
/** Works that are told of, the newest. */
const WORKS_TOLD = 200;
/** Reasons for which learners are passed over. */
const REASONS_TOLD = 30;

/** The orders of a folio with how each goes, the oldest first. */
export async function listOrders(
  manager: EntityManager,
  { schoolId, folioId }: OrdersPlace,
  now = new Date(),
): Promise<OrderLine[]> {
  await findFolio(manager, schoolId, folioId);
  const rows = await manager.find(StandingOrderRow, {
    where: { schoolId, folioId, deletedAt: IsNull() },
    order: { createdAt: 'ASC', id: 'ASC' },
  });
  if (rows.length === 0) return [];
  const { timeZone } = await manager.findOneByOrFail(School, { id: schoolId });
  const midnight = dayBegins(dayIn(now, timeZone), timeZone);
  const ids = rows.map(({ id }) => id);
  const [counts, names] = await Promise.all([
    manager.query<{ orderId: string; state: OrderState; n: string; today: string }[]>(
      `SELECT orderId, state, COUNT(*) AS n, SUM(startedAt IS NOT NULL AND startedAt >= ?) AS today FROM order_work
       WHERE schoolId = ? AND orderId IN (?) GROUP BY orderId, state`,
      [midnight, schoolId, ids],
    ),
    namesOf(
      manager,
      schoolId,
      rows.map(({ ownerId }) => ownerId),
    ),
  ]);
  return rows.map((row): OrderLine => {
    const own = counts.filter(({ orderId }) => orderId === row.id);
    const count = (...states: OrderState[]): number =>
      own.filter(({ state }) => states.includes(state)).reduce((sum, { n }) => sum + Number(n), 0);
    const then: Date[] = [];
    for (let at = row.nextAt; at && then.length < TIMES_TOLD;) {
      at = nextTime(row.content.when, at, timeZone);
      if (at) then.push(at);
    }
    return {
      id: row.id,
      order: row.content,
      version: row.version,
      isOn: row.isOn,
      owner: names.get(row.ownerId ?? '') ?? null,
      nextAt: row.nextAt?.toISOString() ?? null,
      then: then.map((time) => time.toISOString()),
      lastAt: row.lastAt?.toISOString() ?? null,
      asked: count('asked'),
      blocked: count('blocked'),
      owed: count('owed', 'pressing', 'said yes'),
      sent: count('sent'),
      kept: count('kept'),
      left: count('left'),
      today: own.reduce((sum, { today }) => sum + Number(today), 0),
    };
  });
}

/** Who can be asked for a yes. */
export const staffOf = (manager: EntityManager, schoolId: string): Promise<Pick<Staff, 'id' | 'name'>[]> =>
  manager.find(Staff, { select: { id: true, name: true }, where: { schoolId }, order: { name: 'ASC' } });

/** Adds an order, switched off. Asked for twice it is there once. @throws Refusal */
export async function addOrder(
  manager: EntityManager,
  { schoolId, folioId }: OrdersPlace,
  { id, order }: { readonly id: string; readonly order: Order },
): Promise<void> {
  await lockFolio(manager, schoolId, folioId);
  const known = await manager.findOneBy(StandingOrderRow, { id });
  if (known) {
    if (known.schoolId === schoolId && known.folioId === folioId) return;
    throw new Refusal(409, 'identity-taken', 'This order could not be added. Try once more.');
  }
  if (
    (await manager.countBy(StandingOrderRow, { schoolId, folioId, deletedAt: IsNull() })) >=
    ORDER_LIMITS.orders
  )
    throw new Refusal(
      422,
      'orders-many',
      `A folio has ${ORDER_LIMITS.orders} orders at the most. Delete one that is not needed any more.`,
    );
  await manager.insert(StandingOrderRow, {
    id,
    schoolId,
    folioId,
    content: await withKnownPeople(manager, schoolId, order),
    version: 1,
    isOn: false,
    onAt: null,
    ownerId: null,
    nextAt: null,
    lastAt: null,
    askedAt: null,
    toldOn: null,
    mailAt: null,
    createdAt: new Date(),
    deletedAt: null,
  });
}

/** Changes an order. @throws Refusal `order-on`, `not-newest`, `not-found` */
export async function saveOrder(
  manager: EntityManager,
  asked: Omit<Asked, 'staffId'>,
  { order, version }: { readonly order: Order; readonly version: number },
): Promise<void> {
  const row = await orderOf(manager, asked);
  const content = await withKnownPeople(manager, asked.schoolId, order);
  // A save whose answer was lost comes once more.
  if (row.version === version + 1 && JSON.stringify(row.content) === JSON.stringify(content)) return;
  if (row.isOn)
    throw conflict('order-on', 'This order is on. Switch it off to change it; nothing was changed now.');
  if (row.version !== version)
    throw conflict(
      'not-newest',
      'Somebody else has changed this order meanwhile. It is shown as it is now; your change was not taken.',
    );
  await manager.update(StandingOrderRow, { id: row.id }, { content, version: version + 1 });
}

/** People who are asked are those of the school. */
async function withKnownPeople(manager: EntityManager, schoolId: string, order: Order): Promise<Order> {
  const { then } = order;
  if (then.kind !== 'ask' || then.staff.length === 0) return order;
  const there = await manager.find(Staff, { select: { id: true }, where: { schoolId, id: In(then.staff) } });
  const known = new Set(there.map(({ id }) => id));
  if (then.staff.some((id) => !known.has(id))) throw notFound('Somebody whom this order asks');
  return order;
}

/** Switches an order on, from now on, or off. @throws Refusal */
export async function switchOrder(manager: EntityManager, asked: Asked, isOn: boolean): Promise<void> {
  const { schoolId, folioId, staffId } = asked;
  const row = await orderOf(manager, asked);
  if (row.isOn === isOn) return;
  const now = new Date();
  const { timeZone } = await manager.findOneByOrFail(School, { id: schoolId });
  const { when } = row.content;
  if (isOn) await expectWhole(manager, asked, row.content);
  await manager.update(
    StandingOrderRow,
    { id: row.id },
    isOn
      ? { isOn, onAt: now, ownerId: staffId, nextAt: nextTime(when, now, timeZone) }
      : { isOn, nextAt: null },
  );
  await recordHappening(manager, { schoolId, staffId, folioId, kind: isOn ? 'order-on' : 'order-off' });
}

/** @throws Refusal where an order names what is not there any more. */
async function expectWhole(
  manager: EntityManager,
  { schoolId, folioId }: OrdersPlace,
  { when, if: condition }: Order,
): Promise<void> {
  const { columns } = await findFolio(manager, schoolId, folioId);
  const isThere = (columnId: string): boolean => columns.some(({ id }) => id === columnId);
  if (when.kind === 'day' && !isThere(when.columnId))
    throw new Refusal(422, 'column-gone', 'Choose the column with the day first. The order stays off.');
  if (condition && !columnsOf(condition).every(isThere))
    throw new Refusal(
      422,
      'column-gone',
      'The order looks at a column that is gone. Choose another one first. The order stays off.',
    );
}

/** Deletes an order. What it has begun with and not sent is left. */
export async function deleteOrder(manager: EntityManager, asked: Asked): Promise<void> {
  const { schoolId, folioId, staffId } = asked;
  const row = await orderOf(manager, asked);
  const now = new Date();
  await manager.update(
    StandingOrderRow,
    { id: row.id },
    { isOn: false, nextAt: null, mailAt: null, deletedAt: now },
  );
  await manager.update(
    OrderWorkRow,
    { orderId: row.id, state: Not(In(['sent', 'kept', 'left'])) },
    { state: 'left', why: 'The order was deleted.', endedAt: now, isWrong: false },
  );
  await recordHappening(manager, { schoolId, staffId, folioId, kind: 'order-deleted' });
}

/** Has a deleted order back, switched off. @throws Refusal `not-found` */
export async function restoreOrder(manager: EntityManager, asked: Asked): Promise<void> {
  const { schoolId, folioId, orderId } = asked;
  await lockFolio(manager, schoolId, folioId);
  const { affected } = await manager.update(
    StandingOrderRow,
    { id: orderId, schoolId, folioId },
    { deletedAt: null },
  );
  if (!affected) throw notFound('This order');
}

async function orderOf(
  manager: EntityManager,
  { schoolId, folioId, orderId }: Omit<Asked, 'staffId'>,
): Promise<StandingOrderRow> {
  await lockFolio(manager, schoolId, folioId);
  const row = await manager.findOneBy(StandingOrderRow, {
    id: orderId,
    schoolId,
    folioId,
    deletedAt: IsNull(),
  });
  if (!row) throw notFound('This order');
  return row;
}

/** Whom an order would take by somebody's word now, and whom it would pass over. */
export async function nextOfOrder(
  manager: EntityManager,
  { schoolId, folioId, orderId }: Omit<Asked, 'staffId'>,
): Promise<OrderNext> {
  const folio = await findFolio(manager, schoolId, folioId);
  const row = await manager.findOneBy(StandingOrderRow, {
    id: orderId,
    schoolId,
    folioId,
    deletedAt: IsNull(),
  });
  if (!row) throw notFound('This order');
  const { timeZone } = await manager.findOneByOrFail(School, { id: schoolId });
  const { roll } = await loadWorkedRoll(manager, folio);
  const { takes, passed } = await whomFor(manager, row, roll, {
    at: new Date(),
    timeZone,
    now: true,
  });
  const byReason = new Map<string, string[]>();
  for (const { entryId, why } of passed) {
    const own = byReason.get(why);
    if (own) own.push(entryId);
    else byReason.set(why, [entryId]);
  }
  return {
    takes: takes.map(({ entryId }) => entryId),
    passed: [...byReason]
      .map(([why, entryIds]) => ({ why, entryIds }))
      .sort((a, b) => b.entryIds.length - a.entryIds.length)
      .slice(0, REASONS_TOLD),
  };
}

/**
 * Has an order act now, on all whom `nextOfOrder` tells.
 *
 * @param count how many whoever asks was shown.
 * @throws Refusal `order-off`; `plan-changed` where they are others by now.
 */
export async function runOrder(manager: EntityManager, asked: Asked, count: number): Promise<number> {
  const { schoolId, folioId, staffId } = asked;
  const row = await orderOf(manager, asked);
  if (!row.isOn) throw conflict('order-off', 'This order is off. Switch it on first; nothing was done.');
  const folio = await findFolio(manager, schoolId, folioId);
  const { timeZone } = await manager.findOneByOrFail(School, { id: schoolId });
  const { roll } = await loadWorkedRoll(manager, folio);
  const now = new Date();
  const { takes } = await whomFor(manager, row, roll, { at: now, timeZone, now: true });
  if (takes.length !== count)
    throw conflict(
      'plan-changed',
      `The order would take ${takes.length} learners by now, not ${count}. Look again; nothing was done.`,
    );
  const owed = await owe(manager, row, takes, now);
  if (owed > 0)
    await recordHappening(manager, { schoolId, staffId, folioId, kind: 'order-run', count: owed });
  return owed;
}

/** What an order did, and waits with, the newest first. */
export async function workOf(
  manager: EntityManager,
  { schoolId, folioId, orderId }: Omit<Asked, 'staffId'>,
  state?: OrderState,
): Promise<{ work: OrderWork[]; more: boolean }> {
  const folio = await findFolio(manager, schoolId, folioId);
  const rows = await manager.find(OrderWorkRow, {
    where: { schoolId, folioId, orderId, ...(state ? { state } : {}) },
    order: { owedAt: 'DESC', id: 'ASC' },
    take: WORKS_TOLD + 1,
  });
  const some = rows.slice(0, WORKS_TOLD);
  if (some.length === 0) return { work: [], more: false };
  const entryIds = [...new Set(some.map(({ entryId }) => entryId))];
  const [{ entries, columns }, papers, by] = await Promise.all([
    loadEntries(manager, folio, entryIds),
    manager.find(PaperRow, {
      select: { id: true, entryId: true, fileName: true, learner: true },
      where: {
        schoolId,
        folioId,
        entryId: In(entryIds),
        state: In(['pressed', 'cleared', 'held', 'dispatched']),
      },
      order: { place: 'ASC', id: 'ASC' },
    }),
    namesOf(
      manager,
      schoolId,
      some.map(({ saidBy }) => saidBy),
    ),
  ]);
  const names = nameColumns(columns);
  const nameOf = new Map(entries.map((entry) => [entry.id, learnerName(entry, names)]));
  const placeOf = new Map(entries.map(({ id, position }) => [id, position]));
  // Those that came at the same time stand in the order of the roll.
  const sorted = some.sort(
    (a, b) =>
      b.owedAt.getTime() - a.owedAt.getTime() ||
      (placeOf.get(a.entryId) ?? 0) - (placeOf.get(b.entryId) ?? 0),
  );
  return {
    more: rows.length > WORKS_TOLD,
    work: sorted.map((row): OrderWork => {
      const own = papers.filter(({ entryId }) => entryId === row.entryId);
      return {
        id: row.id,
        entryId: row.entryId,
        learner: nameOf.get(row.entryId) ?? own[0]?.learner ?? 'Somebody who is gone',
        state: row.state,
        why: row.why,
        at: (row.endedAt ?? row.startedAt ?? row.owedAt).toISOString(),
        until: row.until?.toISOString() ?? null,
        by: by.get(row.saidBy ?? '') ?? null,
        papers: own.map(({ id, fileName }) => ({ id, fileName })),
      };
    }),
  };
}

/**
 * Says yes or no to papers that an order waits with. A yes clears them. What somebody else has said meanwhile is passed over.
 *
 * @throws Refusal `not-found`, `own-papers`
 */
export async function answerAsked(
  manager: EntityManager,
  asked: Asked,
  { workIds, yes }: { readonly workIds: readonly string[]; readonly yes: boolean },
): Promise<{ done: number; passedOver: number }> {
  const { schoolId, folioId, staffId, orderId } = asked;
  await orderOf(manager, asked);
  const ids = [...new Set(workIds)];
  const works = await manager.findBy(OrderWorkRow, { schoolId, folioId, orderId, id: In(ids) });
  if (works.length < ids.length) throw notFound(ids.length === 1 ? 'This learner' : 'One of these learners');
  const open = works.filter(({ state }) => state === 'asked');
  if (open.length > 0) {
    const now = new Date();
    if (yes) {
      const papers = await manager.find(PaperRow, {
        select: { id: true },
        where: {
          schoolId,
          folioId,
          entryId: In(open.map(({ entryId }) => entryId)),
          state: In(['pressed', 'held']),
        },
      });
      if (papers.length > 0)
        await judgePapers(manager, {
          schoolId,
          folioId,
          staffId,
          paperIds: papers.map(({ id }) => id),
          hold: false,
        });
    }
    await manager.update(
      OrderWorkRow,
      { id: In(open.map(({ id }) => id)) },
      yes
        ? { state: 'said yes', why: null, until: null, notBefore: now, saidBy: staffId }
        : { state: 'left', why: 'Somebody said no.', until: null, endedAt: now, saidBy: staffId },
    );
    const kind = yes ? 'order-yes' : 'order-no';
    await recordHappening(manager, { schoolId, staffId, folioId, kind, count: open.length });
  }
  return { done: open.length, passedOver: works.length - open.length };
}
