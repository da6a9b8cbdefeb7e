import type { Checks, SeenFindings } from '@scriptum/core/contract';
import type { Finding } from '@scriptum/core/preflight';
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
import { deskActions } from './desk-actions';

export type Seen = SeenFindings['seen'][number];

export interface ChecksState {
  readonly folioId: string | null;
  /** What was found out about papers as they would come out; null before anything was told. */
  readonly checks: Checks | null;
  readonly seen: readonly Seen[];
  readonly trouble: Trouble | null;
}

export const checksActions = createActionGroup({
  source: 'Checks',
  events: {
    Asked: emptyProps(),
    Arrived: props<{ folioId: string; checks: Checks }>(),
    'Seen Asked': emptyProps(),
    'Seen Arrived': props<{ folioId: string; seen: readonly Seen[] }>(),
    /** Findings are right as they are, or not any more. */
    See: props<{ marks: string[]; right: boolean }>(),
    Failed: props<{ trouble: Trouble }>(),
  },
});

const start: ChecksState = { folioId: null, checks: null, seen: [], trouble: null };
const NONE: readonly Finding[] = [];

export const checksFeature = createFeature({
  name: 'checks',
  reducer: createReducer<ChecksState>(
    start,
    on(deskActions.opened, (state, { folioId }): ChecksState =>
      state.folioId === folioId ? state : { ...start, folioId },
    ),
    on(checksActions.arrived, (state, { folioId, checks }): ChecksState =>
      state.folioId === folioId ? { ...state, checks: keptSame(state.checks, checks) } : state,
    ),
    on(checksActions.seenArrived, (state, { folioId, seen }): ChecksState =>
      state.folioId === folioId ? { ...state, seen, trouble: null } : state,
    ),
    on(checksActions.failed, (state, { trouble }): ChecksState => ({ ...state, trouble })),
  ),
  extraSelectors: ({ selectChecks, selectSeen }) => ({
    selectMeasured: createSelector(selectChecks, (checks) => checks?.findings ?? NONE),
    selectMarks: createSelector(selectSeen, (seen) => new Set(seen.map(({ mark }) => mark))),
  }),
});

/** The same list of findings as long as they say the same, so that nothing is drawn anew. */
function keptSame(before: Checks | null, now: Checks): Checks {
  return before && JSON.stringify(before.findings) === JSON.stringify(now.findings)
    ? { ...now, findings: before.findings }
    : now;
}
