import { emptyFiling, emptyLetter, emptyNote } from '../template/index.js';
import { readCsv } from '../table/index.js';
import {
  columnChanges,
  describePatch,
  makeRoll,
  markNameColumns,
  presentRoll,
  type Roll,
} from '../roll/index.js';
import { entriesToLookAt, preflight, type Finding } from './index.js';

let count = 0;
const newId = (): string => `f${++count}`;
function rollOf(csv: string, key: string[] = []): Roll {
  const read = readCsv(new TextEncoder().encode(csv), newId);
  if (!read.ok) throw new Error(read.problem.message);
  const columns = markNameColumns(read.value.columns.map((column) => ({ ...column, sourceId: 's' })));
  const roll = makeRoll({ ...read.value, columns }, newId);
  return { ...roll, key: key.map((title) => columns.find((column) => column.title === title)!.id) };
}
const find = (roll: Roll, toColumnId: string | null = null): Finding[] =>
  preflight({
    roll,
    templates: [emptyLetter('L')],
    notes: [
      {
        id: 'note',
        name: 'Cover note',
        content: { ...emptyNote(), to: toColumnId === null ? [] : [{ columnId: toColumnId }] },
      },
    ],
    filing: emptyFiling(),
    assets: new Set(),
  }).filter(({ place }) => place === 'roll');
const MARKS = Array.from({ length: 9 }, (_, n) => `Learner ${n},${n + 60}`).join('\n');

test('cells that are not of their column’s type are named, and their entries are worth a look', () => {
  const roll = rollOf(`Name,Mark\n${MARKS}\nIlse,absent\n`);
  const findings = find(roll);
  expect(findings.map(({ code }) => code)).toEqual(['type-wrong']);
  expect(findings[0]!.message).toBe(
    'One cell of “Mark” does not fit its type, number: “absent” (Ilse). Mend it, or choose another type.',
  );
  expect(entriesToLookAt(findings)).toEqual(new Set([roll.entries[9]!.id]));
});

test('an error of the spreadsheet is said as such', () => {
  const roll = rollOf(`Name,Mark\n${MARKS}\nIlse,\n`);
  const mark = roll.columns[1]!.id;
  const broken = { ...roll.entries[9]!, exact: { [mark]: 'e:#DIV/0!' } };
  expect(find({ ...roll, entries: [...roll.entries.slice(0, 9), broken] })[0]!.message).toContain(
    'holds an error of the spreadsheet',
  );
});

test('addresses of the column that is written to are looked at with the note, not here', () => {
  const roll = rollOf('Name,Mail\nA,a@x.example\nB,b@x.example\nC,c x.example\n');
  expect(find(roll).map(({ code }) => code)).toEqual(['type-wrong']);
  expect(find(roll, roll.columns[1]!.id)).toEqual([]);
});

test('dates that can be read two ways ask which, until somebody has said', () => {
  const roll = rollOf('Name,Day\nA,3/4/2026\nB,5/6/2026\n');
  expect(find(roll)[0]).toMatchObject({ code: 'date-order', entryIds: [] });
  const columns = roll.columns.map((column) =>
    column.title === 'Day' ? { ...column, format: { dateOrder: 'dmy' as const } } : column,
  );
  expect(find({ ...roll, columns })).toEqual([]);
});

test('keys that are blank, or that two entries share', () => {
  const findings = find(rollOf('No,Name\n1,A\n1,B\n,C\n', ['No']));
  expect(findings.map(({ code, entryIds }) => [code, entryIds.length])).toEqual([
    ['key-repeated', 2],
    ['key-blank', 1],
  ]);
});

test('those who are left out are not looked at', () => {
  const roll = rollOf(`Name,Mark\n${MARKS}\nIlse,absent\n`);
  const entries = roll.entries.map((entry, n) => (n === 9 ? { ...entry, leftOut: 'Has left' } : entry));
  expect(find(presentRoll({ ...roll, entries }))).toEqual([]);
});

test('what a patch does is said in a few words', () => {
  const roll = rollOf('Name,Mark\nAmara,1\nIlse,2\n');
  const [first, second] = roll.entries;
  const cell = (entryId: string) => ({ entryId, columnId: roll.columns[1]!.id, text: '9' });
  expect(describePatch({ cells: [cell(first!.id)] }, roll)).toBe('Mark of Amara');
  expect(describePatch({ cells: [cell(first!.id), cell(second!.id)] }, roll)).toBe('2 cells');
  expect(describePatch({ leftOut: [{ entryId: first!.id, reason: 'x' }] }, roll)).toBe(
    '1 entry left out or taken back',
  );
  expect(describePatch({ columns: columnChanges(roll.columns, []) }, roll)).toBe('the columns');
});
