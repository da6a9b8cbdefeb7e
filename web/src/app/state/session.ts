import type { Me } from '@scriptum/core/contract';
import {
  createActionGroup,
  createFeature,
  createReducer,
  createSelector,
  emptyProps,
  on,
  props,
} from '@ngrx/store';
import type { Trouble } from '../api/api';

export interface SessionState {
  readonly me: Me | null;
  readonly status: 'unknown' | 'asking' | 'known';
  readonly signingIn: boolean;
  readonly trouble: Trouble | null;
}

export const sessionActions = createActionGroup({
  source: 'Session',
  events: {
    Asked: emptyProps(),
    /** Something of it is another one now. */
    'Asked Again': emptyProps(),
    Known: props<{ me: Me }>(),
    'Sign In': props<{ email: string; password: string; back: string }>(),
    'Sign Out': emptyProps(),
    'Sign Out Everywhere': emptyProps(),
    Ended: emptyProps(),
    Failed: props<{ trouble: Trouble }>(),
  },
});

const start: SessionState = { me: null, status: 'unknown', signingIn: false, trouble: null };

export const sessionFeature = createFeature({
  name: 'session',
  reducer: createReducer(
    start,
    on(sessionActions.asked, (state): SessionState =>
      state.status === 'known' ? state : { ...state, status: 'asking' },
    ),
    on(sessionActions.known, (_state, { me }): SessionState => ({ ...start, me, status: 'known' })),
    on(sessionActions.signIn, (state): SessionState => ({ ...state, signingIn: true, trouble: null })),
    on(sessionActions.ended, (state): SessionState => ({
      ...state,
      me: state.me && { ...state.me, staff: null },
    })),
    on(sessionActions.failed, (state, { trouble }): SessionState => ({
      ...state,
      status: 'known',
      signingIn: false,
      trouble,
    })),
  ),
  extraSelectors: ({ selectMe }) => ({
    /** The school's; the screen's own where nobody is signed in. */
    selectTimeZone: createSelector(
      selectMe,
      (me) => me?.staff?.timeZone ?? new Intl.DateTimeFormat('en').resolvedOptions().timeZone,
    ),
  }),
});
