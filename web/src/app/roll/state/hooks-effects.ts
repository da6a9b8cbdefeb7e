import { inject } from '@angular/core';
import type { HookList } from '@scriptum/core/contract';
import { Actions, createEffect, ofType } from '@ngrx/effects';
import { concatLatestFrom } from '@ngrx/operators';
import { Store } from '@ngrx/store';
import { catchError, concatMap, EMPTY, filter, map, mergeMap, of, switchMap, type Observable } from 'rxjs';
import { Api, troubleOf } from '../../api/api';
import { deskActions, deskFeature } from '../../state/desk';
import { hooksActions, hooksFeature } from './hooks';

const failed = (error: unknown) => of(hooksActions.failed({ trouble: troubleOf(error) }));

/** Asks for the hooks: when somebody looks, and then whenever the roll has changed, since answers come that way. */
export const loadHooks = createEffect(
  (actions = inject(Actions), api = inject(Api), store = inject(Store)) =>
    actions.pipe(
      ofType(hooksActions.asked, deskActions.folioArrived, deskActions.rollArrived),
      concatLatestFrom(() => [store.select(deskFeature.selectFolio), store.select(hooksFeature.selectHooks)]),
      filter(([{ type }, , hooks]) => type === hooksActions.asked.type || hooks !== null),
      switchMap(([, folio]) =>
        folio
          ? api.hooks(folio.id).pipe(
              map((list) => hooksActions.arrived({ folioId: folio.id, list })),
              catchError(failed),
            )
          : EMPTY,
      ),
    ),
  { functional: true },
);

export const changeHooks = createEffect(
  (actions = inject(Actions), api = inject(Api), store = inject(Store)) =>
    actions.pipe(
      ofType(hooksActions.add, hooksActions.change, hooksActions.newKey, hooksActions.delete),
      concatLatestFrom(() => store.select(deskFeature.selectFolio)),
      concatMap(([action, folio]) => {
        if (!folio) return EMPTY;
        const change = (): Observable<HookList> => {
          switch (action.type) {
            case hooksActions.add.type:
              return api.addHook(folio.id, action.hookId, action.name);
            case hooksActions.change.type:
              return api.changeHook(folio.id, action.hookId, action.change);
            case hooksActions.newKey.type:
              return api.newHookKey(folio.id, action.hookId);
            case hooksActions.delete.type:
              return api.deleteHook(folio.id, action.hookId);
          }
        };
        return change().pipe(
          map((list) => hooksActions.arrived({ folioId: folio.id, list })),
          catchError(failed),
        );
      }),
    ),
  { functional: true },
);

export const practise = createEffect(
  (actions = inject(Actions), api = inject(Api), store = inject(Store)) =>
    actions.pipe(
      ofType(hooksActions.practise),
      concatLatestFrom(() => store.select(deskFeature.selectFolio)),
      concatMap(([{ hookId }, folio]) =>
        folio
          ? api.practiseHook(folio.id, hookId).pipe(
              mergeMap(({ says }) => [hooksActions.practised({ says }), hooksActions.asked()]),
              catchError(failed),
            )
          : EMPTY,
      ),
    ),
  { functional: true },
);
