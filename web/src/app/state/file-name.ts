import { createSelector } from '@ngrx/store';
import { paperKey, planNames } from '@scriptum/core/paper';
import { deskFeature } from './desk';
import { registerFeature } from './register';
import { writingFeature } from './writing';

/** The path of each entry's paper, by entry, as the server will name it. */
export const selectFileNames = createSelector(
  deskFeature.selectRoll,
  writingFeature.selectFilingValue,
  writingFeature.selectTemplates,
  registerFeature.selectPresent,
  (roll, filing, templates, present) => {
    if (!filing || templates.length === 0) return new Map<string, string>();
    const named = new Map(
      present
        .filter(({ state }) => state !== 'waiting' && state !== 'failed')
        .map((paper) => [paperKey(paper), paper.fileName]),
    );
    const names = planNames(roll, templates, filing, (entryId, templateId) =>
      named.get(paperKey({ entryId, templateId })),
    );
    return new Map(roll.entries.map((entry, index) => [entry.id, names[index]![0]!]));
  },
);

/** The path of the picked learner's paper. */
export const selectFileName = createSelector(
  selectFileNames,
  deskFeature.selectPickedId,
  (names, id) => names.get(id ?? '') ?? '',
);
