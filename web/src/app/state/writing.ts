import type { Folio, Proof } from '@scriptum/core/contract';
import type { CoverNote, Field, Filing, Letter } from '@scriptum/core/template';
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

/** The three things of a folio that people write. */
export interface Writings {
  readonly letter: Letter;
  readonly note: CoverNote;
  readonly filing: Filing;
}
export type WritingKind = keyof Writings;

interface Draft<T> {
  readonly value: T;
  /** The version on the server that this one comes from. */
  readonly version: number;
  readonly saved: 'saved' | 'changed' | 'saving' | 'failed';
}

export interface WritingState {
  readonly folioId: string | null;
  readonly letter: Draft<Letter> | null;
  readonly note: Draft<CoverNote> | null;
  readonly filing: Draft<Filing> | null;
  /** Counts arrivals from the server, so that editors know when to take the text anew. */
  readonly arrival: number;
  readonly trouble: Trouble | null;
  /** True while the paper is on screen; else none is typeset. */
  readonly proofShown: boolean;
  readonly proof: Proof | null;
  readonly proofTrouble: Trouble | null;
}

export const writingActions = createActionGroup({
  source: 'Writing',
  events: {
    Changed: props<{ change: Partial<Writings> }>(),
    /** Save now what has changed. */
    Flush: emptyProps(),
    Saving: props<{ kind: WritingKind }>(),
    Saved: props<{ kind: WritingKind; version: number }>(),
    'Save Failed': props<{ kind: WritingKind; trouble: Trouble }>(),
    'Proof Shown': emptyProps(),
    'Proof Hidden': emptyProps(),
    'Proof Arrived': props<{ proof: Proof }>(),
    'Proof Failed': props<{ trouble: Trouble }>(),
  },
});

const KINDS: readonly WritingKind[] = ['letter', 'note', 'filing'];

const start: WritingState = {
  folioId: null,
  letter: null,
  note: null,
  filing: null,
  arrival: 0,
  trouble: null,
  proofShown: false,
  proof: null,
  proofTrouble: null,
};

function arrive(state: WritingState, folio: Folio): WritingState {
  const same = state.folioId === folio.id;
  return {
    folioId: folio.id,
    letter: { value: folio.letter, version: folio.letterVersion, saved: 'saved' },
    note: { value: folio.note, version: folio.noteVersion, saved: 'saved' },
    filing: { value: folio.filing, version: folio.filingVersion, saved: 'saved' },
    arrival: state.arrival + 1,
    trouble: null,
    proofShown: state.proofShown,
    proof: same ? state.proof : null,
    proofTrouble: null,
  };
}

const mark = (
  state: WritingState,
  kind: WritingKind,
  change: { saved: Draft<unknown>['saved']; version?: number },
): WritingState => (state[kind] ? { ...state, [kind]: { ...state[kind], ...change } } : state);

export const writingFeature = createFeature({
  name: 'writing',
  reducer: createReducer<WritingState>(
    start,
    on(deskActions.folioArrived, deskActions.rollArrived, (state, { folio }): WritingState =>
      arrive(state, folio),
    ),
    on(writingActions.changed, (state, { change }): WritingState =>
      KINDS.reduce<WritingState>((next, kind) => {
        const draft = next[kind];
        return change[kind] && draft
          ? { ...next, [kind]: { ...draft, value: change[kind], saved: 'changed' } }
          : next;
      }, state),
    ),
    on(writingActions.saving, (state, { kind }): WritingState => mark(state, kind, { saved: 'saving' })),
    on(writingActions.saved, (state, { kind, version }): WritingState => ({
      // What was typed while the save was under way is still to be saved.
      ...mark(state, kind, { version, saved: state[kind]?.saved === 'saving' ? 'saved' : 'changed' }),
      trouble: null,
    })),
    on(writingActions.saveFailed, (state, { kind, trouble }): WritingState => ({
      ...mark(state, kind, { saved: 'failed' }),
      trouble,
    })),
    on(writingActions.proofShown, (state): WritingState => ({ ...state, proofShown: true })),
    // What is shown next may be of somebody else.
    on(writingActions.proofHidden, (state): WritingState => ({ ...state, proofShown: false, proof: null })),
    on(writingActions.proofArrived, (state, { proof }): WritingState => ({
      ...state,
      proof,
      proofTrouble: null,
    })),
    on(writingActions.proofFailed, (state, { trouble }): WritingState => ({
      ...state,
      proofTrouble: trouble,
    })),
  ),
  extraSelectors: ({ selectLetter, selectNote, selectFiling }) => ({
    selectLetterValue: createSelector(selectLetter, (draft) => draft?.value ?? null),
    selectNoteValue: createSelector(selectNote, (draft) => draft?.value ?? null),
    selectFilingValue: createSelector(selectFiling, (draft) => draft?.value ?? null),
    /** One word for all three: what is least safe decides. */
    selectSaved: createSelector(selectLetter, selectNote, selectFiling, (...drafts) => {
      const states = drafts.map((draft) => draft?.saved ?? 'saved');
      return (['failed', 'changed', 'saving'] as const).find((state) => states.includes(state)) ?? 'saved';
    }),
  }),
});

/** The same fields with one of them filled by another column. */
export const rematch = (fields: readonly Field[], fieldId: string, columnId: string | null): Field[] =>
  fields.map((field) => (field.id === fieldId ? { ...field, columnId } : field));
