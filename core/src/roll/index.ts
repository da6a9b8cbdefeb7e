export { carryWorked } from './carry-worked.js';
export { changeColumns, ColumnChange, columnChanges, insistOn } from './column-changes.js';
export { arrange, PLAIN_VIEW, type ColumnFilter, type View } from './arrange.js';
export { guessKey, keyOf, keyTroubles, plainKey, proposeKey, type KeyProposal } from './key.js';
export { guessAddressColumn, learnerName, markNameColumns, nameColumns } from './learner.js';
export {
  AddedEntry,
  applyPatch,
  blankEntry,
  CellChange,
  describePatch,
  isEmptyPatch,
  namesGone,
  patchOf,
  RollPatch,
  type Patched,
  type WantedChange,
} from './patch.js';
export { Entry, entryOf, isIn, makeRoll, meaningOf, presentRoll, Roll, SourceCell, valueOf } from './roll.js';
export { columnFor, freeTitle, plainTitle } from './titles.js';
export { guessJoinKey, WHOLE_NAME } from './join-key.js';
export type { NearMatch } from './near-matches.js';
export { sourceCell } from './refresh-pairs.js';
export { applyJoin, JoinSpec, planJoin, takeOutSource, type JoinPlan } from './join.js';
export { isOneRoster, readOneRoster, type Bundle, type BundleTable } from './oneroster.js';
export {
  applyRefresh,
  changesNothing,
  GONE,
  planRefresh,
  RefreshDecisions,
  type CellDifference,
  type ColumnPair,
  type RefreshPlan,
} from './refresh.js';
export { readingLike, type ReadableFile } from './reading-like.js';
export { summarise } from './summary.js';
export {
  domainCounts,
  findDuplicates,
  mendLookAlikes,
  offerPatch,
  orderName,
  readPreferred,
  readSurnameFirst,
  repairAddress,
  severalAddresses,
  tidyOffers,
  tidySpaces,
  type DuplicateGroup,
  type Offer,
  type OfferLine,
  type OfferWay,
} from './tidy/index.js';
