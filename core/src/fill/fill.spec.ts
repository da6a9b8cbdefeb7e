import fc from 'fast-check';
import type { Entry } from '../roll/index.js';
import { type Column, type Value, FillFormat, printValue } from '../column/index.js';
import {
  fillFields,
  oneLine,
  printable,
  printedOf,
  textsOfFilled,
  textsOfPrinted,
  type FillContext,
} from './index.js';

test('line ends become one kind, and control characters go', () => {
  expect(printable('a\r\nb\rc\u0000\u0007\td ')).toBe('a\nb\nc d');
});

test('text stays as it was otherwise, in every script', () => {
  for (const text of ['#panic("x") {{Name}} <script>', 'محمد السعدي', 'Zoe\u0308', 'नी', '👩‍🏫', 'a  b'])
    expect(printable(text)).toBe(text);
});

test('printing twice changes nothing, and the result is well formed', () => {
  fc.assert(
    fc.property(fc.string({ unit: 'binary' }), (text) => {
      const once = printable(text);
      expect(printable(once)).toBe(once);
      expect(once.isWellFormed()).toBe(true);
    }),
  );
});

test('one line has no line ends', () => expect(oneLine(' a\n b\u2028c ')).toBe('a b c'));

const context = (columns: Column[] = [], language = 'en-GB'): FillContext => ({ columns, language });

test('an unmatched field has no value, an empty cell has an empty one', () => {
  const entry = { id: 'e', position: 0, values: { c: ' x ' } };
  const fields = [
    { id: '1', name: 'A', columnId: 'c' },
    { id: '2', name: 'B', columnId: 'd' },
    { id: '3', name: 'C', columnId: null },
  ];
  expect(textsOfFilled(fillFields(fields, entry, context()))).toEqual({ 1: 'x', 2: '' });
});

test('behind the text stands what it means by the type of its column, with what a workbook knows of it', () => {
  const columns: Column[] = [
    { id: 'n', title: 'Mark', type: 'number' },
    { id: 'd', title: 'Day', type: 'date', format: { dateOrder: 'dmy' } },
    { id: 'l', title: 'Clubs', type: 'several choices', format: { separator: ';' } },
    { id: 't', title: 'Consent', type: 'yes/no' },
    { id: 'p', title: 'Share', type: 'percentage' },
    { id: 'w', title: 'Wrong', type: 'number' },
  ];
  const entry: Entry = {
    id: 'e',
    position: 0,
    values: { n: '88.5', d: '3/4/2026', l: 'Chess; Choir', t: 'ja', p: '89%', w: 'eight' },
    exact: { p: 'p:88.5' },
  };
  const fields = columns.map(({ id }) => ({ id, name: id, columnId: id }));
  const filled = fillFields(fields, entry, context(columns));
  expect(Object.values(filled).map(({ text }) => text)).toEqual(Object.values(entry.values));
  expect(Object.values(filled).map(({ value }) => value)).toEqual([
    { kind: 'number', decimal: '88.5' },
    { kind: 'date', iso: '2026-04-03' },
    { kind: 'list', items: ['Chess', 'Choir'] },
    { kind: 'truth', truth: true },
    { kind: 'number', decimal: expect.any(String) },
    { kind: 'wrong', reason: 'it is no number' },
  ]);
});

test('a field with a format prints the value behind the cell; a cell that is none of the kind stays as it is', () => {
  const columns: Column[] = [{ id: 'n', title: 'Mark', type: 'number' }];
  const field = {
    id: 'f',
    name: 'Mark',
    columnId: 'n',
    format: FillFormat.parse({ kind: 'number', least: 1, most: 1, unit: ' points' }),
  };
  const print = (n: string, language = 'en-GB'): string =>
    fillFields([field], { id: 'e', position: 0, values: { n } }, context(columns, language))['f']!.text;
  expect([print('1234.55'), print('absent'), print('')]).toEqual(['1,234.6 points', 'absent', '']);
  expect(print('1234.55', 'de-DE')).toBe('1.234,6 points');
});

test('a field of rows has them all, and a line for each where there is no room for a table', () => {
  const entry: Entry = {
    id: 'e',
    position: 0,
    values: {},
    tables: {
      s: [
        ['Chess', 'Mon', ''],
        ['Choir\nand band', 'Tue', 'late'],
      ],
    },
  };
  const field = { id: 'f', name: 'Clubs', columnId: null, rowsOf: 's' };
  const filled = fillFields([field, { ...field, id: 'g', rowsOf: 'other' }], entry, context());
  expect(filled['f']).toEqual({
    text: 'Chess, Mon\nChoir and band, Tue, late',
    value: { kind: 'list', items: ['Chess, Mon', 'Choir and band, Tue, late'] },
    rows: [
      ['Chess', 'Mon', ''],
      ['Choir\nand band', 'Tue', 'late'],
    ],
  });
  const printed = printedOf(filled);
  expect(printed).toEqual({
    f: { text: filled['f']!.text, rows: filled['f']!.rows },
    g: { text: '', rows: [] },
  });
  expect(textsOfPrinted(printed)).toEqual({ f: filled['f']!.text, g: '' });
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
      fc.constantFrom<Value>({ kind: 'blank' }, { kind: 'text', text: 'x' }, { kind: 'wrong', reason: 'r' }),
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
