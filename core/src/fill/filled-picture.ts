import { readExact } from '../column/index.js';
import { learnerName, nameColumns, type Entry } from '../roll/index.js';
import type { FillContext, Filled } from './filled.js';

/** Names of pictures are names of files to the typesetter: nothing but an identity may be one. */
const PICTURE = /^[0-9a-z]{6,40}$/;
const BLANK: Filled = { text: '', value: { kind: 'blank' } };

/**
 * The picture that an entry's cell names, with what it shows as its text: the column's title and the learner's name. Blank
 * where the cell names a file that nobody has brought.
 */
export function filledPicture(columnId: string, entry: Entry, { columns }: FillContext): Filled {
  const exact = entry.exact?.[columnId];
  const known = exact === undefined ? null : readExact(exact);
  if (known?.kind !== 'i' || !PICTURE.test(known.value)) return BLANK;
  const title = columns.find(({ id }) => id === columnId)?.title ?? '';
  const text = `${title}: ${learnerName(entry, nameColumns(columns))}`;
  return { text, value: { kind: 'text', text }, picture: known.value };
}
