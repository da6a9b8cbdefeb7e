import type { OrderLine, OrderList, OrderNext, OrderWork } from '@scriptum/core/contract';
import type { Order } from '@scriptum/core/order';
import { createActionGroup, createFeature, createReducer, emptyProps, on, props } from '@ngrx/store';
import type { Trouble } from '../api/api';
import { deskActions } from './desk-actions';

export interface OrdersState {
  readonly folioId: string | null;
  /** Null until they are known. */
  readonly orders: readonly OrderLine[] | null;
  readonly staff: OrderList['staff'];
  /** Doors of other services, whose answers orders act on too. */
  readonly hooks: OrderList['hooks'];
  /** Watched files, whose new and changed rows they act on as well. */
  readonly watched: OrderList['watched'];
  /** The order that is looked at, where one was picked; else the first. */
  readonly pickedId: string | null;
  /** What that order did and waits with; null until it is known. */
  readonly work: {
    readonly orderId: string;
    readonly work: readonly OrderWork[];
    readonly more: boolean;
  } | null;
  /** Whom it would take now; null until it is known. */
  readonly next: (OrderNext & { readonly orderId: string }) | null;
  /** The one that was deleted last, so that it can be had back. */
  readonly deleted: { readonly id: string; readonly name: string } | null;
  /** What was done, in a sentence. */
  readonly said: string;
  readonly busy: boolean;
  readonly trouble: Trouble | null;
}

export const ordersActions = createActionGroup({
  source: 'Orders',
  events: {
    /** Somebody looks at the orders. */
    Asked: emptyProps(),
    /** One of them did something, or was changed. */
    News: emptyProps(),
    Arrived: props<{ folioId: string; list: OrderList }>(),
    Failed: props<{ trouble: Trouble }>(),
    Pick: props<{ orderId: string }>(),
    Add: props<{ orderId: string; order: Order }>(),
    Save: props<{ orderId: string; order: Order; version: number }>(),
    Switch: props<{ orderId: string; isOn: boolean }>(),
    Delete: props<{ orderId: string; name: string }>(),
    Restore: props<{ orderId: string }>(),
    Run: props<{ orderId: string; count: number }>(),
    Say: props<{ orderId: string; workIds: readonly string[]; yes: boolean }>(),
    Said: props<{ said: string }>(),
    'Work Arrived': props<{ orderId: string; work: readonly OrderWork[]; more: boolean }>(),
    'Next Arrived': props<{ orderId: string; next: OrderNext }>(),
  },
});

const start: OrdersState = {
  folioId: null,
  orders: null,
  staff: [],
  hooks: [],
  watched: [],
  pickedId: null,
  work: null,
  next: null,
  deleted: null,
  said: '',
  busy: false,
  trouble: null,
};

/** With the work and what is next of the order that is looked at alone. */
function looking(state: OrdersState): OrdersState {
  const { orders, work, next } = state;
  const pickedId = orders?.some(({ id }) => id === state.pickedId)
    ? state.pickedId
    : (orders?.[0]?.id ?? null);
  return {
    ...state,
    pickedId,
    work: work?.orderId === pickedId ? work : null,
    next: next?.orderId === pickedId ? next : null,
  };
}

export const ordersFeature = createFeature({
  name: 'orders',
  reducer: createReducer<OrdersState>(
    start,
    on(deskActions.folioArrived, (state, { folio }): OrdersState =>
      state.folioId === folio.id ? state : { ...start, folioId: folio.id },
    ),
    on(ordersActions.arrived, (state, { folioId, list }): OrdersState =>
      state.folioId === folioId
        ? looking({
            ...state,
            orders: list.orders,
            staff: list.staff,
            hooks: list.hooks,
            watched: list.watched,
            busy: false,
          })
        : state,
    ),
    on(ordersActions.failed, (state, { trouble }): OrdersState => ({ ...state, busy: false, trouble })),
    on(ordersActions.pick, (state, { orderId }): OrdersState =>
      looking({ ...state, pickedId: orderId, said: '', trouble: null }),
    ),
    on(ordersActions.add, (state, { orderId }): OrdersState => ({ ...state, pickedId: orderId })),
    on(ordersActions.delete, (state, { orderId, name }): OrdersState => ({
      ...state,
      deleted: { id: orderId, name },
    })),
    on(ordersActions.restore, (state, { orderId }): OrdersState => ({
      ...state,
      deleted: null,
      pickedId: orderId,
    })),
    on(
      ordersActions.add,
      ordersActions.save,
      ordersActions.switch,
      ordersActions.delete,
      ordersActions.restore,
      ordersActions.run,
      ordersActions.say,
      (state): OrdersState => ({ ...state, busy: true, trouble: null, said: '' }),
    ),
    on(ordersActions.said, (state, { said }): OrdersState => ({ ...state, busy: false, said })),
    on(ordersActions.workArrived, (state, { orderId, work, more }): OrdersState =>
      looking({ ...state, work: { orderId, work, more } }),
    ),
    on(ordersActions.nextArrived, (state, { orderId, next }): OrdersState =>
      looking({ ...state, next: { ...next, orderId } }),
    ),
  ),
});
