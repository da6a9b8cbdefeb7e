import type { ChangeHook, HookList } from '@scriptum/core/contract';
import { createActionGroup, createFeature, createReducer, emptyProps, on, props } from '@ngrx/store';
import type { Trouble } from '../../api/api';
import { deskActions } from '../../state/desk-actions';

export interface HooksState {
  readonly folioId: string | null;
  /** Null until they are known. */
  readonly hooks: HookList['hooks'] | null;
  /** A key that was just made: it is told once. */
  readonly key: HookList['key'];
  /** True where there is a practice service. */
  readonly practice: boolean;
  readonly said: string;
  readonly busy: boolean;
  readonly trouble: Trouble | null;
}

export const hooksActions = createActionGroup({
  source: 'Hooks',
  events: {
    Asked: emptyProps(),
    Arrived: props<{ folioId: string; list: HookList }>(),
    Failed: props<{ trouble: Trouble }>(),
    Add: props<{ hookId: string; name: string }>(),
    Change: props<{ hookId: string; change: ChangeHook }>(),
    'New Key': props<{ hookId: string }>(),
    Delete: props<{ hookId: string }>(),
    /** Has the practice service send something. */
    Practise: props<{ hookId: string }>(),
    Practised: props<{ says: string }>(),
    'Key Noted': emptyProps(),
  },
});

const start: HooksState = {
  folioId: null,
  hooks: null,
  key: null,
  practice: false,
  said: '',
  busy: false,
  trouble: null,
};

export const hooksFeature = createFeature({
  name: 'hooks',
  reducer: createReducer<HooksState>(
    start,
    on(deskActions.folioArrived, (state, { folio }): HooksState =>
      state.folioId === folio.id ? state : { ...start, folioId: folio.id },
    ),
    on(hooksActions.arrived, (state, { folioId, list }): HooksState =>
      state.folioId === folioId
        ? {
            ...state,
            hooks: list.hooks,
            practice: list.practice,
            // Only whoever asked for it is told, so it stays until it is noted down.
            key: list.key ?? state.key,
            busy: false,
          }
        : state,
    ),
    on(hooksActions.failed, (state, { trouble }): HooksState => ({ ...state, busy: false, trouble })),
    on(hooksActions.practised, (state, { says }): HooksState => ({ ...state, busy: false, said: says })),
    on(hooksActions.keyNoted, (state): HooksState => ({ ...state, key: null })),
    on(
      hooksActions.add,
      hooksActions.change,
      hooksActions.newKey,
      hooksActions.delete,
      hooksActions.practise,
      (state): HooksState => ({ ...state, busy: true, said: '', trouble: null }),
    ),
  ),
});
