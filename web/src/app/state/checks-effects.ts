import { inject } from '@angular/core';
import { Actions, createEffect, ofType } from '@ngrx/effects';
import { concatLatestFrom } from '@ngrx/operators';
import { Store } from '@ngrx/store';
import { asyncScheduler, catchError, EMPTY, map, mergeMap, of, switchMap, throttleTime } from 'rxjs';
import { Api, troubleOf } from '../api/api';
import { checksActions, checksFeature } from './checks';
import { deskActions } from './desk-actions';
import { rollActions } from './roll';
import { writingActions } from './writing';

/** Milliseconds between two looks while papers are set in the background. */
const LOOK_EVERY = 1200;

/** Asks what papers would come to, which has those set that changed. */
export const loadChecks = createEffect(
  (actions = inject(Actions), api = inject(Api), store = inject(Store)) =>
    actions.pipe(
      ofType(
        checksActions.asked,
        deskActions.folioArrived,
        deskActions.rollArrived,
        rollActions.saved,
        writingActions.saved,
      ),
      throttleTime(LOOK_EVERY, asyncScheduler, { leading: true, trailing: true }),
      concatLatestFrom(() => store.select(checksFeature.selectFolioId)),
      switchMap(([, folioId]) =>
        folioId
          ? api.checks(folioId).pipe(
              map((checks) => checksActions.arrived({ folioId, checks })),
              // It is asked again with the next change; nobody waits for it.
              catchError(() => EMPTY),
            )
          : EMPTY,
      ),
    ),
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
