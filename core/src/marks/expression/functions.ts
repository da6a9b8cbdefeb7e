import { DATES } from './functions/dates.js';
import type { Functions } from './functions/kinds.js';
import { LISTS } from './functions/lists.js';
import { LOGIC } from './functions/logic.js';
import { NUMBERS } from './functions/numbers.js';
import { STATISTICS } from './functions/statistics.js';
import { TEXT } from './functions/text.js';

export type { Known, Surroundings } from './functions/kinds.js';

/** The functions by groups, for the list beside the formula. */
export const FUNCTION_GROUPS: readonly { readonly name: string; readonly functions: Functions }[] = [
  { name: 'Numbers', functions: NUMBERS },
  { name: 'Statistics', functions: STATISTICS },
  { name: 'Conditions', functions: LOGIC },
  { name: 'Text', functions: TEXT },
  { name: 'Dates', functions: DATES },
  { name: 'Lists', functions: LISTS },
];

/** All functions, by name. */
export const FUNCTIONS: Functions = Object.assign(
  Object.create(null) as object,
  ...FUNCTION_GROUPS.map(({ functions }) => functions),
) as Functions;
