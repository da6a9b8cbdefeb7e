import type { FolioSummary } from '@scriptum/core/contract';
import { createEntityAdapter, type EntityState } from '@ngrx/entity';
import { createActionGroup, createFeature, createReducer, emptyProps, on, props } from '@ngrx/store';
import type { Trouble } from '../api/api';

export interface FoliosState extends EntityState<FolioSummary> {
  readonly status: 'unknown' | 'loading' | 'ready';
  readonly busy: boolean;
  readonly trouble: Trouble | null;
}

export const foliosActions = createActionGroup({
  source: 'Folios',
  events: {
    Asked: emptyProps(),
    Arrived: props<{ folios: FolioSummary[] }>(),
    /** With a file, the roll of the new folio is made of it. */
    Start: props<{ title: string; file: File | null }>(),
    /** With a file where people look how it is read before it becomes the roll. */
    Started: props<{ folio: FolioSummary; station: 'roll' | 'page'; file?: File }>(),
    Rename: props<{ id: string; title: string }>(),
    Renamed: props<{ folio: FolioSummary }>(),
    Delete: props<{ id: string }>(),
    Deleted: props<{ id: string }>(),
    Copy: props<{ id: string; title: string; people: boolean }>(),
    Archive: props<{ id: string; archived: boolean }>(),
    Failed: props<{ trouble: Trouble }>(),
  },
});

/** In the order in which the server gives them: last changed first. */
const adapter = createEntityAdapter<FolioSummary>();
const start: FoliosState = adapter.getInitialState({
  status: 'unknown' as const,
  busy: false,
  trouble: null,
});

export const foliosFeature = createFeature({
  name: 'folios',
  reducer: createReducer<FoliosState>(
    start,
    on(foliosActions.asked, (state): FoliosState => ({
      ...state,
      status: state.status === 'ready' ? 'ready' : 'loading',
      trouble: null,
    })),
    on(foliosActions.arrived, (state, { folios }): FoliosState =>
      adapter.setAll(folios, { ...state, status: 'ready' }),
    ),
    on(foliosActions.start, (state): FoliosState => ({ ...state, busy: true, trouble: null })),
    on(foliosActions.started, (state, { folio }): FoliosState =>
      adapter.upsertOne(folio, { ...state, busy: false }),
    ),
    on(foliosActions.renamed, (state, { folio }): FoliosState => adapter.upsertOne(folio, state)),
    on(foliosActions.deleted, (state, { id }): FoliosState => adapter.removeOne(id, state)),
    on(foliosActions.failed, (state, { trouble }): FoliosState => ({
      ...state,
      status: 'ready',
      busy: false,
      trouble,
    })),
  ),
  extraSelectors: ({ selectFoliosState }) => ({
    selectAll: adapter.getSelectors(selectFoliosState).selectAll,
  }),
});
