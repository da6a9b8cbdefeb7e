export { canonical, planNames, planPapers, type NamedPapers, type PlannedPaper } from './plan.js';
