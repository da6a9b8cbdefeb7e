export { arrange, type ColumnFilter, PLAIN_VIEW, type View } from './arrange.js';
export { meaningOf, valueOf } from './cells.js';
export { classColumn, isClassTitle } from './class-column.js';
export { changeColumns, ColumnChange, columnChanges, insistOn } from './column-changes.js';
export { guessKey, keyOf, type KeyProposal, keyTroubles, plainKey, proposeKey } from './key.js';
export {
  fileKey,
  guessMatchedBy,
  type MatchedBy,
  matchPictures,
  type PictureMatches,
} from './match-pictures.js';
export { guessAddressColumn, learnerName, markNameColumns, nameColumns } from './learner.js';
export {
  AddedEntry,
  applyPatch,
  blankEntry,
  CellChange,
  describePatch,
  isEmptyPatch,
  namesGone,
  type Patched,
  patchOf,
  RollPatch,
  tidyEntry,
  type WantedChange,
} from './patch.js';
export { Entry, entryOf, isIn, makeRoll, presentRoll, Roll, SourceCell } from './roll.js';
