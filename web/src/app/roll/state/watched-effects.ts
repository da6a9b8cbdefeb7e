import { inject } from '@angular/core';
import { Router } from '@angular/router';
import type { WatchedList } from '@scriptum/core/contract';
import { Actions, createEffect, ofType } from '@ngrx/effects';
import { concatLatestFrom } from '@ngrx/operators';
import { Store } from '@ngrx/store';
import { catchError, concatMap, EMPTY, filter, from, map, of, switchMap, type Observable } from 'rxjs';
import { Api, troubleOf } from '../../api/api';
import { deskActions, deskFeature } from '../../state/desk';
import { watchedActions, watchedFeature } from '../../state/watched';
import { bringingInActions } from './bringing-in';

const failed = (error: unknown) => of(watchedActions.failed({ trouble: troubleOf(error) }));

/** Asks for the watched files: when somebody looks, and then whenever one was looked at or the sources are others. */
export const loadWatched = createEffect(
  (actions = inject(Actions), api = inject(Api), store = inject(Store)) =>
    actions.pipe(
      ofType(watchedActions.asked, watchedActions.news, deskActions.folioArrived, deskActions.rollArrived),
      concatLatestFrom(() => [
        store.select(deskFeature.selectFolio),
        store.select(watchedFeature.selectList),
      ]),
      filter(([{ type }, , list]) => type === watchedActions.asked.type || list !== null),
      switchMap(([, folio]) =>
        folio
          ? api.watched(folio.id).pipe(
              map((list) => watchedActions.arrived({ folioId: folio.id, list })),
              catchError(failed),
            )
          : EMPTY,
      ),
    ),
  { functional: true },
);

export const changeWatched = createEffect(
  (actions = inject(Actions), api = inject(Api), store = inject(Store)) =>
    actions.pipe(
      ofType(watchedActions.add, watchedActions.change, watchedActions.lookNow, watchedActions.delete),
      concatLatestFrom(() => store.select(deskFeature.selectFolio)),
      concatMap(([action, folio]) => {
        if (!folio) return EMPTY;
        const change = (): Observable<WatchedList> => {
          switch (action.type) {
            case watchedActions.add.type:
              return api.addWatched(folio.id, action.asked);
            case watchedActions.change.type:
              return api.changeWatched(folio.id, action.watchedId, action.change);
            case watchedActions.lookNow.type:
              return api.lookNow(folio.id, action.watchedId);
            case watchedActions.delete.type:
              return api.deleteWatched(folio.id, action.watchedId);
          }
        };
        return change().pipe(
          map((list) => watchedActions.arrived({ folioId: folio.id, list })),
          catchError(failed),
        );
      }),
    ),
  { functional: true },
);

/** Opens the version that waits at the table, where it is compared with the roll. */
export const showVersion = createEffect(
  (actions = inject(Actions), api = inject(Api), store = inject(Store), router = inject(Router)) =>
    actions.pipe(
      ofType(watchedActions.showVersion),
      concatLatestFrom(() => store.select(deskFeature.selectFolio)),
      switchMap(([{ file }, folio]) =>
        folio
          ? api.watchedVersion(folio.id, file.id).pipe(
              switchMap((blob) =>
                from(router.navigate(['/folio', folio.id, 'roll'])).pipe(
                  map(() =>
                    bringingInActions.fileChosen({
                      file: new File([blob], file.waits?.name ?? 'File'),
                      purpose: { kind: 'refresh', sourceId: file.sourceId },
                    }),
                  ),
                ),
              ),
              catchError(failed),
            )
          : EMPTY,
      ),
    ),
  { functional: true },
);
