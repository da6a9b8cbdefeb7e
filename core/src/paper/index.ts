export {
  canonical,
  paperKey,
  planNames,
  planPapers,
  type NamedPapers,
  type PlanFrom,
  type PlannedName,
  type PlannedPaper,
} from './plan.js';
export { comparePaperOrder, type OrderedPaper } from './order.js';
export {
  isOutcome,
  OUTCOME_COLUMNS,
  type OutcomePaper,
  outcomesOf,
  paperWord,
  withOutcomes,
} from './outcome.js';
export { soughtWords } from './sought.js';
export { seriesOf, writtenNumber } from './numbers.js';
export { whatChanged, type MadeFrom } from './what-changed.js';
