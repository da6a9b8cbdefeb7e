import { inject } from '@angular/core';
import { Actions, createEffect, ofType } from '@ngrx/effects';
import { concatLatestFrom } from '@ngrx/operators';
import { Store } from '@ngrx/store';
import { catchError, filter, map, of, switchMap } from 'rxjs';
import { Api, troubleOf } from '../api/api';
import { deskActions, deskFeature } from './desk';
import { selectShown } from './findings';

export const loadFolio = createEffect(
  (actions = inject(Actions), api = inject(Api)) =>
    actions.pipe(
      ofType(deskActions.opened),
      switchMap(({ folioId }) =>
        api.folio(folioId).pipe(
          map((folio) => deskActions.folioArrived({ folio })),
          catchError((error: unknown) => of(deskActions.missing({ trouble: troubleOf(error) }))),
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
