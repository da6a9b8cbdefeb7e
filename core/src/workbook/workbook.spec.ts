import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { CFB, utils, write, type WorkSheet } from '@e965/xlsx';
import fc from 'fast-check';
import { unzipSync, zipSync } from 'fflate';
import Papa from 'papaparse';
import { readValue } from '../column/index.js';
import { SHEET_LIMITS, type LaidOut, type Reading, type Sheet } from '../table/index.js';
import { openSheetFile, sheetName, writeSheet, type OpenedFile } from './index.js';

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
          // Whatever the decimal sign of the texts beside it: it is a tenth.
          0: 'n:0.1',
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

describe('what other programs write into workbooks', () => {
  /** A cell of a workbook with a number format. */
  const cell = (v: number | string, z?: string): object =>
    typeof v === 'number' ? { t: 'n', v, ...(z ? { z } : {}) } : { t: 's', v };
  const sheetOf = (...rows: object[][]): Uint8Array => {
    const sheet = utils.aoa_to_sheet(rows as never);
    return workbook(sheet);
  };
  const column = (values: [number, string][]): Sheet =>
    lay(sheetOf([cell('Name'), cell('Mark')], ...values.map(([v, z], n) => [cell(`L${n}`), cell(v, z)])))
      .sheet;

  // ECMA-376 Part 1, 18.8.31; what LibreOffice Calc shows for the same formats. Month names: Unicode CLDR.
  test.each([
    ['[$-407]#,##0.00', 56.5, '56,50', 'n:56.5'],
    ['[$€-407] #,##0.00', 56.5, '€ 56,50', 'n:56.5'],
    ['0.0 %', 0.456, '45.6 %', 'p:45.6'],
    ['0\\ %', 0.5, '50 %', 'p:50'],
    ['General" pts"', 56.5, '56.5 pts', 'n:56.5'],
    ['[>=50]"Pass";"Fail"', 56.5, 'Pass', 'n:56.5'],
    ['[>=50]"Pass";"Fail"', 12, 'Fail', 'n:12'],
    ['[=1]"Yes";[=0]"No";0', 0, 'No', 'n:0'],
    ['d. mmmm yyyy', 46351, '25. November 2026', 'd:2026-11-25'],
    ['[$-40C]d mmmm yyyy', 46351, '25 novembre 2026', 'd:2026-11-25'],
    ['[$-407]dddd, d. mmmm yyyy', 46351, 'Mittwoch, 25. November 2026', 'd:2026-11-25'],
    ['[$-C0A]d "de" mmmm "de" yyyy', 46351, '25 de noviembre de 2026', 'd:2026-11-25'],
    ['[$-411]yyyy"年"m"月"d"日"', 46351, '2026-11-25', 'd:2026-11-25'],
    ['dd/mm/yyyy', 46351, '2026-11-25', 'd:2026-11-25'],
    ['[h]:mm', 1.5, '36:00', 'u:PT36H'],
    // What no program can format is the plain number, or ISO 8601.
    ['0.0.0;;;;;', 56.5, '56.5', 'n:56.5'],
    ['General', 1.234, '1.234', 'n:1.234'],
  ])('the format %s shows %d as %s', (format, value, text, exact) => {
    const { rows, exact: known } = column([[value, format]]);
    expect([rows[0]![1], known[0]![1]]).toEqual([text, exact]);
  });
  test('a true number is never read with the decimal comma of the texts beside it', () => {
    const { sheet, reading } = lay(
      sheetOf(
        [cell('Name'), cell('Typed'), cell('True')],
        ...[1.234, 2.5, 1234].map((v, n) => [cell(`L${n}`), cell(`${n + 1},5`), cell(v)]),
      ),
    );
    expect(reading.decimal).toBe(',');
    expect(sheet.rows.map((row, n) => readValue(sheet.columns[2]!, row[2]!, sheet.exact[n]?.[2]))).toEqual(
      ['1.234', '2.5', '1234'].map((decimal) => ({ kind: 'number', decimal })),
    );
  });
  test('formulas whose results were not saved are told by their columns', () => {
    const file = sheetOf(
      [cell('Name'), cell('Mark'), cell('Twice')],
      [cell('Mina'), cell(7), { t: 'n', f: 'B2*2' }],
      [cell('Zoë'), cell(8), { t: 'n', f: 'B3*2' }],
    );
    const { sheet } = lay(file);
    expect(sheet.notes.map(({ code, message }) => [code, message])).toEqual([
      ['formulas-unworked', expect.stringContaining('The formulas of “Twice” came without their results')],
    ]);
    const saved = sheetOf([cell('Name'), cell('Twice')], [cell('Mina'), { t: 'n', v: 14, f: 'B2*2' }]);
    expect(lay(saved).sheet.notes).toEqual([]);
  });
  test('hidden rows are told, and can be left out', () => {
    const sheet = utils.aoa_to_sheet([
      ['Name', 'Mark'],
      ['Mina', 7],
      ['Zoë', 8],
      ['Noor', 9],
    ]);
    sheet['!rows'] = [{}, {}, { hidden: true }, {}];
    const file = workbook(sheet);
    const all = lay(file);
    expect(all.sheet.rows).toHaveLength(3);
    expect(all.sheet.notes).toMatchObject([{ code: 'rows-hidden', rows: [3] }]);
    expect(all.reading.skipHidden).toBe(false);
    const seen = lay(file, { skipHidden: true });
    expect(seen.sheet.rows.map(([name]) => name)).toEqual(['Mina', 'Noor']);
    expect(seen.sheet.notes[0]!.message).toBe('Row 3 is hidden in the sheet and left out.');
  });
  test('signs beyond U+FFFF that XML names by number', () => {
    const plainFile = unzipSync(
      sheetOf([cell('Name'), cell('Sign')], [cell('Mina'), cell('SMILE and DESERET')]),
    );
    const parts = Object.fromEntries(
      Object.entries(plainFile).map(([name, part]) => [
        name,
        name.endsWith('.xml')
          ? bytes(
              new TextDecoder().decode(part).replace('SMILE', '&#128512;').replace('DESERET', '&#x10400;'),
            )
          : part,
      ]),
    );
    expect(lay(zipSync(parts)).sheet.rows[0]![1]).toBe('😀 and 𐐀');
    expect(lay(bytes(xml2003('<Data ss:Type="String">&#128512; &#x10400;</Data>'))).sheet.rows[0]![1]).toBe(
      '😀 𐐀',
    );
  });
  const xml2003 = (data: string, style = ''): string =>
    `<?xml version="1.0"?><Workbook xmlns="urn:schemas-microsoft-com:office:spreadsheet" xmlns:ss="urn:schemas-microsoft-com:office:spreadsheet">
<Styles><Style ss:ID="t"><NumberFormat ss:Format="${style || 'h:mm'}"/></Style></Styles>
<Worksheet ss:Name="S"><Table><Row><Cell><Data ss:Type="String">Name</Data></Cell><Cell><Data ss:Type="String">Value</Data></Cell></Row>
<Row><Cell><Data ss:Type="String">Mina</Data></Cell><Cell${style ? ' ss:StyleID="t"' : ''}>${data}</Cell></Row></Table></Worksheet></Workbook>`;
  test.each([
    ['1899-12-31T09:30:00.000', '9:30', 'u:PT9H30M'],
    ['1899-12-31T26:05:00.000', '26:05', 'u:PT26H5M'],
  ])('times of 2003 XML: %s is %s', (written, text, exact) => {
    const { rows, exact: known } = lay(
      bytes(xml2003(`<Data ss:Type="DateTime">${written}</Data>`, '[h]:mm')),
    ).sheet;
    expect([rows[0]![1], known[0]![1]]).toEqual([text, exact]);
  });
  test('ODS values without a text of theirs', () => {
    const odsCell = (attributes: string): string => `<table:table-cell ${attributes}/>`;
    const text = (value: string): string =>
      `<table:table-cell office:value-type="string"><text:p>${value}</text:p></table:table-cell>`;
    const content = `<?xml version="1.0"?><office:document-content xmlns:office="urn:oasis:names:tc:opendocument:xmlns:office:1.0" xmlns:table="urn:oasis:names:tc:opendocument:xmlns:table:1.0" xmlns:text="urn:oasis:names:tc:opendocument:xmlns:text:1.0"><office:body><office:spreadsheet><table:table table:name="S"><table:table-row>${['Name', 'Share', 'Time', 'Mark', 'Made'].map(text).join('')}</table:table-row><table:table-row>${text('Mina')}${odsCell('office:value-type="percentage" office:value="0.456"')}${odsCell('office:value-type="time" office:time-value="PT09H05M00S"')}${odsCell('office:value-type="float" office:value="1.234"')}${odsCell('table:formula="of:=[.D2]*2"')}</table:table-row><table:table-row table:visibility="filter">${text('Zoë')}</table:table-row></table:table></office:spreadsheet></office:body></office:document-content>`;
    const { sheet } = lay(
      zipSync({
        mimetype: bytes('application/vnd.oasis.opendocument.spreadsheet'),
        'content.xml': bytes(content),
      }),
    );
    expect(sheet.rows[0]).toEqual(['Mina', '45.6%', '09:05', '1.234', '']);
    expect(sheet.exact[0]).toEqual({ 1: 'p:45.6', 2: 'u:PT9H5M', 3: 'n:1.234' });
    expect(sheet.notes.map(({ code }) => code)).toEqual(['rows-hidden', 'formulas-unworked']);
  });
  test('errors of newer spreadsheets are errors', () => {
    const parts = unzipSync(
      sheetOf([cell('Name'), cell('Mark')], [cell('Mina'), cell(4711)], [cell('Zoë'), cell(7)]),
    );
    const name = Object.keys(parts).find((one) => /sheet1\.xml$/.test(one))!;
    const text = new TextDecoder().decode(parts[name]);
    const spilled = text.replace(/<c r="B2"[^>]*>.*?<\/c>/, '<c r="B2" t="e"><v>#SPILL!</v></c>');
    expect(spilled).not.toBe(text);
    const { sheet } = lay(zipSync({ ...parts, [name]: bytes(spilled) }));
    expect(sheet.rows[0]![1]).toBe('');
    // The reader's nearest: a value that cannot be.
    expect(sheet.exact[0]).toEqual({ 1: 'e:#VALUE!' });
    expect(sheet.notes.map(({ code }) => code)).toEqual(['cell-error']);
  });
  test('columns at the left that hold nothing are none', () => {
    const { sheet } = lay(
      sheetOf(
        [cell(''), cell(''), cell('Name'), cell('Mark')],
        [cell(''), cell(''), cell('Mina'), cell(7.5)],
      ),
    );
    expect(plain(sheet)).toMatchObject({
      titles: ['Name: text', 'Mark: number'],
      rows: [['Mina', '7.5']],
      exact: [{ 1: 'n:7.5' }],
    });
  });
});

describe('web pages under the names of workbooks (HTML Standard, 4.9)', () => {
  const page = (body: string, head = ''): Uint8Array =>
    bytes(`<html><head>${head}</head><body>${body}</body></html>`);
  test('cells without end tags, entities, line breaks, spans, tables in cells, text that nobody sees', () => {
    const { sheet } = lay(
      page(`<p>Report<table><tr><th>Name<th>Mark<th colspan=2>Notes
        <tr><td>Zo&euml; &amp; Mina<td>7&nbsp;<td>a<br>b<p>c</p><td><table><tr><td>in</td><td>ner</td></tr></table>
        <tr><td rowspan="2">Noor<td>8<td><script>alert(1)</script>x &#128512; &lt;b&gt;<td></tr>
        <tr><td>9</td><td>y</td></tr></table>`),
    );
    expect(sheet.columns.map(({ title }) => title)).toEqual(['Name', 'Mark', 'Notes', 'Notes (2)']);
    expect(sheet.rows).toEqual([
      ['Zoë & Mina', '7', 'a\nb\nc', 'inner'],
      ['Noor', '8', 'x 😀 <b>', ''],
      ['Noor', '9', 'y', ''],
    ]);
  });
  test('several tables are several sheets, those without text are none; hidden rows are told', () => {
    const file = page(
      '<table><tr><td></td></tr></table><table><tr><td>Name<td>Mark<tr><td>Mina<td>7</table><table><tr><td>Name<tr style="display:none"><td>Zoë<tr><td>Noor</table>',
    );
    expect(open(file).sheets.map(({ name, rows }) => [name, rows])).toEqual([
      ['Table 1', 2],
      ['Table 2', 3],
    ]);
    expect(lay(file, { sheet: 'Table 2' }).sheet.notes.map(({ code }) => code)).toContain('rows-hidden');
  });
  test('the encoding that the page names', () => {
    const body = new Uint8Array([
      ...page('', '<meta charset="iso-8859-2">'),
      ...bytes('<table><tr><td>Name<tr><td>'),
      0xb3,
      ...bytes('ukasz</table>'),
    ]);
    expect(lay(body).sheet.rows[0]![0]).toBe('łukasz');
  });
});

describe('XLSB', () => {
  // [MS-XLSB] 2.4.306 and 2.4.768: cells of one row may leave their column out; it is the one behind the cell before.
  test('a blank cell without a number of its own moves nobody’s mark', () => {
    const book = utils.book_new();
    const rows = [
      ['Name', 'Class', 'Mark'],
      ['Amara', '8A', 12.5],
      ['Zoë', '8B', 7],
    ];
    utils.book_append_sheet(book, utils.aoa_to_sheet(rows), 'Marks');
    const parts = unzipSync(new Uint8Array(write(book, { type: 'buffer', bookType: 'xlsb' }) as Buffer));
    const name = Object.keys(parts).find((one) => one.includes('sheet1.bin'))!;
    const short = (part: Uint8Array): Uint8Array => {
      const made: number[] = [];
      let row = -1;
      let cells = 0;
      for (let at = 0; at < part.length;) {
        const from = at;
        const id = part[at]! < 0x80 ? part[at++]! : part[at++]! + (part[at++]! << 8);
        let length = 0;
        for (let n = 0; ; n++) {
          length |= (part[at]! & 0x7f) << (7 * n);
          if (part[at++]! < 0x80) break;
        }
        const body = part.subarray(at, at + length);
        at += length;
        if (id === 0) [row, cells] = [body[0]!, 0];
        const isCell = (id >= 2 && id <= 7) || (id >= 0x0d && id <= 0x12);
        if (row === 1 && isCell && ++cells > 1) {
          // The second is blank, the third a number: both without their columns.
          if (cells === 2) made.push(0x0c, 4, 0, 0, 0, 0);
          else if (id === 5 || id === 2)
            made.push(id === 5 ? 0x10 : 0x0d, body.length - 4, ...body.subarray(4));
          else made.push(...part.subarray(from, at));
        } else made.push(...part.subarray(from, at));
      }
      return Uint8Array.from(made);
    };
    const { sheet } = lay(zipSync({ ...parts, [name]: short(parts[name]!) }));
    expect(sheet.rows).toEqual([
      ['Amara', '', '12.5'],
      ['Zoë', '8B', '7'],
    ]);
  });
});

describe('rows that are no learners', () => {
  const table = (lines: string[], reading: Reading = {}): Sheet =>
    lay(bytes(lines.join('\n')), reading).sheet;
  const people = ['Name,Class,Mark', 'Mina,8A,7', 'Zoë,8B,8'];
  test.each([
    'Class average,,7.5',
    'Std dev,,0.5',
    'Durchschnitt,,7.5',
    'Mean (all),,7.5',
    'Total,two,15',
    'Total: 2',
    'Total,2 learners',
    '2 participants',
    '150 Teilnehmer',
    'Exported on 3 May 2026',
    'Page 1 of 3',
  ])('“%s” under the table is none', (line) => {
    expect(table([...people, line]).rows.map(([name]) => name)).toEqual(['Mina', 'Zoë']);
    expect(table([...people, '', line]).notes).toMatchObject([{ code: 'row-total' }]);
    expect(table([...people, line], { keepTotals: true }).rows).toHaveLength(3);
  });
  test('what the marks are out of, above all others', () =>
    expect(table(['Name,Class,Mark', 'Out of,,20', 'Mina,8A,7']).rows).toEqual([['Mina', '8A', '7']]));
  test.each([
    'Max,8A,7',
    'Max,8 A,7',
    'Sumaya,8A,7',
    'Mean,Green,x',
    'Noor',
    'Total Eclipse,8A,9',
    'Summer,8B,3',
  ])('“%s” is a learner', (line) => expect(table([...people.slice(0, 2), line]).rows).toHaveLength(2));
  test('nor under a table of two columns', () =>
    expect(table(['Name,Email', 'Mina,m@families.example', '1 participant,']).rows).toHaveLength(1));
  test('headings above a table of two columns', () => {
    const { columns, rows } = table([
      'Year 8 list',
      'made by the office',
      '',
      'Name,Email',
      'Mina,m@families.example',
    ]);
    expect(columns.map(({ title }) => title)).toEqual(['Name', 'Email']);
    expect(rows).toHaveLength(1);
  });
});

describe('workbooks that are written', () => {
  // ECMA-376 Part 1, 18.2.19; that “History” is kept for a program's own sheet is common practice, no published source.
  test.each([
    ['Year 8: spring/summer', 'Year 8  spring summer'],
    ['History', 'History roll'],
    ['history', 'history roll'],
    ["'quoted'", 'quoted'],
    ["It's fine", "It's fine"],
    ['???', 'Roll'],
    ['', 'Roll'],
    [`${'a'.repeat(30)}💡`, 'a'.repeat(30)],
    ['\u0007bell', 'bell'],
  ])('the title “%s” is the sheet “%s”', (title, expected) => {
    expect(sheetName(title)).toBe(expected);
    for (const kind of ['xlsx', 'ods'] as const)
      expect(open(writeSheet(kind, title, ['Name'], [[{ text: 'Mina' }]])).sheets[0]!.name).toBe(expected);
  });
  test.each(['xlsx', 'ods'] as const)('a line break within a cell comes back from %s as one', (kind) => {
    const file = writeSheet(kind, 'S', ['Name', 'Text'], [[{ text: 'Mina' }, { text: 'a\r\nb\rc\nd' }]]);
    expect(lay(file).sheet.rows[0]![1]).toBe('a\nb\nc\nd');
  });
});

describe('which sheet, and whether people had better look', () => {
  const bookOf = (...sheets: [string, unknown[][], boolean?][]): Uint8Array => {
    const book = utils.book_new();
    for (const [name, rows] of sheets) utils.book_append_sheet(book, utils.aoa_to_sheet(rows), name);
    book.Workbook = { Sheets: sheets.map(([, , hidden]) => ({ Hidden: hidden ? 1 : 0 })) };
    return new Uint8Array(write(book, { type: 'array', bookType: 'xlsx' }) as ArrayBuffer);
  };
  const people = [
    ['Name', 'Class', 'Email'],
    ['Mina', '8A', 'm@families.example'],
    ['Zoë', '8B', 'z@families.example'],
  ];
  const words = [
    ['How to use this workbook'],
    ['Fill in the second sheet.'],
    ['Then send it to the office.'],
    ['Thank you.'],
  ];
  test.each<[string, [string, unknown[][], boolean?][], string, string[]]>([
    [
      'a read-me stands before the people',
      [
        ['Read me', words],
        ['8A', people],
      ],
      '8A',
      ['sheets'],
    ],
    [
      'a list of words with two columns',
      [
        [
          'Lookup',
          [
            ['Code', 'Means'],
            ['A', 'absent'],
          ],
        ],
        ['Pupils', people],
      ],
      'Pupils',
      ['sheets'],
    ],
    [
      'a hidden sheet with more',
      [
        ['All', [...people, ['Noor', '8C', 'n@families.example']], true],
        ['8A', people],
      ],
      '8A',
      [],
    ],
    [
      'two classes',
      [
        ['8A', people],
        ['8B', people],
      ],
      '8A',
      ['sheets'],
    ],
    ['one sheet', [['Sheet1', people]], 'Sheet1', []],
  ])('%s', (_, sheets, expected, doubts) => {
    const { reading, doubts: told } = lay(bookOf(...sheets));
    expect([reading.sheet, told]).toEqual([expected, doubts]);
    expect(lay(bookOf(...sheets), { sheet: expected }).doubts).toEqual([]);
  });
  test.each([
    ['Name,Mark\nMina,7', []],
    ['Names\nMina\nZoë', ['titles']],
    ['Name,,Mark\nMina,x,7', ['titles']],
    ['Mina,7\nZoë,8', ['titles']],
    ['Name,Mark,Mark\nMina,7,8', ['titles']],
  ])('the titles of %j', (text, doubts) => {
    expect(lay(bytes(text)).doubts).toEqual(doubts);
    expect(lay(bytes(text), { header: { row: 1, count: 1 } }).doubts).toEqual([]);
  });
});
