import type { OrderLine, OrderState } from '@scriptum/core/contract';
import { columnsOf } from '@scriptum/core/condition';
import { nextTime, ORDER_LIMITS, type Order } from '@scriptum/core/order';
import { dayBegins, dayIn } from '@scriptum/core/time';
import { In, IsNull, Not, type EntityManager } from 'typeorm';
import { conflict, notFound, Refusal } from '../refusal.js';
import { OrderWorkRow, StandingOrderRow } from '../store/entities/orders.js';
import { School, Staff } from '../store/entities/people.js';
import { findFolio, lockFolio } from '../store/folios.js';
import { recordHappening } from '../store/happenings.js';
import { namesOf } from '../store/staff-names.js';

export interface OrdersPlace {
  readonly schoolId: string;
  readonly folioId: string;
}
/** An order, and who asks something of it. */
export interface AskedOrder extends OrdersPlace {
  readonly staffId: string;
  readonly orderId: string;
}

/** Times that are told of those to come. */
const TIMES_TOLD = 3;

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
  asked: Omit<AskedOrder, 'staffId'>,
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
export async function switchOrder(manager: EntityManager, asked: AskedOrder, isOn: boolean): Promise<void> {
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
export async function deleteOrder(manager: EntityManager, asked: AskedOrder): Promise<void> {
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
export async function restoreOrder(manager: EntityManager, asked: AskedOrder): Promise<void> {
  const { schoolId, folioId, orderId } = asked;
  await lockFolio(manager, schoolId, folioId);
  const { affected } = await manager.update(
    StandingOrderRow,
    { id: orderId, schoolId, folioId },
    { deletedAt: null },
  );
  if (!affected) throw notFound('This order');
}

/** An order, its folio locked. @throws Refusal `not-found` */
export async function orderOf(
  manager: EntityManager,
  { schoolId, folioId, orderId }: Omit<AskedOrder, 'staffId'>,
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
