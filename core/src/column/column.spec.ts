import fc from 'fast-check';
import { say, saying } from '../sentences/index.js';
import {
  addressKey,
  isPhone,
  isPicture,
  isWeb,
  splitChoices,
  freeTitle,
  readValue,
  columnFor,
  decimalText,
  FillFormat,
  guessDecimal,
  plainTitle,
  printValue,
  needsUtf8,
  readAddress,
  readMoment,
  readNumber,
  readPercentage,
  serialDuration,
  serialMoment,
  type Value,
} from './index.js';

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
  // RFC 6532, 3.2, and RFC 5890: letters of other scripts before and behind the @.
  test.each([
    'zoë@example.org',
    'a@bücher.example',
    'дело@почта.рф',
    'a@xn--bcher-kva.example',
    '王@例え.テスト',
  ])('%s is an address in a script of its own', (address) =>
    expect(readAddress(address)).toEqual({ kind: 'address', address }),
  );
  test('written in its own script or in ASCII it is the same', () =>
    expect(addressKey('A@Bücher.example')).toBe(addressKey(' a@xn--bcher-kva.example ')));
  test('what a mail server has to know for it is told', () => {
    expect(['zoë@example.org', 'a@bücher.example', 'a@b.example'].map(needsUtf8)).toEqual([
      true,
      false,
      false,
    ]);
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
    ['a(b)@example.org', 'not allowed'],
    ['a@b\u200bc.example', 'not allowed'],
    ['a@bü cher.example', 'space'],
    ['a@\u202eexample.org', 'not allowed'],
    ['\u202ea@example.org', 'not allowed'],
    // 64 octets, not letters.
    [`${'ë'.repeat(33)}@example.org`, 'too long'],
    ['a@1.2.3.4', 'number'],
    // 4.5.3.1.1: 64 octets in a local part.
    [`${'x'.repeat(65)}@example.org`, 'too long'],
    ['a@example.org\r\nBcc: b@example.org', 'space'],
  ])('%s is none that mail can go to', (cell, why) => {
    const reading = readAddress(cell);
    expect(reading.kind === 'wrong' && say(reading.reason)).toContain(why);
  });
});

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

const number = (decimal: string): Value => ({ kind: 'number', decimal });
const date = (iso: string): Value => ({ kind: 'date', iso });
const format = (given: object): FillFormat => FillFormat.parse(given);
/** CLDR has spaces that do not break in some places; they are as good as plain ones here. */
const spaces = (text: string | null): string | undefined => text?.replace(/[\u00a0\u202f]/g, ' ');

// Unicode CLDR: numbers (symbols, patterns), dates (dateFormats), list patterns of each language.
test.each([
  ['en-GB', number('1234567.5'), { kind: 'number' }, '1,234,567.5'],
  ['de-DE', number('1234567.5'), { kind: 'number', least: 2, most: 2 }, '1.234.567,50'],
  ['fr-FR', number('1234567.5'), { kind: 'number' }, '1 234 567,5'],
  ['hi-IN', number('1234567'), { kind: 'number' }, '12,34,567'],
  ['en-GB', number('1234.5'), { kind: 'number', thousands: false, plus: true, unit: ' kg' }, '+1234.5 kg'],
  ['en-GB', number('-3'), { kind: 'number' }, '-3'],
  ['en-GB', date('2026-04-03'), { kind: 'date' }, '3 April 2026'],
  ['en-US', date('2026-04-03'), { kind: 'date' }, 'April 3, 2026'],
  ['de-DE', date('2026-04-03'), { kind: 'date', style: 'full' }, 'Freitag, 3. April 2026'],
  ['pl-PL', date('2026-04-03'), { kind: 'date' }, '3 kwietnia 2026'],
  ['nl-NL', date('2026-04-03'), { kind: 'date', style: 'short' }, '03-04-2026'],
  ['en-GB', date('2026-04-03T14:05'), { kind: 'date', style: 'iso', time: true }, '2026-04-03T14:05'],
  ['en-GB', date('2026-04-03T14:05'), { kind: 'date', style: 'short' }, '03/04/2026'],
  ['de-DE', date('2026-04-03T14:05'), { kind: 'date', style: 'short', time: true }, '03.04.26, 14:05'],
  ['en-GB', { kind: 'list', items: ['Ada', 'Bo', 'Cy'] } as Value, { kind: 'list' }, 'Ada, Bo and Cy'],
  ['en-US', { kind: 'list', items: ['Ada', 'Bo', 'Cy'] } as Value, { kind: 'list' }, 'Ada, Bo, and Cy'],
  ['es-ES', { kind: 'list', items: ['Ada', 'Inés'] } as Value, { kind: 'list' }, 'Ada e Inés'],
  ['de-DE', { kind: 'list', items: ['Ada', 'Bo'] } as Value, { kind: 'list', last: 'or' }, 'Ada oder Bo'],
  ['en-GB', { kind: 'list', items: ['Ada', 'Bo'] } as Value, { kind: 'list', last: 'nothing' }, 'Ada, Bo'],
  ['en-GB', { kind: 'list', items: ['Ada', 'Bo'] } as Value, { kind: 'list', take: 'first' }, 'Ada'],
  [
    'en-GB',
    { kind: 'truth', truth: false } as Value,
    { kind: 'yes/no', yes: 'passed', no: 'not yet' },
    'not yet',
  ],
])('%s prints %j as %j: %s', (language, value, given, printed) => {
  expect(spaces(printValue(value, format(given), language))).toBe(printed);
});

test('a percentage says so as the language does (CLDR, unit percent)', () => {
  expect(printValue(number('88.5'), format({ kind: 'number' }), 'en-GB', true)).toBe('88.5%');
  expect(spaces(printValue(number('88.5'), format({ kind: 'number' }), 'de-DE', true))).toBe('88,5 %');
});

test('no digit of a number is lost, however many it has', () => {
  const digits = '12345678901234567890.12345678901234567';
  expect(printValue(number(digits), format({ kind: 'number', thousands: false }), 'en-GB')).toBe(digits);
});

test('a day is the same in every place of the world, at both ends of the year', () => {
  for (const iso of ['2026-01-01', '2026-12-31'])
    expect(printValue(date(iso), format({ kind: 'date' }), 'en-GB')).toContain(iso.slice(0, 4));
});

test('what is none of the kind is not printed by the format', () => {
  fc.assert(
    fc.property(
      fc.constantFrom<Value>(
        { kind: 'blank' },
        { kind: 'text', text: 'x' },
        { kind: 'wrong', reason: saying('not-date') },
      ),
      fc.constantFrom<object>(
        { kind: 'number' },
        { kind: 'date' },
        { kind: 'list' },
        { kind: 'yes/no', yes: 'y', no: 'n' },
      ),
      (value, given) => expect(printValue(value, format(given), 'en')).toBeNull(),
    ),
  );
});

test('a format asks for a number of digits that there can be', () => {
  expect(FillFormat.safeParse({ kind: 'number', least: 3, most: 2 }).success).toBe(false);
  expect(FillFormat.safeParse({ kind: 'number', most: 21 }).success).toBe(false);
});

describe('what a cell means', () => {
  test.each(['yes', 'Y', 'TRUE', 'ja', 'Oui', '1', '✓', 'x', 'はい', 'نعم'])('%s says yes', (text) =>
    expect(readValue({ type: 'yes/no' }, ` ${text} `)).toEqual({ kind: 'truth', truth: true }),
  );
  test.each(['no', 'N', 'False', 'nein', 'non', '0', '✗', '-', 'いいえ', 'لا'])('%s says no', (text) =>
    expect(readValue({ type: 'yes/no' }, text)).toEqual({ kind: 'truth', truth: false }),
  );
  test('what says neither is wrong; what a workbook knows goes before the words', () => {
    const wrong = { kind: 'wrong', reason: saying('not-truth') };
    expect(readValue({ type: 'yes/no' }, 'perhaps')).toEqual(wrong);
    expect(readValue({ type: 'yes/no' }, 'WAHR', 'b:true')).toEqual({ kind: 'truth', truth: true });
    expect(readValue({ type: 'yes/no' }, 'FALSCH', 'b:false')).toEqual({ kind: 'truth', truth: false });
  });
  test.each(['text', 'number', 'percentage', 'date', 'date-time', 'yes/no', 'email', 'phone'] as const)(
    'a blank cell of type %s is blank, and one with spaces too',
    (type) => {
      expect(readValue({ type }, '')).toEqual({ kind: 'blank' });
      expect(readValue({ type }, ' \t ')).toEqual({ kind: 'blank' });
    },
  );
  test('a day from a moment, and a moment from a day', () => {
    const exact = 't:2026-03-04T09:30:00';
    expect(readValue({ type: 'date' }, '4 Mar', exact)).toEqual({ kind: 'date', iso: '2026-03-04' });
    expect(readValue({ type: 'date-time' }, '4 Mar', exact)).toEqual({
      kind: 'date',
      iso: '2026-03-04T09:30:00',
    });
    expect(readValue({ type: 'date-time' }, '4 March 2026')).toEqual({ kind: 'date', iso: '2026-03-04' });
    // A number behind the cell is no day.
    expect(readValue({ type: 'date' }, 'soon', 'n:46085')).toEqual({
      kind: 'wrong',
      reason: saying('not-date'),
    });
    expect(readValue({ type: 'number' }, '45', 'n:45.25')).toEqual({ kind: 'number', decimal: '45.25' });
    expect(readValue({ type: 'percentage' }, '45%', 'n:0.45')).toEqual({ kind: 'number', decimal: '45' });
  });
  // ITU-T E.164: at most 15 digits; 7 as the fewest is common practice.
  test.each([
    ['1234567', true],
    ['123456', false],
    ['123456789012345', true],
    ['1234567890123456', false],
    ['+44 (0)20 7946-0018 ext. 12', true],
    ['call me', false],
  ])('%s is a phone number: %s', (text, is) => expect(isPhone(text)).toBe(is));
  test('web addresses and names of pictures', () => {
    expect(['https://x.example/a', 'www.x.example', 'HTTP://x.example'].map(isWeb)).toEqual([
      true,
      true,
      true,
    ]);
    expect(['x.example', 'https://', 'ftp://x.example', 'www.x example'].map(isWeb)).toEqual(
      Array(4).fill(false),
    );
    expect(['a.png', 'https://x.example/b.JPG?w=2', 'c d.svg#x'].map(isPicture)).toEqual([true, true, true]);
    expect(['.png', 'a.pdf', 'a.png\nb'].map(isPicture)).toEqual([false, false, false]);
  });
  test('several choices: blank ones are none', () => {
    expect(splitChoices('a; ;b;', ';')).toEqual(['a', 'b']);
    expect(splitChoices('a  b', ' ')).toEqual(['a', 'b']);
    expect(splitChoices('', ',')).toEqual([]);
  });
});

describe('edges', () => {
  test.each([
    ['4/3/49', 'dmy', '2049-03-04'],
    ['4/3/50', 'dmy', '1950-03-04'],
    ['4 March 2026 12:00 am', undefined, '2026-03-04T00:00:00'],
    ['4 March 2026 12:30 pm', undefined, '2026-03-04T12:30:00'],
    ['4 March 2026 11:59 p.m.', undefined, '2026-03-04T23:59:00'],
    ['2026-03-04 23:59:59', undefined, '2026-03-04T23:59:59'],
    ['2026-03-04 24:00', undefined, null],
    ['2026-03-04 10:60', undefined, null],
    ['2026-02-29', undefined, null],
    ['2028-02-29', undefined, '2028-02-29'],
    ['31/4/2026', 'dmy', null],
    ['4/3/2', 'dmy', null],
    ['4/3/026', 'dmy', null],
  ] as const)('%s (%s) is %s', (text, order, iso) => expect(readMoment(text, order)?.iso ?? null).toBe(iso));
  test('shortest and longest texts that are looked at', () => {
    expect(readMoment('1/1/26')?.iso).toBe('2026-01-01');
    expect(readMoment('1/1/2')).toBeNull();
    expect(readMoment(`${' '.repeat(80)}1/1/2026`)?.iso).toBe('2026-01-01');
    expect(readNumber('9'.repeat(100))).toBe('9'.repeat(100));
    expect(readNumber('9'.repeat(101))).toBeNull();
  });
  test('as many digits as spreadsheets show, and no more', () => {
    expect(decimalText(1234567.12345678)).toBe('1234567.12345678');
    expect(decimalText(0.1 + 0.2)).toBe('0.3');
    expect(decimalText(1.5e-7)).toBe('0.00000015');
    expect(decimalText(-1.25e21)).toBe('-1250000000000000000000');
  });
  test.each([
    [0, 'PT0S'],
    [1.5, 'PT36H'],
    [26.5 / 24, 'PT26H30M'],
    [90 / 86_400, 'PT1M30S'],
    [-1 / 24, '-PT1H'],
  ])('%d days are %s (ISO 8601)', (days, text) => expect(serialDuration(days)).toBe(text));
  test('a day has no time, also where one is asked for', () => {
    const long = { kind: 'date', style: 'long', time: true } as const;
    expect(printValue(date('2026-04-03'), long, 'en-GB')).toBe('3 April 2026');
  });
  test('more formats than are kept still print', () => {
    const languages = ['en', 'de', 'fr', 'es', 'it', 'nl', 'pl', 'sv'];
    for (let n = 0; n < 120; n++)
      expect(printValue(number('1'), format({ kind: 'number', least: n % 15 }), languages[n % 8]!)).toMatch(
        /^1/,
      );
  });
  test('a free title', () => {
    expect(freeTitle('Mark', new Set(['Name']))).toBe('Mark');
    expect(freeTitle('Mark', new Set(['Mark', 'Mark (2)']))).toBe('Mark (3)');
  });
});
