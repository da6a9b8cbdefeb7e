import { PLAIN_STATES, Worked, type Column } from '../column/index.js';
import { Marks, parseFormula } from '../marks/index.js';
import { marksFindings, preflight } from '../preflight/index.js';
import { readCsv } from '../table/index.js';
import { emptyFiling, emptyLetter, emptyNote } from '../template/index.js';
import { at, newId, rollOf, sheetOf } from '../../test/rolls.js';
import {
  ENGLISH,
  megabytes,
  sameSaying,
  say,
  saying,
  someRows,
  type Catalogue,
  type Saying,
} from './index.js';
import { counted, listed, people, quotedList, rowsThat } from './english/grammar.js';

test.each([
  [0, '1 KB'],
  [1024, '1 KB'],
  [104_857, '102 KB'],
  [104_858, '0.1 MB'],
  [1_048_576, '1.0 MB'],
  [9_999_999, '9.5 MB'],
  [10_000_000, '10 MB'],
  [26_214_400, '25 MB'],
])('%i bytes are %s', (size, text) => expect(megabytes(size)).toBe(text));

test('rows and names are listed as people write them', () => {
  const rows = (...numbers: number[]): string => rowsThat(someRows(numbers), 'has', 'have');
  expect(rows(4)).toBe('Row 4 has');
  expect(rows(4, 7)).toBe('Rows 4 and 7 have');
  expect(rows(4, 7, 9, 12, 15)).toBe('Rows 4, 7, 9, 12 and 15 have');
  expect(rows(4, 7, 9, 12, 15, 16)).toBe('Rows 4, 7, 9, 12, 15 and 1 more have');
  expect([quotedList([]), quotedList(['A']), quotedList(['A', 'B'])]).toEqual(['', '“A”', '“A” and “B”']);
  expect(quotedList(['A', 'B', 'C', 'D'])).toBe('“A”, “B”, “C” and “D”');
  expect(quotedList(['A', 'B', 'C', 'D', 'E'])).toBe('“A”, “B”, “C”, “D” and 1 more');
  expect(listed(['A', 'B', 'C'], Infinity, 'or')).toBe('A, B or C');
});

test('learners are named where they are few', () => {
  expect(people({ count: 0, names: [] })).toBe('nobody');
  expect(people({ count: 1, names: ['Ada'] })).toBe('Ada');
  expect(people({ count: 3, names: ['Ada', 'Bo', 'Cy'] })).toBe('Ada, Bo and Cy');
  expect(people({ count: 12_000, names: [] })).toBe('12,000 learners');
  expect([counted(1, 'day', 'days'), counted(0, 'day', 'days')]).toEqual(['1 day', '0 days']);
});

test('a sentence within another is said in the same language', () => {
  const german: Catalogue = {
    ...ENGLISH,
    'in-file': ({ file, problem }, speak) => `In ${file}: ${speak(problem)}`,
    'file-empty': () => 'Die Datei ist leer.',
  };
  const said = saying('in-file', { file: 'users.csv', problem: saying('file-empty', { sheet: null }) });
  expect(say(said, german)).toBe('In users.csv: Die Datei ist leer.');
  expect(say(said)).toMatch(/^users.csv: The file is empty/);
  // From a version that knows more than this one.
  expect(say({ code: 'brand-new', parameters: {} })).toBe('brand-new');
});

test('sayings are equal where code and all that fills them are', () => {
  const at = (place: number): Saying => saying('no-place', { place });
  expect(sameSaying(at(1), at(1))).toBe(true);
  expect(sameSaying(at(1), at(2))).toBe(false);
  expect(sameSaying(saying('no-number-at', { place: 1 }), at(1))).toBe(false);
  expect([sameSaying(undefined, undefined), sameSaying(at(1), undefined)]).toEqual([true, false]);
});

describe('what was sent as JSON says the same as what stands beside it', () => {
  const same = (problems: readonly { code: string; parameters?: unknown; message: string }[]): void => {
    expect(problems.length).toBeGreaterThan(0);
    for (const problem of problems) {
      const { code, parameters, message } = JSON.parse(JSON.stringify(problem)) as Saying & {
        message: string;
      };
      expect(say({ code, parameters })).toBe(message);
      expect(message).toMatch(/^[A-Z\d“].*\.$/);
    }
  };
  test('problems', () => {
    const sheets = ['', 'a,b\n', 'a,b\n"x', 'a\u0000b\n1'].map((text) =>
      readCsv(new TextEncoder().encode(text), newId),
    );
    const formulas = ['', '1 +', '"x', '[Nobody]', 'PI', 'x'].map((text) => parseFormula([{ text }]));
    same([...sheets, ...formulas].flatMap((result) => (result.ok ? [] : [result.problem])));
  });
  test('notes of sheets', () => same(sheetOf('Name,Mark,Mark,\nAda,7\nBo,x,9,10,11\n').notes));
  test('findings', () => {
    const roll = rollOf(
      'Name,Mark,Born,Mail\nAda,7,3/4/2012,ada@\nBo,x,5/6/2012,\nCy,8,,c@example.org\nDi,9,,d@example.org',
    );
    const { columns, entries } = roll;
    const typed = columns.map((column): Column =>
      column.title === 'Mark' ? { ...column, type: 'number' } : column,
    );
    const piece = { id: 'p', columnId: at(roll, 'Mark'), outOf: '5' };
    const scheme = Worked.parse({
      kind: 'scheme',
      weigh: 'points',
      states: PLAIN_STATES,
      groups: [{ id: 'g', name: '', weight: '100', weigh: 'points', pieces: [piece] }],
    });
    const formula = Worked.parse({ kind: 'expression', formula: [{ text: '1/0' }], rounding: null });
    const marked = {
      ...roll,
      entries,
      columns: [
        ...typed,
        { id: 'w', title: 'Mark in all', worked: scheme },
        { id: 'f', title: 'Formula', worked: formula },
      ],
    };
    const marks = marksFindings(new Marks(marked, [], '2026-11-26'));
    expect(marks.map(({ code }) => code)).toEqual(['mark-text', 'mark-above', 'formula-error']);
    const note = { ...emptyNote(), to: [{ columnId: at(roll, 'Mail') }] };
    const folio = {
      roll: marked,
      templates: [emptyLetter('L')],
      notes: [{ id: 'note', name: 'Cover note', content: note }],
      filing: emptyFiling(),
      assets: new Set<string>(),
    };
    same([...marks, ...preflight(folio)]);
  });
});
