import { nameColumns, valueOf, type Roll } from '../roll/index.js';
import type { Column } from '../table/index.js';
import {
  PLAIN_CODES,
  PLAIN_ROUNDING,
  PLAIN_STATES,
  type Piece,
  type Question,
  type Worked,
  type WorkedKind,
} from '../worked/index.js';
import { SCALES } from './band/scales.js';
import { describeWorked } from './describe.js';
import { MarkReader } from './scheme/read-mark.js';

/**
 * A worked column to begin with: as much as can be told from the roll, for people to correct.
 *
 * @param about the column that people were at, which is most likely what they want to work with.
 * @param newId gives a new identity at each call.
 */
export function beginWorked(kind: WorkedKind, roll: Roll, about: string | null, newId: () => string): Column {
  const worked = begin(kind, roll, about, newId);
  const column: Column = { id: newId(), title: freeTitle(titleFor(worked, roll), roll), worked };
  const numeric =
    worked.kind === 'scheme' ||
    worked.kind === 'key' ||
    worked.kind === 'cohort' ||
    (worked.kind === 'attendance' && worked.give !== 'sentence');
  return numeric ? { ...column, type: 'number', ...signOf(roll) } : column;
}

/** The decimal sign that most number columns of the roll have. */
function signOf(roll: Roll): Pick<Column, 'format'> {
  const numbers = roll.columns.filter(isNumeric);
  const commas = numbers.filter(({ format }) => format?.decimal === ',').length;
  return commas * 2 > numbers.length ? { format: { decimal: ',' } } : {};
}

const isNumeric = ({ type }: Column): boolean => type === 'number' || type === 'percentage';

function freeTitle(wanted: string, roll: Roll): string {
  const titles = new Set(roll.columns.map(({ title }) => title));
  let title = wanted;
  for (let n = 2; titles.has(title); n++) title = `${wanted} ${n}`;
  return title;
}

/**
 * The title for a column that has been defined anew: the old one where people chose it, else one that says what it is
 * made from now.
 */
export function followTitle(column: Column, worked: Worked, roll: Roll): string {
  if (!column.worked) return column.title;
  const before = titleFor(column.worked, roll);
  const now = titleFor(worked, roll);
  const made = column.title === before || column.title.replace(/ \d+$/, '') === before;
  if (!made || now === before) return column.title;
  return freeTitle(now, { ...roll, columns: roll.columns.filter(({ id }) => id !== column.id) });
}

function titleFor(worked: Worked, roll: Roll): string {
  const of = 'of' in worked ? roll.columns.find(({ id }) => id === worked.of)?.title : undefined;
  switch (worked.kind) {
    case 'scheme':
      return 'Mark';
    case 'band':
      return of ? `${of} band` : 'Band';
    case 'cohort':
      return of ? `${of} ${describeWorked(worked)}` : 'Comparison';
    case 'attendance':
      return 'Attendance';
    case 'key':
      return 'Score';
    case 'remark':
      return of ? `${of} remark` : 'Remark';
    case 'expression':
      return 'Worked out';
    case 'part':
      return of ? `${of} steps` : 'Steps';
  }
}

function begin(kind: WorkedKind, roll: Roll, about: string | null, newId: () => string): Worked {
  const number = markColumn(roll, about);
  const classId = roll.columns.find(({ title }) =>
    /^(class|form|group|set|tutor group)\b/i.test(title.trim()),
  )?.id;
  switch (kind) {
    case 'scheme':
      return {
        kind,
        groups: [
          {
            id: newId(),
            name: 'Work',
            weight: '100',
            weigh: 'points',
            drop: 0,
            keep: null,
            cap: null,
            pieces: guessPieces(roll, newId),
          },
        ],
        weigh: 'weights',
        states: PLAIN_STATES,
        late: null,
        cap: null,
        rounding: PLAIN_ROUNDING,
      };
    case 'band':
      return {
        kind,
        of: number,
        basis: 'thresholds',
        bands: SCALES[0]!.bands.map((band) => ({ ...band, id: newId() })),
        before: null,
        near: '1',
        within: [],
        ties: 'better',
        least: 0,
        give: 'label',
        passWords: ['Pass', 'Not yet'],
      };
    case 'cohort':
      return {
        kind,
        of: number,
        measure: 'rank',
        within: [],
        first: 'highest',
        ties: 'competition',
        method: 'middle',
        quantileType: 7,
        at: '50',
        spread: 'sample',
        by: 'shown',
        least: 0,
        fewer: '',
        rounding: PLAIN_ROUNDING,
      };
    case 'attendance':
      return {
        kind,
        ...guessRegister(roll),
        codes: PLAIN_CODES,
        lateIsPresent: true,
        give: 'rate',
        rounding: PLAIN_ROUNDING,
      };
    case 'key':
      return {
        kind,
        questions: guessQuestions(roll, newId),
        give: 'points',
        blankIsWrong: true,
        rounding: { places: 1, mode: 'half up' },
      };
    case 'remark': {
      const bank = roll.columns.find(({ worked }) => worked?.kind === 'remark' && !worked.bankOf);
      const pronounId = roll.columns.find(({ title }) => /pronoun/i.test(title))?.id;
      return {
        kind,
        of: number,
        bank: bank ? [] : plainBank(newId),
        ...(bank ? { bankOf: bank.id } : {}),
        subject: '',
        tone: '',
        language: '',
        within: classId ? [classId] : [],
        ...(nameColumns(roll.columns)[0] ? { nameId: nameColumns(roll.columns)[0]!.id } : {}),
        ...(pronounId ? { pronounId } : {}),
        room: null,
      };
    }
    case 'expression':
      return { kind, formula: number ? [{ columnId: number }] : [{ text: '0' }], rounding: null };
    case 'part': {
      const of =
        roll.columns.find(({ id, worked }) => id === about && worked) ??
        roll.columns.find(({ worked }) => worked);
      return { kind, of: of?.id ?? number, part: 'steps', rounding: PLAIN_ROUNDING };
    }
  }
}

/** The column that people were at where it holds numbers; else a mark that is worked out, else any number. */
function markColumn(roll: Roll, about: string | null): string {
  const at = roll.columns.find(({ id }) => id === about);
  if (at && isNumeric(at)) return at.id;
  const found =
    roll.columns.find(({ worked }) => worked?.kind === 'scheme' || worked?.kind === 'key') ??
    roll.columns.find(isNumeric) ??
    roll.columns[0];
  return found?.id ?? 'none';
}

/** Columns of marks that no scheme has yet, with what they seem to be out of. */
function guessPieces(roll: Roll, newId: () => string): Piece[] {
  const taken = new Set(
    roll.columns.flatMap(({ worked }) =>
      worked?.kind === 'scheme'
        ? worked.groups.flatMap(({ pieces }) => pieces.map(({ columnId }) => columnId))
        : [],
    ),
  );
  return roll.columns
    .filter((column) => !taken.has(column.id) && !NO_MARK.test(column.title) && holdsMarks(column, roll))
    .slice(0, 200)
    .map((column) => ({
      id: newId(),
      columnId: column.id,
      outOf: guessOutOf(column, roll),
      weight: '1',
      extra: false,
    }));
}

/** True for a column of numbers, or of numbers and the usual words for work without a mark. */
export function holdsMarks(column: Column, roll: Roll): boolean {
  if (column.worked) return false;
  if (column.type === 'number') return true;
  const reader = new MarkReader(PLAIN_STATES);
  let numbers = 0;
  for (const entry of roll.entries) {
    const { kind } = reader.mark(valueOf(entry, column.id), column.format?.decimal);
    if (kind === 'wrong') return false;
    if (kind === 'points') numbers++;
  }
  return numbers > 0;
}

/** Titles of numbers that are no marks. */
const NO_MARK =
  /\b(?:id|no|nr|number|age|year|phone|candidate|room|sessions?|present|late|excused|unexcused|absences?|days?|timestamp)\b/i;

/** What a piece is out of: as its title says (`Essay (20)`, `Test /50`), else the next usual number above all marks. */
export function guessOutOf(column: Column, roll: Roll): string {
  const said = /(?:\/|out of|max\.?|\()\s*(\d{1,4})\s*(?:\)|points|marks|pts|$)/i.exec(column.title)?.[1];
  if (said && Number(said) > 0) return said;
  let highest = 0;
  for (const entry of roll.entries) {
    const value = Number(valueOf(entry, column.id).replace(',', '.'));
    if (value > highest) highest = value;
  }
  return String(
    [5, 10, 15, 20, 25, 30, 40, 50, 60, 80, 100].find((usual) => usual >= highest) ?? Math.ceil(highest),
  );
}

function guessRegister(roll: Roll): Pick<Extract<Worked, { kind: 'attendance' }>, 'from'> {
  const titled = (words: RegExp): { id?: string } => {
    const found = roll.columns.find((column) => isNumeric(column) && words.test(column.title));
    return found ? { id: found.id } : {};
  };
  const totals = {
    present: titled(/present|attended/i).id,
    late: titled(/\blate/i).id,
    excused: titled(/(?:^|[^n])excused|authori[sz]ed/i).id,
    unexcused: titled(/unexcused|unauthori[sz]ed|truant/i).id,
    possible: titled(/possible|sessions|total/i).id,
  };
  if (totals.present ?? totals.possible) {
    return {
      from: {
        kind: 'totals',
        ...Object.fromEntries(Object.entries(totals).filter(([, id]) => id !== undefined)),
      },
    };
  }
  const codes = new Set(Object.values(PLAIN_CODES).flat());
  const sessions = roll.columns.filter((column) => {
    if (column.worked) return false;
    const texts = roll.entries
      .slice(0, 50)
      .map((entry) => valueOf(entry, column.id).trim().toLowerCase())
      .filter(Boolean);
    return (
      texts.length > 0 && texts.every((text) => codes.has(text)) && !texts.every((text) => /^\d$/.test(text))
    );
  });
  return { from: { kind: 'sessions', columnIds: sessions.slice(0, 400).map(({ id }) => id) } };
}

/** Columns whose titles ask or are numbered as questions; the most frequent answer is not taken for the right one. */
function guessQuestions(roll: Roll, newId: () => string): Question[] {
  const asked = roll.columns.filter(
    ({ title, worked, role }) =>
      !worked && !role && (/\?\s*$/.test(title) || /^(?:q|question)\s*\.?\s*\d+/i.test(title.trim())),
  );
  return asked.slice(0, 200).map((column) => ({
    id: newId(),
    columnId: column.id,
    points: '1',
    mode: column.type === 'number' ? 'number' : column.type === 'several choices' ? 'several' : 'text',
    answers: [],
    tolerance: '0',
    scoring: 'all',
    capitals: false,
    accents: false,
    topic: '',
    rightRemark: '',
    wrongRemark: '',
  }));
}

/** A few remarks that show how the words change. */
function plainBank(newId: () => string): Extract<Worked, { kind: 'remark' }>['bank'] {
  const rest = { subject: '', tone: '', language: 'en' };
  return [
    {
      id: newId(),
      parts: [
        { word: 'name' },
        { text: ' has had an excellent term. ' },
        { word: 'they' },
        { text: ' ' },
        { word: 'are' },
        { text: ' ready for harder work.' },
      ],
      from: '80',
      to: null,
      ...rest,
    },
    {
      id: newId(),
      parts: [
        { word: 'name' },
        { text: ' work' },
        { word: 's' },
        { text: ' steadily, and ' },
        { word: 'their' },
        { text: ' understanding grows.' },
      ],
      from: '50',
      to: '79.9',
      ...rest,
    },
    {
      id: newId(),
      parts: [
        { word: 'name' },
        { text: ' need' },
        { word: 's' },
        { text: ' more practice. Please look through ' },
        { word: 'their' },
        { text: ' work together at home.' },
      ],
      from: null,
      to: '49.9',
      ...rest,
    },
  ];
}
