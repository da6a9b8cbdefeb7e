import { type Column, plainTitle } from '../column/index.js';
import { valueOf } from './cells.js';
import type { Entry, Roll } from './roll.js';

const KEY_TITLE =
  /^(?:id|number|no|nr|code)$|(?:student|pupil|learner|candidate|admission|registration|exam|sis|matric\w*|school)(?:id|no|number|code|ref\w*)|^upn$|^uln$|sourcedid|userid|identitynumber|idnumber/;

/** An entry's key under these columns: what is compared, or null where any part is blank. */
export function keyOf(entry: Entry, columnIds: readonly string[]): string | null {
  const before = known.get(entry);
  if (before?.columnIds === columnIds) return before.key;
  const parts = columnIds.map((id) => plainKey(valueOf(entry, id)));
  const key = parts.length === 0 || parts.includes('') ? null : parts.join('\u0000');
  known.set(entry, { columnIds, key });
  return key;
}

/** Kept for as long as an entry stays the same: a large roll changes a cell at a time. */
const known = new WeakMap<Entry, { columnIds: readonly string[]; key: string | null }>();

/** A key's text as it is compared: no case, one kind of space, composed letters (Unicode UAX #15, NFKC). */
export const plainKey = (text: string): string =>
  text.normalize('NFKC').replace(/\s+/g, ' ').trim().toLowerCase();

/** The column that most likely makes an entry unique: an identity number by its title, filled and different everywhere. */
export function guessKey(roll: Roll): Column | undefined {
  return roll.columns.find((column) => {
    if (!KEY_TITLE.test(plainTitle(column.title))) return false;
    const keys = roll.entries.map((entry) => keyOf(entry, [column.id]));
    return !keys.includes(null) && new Set(keys).size === keys.length;
  });
}

/** Entries that share their key with others, in groups; and those without one. */
export function keyTroubles(roll: Roll): { repeated: Entry[][]; blank: Entry[] } {
  const columnIds = roll.key ?? [];
  if (columnIds.length === 0) return { repeated: [], blank: [] };
  const groups = new Map<string, Entry[]>();
  const blank: Entry[] = [];
  for (const entry of roll.entries) {
    const key = keyOf(entry, columnIds);
    if (key === null) blank.push(entry);
    else {
      const group = groups.get(key);
      if (group) group.push(entry);
      else groups.set(key, [entry]);
    }
  }
  return { repeated: [...groups.values()].filter((group) => group.length > 1), blank };
}

/** A column that tells nearly everybody apart, with those whom it does not. */
export interface KeyProposal {
  readonly column: Column;
  readonly repeated: readonly (readonly Entry[])[];
  readonly blank: readonly Entry[];
}

/** The share of entries that a proposed key may leave untold. */
const UNTOLD = 0.1;

/** The column of identity numbers that would do as the key, where none is chosen; null where there is none. */
export function proposeKey(roll: Roll): KeyProposal | null {
  if (roll.key?.length || roll.entries.length < 2) return null;
  const proposals = roll.columns
    .filter(({ title, worked }) => !worked && KEY_TITLE.test(plainTitle(title)))
    .map((column) => {
      const troubles = keyTroubles({ ...roll, key: [column.id] });
      const untold =
        troubles.blank.length + troubles.repeated.reduce((sum, { length }) => sum + length - 1, 0);
      return { column, untold, ...troubles };
    })
    .filter(
      ({ untold }) => untold <= Math.max(1, roll.entries.length * UNTOLD) && untold * 2 < roll.entries.length,
    )
    .sort((a, b) => a.untold - b.untold);
  const [first] = proposals;
  return first ? { column: first.column, repeated: first.repeated, blank: first.blank } : null;
}
