import { inject } from '@angular/core';
import { Router } from '@angular/router';
import { Actions, createEffect, ofType } from '@ngrx/effects';
import { catchError, concatMap, exhaustMap, map, of, switchMap, tap, throwError } from 'rxjs';
import { Api, troubleOf } from '../api/api';
import { foliosActions } from './folios';

const failed = (error: unknown) => of(foliosActions.failed({ trouble: troubleOf(error) }));

export const loadFolios = createEffect(
  (actions = inject(Actions), api = inject(Api)) =>
    actions.pipe(
      ofType(foliosActions.asked),
      switchMap(() =>
        api.folios().pipe(
          map(({ folios }) => foliosActions.arrived({ folios })),
          catchError(failed),
        ),
      ),
    ),
  { functional: true },
);

/** Starts a folio; where its file cannot be read the folio is taken back, so that nothing half-made stays. */
export const startFolio = createEffect(
  (actions = inject(Actions), api = inject(Api)) =>
    actions.pipe(
      ofType(foliosActions.start),
      exhaustMap(({ title, file }) =>
        api.createFolio(title).pipe(
          switchMap((folio) =>
            file
              ? api.bringInSheet(folio.id, file).pipe(
                  map(() => foliosActions.started({ folio, station: 'roll' })),
                  catchError((error: unknown) =>
                    troubleOf(error).code === 'reading-doubtful'
                      ? of(foliosActions.started({ folio, station: 'roll', file }))
                      : api.deleteFolio(folio.id).pipe(switchMap(() => throwError(() => error))),
                  ),
                )
              : of(foliosActions.started({ folio, station: 'roll' })),
          ),
          catchError(failed),
        ),
      ),
    ),
  { functional: true },
);

export const openStarted = createEffect(
  (actions = inject(Actions), router = inject(Router)) =>
    actions.pipe(
      ofType(foliosActions.started),
      tap(({ folio, station }) => void router.navigate(['/folio', folio.id, station])),
    ),
  { functional: true, dispatch: false },
);

export const renameFolio = createEffect(
  (actions = inject(Actions), api = inject(Api)) =>
    actions.pipe(
      ofType(foliosActions.rename),
      concatMap(({ id, title }) =>
        api.renameFolio(id, title).pipe(
          map((folio) => foliosActions.renamed({ folio })),
          catchError(failed),
        ),
      ),
    ),
  { functional: true },
);

export const copyFolio = createEffect(
  (actions = inject(Actions), api = inject(Api)) =>
    actions.pipe(
      ofType(foliosActions.copy),
      exhaustMap(({ id, title, people }) =>
        api.copyFolio(id, title, people).pipe(
          map((folio) => foliosActions.started({ folio, station: people ? 'page' : 'roll' })),
          catchError(failed),
        ),
      ),
    ),
  { functional: true },
);

export const archiveFolio = createEffect(
  (actions = inject(Actions), api = inject(Api)) =>
    actions.pipe(
      ofType(foliosActions.archive),
      concatMap(({ id, archived }) =>
        api.archiveFolio(id, archived).pipe(
          map((folio) => foliosActions.renamed({ folio })),
          catchError(failed),
        ),
      ),
    ),
  { functional: true },
);

export const deleteFolio = createEffect(
  (actions = inject(Actions), api = inject(Api)) =>
    actions.pipe(
      ofType(foliosActions.delete),
      concatMap(({ id }) =>
        api.deleteFolio(id).pipe(
          map(() => foliosActions.deleted({ id })),
          catchError(failed),
        ),
      ),
    ),
  { functional: true },
);
