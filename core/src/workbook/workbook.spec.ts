import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { CFB, utils, write, type WorkSheet } from '@e965/xlsx';
import fc from 'fast-check';
import { zipSync } from 'fflate';
import Papa from 'papaparse';
import { SHEET_LIMITS, type LaidOut, type Reading, type Sheet } from '../table/index.js';
import { openSheetFile, writeSheet, type OpenedFile } from './index.js';

let count = 0;
const newId = (): string => `c${++count}`;
const bytes = (text: string): Uint8Array => new TextEncoder().encode(text);
// How the fixtures were made: core/fixtures/README.md.
const fixture = (name: string): Uint8Array =>
  new Uint8Array(readFileSync(fileURLToPath(new URL(`../../fixtures/${name}`, import.meta.url))));

function open(file: Uint8Array): OpenedFile {
  const opened = openSheetFile(file);
  if (!opened.ok) throw new Error(opened.problem.message);
  return opened.value;
}
function lay(file: Uint8Array, reading: Reading = {}): LaidOut {
  const laidOut = open(file).layOut(reading, newId);
  if (!laidOut.ok) throw new Error(laidOut.problem.message);
  return laidOut.value;
}
function refusal(file: Uint8Array, reading: Reading = {}): { code: string; message: string } {
  const opened = openSheetFile(file);
  const result = opened.ok ? opened.value.layOut(reading, newId) : opened;
  if (result.ok) throw new Error('was read');
  expect(result.problem.message).toMatch(/^[A-Z].*\.$/);
  return result.problem;
}
const plain = (sheet: Sheet) => ({
  titles: sheet.columns.map(({ title, type }) => `${title}: ${type}`),
  rows: sheet.rows,
  exact: sheet.exact,
  lines: sheet.lines,
});
function workbook(sheet: WorkSheet, type: 'xlsx' | 'biff8' | 'ods' = 'xlsx'): Uint8Array {
  const book = utils.book_new();
  utils.book_append_sheet(book, sheet, 'S');
  return new Uint8Array(write(book, { type: 'array', bookType: type, compression: true }) as ArrayBuffer);
}

describe('files written by another program than the reader (LibreOffice 7.4)', () => {
  const files = ['school-1900.xlsx', 'school-1900.ods', 'school-1900.xls', 'school-1904.xlsx'];
  test.each(files)('%s: the marks, with a heading, two rows of titles, merged cells and totals', (name) => {
    const { sheet, reading } = lay(fixture(name));
    expect(reading).toEqual({
      sheet: 'Marks',
      header: { row: 3, count: 2 },
      decimal: '.',
      keepTotals: false,
    });
    expect(plain(sheet)).toMatchObject({
      titles: [
        'Name: text',
        'Class: text',
        'Term 1 – Maths: number',
        'Term 1 – Science: number',
        'Remark: text',
      ],
      rows: [
        ['Zoë Ångström', '8B', '71.5', '64', 'a bold start'],
        ['Nguyễn Thị Hạnh', '8B', '88', '90.25', 'tidy '],
        ['محمد السعدي', '8B', '55', '', 'line one\nline two'],
      ],
      lines: [5, 6, 7],
    });
    expect(sheet.notes.map(({ code, rows }) => [code, rows])).toEqual([['row-total', [8]]]);
  });
  test.each(files)('%s: every type of cell, the same in every format and date system', (name) => {
    const { sheet } = lay(fixture(name), { sheet: 'Types' });
    expect(plain(sheet)).toEqual({
      titles: [
        'Number: number',
        'Candidate: text',
        'Day: date',
        'Moment: date-time',
        'Named day: date',
        'Share: percentage',
        'Spent: text',
        'Time: text',
        'Handed in: yes/no',
        'Double: number',
        'Broken: text',
        'Price: number',
        'Kept as text: text',
      ],
      rows: [
        [
          '0.1',
          '00123',
          '2026-03-04',
          '2026-03-04 09:30',
          '4 March 2026',
          '88.5%',
          '26:30:00',
          '09:05',
          'TRUE',
          '143',
          '',
          '1,234.50',
          '00456',
        ],
        [
          '12345678',
          '00007',
          '1999-12-31',
          '1999-12-31 23:59',
          '31 December 1999',
          '100.0%',
          '0:45:00',
          '13:00',
          'FALSE',
          '27',
          'ok',
          '-3.00',
          '=1+1',
        ],
      ],
      exact: [
        {
          1: 'n:123',
          2: 'd:2026-03-04',
          3: 't:2026-03-04T09:30:00',
          4: 'd:2026-03-04',
          5: 'p:88.5',
          6: 'u:PT26H30M',
          7: 'u:PT9H5M',
          8: 'b:true',
          10: 'e:#N/A',
          11: 'n:1234.5',
        },
        {
          1: 'n:7',
          2: 'd:1999-12-31',
          3: 't:1999-12-31T23:59:59',
          4: 'd:1999-12-31',
          5: 'p:100',
          6: 'u:PT45M',
          7: 'u:PT13H',
          8: 'b:false',
          11: 'n:-3',
        },
      ],
      lines: [2, 3],
    });
    expect(sheet.notes[0]).toMatchObject({ code: 'cell-error', message: expect.stringContaining('#N/A') });
  });
  test.each(files)('%s: a hidden sheet is there, and says so', (name) => {
    expect(open(fixture(name)).sheets.map(({ name: called, hidden }) => [called, hidden])).toEqual([
      ['Marks', false],
      ['Types', false],
      ['Old list', true],
    ]);
    expect(lay(fixture(name), { sheet: 'Old list' }).sheet.rows).toEqual([
      ['Left Last-Year', 'old@example.org'],
    ]);
  });
});

describe('how a file is read can be corrected', () => {
  test('another row of titles, none at all, totals kept', () => {
    const file = bytes('Class list\nName,Mark,Class\nAmara,7,8A\nTotal,7,\n');
    expect(lay(file).sheet.rows).toEqual([['Amara', '7', '8A']]);
    expect(lay(file, { keepTotals: true }).sheet.rows).toHaveLength(2);
    const bare = lay(file, { header: { row: 3, count: 0 } }).sheet;
    expect(bare.columns.map(({ title }) => title)).toEqual(['Column 1', 'Column 2', 'Column 3']);
    expect(refusal(file, { header: { row: 99, count: 1 } }).code).toBe('header-beyond');
  });
  test('the delimiter, the encoding and the decimal sign', () => {
    const file = new Uint8Array([...bytes('Name;Mark\nZo'), 0xeb, ...bytes(';1,5\n')]);
    const { sheet, reading } = lay(file);
    expect(reading).toMatchObject({ encoding: 'windows-1252', delimiter: ';', decimal: ',' });
    expect(sheet.columns[1]).toMatchObject({ type: 'number', format: { decimal: ',' } });
    expect(lay(file, { delimiter: ',' }).sheet.columns[0]?.title).toBe('Name;Mark');
    expect(lay(file, { encoding: 'utf-8' }).sheet.rows[0]?.[0]).toBe('Zo\ufffd');
  });
  test('a sheet that is not there', () => {
    expect(refusal(fixture('school-1900.xlsx'), { sheet: 'Nope' }).code).toBe('sheet-missing');
  });
});

describe('what cannot be read, or not all of it', () => {
  test('a workbook behind a password ([MS-OFFCRYPTO] 2.3.4.4: the stream EncryptedPackage)', () => {
    const file = CFB.utils.cfb_new();
    CFB.utils.cfb_add(file, '/EncryptionInfo', [4, 0, 4, 0]);
    CFB.utils.cfb_add(file, '/EncryptedPackage', new Array<number>(5000).fill(7));
    expect(refusal(new Uint8Array(CFB.write(file, { type: 'array' }) as number[])).code).toBe(
      'file-protected',
    );
  });
  test('an ODS behind a password (ODF 1.3 Part 2, 4.8: encryption-data)', () => {
    const file = zipSync({
      'content.xml': bytes('gibberish'),
      'META-INF/manifest.xml': bytes(
        '<manifest:file-entry><manifest:encryption-data/></manifest:file-entry>',
      ),
      mimetype: bytes('application/vnd.oasis.opendocument.spreadsheet'),
    });
    expect(refusal(file).code).toBe('file-protected');
  });
  test('a workbook that was cut off', () => {
    for (const name of ['school-1900.xlsx', 'school-1900.ods', 'school-1900.xls']) {
      const whole = fixture(name);
      expect(refusal(whole.subarray(0, whole.length / 2)).code).toBe('file-damaged');
    }
  });
  test('an archive that unpacks to more than there is room for, whatever its own figures say', () => {
    const file = zipSync({
      'xl/workbook.xml': bytes('<x/>'),
      'xl/worksheets/sheet1.xml': new Uint8Array(310 * 1024 * 1024),
    });
    expect(file.length).toBeLessThan(SHEET_LIMITS.bytes);
    expect(refusal(file)).toMatchObject({
      code: 'unpacks-too-large',
      message: expect.stringContaining('300 MB'),
    });
  }, 180_000);
  test('an archive of something else', () => {
    expect(refusal(zipSync({ 'readme.txt': bytes('hello') })).code).toBe('archive-unknown');
  });
  test('a million empty rows below the data are none', () => {
    const sheet = utils.aoa_to_sheet([['Name'], ['Amara']]);
    sheet['A1048576'] = { t: 'z' };
    sheet['!ref'] = 'A1:A1048576';
    expect(lay(workbook(sheet)).sheet.rows).toEqual([['Amara']]);
  });
  test('5,000 columns, and 40,000 characters', () => {
    const wide = utils.aoa_to_sheet([
      Array.from({ length: 5000 }, (_, n) => `c${n}`),
      Array.from({ length: 5000 }, () => 1),
    ]);
    expect(refusal(workbook(wide))).toMatchObject({
      code: 'too-many-columns',
      message: expect.stringContaining('500'),
    });
    const long = bytes(`Name,Essay\nAmara,${'x'.repeat(SHEET_LIMITS.cell)}\n`);
    expect(lay(long).sheet.rows[0]?.[1]).toHaveLength(SHEET_LIMITS.cell);
    expect(refusal(bytes(`Name,Essay\nAmara,${'x'.repeat(SHEET_LIMITS.cell + 1)}\n`)).code).toBe(
      'cell-too-long',
    );
  });
  test('a web page that is called .xls keeps its texts as they are', () => {
    const page =
      '<html><body><table><tr><th>Name</th><th>Number</th></tr><tr><td>Zo&euml;</td><td>00123</td></tr></table></body></html>';
    const { sheet } = lay(bytes(page));
    expect(sheet.rows).toEqual([['Zoë', '00123']]);
    expect(sheet.notes[0]?.code).toBe('file-html');
  });
  test('macros and links to other files are left alone, and it is said', () => {
    const parts = { 'xl/workbook.xml': bytes('<workbook/>') };
    const { sheet } = lay(fixture('school-1900.xlsx'));
    expect(sheet.notes.some(({ code }) => code === 'macros-ignored')).toBe(false);
    expect(refusal(zipSync({ ...parts, 'xl/vbaProject.bin': bytes('x') })).message).toMatch(/\.$/);
  });
  test('two columns of one name, and a column of mixed types', () => {
    const { sheet } = lay(
      workbook(
        utils.aoa_to_sheet([
          ['Mark', 'Mark'],
          [1, 'x'],
          [2, 5],
          ['abs', true],
        ]),
      ),
    );
    expect(sheet.columns.map(({ title }) => title)).toEqual(['Mark', 'Mark (2)']);
    expect(sheet.rows).toEqual([
      ['1', 'x'],
      ['2', '5'],
      ['abs', 'TRUE'],
    ]);
  });
});

describe('saving as a file', () => {
  const cell = fc
    .string({ unit: 'grapheme', minLength: 1, maxLength: 14 })
    .map((text) => text.replace(/[\p{Cc}\p{Cs}\ufffe\uffff]/gu, ''))
    .filter((text) => text.trim() !== '');
  test.each(['csv', 'xlsx', 'ods'] as const)('what was written as %s is read back the same', (kind) => {
    fc.assert(
      fc.property(fc.array(fc.tuple(cell, cell), { minLength: 1, maxLength: 8 }), (rows) => {
        const file = writeSheet(
          kind,
          'Roll',
          ['One', 'Two'],
          rows.map((row) => row.map((text) => ({ text }))),
        );
        const read = lay(file, { header: { row: 1, count: 1 }, keepTotals: true }).sheet.rows;
        const back =
          kind === 'csv' ? read.map((row) => row.map((text) => text.replace(/^'(?=[=+\-@])/, ''))) : read;
        expect(back).toEqual(rows);
      }),
      { numRuns: kind === 'csv' ? 100 : 40 },
    );
  });
  test('numbers stay numbers, and texts that look like numbers stay texts', () => {
    const rows = [[{ text: '1,5', number: 1.5 }, { text: '00123' }]];
    expect(lay(writeSheet('xlsx', 'R', ['Mark', 'Id'], rows)).sheet.rows).toEqual([['1.5', '00123']]);
  });
  test('a CSV holds nothing that a spreadsheet would work out (OWASP, CSV Injection)', () => {
    const texts = ['=1+1', '+cmd', '-cmd', '@SUM(A1)', '\tx', '-5', '+44 20', '-1.5%', 'plain'];
    const file = writeSheet(
      'csv',
      'R',
      ['T'],
      texts.map((text) => [{ text }]),
    );
    const rows = Papa.parse<string[]>(new TextDecoder().decode(file).trim())
      .data.slice(1)
      .map(([text]) => text);
    expect(rows).toEqual(["'=1+1", "'+cmd", "'-cmd", "'@SUM(A1)", "'\tx", '-5', '+44 20', '-1.5%', 'plain']);
  });
});
