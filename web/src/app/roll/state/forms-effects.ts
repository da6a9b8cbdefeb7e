import { inject } from '@angular/core';
import { Actions, createEffect, ofType } from '@ngrx/effects';
import { concatLatestFrom } from '@ngrx/operators';
import { Store } from '@ngrx/store';
import { catchError, concatMap, EMPTY, filter, map, of, switchMap } from 'rxjs';
import { Api, troubleOf } from '../../api/api';
import { deskActions, deskFeature } from '../../state/desk';
import { allSaved } from '../../state/when-saved';
import { writingFeature } from '../../state/writing';
import { formsActions, formsFeature } from './forms';

const failed = (error: unknown) => of(formsActions.failed({ trouble: troubleOf(error) }));

/** Asks where forms are answered; again when the roll has changed, since answers come that way. */
export const loadDoors = createEffect(
  (actions = inject(Actions), api = inject(Api), store = inject(Store)) =>
    actions.pipe(
      ofType(formsActions.asked, deskActions.folioArrived, deskActions.rollArrived),
      concatLatestFrom(() => [
        store.select(deskFeature.selectFolio),
        store.select(formsFeature.selectDoors),
        store.select(writingFeature.selectForms),
      ]),
      filter(
        ([action, , doors, forms]) =>
          forms.length > 0 && (action.type === formsActions.asked.type || doors !== null),
      ),
      switchMap(([, folio]) =>
        folio
          ? api.formDoors(folio.id).pipe(
              map(({ doors }) => formsActions.arrived({ folioId: folio.id, doors })),
              catchError(failed),
            )
          : EMPTY,
      ),
    ),
  { functional: true },
);

/** Publishes a form as it is on screen: once what was written is saved. */
export const publishForm = createEffect(
  (actions = inject(Actions), api = inject(Api), store = inject(Store)) =>
    actions.pipe(
      ofType(formsActions.publish),
      concatMap(({ id }) =>
        allSaved(store).pipe(
          concatLatestFrom(() => [
            store.select(deskFeature.selectFolio),
            store.select(writingFeature.selectForms),
          ]),
          switchMap(([, folio, forms]) => {
            const form = forms.find((one) => one.id === id);
            if (!folio || !form) return EMPTY;
            return api
              .publishForm(folio.id, id, form.version)
              .pipe(map(({ doors }) => formsActions.arrived({ folioId: folio.id, doors })));
          }),
          catchError(failed),
        ),
      ),
    ),
  { functional: true },
);

export const openForm = createEffect(
  (actions = inject(Actions), api = inject(Api), store = inject(Store)) =>
    actions.pipe(
      ofType(formsActions.open),
      concatLatestFrom(() => store.select(deskFeature.selectFolio)),
      concatMap(([{ id, isOpen }, folio]) =>
        folio
          ? api.openForm(folio.id, id, isOpen).pipe(
              map(({ doors }) => formsActions.arrived({ folioId: folio.id, doors })),
              catchError(failed),
            )
          : EMPTY,
      ),
    ),
  { functional: true },
);

export const askAnswers = createEffect(
  (actions = inject(Actions), api = inject(Api), store = inject(Store)) =>
    actions.pipe(
      ofType(formsActions.askAnswers),
      concatLatestFrom(() => store.select(deskFeature.selectFolio)),
      switchMap(([{ entryId }, folio]) =>
        folio
          ? api.answersOf(folio.id, entryId).pipe(
              map(({ answers }) => formsActions.answersArrived({ entryId, answers })),
              // The next entry asks anew.
              catchError(() => EMPTY),
            )
          : EMPTY,
      ),
    ),
  { functional: true },
);

export const deleteAnswer = createEffect(
  (actions = inject(Actions), api = inject(Api), store = inject(Store)) =>
    actions.pipe(
      ofType(formsActions.deleteAnswer),
      concatLatestFrom(() => store.select(deskFeature.selectFolio)),
      concatMap(([{ entryId }, folio]) =>
        folio
          ? api.deleteAnswer(folio.id, entryId).pipe(
              map(() => deskActions.rollNews({ folioId: folio.id })),
              catchError((error: unknown) => of(deskActions.failed({ trouble: troubleOf(error) }))),
            )
          : EMPTY,
      ),
    ),
  { functional: true },
);
