import type { Folio } from '@scriptum/core/contract';
import type { Finding } from '@scriptum/core/preflight';
import { cohortOf } from '@scriptum/core/fill';
import { createFeature, createReducer, createSelector, on } from '@ngrx/store';
import { learnerName, nameColumns, type Entry, type Roll } from '@scriptum/core/roll';
import type { Column } from '@scriptum/core/column';
import type { Trouble } from '../api/api';
import { deskActions, type SomeEntries, type StripFilter } from './desk-actions';
import { foliosActions } from './folios';
import { marksActions } from './marks-actions';
import { rollActions } from './roll';
import { mergeWorked, takeTexts, type WorkedCells } from './worked-cells';

export { deskActions, type SomeEntries, type StripFilter } from './desk-actions';

export interface DeskState {
  readonly folio: Folio | null;
  readonly status: 'closed' | 'loading' | 'open' | 'missing';
  /** The roll that names, counts and findings are worked out from: a moment behind the one that is written in. */
  readonly settled: Roll;
  /** What worked columns come to, by entry. */
  readonly worked: WorkedCells;
  /** What was found in them. */
  readonly marksFindings: readonly Finding[];
  readonly pickedId: string | null;
  readonly filter: StripFilter;
  /** Those that the filter `some` shows. */
  readonly some: SomeEntries | null;
  readonly find: string;
  readonly trouble: Trouble | null;
}

const NOBODY: Roll = { columns: [], entries: [] };

const start: DeskState = {
  folio: null,
  status: 'closed',
  settled: NOBODY,
  worked: new Map(),
  marksFindings: [],
  pickedId: null,
  filter: 'all',
  some: null,
  find: '',
  trouble: null,
};

function withFolio(state: DeskState, folio: Folio): DeskState {
  const kept = folio.roll.entries.some(({ id }) => id === state.pickedId);
  const pickedId = kept ? state.pickedId : (folio.roll.entries[0]?.id ?? null);
  return { ...state, folio, settled: folio.roll, status: 'open', pickedId, trouble: null };
}

/** Who is picked once the roll has changed: where the picked one went, whoever stands in its place. */
function pickedAfter(pickedId: string | null, before: Roll, { entries }: Roll): string | null {
  if (before.entries.length <= entries.length || entries.some(({ id }) => id === pickedId)) return pickedId;
  const at = before.entries.findIndex(({ id }) => id === pickedId);
  return (entries[at] ?? entries.at(-1))?.id ?? null;
}

/** Names are kept for as long as an entry stays the same, since a large roll changes a cell at a time. */
const known = new WeakMap<Entry, { columns: readonly Column[]; name: string }>();

function nameOf(entry: Entry, columns: readonly Column[]): string {
  const before = known.get(entry);
  if (before?.columns === columns) return before.name;
  const name = learnerName(entry, columns);
  known.set(entry, { columns, name });
  return name;
}

export const deskFeature = createFeature({
  name: 'desk',
  reducer: createReducer<DeskState>(
    start,
    on(deskActions.opened, (state, { folioId }): DeskState =>
      state.folio?.id === folioId ? { ...state, status: 'loading' } : { ...start, status: 'loading' },
    ),
    on(deskActions.closed, (state): DeskState => ({ ...state, status: 'closed', trouble: null })),
    on(deskActions.folioArrived, deskActions.rollArrived, (state, { folio }): DeskState =>
      withFolio(state, folio),
    ),
    on(deskActions.missing, (state, { trouble }): DeskState => ({
      ...state,
      folio: null,
      status: 'missing',
      trouble,
    })),
    on(deskActions.pick, (state, { entryId }): DeskState => ({ ...state, pickedId: entryId })),
    on(deskActions.filter, (state, { filter }): DeskState => ({ ...state, filter, some: null })),
    on(deskActions.showSome, (state, { some }): DeskState => ({ ...state, filter: 'some', some, find: '' })),
    on(deskActions.find, (state, { find }): DeskState => ({ ...state, find })),
    on(deskActions.pictureAdded, (state, { picture }): DeskState =>
      state.folio ? { ...state, folio: { ...state.folio, assets: [...state.folio.assets, picture] } } : state,
    ),
    on(deskActions.failed, (state, { trouble }): DeskState => ({ ...state, trouble })),
    on(rollActions.changed, (state, { roll }): DeskState =>
      state.folio
        ? {
            ...state,
            folio: { ...state.folio, roll },
            trouble: null,
            pickedId: pickedAfter(state.pickedId, state.folio.roll, roll),
          }
        : state,
    ),
    on(marksActions.workedOut, (state, { texts, entryIds, anew }): DeskState =>
      texts.length === 0 && !(anew && state.worked.size > 0)
        ? state
        : { ...state, worked: takeTexts(state.worked, texts, entryIds, anew) },
    ),
    on(marksActions.findingsArrived, (state, { findings }): DeskState => ({
      ...state,
      marksFindings: findings,
    })),
    on(deskActions.rollSettled, (state): DeskState => ({ ...state, settled: state.folio?.roll ?? NOBODY })),
    on(rollActions.refused, rollActions.saveFailed, (state, { trouble }): DeskState => ({
      ...state,
      trouble,
    })),
    on(deskActions.troubleSeen, (state): DeskState => ({ ...state, trouble: null })),
    on(foliosActions.renamed, (state, { folio }): DeskState =>
      state.folio?.id === folio.id ? { ...state, folio: { ...state.folio, title: folio.title } } : state,
    ),
  ),
  extraSelectors: ({ selectFolio, selectPickedId, selectSettled, selectWorked }) => {
    const selectWritten = createSelector(selectFolio, (folio) => folio?.roll ?? NOBODY);
    const selectRoll = createSelector(selectWritten, selectWorked, mergeWorked);
    const selectColumns = createSelector(selectRoll, (roll) => roll.columns);
    const selectNameColumns = createSelector(selectColumns, nameColumns);
    return {
      /** The roll as it is kept, without what is worked out; changes are made to this one. */
      selectWritten,
      /** The roll as people see it. */
      selectRoll,
      /** The same as it stood a moment ago. */
      selectSettledRoll: createSelector(selectSettled, selectWorked, mergeWorked),
      /** The learners as those with whom each is compared. */
      selectCohort: createSelector(selectRoll, cohortOf),
      selectColumns,
      selectNameColumns,
      selectPicked: createSelector(selectRoll, selectPickedId, (roll, id): Entry | undefined =>
        roll.entries.find((entry) => entry.id === id),
      ),
      /** The name of each entry, by identity. */
      selectNames: createSelector(
        selectSettled,
        selectNameColumns,
        (roll, names) => new Map(roll.entries.map((entry) => [entry.id, nameOf(entry, names)])),
      ),
    };
  },
});
