import { createSelector } from '@ngrx/store';
import { paperKey, planNames, type PlannedName } from '@scriptum/core/paper';
import { deskFeature } from './desk';
import { registerFeature } from './register';
import { selectSortedBy } from './sorting';
import { writingFeature } from './writing';

/** The papers of each entry with their paths, as the server will name them, by entry. */
export const selectFileNames = createSelector(
  deskFeature.selectRoll,
  writingFeature.selectFilingValue,
  writingFeature.selectTemplates,
  registerFeature.selectPresent,
  selectSortedBy,
  (roll, filing, templates, present, by) => {
    if (!filing || templates.length === 0) return new Map<string, readonly PlannedName[]>();
    const named = new Map(
      present
        .filter(({ state }) => state !== 'waiting' && state !== 'failed')
        .map((paper) => [paperKey(paper), paper.fileName]),
    );
    const names = planNames({
      roll,
      templates,
      filing,
      by,
      named: (entryId, templateId) => named.get(paperKey({ entryId, templateId })),
    });
    return new Map(
      roll.entries.map((entry, index): [string, readonly PlannedName[]] => [entry.id, names[index]!]),
    );
  },
);

/** The paths of the picked learner's papers. */
export const selectOwnFileNames = createSelector(
  selectFileNames,
  deskFeature.selectPickedId,
  (names, id): readonly string[] => (names.get(id ?? '') ?? []).map(({ fileName }) => fileName),
);
