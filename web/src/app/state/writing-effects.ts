import { inject } from '@angular/core';
import { Actions, createEffect, ofType } from '@ngrx/effects';
import { concatLatestFrom } from '@ngrx/operators';
import { Store, type Action } from '@ngrx/store';
import {
  asapScheduler,
  auditTime,
  catchError,
  concat,
  concatMap,
  debounceTime,
  defer,
  EMPTY,
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
import { writingActions, writingFeature, type WritingKind, type WritingState } from './writing';

const KINDS: readonly WritingKind[] = ['letter', 'note', 'filing'];
const SAVE_AFTER = 400;

/**
 * Typesets the picked learner's paper whenever the letter, the roll or the pick changes while it is on screen. The newest
 * request wins.
 */
export const typesetProof = createEffect(
  (actions = inject(Actions), api = inject(Api), store = inject(Store)) =>
    actions.pipe(
      filter(
        (action: Action & { change?: { letter?: unknown } }) =>
          action.type === writingActions.proofShown.type ||
          action.type === writingActions.proofHidden.type ||
          action.type === deskActions.pick.type ||
          action.type === deskActions.folioArrived.type ||
          action.type === deskActions.rollArrived.type ||
          action.type === rollActions.saved.type ||
          (action.type === writingActions.changed.type && action.change?.letter !== undefined),
      ),
      // Several actions of one keystroke make one request, which leaves before the screen is drawn anew.
      auditTime(0, asapScheduler),
      concatLatestFrom(() => [
        store.select(writingFeature.selectWritingState),
        store.select(deskFeature.selectPickedId),
      ]),
      switchMap(([, { folioId, letter, proofShown }, pickedId]) =>
        folioId && letter && proofShown
          ? api.proof(folioId, pickedId, letter.value).pipe(
              map((proof) => writingActions.proofArrived({ proof })),
              catchError((error: unknown) => of(writingActions.proofFailed({ trouble: troubleOf(error) }))),
            )
          : EMPTY,
      ),
    ),
  { functional: true },
);

/** Everything saves itself, a moment after the last change, one save at a time. */
export const save = createEffect(
  (actions = inject(Actions), api = inject(Api), store = inject(Store)) => {
    const settled = actions.pipe(ofType(writingActions.changed), debounceTime(SAVE_AFTER));
    const now = actions.pipe(ofType(writingActions.flush, deskActions.closed));
    return merge(settled, now).pipe(
      concatMap(() =>
        from(KINDS).pipe(
          concatMap((kind) =>
            store.select(writingFeature.selectWritingState).pipe(
              take(1),
              mergeMap((state) => saveOne(api, state, kind)),
            ),
          ),
        ),
      ),
    );
  },
  { functional: true },
);

function saveOne(api: Api, state: WritingState, kind: WritingKind): Observable<Action> {
  const { folioId } = state;
  const draft = state[kind];
  if (!folioId || !draft || (draft.saved !== 'changed' && draft.saved !== 'failed')) return EMPTY;
  const request = defer(() => {
    if (kind === 'letter') return api.saveLetter(folioId, draft.version, state.letter!.value);
    if (kind === 'note') return api.saveNote(folioId, draft.version, state.note!.value);
    return api.saveFiling(folioId, draft.version, state.filing!.value);
  });
  return concat(
    of(writingActions.saving({ kind })),
    request.pipe(
      map(({ version }) => writingActions.saved({ kind, version })),
      catchError((error: unknown) => of(writingActions.saveFailed({ kind, trouble: troubleOf(error) }))),
    ),
  );
}
