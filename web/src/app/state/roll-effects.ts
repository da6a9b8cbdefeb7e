import { inject } from '@angular/core';
import { applyPatch, describePatch, isEmptyPatch } from '@scriptum/core/roll';
import { Actions, createEffect, ofType } from '@ngrx/effects';
import { concatLatestFrom } from '@ngrx/operators';
import { Store } from '@ngrx/store';
import {
  animationFrameScheduler,
  auditTime,
  catchError,
  concatMap,
  delay,
  EMPTY,
  exhaustMap,
  from,
  map,
  mergeMap,
  of,
  switchMap,
} from 'rxjs';
import { Api, troubleOf } from '../api/api';
import { newId } from '../editor/new-id';
import { SheetThread } from '../roll/thread/sheet-thread';
import { deskActions, deskFeature } from './desk';
import { rollActions, rollFeature } from './roll';
import { whenSaved } from './when-saved';

const failed = (error: unknown) => of(deskActions.failed({ trouble: troubleOf(error) }));

/** Works a change out once, for the screen and for its undoing. */
export const change = createEffect(
  (actions = inject(Actions), store = inject(Store)) =>
    actions.pipe(
      ofType(rollActions.change),
      concatLatestFrom(() => store.select(deskFeature.selectWritten)),
      mergeMap(([{ patch: asked, what }, roll]) => {
        const patch = asked.columns ? { ...asked, columnsBefore: roll.columns } : asked;
        const patched = applyPatch(roll, patch);
        if (!patched.ok) return of(rollActions.refused({ trouble: patched.problem }));
        const { undo } = patched.value;
        if (isEmptyPatch(undo)) return EMPTY;
        const step = { patch, undo, what: what ?? describePatch(patch, roll) };
        return of(rollActions.changed({ roll: patched.value.roll, step, how: 'do' }));
      }),
    ),
  { functional: true },
);

export const undo = createEffect(
  (actions = inject(Actions), store = inject(Store)) =>
    actions.pipe(
      ofType(rollActions.undo),
      concatLatestFrom(() => [store.select(deskFeature.selectWritten), store.select(rollFeature.selectDone)]),
      mergeMap(([, roll, done]) => {
        const step = done.at(-1);
        const patched = step && applyPatch(roll, step.undo);
        return step && patched?.ok
          ? of(rollActions.changed({ roll: patched.value.roll, step, how: 'undo' }))
          : EMPTY;
      }),
    ),
  { functional: true },
);

export const redo = createEffect(
  (actions = inject(Actions), store = inject(Store)) =>
    actions.pipe(
      ofType(rollActions.redo),
      concatLatestFrom(() => [
        store.select(deskFeature.selectWritten),
        store.select(rollFeature.selectUndone),
      ]),
      mergeMap(([, roll, undone]) => {
        const step = undone.at(-1);
        const patched = step && applyPatch(roll, step.patch);
        return step && patched?.ok
          ? of(rollActions.changed({ roll: patched.value.roll, step, how: 'redo' }))
          : EMPTY;
      }),
    ),
  { functional: true },
);

/** What is worked out from the whole roll waits until the changed cell has been drawn. */
export const settle = createEffect(
  (actions = inject(Actions)) =>
    actions.pipe(
      ofType(rollActions.changed),
      auditTime(0, animationFrameScheduler),
      delay(0),
      map(() => deskActions.rollSettled()),
    ),
  { functional: true },
);

/** Everything saves itself, one change at a time and in order. */
export const saveChange = createEffect(
  (actions = inject(Actions), api = inject(Api), store = inject(Store)) =>
    actions.pipe(
      ofType(rollActions.changed),
      concatLatestFrom(() => store.select(deskFeature.selectFolio)),
      concatMap(([{ step, how }, folio]) =>
        folio
          ? api.patchRoll(folio.id, how === 'undo' ? step.undo : step.patch).pipe(
              map(() => rollActions.saved()),
              catchError((error: unknown) => of(rollActions.saveFailed({ trouble: troubleOf(error) }))),
            )
          : EMPTY,
      ),
    ),
  { functional: true },
);

/** What could not be saved must not look as if it were: the roll is shown as the server has it. */
export const reloadAfterFailure = createEffect(
  (actions = inject(Actions), api = inject(Api), store = inject(Store)) =>
    actions.pipe(
      ofType(rollActions.saveFailed),
      concatLatestFrom(() => store.select(deskFeature.selectFolio)),
      switchMap(([{ trouble }, folio]) =>
        folio
          ? api.folio(folio.id).pipe(
              mergeMap((arrived) => [
                deskActions.rollArrived({ folio: arrived }),
                deskActions.failed({
                  trouble: { ...trouble, message: `${trouble.message} The last change was not kept.` },
                }),
              ]),
              catchError(() => of(deskActions.failed({ trouble }))),
            )
          : EMPTY,
      ),
    ),
  { functional: true },
);

export const findOffers = createEffect(
  (actions = inject(Actions), store = inject(Store), thread = inject(SheetThread)) =>
    actions.pipe(
      ofType(rollActions.askOffers),
      concatLatestFrom(() => store.select(deskFeature.selectWritten)),
      switchMap(([, roll]) =>
        from(thread.withRoll(roll, (desk) => desk.offers(Array.from({ length: 24 }, () => newId())))).pipe(
          map((offers) => rollActions.offersArrived({ offers, roll })),
          catchError(failed),
        ),
      ),
    ),
  { functional: true },
);

export const takeOut = createEffect(
  (actions = inject(Actions), api = inject(Api), store = inject(Store)) =>
    actions.pipe(
      ofType(rollActions.takeOut),
      concatLatestFrom(() => store.select(deskFeature.selectFolio)),
      exhaustMap(([{ sourceId }, folio]) =>
        whenSaved(store).pipe(
          mergeMap(() => api.takeOutSource(folio!.id, sourceId)),
          map((arrived) => deskActions.rollArrived({ folio: arrived })),
          catchError(failed),
        ),
      ),
    ),
  { functional: true },
);

export const goBack = createEffect(
  (actions = inject(Actions), api = inject(Api), store = inject(Store)) =>
    actions.pipe(
      ofType(rollActions.goBack),
      concatLatestFrom(() => store.select(deskFeature.selectFolio)),
      exhaustMap(([{ earlierId }, folio]) =>
        whenSaved(store).pipe(
          mergeMap(() => api.goBack(folio!.id, earlierId)),
          map((arrived) => deskActions.rollArrived({ folio: arrived })),
          catchError(failed),
        ),
      ),
    ),
  { functional: true },
);
