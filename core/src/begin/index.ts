export { beginnings } from './beginnings.js';
export { houseSample } from './house-sample.js';
export { kindKey, kindsFor, kindsOf, kindTitle, type ColumnKind } from './kinds.js';
export { roundMost, type Beginning } from './series.js';
export { starters, type House, type Starter } from './starters.js';
