import { nameColumns, valueOf, type Entry, type Roll } from '../roll/index.js';
import { orderName, tidySpaces } from '../tidying/index.js';
import type { Finding } from './finding.js';
import { look, who } from './say.js';

/** Signs that no name has: brackets, signs of other things, and what stands for letters that were lost. */
const NO_NAME = /[()[\]{}<>@#*=+_?!/\\|;:"“”\ufffd]/u;

interface Looked {
  readonly columns: Roll['columns'];
  readonly blank: boolean;
  readonly odd: boolean;
  readonly digits: boolean;
}

/** Kept for as long as an entry and its columns stay the same: a large roll changes a cell at a time. */
const known = new WeakMap<Entry, Looked>();

function looked(entry: Entry, columns: Roll['columns'], names: Roll['columns']): Looked {
  const before = known.get(entry);
  if (before?.columns === columns) return before;
  const one = {
    columns,
    blank: names.every(({ id }) => valueOf(entry, id).trim() === ''),
    odd: names.some(({ id, role }) => looksWrong(valueOf(entry, id), role)),
    digits: names.some(({ id }) => /\p{Nd}/u.test(valueOf(entry, id))),
  };
  known.set(entry, one);
  return one;
}

function looksWrong(name: string, role: Parameters<typeof orderName>[1]): boolean {
  return NO_NAME.test(name) || tidySpaces(name) !== name || orderName(name, role) !== name;
}

/** Learners without a name, and names that look as if they were written wrongly. */
export function nameFindings(roll: Roll): Finding[] {
  const { columns, entries } = roll;
  const names = nameColumns(columns);
  if (names.length === 0) return [];
  const blank = entries.filter((entry) => looked(entry, columns, names).blank);
  // Where most have a number they are called so: codes instead of names.
  const numbered = entries.filter((entry) => looked(entry, columns, names).digits);
  const digits = new Set(numbered.length * 2 > entries.length ? [] : numbered);
  const odd = entries.filter((entry) => digits.has(entry) || looked(entry, columns, names).odd);
  const columnId = names[0]!.id;
  return [
    ...(blank.length > 0
      ? [look({ place: 'roll', entries: blank, columnId }, 'name-blank', { count: blank.length })]
      : []),
    ...(odd.length > 0
      ? [look({ place: 'roll', entries: odd, columnId }, 'name-odd', { who: who(odd, roll) })]
      : []),
  ];
}
