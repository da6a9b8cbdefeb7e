import {
  PLAIN_VIEW,
  type ColumnFilter,
  type Roll,
  type RollPatch,
  type View,
  type WantedChange,
} from '@scriptum/core/roll';
import type { Offer } from '@scriptum/core/tidying';
import type { Worked } from '@scriptum/core/column';
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

/** One change, and what takes it back. */
export interface Step {
  readonly patch: RollPatch;
  readonly undo: RollPatch;
  /** What was changed, to stand after “Undo”. */
  readonly what: string;
}

/** A change on its way to the server. */
export interface QueuedPatch {
  readonly folioId: string;
  readonly patch: RollPatch;
}

/** A change that somebody can still insist on. */
export interface ContestedChange extends QueuedPatch {
  readonly message: string;
}

/** A change of how a column is worked out that people have not taken yet. */
export interface Draft {
  readonly columnId: string;
  readonly worked: Worked;
  readonly what: string;
}

export interface RollState {
  readonly view: View;
  readonly done: readonly Step[];
  readonly undone: readonly Step[];
  /** Changes that the server does not have yet, in their order; of other folios too, where one was left meanwhile. */
  readonly queue: readonly QueuedPatch[];
  /** Counts what was changed here, so that an answer of before is known to be one. */
  readonly changes: number;
  /** Why the first of them could not be saved; the others wait until that is settled. */
  readonly failure: Trouble | null;
  /** A change of columns that was not taken, since somebody else changed the same one meanwhile. */
  readonly contested: ContestedChange | null;
  readonly notice: string | null;
  readonly offers: readonly Offer[] | null;
  readonly offersOf: Roll | null;
  readonly openOffer: string | null;
  readonly lookingForOffers: boolean;
  /** The worked column whose working-out is open, and the question of it that is being marked by hand. */
  readonly openWorked: string | null;
  readonly openQuestion: string | null;
  readonly draft: Draft | null;
}

/** What the server says where two changed the same column. */
export const COLUMN_CHANGED = 'column-changed-elsewhere';

/** Steps that can be taken back. */
const STEPS = 200;

const start: RollState = {
  view: PLAIN_VIEW,
  done: [],
  undone: [],
  queue: [],
  changes: 0,
  failure: null,
  contested: null,
  notice: null,
  offers: null,
  offersOf: null,
  openOffer: null,
  lookingForOffers: false,
  openWorked: null,
  openQuestion: null,
  draft: null,
};

export const rollActions = createActionGroup({
  source: 'Roll',
  events: {
    /** Asks for a change. */
    Change: props<{ patch: WantedChange; what?: string }>(),
    Undo: emptyProps(),
    Redo: emptyProps(),
    Changed: props<{ folioId: string; roll: Roll; step: Step; how: 'do' | 'undo' | 'redo' }>(),
    Refused: props<{ trouble: Trouble }>(),
    Saved: emptyProps(),
    /** The first of the queue was refused; or, where `kept`, it could not be brought before anybody. */
    'Save Failed': props<{ trouble: Trouble; folioId: string; kept: boolean }>(),
    /** Has a contested change all the same; or leaves it. */
    Insist: props<{ contested: ContestedChange }>(),
    Yield: emptyProps(),
    /** What is in the queue leaves again. */
    Resumed: props<{ queue: readonly QueuedPatch[] }>(),
    'Look Different': props<{ view: Partial<View> }>(),
    Filter: props<{ columnId: string; filter: ColumnFilter | null }>(),
    Notice: props<{ text: string | null }>(),
    'Ask Offers': emptyProps(),
    'Offers Arrived': props<{ offers: Offer[]; roll: Roll }>(),
    'Open Offer': props<{ id: string | null }>(),
    'Open Worked': props<{ columnId: string | null }>(),
    Draft: props<{ draft: Draft | null }>(),
    'Open Question': props<{ questionId: string | null }>(),
    'Take Out': props<{ sourceId: string }>(),
    'Go Back': props<{ earlierId: string }>(),
  },
});

/** The change, where it can be insisted on. */
function contestedBy({ code, message }: Trouble, change: QueuedPatch | undefined): ContestedChange | null {
  return change?.patch.columns && code === COLUMN_CHANGED ? { ...change, message } : null;
}

function withStep(state: RollState, folioId: string, step: Step, how: 'do' | 'undo' | 'redo'): RollState {
  const queue = [...state.queue, { folioId, patch: how === 'undo' ? step.undo : step.patch }];
  const changes = state.changes + 1;
  if (how === 'undo')
    return { ...state, queue, changes, done: state.done.slice(0, -1), undone: [...state.undone, step] };
  return {
    ...state,
    queue,
    changes,
    done: [...state.done, step].slice(-STEPS),
    undone: how === 'redo' ? state.undone.slice(0, -1) : [],
  };
}

export const rollFeature = createFeature({
  name: 'roll',
  reducer: createReducer<RollState>(
    start,
    on(deskActions.opened, ({ queue, changes, failure }): RollState => ({
      ...start,
      queue,
      changes,
      failure,
    })),
    // What a whole new roll brought cannot be taken back a cell at a time.
    on(deskActions.rollArrived, (state): RollState => ({
      ...state,
      done: [],
      undone: [],
      offers: null,
      offersOf: null,
      openOffer: null,
      draft: null,
    })),
    on(rollActions.changed, (state, { folioId, step, how }): RollState => ({
      ...withStep(state, folioId, step, how),
      notice: null,
    })),
    on(rollActions.draft, (state, { draft }): RollState => ({ ...state, draft })),
    // What was said about something else goes when people go on.
    on(deskActions.pick, (state): RollState => (state.notice === null ? state : { ...state, notice: null })),
    on(rollActions.saved, (state): RollState => ({ ...state, queue: state.queue.slice(1) })),
    on(rollActions.saveFailed, (state, { trouble, kept }): RollState =>
      kept
        ? { ...state, failure: trouble }
        : {
            ...state,
            failure: trouble,
            contested: contestedBy(trouble, state.queue[0]) ?? state.contested,
            queue: state.queue.slice(1),
            done: [],
            undone: [],
          },
    ),
    on(rollActions.insist, rollActions.yield, (state): RollState => ({ ...state, contested: null })),
    on(rollActions.resumed, (state, { queue }): RollState => ({ ...state, queue, failure: null })),
    on(rollActions.lookDifferent, (state, { view }): RollState => ({
      ...state,
      notice: null,
      view: { ...state.view, ...view },
    })),
    on(rollActions.filter, (state, { columnId, filter }): RollState => {
      const { [columnId]: _, ...others } = state.view.filters;
      return {
        ...state,
        view: { ...state.view, filters: filter ? { ...others, [columnId]: filter } : others },
      };
    }),
    on(rollActions.notice, (state, { text }): RollState => ({ ...state, notice: text })),
    on(rollActions.askOffers, (state): RollState => ({ ...state, lookingForOffers: true })),
    on(rollActions.offersArrived, (state, { offers, roll }): RollState => ({
      ...state,
      offers,
      offersOf: roll,
      lookingForOffers: false,
      openOffer: offers.some(({ id }) => id === state.openOffer) ? state.openOffer : null,
    })),
    on(rollActions.openWorked, (state, { columnId }): RollState => ({
      ...state,
      openWorked: columnId,
      openQuestion: null,
      notice: null,
      draft: state.draft?.columnId === columnId ? state.draft : null,
    })),
    on(rollActions.openQuestion, (state, { questionId }): RollState => ({
      ...state,
      openQuestion: questionId,
    })),
    on(rollActions.openOffer, (state, { id }): RollState => ({ ...state, openOffer: id })),
  ),
  extraSelectors: ({ selectDone, selectUndone, selectOffers, selectOpenOffer, selectView, selectQueue }) => ({
    /** How many changes are on their way. */
    selectSaving: createSelector(selectQueue, ({ length }) => length),
    selectUndoWhat: createSelector(selectDone, (done) => done.at(-1)?.what ?? null),
    selectRedoWhat: createSelector(selectUndone, (undone) => undone.at(-1)?.what ?? null),
    selectOffer: createSelector(
      selectOffers,
      selectOpenOffer,
      (offers, id) => offers?.find((offer) => offer.id === id) ?? null,
    ),
    selectNarrowed: createSelector(
      selectView,
      (view) => view.find.trim() !== '' || view.who !== 'all' || Object.keys(view.filters).length > 0,
    ),
  }),
});
