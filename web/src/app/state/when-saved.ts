import { type Store } from '@ngrx/store';
import { combineLatest, defer, filter, map, take, tap, type Observable } from 'rxjs';
import type { Trouble } from '../api/api';
import { rollFeature } from './roll';
import { worstOf, writingActions, writingFeature } from './writing';

/** What came of saving everything: null where all of it is saved, else why not. */
export interface SavedAll {
  readonly folioId: string | null;
  readonly unsaved: Trouble | null;
}

const UNSAVED: Trouble = { code: 'unsaved', message: 'The last changes could not be saved.' };
const OVERTAKEN: Trouble = {
  code: 'changed-elsewhere',
  message: 'Somebody else changed the same text meanwhile. Decide first which one is to stay.',
};

/**
 * Saves what has changed, in the texts and in the roll, and emits once when that is done, or when it is known that it cannot
 * be done.
 */
export function whenSaved(store: Store): Observable<SavedAll> {
  return defer(() => {
    store.dispatch(writingActions.flush());
    return combineLatest([
      store.select(writingFeature.selectWritingState),
      store.select(writingFeature.selectHere),
      store.select(rollFeature.selectRollState),
    ]).pipe(
      filter(
        ([{ folioId }, drafts, { queue, failure }]) =>
          (failure !== null || queue.every((one) => one.folioId !== folioId)) &&
          drafts.every(({ saved }) => saved !== 'changed' && saved !== 'saving'),
      ),
      map(([{ folioId, trouble }, drafts, { failure }]): SavedAll => {
        const worst = worstOf(drafts);
        const unsaved = failure ?? (worst === 'conflict' ? OVERTAKEN : null);
        return { folioId, unsaved: unsaved ?? (worst === 'failed' ? (trouble ?? UNSAVED) : null) };
      }),
      take(1),
    );
  });
}

/** A sentence for the person, thrown where something has to wait until all is saved. */
export class Unsaved extends Error {}

/** The same, but throws where something could not be saved: what comes after would stand on what nobody has. */
export const allSaved = (store: Store): Observable<SavedAll> =>
  whenSaved(store).pipe(
    tap(({ unsaved }) => {
      if (unsaved) throw new Unsaved(unsaved.message);
    }),
  );
