import type { Say, Saying } from '../saying.js';
import { capital, count, counted, form, listed, people, quoted, type People } from './grammar.js';
import { rolls, type TypeName } from './rolls.js';

export type Where = 'letter' | 'certificate' | 'note' | 'filing' | { readonly template: string };
export interface Column {
  readonly title: string;
}

const where = (place: Where): string =>
  typeof place === 'object'
    ? `“${place.template}”`
    : {
        letter: 'The letter',
        certificate: 'The certificate',
        note: 'The cover note',
        filing: 'The file name',
      }[place];

const inWhere = (place: Where): string =>
  typeof place === 'object'
    ? `“${place.template}”`
    : {
        letter: 'the letter',
        certificate: 'the certificate',
        note: 'the cover note',
        filing: 'the file name',
      }[place];

/** A letter with its number in Unicode, since it may not be seen on the screen either. */
const letterNamed = (letter: string): string =>
  `${letter} (U+${letter.codePointAt(0)!.toString(16).toUpperCase().padStart(4, '0')})`;

/** What preflight finds in the roll and in what is written. */
export const findings = {
  'roll-empty': () => 'The roll is empty. Bring in a sheet with one row for each learner.',
  'no-template': () => 'No letter is switched on, so nobody gets a paper. Switch one on at the station Page.',
  'letter-blank': ({ place }: { place: Where }) =>
    `${where(place)} is blank. Write it, or put a field into it.`,
  'picture-missing': ({ name }: { name: string }) =>
    `The picture “${name}” is missing. Put it in again, or take its place out.`,
  'part-column-gone': ({ place, count: parts }: { place: Where; count: number }) =>
    `${where(place)} has ${counted(parts, 'part that looks', 'parts that look')} at a column that is gone, so ${form(parts, 'it stands', 'they stand')} for nobody. Choose another column there.`,
  'picture-unsaid': ({ place, count: pictures }: { place: Where; count: number }) =>
    `${where(place)} has ${pictures === 1 ? 'a picture' : `${count(pictures)} pictures`} without words that say what ${form(pictures, 'it shows', 'they show')}. Who cannot see ${form(pictures, 'it', 'them')} learns nothing of ${form(pictures, 'it', 'them')}. Select ${form(pictures, 'it', 'them')} and write it, unless ${form(pictures, 'it only decorates', 'they only decorate')}.`,
  'field-empty': ({ title, who }: Column & { who: People }) =>
    `“${title}” is empty for ${people(who)}. The letter prints nothing there.`,
  'field-holds': ({ title, who }: Column & { who: People }) =>
    `“${title}” is empty for ${people(who)}. ${form(who.count, 'That paper is', 'Those papers are')} held once pressed.`,
  'field-part-gone': ({ title, part }: Column & { part: string }) =>
    `“${part}” stands behind “${title}”, but its column is gone. Choose another, or take it out.`,
  'block-column-gone': ({ place, title, names }: Column & { place: Where; names: readonly string[] }) =>
    `“${title}” in ${inWhere(place)} looks at ${listed(names.slice(0, 4).map(quoted))}, but ${form(names.length, 'that column is', 'these columns are')} gone. Choose ${form(names.length, 'another', 'others')}, or take ${form(names.length, 'it', 'them')} out of it.`,
  'variant-nobody': ({ name }: { name: string }) =>
    `“${name}” stands in for another letter, but for nobody: no learner’s cell says what it is for. Choose the column and the words in the list of letters, or switch it off.`,
  'no-letterhead': ({ place }: { place: Where }) =>
    `${where(place)} is to stand on the school’s letterhead, but the school has none yet. It is pressed without. Make the letterhead, or choose “None” under Page.`,
  'sign-off-gone': ({ place, count: places }: { place: Where; count: number }) =>
    `${where(place)} has ${form(places, 'a sign-off that is', `${count(places)} sign-offs that are`)} no longer in the letterhead. Put in ${form(places, 'another', 'others')}, or take ${form(places, 'it', 'them')} out.`,
  'letters-written': ({ place, letters }: { place: Where; letters: readonly string[] }) =>
    `${where(place)} has letters that no font has: ${letters.map(letterNamed).join(', ')}. ${form(letters.length, 'It prints', 'They print')} as a box. Write something else.`,
  'letters-missing': ({ title, letters, who }: Column & { letters: readonly string[]; who: People }) =>
    `“${title}” of ${people(who)} has letters that no font has: ${letters.map(letterNamed).join(', ')}. They print as boxes. Write something else there.`,
  'box-outside': ({
    place,
    boxes,
    count: outside,
  }: {
    place: Where;
    boxes: readonly string[];
    count: number;
  }) =>
    `${where(place)} has ${outside === 1 ? 'a place' : `${count(outside)} places`} outside ${form(outside, 'its page', 'their pages')}, where nothing is printed${boxes.length > 0 ? `: ${listed(boxes.map(quoted))}${outside > boxes.length ? ' and others' : ''}` : ''}. Move ${form(outside, 'it', 'them')} back, or delete ${form(outside, 'it', 'them')}.`,
  'box-long': ({ place, box, who }: { place: Where; box: string; who: People }) =>
    `“${box}” in ${inWhere(place)} is too long for its place for ${people(who)}. Make the place larger, let the text be set smaller, or shorten it. ${form(who.count, 'That paper is', 'Those papers are')} held once pressed.`,
  'paper-box-long': ({ boxes }: { boxes: readonly string[] }) =>
    `Held: ${listed(boxes.slice(0, 4).map(quoted))} ${form(boxes.length, 'is', 'are')} too long for ${form(boxes.length, 'its place', 'their places')}.`,
  'paper-box-no-code': ({ boxes }: { boxes: readonly string[] }) =>
    `Held: no code can be made of ${listed(boxes.slice(0, 4).map(quoted))}.`,
  'box-no-code': ({ place, box, who }: { place: Where; box: string; who: People }) =>
    `“${box}” in ${inWhere(place)} cannot be made into a code for ${people(who)}: the text is too long, or a bar code has no sign for a letter of it. ${form(who.count, 'That paper is', 'Those papers are')} held once pressed.`,
  'paper-fails': ({ place, reason, who }: { place: Where; reason: string; who: People }) =>
    `${where(place)} cannot be set for ${people(who)}. ${reason}`,
  'pages-more': ({
    place,
    expected,
    most,
    who,
  }: {
    place: Where;
    expected: number;
    most: number;
    who: People;
  }) =>
    `${where(place)} has ${counted(most, 'page', 'pages')} for ${people(who)}, where the others have ${count(expected)}.`,
  'papers-old': ({ who }: { who: People }) =>
    `The ${form(who.count, 'paper', 'papers')} of ${people(who)} ${form(who.count, 'is', 'are')} out of date: ${form(who.count, 'it', 'they')} would come out otherwise now. Press ${form(who.count, 'it', 'them')} again.`,
  'papers-equal': ({ place, who }: { place: Where; who: People }) =>
    `${capital(people(who))} get the same paper, word for word (${inWhere(place)}), though it prints names. Look whether they are one learner.`,
  'word-long': ({ title, who }: Column & { who: People }) =>
    `“${title}” holds a word too long for a line (${people(who)}). It may run off the paper.`,
  'field-unmatched': ({ place, field }: { place: Where; field: string | null }) =>
    `${where(place)} has the field “${field ?? 'removed field'}”, but no column fills it. Choose its column, or take the field out.`,
  'apart-gone': () =>
    'The column that is to tell two papers of one name apart is gone. They get a number. Choose another column beside the file name.',
  'file-blank': ({ who }: { who: People }) =>
    `The pattern gives no file name for ${people(who)}. ${form(who.count, 'That paper is', 'Those papers are')} called after the letter and the place in the roll.`,
  'file-long': ({ who, most }: { who: People; most: number }) =>
    `The file name and folders of ${people(who)} have more than ${count(most)} letters together, too many for some computers. Make the pattern shorter.`,
  'subject-blank': ({ place }: { place: Where }) => `${where(place)} has no subject.`,
  'note-blank': ({ place }: { place: Where }) => `${where(place)} has no text.`,
  'link-unsaid': ({ place }: { place: Where }) =>
    `${where(place)} sends a private link, but it stands nowhere in the text. Put the link in where families shall find it.`,
  'link-idle': ({ place }: { place: Where }) =>
    `${where(place)} prints a private link, but sends none: that place stays blank. Let the link go along, or take the field out.`,
  'needed-gone': ({ place }: { place: Where }) =>
    `${where(place)} locks papers, or asks families, by a column that is not in the roll any more. Choose another one.`,
  'needed-blank': ({ title, who }: Column & { who: People }) =>
    `${capital(people(who))} ${form(who.count, 'is', 'are')} not written to: “${title}” is blank, by which the papers are opened. Fill it in.`,
  'note-nobody': ({ name }: { name: string }) =>
    `${quoted(name)} goes to nobody: no rule of the sorting names it for anybody, or no learner’s cell says what it is for.`,
  'note-none': ({ who }: { who: People }) =>
    `${capital(people(who))} ${form(who.count, 'gets a paper, but no cover note goes along, so it is', 'get papers, but no cover note goes along, so they are')} not mailed. Name a note in the sorting, or let one go to everybody.`,
  'address-column': ({ place }: { place: Where }) =>
    place === 'note'
      ? 'Nobody is chosen to write to. Choose the column that holds the email address.'
      : `Nobody is chosen to whom ${inWhere(place)} is sent. Choose the column that holds the email address.`,
  'address-none-of': ({ name, who }: { name: string; who: People }) =>
    `${quoted(name)} does not reach anybody for ${people(who)}: there is no address for it. Other notes do.`,
  'name-blank': ({ count: blank }: { count: number }) =>
    `${counted(blank, 'learner has', 'learners have')} no name. Write ${form(blank, 'it', 'them')} into the roll, or leave ${form(blank, 'that entry', 'these entries')} out.`,
  'name-odd': ({ who }: { who: People }) =>
    `The ${form(who.count, 'name', 'names')} of ${people(who)} may be written wrongly: capitals, digits, brackets, signs or surplus spaces. ${form(who.count, 'It prints as it stands', 'They print as they stand')}. The table offers to put names in order.`,
  'value-range': ({ title, sample, who }: Column & { sample: string; who: People }) =>
    `“${title}” of ${people(who)} is far from what it can be, or from all others: “${sample}”. Look whether it is right.`,
  'address-gone': ({ place }: { place: Where }) =>
    `${where(place)} is sent to a column that is not in the roll any more. Choose another one in its place, or take it out.`,
  'address-fixed': ({ place, cell, why }: { place: Where; cell: string; why: Saying }, say: Say) =>
    `“${cell}”, which ${inWhere(place)} is sent to, cannot be right: ${say(why)}.`,
  'family-differs': ({ field, families, who }: { field: string; families: number; who: People }) =>
    `“${field}” differs between learners of ${families === 1 ? 'a family' : `${families} families`} that ${form(families, 'shares', 'share')} a message, such as ${people(who)}. The message has that of the first. Take the field out, or let each learner have a message.`,
  'address-shared': ({ address, who }: { address: string; who: People }) =>
    `${capital(people(who))} have one address, “${address}”, which is many for one family. Each of their messages would go there.`,
  'address-none': ({ who }: { who: People }) =>
    `${capital(people(who))} ${form(who.count, 'has', 'have')} no email address. Print ${form(who.count, 'that paper', 'those papers')} from the register.`,
  'mail-refused': ({ who }: { who: People }) =>
    `Mail for ${people(who)} was refused, or came back. See in the register why; mend the address in the roll and dispatch again, or print ${form(who.count, 'the paper', 'the papers')}.`,
  'address-wrong': ({ who, cell, why }: { who: People; cell: string; why: Saying }, say: Say) =>
    `The address of ${people(who)} cannot be right: “${cell}” (${say(why)}). Nothing is sent there.`,
  'type-wrong': ({
    title,
    type,
    cells,
    sample,
    first,
  }: Column & { type: TypeName; cells: number; sample: string; first: People }) =>
    `${cells === 1 ? 'One cell' : `${count(cells)} cells`} of “${title}” ${form(cells, 'does', 'do')} not fit its type, ${rolls['column-type']({ type }).toLowerCase()}: “${sample}” (${people(first)})${cells > 1 ? ' and others' : ''}. Mend ${form(cells, 'it', 'them')}, or choose another type.`,
  'type-error': ({ title, who }: Column & { who: People }) =>
    `${who.count === 1 ? 'One cell' : `${count(who.count)} cells`} of “${title}” ${form(who.count, 'holds', 'hold')} an error of the spreadsheet, and ${form(who.count, 'is', 'are')} blank here (${people(who)}).`,
  'date-order': ({ title, cell }: Column & { cell: string }) =>
    `“${title}” does not tell which way round its dates are: “${cell}” can be read two ways. Go to the column and choose.`,
  'key-repeated': ({ titles, who }: { titles: readonly string[]; who: People }) =>
    `${capital(people(who))} share ${listed(titles.map(quoted))} with another entry, though it is the key that makes entries unique. Mend it, leave one of them out, or choose another key.`,
  'key-blank': ({ titles, who }: { titles: readonly string[]; who: People }) =>
    `${listed(titles.map(quoted))} is blank for ${people(who)}, so a newer version of the sheet cannot be matched to ${form(who.count, 'this entry', 'them')}.`,
};
