import type { Letter, Letterhead } from '../template/index.js';
import type { Block } from '../text/index.js';
import { heading, LetterWriter, paragraph } from './writer.js';

const WORDS =
  'Thank you for the work that you have put in since the autumn. This letter stands here only to show how the school’s papers look: its head, the type of its text, how a heading is set, and how it ends.';

/** Sign-offs that a sample shows. */
const SIGNED = 3;

/** A letter of two pages on a letterhead, to look at while it is changed. */
export function houseSample({ signOffs }: Letterhead, print: 'printed' | 'room'): Letter {
  let count = 0;
  const writer = new LetterWriter(() => `sample${++count}`);
  const signing = signOffs.slice(0, SIGNED).map(({ id }): Block => ({
    type: 'signOff',
    attrs: { signOffId: id },
  }));
  const content = [
    paragraph('Dear family,'),
    heading(1, 'A letter from the school'),
    paragraph(WORDS),
    heading(2, 'What comes next'),
    paragraph('The next page is a later one, with its own smaller head.'),
    ...signing,
    { type: 'pageBreak' } as const,
    paragraph('A later page of the same letter.'),
  ];
  return writer.letter('Letterhead', content, {
    letterhead: { print, looks: true },
    page: { width: 210, height: 297, margins: { top: 25, right: 25, bottom: 25, left: 25 } },
  });
}
