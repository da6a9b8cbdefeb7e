import { readMoment, type Column } from '../column/index.js';
import { meaningOf, plainKey, valueOf, type Entry } from '../roll/index.js';
import { recipientsOf } from './recipients.js';
import { neededColumns, type CoverNote, type PasswordForm } from '../template/index.js';

/** Bytes of a password that count (ISO 32000-2, 7.6.4.3.3). */
const PASSWORD_BYTES = 127;

/**
 * What a learner's papers are opened with, by a column; blank where that says nothing.
 *
 * @param form of a day.
 */
export function passwordOf(
  { columnId, form = 'digits' }: { readonly columnId: string; readonly form?: PasswordForm | undefined },
  entry: Entry,
  columns: readonly Column[],
): string {
  const text = valueOf(entry, columnId).trim();
  const column = columns.find(({ id }) => id === columnId);
  const meaning = column && form !== 'cell' ? meaningOf(entry, column) : null;
  if (meaning?.kind !== 'date') return passwordText(text);
  const [year = '', month = '', day = ''] = meaning.iso.slice(0, 10).split('-');
  return form === 'iso' ? `${year}-${month}-${day}` : `${day}${month}${year}`;
}

/** A password as programs that read PDF take it: in Unicode's form KC, and no longer than counts. */
export function passwordText(text: string): string {
  let password = text.normalize('NFKC').trim();
  while (new TextEncoder().encode(password).length > PASSWORD_BYTES)
    password = [...password].slice(0, -1).join('');
  return password;
}

/** An answer to what a private link asks, so that it does not matter how it is written; blank where it says nothing. */
export const answerKey = (text: string, isDay: boolean): string =>
  isDay ? (readMoment(text)?.iso.slice(0, 10) ?? '') : plainKey(text);

/** What somebody has to know to see a learner's papers; blank where the column says nothing. */
export function rightAnswer(columnId: string, entry: Entry, columns: readonly Column[]): string {
  const column = columns.find(({ id }) => id === columnId);
  const meaning = column && meaningOf(entry, column);
  return meaning?.kind === 'date' ? meaning.iso.slice(0, 10) : answerKey(valueOf(entry, columnId), false);
}

/** Columns that say nothing for an entry though its message cannot go without them. */
export const lackedColumns = (note: CoverNote, entry: Entry): string[] =>
  neededColumns(note).filter((columnId) => valueOf(entry, columnId).trim() === '');

/** Whether a learner's papers can leave with a note: somebody is written to, and nothing is missing that opens them. */
export const isReached = (note: CoverNote, entry: Entry): boolean =>
  recipientsOf(note, entry).to.length > 0 && lackedColumns(note, entry).length === 0;

/** Stands in an address for what is another one in each message. */
export const OWN_LINK = 'a-link-of-its-own-for-each-message';

/**
 * The private link of a note's messages as it is shown before they are written; undefined where they have none.
 *
 * @param address of the application, without a slash at its end.
 * @param day on which they are written, ISO 8601.
 */
export function linkOf(
  note: CoverNote,
  address: string,
  day: string,
): { url: string; ends: string } | undefined {
  if (note.along !== 'link') return undefined;
  return { url: `${address}/p/${OWN_LINK}`, ends: dayAfter(day, note.link?.days ?? LINK_DAYS) };
}

/** For how many days a private link works where nothing is said. */
export const LINK_DAYS = 30;

function dayAfter(day: string, days: number): string {
  const [year, month, date] = day.split('-').map(Number);
  return new Date(Date.UTC(year!, month! - 1, date! + days)).toISOString().slice(0, 10);
}
