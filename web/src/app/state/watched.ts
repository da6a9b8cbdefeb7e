import type { AddWatched, ChangeWatched, WatchedFile, WatchedList } from '@scriptum/core/contract';
import { createActionGroup, createFeature, createReducer, emptyProps, on, props } from '@ngrx/store';
import type { Trouble } from '../api/api';
import { deskActions } from './desk-actions';

export interface WatchedState {
  readonly folioId: string | null;
  /** Null until they are known. */
  readonly list: WatchedList | null;
  readonly busy: boolean;
  readonly trouble: Trouble | null;
}

export const watchedActions = createActionGroup({
  source: 'Watched files',
  events: {
    /** Somebody looks at them. */
    Asked: emptyProps(),
    /** One of them was looked at, or changed. */
    News: emptyProps(),
    Arrived: props<{ folioId: string; list: WatchedList }>(),
    Failed: props<{ trouble: Trouble }>(),
    Add: props<{ asked: AddWatched }>(),
    Change: props<{ watchedId: string; change: ChangeWatched }>(),
    'Look Now': props<{ watchedId: string }>(),
    Delete: props<{ watchedId: string }>(),
    /** Shows the version that waits as a file that is being brought in. */
    'Show Version': props<{ file: WatchedFile }>(),
  },
});

const start: WatchedState = { folioId: null, list: null, busy: false, trouble: null };

export const watchedFeature = createFeature({
  name: 'watched',
  reducer: createReducer<WatchedState>(
    start,
    on(deskActions.folioArrived, (state, { folio }): WatchedState =>
      state.folioId === folio.id ? state : { ...start, folioId: folio.id },
    ),
    on(watchedActions.arrived, (state, { folioId, list }): WatchedState =>
      state.folioId === folioId ? { ...state, list, busy: false } : state,
    ),
    on(watchedActions.failed, (state, { trouble }): WatchedState => ({ ...state, busy: false, trouble })),
    on(
      watchedActions.add,
      watchedActions.change,
      watchedActions.lookNow,
      watchedActions.delete,
      (state): WatchedState => ({ ...state, busy: true, trouble: null }),
    ),
  ),
});
