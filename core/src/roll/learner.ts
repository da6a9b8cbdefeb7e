import { readAddress, type Column, plainTitle } from '../column/index.js';

import { valueOf } from './cells.js';
import type { Entry, Roll } from './roll.js';

const WHOLE = [
  'name',
  'fullname',
  'learner',
  'learnername',
  'student',
  'studentname',
  'pupil',
  'pupilname',
  'yourname',
  'yourfullname',
];
const FIRST = ['firstname', 'givenname', 'forename', 'first', 'preferredname', 'knownas'];
const LAST = ['lastname', 'surname', 'familyname', 'last'];

/** In the order in which a name is said. */
const NAME_PARTS = ['name', 'given name', 'surname'] as const;

/**
 * The columns that hold a learner's name: those marked so, else one, or first name and surname, told by their titles;
 * the first column where no title tells.
 */
export function nameColumns(columns: readonly Column[]): Column[] {
  const marked = NAME_PARTS.flatMap((part) => columns.filter((column) => column.role === part));
  return marked.length > 0 ? marked : guessNameColumns(columns);
}

/** Marks the columns that hold the names, so that a new title does not change who is who. */
export function markNameColumns(columns: readonly Column[]): Column[] {
  const [first, last] = nameColumns(columns);
  return columns.map((column): Column => {
    if (column.id === first?.id) return { ...column, role: last ? 'given name' : 'name' };
    return column.id === last?.id ? { ...column, role: 'surname' } : column;
  });
}

function guessNameColumns(columns: readonly Column[]): Column[] {
  const among = (titles: readonly string[]): Column | undefined => {
    for (const title of titles) {
      const found = columns.find((column) => plainTitle(column.title) === title);
      if (found) return found;
    }
    return undefined;
  };
  const whole = among(WHOLE);
  if (whole) return [whole];
  const parts = [among(FIRST), among(LAST)].filter((column) => column !== undefined);
  if (parts.length > 0) return parts;
  const named = columns.find((column) => /name/i.test(column.title));
  return [named ?? columns[0]].filter((column) => column !== undefined);
}

/** How the interface calls an entry: its name, or "Row 5" (as a spreadsheet counts) where it has none. */
export function learnerName(entry: Entry, names: readonly Column[]): string {
  const name = names
    .map((column) => valueOf(entry, column.id).trim())
    .filter(Boolean)
    .join(' ')
    .replace(/\s+/g, ' ');
  return name || `Row ${entry.position + 2}`;
}

/**
 * The column that most likely holds the address to write to: most cells are addresses; among several, a guardian's
 * before the learner's own.
 */
export function guessAddressColumn(roll: Roll): Column | undefined {
  const sample = roll.entries.slice(0, 200);
  const scored = roll.columns
    .map((column) => {
      const filled = sample.map((entry) => valueOf(entry, column.id)).filter((cell) => cell.trim() !== '');
      const good = filled.filter((cell) => readAddress(cell).kind === 'address').length;
      const share = filled.length > 0 ? good / filled.length : 0;
      const family = /guardian|parent|carer|family|home/i.test(column.title) ? 0.5 : 0;
      return { column, score: share >= 0.5 ? share + family : 0 };
    })
    .filter(({ score }) => score > 0);
  scored.sort((a, b) => b.score - a.score);
  return scored[0]?.column;
}
