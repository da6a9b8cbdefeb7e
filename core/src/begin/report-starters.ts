import { nameColumns } from '../roll/index.js';
import type { Letter, TableFilling } from '../template/index.js';
import type { Beginning } from './series.js';
import { CLASS, foot, head, signing, signOff, type Around } from './starter-pieces.js';
import {
  bold,
  bullets,
  heading,
  newLine,
  paragraph,
  quiet,
  rule,
  strong,
  styled,
  VERDIGRIS,
} from './writer.js';

export function quickPaper(around: Around): Letter {
  const { roll, writer, newId } = around;
  const names = new Set(nameColumns(roll.columns).map(({ id }) => id));
  const shown = roll.columns.filter(({ id, hidden }) => !hidden && !names.has(id)).slice(0, 200);
  const table: TableFilling = {
    columns: [
      { id: newId(), title: '', look: { kind: 'plain' }, width: { share: 2 } },
      { id: newId(), title: '', look: { kind: 'strong' }, width: { share: 3 } },
    ],
    rows: {
      kind: 'each',
      rows: shown.map(({ id, title }) => ({
        id: newId(),
        cells: [
          { kind: 'text', text: title.slice(0, 300) },
          { kind: 'column', columnId: id, name: title },
        ],
      })),
    },
    within: [],
    blankRows: 'out',
  };
  const all = writer.block({ name: '', hint: '', field: { name: 'All columns', columnId: null, table } });
  return writer.letter('Quick paper', [head(around), styled('title', ...around.name()), all], {
    font: { family: 'Source Sans 3', size: 10.5 },
    ...foot(around, 'Quick paper'),
  });
}

export function report(around: Around): Letter {
  const { writer, begun, column, roll } = around;
  const klass = writer.field(column(CLASS), bold);
  const present = writer.field(
    roll.columns.find(({ worked }) => worked?.kind === 'attendance'),
    bold,
  );
  const marks = begun.find(({ field }) => field.table?.rows.kind === 'each');
  const place = begun.find(({ field }) => field.chart?.kind === 'place');
  const bars = begun.find(({ field }) => field.chart?.kind === 'bars');
  const remark = roll.columns.find(
    ({ title, worked }) => worked?.kind === 'remark' || /remark|comment/i.test(title),
  );
  const chart = place ?? (marks ? undefined : bars);
  return writer.letter(
    'School report',
    [
      head(around),
      styled('title', ...around.name()),
      klass || present
        ? paragraph(
            ...(klass ? [quiet('Class '), klass, quiet('     ')] : []),
            ...(present ? [quiet('Attendance '), present, quiet(' %')] : []),
          )
        : null,
      rule,
      heading(2, 'Marks'),
      marks ? writer.block(marks) : paragraph('Put in a table of marks from the margin.'),
      heading(2, 'From the tutor'),
      remark ? paragraph(writer.field(remark)) : paragraph('Write here what the tutor says.'),
      chart ? heading(2, place ? 'The year as a whole' : 'Marks and means') : null,
      chart ? writer.block(sized(chart)) : null,
      ...signing(around, 'Tutor'),
    ],
    {
      font: { family: 'Source Sans 3', size: 10 },
      headings: { family: 'Source Serif 4', colour: VERDIGRIS },
      ...foot(around, 'School report'),
    },
  );
}

/** A chart that leaves room beside it. */
const sized = (one: Beginning): Beginning =>
  one.field.chart ? { ...one, field: { ...one.field, chart: { ...one.field.chart, width: 110 } } } : one;

export function feedback(around: Around): Letter {
  const { writer, begun, roll } = around;
  const answers = begun.find(({ field }) => field.table?.rows.kind === 'questions');
  const key = roll.columns.find(({ worked }) => worked?.kind === 'key');
  const asked = answers ? [] : roll.columns.filter(({ title }) => /\?\s*$/.test(title)).slice(0, 8);
  return writer.letter(
    'Feedback letter',
    [
      head(around),
      heading(1, 'Your work, ', ...around.name()),
      paragraph('Dear ', ...around.name(), ','),
      paragraph('Thank you for your answers. Here you see what you wrote, and what we think of it.'),
      ...(key ? [paragraph('You had ', writer.field(key, bold), ' points.')] : []),
      ...(answers ? [writer.block(answers)] : []),
      ...asked.map((column) =>
        paragraph(strong(column.title), newLine, writer.field(column, { type: 'italic' })),
      ),
      heading(2, 'What to look at next'),
      bullets('Something that went well.', 'Something to try another time.'),
      ...signOff(around, 'Teacher'),
    ],
    { headings: { family: 'Work Sans', colour: '#35588A' }, ...foot(around, 'Feedback') },
  );
}
