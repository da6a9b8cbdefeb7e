import { conditions } from './conditions.js';
import { files } from './files.js';
import { findingKinds } from './finding-kinds.js';
import { findings } from './findings.js';
import { formulas } from './formulas.js';
import { marks } from './marks.js';
import { rolls } from './rolls.js';
import { sorting } from './sorting.js';
import { steps } from './steps.js';
import { tidying } from './tidying.js';

/** All that core says to people, in English. */
export const ENGLISH = {
  ...files,
  ...rolls,
  ...conditions,
  ...findings,
  ...findingKinds,
  ...marks,
  ...formulas,
  ...steps,
  ...sorting,
  ...tidying,
};
export { megabytes } from './grammar.js';
