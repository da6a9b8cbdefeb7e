import { columnFor, plainTitle, readAddress } from '../column/index.js';
import { guessAddressColumn, learnerName, makeRoll, markNameColumns, nameColumns } from './index.js';
import { readCsv } from '../table/index.js';

let count = 0;
const newId = (): string => `id${++count}`;
function rollOf(csv: string) {
  const sheet = readCsv(new TextEncoder().encode(csv), newId);
  if (!sheet.ok) throw new Error(sheet.problem.message);
  return makeRoll(sheet.value, newId);
}

describe('titles', () => {
  test.each([
    ['E-mail_Adresse', 'email adresse'],
    ['PRÉNOM', 'prenom'],
    ['First  name', 'firstname'],
    ['Straße', 'STRASSE'],
    // UAX #15: a composed and a decomposed letter are the same.
    ['Zoe\u0308', 'Zo\u00eb'],
  ])('%s and %s agree', (a, b) => expect(plainTitle(a)).toBe(plainTitle(b)));
  test('different words do not agree', () => expect(plainTitle('Name')).not.toBe(plainTitle('Names')));
  test('the same title to the letter is taken before one that only agrees', () => {
    const columns = [
      { id: '1', title: 'name' },
      { id: '2', title: 'Name' },
    ];
    expect(columnFor('Name', columns)?.id).toBe('2');
    expect(columnFor('NAME', columns)?.id).toBe('1');
    expect(columnFor('Surname', columns)).toBeUndefined();
  });
  test('titles of marks alone do not all agree with each other', () => {
    expect(columnFor('???', [{ id: '1', title: '!!!' }])).toBeUndefined();
  });
});

describe('addresses (RFC 5321; RFC 3696 section 3)', () => {
  // RFC 3696 section 3 gives these as valid without quotation marks.
  test.each([
    'user+mailbox@example.com',
    'customer/department=shipping@example.com',
    '$A12345@example.com',
    '!def!xyz%abc@example.com',
    '_somename@example.com',
  ])('%s', (address) => {
    expect(readAddress(address)).toEqual({ kind: 'address', address });
  });
  test('spaces around it do not count', () =>
    expect(readAddress(' a@b.example ')).toEqual({ kind: 'address', address: 'a@b.example' }));
  test('an empty cell is none', () => expect(readAddress('  ')).toEqual({ kind: 'none' }));
  test.each([
    ['brandt .family@example.org', 'space'],
    ['a@b.example, c@d.example', 'space'],
    ['a@b.example;c@d.example', 'semicolon'],
    ['nobody', '@ is missing'],
    ['@example.org', 'before the @'],
    ['a@', 'after the @'],
    ['a@b@c.example', 'more than one'],
    ['a..b@example.org', 'full stop'],
    ['.a@example.org', 'full stop'],
    ['a@localhost', 'no ending'],
    ['a@example..org', 'full stop'],
    ['a@-x.example', 'not allowed'],
    ['zoë@example.org', 'not allowed'],
    ['a@1.2.3.4', 'number'],
    // 4.5.3.1.1: 64 octets in a local part.
    [`${'x'.repeat(65)}@example.org`, 'too long'],
    ['a@example.org\r\nBcc: b@example.org', 'space'],
  ])('%s is none that mail can go to', (cell, why) => {
    expect(readAddress(cell)).toEqual({ kind: 'wrong', reason: expect.stringContaining(why) });
  });
});

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
