export { changesOf, type SortingChange } from './changes.js';
export { countsOf, type RuleCount } from './counts.js';
export { rebaseRules } from './rebase-rules.js';
export { sayOutcome, sayRule, type TemplateNames } from './say.js';
export {
  getsOf,
  type GivenNote,
  notesOf,
  notesWith,
  possibleOf,
  type Sorted,
  type SortedBy,
  type Sorter,
  sorterOf,
  waysOf,
} from './sorter.js';
