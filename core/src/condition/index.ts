export { CellTest, columnsOf, Comparison, COMPARISONS, Condition, sizeOfAll, VALUES } from './condition.js';
export { evaluate, holds, type Verdict } from './evaluate.js';
export { sayingOf, sentence } from './say.js';
