import { nameColumns, type Roll } from '../../roll/index.js';
import {
  type Column,
  PLAIN_CODES,
  PLAIN_ROUNDING,
  PLAIN_STATES,
  type OutOf,
  type Worked,
  type WorkedKind,
} from '../../column/index.js';
import { SCALES } from '../band/scales.js';
import { guessOutOf, guessPieces, saidOutOf } from './guess-pieces.js';
import { guessQuestions } from './guess-questions.js';
import { guessRegister, isNumeric } from './guess-register.js';
import { plainBank } from './plain-bank.js';
import { freeTitle, titleFor } from './title.js';

/** Kinds that people begin with; a form makes its personal links itself. */
export type BegunKind = Exclude<WorkedKind, 'personal'>;

/**
 * A worked column to begin with: as much as can be told from the roll, for people to correct.
 *
 * @param about the column that people were at, which is most likely what they want to work with.
 * @param newId gives a new identity at each call.
 */
export function beginWorked(kind: BegunKind, roll: Roll, about: string | null, newId: () => string): Column {
  const worked = begin(kind, roll, about, newId);
  const subject = worked.kind === 'scheme' ? worked.groups[0]!.name : '';
  const title = subject && subject !== WORK ? `${subject} mark` : titleFor(worked, roll);
  const column: Column = { id: newId(), title: freeTitle(title, roll), worked };
  const numeric =
    worked.kind === 'scheme' ||
    worked.kind === 'key' ||
    worked.kind === 'cohort' ||
    (worked.kind === 'attendance' && worked.give !== 'sentence');
  return numeric ? { ...column, type: 'number', ...signOf(roll) } : column;
}

/** What a group is called where no subject says more. */
const WORK = 'Work';

/** The decimal sign that most number columns of the roll have. */
function signOf(roll: Roll): Pick<Column, 'format'> {
  const numbers = roll.columns.filter(isNumeric);
  const commas = numbers.filter(({ format }) => format?.decimal === ',').length;
  return commas * 2 > numbers.length ? { format: { decimal: ',' } } : {};
}

function begin(kind: BegunKind, roll: Roll, about: string | null, newId: () => string): Worked {
  const number = markColumn(roll, about);
  const classId = roll.columns.find(({ title }) =>
    /^(class|form|group|set|tutor group)\b/i.test(title.trim()),
  )?.id;
  switch (kind) {
    case 'scheme': {
      const { pieces, subject } = guessPieces(roll, about, newId);
      return {
        kind,
        groups: [
          {
            id: newId(),
            name: subject ?? WORK,
            weight: '100',
            weigh: 'points',
            drop: 0,
            keep: null,
            cap: null,
            pieces,
          },
        ],
        weigh: 'weights',
        states: PLAIN_STATES,
        late: null,
        cap: null,
        rounding: PLAIN_ROUNDING,
      };
    }
    case 'band':
      return {
        kind,
        of: number,
        outOf: guessScale(number, roll),
        basis: 'thresholds',
        bands: SCALES[0]!.bands.map((band) => ({ ...band, id: newId() })),
        before: null,
        asShown: false,
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
        outOf: guessScale(number, roll),
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

/** What the marks of a column are out of, for bands and remarks that go by percent; null where they are percent already. */
export function guessScale(columnId: string, roll: Roll): OutOf {
  const column = roll.columns.find(({ id }) => id === columnId);
  if (column?.worked?.kind === 'key') return column.worked.give === 'points' ? 'key' : null;
  if (!column || column.worked || column.type === 'percentage') return null;
  const outOf = guessOutOf(column, roll);
  // Where nothing is said, marks of up to 50 are points, and higher ones are taken for percent.
  return outOf === '100' || (Number(outOf) > 50 && saidOutOf(column) === null) ? null : outOf;
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
