import { inject } from '@angular/core';
import type { OrderList } from '@scriptum/core/contract';
import { Actions, createEffect, ofType } from '@ngrx/effects';
import { concatLatestFrom } from '@ngrx/operators';
import { Store, type Action } from '@ngrx/store';
import {
  catchError,
  concatMap,
  EMPTY,
  filter,
  map,
  merge,
  mergeMap,
  of,
  switchMap,
  type Observable,
} from 'rxjs';
import { Api, troubleOf } from '../../api/api';
import { deskActions, deskFeature } from '../../state/desk';
import { ordersActions, ordersFeature } from '../../state/orders';
import { allSaved } from '../../state/when-saved';

const failed = (error: unknown) => of(ordersActions.failed({ trouble: troubleOf(error) }));

/** Asks how the orders go: when somebody looks, and then whenever something has changed. */
export const loadOrders = createEffect(
  (actions = inject(Actions), api = inject(Api), store = inject(Store)) =>
    actions.pipe(
      ofType(ordersActions.asked, ordersActions.news),
      concatLatestFrom(() => [
        store.select(deskFeature.selectFolio),
        store.select(ordersFeature.selectOrders),
      ]),
      filter(([{ type }, , orders]) => type === ordersActions.asked.type || orders !== null),
      switchMap(([, folio]) =>
        folio
          ? api.orders(folio.id).pipe(
              map((list) => ordersActions.arrived({ folioId: folio.id, list })),
              catchError(failed),
            )
          : EMPTY,
      ),
    ),
  { functional: true },
);

/** What the order that is looked at did, and whom it would take now. */
export const loadWork = createEffect(
  (actions = inject(Actions), api = inject(Api), store = inject(Store)) =>
    actions.pipe(
      ofType(ordersActions.arrived, ordersActions.pick, deskActions.folioArrived, deskActions.rollArrived),
      concatLatestFrom(() => [
        store.select(deskFeature.selectFolio),
        store.select(ordersFeature.selectPickedId),
      ]),
      switchMap(([, folio, orderId]) =>
        folio && orderId
          ? merge(
              api
                .orderWork(folio.id, orderId)
                .pipe(map(({ work, more }): Action => ordersActions.workArrived({ orderId, work, more }))),
              api
                .orderNext(folio.id, orderId)
                .pipe(map((next): Action => ordersActions.nextArrived({ orderId, next }))),
            ).pipe(catchError(failed))
          : EMPTY,
      ),
    ),
  { functional: true },
);

/** Changes the orders, one change after the other. What the server refuses is shown as it is there. */
export const changeOrders = createEffect(
  (actions = inject(Actions), api = inject(Api), store = inject(Store)) =>
    actions.pipe(
      ofType(
        ordersActions.add,
        ordersActions.save,
        ordersActions.switch,
        ordersActions.delete,
        ordersActions.restore,
      ),
      concatLatestFrom(() => store.select(deskFeature.selectFolio)),
      concatMap(([action, folio]) => {
        if (!folio) return EMPTY;
        const change = (): Observable<OrderList> => {
          switch (action.type) {
            case ordersActions.add.type:
              return api.addOrder(folio.id, action.orderId, action.order);
            case ordersActions.save.type:
              return api.saveOrder(folio.id, action.orderId, action.order, action.version);
            case ordersActions.switch.type:
              return api.switchOrder(folio.id, action.orderId, action.isOn);
            case ordersActions.delete.type:
              return api.deleteOrder(folio.id, action.orderId);
            case ordersActions.restore.type:
              return api.restoreOrder(folio.id, action.orderId);
          }
        };
        // An order that is switched on goes by what is on screen.
        const saved: Observable<unknown> =
          action.type === ordersActions.switch.type ? allSaved(store) : of(null);
        return saved.pipe(
          switchMap(() => change()),
          map((list) => ordersActions.arrived({ folioId: folio.id, list })),
          catchError((error: unknown) =>
            of(ordersActions.failed({ trouble: troubleOf(error) }), ordersActions.news()),
          ),
        );
      }),
    ),
  { functional: true },
);

export const runOrder = createEffect(
  (actions = inject(Actions), api = inject(Api), store = inject(Store)) =>
    actions.pipe(
      ofType(ordersActions.run),
      concatLatestFrom(() => store.select(deskFeature.selectFolio)),
      concatMap(([{ orderId, count }, folio]) =>
        folio
          ? allSaved(store).pipe(
              switchMap(() => api.runOrder(folio.id, orderId, count)),
              mergeMap(({ owed }) => [
                ordersActions.said({
                  said:
                    owed === 0
                      ? 'Nobody is to be taken.'
                      : `Begun with ${owed} ${owed === 1 ? 'learner' : 'learners'}.`,
                }),
                ordersActions.news(),
              ]),
              catchError((error: unknown) =>
                of(ordersActions.failed({ trouble: troubleOf(error) }), ordersActions.news()),
              ),
            )
          : EMPTY,
      ),
    ),
  { functional: true },
);

export const sayOfWork = createEffect(
  (actions = inject(Actions), api = inject(Api), store = inject(Store)) =>
    actions.pipe(
      ofType(ordersActions.say),
      concatLatestFrom(() => store.select(deskFeature.selectFolio)),
      concatMap(([{ orderId, workIds, yes }, folio]) =>
        folio
          ? api.answerAsked(folio.id, orderId, workIds, yes).pipe(
              mergeMap(({ done, passedOver }) => [
                ordersActions.said({ said: saidOf(done, passedOver, yes) }),
                ordersActions.news(),
              ]),
              catchError((error: unknown) =>
                of(ordersActions.failed({ trouble: troubleOf(error) }), ordersActions.news()),
              ),
            )
          : EMPTY,
      ),
    ),
  { functional: true },
);

function saidOf(done: number, passedOver: number, yes: boolean): string {
  const whose = done === 1 ? '1 learner’s papers' : `${done} learners’ papers`;
  const said = done === 0 ? '' : yes ? `Yes: ${whose} leave now.` : `No: ${whose} stay in the register.`;
  const others = passedOver === 0 ? '' : ` Somebody else was quicker with ${passedOver}.`;
  return `${said}${others}`.trim();
}
