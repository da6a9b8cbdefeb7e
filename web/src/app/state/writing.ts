import type { Fits, Folio, Proof, WritingNow } from '@scriptum/core/contract';
import {
  allTemplatesOf,
  exceptedOf,
  exceptionsOf,
  mergeContents,
  templatesOf,
  writingsOf,
  type TemplateWriting,
  type Writing,
  type WritingContent,
  type WritingContents,
  type WritingKind,
} from '@scriptum/core/template';
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
import { deskActions } from './desk-actions';
import { deskFeature } from './desk';
import { sessionActions } from './session';

/** How a writing stands on screen. */
export interface DraftState {
  readonly folioId: string;
  /** The content on the server that this one comes from; `version` is that one's. */
  readonly base: WritingContent;
  readonly saved: 'saved' | 'changed' | 'saving' | 'failed' | 'conflict';
  /** The content that is on its way. */
  readonly sent: WritingContent | null;
  /** What somebody else wrote meanwhile, where both changed the same part. */
  readonly theirs: WritingNow | null;
}

/** A writing as it stands on screen, saved or not. */
export type Draft = Writing & DraftState;

/** A letter or placed template as it is worked on: everybody's, or, with an exception's identity, one learner's. */
export type TemplateDraft = TemplateWriting & DraftState;

export interface WritingState {
  readonly folioId: string | null;
  /** Of the open folio, and of others what is not saved yet. */
  readonly drafts: EntityState<Draft>;
  /** The letter or placed template that is worked on, where one was picked; else the first. */
  readonly templateId: string | null;
  /** The cover note that is worked on, where one was picked; else the first. */
  readonly noteId: string | null;
  /** The learner for whom everybody's letter is shown, though there is an exception. */
  readonly commonFor: string | null;
  /** Counts arrivals from the server, so that editors know when to take the text anew. */
  readonly arrival: number;
  /** Whose drafts these are, by email address. */
  readonly owner: string | null;
  readonly trouble: Trouble | null;
  /** True while the paper is on screen; else none is typeset. */
  readonly proofShown: boolean;
  readonly proof: Proof | null;
  readonly proofTrouble: Trouble | null;
  /** How the texts of the certificate that is worked on fit for everybody, as it was measured last. */
  readonly fits: { readonly templateId: string; readonly boxes: Fits['boxes'] } | null;
}

export const writingActions = createActionGroup({
  source: 'Writing',
  events: {
    Changed: props<{ id: string; content: WritingContent }>(),
    /** Another text takes its place, not by typing. */
    Replaced: props<{ id: string; content: WritingContent }>(),
    /** Another letter of the folio is the one that is written. */
    'Pick Template': props<{ id: string }>(),
    /** Another cover note of the folio is the one that is written. */
    'Pick Note': props<{ id: string }>(),
    /** Shows everybody's letter while this learner is picked, or, for null, what the picked learner gets. */
    'Show Common': props<{ entryId: string | null }>(),
    /** Save now what has changed. */
    Flush: emptyProps(),
    Saving: props<{ id: string }>(),
    Saved: props<{ folioId: string; id: string; version: number }>(),
    'Save Failed': props<{ id: string; trouble: Trouble }>(),
    /** The server has another version than the one that was changed. */
    Overtaken: props<{ id: string; now: WritingNow }>(),
    /** Somebody else changed it. */
    Heard: props<{ id: string; now: WritingNow }>(),
    /** What to do where both changed the same part. A copy of one's own was kept where `theirs` is taken by choice. */
    Settle: props<{ id: string; take: 'mine' | 'theirs' | 'theirs, mine kept' }>(),
    Settled: props<{ id: string; take: 'mine' | 'theirs' }>(),
    'Proof Shown': emptyProps(),
    'Proof Hidden': emptyProps(),
    'Proof Arrived': props<{ proof: Proof }>(),
    'Proof Failed': props<{ trouble: Trouble }>(),
    'Fits Arrived': props<{ templateId: string; boxes: Fits['boxes'] }>(),
  },
});

const drafts = createEntityAdapter<Draft>();

const start: WritingState = {
  folioId: null,
  drafts: drafts.getInitialState(),
  templateId: null,
  noteId: null,
  commonFor: null,
  arrival: 0,
  owner: null,
  trouble: null,
  proofShown: false,
  proof: null,
  proofTrouble: null,
  fits: null,
};

const fresh = (folioId: string, writing: Writing): Draft => ({
  ...writing,
  folioId,
  base: writing.content,
  saved: 'saved',
  sent: null,
  theirs: null,
});

/** Takes in what the server has; what is not saved yet stays, with the other's changes in it where they go together. */
function arrive(state: WritingState, folio: Folio): WritingState {
  const known = state.drafts.entities;
  const mine = drafts.getSelectors().selectAll(state.drafts);
  const here = folio.writings.map((writing): Draft => {
    const draft = known[writing.id];
    // An answer that was on its way while a save arrived knows nothing of what was saved.
    if (draft && draft.version > writing.version) return draft;
    if (!draft || draft.saved === 'saved') return fresh(folio.id, writing);
    // What is on its way is answered for by itself.
    if (draft.sent) return draft;
    const merged = overtake(draft, { writing, changedAt: '', changedBy: null });
    // Who it was and when is told with the next save, which is refused.
    return merged.saved === 'conflict' ? draft : merged;
  });
  const others = mine.filter(({ folioId, saved }) => folioId !== folio.id && saved !== 'saved');
  return {
    ...state,
    folioId: folio.id,
    drafts: drafts.setAll([...here, ...others], state.drafts),
    arrival: state.arrival + 1,
    trouble: null,
    proof: state.folioId === folio.id ? state.proof : null,
    fits: state.folioId === folio.id ? state.fits : null,
    proofTrouble: null,
  };
}

/** Puts unsaved changes onto a later version, where both go together; else somebody has to look. */
function overtake(draft: Draft, now: WritingNow): Draft {
  const { writing } = now;
  if (writing.version === draft.version) return settled({ ...draft, sent: null });
  // What is on the server is what was sent: only the answer was lost.
  if (draft.sent && same(draft.sent, writing.content))
    return settled({ ...draft, version: writing.version, base: writing.content, sent: null });
  const content = mergeContents(draft.base, draft.content, writing.content as WritingContent);
  if (!content) return { ...draft, saved: 'conflict', sent: null, theirs: now };
  return settled({
    ...draft,
    content,
    version: writing.version,
    base: writing.content,
    sent: null,
    theirs: null,
  } as Draft);
}

const settled = (draft: Draft): Draft => ({
  ...draft,
  saved: same(draft.content, draft.base) ? 'saved' : 'changed',
});

const same = (a: unknown, b: unknown): boolean => a === b || JSON.stringify(a) === JSON.stringify(b);

const update = (state: WritingState, id: string, change: (draft: Draft) => Draft): WritingState => ({
  ...state,
  drafts: drafts.mapOne({ id, map: change }, state.drafts),
});

/** What is kept where a content is written: for an exception the template as one learner has it, upon everybody's as it is now. */
function kept({ drafts: all }: WritingState, draft: Draft, content: WritingContent): WritingContent {
  if (draft.kind !== 'exception' || !('kind' in content) || content.kind === 'exception') return content;
  const common = all.entities[draft.content.of]?.content;
  const base = common && 'kind' in common && common.kind !== 'exception' ? common : draft.content.base;
  return { ...draft.content, base, own: content };
}

/** One word for all: what is least safe decides. */
export const worstOf = (all: readonly Draft[]): Draft['saved'] =>
  (['conflict', 'failed', 'changed', 'saving'] as const).find((state) =>
    all.some(({ saved }) => saved === state),
  ) ?? 'saved';

export const writingFeature = createFeature({
  name: 'writing',
  reducer: createReducer<WritingState>(
    start,
    on(deskActions.folioArrived, deskActions.rollArrived, (state, { folio }): WritingState =>
      arrive(state, folio),
    ),
    on(writingActions.changed, (state, { id, content }): WritingState =>
      update(state, id, (draft) => ({
        ...draft,
        content: kept(state, draft, content) as never,
        saved: draft.saved === 'conflict' ? 'conflict' : 'changed',
      })),
    ),
    on(writingActions.showCommon, (state, { entryId }): WritingState => ({
      ...state,
      commonFor: entryId,
      proof: null,
    })),
    on(writingActions.pickTemplate, (state, { id }): WritingState => ({
      ...state,
      templateId: id,
      proof: null,
    })),
    on(writingActions.pickNote, (state, { id }): WritingState => ({ ...state, noteId: id })),
    on(writingActions.replaced, (state, { id, content }): WritingState => ({
      ...update(state, id, (draft) => ({
        ...draft,
        content: kept(state, draft, content) as never,
        saved: 'changed',
      })),
      arrival: state.arrival + 1,
    })),
    on(writingActions.saving, (state, { id }): WritingState =>
      update(state, id, (draft) => ({ ...draft, saved: 'saving', sent: draft.content })),
    ),
    on(writingActions.saved, (state, { folioId, id, version }): WritingState => ({
      ...update(state, id, (draft) =>
        draft.folioId === folioId && draft.sent && version > draft.version
          ? // What was typed while the save was under way is still to be saved.
            settled({ ...draft, version, base: draft.sent, sent: null })
          : draft,
      ),
      trouble: null,
    })),
    on(writingActions.saveFailed, (state, { id, trouble }): WritingState => ({
      ...update(state, id, (draft) => ({ ...draft, saved: 'failed' })),
      trouble,
    })),
    on(writingActions.overtaken, (state, { id, now }): WritingState => ({
      ...update(state, id, (draft) => overtake(draft, now)),
      arrival: state.arrival + 1,
    })),
    on(writingActions.heard, (state, { id, now }): WritingState => ({
      ...update(state, id, (draft) =>
        // While a save is under way its own answer says what is there.
        (draft.sent && draft.saved !== 'failed') || now.writing.version <= draft.version
          ? draft
          : overtake(draft, now),
      ),
      arrival: state.arrival + 1,
    })),
    on(writingActions.settled, (state, { id, take }): WritingState => ({
      ...update(state, id, (draft) => {
        const writing = draft.theirs?.writing;
        if (!writing) return draft;
        const next = { ...draft, version: writing.version, base: writing.content, theirs: null, sent: null };
        return settled(take === 'mine' ? next : ({ ...next, content: writing.content } as Draft));
      }),
      arrival: state.arrival + 1,
      trouble: null,
    })),
    // Somebody else at this screen gets nothing of what the one before wrote.
    on(sessionActions.known, (state, { me }): WritingState =>
      me.staff === null || (state.owner !== null && state.owner !== me.staff.email)
        ? start
        : { ...state, owner: me.staff.email },
    ),
    on(writingActions.proofShown, (state): WritingState => ({ ...state, proofShown: true })),
    // What is shown next may be of somebody else.
    on(writingActions.proofHidden, (state): WritingState => ({ ...state, proofShown: false, proof: null })),
    on(writingActions.proofArrived, (state, { proof }): WritingState => ({
      ...state,
      proof,
      proofTrouble: null,
    })),
    on(writingActions.fitsArrived, (state, { templateId, boxes }): WritingState => ({
      ...state,
      fits: { templateId, boxes },
    })),
    on(writingActions.proofFailed, (state, { trouble }): WritingState => ({
      ...state,
      proofTrouble: trouble,
    })),
  ),
  extraSelectors: ({ selectFolioId, selectDrafts, selectTemplateId, selectNoteId, selectCommonFor }) => {
    const selectAllDrafts = createSelector(selectDrafts, drafts.getSelectors().selectAll);
    const selectHere = createSelector(selectAllDrafts, selectFolioId, (all, folioId) =>
      all.filter((draft) => draft.folioId === folioId),
    );
    const first = <Kind extends WritingKind>(kind: Kind) =>
      createSelector(selectHere, (here) => writingsOf(here, kind)[0] ?? null);
    const selectAllTemplates = createSelector(selectHere, (here) => allTemplatesOf(here));
    const selectCommonTemplate = createSelector(
      selectAllTemplates,
      selectTemplateId,
      (templates, id) => templates.find((one) => one.id === id) ?? templates[0] ?? null,
    );
    const selectExceptions = createSelector(selectHere, (here) => writingsOf(here, 'exception'));
    const selectExceptionHere = createSelector(
      selectExceptions,
      selectCommonTemplate,
      deskFeature.selectPickedId,
      (all, template, entryId) =>
        all.find(({ content }) => content.of === template?.id && content.entryId === entryId) ?? null,
    );
    const selectTemplate = createSelector(
      selectCommonTemplate,
      selectExceptionHere,
      selectCommonFor,
      (template, exception, commonFor): TemplateDraft | null =>
        template && exception && exception.content.entryId !== commonFor
          ? ({ ...exception, ...exceptedOf(exception, template) } as TemplateDraft)
          : template,
    );
    const selectTemplates = createSelector(selectHere, (here) => templatesOf(here));
    const selectNotes = createSelector(selectHere, (here) => writingsOf(here, 'note'));
    const selectNote = createSelector(
      selectNotes,
      selectNoteId,
      (notes, id) => notes.find((one) => one.id === id) ?? notes[0] ?? null,
    );
    const selectFiling = first('filing');
    const selectSorting = first('sorting');
    return {
      selectAllDrafts,
      selectHere,
      /** In their order. */
      selectAllTemplates,
      /** The letter or placed template that is worked on, as everybody has it. */
      selectCommonTemplate,
      /** What is worked on: everybody's, or the picked learner's own where there is an exception. */
      selectTemplate,
      selectExceptions,
      /** The picked learner's exception in the template that is worked on. */
      selectExceptionHere,
      /** The exceptions as papers are made from them. */
      selectExcepted: createSelector(selectExceptions, selectTemplates, (all, templates) =>
        exceptionsOf(all, templates),
      ),
      selectExceptedIds: createSelector(
        selectExceptions,
        (all): ReadonlySet<string> => new Set(all.map(({ content }) => content.entryId)),
      ),
      /** The cover notes in their order. */
      selectNotes,
      /** The one that is worked on. */
      selectNote,
      /** The web forms in their order. */
      selectForms: createSelector(selectHere, (here) => writingsOf(here, 'form')),
      selectFiling,
      selectSorting,
      selectTemplates,
      selectTemplateValue: createSelector(selectTemplate, (draft) => draft?.content ?? null),
      selectFilingValue: createSelector(selectFiling, (draft) => draft?.content ?? null),
      selectSortingValue: createSelector(selectSorting, (draft) => draft?.content ?? null),
      /** Also of other folios: it is the same person's work. */
      selectSaved: createSelector(selectAllDrafts, worstOf),
      /** The first of those that two people changed at once. */
      selectConflict: createSelector(
        selectHere,
        (here) => here.find(({ theirs }) => theirs !== null) ?? null,
      ),
    };
  },
});

export type { WritingContents };
