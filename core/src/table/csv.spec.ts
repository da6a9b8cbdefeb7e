import { createRequire } from 'node:module';
import { readFileSync, readdirSync } from 'node:fs';
import path from 'node:path';
import fc from 'fast-check';
import Papa from 'papaparse';
import { readCsv, readRecords, SHEET_LIMITS, type Sheet } from './index.js';

const bytes = (text: string): Uint8Array => new TextEncoder().encode(text);
let count = 0;
const newId = (): string => `c${++count}`;

function read(text: string | Uint8Array): Sheet {
  const result = readCsv(typeof text === 'string' ? bytes(text) : text, newId);
  if (!result.ok) throw new Error(result.problem.message);
  return result.value;
}
function refusal(text: string | Uint8Array): { code: string; message: string } {
  const result = readCsv(typeof text === 'string' ? bytes(text) : text, newId);
  if (result.ok) throw new Error('was read');
  return result.problem;
}
const records = (text: string): string[][] => {
  const result = readRecords(text);
  if (!result.ok) throw new Error(result.problem.message);
  return result.value.rows;
};

describe('RFC 4180, section 2: its own examples', () => {
  const expected = [
    ['aaa', 'bbb', 'ccc'],
    ['zzz', 'yyy', 'xxx'],
  ];
  test.each([
    ['2.1 records on lines of their own', 'aaa,bbb,ccc\r\nzzz,yyy,xxx\r\n'],
    ['2.2 no line end after the last record', 'aaa,bbb,ccc\r\nzzz,yyy,xxx'],
    ['2.5 fields in quotation marks', '"aaa","bbb","ccc"\r\nzzz,yyy,xxx'],
  ])('%s', (_name, text) => {
    expect(records(text).filter((row) => row.join('') !== '')).toEqual(expected);
  });
  test('2.3 a header line', () => {
    const sheet = read('field_name,field_name2,field_name3\r\naaa,bbb,ccc\r\nzzz,yyy,xxx\r\n');
    expect(sheet.columns.map((column) => column.title)).toEqual(['field_name', 'field_name2', 'field_name3']);
    expect(sheet.rows).toEqual(expected);
  });
  test('2.6 a line end inside quotation marks', () => {
    expect(records('"aaa","b\r\nbb","ccc"\r\nzzz,yyy,xxx')[0]).toEqual(['aaa', 'b\r\nbb', 'ccc']);
  });
  test('2.7 a doubled quotation mark', () => {
    expect(records('"aaa","b""bb","ccc"')).toEqual([['aaa', 'b"bb', 'ccc']]);
  });
  test('2.4 spaces are part of a field', () => {
    expect(read('a,b\r\n x , y ').rows[0]).toEqual([' x ', ' y ']);
  });
});

describe('csv-spectrum data set (npm csv-spectrum 2.0.0)', () => {
  const folder = path.dirname(createRequire(import.meta.url).resolve('csv-spectrum/package.json'));
  const names = readdirSync(path.join(folder, 'csvs'))
    .filter((name) => name.endsWith('.csv'))
    .map((name) => name.replace('.csv', ''));
  test('has its cases', () => expect(names.length).toBeGreaterThan(8));
  test.each(names)('%s', (name) => {
    const expected = [
      JSON.parse(readFileSync(path.join(folder, 'json', `${name}.json`), 'utf8')) as Record<string, string>[],
    ].flat();
    // The set's JSON for this case is one object, and its telephone number is not the one of its CSV.
    if (name === 'location_coordinates') expected[0]!['Contact Phone Number'] = '2095257564';
    const sheet = read(readFileSync(path.join(folder, 'csvs', `${name}.csv`)));
    const rows = sheet.rows.map((row) =>
      Object.fromEntries(sheet.columns.map((column, j) => [column.title, row[j]])),
    );
    expect(rows).toEqual(expected);
  });
});

describe('encodings', () => {
  test('UTF-8 with a byte order mark, which is no part of the first title', () => {
    expect(read('\uFEFFName,Class\nZoë,8A').columns[0]?.title).toBe('Name');
  });
  test('UTF-16, both ways round, with and without a mark (RFC 2781)', () => {
    const text = 'Name,Class\nZoë,8A\nŁukasz,8B';
    const little = new Uint8Array([...text].flatMap((c) => [c.charCodeAt(0) & 255, c.charCodeAt(0) >> 8]));
    const big = new Uint8Array([...text].flatMap((c) => [c.charCodeAt(0) >> 8, c.charCodeAt(0) & 255]));
    for (const file of [
      little,
      big,
      new Uint8Array([0xff, 0xfe, ...little]),
      new Uint8Array([0xfe, 0xff, ...big]),
    ]) {
      expect(read(file).rows.map((row) => row[0])).toEqual(['Zoë', 'Łukasz']);
    }
  });
  test('Windows-1252, where the bytes are no UTF-8 (WHATWG Encoding: 0x92 is U+2019)', () => {
    expect(read(new Uint8Array([...bytes('Name\nD'), 0x92, ...bytes('Arcy Zo'), 0xeb])).rows[0]).toEqual([
      'D’Arcy Zoë',
    ]);
  });
});

describe('delimiters', () => {
  test.each([[';'], ['\t'], ['|'], [',']])('%j', (d) => {
    expect(
      read(`Name${d}Mark\nAmara, B.${d === ',' ? ' x' : ''}${d}7`.replace('Amara, B. x', '"Amara, B. x"'))
        .columns,
    ).toHaveLength(2);
  });
  test('one column, with commas nowhere', () => {
    expect(read('Name\nAmara\nIlse').rows).toEqual([['Amara'], ['Ilse']]);
  });
});

describe('what is not in order', () => {
  test('ragged rows keep every cell and are named', () => {
    const sheet = read('a,b\n1\n1,2,3\n1,2');
    expect(sheet.rows).toEqual([
      ['1', '', ''],
      ['1', '2', '3'],
      ['1', '2', ''],
    ]);
    expect(sheet.columns[2]?.title).toBe('Column 3');
    expect(sheet.notes.map((note) => [note.code, note.rows])).toEqual(
      expect.arrayContaining([
        ['row-short', [2]],
        ['row-long', [3]],
      ]),
    );
  });
  test('repeated and empty titles get titles of their own, and it is said', () => {
    const sheet = read('Name,Name,,Name (2),Name\n1,2,3,4,5');
    const titles = sheet.columns.map((column) => column.title);
    expect(titles).toEqual(['Name', 'Name (3)', 'Column 3', 'Name (2)', 'Name (4)']);
    expect(new Set(sheet.columns.map((column) => column.id)).size).toBe(5);
    expect(sheet.notes.map((note) => note.code).sort()).toEqual(['header-empty', 'header-repeated']);
  });
  test('a comma too many at the end of the header alone is nothing to speak of', () => {
    const sheet = read('a,b,\n1,2\n3,4');
    expect(sheet.columns).toHaveLength(2);
    expect(sheet.notes).toEqual([]);
  });
  test('blank lines are passed over', () => expect(read('\n\na,b\n\n1,2\n,\n').rows).toEqual([['1', '2']]));
  test.each([
    ['an empty file', '', 'file-empty'],
    ['white space only', ' \n \n', 'file-empty'],
    ['a header only', 'Name,Class\n', 'header-only'],
    ['a quotation mark that stays open', 'Name,Class\n"Amara,8A\nIlse,8B\n', 'quote-open'],
  ])('%s is refused with a sentence', (_name, text, code) => {
    const problem = refusal(text);
    expect(problem.code).toBe(code);
    expect(problem.message).toMatch(/^[A-Z].*\.$/);
  });
  test('other kinds of file with a .csv name are told by their first bytes', () => {
    expect(refusal(new Uint8Array([0x50, 0x4b, 3, 4, 0, 0]))).toMatchObject({
      code: 'file-binary',
      message: expect.stringContaining('workbook'),
    });
    expect(refusal(bytes('%PDF-1.7\n'))).toMatchObject({
      code: 'file-binary',
      message: expect.stringContaining('PDF'),
    });
    expect(refusal(new Uint8Array(500).map((_, i) => (i * 37) % 32)).code).toBe('file-binary');
  });
  test('a file over the limit is refused with its size, before it is read', () => {
    expect(refusal(new Uint8Array(60 * 1024 * 1024))).toMatchObject({
      code: 'file-too-large',
      message: expect.stringContaining('60 MB'),
    });
  });
  test('limits of rows, columns and cells', () => {
    expect(refusal(`a\n${'1\n'.repeat(SHEET_LIMITS.rows + 1)}`).code).toBe('too-many-rows');
    expect(refusal(`${'a,'.repeat(600)}a\n${'1,'.repeat(600)}1`).code).toBe('too-many-columns');
    expect(refusal(`a\n${'x'.repeat(SHEET_LIMITS.cell + 1)}`)).toMatchObject({
      code: 'cell-too-long',
      message: expect.stringContaining('Row 2'),
    });
  });
});

test('what another writer wrote comes back the same (papaparse as the writer)', () => {
  const cell = fc.string({ unit: 'grapheme', maxLength: 12 }).map((text) => text.replace(/\p{Cc}/gu, ''));
  fc.assert(
    fc.property(fc.array(fc.tuple(cell, cell, cell), { minLength: 1, maxLength: 20 }), (rows) => {
      const solid = rows.filter((row) => row.some((value) => value.trim() !== ''));
      fc.pre(solid.length > 0);
      const text = Papa.unparse([['One', 'Two', 'Three'], ...solid], { quotes: true });
      expect(read(text).rows.map((row) => row.slice(0, 3))).toEqual(solid);
    }),
  );
});

describe('records of files that other programs put together', () => {
  const rowsOf = (text: string): string[][] => {
    const sheet = readCsv(new TextEncoder().encode(text), () => `t${Math.random()}`);
    if (!sheet.ok) throw new Error(sheet.problem.message);
    return sheet.value.rows.map((row) => [...row]);
  };
  // RFC 4180, 2.1: each record ends with a line break; which one differs between systems, and in files made of several.
  test.each([
    ['CRLF, then LF', 'Name,Mark\r\nMina,1\nZoë,2\r\nNoor,3\n'],
    ['LF, then CRLF', 'Name,Mark\nMina,1\r\nZoë,2\nNoor,3'],
    ['CR, then LF', 'Name,Mark\rMina,1\nZoë,2\rNoor,3'],
    ['CRLF, then CR', 'Name,Mark\r\nMina,1\rZoë,2\rNoor,3\r\n'],
    ['CR alone', 'Name,Mark\rMina,1\rZoë,2\rNoor,3\r'],
  ])('%s: no two learners in one row', (_, text) =>
    expect(rowsOf(text)).toEqual([
      ['Mina', '1'],
      ['Zoë', '2'],
      ['Noor', '3'],
    ]),
  );
  test('line breaks within quotes stay as they are, whatever the records end with', () => {
    expect(rowsOf('Name,Text\r\nMina,"a\nb\r\nc\rd"\nZoë,"x ""y"""\r\n')).toEqual([
      ['Mina', 'a\nb\r\nc\rd'],
      ['Zoë', 'x "y"'],
    ]);
  });
  test('a quote after a space opens a cell, and spaces behind it are none of its text', () => {
    expect(rowsOf('Name, Remark, Mark\nMina, "well, done" , 7\nZoë, "a ""b""", 8\n "Noor", x,9')).toEqual([
      ['Mina', 'well, done', ' 7'],
      ['Zoë', 'a "b"', ' 8'],
      ['Noor', ' x', '9'],
    ]);
  });
  test('a quote within a cell is only that', () => {
    expect(rowsOf('Name,Size\r\nMina,5" pipe\nZoë,a "b" c\r\n')).toEqual([
      ['Mina', '5" pipe'],
      ['Zoë', 'a "b" c'],
    ]);
  });
});

test.each([
  ['ID;PWXL;N;E\nC;Y1;X1;K"Name"\nE\n', /is a SYLK file/],
  ['TABLE\r\n0,1\r\n"EXCEL"\r\nVECTORS\r\n', /is a DIF file/],
  ['\u0089PNG\r\n', /is a PNG picture, and no table/],
  ['%PDF-1.7', /is a PDF document/],
  ['{\\rtf1 x}', /is a rich-text document/],
])('what is no table as text is said to be what it is', (text, sentence) => {
  const bytes = Uint8Array.from(text, (sign) => sign.charCodeAt(0));
  const read = readCsv(bytes, () => 'x');
  expect(read.ok || read.problem.message).toMatch(sentence);
  expect(read.ok || read.problem.message).not.toMatch(/named like/);
});
