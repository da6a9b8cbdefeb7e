import { valueOf, type Roll } from '../../roll/index.js';
import type { Column } from '../../table/index.js';
import { PLAIN_STATES, type Piece } from '../../worked/index.js';
import { MarkReader } from '../scheme/read-mark.js';

/** Columns of marks that no scheme has yet, with what they seem to be out of. */
export function guessPieces(roll: Roll, newId: () => string): Piece[] {
  const taken = new Set(
    roll.columns.flatMap(({ worked }) =>
      worked?.kind === 'scheme'
        ? worked.groups.flatMap(({ pieces }) => pieces.map(({ columnId }) => columnId))
        : [],
    ),
  );
  return roll.columns
    .filter((column) => !taken.has(column.id) && !NO_MARK.test(column.title) && holdsMarks(column, roll))
    .slice(0, 200)
    .map((column) => ({
      id: newId(),
      columnId: column.id,
      outOf: guessOutOf(column, roll),
      weight: '1',
      extra: false,
    }));
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
