import type { Made } from '@scriptum/core/condition';
import type {
  DispatchPlan,
  PaperLine,
  PressKind,
  Register,
  SendPapersAgain,
  StartDispatch,
} from '@scriptum/core/contract';
import { comparePaperOrder } from '@scriptum/core/paper';
import { createEntityAdapter, type EntityState } from '@ngrx/entity';
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
import { deskActions } from './desk';

export interface RegisterState {
  readonly folioId: string | null;
  readonly papers: EntityState<PaperLine>;
  /** What else was told of the register, and up to which revision; null before anything was. */
  readonly register: Omit<Register, 'papers' | 'whole'> | null;
  readonly plan: DispatchPlan | null;
  /** A press or dispatch was asked for and has not answered yet. */
  readonly asking: boolean;
  readonly notice: string | null;
  readonly trouble: Trouble | null;
}

export const registerActions = createActionGroup({
  source: 'Register',
  events: {
    Asked: emptyProps(),
    Arrived: props<{ folioId: string; register: Register }>(),
    Press: props<{ entryIds: string[] | null; only?: PressKind[] }>(),
    Pressing: props<{ count: number; upToDate: number }>(),
    Stop: props<{ runId: string }>(),
    /** A pack was asked for, or has come further. */
    'Pack News': emptyProps(),
    /** Others shall take the place of these by name. */
    'Issue Again': props<{ paperIds: string[]; reason: string }>(),
    Hold: props<{ paperIds: string[]; hold: boolean }>(),
    Void: props<{ paperIds: string[]; reason: string }>(),
    'Plan Dispatch': emptyProps(),
    'Plan Arrived': props<{ plan: DispatchPlan }>(),
    'Plan Dropped': emptyProps(),
    Dispatch: props<StartDispatch>(),
    Queued: props<{ count: number }>(),
    'Send Again': props<{ messageId: string }>(),
    'Send Papers Again': props<SendPapersAgain>(),
    'Try Mail Again': emptyProps(),
    Failed: props<{ trouble: Trouble }>(),
    'Notice Seen': emptyProps(),
  },
});

/** States of a paper that stands for its entry now. */
const STANDING: ReadonlySet<PaperLine['state']> = new Set(['pressed', 'cleared', 'held', 'dispatched']);

const adapter = createEntityAdapter<PaperLine>({ sortComparer: comparePaperOrder });
const { selectAll } = adapter.getSelectors();

const start: RegisterState = {
  folioId: null,
  papers: adapter.getInitialState(),
  register: null,
  plan: null,
  asking: false,
  notice: null,
  trouble: null,
};

function pressNotice(count: number, upToDate: number): string | null {
  // What is being pressed is told by the bar.
  if (count > 0) return null;
  return upToDate === 1
    ? 'This paper is up to date. Nothing was pressed again.'
    : `All ${upToDate} papers are up to date. Nothing was pressed again.`;
}

function withRegister(state: RegisterState, { papers, whole, ...register }: Register): RegisterState {
  return {
    ...state,
    papers: whole ? adapter.setAll(papers, state.papers) : adapter.upsertMany(papers, state.papers),
    register,
  };
}

export const registerFeature = createFeature({
  name: 'register',
  reducer: createReducer<RegisterState>(
    start,
    on(deskActions.opened, (state, { folioId }): RegisterState =>
      state.folioId === folioId
        ? { ...state, plan: null, notice: null, trouble: null }
        : { ...start, folioId },
    ),
    on(registerActions.arrived, (state, { folioId, register }): RegisterState =>
      state.folioId === folioId ? withRegister(state, register) : state,
    ),
    on(registerActions.press, registerActions.dispatch, (state): RegisterState => ({
      ...state,
      plan: null,
      asking: true,
      notice: null,
      trouble: null,
    })),
    on(registerActions.pressing, (state, { count, upToDate }): RegisterState => ({
      ...state,
      asking: false,
      notice: pressNotice(count, upToDate),
    })),
    on(registerActions.planDispatch, (state): RegisterState => ({ ...state, notice: null, trouble: null })),
    on(registerActions.planArrived, (state, { plan }): RegisterState => ({ ...state, plan })),
    on(registerActions.planDropped, (state): RegisterState => ({ ...state, plan: null })),
    on(registerActions.queued, (state, { count }): RegisterState => ({
      ...state,
      asking: false,
      plan: null,
      notice:
        count === 0
          ? 'Nobody was left to write to.'
          : count === 1
            ? '1 message is on its way.'
            : `${count} messages are on their way.`,
    })),
    on(registerActions.failed, (state, { trouble }): RegisterState => ({
      ...state,
      asking: false,
      plan: null,
      trouble,
    })),
    on(registerActions.noticeSeen, (state): RegisterState => ({ ...state, notice: null, trouble: null })),
  ),
  extraSelectors: ({ selectRegister, selectPapers }) => {
    const selectLines = createSelector(selectPapers, selectAll);
    return {
      selectLines,
      selectRun: createSelector(selectRegister, (register) => register?.run ?? null),
      selectDispatch: createSelector(selectRegister, (register) => register?.dispatch ?? null),
      selectRevision: createSelector(selectRegister, (register) => register?.revision ?? null),
      /** The papers that stand for their entries now. */
      selectPresent: createSelector(selectLines, (lines) =>
        lines.filter(({ state }) => state !== 'superseded' && state !== 'void'),
      ),
      /** What was made for each entry, as rules of sorting ask for it; an entry without a paper is not among them. */
      selectMade: createSelector(selectLines, (lines) => {
        const made = new Map<string, Made>();
        for (const { entryId, state, entryChanged } of lines)
          if (STANDING.has(state))
            made.set(entryId, {
              isNew: false,
              changed: entryChanged && (made.get(entryId)?.changed ?? true),
            });
        return made;
      }),
      selectEarlier: createSelector(selectLines, (lines) =>
        lines.filter((paper) => paper.state === 'superseded'),
      ),
    };
  },
});
