import { inject } from '@angular/core';
import { Actions, createEffect, ofType } from '@ngrx/effects';
import { concatLatestFrom } from '@ngrx/operators';
import { Store, type Action } from '@ngrx/store';
import type { SaveWriting } from '@scriptum/core/contract';
import { placedOf } from '@scriptum/core/template';
import {
  asapScheduler,
  auditTime,
  catchError,
  concat,
  concatMap,
  debounceTime,
  defer,
  EMPTY,
  exhaustMap,
  filter,
  from,
  map,
  merge,
  mergeMap,
  of,
  switchMap,
  take,
  type Observable,
} from 'rxjs';
import { Api, troubleOf } from '../api/api';
import { deskActions, deskFeature } from './desk';
import { rollActions } from './roll';
import { sessionActions } from './session';
import { writingActions, writingFeature, type Draft } from './writing';

/** Milliseconds without a change after which it is saved; and those after which it is while somebody goes on typing. */
const SAVE_AFTER = 400;
const SAVE_AT_LEAST_EVERY = 3000;

/**
 * Typesets the picked learner's paper whenever the letter, the roll or the pick changes while it is on screen. The newest
 * request wins.
 */
export const typesetProof = createEffect(
  (actions = inject(Actions), api = inject(Api), store = inject(Store)) => {
    const changed = actions.pipe(
      ofType(writingActions.changed),
      concatLatestFrom(() => store.select(writingFeature.selectTemplate)),
      filter(([{ id }, letter]) => id === letter?.id),
    );
    const others = actions.pipe(
      ofType(
        writingActions.proofShown,
        writingActions.proofHidden,
        writingActions.overtaken,
        writingActions.settled,
        writingActions.replaced,
        writingActions.pickTemplate,
        writingActions.showCommon,
        deskActions.pick,
        deskActions.folioArrived,
        deskActions.rollArrived,
        rollActions.saved,
      ),
    );
    return merge(changed, others).pipe(
      // Several actions of one keystroke make one request, which leaves before the screen is drawn anew.
      auditTime(0, asapScheduler),
      concatLatestFrom(() => [
        store.select(writingFeature.selectWritingState),
        store.select(writingFeature.selectTemplateValue),
        store.select(deskFeature.selectPickedId),
      ]),
      switchMap(([, { folioId, proofShown }, letter, pickedId]) =>
        folioId && letter && proofShown
          ? api.proof(folioId, pickedId, letter).pipe(
              map((proof) => writingActions.proofArrived({ proof })),
              catchError((error: unknown) => of(writingActions.proofFailed({ trouble: troubleOf(error) }))),
            )
          : EMPTY,
      ),
    );
  },
  { functional: true },
);

/** Milliseconds without a new proof after which texts are measured for everybody. */
const MEASURE_AFTER = 700;

/** Measures how the texts of a certificate fit for everybody, once nobody changes it for a moment. */
export const measureFits = createEffect(
  (actions = inject(Actions), api = inject(Api), store = inject(Store)) =>
    actions.pipe(
      ofType(
        writingActions.changed,
        writingActions.replaced,
        writingActions.overtaken,
        writingActions.settled,
        writingActions.pickTemplate,
        writingActions.proofShown,
        deskActions.folioArrived,
        deskActions.rollArrived,
        rollActions.saved,
      ),
      debounceTime(MEASURE_AFTER),
      concatLatestFrom(() => [
        store.select(writingFeature.selectWritingState),
        store.select(writingFeature.selectCommonTemplate),
        store.select(writingFeature.selectTemplate),
      ]),
      switchMap(([, { folioId, proofShown }, draft, shown]) =>
        // One learner's own is measured with the proof.
        folioId && proofShown && draft && draft.id === shown?.id && placedOf(draft.content)
          ? api.fits(folioId, placedOf(draft.content)!, draft.id).pipe(
              map(({ boxes }) => writingActions.fitsArrived({ templateId: draft.id, boxes })),
              // What is shown of the picked learner stays; the next change asks again.
              catchError(() => EMPTY),
            )
          : EMPTY,
      ),
    ),
  { functional: true },
);

/** Everything saves itself, a moment after the last change and now and then while it goes on, one save at a time. */
export const save = createEffect(
  (actions = inject(Actions), api = inject(Api), store = inject(Store)) => {
    const changes = actions.pipe(ofType(writingActions.changed, writingActions.replaced));
    const now = actions.pipe(
      ofType(
        writingActions.flush,
        writingActions.settled,
        writingActions.overtaken,
        // What could not be saved before, such as while nobody was signed in.
        deskActions.folioArrived,
        deskActions.rollArrived,
        deskActions.closed,
      ),
    );
    return merge(
      changes.pipe(debounceTime(SAVE_AFTER)),
      changes.pipe(auditTime(SAVE_AT_LEAST_EVERY)),
      now,
    ).pipe(
      concatMap(() =>
        store.select(writingFeature.selectAllDrafts).pipe(
          take(1),
          mergeMap((drafts) => from(drafts.map(({ id }) => id))),
          concatMap((id) =>
            store.select(writingFeature.selectDrafts).pipe(
              take(1),
              mergeMap(({ entities }) => saveOne(api, entities[id])),
            ),
          ),
        ),
      ),
    );
  },
  { functional: true },
);

function saveOne(api: Api, draft: Draft | undefined): Observable<Action> {
  if (!draft || (draft.saved !== 'changed' && draft.saved !== 'failed')) return EMPTY;
  const { id, folioId, kind, name, version, content } = draft;
  const request = defer(() => api.saveWriting(folioId, id, { kind, name, version, content } as SaveWriting));
  return concat(
    of(writingActions.saving({ id })),
    request.pipe(
      map((saved) =>
        writingActions.saved({ folioId: saved.folioId, id: saved.writingId, version: saved.version }),
      ),
      catchError((error: unknown) => {
        const trouble = troubleOf(error);
        if (trouble.code !== 'changed-elsewhere') return of(writingActions.saveFailed({ id, trouble }));
        return api.writing(folioId, id).pipe(
          map((now) => writingActions.overtaken({ id, now })),
          catchError((again: unknown) => of(writingActions.saveFailed({ id, trouble: troubleOf(again) }))),
        );
      }),
    ),
  );
}

/** What somebody decided where two changed the same; where theirs is taken one's own may be kept first, under a name. */
export const settle = createEffect(
  (actions = inject(Actions), api = inject(Api), store = inject(Store)) =>
    actions.pipe(
      ofType(writingActions.settle),
      concatLatestFrom(() => store.select(writingFeature.selectDrafts)),
      exhaustMap(([{ id, take: choice }, { entities }]) => {
        const draft = entities[id];
        if (!draft) return EMPTY;
        if (choice !== 'theirs, mine kept') return of(writingActions.settled({ id, take: choice }));
        return api.keepCopy(draft.folioId, draft, `${draft.name}, my copy`).pipe(
          map(() => writingActions.settled({ id, take: 'theirs' })),
          // Then nothing is taken: the text stays on screen.
          catchError((error: unknown) => of(deskActions.failed({ trouble: troubleOf(error) }))),
        );
      }),
    ),
  { functional: true },
);

/** Signing in again goes on with what was typed; it is saved as soon as it may be. */
export const saveAfterSignIn = createEffect(
  (actions = inject(Actions)) =>
    actions.pipe(
      ofType(sessionActions.known),
      filter(({ me }) => me.staff !== null),
      map(() => writingActions.flush()),
    ),
  { functional: true },
);
