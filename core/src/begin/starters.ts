import type { TableShape } from '../marks/index.js';
import { nameColumns, type Roll } from '../roll/index.js';
import type { Letterhead, Template } from '../template/index.js';
import { beginnings } from './beginnings.js';
import { attendance, letterHome, meeting, missing, praise, thanks, trip } from './letter-starters.js';
import { bare, classical, engraved, garden, merry, plain, stepped, victory } from './certificate-starters.js';
import { feedback, quickPaper, report } from './report-starters.js';
import type { Around } from './starter-pieces.js';
import { LetterWriter } from './writer.js';

/** A ready letter or certificate to begin with, made for a roll. */
export interface Starter {
  readonly id: string;
  readonly name: string;
  /** What it is for, in a few words. */
  readonly hint: string;
  readonly template: Template;
}

/** The school that letters are from. */
export interface House {
  /** As it signs. */
  readonly school: string;
  /** Letters stand on it, where there is one. */
  readonly letterhead: Letterhead | null;
}

/**
 * The starters for a roll: letters, reports and certificates with places for what the roll has. The quick paper, which has all
 * its columns, comes first.
 */
export function starters(
  roll: Roll,
  shapes: readonly TableShape[],
  { school, letterhead }: House,
  newId: () => string,
): Starter[] {
  const names = nameColumns(roll.columns);
  const begun = beginnings(roll, shapes, newId);
  const make = (id: string, name: string, hint: string, write: (around: Around) => Template): Starter => {
    const writer = new LetterWriter(newId, letterhead);
    const around: Around = {
      school,
      letterhead,
      writer,
      roll,
      begun,
      newId,
      name: (...marks) => (names.length > 0 ? writer.name(names, ...marks) : ['Name']),
      column: (words) => roll.columns.find(({ title }) => words.test(title)),
    };
    return { id, name, hint, template: write(around) };
  };
  return [
    make('quick', 'Quick paper', 'Every column with its value', quickPaper),
    make('report', 'School report', 'Marks, the place in the year, a remark', report),
    make('feedback', 'Feedback letter', 'Questions, own answers and right ones', feedback),
    make('home', 'Letter home', 'Date, greeting, text, sign-off', letterHome),
    make('praise', 'Letter of praise', 'One thing done well, on a festive page', praise),
    make('attendance', 'Attendance letter', 'Sessions, and what happens next', attendance),
    make('missing', 'Missing work', 'What is still to be handed in', missing),
    make('meeting', 'Invitation to talk', 'With a slip to send back', meeting),
    make('trip', 'School trip', 'All that families need to know, and consent', trip),
    make('thanks', 'Thank you', 'A short letter of thanks', thanks),
    make('engraved', 'Certificate, engraved', 'Fine lines and a script name', engraved),
    make('plain', 'Certificate, plain', 'A bar of colour, large type', plain),
    make('classical', 'Certificate, classical', 'Rules, curls and capitals', classical),
    make('garden', 'Certificate, garden', 'Leaves and a laurel, upright', garden),
    make('merry', 'Certificate, merry', 'For the youngest', merry),
    make('stepped', 'Certificate, stepped', 'Stepped corners, upright', stepped),
    make('victory', 'Certificate, victory', 'For sports and competitions', victory),
    make('bare', 'Certificate, words alone', 'For paper with a printed border', bare),
  ];
}
