import { inject } from '@angular/core';
import { applyPatch, describePatch, insistOn, isEmptyPatch, namesGone, patchOf } from '@scriptum/core/roll';
import { Actions, createEffect, ofType } from '@ngrx/effects';
import { concatLatestFrom } from '@ngrx/operators';
import { Store } from '@ngrx/store';
import {
  animationFrameScheduler,
  auditTime,
  catchError,
  delay,
  EMPTY,
  exhaustMap,
  from,
  map,
  mergeMap,
  filter,
  of,
  switchMap,
  tap,
} from 'rxjs';
import { Api, troubleOf, type Trouble } from '../../api/api';
import { newId } from '../../api/new-id';
import { SheetThread } from '../thread/sheet-thread';
import { deskActions, deskFeature } from '../../state/desk';
import { replay } from '../../state/replay';
import { COLUMN_CHANGED, rollActions, rollFeature } from '../../state/roll';
import { sessionActions } from '../../state/session';
import { allSaved } from '../../state/when-saved';
import { writingFeature } from '../../state/writing';

const failed = (error: unknown) => of(deskActions.failed({ trouble: troubleOf(error) }));

const GONE: Trouble = {
  code: 'entry-gone',
  message:
    'The entry that you wrote about is not on the roll any more: somebody else took it away meanwhile. What you wrote was not kept.',
};

/** Works a change out once, for the screen and for its undoing. */
export const change = createEffect(
  (actions = inject(Actions), store = inject(Store)) =>
    actions.pipe(
      ofType(rollActions.change),
      concatLatestFrom(() => [
        store.select(deskFeature.selectWritten),
        store.select(writingFeature.selectFolioId),
      ]),
      mergeMap(([{ patch: asked, what }, roll, folioId]) => {
        if (folioId === null) return EMPTY;
        const there = new Set(roll.entries.map(({ id }) => id));
        if (namesGone(asked, (id) => there.has(id))) return of(rollActions.refused({ trouble: GONE }));
        const patch = patchOf(asked, roll);
        const patched = applyPatch(roll, patch);
        if (!patched.ok) return of(rollActions.refused({ trouble: patched.problem }));
        const { undo } = patched.value;
        if (isEmptyPatch(undo)) return EMPTY;
        const step = { patch, undo, what: what ?? describePatch(patch, roll) };
        return of(rollActions.changed({ folioId, roll: patched.value.roll, step, how: 'do' }));
      }),
    ),
  { functional: true },
);

/** Makes a contested change on the columns as they are now. */
export const insist = createEffect(
  (actions = inject(Actions), store = inject(Store)) =>
    actions.pipe(
      ofType(rollActions.insist),
      concatLatestFrom(() => [
        store.select(deskFeature.selectWritten),
        store.select(writingFeature.selectFolioId),
      ]),
      mergeMap(([{ contested }, roll, folioId]) => {
        if (contested.folioId !== folioId) return EMPTY;
        const columns = insistOn(contested.patch.columns ?? [], roll.columns);
        const patch = { ...contested.patch, columns };
        const patched = applyPatch(roll, patch);
        if (!patched.ok) return of(rollActions.refused({ trouble: patched.problem }));
        const step = { patch, undo: patched.value.undo, what: describePatch(patch, roll) };
        return of(rollActions.changed({ folioId, roll: patched.value.roll, step, how: 'do' }));
      }),
    ),
  { functional: true },
);

export const undo = createEffect(
  (actions = inject(Actions), store = inject(Store)) =>
    actions.pipe(
      ofType(rollActions.undo),
      concatLatestFrom(() => [
        store.select(deskFeature.selectWritten),
        store.select(rollFeature.selectDone),
        store.select(writingFeature.selectFolioId),
      ]),
      mergeMap(([, roll, done, folioId]) => {
        const step = done.at(-1);
        const patched = step && applyPatch(roll, step.undo);
        return step && patched?.ok && folioId !== null
          ? of(rollActions.changed({ folioId, roll: patched.value.roll, step, how: 'undo' }))
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
        store.select(writingFeature.selectFolioId),
      ]),
      mergeMap(([, roll, undone, folioId]) => {
        const step = undone.at(-1);
        const patched = step && applyPatch(roll, step.patch);
        return step && patched?.ok && folioId !== null
          ? of(rollActions.changed({ folioId, roll: patched.value.roll, step, how: 'redo' }))
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

/** Everything saves itself, one change at a time and in order; after one that was refused the others wait. */
export const saveChange = createEffect(
  (actions = inject(Actions), api = inject(Api), store = inject(Store)) => {
    let sending = false;
    return actions.pipe(
      ofType(rollActions.changed, rollActions.resumed, rollActions.saved),
      concatLatestFrom(() => store.select(rollFeature.selectRollState)),
      mergeMap(([, { queue, failure }]) => {
        const [first] = queue;
        if (!first || failure || sending) return EMPTY;
        sending = true;
        return api.patchRoll(first.folioId, first.patch).pipe(
          map(() => rollActions.saved()),
          catchError((error: unknown) => {
            const trouble = troubleOf(error);
            const kept = trouble.code === 'signed-out';
            return of(rollActions.saveFailed({ trouble, folioId: first.folioId, kept }));
          }),
          tap(() => (sending = false)),
        );
      }),
    );
  },
  { functional: true },
);

/**
 * What could not be saved must not look as if it were: the roll is shown as the server has it, with the changes that were
 * made after it as far as they still go, and these leave.
 */
export const reloadAfterFailure = createEffect(
  (actions = inject(Actions), api = inject(Api), store = inject(Store)) =>
    actions.pipe(
      ofType(rollActions.saveFailed),
      filter(({ kept }) => !kept),
      concatLatestFrom(() => [store.select(deskFeature.selectFolio), store.select(rollFeature.selectQueue)]),
      switchMap(([{ trouble, folioId }, folio, queue]) => {
        const others = queue.filter((one) => one.folioId !== folioId);
        if (folio?.id !== folioId) {
          const message = `In another folio: ${trouble.message} That change was not kept.`;
          return of(
            rollActions.resumed({ queue: others }),
            deskActions.failed({ trouble: { ...trouble, message } }),
          );
        }
        return api.folio(folioId).pipe(
          concatLatestFrom(() => store.select(rollFeature.selectQueue)),
          mergeMap(([arrived, waiting]) => {
            const replayed = replay(arrived, waiting);
            const shown = [
              deskActions.rollArrived({ folio: replayed.folio }),
              rollActions.resumed({ queue: replayed.queue }),
            ];
            // Whose it shall be is asked, where it is about a column alone.
            if (trouble.code === COLUMN_CHANGED && replayed.lost === 0) return shown;
            const message = `${trouble.message} The last change was not kept${replayed.lost > 0 ? `, nor what was built on it (${replayed.lost})` : ''}.`;
            return [...shown, deskActions.failed({ trouble: { ...trouble, message } })];
          }),
          catchError(() => of(deskActions.failed({ trouble }))),
        );
      }),
    ),
  { functional: true },
);

/** Changes that could not leave while nobody was signed in do so after that. */
export const resumeAfterSignIn = createEffect(
  (actions = inject(Actions), store = inject(Store)) =>
    actions.pipe(
      ofType(sessionActions.known),
      concatLatestFrom(() => store.select(rollFeature.selectRollState)),
      filter(([{ me }, { failure }]) => me.staff !== null && failure?.code === 'signed-out'),
      map(([, { queue }]) => rollActions.resumed({ queue })),
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
        allSaved(store).pipe(
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
        allSaved(store).pipe(
          mergeMap(() => api.goBack(folio!.id, earlierId)),
          map((arrived) => deskActions.rollArrived({ folio: arrived })),
          catchError(failed),
        ),
      ),
    ),
  { functional: true },
);
