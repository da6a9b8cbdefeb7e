export { CellTest, columnsOf, Comparison, COMPARISONS, Condition, VALUES } from './condition.js';
export { evaluate, type Verdict } from './evaluate.js';
export { sayingOf, sentence } from './say.js';
