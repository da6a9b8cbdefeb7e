import type { Column } from '../column/index.js';
import type { Roll } from '../roll/index.js';
import type { Letter, Letterhead } from '../template/index.js';
import type { Block } from '../text/index.js';
import type { Beginning } from './series.js';
import {
  centred,
  type LetterWriter,
  newLine,
  paragraph,
  quiet,
  shortLine,
  strong,
  styled,
  type Piece,
} from './writer.js';

/** What a starter is made from. */
export interface Around {
  readonly school: string;
  readonly letterhead: Letterhead | null;
  readonly writer: LetterWriter;
  readonly roll: Roll;
  readonly name: (...marks: Parameters<LetterWriter['name']>[1][]) => Piece[];
  readonly begun: readonly Beginning[];
  readonly newId: () => string;
  /** The column whose title says one of some words. */
  readonly column: (words: RegExp) => Column | undefined;
}

export const CLASS = /^(?:class|form|group|tutor group|klasse|classe)$/i;

export const today = ({ writer }: Around) => writer.same({ kind: 'day' }, 'Day of pressing');

/** The school and the day, quiet at the head; the day alone below a letterhead. */
export const head = (around: Around): Block =>
  around.letterhead ? paragraph(today(around)) : paragraph(quiet(`${around.school} · `), today(around));

/** Somebody of the letterhead, or a place for a name. */
export function signing({ school, letterhead }: Around, role: string): Block[] {
  const first = letterhead?.signOffs[0];
  if (first) return [{ type: 'signOff', attrs: { signOffId: first.id } }];
  return [styled('signature', 'Your name'), paragraph(strong('Your name'), newLine, `${role}, ${school}`)];
}

export const signOff = (around: Around, role: string): Block[] => [
  paragraph('With kind regards,'),
  ...signing(around, role),
];

export const foot = (around: Around, title: string): Pick<Letter, 'foot'> => ({
  foot: {
    left: shortLine(`${around.school} · ${title} · `, ...around.name()),
    right: shortLine(
      'Page ',
      around.writer.same({ kind: 'page', all: false }, 'Page'),
      ' of ',
      around.writer.same({ kind: 'page', all: true }, 'All pages'),
    ),
    later: false,
  },
});

/** A line to be cut along, and what is to be filled in below it. */
export const slip = (around: Around, ...asked: readonly Block[]): Block[] => [
  centred('small', '✂ – – – – – – – – – – – – – – – – – – – – – – – – – – – – – – – – – – – – – – – –'),
  paragraph(strong('Please send back: '), ...around.name()),
  ...asked,
  paragraph('Signature of a parent or guardian: ______________________________'),
];
