import { inject } from '@angular/core';
import { Actions, createEffect, ofType } from '@ngrx/effects';
import { concatLatestFrom } from '@ngrx/operators';
import { Store } from '@ngrx/store';
import { catchError, EMPTY, map, mergeMap, of, switchMap, tap, throttle, timer } from 'rxjs';
import { Api, troubleOf } from '../api/api';
import { checksActions, checksFeature } from './checks';
import { deskActions } from './desk-actions';
import { rollActions } from './roll';
import { writingActions } from './writing';

/** Milliseconds between two looks while papers are set in the background, at the least. */
const LOOK_EVERY = 1200;
/** A look at a large roll is work too: between two there are as many times what the last one took. */
const REST = 4;

/** Asks what papers would come to, which has those set that changed. */
export const loadChecks = createEffect(
  (actions = inject(Actions), api = inject(Api), store = inject(Store)) => {
    let took = 0;
    return actions.pipe(
      ofType(
        checksActions.asked,
        deskActions.folioArrived,
        deskActions.rollArrived,
        rollActions.saved,
        writingActions.saved,
      ),
      throttle(() => timer(Math.max(LOOK_EVERY, REST * took)), { leading: true, trailing: true }),
      concatLatestFrom(() => store.select(checksFeature.selectFolioId)),
      switchMap(([, folioId]) => {
        if (!folioId) return EMPTY;
        const began = performance.now();
        return api.checks(folioId).pipe(
          tap(() => (took = performance.now() - began)),
          map((checks) => checksActions.arrived({ folioId, checks })),
          // It is asked again with the next change; nobody waits for it.
          catchError(() => EMPTY),
        );
      }),
    );
  },
  { functional: true },
);

export const loadSeen = createEffect(
  (actions = inject(Actions), api = inject(Api), store = inject(Store)) =>
    actions.pipe(
      ofType(checksActions.seenAsked, deskActions.folioArrived),
      concatLatestFrom(() => store.select(checksFeature.selectFolioId)),
      switchMap(([, folioId]) =>
        folioId
          ? api.seenFindings(folioId).pipe(
              map(({ seen }) => checksActions.seenArrived({ folioId, seen })),
              catchError(() => EMPTY),
            )
          : EMPTY,
      ),
    ),
  { functional: true },
);

export const see = createEffect(
  (actions = inject(Actions), api = inject(Api), store = inject(Store)) =>
    actions.pipe(
      ofType(checksActions.see),
      concatLatestFrom(() => store.select(checksFeature.selectFolioId)),
      mergeMap(([{ marks, right }, folioId]) =>
        api.seeFindings(folioId!, marks, right).pipe(
          map(({ seen }) => checksActions.seenArrived({ folioId: folioId!, seen })),
          catchError((error: unknown) => of(checksActions.failed({ trouble: troubleOf(error) }))),
        ),
      ),
    ),
  { functional: true },
);
