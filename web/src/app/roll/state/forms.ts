import type { AnswerAbout, FormDoor } from '@scriptum/core/contract';
import { createActionGroup, createFeature, createReducer, emptyProps, on, props } from '@ngrx/store';
import type { Trouble } from '../../api/api';
import { deskActions } from '../../state/desk-actions';

export interface FormsState {
  readonly folioId: string | null;
  /** Where forms are answered; null until it is known. */
  readonly doors: readonly FormDoor[] | null;
  /** The form that is worked on, where one was picked; else the first. */
  readonly pickedId: string | null;
  /** The item that is worked on; null for the form as a whole. */
  readonly itemId: string | null;
  /** What is known of the answers of one entry. */
  readonly answers: { readonly entryId: string; readonly answers: readonly AnswerAbout[] } | null;
  readonly busy: boolean;
  readonly trouble: Trouble | null;
}

export const formsActions = createActionGroup({
  source: 'Forms',
  events: {
    Asked: emptyProps(),
    Arrived: props<{ folioId: string; doors: readonly FormDoor[] }>(),
    Failed: props<{ trouble: Trouble }>(),
    Pick: props<{ id: string }>(),
    'Pick Item': props<{ itemId: string | null }>(),
    Publish: props<{ id: string }>(),
    Open: props<{ id: string; isOpen: boolean }>(),
    'Ask Answers': props<{ entryId: string }>(),
    'Answers Arrived': props<{ entryId: string; answers: readonly AnswerAbout[] }>(),
    'Delete Answer': props<{ entryId: string }>(),
  },
});

const start: FormsState = {
  folioId: null,
  doors: null,
  pickedId: null,
  itemId: null,
  answers: null,
  busy: false,
  trouble: null,
};

export const formsFeature = createFeature({
  name: 'forms',
  reducer: createReducer<FormsState>(
    start,
    on(deskActions.folioArrived, (state, { folio }): FormsState =>
      state.folioId === folio.id ? state : { ...start, folioId: folio.id },
    ),
    on(formsActions.arrived, (state, { folioId, doors }): FormsState =>
      state.folioId === folioId ? { ...state, doors, busy: false, trouble: null } : state,
    ),
    on(formsActions.answersArrived, (state, { entryId, answers }): FormsState => ({
      ...state,
      answers: { entryId, answers },
    })),
    on(formsActions.failed, (state, { trouble }): FormsState => ({ ...state, busy: false, trouble })),
    on(formsActions.pick, (state, { id }): FormsState => ({
      ...state,
      pickedId: id,
      itemId: null,
      trouble: null,
    })),
    on(formsActions.pickItem, (state, { itemId }): FormsState => ({ ...state, itemId })),
    on(formsActions.publish, formsActions.open, (state): FormsState => ({
      ...state,
      busy: true,
      trouble: null,
    })),
  ),
});
