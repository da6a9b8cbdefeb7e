import { type Column, freeTitle } from '../column/index.js';
import { learnerName, nameColumns, isIn, valueOf, type Entry, type Roll } from '../roll/index.js';
import { domainCounts, repairAddress, severalAddresses } from './addresses.js';
import { findDuplicates } from './duplicates.js';
import { orderName, readPreferred, readSurnameFirst } from './names.js';
import { cellOffer, type Offer, type OfferLine, type OfferWay } from './offer.js';
import { mendLookAlikes } from './scripts.js';
import { tidySpaces } from './spaces.js';

/**
 * All that could be put in order in a roll, most certain first. Nothing is changed; `offerPatch` makes the patch of what
 * people take. After an offer is taken in full it is not made again.
 *
 * @param newId gives a new column identity at each call.
 */
export function tidyOffers(roll: Roll, newId: () => string): Offer[] {
  const texts = roll.columns.filter((column) => !column.summary);
  const names = nameColumns(roll.columns).filter((column) => column.role !== undefined);
  const addresses = texts.filter(({ type }) => type === 'email');
  const offers = [
    ...texts.map((column) => spacesOffer(roll, column)),
    ...names.map((column) => lookAlikeOffer(roll, column)),
    ...addresses.map((column) => lookAlikeOffer(roll, column)),
    ...names.map((column) => surnameFirstOffer(roll, column, names, newId)),
    ...names.map((column) => preferredOffer(roll, column, newId)),
    ...names.map((column) => capitalsOffer(roll, column)),
    ...addresses.map((column) => severalOffer(roll, column, newId)),
    ...addresses.map((column) => addressOffer(roll, column)),
    ...duplicateOffers(roll),
  ];
  return offers.filter((offer) => offer !== null);
}

const spacesOffer = (roll: Roll, column: Column): Offer | null =>
  cellOffer(
    roll,
    column,
    {
      id: 'spaces',
      title: `Spaces in “${column.title}”`,
      explain:
        'Spaces too many, spaces of other kinds, and characters that nobody sees. They print as gaps and keep names from being found.',
      label: 'Take them out',
    },
    tidySpaces,
  );

const lookAlikeOffer = (roll: Roll, column: Column): Offer | null =>
  cellOffer(
    roll,
    column,
    {
      id: 'look-alike',
      title: `Letters of another script in “${column.title}”`,
      explain:
        'Single letters come from another alphabet and only look right. Searching and sorting miss them, and an address with one reaches nobody.',
      label: 'Put in the letters that they look like',
    },
    mendLookAlikes,
  );

const capitalsOffer = (roll: Roll, column: Column): Offer | null =>
  cellOffer(
    roll,
    column,
    {
      id: 'capitals',
      title: `Capitals in “${column.title}”`,
      explain:
        'Names in capitals, or without any. Families know best how a name is written: look through the list.',
      label: 'Write them as names',
    },
    (text) => ({
      text: orderName(text, column.role ?? 'name'),
      // A single small or large word among others may be meant.
      certain: text === text.toUpperCase() || text === text.toLowerCase() || /\p{Lu}{3}/u.test(text),
    }),
  );

function addressOffer(roll: Roll, column: Column): Offer | null {
  const counts = domainCounts(roll.entries.map((entry) => valueOf(entry, column.id)));
  return cellOffer(
    roll,
    column,
    {
      id: 'address',
      title: `Addresses in “${column.title}”`,
      explain: 'Addresses with a typing error: mail to them would not arrive, or would reach somebody else.',
      label: 'Put them right',
    },
    (text) => repairAddress(text, counts),
  );
}

function line(
  entry: Entry,
  before: string,
  after: string,
  cells: Record<string, string>,
  certain = true,
): OfferLine {
  return {
    entryId: entry.id,
    before,
    after,
    cells: Object.entries(cells).map(([columnId, text]) => ({ entryId: entry.id, columnId, text })),
    certain,
  };
}

function surnameFirstOffer(
  roll: Roll,
  column: Column,
  names: readonly Column[],
  newId: () => string,
): Offer | null {
  if (column.role !== 'name' || names.length > 1) return null;
  const found = roll.entries.flatMap((entry) => {
    const name = readSurnameFirst(valueOf(entry, column.id));
    return name ? [{ entry, ...name }] : [];
  });
  if (found.length === 0) return null;
  const titles = new Set(roll.columns.map(({ title }) => title));
  const given: Column = { id: newId(), title: freeTitle('Given name', titles), type: 'text' };
  const surname: Column = { id: newId(), title: freeTitle('Surname', titles), type: 'text' };
  const text = (entry: Entry): string => valueOf(entry, column.id);
  const ways: OfferWay[] = [
    {
      id: 'turn',
      label: 'Write the given name first',
      lines: found.map(({ entry, given: g, surname: s }) =>
        line(entry, text(entry), `${g} ${s}`, { [column.id]: `${g} ${s}` }),
      ),
    },
    {
      id: 'split',
      label: 'Give name and surname columns of their own as well',
      lines: found.map(({ entry, given: g, surname: s }) =>
        line(entry, text(entry), `${g} · ${s}`, { [column.id]: `${g} ${s}`, [given.id]: g, [surname.id]: s }),
      ),
      adds: [
        { column: given, after: column.id },
        { column: surname, after: given.id },
      ],
    },
  ];
  return {
    id: `surname-first ${column.id}`,
    title: `Surname first in “${column.title}”`,
    explain: 'The surname stands before a comma. A letter would greet “Dear Brandt, Ilse”.',
    columnId: column.id,
    ways,
  };
}

function preferredOffer(roll: Roll, column: Column, newId: () => string): Offer | null {
  const found = roll.entries.flatMap((entry) => {
    const name = readPreferred(valueOf(entry, column.id));
    return name ? [{ entry, name, before: valueOf(entry, column.id) }] : [];
  });
  if (found.length === 0) return null;
  const titles = new Set(roll.columns.map(({ title }) => title));
  const own: Column = { id: newId(), title: freeTitle('Preferred name', titles), type: 'text' };
  return {
    id: `preferred ${column.id}`,
    title: `Preferred names in “${column.title}”`,
    explain: 'A name in brackets or quotation marks would be printed with them.',
    columnId: column.id,
    ways: [
      {
        id: 'own',
        label: 'Keep it in a column of its own',
        lines: found.map(({ entry, name, before }) =>
          line(entry, before, `${name.full} · ${name.preferred}`, {
            [column.id]: name.full,
            [own.id]: name.preferred,
          }),
        ),
        adds: [{ column: own, after: column.id }],
      },
      {
        id: 'use',
        label: 'Use it in place of the first name',
        lines: found.map(({ entry, name, before }) =>
          line(entry, before, name.known, { [column.id]: name.known }),
        ),
      },
      {
        id: 'drop',
        label: 'Leave it away',
        lines: found.map(({ entry, name, before }) =>
          line(entry, before, name.full, { [column.id]: name.full }),
        ),
      },
    ],
  };
}

function severalOffer(roll: Roll, column: Column, newId: () => string): Offer | null {
  const found = roll.entries.flatMap((entry) => {
    const addresses = severalAddresses(valueOf(entry, column.id));
    return addresses ? [{ entry, addresses, before: valueOf(entry, column.id) }] : [];
  });
  if (found.length === 0) return null;
  const titles = new Set(roll.columns.map(({ title }) => title));
  const most = Math.min(4, Math.max(...found.map(({ addresses }) => addresses.length)));
  const adds = Array.from({ length: most - 1 }, (_, n): Column => {
    const title = freeTitle(`${column.title} ${n + 2}`, titles);
    titles.add(title);
    return { id: newId(), title, type: 'email' };
  });
  return {
    id: `several ${column.id}`,
    title: `Several addresses in one cell of “${column.title}”`,
    explain: 'A message goes to one address. Cells with more than one reach nobody.',
    columnId: column.id,
    ways: [
      {
        id: 'split',
        label: 'The first stays, the others get columns of their own',
        lines: found.map(({ entry, addresses, before }) =>
          line(
            entry,
            before,
            addresses.join(' · '),
            Object.fromEntries([
              [column.id, addresses[0]!],
              ...adds.flatMap(({ id }, n) => (addresses[n + 1] ? [[id, addresses[n + 1]!]] : [])),
            ]) as Record<string, string>,
          ),
        ),
        adds: adds.map((added, n) => ({ column: added, after: n === 0 ? column.id : adds[n - 1]!.id })),
      },
      {
        id: 'first',
        label: 'Only the first stays',
        lines: found.map(({ entry, addresses, before }) =>
          line(entry, before, addresses[0]!, { [column.id]: addresses[0]! }),
        ),
      },
    ],
  };
}

function duplicateOffers(roll: Roll): Offer[] {
  const groups = findDuplicates(roll);
  if (groups.length === 0) return [];
  const names = nameColumns(roll.columns);
  const rowOf = (entry: Entry): string => `${learnerName(entry, names)}, entry ${entry.position + 1}`;
  const lines = groups.flatMap(({ entries: [first, ...others], kind, why }) =>
    others.filter(isIn).map((entry): OfferLine => {
      const differ = roll.columns.filter(
        ({ id }) => valueOf(first!, id).trim() !== valueOf(entry, id).trim(),
      );
      const what =
        differ.length === 0
          ? ''
          : `; they differ in ${differ
              .slice(0, 3)
              .map(({ title }) => title)
              .join(', ')}${differ.length > 3 ? ` and ${differ.length - 3} more` : ''}`;
      return {
        entryId: entry.id,
        before: rowOf(entry),
        after: `left out for ${rowOf(first!)}: ${why}${what}`,
        cells: [],
        leaveOut: `The same learner as entry ${first!.position + 1}`,
        certain: kind === 'same row',
      };
    }),
  );
  return [
    {
      id: 'duplicates',
      title: 'Learners who stand here twice',
      explain:
        'Each would get two papers, and the family two messages. Tick those that shall be left out; the first of each stays.',
      columnId: null,
      ways: [{ id: 'leave-out', label: 'Leave them out', lines }],
    },
  ];
}
