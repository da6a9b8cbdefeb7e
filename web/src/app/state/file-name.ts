import { createSelector } from '@ngrx/store';
import { fillFields } from '@scriptum/core/fill';
import { filePath, uniquePaths } from '@scriptum/core/filing';
import { deskFeature } from './desk';
import { writingFeature } from './writing';

/** The path of each entry's paper, by entry, as the server will name it. */
export const selectFileNames = createSelector(
  deskFeature.selectRoll,
  writingFeature.selectFilingValue,
  writingFeature.selectLetterValue,
  (roll, filing, letter) => {
    if (!filing || !letter) return new Map<string, string>();
    const paths = roll.entries.map((entry) => filePath(filing, fillFields(filing.fields, entry)));
    const names = uniquePaths(paths, (index) => `${letter.name} ${index + 1}`);
    return new Map(roll.entries.map((entry, index) => [entry.id, names[index]!]));
  },
);

/** The path of the picked learner's paper. */
export const selectFileName = createSelector(
  selectFileNames,
  deskFeature.selectPickedId,
  (names, id) => names.get(id ?? '') ?? '',
);
