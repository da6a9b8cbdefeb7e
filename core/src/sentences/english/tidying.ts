import { listed } from './grammar.js';

export interface Named {
  readonly title: string;
}

const ALIKE = {
  'same row': 'every cell is the same',
  'same key': 'they have the same key',
  'same person': 'they have the same name and address',
  alike: 'they have an address in common and nearly the same name',
};

/** What could be put in order in a roll, and the ways to do it. */
export const tidying = {
  'tidy-spaces': ({ title }: Named) => `Spaces in “${title}”`,
  'tidy-spaces-why': () =>
    'Spaces too many, spaces of other kinds, and characters that nobody sees. They print as gaps and keep names from being found.',
  'tidy-spaces-do': () => 'Take them out',
  'tidy-look-alike': ({ title }: Named) => `Letters of another script in “${title}”`,
  'tidy-look-alike-why': () =>
    'Single letters come from another alphabet and only look right. Searching and sorting miss them, and an address with one reaches nobody.',
  'tidy-look-alike-do': () => 'Put in the letters that they look like',
  'tidy-capitals': ({ title }: Named) => `Capitals in “${title}”`,
  'tidy-capitals-why': () =>
    'Names in capitals, or without any. Families know best how a name is written: look through the list.',
  'tidy-capitals-do': () => 'Write them as names',
  'tidy-address': ({ title }: Named) => `Addresses in “${title}”`,
  'tidy-address-why': () =>
    'Addresses with a typing error: mail to them would not arrive, or would reach somebody else.',
  'tidy-address-do': () => 'Put them right',
  'tidy-surname-first': ({ title }: Named) => `Surname first in “${title}”`,
  'tidy-surname-first-why': () =>
    'The surname stands before a comma. A letter would greet “Dear Brandt, Ilse”.',
  'tidy-surname-first-turn': () => 'Write the given name first',
  'tidy-surname-first-split': () => 'Give name and surname columns of their own as well',
  'tidy-preferred': ({ title }: Named) => `Preferred names in “${title}”`,
  'tidy-preferred-why': () => 'A name in brackets or quotation marks would be printed with them.',
  'tidy-preferred-own': () => 'Keep it in a column of its own',
  'tidy-preferred-use': () => 'Use it in place of the first name',
  'tidy-preferred-drop': () => 'Leave it away',
  'tidy-several': ({ title }: Named) => `Several addresses in one cell of “${title}”`,
  'tidy-several-why': () =>
    'All of them are written to. In columns of their own it can be said whose each is, and what they are called.',
  'tidy-several-split': () => 'The first stays, the others get columns of their own',
  'tidy-several-first': () => 'Only the first stays',
  'tidy-twice': () => 'Learners who stand here twice',
  'tidy-twice-why': () =>
    'Each would get two papers, and the family two messages. Tick those that shall be left out; the first of each stays.',
  'tidy-twice-do': () => 'Leave them out',
  'entry-named': ({ learner, entry }: { learner: string; entry: number }) => `${learner}, entry ${entry}`,
  'left-out-for': ({
    first,
    kind,
    differ,
  }: {
    first: string;
    kind: keyof typeof ALIKE;
    differ: readonly string[];
  }) =>
    `left out for ${first}: ${ALIKE[kind]}${differ.length === 0 ? '' : `; they differ in ${listed(differ, 3)}`}`,
  'same-learner-as': ({ entry }: { entry: number }) => `The same learner as entry ${entry}`,
};
