import fc from 'fast-check';
import type { Entry } from '../roll/index.js';
import { type Column, FillFormat } from '../column/index.js';
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
    { kind: 'wrong', reason: { code: 'not-number', parameters: {} } },
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
