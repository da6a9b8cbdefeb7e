export {
  asksPapers,
  CellTest,
  columnsOf,
  Comparison,
  COMPARISONS,
  Condition,
  type Made,
  PAPER_TESTS,
  PaperTest,
  sizeOfAll,
  SortingCondition,
  VALUES,
} from './condition.js';
export { evaluate, type Verdict } from './evaluate.js';
export { holds } from './holds.js';
export { sayingOf, sentence } from './say.js';
