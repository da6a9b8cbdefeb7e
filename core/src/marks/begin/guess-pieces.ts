import { valueOf, type Roll } from '../../roll/index.js';
import { type Column, PLAIN_STATES, type Piece } from '../../column/index.js';
import { MarkReader } from '../scheme/read-mark.js';

/** The subject that a title begins with: `English: Essay (30)`, `Science – Test 1`. */
export function subjectOf(title: string): string | null {
  return /^(.{2,60}?)\s*(?::|\||\s[-–—]\s)\s*\S/.exec(title.trim())?.[1]?.trim() ?? null;
}

/**
 * Columns of marks that no scheme has yet, with what they seem to be out of. Where their titles begin with several subjects
 * that have two columns or more, those of one subject: of the one that people were at, else of the first.
 *
 * @param about the column that people were at.
 */
export function guessPieces(
  roll: Roll,
  about: string | null,
  newId: () => string,
): { pieces: Piece[]; subject: string | null } {
  const columns = freeMarks(roll);
  const subjects = new Map<string, Column[]>();
  for (const column of columns) {
    const subject = subjectOf(column.title);
    if (subject !== null) subjects.set(subject, [...(subjects.get(subject) ?? []), column]);
  }
  const said = [...subjects].filter(([, of]) => of.length > 1);
  const asked = said.find(([, of]) => of.some(({ id }) => id === about)) ?? said[0];
  // One subject alone, beside columns without one, is no subject among others; unless the others have their schemes.
  const [subject, own] =
    asked && (said.length > 1 || asked[1].length === columns.length) ? asked : [null, columns];
  return { pieces: own.slice(0, 200).map((column) => pieceOf(column, roll, newId)), subject };
}

function pieceOf(column: Column, roll: Roll, newId: () => string): Piece {
  return {
    id: newId(),
    columnId: column.id,
    outOf: guessOutOf(column, roll),
    weight: '1',
    extra: false,
  };
}

/** Columns of marks that no scheme has yet. */
function freeMarks(roll: Roll): Column[] {
  const taken = new Set(
    roll.columns.flatMap(({ worked }) =>
      worked?.kind === 'scheme'
        ? worked.groups.flatMap(({ pieces }) => pieces.map(({ columnId }) => columnId))
        : [],
    ),
  );
  return roll.columns.filter(
    (column) => !taken.has(column.id) && !NO_MARK.test(column.title) && holdsMarks(column, roll),
  );
}

/** True for a column of numbers, or of numbers and the usual words for work without a mark. */
export function holdsMarks(column: Column, roll: Roll): boolean {
  if (column.worked) return false;
  if (column.type === 'number') return true;
  const reader = new MarkReader(PLAIN_STATES);
  let numbers = 0;
  for (const entry of roll.entries) {
    const { kind } = reader.mark(valueOf(entry, column.id), column.format?.decimal);
    if (kind === 'wrong') return false;
    if (kind === 'points') numbers++;
  }
  return numbers > 0;
}

/** Titles of numbers that are no marks. */
const NO_MARK =
  /\b(?:id|no|nr|number|age|year|phone|candidate|room|sessions?|present|late|excused|unexcused|absences?|days?|timestamp)\b/i;

/** What a piece is out of as its title says: `Essay (20)`, `Test /50`. */
export function saidOutOf({ title }: Column): string | null {
  const said = /(?:\/|out of|max\.?|\()\s*(\d{1,4})\s*(?:\)|points|marks|pts|$)/i.exec(title)?.[1];
  return said && Number(said) > 0 ? said : null;
}

/** What a piece is out of: as its title says, else the next usual number above all marks. */
export function guessOutOf(column: Column, roll: Roll): string {
  const said = saidOutOf(column);
  if (said !== null) return said;
  let highest = 0;
  for (const entry of roll.entries) {
    const value = Number(valueOf(entry, column.id).replace(',', '.'));
    if (value > highest) highest = value;
  }
  return String(
    [5, 10, 15, 20, 25, 30, 40, 50, 60, 80, 100].find((usual) => usual >= highest) ?? Math.ceil(highest),
  );
}
