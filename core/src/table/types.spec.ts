import fc from 'fast-check';
import {
  decimalText,
  guessDecimal,
  readMoment,
  readNumber,
  readPercentage,
  readValue,
  serialDuration,
  serialMoment,
} from '../column/index.js';
import { guessType } from './index.js';

const cells = (...texts: string[]) => texts.map((text) => ({ text }));
const many = (texts: string[], times: number): string[] => Array.from({ length: times }, () => texts).flat();

describe('serial dates (ECMA-376 Part 1, 18.17.4.1; limits from the standard, the rest from memory)', () => {
  test.each([
    [1, '1900-01-01'],
    [59, '1900-02-28'],
    [61, '1900-03-01'],
    [1462, '1904-01-01'],
    [25569, '1970-01-01'],
    [36526, '2000-01-01'],
    [2958465, '9999-12-31'],
  ])('1900 system: %d is %s', (serial, date) => expect(serialMoment(serial, 1900)?.date).toBe(date));
  test.each([
    [0, '1904-01-01'],
    [24107, '1970-01-01'],
    [2957003, '9999-12-31'],
  ])('1904 system: %d is %s', (serial, date) => expect(serialMoment(serial, 1904)?.date).toBe(date));
  test('29 February 1900 never was, and nothing is before the first day or after the last', () => {
    for (const serial of [60, 0, -1, 2958466]) expect(serialMoment(serial, 1900)).toBeNull();
    expect(serialMoment(-1, 1904)).toBeNull();
  });
  test('the two systems lie 1,462 days apart', () => {
    fc.assert(
      fc.property(fc.integer({ min: 61, max: 2_900_000 }), (serial) => {
        expect(serialMoment(serial + 1462, 1900)).toEqual(serialMoment(serial, 1904));
      }),
    );
  });
  test('times are read to the second, and rounding up reaches the next day', () => {
    expect(serialMoment(36526.5, 1900)).toEqual({ date: '2000-01-01', time: '12:00:00' });
    expect(serialMoment(36526.999999, 1900)).toEqual({ date: '2000-01-02', time: '00:00:00' });
  });
  test('durations beyond a day (ISO 8601)', () => {
    expect(serialDuration(1.5)).toBe('PT36H');
    expect(serialDuration(0)).toBe('PT0S');
    expect(serialDuration(-1 / 24)).toBe('-PT1H');
  });
});

test.each([
  [0.1 + 0.2, '0.3'],
  [1e21, '1000000000000000000000'],
  [1.5e-7, '0.00000015'],
  [-12345678.25, '-12345678.25'],
])('%d is written %s', (value, text) => expect(decimalText(value)).toBe(text));

describe('numbers', () => {
  test.each([
    ['1,234.50', '.', '1234.50'],
    ['1.234,50', ',', '1234.50'],
    ['1 234,5', ',', '1234.5'],
    ["1'234.5", '.', '1234.5'],
    ['−3', '.', '-3'],
    ['.5', '.', '0.5'],
    ['00123', '.', null],
    ['12,34', '.', null],
    ['8B', '.', null],
    ['1.2.3', '.', null],
    ['', '.', null],
  ] as const)('%j with the sign %j is %j', (text, decimal, value) =>
    expect(readNumber(text, decimal)).toBe(value),
  );
  test('what a language writes is read back (Unicode CLDR, through Intl.NumberFormat)', () => {
    const written = fc.constantFrom('en-GB', 'de', 'fr', 'de-CH', 'nl', 'pt');
    fc.assert(
      fc.property(written, fc.integer({ min: -999_999_999, max: 999_999_999 }), (language, cents) => {
        const value = cents / 100;
        const format = new Intl.NumberFormat(language, { minimumFractionDigits: 2 });
        const sign = format.formatToParts(1.1).find(({ type }) => type === 'decimal')?.value as '.' | ',';
        expect(Number(readNumber(format.format(value), sign))).toBe(value);
      }),
    );
  });
  test('the decimal sign is told by the cells that can only be read one way', () => {
    expect(guessDecimal(['1,5', '2,25', '3'])).toBe(',');
    expect(guessDecimal(['1.5', '1,250'])).toBe('.');
    expect(guessDecimal(['1,250', 'x'])).toBe('.');
  });
  test('percentages are percent of 100', () => {
    expect(readPercentage('45 %')).toBe('45');
    expect(readPercentage('12,5%', ',')).toBe('12.5');
    expect(readPercentage('45')).toBeNull();
  });
});

describe('dates', () => {
  test.each([
    ['2026-03-04', undefined, '2026-03-04'],
    ['2026-03-04T09:30:00Z', undefined, '2026-03-04T09:30:00'],
    ['3/4/2026', 'dmy', '2026-04-03'],
    ['3/4/2026', 'mdy', '2026-03-04'],
    ['13.4.26', undefined, '2026-04-13'],
    ['4 March 2026', undefined, '2026-03-04'],
    ['March 4th, 2026', undefined, '2026-03-04'],
    ['4. März 2026', undefined, '2026-03-04'],
    ['4 mars 2026', undefined, '2026-03-04'],
    ['4 de marzo de 2026', undefined, '2026-03-04'],
    ['4-Mar-99', undefined, '1999-03-04'],
    ['2026/03/04 9:12:33 PM GMT+1', undefined, '2026-03-04T21:12:33'],
    ['Tue, 4 March 2026', undefined, '2026-03-04'],
  ] as const)('%s (%s) is %s', (text, order, iso) => expect(readMoment(text, order)?.iso).toBe(iso));
  test.each([
    '31/02/2026',
    '8B',
    '1.2',
    '12345',
    '2026-13-01',
    '29 February 2026',
    '0/0/2026',
    '4 Marchember 2026',
  ])('%s is none', (text) => expect(readMoment(text)).toBeNull());
  test('only what can be read two ways to different days asks', () => {
    expect(readMoment('3/4/2026')?.ambiguous).toBe(true);
    expect(readMoment('4/4/2026')?.ambiguous).toBe(false);
    expect(readMoment('30/4/2026')?.ambiguous).toBe(false);
  });
  test('what a language writes in full is read back (Unicode CLDR, through Intl.DateTimeFormat)', () => {
    const day = fc.date({ min: new Date('1950-01-01'), max: new Date('2049-12-31'), noInvalidDate: true });
    fc.assert(
      fc.property(
        fc.constantFrom('en-GB', 'en-US', 'de', 'fr', 'es', 'it', 'nl', 'sv', 'cy'),
        day,
        (language, date) => {
          const text = new Intl.DateTimeFormat(language, { dateStyle: 'long', timeZone: 'UTC' }).format(date);
          expect(readMoment(text)?.iso).toBe(date.toISOString().slice(0, 10));
        },
      ),
    );
  });
});

describe('the type of a column', () => {
  test.each([
    ['Number', ['00123', '00456', '7'], 'text'],
    ['Mark', ['71', '64.5', '', '88'], 'number'],
    ['Mark', many(['71', '64', '88', '90', '12', '13', '14', '15', 'abs'], 1), 'number'],
    ['Share', ['45%', '12.5 %'], 'percentage'],
    ['Day', ['2026-03-04', '2026-12-31'], 'date'],
    ['Timestamp', ['2026-03-04 09:30', '2026-03-05 10:00'], 'date-time'],
    ['Mail', ['a@x.example', 'b@x.example', 'none'], 'email'],
    ['Site', ['https://x.example/a', 'www.x.example'], 'web'],
    ['Photo', ['https://x.example/a.png', 'b.jpg'], 'picture'],
    ['Phone', ['020 7946 0018', '+44 20 7946 0019'], 'phone'],
    ['Consent', ['Yes', 'No', 'Yes'], 'yes/no'],
    ['Class', many(['8A', '8B', '8C'], 5), 'choice'],
    ['First name', many(['Amara', 'Ilse', 'Zoë'], 5), 'text'],
    ['Why', ['Because I like bridges, and water.', 'So that it holds.', 'No idea', 'It is fun'], 'text'],
    ['Account', ['1234567890123456789', '9876543210987654321'], 'text'],
  ])('%s %j is %s', (title, texts, type) => expect(guessType(title, cells(...texts)).type).toBe(type));
  test('several choices, with what stands between them', () => {
    const texts = many(['Maths, Art', 'Art', 'Maths, Music', 'Music, Art, Maths', 'Music'], 3);
    expect(guessType('Clubs', cells(...texts))).toEqual({
      type: 'several choices',
      format: { separator: ',' },
    });
    const column = { type: 'several choices' as const, format: { separator: ';' } };
    expect(readValue(column, 'Maths; Art ;')).toEqual({ kind: 'list', items: ['Maths', 'Art'] });
  });
  test('one date that can be read one way only settles the others', () => {
    expect(guessType('Day', cells('3/4/2026', '30/4/2026')).format).toEqual({ dateOrder: 'dmy' });
    expect(guessType('Day', cells('3/4/2026', '4/30/2026')).format).toEqual({ dateOrder: 'mdy' });
    expect(guessType('Day', cells('3/4/2026', '5/6/2026')).format).toBeUndefined();
  });
  test('a workbook’s exact values decide before the text does', () => {
    const exact = [
      { text: '4 Mar', exact: 'd:2026-03-04' },
      { text: '5 Mar', exact: 'd:2026-03-05' },
    ];
    expect(guessType('Day', exact).type).toBe('date');
    expect(readValue({ type: 'date' }, '4 Mar', 'd:2026-03-04')).toEqual({ kind: 'date', iso: '2026-03-04' });
    expect(readValue({ type: 'number' }, '', 'e:#N/A')).toMatchObject({ kind: 'wrong' });
  });
  test('what does not fit its type says why, and keeps its text', () => {
    expect(readValue({ type: 'number' }, 'absent')).toEqual({ kind: 'wrong', reason: 'it is no number' });
    expect(readValue({ type: 'email' }, 'a b@x.example')).toMatchObject({ kind: 'wrong' });
    expect(readValue({}, ' 00123 ')).toEqual({ kind: 'text', text: ' 00123 ' });
  });
});
