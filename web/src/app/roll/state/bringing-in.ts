import type { BringIn } from '@scriptum/core/contract';
import type { JoinSpec, RefreshDecisions } from '@scriptum/core/sources';
import type { Reading } from '@scriptum/core/table';
import { createActionGroup, createFeature, createReducer, emptyProps, on, props } from '@ngrx/store';
import type { Trouble } from '../../api/api';
import type { Comparison, JoinView, LaidOutView, OpenedView } from '../thread/sheet-desk';
import { deskActions } from '../../state/desk-actions';

/** What the file shall become. */
export type Purpose =
  | { readonly kind: 'base' }
  | { readonly kind: 'refresh'; readonly sourceId: string }
  | { readonly kind: 'join' };

export interface BringingInState {
  readonly stage: 'none' | 'opening' | 'open' | 'taking';
  readonly file: { readonly name: string; readonly bytes: number; readonly since: number } | null;
  readonly purpose: Purpose;
  readonly opened: OpenedView | null;
  /** What people asked for; the rest is found out. */
  readonly asked: Reading;
  readonly view: LaidOutView | null;
  /** The first rows alone, where the sheet cannot be laid out. */
  readonly top: LaidOutView['top'];
  readonly comparison: Comparison | null;
  readonly decisions: RefreshDecisions;
  readonly spec: JoinSpec | null;
  readonly join: JoinView | null;
  readonly comparing: boolean;
  readonly trouble: Trouble | null;
}

const DECISIONS: RefreshDecisions = { otherConflicts: 'mine', missing: 'leave out' };

const start: BringingInState = {
  stage: 'none',
  file: null,
  purpose: { kind: 'base' },
  opened: null,
  asked: {},
  view: null,
  top: [],
  comparison: null,
  decisions: DECISIONS,
  spec: null,
  join: null,
  comparing: false,
  trouble: null,
};

export const bringingInActions = createActionGroup({
  source: 'Bringing in',
  events: {
    'File Chosen': props<{ file: File; purpose: Purpose; asked?: Reading }>(),
    /** A source that is here already, to be read differently. */
    'Read Source Again': props<{ sourceId: string; fileName: string; asked: Reading }>(),
    Opening: props<{ name: string; bytes: number; since: number; purpose: Purpose; asked: Reading }>(),
    Opened: props<{ opened: OpenedView }>(),
    Ask: props<{ asked: Partial<Reading> }>(),
    'Laid Out': props<{ view: LaidOutView }>(),
    'Not Laid Out': props<{ trouble: Trouble; top: LaidOutView['top'] }>(),
    'Choose Purpose': props<{ purpose: Purpose }>(),
    Compared: props<{ comparison: Comparison }>(),
    Decide: props<{ decisions: Partial<RefreshDecisions> }>(),
    'Join By': props<{ spec: JoinSpec }>(),
    'Join Planned': props<{ join: JoinView }>(),
    Take: props<{ since: number }>(),
    Refused: props<{ trouble: Trouble }>(),
    'Trouble Seen': emptyProps(),
    Close: emptyProps(),
  },
});

/** Settings of a text file or a sheet that only make sense for the sheet they were chosen for. */
function withAsked(before: Reading, change: Partial<Reading>): Reading {
  const merged = { ...before, ...change };
  if (change.sheet === undefined && change.encoding === undefined && change.delimiter === undefined)
    return merged;
  const { header: _, ...rest } = merged;
  return change.header ? merged : rest;
}

export const bringingInFeature = createFeature({
  name: 'bringingIn',
  reducer: createReducer<BringingInState>(
    start,
    on(deskActions.opened, deskActions.rollArrived, bringingInActions.close, (): BringingInState => start),
    on(bringingInActions.opening, (_state, { name, bytes, since, purpose, asked }): BringingInState => ({
      ...start,
      stage: 'opening',
      file: { name, bytes, since },
      purpose,
      asked,
    })),
    on(bringingInActions.opened, (state, { opened }): BringingInState => ({
      ...state,
      stage: 'open',
      opened,
    })),
    on(bringingInActions.ask, (state, { asked }): BringingInState => ({
      ...state,
      asked: withAsked(state.asked, asked),
    })),
    on(bringingInActions.laidOut, (state, { view }): BringingInState => ({
      ...state,
      stage: 'open',
      view,
      top: view.top,
      trouble: null,
      comparison: null,
      join: null,
      spec: null,
    })),
    on(bringingInActions.notLaidOut, (state, { trouble, top }): BringingInState => ({
      ...state,
      stage: 'open',
      view: null,
      top,
      trouble,
    })),
    on(bringingInActions.choosePurpose, (state, { purpose }): BringingInState => ({
      ...state,
      purpose,
      comparison: null,
      join: null,
      spec: null,
      decisions: DECISIONS,
      comparing: purpose.kind !== 'base',
    })),
    on(bringingInActions.compared, (state, { comparison }): BringingInState => ({
      ...state,
      comparison,
      comparing: false,
    })),
    on(bringingInActions.decide, (state, { decisions }): BringingInState => ({
      ...state,
      decisions: { ...state.decisions, ...decisions },
    })),
    on(bringingInActions.joinBy, (state, { spec }): BringingInState => ({ ...state, spec, comparing: true })),
    on(bringingInActions.joinPlanned, (state, { join }): BringingInState => ({
      ...state,
      join,
      comparing: false,
    })),
    on(bringingInActions.take, (state, { since }): BringingInState => ({
      ...state,
      stage: 'taking',
      trouble: null,
      file: state.file && { ...state.file, since },
    })),
    on(bringingInActions.refused, (state, { trouble }): BringingInState => ({
      ...state,
      stage: state.opened ? 'open' : 'none',
      comparing: false,
      trouble,
    })),
    on(bringingInActions.troubleSeen, (state): BringingInState => ({ ...state, trouble: null })),
  ),
});

/** What the server is asked to do. */
export function askedOf(state: BringingInState): BringIn['as'] | null {
  const { purpose, decisions, spec } = state;
  if (purpose.kind === 'base') return { kind: 'base' };
  if (purpose.kind === 'refresh')
    return { kind: 'refresh', sourceId: purpose.sourceId, decisions, ...(spec ? { join: spec } : {}) };
  return spec && { kind: 'join', join: spec };
}
