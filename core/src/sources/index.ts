export { carryForms } from './carry-forms.js';
export { carryWorked } from './carry-worked.js';
export { doubtOfJoin, doubtOfRefresh, type ReadVersion, type VersionDoubt } from './doubts.js';
export { guessJoinKey, WHOLE_NAME } from './join-key.js';
export { applyJoin, type JoinPlan, JoinSpec, planJoin, takeOutSource } from './join.js';
export { type AnsweredEntry, keepAnswers } from './keep-answers.js';
export type { NearMatch } from './near-matches.js';
export { type Bundle, type BundleTable, isOneRoster, readOneRoster } from './oneroster.js';
export { type ReadableFile, readingLike } from './reading-like.js';
export { sourceCell } from './refresh-pairs.js';
export {
  applyRefresh,
  type CellDifference,
  changesNothing,
  type ColumnPair,
  GONE,
  planRefresh,
  RefreshDecisions,
  type RefreshPlan,
} from './refresh.js';
export { summarise } from './summary.js';
