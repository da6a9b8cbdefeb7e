import fc from 'fast-check';
import type { Entry } from '../roll/index.js';
import { type Column, FillFormat } from '../column/index.js';
import type { Field, JoinedValue, WordsIf } from '../template/index.js';
import {
  fillFields,
  isBlankField,
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

const context = (columns: Column[] = [], language = 'en-GB'): FillContext => ({
  columns,
  language,
  day: '2026-11-26',
});

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
    table: {
      rows: [
        ['Chess', 'Mon', ''],
        ['Choir\nand band', 'Tue', 'late'],
      ],
    },
  });
  const printed = printedOf(filled);
  expect(printed).toEqual({
    f: { text: filled['f']!.text, rows: filled['f']!.table!.rows },
    g: { text: '', rows: [] },
  });
  expect(textsOfPrinted(printed)).toEqual({ f: filled['f']!.text, g: '' });
});

const person = (values: Record<string, string>): Entry => ({ id: 'e', position: 0, values });
const printed = (
  field: Omit<Field, 'id' | 'name'>,
  values: Record<string, string>,
  columns: Column[] = [],
  language = 'en-GB',
) => fillFields([{ id: 'f', name: 'F', ...field }], person(values), context(columns, language))['f']?.text;
const behind = (columnId: string, between: string): JoinedValue => ({ between, name: columnId, columnId });

describe('values behind each other', () => {
  const name: Omit<Field, 'id' | 'name'> = { columnId: 'a', more: [behind('b', ' '), behind('c', ', ')] };
  test.each([
    [{ a: 'Ada', b: 'Quill', c: '8A' }, 'Ada Quill, 8A'],
    [{ a: 'Ada', b: '', c: '8A' }, 'Ada, 8A'],
    [{ a: '', b: 'Quill', c: '8A' }, 'Quill, 8A'],
    [{ a: '', b: '', c: '8A' }, '8A'],
    [{ a: 'Ada', b: ' ', c: '' }, 'Ada'],
    [{ a: '', b: '', c: '' }, ''],
  ])('%j is printed %j', (values, text) => expect(printed(name, values)).toBe(text));
  test('an address has no empty lines', () => {
    const block = { columnId: 'a', more: [behind('b', '\n'), behind('c', '\n')] };
    expect(printed(block, { a: '1 Weir Lane', b: '', c: 'Withycombe' })).toBe('1 Weir Lane\nWithycombe');
  });
  test('what stands around it stands there only where something is', () => {
    const around = { columnId: 'a', before: '(', after: ')' };
    expect([printed(around, { a: '8A' }), printed(around, { a: '' })]).toEqual(['(8A)', '']);
  });
});

describe('where nothing is to be printed', () => {
  const rule = (whenBlank: Field['whenBlank'], a = ''): string | undefined =>
    printed({ columnId: 'a', whenBlank, before: '«' }, { a });
  test('a dash, other words, or nothing', () => {
    expect(rule({ do: 'dash' })).toBe('–');
    expect(rule({ do: 'words', words: 'not given' })).toBe('not given');
    for (const what of ['nothing', 'sentence', 'line', 'hold'] as const) expect(rule({ do: what })).toBe('');
    expect(rule({ do: 'dash' }, 'x')).toBe('«x');
  });
  test('it is blank whatever is printed then', () => {
    const field = { id: 'f', name: 'F', columnId: 'a', whenBlank: { do: 'dash' as const } };
    expect(isBlankField(field, person({ a: '' }), context())).toBe(true);
    expect(isBlankField(field, person({ a: '0' }), context())).toBe(false);
  });
});

test('words by value: the first condition that holds; else the value', () => {
  const columns: Column[] = [{ id: 'a', title: 'Mark', type: 'number' }];
  const words = (columnId: string, is: 'at least' | 'blank', values: string[], then: string): WordsIf => ({
    if: { columnId, is, values },
    words: then,
  });
  const field = {
    columnId: 'a',
    wordsIf: [
      words('a', 'at least', ['70'], 'gold'),
      words('a', 'at least', ['50'], 'silver'),
      words('a', 'blank', [], 'absent'),
    ],
  };
  expect(['71', '70', '69.9', '49', ''].map((a) => printed(field, { a }, columns))).toEqual([
    'gold',
    'gold',
    'silver',
    '49',
    'absent',
  ]);
});

test('a text and the day are the same for everybody', () => {
  expect(printed({ columnId: null, same: { kind: 'text', text: 'Mr Grey' } }, {})).toBe('Mr Grey');
  const day = { columnId: null, same: { kind: 'day' as const } };
  // Unicode CLDR, date formats of length `long`.
  expect(
    ['en-GB', 'en-US', 'de-DE', 'fr-FR', 'es-ES', 'pl-PL', 'cy-GB', 'ja-JP', 'tr-TR'].map((language) =>
      printed(day, {}, [], language),
    ),
  ).toEqual([
    '26 November 2026',
    'November 26, 2026',
    '26. November 2026',
    '26 novembre 2026',
    '26 de noviembre de 2026',
    '26 listopada 2026',
    '26 Tachwedd 2026',
    '2026年11月26日',
    '26 Kasım 2026',
  ]);
  expect(printed({ ...day, format: FillFormat.parse({ kind: 'date', style: 'iso' }) }, {})).toBe(
    '2026-11-26',
  );
});

describe('a picture of the learner’s own', () => {
  const photo = {
    id: 'p',
    name: 'Photo',
    columnId: 'f',
    picture: { width: 35, height: 45, fit: 'whole' as const, side: 'left' as const },
  };
  const own: Column[] = [
    { id: 'n', title: 'Name', role: 'name' },
    { id: 'f', title: 'Photo', type: 'picture' },
  ];
  const filled = (exact?: string): unknown =>
    printedOf(
      fillFields(
        [photo],
        {
          id: 'e',
          position: 0,
          values: { n: 'Amara', f: 'amara.jpg' },
          ...(exact === undefined ? {} : { exact: { f: exact } }),
        },
        { columns: own, language: 'en', day: '' },
      ),
    )['p'];

  test('is known by the identity behind its name, and says whose it is', () =>
    expect(filled('i:0123456789abcdef')).toEqual({ text: 'Photo: Amara', picture: '0123456789abcdef' }));

  test.each([undefined, 'n:5', 'i:../assets/0', 'i:/etc/passwd', 'i:'])(
    'is blank where nothing but a name is there (%s)',
    (exact) => expect(filled(exact)).toBe(''),
  );
});

describe('a look-up in the rows of a joined sheet', () => {
  const rows = [
    ['Chess', 'Monday', 'Member'],
    ['Debating', 'Friday', 'captain '],
    ['', 'Friday', 'Captain'],
    ['Chess', 'Tuesday', 'Captain'],
    ['Choir', 'Friday', 'Member'],
  ];
  const found = (lookUp: NonNullable<Field['lookUp']>, language = 'en'): string =>
    fillFields(
      [{ id: 'f', name: 'Club', columnId: null, rowsOf: 's', lookUp }],
      { id: 'e', position: 0, values: {}, tables: { s: rows } },
      { columns: [], language, day: '' },
    )['f']!.text;

  test.each<[NonNullable<Field['lookUp']>, string]>([
    [{ at: 0, take: 'all' }, 'Chess, Debating, and Choir'],
    [{ at: 0, take: 'first' }, 'Chess'],
    [{ at: 0, take: 'last' }, 'Choir'],
    [{ at: 0, take: 'all', where: { at: 2, says: 'CAPTAIN' } }, 'Debating and Chess'],
    [{ at: 1, take: 'first', where: { at: 0, says: 'choir' } }, 'Friday'],
    [{ at: 0, take: 'all', where: { at: 1, says: 'Sunday' } }, ''],
    [{ at: 9, take: 'all' }, ''],
  ])('%j', (lookUp, expected) => expect(found(lookUp)).toBe(expected));

  test('puts them together as the language does', () =>
    expect(found({ at: 0, take: 'all' }, 'de')).toBe('Chess, Debating und Choir'));
});
