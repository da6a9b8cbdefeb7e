import type { Router } from 'express';
import type { DataSource, EntityManager } from 'typeorm';
import type { OrderList } from '@scriptum/core/contract';
import type { z } from 'zod';
import type { FolioEvents } from '../folio-events.js';
import {
  addOrder,
  deleteOrder,
  listOrders,
  restoreOrder,
  saveOrder,
  staffOf,
  switchOrder,
  type OrdersPlace,
} from '../order/orders.js';
import { answerAsked, workOf } from '../order/order-works.js';
import type { StandingOrders } from '../order/standing-orders.js';
import { HookRow } from '../store/entities/hooks.js';
import { inTransaction } from '../store/in-transaction.js';
import type { Rolls } from '../tasks/rolls.js';
import { answer } from './call.js';

export interface OrderParts {
  readonly database: DataSource;
  readonly events: FolioEvents;
  readonly rolls: Rolls;
  readonly orders: StandingOrders;
}

/** Standing orders, as staff see and change them. */
export function orderRoutes(router: Router, { database, events, rolls, orders }: OrderParts): void {
  const { manager } = database;
  const list = async (place: OrdersPlace): Promise<z.input<typeof OrderList>> => ({
    orders: await listOrders(manager, place),
    hooks: await manager.find(HookRow, {
      select: { id: true, name: true },
      where: { schoolId: place.schoolId, folioId: place.folioId },
      order: { createdAt: 'ASC' },
    }),
    watched: (
      await manager.query<{ id: string; name: string }[]>(
        `SELECT v.id, s.fileName AS name FROM watched_file v JOIN source s ON s.id = v.sourceId
         WHERE v.schoolId = ? AND v.folioId = ? ORDER BY v.createdAt`,
        [place.schoolId, place.folioId],
      )
    ).map(({ id, name }) => ({ id, name })),
    staff: (await staffOf(manager, place.schoolId)).map(({ id, name }) => ({ id, name })),
  });
  const placeOf = (
    schoolId: string,
    params: Readonly<Record<string, string>>,
  ): OrdersPlace & { orderId: string } => ({
    schoolId,
    folioId: params['folioId']!,
    orderId: params['orderId']!,
  });
  /** Does something to the orders of a folio, tells other desks, and tells how they are then. */
  const change = async (
    place: OrdersPlace,
    work: (inside: EntityManager) => Promise<unknown>,
  ): Promise<z.input<typeof OrderList>> => {
    await inTransaction(database, work);
    events.tell(place.folioId, { kind: 'order' });
    void orders.due(place);
    return list(place);
  };

  answer(router, 'orders', ({ schoolId, params }) => list(placeOf(schoolId, params)));
  answer(router, 'addOrder', ({ schoolId, params, body }) => {
    const place = placeOf(schoolId, params);
    return change(place, (inside) => addOrder(inside, place, body));
  });
  answer(router, 'saveOrder', ({ schoolId, params, body }) => {
    const place = placeOf(schoolId, params);
    return change(place, (inside) => saveOrder(inside, place, body));
  });
  answer(router, 'switchOrder', ({ schoolId, staffId, params, body }) => {
    const place = placeOf(schoolId, params);
    return change(place, (inside) => switchOrder(inside, { ...place, staffId }, body.isOn));
  });
  answer(router, 'deleteOrder', ({ schoolId, staffId, params }) => {
    const place = placeOf(schoolId, params);
    return change(place, (inside) => deleteOrder(inside, { ...place, staffId }));
  });
  answer(router, 'restoreOrder', ({ schoolId, staffId, params }) => {
    const place = placeOf(schoolId, params);
    return change(place, (inside) => restoreOrder(inside, { ...place, staffId }));
  });
  answer(router, 'orderNext', ({ schoolId, params }) => rolls.do('nextOfOrder', placeOf(schoolId, params)));
  answer(router, 'runOrder', async ({ schoolId, staffId, params, body: { count } }) => {
    const place = placeOf(schoolId, params);
    const owed = await rolls.do('runOrder', { ...place, staffId, count });
    events.tell(place.folioId, { kind: 'order' });
    await orders.due(place);
    return { owed };
  });
  answer(router, 'orderWork', ({ schoolId, params, query }) =>
    workOf(manager, placeOf(schoolId, params), query.state),
  );
  answer(router, 'answerAsked', async ({ schoolId, staffId, params, body }) => {
    const place = placeOf(schoolId, params);
    const answered = await inTransaction(database, (inside) =>
      answerAsked(inside, { ...place, staffId }, body),
    );
    events.tell(place.folioId, { kind: 'order' });
    events.tell(place.folioId, { kind: 'run' });
    await orders.due(place);
    return answered;
  });
}
