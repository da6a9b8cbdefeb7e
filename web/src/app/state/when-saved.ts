import { type Store } from '@ngrx/store';
import { combineLatest, defer, filter, map, take, type Observable } from 'rxjs';
import { rollFeature } from './roll';
import { writingActions, writingFeature, type WritingState } from './writing';

/**
 * Saves what has changed, in the texts and in the roll, and emits once when that is done; a draft that could not be saved
 * is marked as failed.
 */
export function whenSaved(store: Store): Observable<WritingState> {
  return defer(() => {
    store.dispatch(writingActions.flush());
    return combineLatest([
      store.select(writingFeature.selectWritingState),
      store.select(rollFeature.selectSaving),
    ]).pipe(
      filter(
        ([state, saving]) =>
          saving === 0 &&
          [state.letter, state.note, state.filing].every(
            (draft) => !draft || draft.saved === 'saved' || draft.saved === 'failed',
          ),
      ),
      map(([state]) => state),
      take(1),
    );
  });
}

/** True where something on screen could not be saved. */
export const hasUnsaved = (state: WritingState): boolean =>
  [state.letter, state.note, state.filing].some((draft) => draft?.saved === 'failed');
