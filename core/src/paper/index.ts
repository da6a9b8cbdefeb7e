export { canonical, paperKey, planNames, planPapers, type NamedPapers, type PlannedPaper } from './plan.js';
