import { count, counted } from './grammar.js';

const TYPES = {
  text: 'Text',
  number: 'Number',
  percentage: 'Percentage',
  date: 'Date',
  'date-time': 'Date and time',
  'yes/no': 'Yes or no',
  choice: 'Choice',
  'several choices': 'Several choices',
  email: 'Email address',
  phone: 'Phone',
  web: 'Web address',
  picture: 'Picture',
};
export type TypeName = keyof typeof TYPES;

/** Why a change of a roll is not taken, what a change is called, and why a cell is not of its type. */
export const rolls = {
  'too-many-entries': ({ most }: { most: number }) =>
    `A roll may have at most ${count(most)} entries. Start another folio for more.`,
  'roll-columns': ({ most }: { most: number }) =>
    `A roll may have at most ${count(most)} columns. Take one out first.`,
  'column-of-source': ({ title }: { title: string }) =>
    `“${title}” comes from a source, so it cannot be taken out. Hide it, or take out the source.`,
  'column-changed-elsewhere': ({ title }: { title: string }) =>
    `“${title}” was changed by somebody else, or in another window, meanwhile, so your change of it was not taken.`,
  'title-blank': () => 'A column needs a title.',
  'title-taken': ({ title }: { title: string }) =>
    `Another column is already called “${title}”. Choose a title that tells them apart.`,

  'change-added': ({ count: entries }: { count: number }) => `${counted(entries, 'entry', 'entries')} added`,
  'change-taken': ({ count: entries }: { count: number }) =>
    `${counted(entries, 'entry', 'entries')} taken away`,
  'change-cell': ({ title, learner }: { title: string; learner: string }) => `${title} of ${learner}`,
  'change-cells': ({ count: cells }: { count: number }) => counted(cells, 'cell', 'cells'),
  'change-left-out': ({ count: entries }: { count: number }) =>
    `${counted(entries, 'entry', 'entries')} left out or taken back`,
  'change-key': () => 'the key',
  'change-columns': () => 'the columns',

  // Each ends the sentence “… because”.
  'not-number': () => 'it is no number',
  'not-percentage': () => 'it is no percentage',
  'not-date': () => 'it is no date',
  'not-truth': () => 'it says neither yes nor no',
  'not-phone': () => 'it is no phone number',
  'not-web': () => 'it is no web address',
  'not-picture': () => 'it names no picture',
  'source-error': ({ error }: { error: string }) => `the source holds the error ${error}`,
  'address-space': () => 'there is a space in it',
  'address-several': () => 'there is a comma or semicolon in it; one address is expected',
  'address-no-at': () => 'the @ is missing',
  'address-two-at': () => 'there is more than one @',
  'address-no-name': () => 'nothing stands before the @',
  'address-no-domain': () => 'nothing stands after the @',
  'address-long': () => 'it is too long',
  'address-stop-before': () => 'a full stop before the @ is out of place',
  'address-sign-before': () => 'a character before the @ is not allowed',
  'address-no-ending': () => 'the part after the @ has no ending such as .org',
  'address-stop-after': () => 'a full stop after the @ is out of place',
  'address-sign-after': () => 'a character after the @ is not allowed',
  'address-number-ending': () => 'the ending after the last full stop is a number',
  'no-address': () => 'no email address',
  'no-key': ({ title }: { title: string }) => `nothing in “${title}”, by which the papers are opened`,

  'column-type': ({ type }: { type: TypeName }) => TYPES[type],
};
