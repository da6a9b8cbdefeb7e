import { createSelector } from '@ngrx/store';
import { asksPapers, type Made } from '@scriptum/core/condition';
import { sorterOf, type SortedBy } from '@scriptum/core/sorting';
import { emptySorting } from '@scriptum/core/template';
import { deskFeature } from './desk';
import { registerFeature } from './register';
import { writingFeature } from './writing';

const NEW: Made = { isNew: true, changed: false };
const NONE: ReadonlyMap<string, Made> = new Map();
const NO_RULES = emptySorting();

const selectSorting = createSelector(writingFeature.selectSortingValue, (sorting) => sorting ?? NO_RULES);

/** What was made before; the same where no rule asks for it, so that the progress of a press changes nothing. */
const selectMadeAsked = createSelector(selectSorting, registerFeature.selectMade, ({ rules }, made) =>
  rules.some((rule) => rule.if !== null && asksPapers(rule.if)) ? made : NONE,
);

/** What sorting looks at, as it stands on screen. */
export const selectSortedBy = createSelector(
  selectSorting,
  deskFeature.selectColumns,
  selectMadeAsked,
  (sorting, columns, made): SortedBy => ({ sorting, columns, made: (id) => made.get(id) ?? NEW }),
);

/** Says what each entry gets. */
export const selectSorter = createSelector(writingFeature.selectTemplates, selectSortedBy, (templates, by) =>
  sorterOf(templates, by),
);
