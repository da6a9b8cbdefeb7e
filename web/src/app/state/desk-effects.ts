import { inject } from '@angular/core';
import { Actions, createEffect, ofType } from '@ngrx/effects';
import { concatLatestFrom } from '@ngrx/operators';
import { Store } from '@ngrx/store';
import {
  asyncScheduler,
  catchError,
  EMPTY,
  filter,
  map,
  mergeMap,
  of,
  switchMap,
  take,
  throttleTime,
  type Observable,
} from 'rxjs';
import type { Folio } from '@scriptum/core/contract';
import { Api, troubleOf } from '../api/api';
import { deskActions, deskFeature } from './desk';
import { selectShown } from './findings';
import { replay } from './replay';
import { rollFeature } from './roll';
import { writingActions } from './writing';

/**
 * The folio as the server has it. What is still on its way there comes first, and where something was changed here meanwhile
 * the answer may not have it yet, so it is asked for once more.
 */
function freshFolio(api: Api, store: Store, folioId: string): Observable<Folio> {
  return store.select(rollFeature.selectRollState).pipe(
    filter(({ queue, failure }) => failure !== null || queue.every((one) => one.folioId !== folioId)),
    take(1),
    switchMap(({ changes }) =>
      api.folio(folioId).pipe(
        concatLatestFrom(() => store.select(rollFeature.selectRollState)),
        switchMap(([folio, now]) =>
          now.changes === changes || now.failure
            ? of(replay(folio, now.queue).folio)
            : freshFolio(api, store, folioId),
        ),
      ),
    ),
  );
}

export const loadFolio = createEffect(
  (actions = inject(Actions), api = inject(Api), store = inject(Store)) =>
    actions.pipe(
      ofType(deskActions.opened),
      switchMap(({ folioId }) =>
        freshFolio(api, store, folioId).pipe(
          map((folio) => deskActions.folioArrived({ folio })),
          catchError((error: unknown) => of(deskActions.missing({ trouble: troubleOf(error) }))),
        ),
      ),
    ),
  { functional: true },
);

/** What others change in the roll shows here too. */
export const hearOfRoll = createEffect(
  (actions = inject(Actions), api = inject(Api), store = inject(Store)) =>
    actions.pipe(
      ofType(deskActions.rollNews),
      throttleTime(1000, asyncScheduler, { leading: true, trailing: true }),
      switchMap(({ folioId }) =>
        freshFolio(api, store, folioId).pipe(
          concatLatestFrom(() => store.select(deskFeature.selectDeskState)),
          filter(([folio, { status, folio: open }]) => status === 'open' && open?.id === folio.id),
          map(([folio]) => deskActions.folioArrived({ folio })),
          // It is only news; what people do themselves says what is wrong.
          catchError(() => EMPTY),
        ),
      ),
    ),
  { functional: true },
);

/** And so does what they write. */
export const hearOfWriting = createEffect(
  (actions = inject(Actions), api = inject(Api)) =>
    actions.pipe(
      ofType(deskActions.writingNews),
      mergeMap(({ folioId, writingId }) =>
        api.writing(folioId, writingId).pipe(
          map((now) => writingActions.heard({ id: writingId, now })),
          catchError(() => EMPTY),
        ),
      ),
    ),
  { functional: true },
);

/** The next or previous learner among those that the strip shows; stays at the ends. */
export const pickNext = createEffect(
  (actions = inject(Actions), store = inject(Store)) =>
    actions.pipe(
      ofType(deskActions.pickNext),
      concatLatestFrom(() => [store.select(selectShown), store.select(deskFeature.selectPickedId)]),
      map(([{ step }, shown, pickedId]) => {
        const at = shown.findIndex(({ entry }) => entry.id === pickedId);
        return shown[at < 0 ? 0 : Math.min(shown.length - 1, Math.max(0, at + step))]?.entry.id;
      }),
      filter((entryId) => entryId !== undefined),
      map((entryId) => deskActions.pick({ entryId })),
    ),
  { functional: true },
);
