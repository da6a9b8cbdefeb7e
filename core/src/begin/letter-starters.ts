import type { Letter } from '../template/index.js';
import { CLASS, head, signOff, slip, today, type Around } from './starter-pieces.js';
import {
  bold,
  bullets,
  centred,
  heading,
  line,
  newLine,
  paragraph,
  quiet,
  rule,
  strong,
  styled,
  VERDIGRIS,
} from './writer.js';

export function letterHome(around: Around): Letter {
  const klass = around.writer.field(around.column(CLASS));
  return around.writer.letter('Letter home', [
    {
      type: 'paragraph',
      attrs: { textAlign: 'right' },
      content: line(...(around.letterhead ? [] : [around.school, newLine]), today(around)),
    },
    paragraph(),
    paragraph('To the family of ', ...around.name(bold), ...(klass ? [', class ', klass] : [])),
    heading(1, 'What this letter is about'),
    paragraph('Dear family,'),
    paragraph('Write here what you want to tell. One thought to a paragraph, the most important one first.'),
    paragraph('Say in the last paragraph what families are asked to do, and until when.'),
    ...signOff(around, 'Class teacher'),
  ]);
}

export const praise = (around: Around): Letter =>
  around.writer.letter(
    'Letter of praise',
    [
      centred('small', around.school),
      centred(null, quiet('This letter is for')),
      centred('title', ...around.name()),
      rule,
      centred(null, 'who has done something worth telling:'),
      centred('quotation', 'Write here what it was, in one sentence.'),
      centred(null, 'We saw it, and we are glad of it.'),
      rule,
      centred('signature', 'Your name'),
      centred('small', `Head of ${around.school} · `, today(around)),
    ],
    {
      page: { width: 210, height: 297, margins: { top: 60, right: 40, bottom: 40, left: 40 } },
      font: { family: 'Lora', size: 13 },
      headings: { family: 'Cinzel', colour: '#5B3A78' },
      signature: 'Great Vibes',
      // A page of its own, with the school's name in it.
      letterhead: undefined,
    },
  );

export function attendance(around: Around): Letter {
  const { writer, roll } = around;
  const rate = writer.field(
    roll.columns.find(({ worked, title }) => worked?.kind === 'attendance' || /^attendance/i.test(title)),
    bold,
  );
  const late = writer.field(around.column(/late/i), bold);
  return writer.letter('Attendance letter', [
    head(around),
    heading(1, 'Attendance of ', ...around.name()),
    paragraph('Dear family,'),
    rate
      ? paragraph(
          ...around.name(),
          ' was there for ',
          rate,
          ' % of the sessions so far.',
          ...(late ? [' Sessions begun late: ', late, '.'] : []),
        )
      : paragraph('Write here how many sessions were missed, and since when.'),
    paragraph(
      'Every session counts: what is missed is hard to catch up on alone. If something keeps your child away that we do not know of, please tell us. We can help with most of it.',
    ),
    heading(2, 'What happens next'),
    bullets(
      'We look at the attendance again in four weeks.',
      'You can reach us on any school day between 8:00 and 16:00.',
    ),
    ...signOff(around, 'Attendance officer'),
  ]);
}

export const missing = (around: Around): Letter =>
  around.writer.letter('Missing work', [
    head(around),
    heading(1, 'Work that is still missing'),
    paragraph('Dear ', ...around.name(), ','),
    paragraph('These pieces have not reached us yet:'),
    bullets('Name the first piece, and what it was about.', 'Name the second piece.'),
    paragraph(
      'Please hand them in by the end of next week. Work that comes later counts less; work that never comes counts for nothing, and that would be a pity.',
    ),
    paragraph(
      'If you do not know how to begin, come to the study room on Tuesday or Thursday after the last lesson.',
    ),
    ...signOff(around, 'Teacher'),
  ]);

export const meeting = (around: Around): Letter =>
  around.writer.letter(
    'Invitation to talk',
    [
      head(around),
      heading(1, 'Let us talk about ', ...around.name()),
      paragraph('Dear family,'),
      paragraph(
        'Twice a year we talk with every family in peace: what goes well, what is hard, and what comes next. ',
        ...around.name(),
        ' is welcome to come along.',
      ),
      paragraph(
        strong('When: '),
        'write here the day and the times',
        newLine,
        strong('Where: '),
        'write here the room',
      ),
      paragraph('If none of the times suits you, tell us another one.'),
      ...signOff(around, 'Class teacher'),
      ...slip(around, paragraph('☐ We come.   ☐ We cannot come then; another time: __________________')),
    ],
    { font: { family: 'Nunito Sans', size: 10.5 }, headings: { colour: '#8F5B0C' } },
  );

export const trip = (around: Around): Letter =>
  around.writer.letter(
    'School trip',
    [
      head(around),
      heading(1, 'Where we are going'),
      paragraph('Dear family of ', ...around.name(bold), ','),
      paragraph('Write here in two sentences where the trip goes, and why.'),
      paragraph(
        strong('Day: '),
        'write it here',
        newLine,
        strong('We leave: '),
        'when and where',
        newLine,
        strong('We are back: '),
        'when and where',
        newLine,
        strong('It costs: '),
        'how much, and until when',
      ),
      heading(2, 'What to bring'),
      bullets('Shoes that may get wet.', 'Something to eat and to drink.', 'A coat for the wind.'),
      ...signOff(around, 'For the team of the trip'),
      ...slip(
        around,
        paragraph('☐ may come along.   ☐ may not come along.'),
        paragraph('What we should know (medicines, allergies): __________________________'),
      ),
    ],
    {
      font: { family: 'Source Sans 3', size: 10.5 },
      headings: { family: 'Source Sans 3', colour: VERDIGRIS },
    },
  );

export const thanks = (around: Around): Letter =>
  around.writer.letter(
    'Thank you',
    [
      { type: 'paragraph', attrs: { textAlign: 'right' }, content: line(today(around)) },
      styled('title', 'Thank you'),
      paragraph('Dear ', ...around.name(), ','),
      paragraph(
        'Write here what you want to thank for, and what came of it. Two sentences are enough if they are true.',
      ),
      paragraph('With warm thanks from all of us,'),
      styled('signature', around.school),
    ],
    {
      page: { width: 210, height: 297, margins: { top: 45, right: 40, bottom: 40, left: 40 } },
      font: { family: 'EB Garamond', size: 13 },
      headings: { family: 'Playfair Display', colour: '#A63D40' },
      letterhead: undefined,
    },
  );
