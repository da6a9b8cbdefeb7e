import { addressKey, readAddresses } from '../column/index.js';
import { addressesOf, envelopesOf, recipientsOf } from '../note/index.js';
import { valueOf, type Entry, type Roll } from '../roll/index.js';
import { addressColumns, columnsOfField, fieldLabel, type CoverNote } from '../template/index.js';
import type { Finding } from './finding.js';
import type { NoteWhere, NoteWriting } from './note-writing.js';
import { block, look, who } from './say.js';

/** More learners of one address than these are hardly one family (common practice, no published source). */
const SHARED_MOST = 4;

/**
 * Who gets mail: whom nobody can be written to for, addresses that cannot be right, that many share, and what the members of a family
 * have differently though they share a message.
 *
 * @param used identities of the fields that stand in the note.
 */
export function addressFindings(
  note: CoverNote,
  roll: Roll,
  used: readonly string[],
  place: NoteWhere,
): Finding[] {
  const known = (columnId: string): boolean => roll.columns.some(({ id }) => id === columnId);
  const to = note.to.filter((one) => 'address' in one || known(one.columnId));
  if (to.length === 0) return [block('dispatch', 'note', 'address-column', { place })];
  const fixed = [...to, ...(note.cc ?? []), ...(note.bcc ?? []), ...(note.replyTo ? [note.replyTo] : [])]
    .flatMap((one) => ('address' in one ? [one.address] : []))
    .flatMap((address) => {
      const [wrong] = readAddresses(address).wrong;
      return wrong
        ? [
            block('dispatch', 'note', 'address-fixed', {
              place,
              cell: wrong.text.slice(0, 80),
              why: wrong.reason,
            }),
          ]
        : [];
    });
  // Whoever is named there would get nothing, and nobody would know.
  const gone = addressColumns(note).some((columnId) => !known(columnId));
  return [
    ...fixed,
    ...(gone ? [block('dispatch', 'note', 'address-gone', { place })] : []),
    ...sharedFindings(note, roll),
    ...familyFindings(note, roll, used),
    ...addressColumns(note)
      .filter(known)
      .flatMap((columnId) => wrongFindings(roll, columnId)),
  ];
}

/** Whom no note reaches, so that the paper is to be printed, and whom one of several notes does not. */
export function noneFindings(
  notes: readonly NoteWriting[],
  roll: Roll,
  {
    goesTo,
    reached,
  }: {
    readonly goesTo: (note: NoteWriting, entry: Entry) => boolean;
    readonly reached: (entry: Entry) => boolean;
  },
): Finding[] {
  const columnsOf = ({ content }: NoteWriting): string[] =>
    content.to.flatMap((one) => ('columnId' in one ? [one.columnId] : []));
  const lacks = (note: NoteWriting, entry: Entry): boolean =>
    goesTo(note, entry) &&
    recipientsOf(note.content, entry).to.length === 0 &&
    // What is wrong is said by itself.
    columnsOf(note).every((columnId) => addressesOf(entry, columnId).wrong.length === 0);
  const known = notes.filter(({ content }) =>
    content.to.some((one) => 'address' in one || roll.columns.some(({ id }) => id === one.columnId)),
  );
  const columnId = known.flatMap(columnsOf)[0];
  if (columnId === undefined) return [];
  const none = roll.entries.filter((entry) => !reached(entry) && known.some((note) => lacks(note, entry)));
  const some = known.flatMap((note) => {
    const missed = roll.entries.filter((entry) => reached(entry) && lacks(note, entry));
    const [own] = columnsOf(note);
    return missed.length > 0 && own !== undefined
      ? [
          look({ place: 'note', entries: missed, columnId: own, noteId: note.id }, 'address-none-of', {
            name: note.name,
            who: who(missed, roll),
          }),
        ]
      : [];
  });
  return none.length === 0
    ? some
    : [look({ place: 'note', entries: none, columnId }, 'address-none', { who: who(none, roll) }), ...some];
}

function sharedFindings(note: CoverNote, roll: Roll): Finding[] {
  const columnId = note.to.flatMap((one) => ('columnId' in one ? [one.columnId] : []))[0];
  if (columnId === undefined) return [];
  const fixed = new Set(
    note.to.flatMap((one) => ('address' in one ? readAddresses(one.address).addresses.map(addressKey) : [])),
  );
  const shared = new Map<string, Entry[]>();
  for (const entry of roll.entries)
    for (const { address } of recipientsOf(note, entry).to) {
      const others = shared.get(addressKey(address));
      if (others) others.push(entry);
      else shared.set(addressKey(address), [entry]);
    }
  return [...shared].flatMap(([address, entries]) =>
    entries.length > SHARED_MOST && !fixed.has(address)
      ? [
          look({ place: 'note', entries, columnId }, 'address-shared', {
            address: address.slice(0, 80),
            who: who(entries, roll),
          }),
        ]
      : [],
  );
}

function familyFindings(note: CoverNote, roll: Roll, used: readonly string[]): Finding[] {
  if (!note.family) return [];
  const families = envelopesOf(note, roll.entries).filter(({ entries }) => entries.length > 1);
  return note.fields
    .filter(({ id, same }) => used.includes(id) && same === undefined)
    .flatMap((field) => {
      const columns = columnsOfField(field);
      const differ = families.filter(({ entries: [first, ...rest] }) =>
        columns.some((id) => rest.some((entry) => valueOf(entry, id) !== valueOf(first, id))),
      );
      const entries = [...new Set(differ.flatMap((family) => family.entries))];
      if (entries.length === 0) return [];
      const said = {
        field: fieldLabel(field, roll.columns),
        families: differ.length,
        who: who(entries, roll),
      };
      return [look({ place: 'note', entries }, 'family-differs', said)];
    });
}

function wrongFindings(roll: Roll, columnId: string): Finding[] {
  return roll.entries.flatMap((entry) =>
    addressesOf(entry, columnId).wrong.map(({ text, reason }) =>
      look({ place: 'note', entries: [entry], columnId }, 'address-wrong', {
        who: who([entry], roll),
        cell: text.slice(0, 80),
        why: reason,
      }),
    ),
  );
}
