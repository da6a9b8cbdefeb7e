import { guessAddressColumn, learnerName, makeRoll, markNameColumns, nameColumns } from './index.js';
import { readCsv } from '../table/index.js';

let count = 0;
const newId = (): string => `id${++count}`;
function rollOf(csv: string) {
  const sheet = readCsv(new TextEncoder().encode(csv), newId);
  if (!sheet.ok) throw new Error(sheet.problem.message);
  return makeRoll(sheet.value, newId);
}

describe('who is who', () => {
  test('a whole name, or first name and surname, whatever the order of columns', () => {
    const one = rollOf('Class,Full Name\n8A,Tane Wharepapa');
    expect(learnerName(one.entries[0]!, nameColumns(one.columns))).toBe('Tane Wharepapa');
    const two = rollOf('Surname,first_name\nBRANDT , ilse');
    expect(learnerName(two.entries[0]!, nameColumns(two.columns))).toBe('ilse BRANDT');
  });
  test('a new title does not change who is who', () => {
    const roll = rollOf('Surname,First_Name\nBrandt,Ilse');
    const [surname, first] = markNameColumns(roll.columns);
    const renamed = [
      { ...surname!, title: 'House' },
      { ...first!, title: 'Called' },
    ];
    expect(learnerName(roll.entries[0]!, nameColumns(renamed))).toBe('Ilse Brandt');
    expect(markNameColumns(renamed)).toEqual(renamed);
  });
  test('without a name it is the row, as a spreadsheet counts', () => {
    const roll = rollOf('Name,Class\n,8A\nIlse,8B');
    expect(learnerName(roll.entries[0]!, nameColumns(roll.columns))).toBe('Row 2');
  });
  test("a guardian's address is guessed before the learner's own", () => {
    expect(guessAddressColumn(rollOf('Name,Email,Parent email\nA,a@b.example,p@b.example'))?.title).toBe(
      'Parent email',
    );
    expect(guessAddressColumn(rollOf('Name,Contact\nA,a@b.example'))?.title).toBe('Contact');
    expect(guessAddressColumn(rollOf('Name,Email\nA,none'))).toBeUndefined();
  });
});
