import { phrase } from '../sentences/index.js';
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
      title: phrase('tidy-spaces', { title: column.title }),
      explain: phrase('tidy-spaces-why'),
      label: phrase('tidy-spaces-do'),
    },
    tidySpaces,
  );

const lookAlikeOffer = (roll: Roll, column: Column): Offer | null =>
  cellOffer(
    roll,
    column,
    {
      id: 'look-alike',
      title: phrase('tidy-look-alike', { title: column.title }),
      explain: phrase('tidy-look-alike-why'),
      label: phrase('tidy-look-alike-do'),
    },
    mendLookAlikes,
  );

const capitalsOffer = (roll: Roll, column: Column): Offer | null =>
  cellOffer(
    roll,
    column,
    {
      id: 'capitals',
      title: phrase('tidy-capitals', { title: column.title }),
      explain: phrase('tidy-capitals-why'),
      label: phrase('tidy-capitals-do'),
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
      title: phrase('tidy-address', { title: column.title }),
      explain: phrase('tidy-address-why'),
      label: phrase('tidy-address-do'),
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
      label: phrase('tidy-surname-first-turn'),
      lines: found.map(({ entry, given: g, surname: s }) =>
        line(entry, text(entry), `${g} ${s}`, { [column.id]: `${g} ${s}` }),
      ),
    },
    {
      id: 'split',
      label: phrase('tidy-surname-first-split'),
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
    title: phrase('tidy-surname-first', { title: column.title }),
    explain: phrase('tidy-surname-first-why'),
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
    title: phrase('tidy-preferred', { title: column.title }),
    explain: phrase('tidy-preferred-why'),
    columnId: column.id,
    ways: [
      {
        id: 'own',
        label: phrase('tidy-preferred-own'),
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
        label: phrase('tidy-preferred-use'),
        lines: found.map(({ entry, name, before }) =>
          line(entry, before, name.known, { [column.id]: name.known }),
        ),
      },
      {
        id: 'drop',
        label: phrase('tidy-preferred-drop'),
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
    title: phrase('tidy-several', { title: column.title }),
    explain: phrase('tidy-several-why'),
    columnId: column.id,
    ways: [
      {
        id: 'split',
        label: phrase('tidy-several-split'),
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
        label: phrase('tidy-several-first'),
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
  const rowOf = (entry: Entry): string =>
    phrase('entry-named', { learner: learnerName(entry, names), entry: entry.position + 1 });
  const lines = groups.flatMap(({ entries: [first, ...others], kind }) =>
    others.filter(isIn).map((entry): OfferLine => {
      const differ = roll.columns
        .filter(({ id }) => valueOf(first!, id).trim() !== valueOf(entry, id).trim())
        .map(({ title }) => title);
      return {
        entryId: entry.id,
        before: rowOf(entry),
        after: phrase('left-out-for', { first: rowOf(first!), kind, differ }),
        cells: [],
        leaveOut: phrase('same-learner-as', { entry: first!.position + 1 }),
        certain: kind === 'same row',
      };
    }),
  );
  return [
    {
      id: 'duplicates',
      title: phrase('tidy-twice'),
      explain: phrase('tidy-twice-why'),
      columnId: null,
      ways: [{ id: 'leave-out', label: phrase('tidy-twice-do'), lines }],
    },
  ];
}
