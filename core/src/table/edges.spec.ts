import { isFooter, looksLikeData } from './header.js';
import { decodeText, guessHeader, guessType, layOut, readCsv, SHEET_LIMITS, type Grid } from './index.js';

let count = 0;
const newId = (): string => `id${++count}`;
const bytes = (text: string): Uint8Array => new TextEncoder().encode(text);
const read = (text: string) => {
  const sheet = readCsv(bytes(text), newId);
  if (!sheet.ok) throw new Error(sheet.problem.message);
  return sheet.value;
};
const gridOf = (rows: string[][], more: Partial<Grid> = {}): Grid => ({
  name: '',
  hidden: false,
  rows,
  exact: rows.map(() => undefined),
  merges: [],
  notes: [],
  ...more,
});

describe('titles', () => {
  test('columns without one, or with the same one, are told apart and said', () => {
    const { columns, notes } = read('Name,,Name\nA,b,c');
    expect(columns.map(({ title }) => title)).toEqual(['Name', 'Column 2', 'Name (2)']);
    expect(notes.map(({ message }) => message)).toEqual([
      'More than one column is called “Name”. The later ones got a number so that you can tell them apart.',
      'One column has no title. Scriptum calls it “Column 2”.',
    ]);
    expect(read(',Name,,Mark\nA,b,c,d').notes[0]?.message).toBe(
      '2 columns have no title. Scriptum calls them “Column 1” and “Column 3”.',
    );
    // A title that has the number already stays with its column.
    expect(read('A,A,A (2)\n1,2,3').columns.map(({ title }) => title)).toEqual(['A', 'A (3)', 'A (2)']);
  });
  test.each([
    ['one column alone', [['Name'], ['Ada'], ['Bo']], { row: 1, count: 1 }],
    [
      'two columns',
      [
        ['Name', 'Mark'],
        ['Ada', '1'],
        ['Bo', '2'],
      ],
      { row: 1, count: 1 },
    ],
    [
      'a heading above two columns',
      [['Class 8A'], ['Name', 'Mark'], ['Ada', '1'], ['Bo', '2']],
      { row: 2, count: 1 },
    ],
    [
      'a heading above three',
      [['Class 8A'], [], ['Name', 'Mark', 'Day'], ['Ada', '1', '2026-03-04'], ['Bo', '2', '2026-03-05']],
      { row: 3, count: 1 },
    ],
  ])('%s', (_, rows, header) => expect(guessHeader(gridOf(rows))).toMatchObject(header));
});

describe('quotation marks (RFC 4180, 2)', () => {
  test('one that is never closed names its row', () => {
    expect(readCsv(bytes('Name,Why\nAda,x\nBo,"open\nCy,y'), newId)).toMatchObject({
      ok: false,
      problem: { code: 'quote-open', rows: [3] },
    });
  });
  test('doubled ones are one; line ends and commas inside belong to the cell', () => {
    expect(read('Name,Why\nAda,"a ""b"" c"\nBo,"x,\ny"\nCy,""\nDi,""""').rows).toEqual([
      ['Ada', 'a "b" c'],
      ['Bo', 'x,\ny'],
      ['Cy', ''],
      ['Di', '"'],
    ]);
  });
});

test.each([
  [[0x50, 0x4b, 0x03, 0x04], 'workbook'],
  [[0xd0, 0xcf, 0x11, 0xe0], 'old spreadsheet'],
  [[0x25, 0x50, 0x44, 0x46], 'PDF'],
  [[0x89, 0x50, 0x4e, 0x47], 'PNG'],
  [[0xff, 0xd8, 0xff], 'JPEG'],
  [[0x47, 0x49, 0x46, 0x38], 'GIF'],
  [[0x1f, 0x8b], 'compressed'],
  [[0x37, 0x7a, 0xbc, 0xaf], 'compressed'],
  [[0x7f, 0x45, 0x4c, 0x46], 'program'],
])('a file that begins with %j is no table: %s', (head, what) => {
  const file = new Uint8Array([...head, ...bytes(' and more of it\n')]);
  const result = readCsv(file, newId);
  expect(result.ok ? '' : result.problem.message).toContain(what);
});

test('limits: so many columns and rows, and not one more', () => {
  const columns = (n: number): string =>
    `${Array.from({ length: n }, (_, at) => `C${at}`).join(',')}\n${'x,'.repeat(n - 1)}x`;
  expect(readCsv(bytes(columns(SHEET_LIMITS.columns)), newId).ok).toBe(true);
  expect(readCsv(bytes(columns(SHEET_LIMITS.columns + 1)), newId)).toMatchObject({
    ok: false,
    problem: { code: 'too-many-columns' },
  });
  const rows = (n: number): string => `A,B\n${'x,y\n'.repeat(n)}`;
  expect(readCsv(bytes(rows(SHEET_LIMITS.rows)), newId).ok).toBe(true);
  expect(readCsv(bytes(rows(SHEET_LIMITS.rows + 1)), newId)).toMatchObject({
    ok: false,
    problem: { code: 'too-many-rows' },
  });
  const cell = (n: number): string => `A,B\n${'x'.repeat(n)},y`;
  expect(readCsv(bytes(cell(SHEET_LIMITS.cell)), newId).ok).toBe(true);
  expect(readCsv(bytes(cell(SHEET_LIMITS.cell + 1)), newId).ok).toBe(false);
});

describe('the type of a column at its edges', () => {
  const type = (...texts: string[]): string =>
    guessType(
      'X',
      texts.map((text) => ({ text })),
    ).type;
  test('yes and no need three cells', () => {
    expect([type('yes', 'no', 'yes'), type('yes', 'no')]).toEqual(['yes/no', 'text']);
  });
  test('half of the cells make a column of addresses', () => {
    expect([type('a@x.example', 'none'), type('a@x.example', 'none', 'nobody')]).toEqual(['email', 'text']);
  });
  test('a day with the year first leaves nothing open', () => {
    expect(guessType('X', [{ text: '2026-03-04' }, { text: '2026-05-06' }])).toEqual({ type: 'date' });
    expect(guessType('X', [{ text: '31/4/2026' }, { text: '1/5/2026' }]).type).toBe('text');
    expect(guessType('X', [{ text: '3/14/2026' }])).toEqual({ type: 'date', format: { dateOrder: 'mdy' } });
  });
});

describe('cells that are merged', () => {
  const laid = (rows: string[][], merge: { top: number; left: number; bottom: number; right: number }) => {
    const result = layOut(gridOf(rows, { merges: [merge] }), {}, newId);
    if (!result.ok) throw new Error(result.problem.message);
    return result.value.sheet;
  };
  test('each has the text of the first', () => {
    const sheet = laid(
      [
        ['Name', 'Class'],
        ['Ada', '8A'],
        ['Bo', ''],
        ['Cy', '8B'],
      ],
      { top: 1, left: 1, bottom: 2, right: 1 },
    );
    expect(sheet.rows).toEqual([
      ['Ada', '8A'],
      ['Bo', '8A'],
      ['Cy', '8B'],
    ]);
  });
  test('a large one is a frame and stays blank; one far down counts by its own size', () => {
    const many = Array.from({ length: 200 }, (_, n) => [`N${n}`, '']);
    const rows = [['Name', 'Class'], ...many, ['Ada', '8A'], ['Bo', ''], ['Cy', '8B']];
    const sheet = laid(rows, { top: 201, left: 1, bottom: 202, right: 1 });
    expect(sheet.rows.slice(-3).map((row) => row[1])).toEqual(['8A', '8A', '8B']);
    const frame = laid(
      [
        ['Name', 'Class'],
        ['Ada', 'x'],
        ['Bo', ''],
      ],
      { top: 1, left: 1, bottom: 20_001, right: 1 },
    );
    expect(frame.rows.map((row) => row[1])).toEqual(['x', '']);
  });
});

test('a title has a thousand letters at the most', () => {
  const title = (length: number): number =>
    read(`${'x'.repeat(length)},Name\n1,Ada\n2,Bo`).columns[0]!.title.length;
  expect([title(999), title(1000), title(1001)]).toEqual([999, 1000, 1000]);
});

test('two rows with one cell above a table of two columns', () => {
  const rows = [['Class 8A'], ['Spring'], ['Name', 'Mark'], ['Ada', '1'], ['Bo', '2']];
  expect(guessHeader(gridOf(rows))).toMatchObject({ row: 3, count: 1 });
  // Where what stands in both is no title, the first row is.
  expect(guessHeader(gridOf([['Name'], ['Ada'], ['3', '4'], ['5', '6']]))).toMatchObject({ row: 1 });
});

test('truth in a workbook makes a column of yes and no, whatever words stand there', () => {
  const cells = (exact: string | undefined) => ['WAHR', 'FALSCH'].map((text) => ({ text, exact }));
  expect(guessType('X', cells('b:true')).type).toBe('yes/no');
  expect(guessType('X', cells(undefined)).type).not.toBe('yes/no');
});

test('every sign of Windows-1252 between 80 and 9F, and CP850 (their tables)', () => {
  expect(decodeText(new Uint8Array([0x41, 0x80, 0x93, 0x94, 0x9f, 0xe9]), 'windows-1252')).toMatchObject({
    ok: true,
    value: { text: 'A€“”Ÿé' },
  });
  expect(decodeText(new Uint8Array([0x41, 0x80, 0x81, 0x8e, 0xe1, 0xff]), 'cp850')).toMatchObject({
    ok: true,
    value: { text: 'AÇüÄß\u00a0' },
  });
});

describe('what is said by one sign alone', () => {
  // The Unicode Standard, 23.8: the byte order mark, in its order and the other way round.
  test.each([
    [[0xff, 0xfe, 0x2d, 0x4e], 'utf-16le'],
    [[0xfe, 0xff, 0x4e, 0x2d], 'utf-16be'],
  ])('a byte order mark before a single letter: %j', (given, encoding) => {
    const decoded = decodeText(Uint8Array.from(given));
    expect(decoded).toMatchObject({ ok: true, value: { encoding } });
    expect(decoded.ok && decoded.value.text.replace('\ufeff', '')).toBe('中');
  });
  test('a cell without a sign is no data, and a line with two of them is no footer', () => {
    expect([looksLikeData(''), looksLikeData(' '), looksLikeData('7')]).toEqual([false, false, true]);
    expect(isFooter(['', 'Total: 150'])).toBe(true);
    expect(isFooter(['Total: 150', 'x'])).toBe(false);
    expect(isFooter([])).toBe(false);
  });
  test('the only row stays, though it reads like a footer', () => {
    const { rows, notes } = read('Name,Note\n150 participants,');
    expect(rows).toEqual([['150 participants', '']]);
    expect(notes).toEqual([]);
  });
  test('the only cell with a decimal comma says how numbers are written', () => {
    const sheet = layOut(
      gridOf([
        ['Name', 'Mark'],
        ['Ada', '7,5'],
      ]),
      {},
      newId,
    );
    expect(sheet).toMatchObject({ ok: true, value: { reading: { decimal: ',' } } });
  });
  test('letters are in doubt where how they are written was guessed, and not for another reason', () => {
    const doubts = (code: string): readonly string[] => {
      const grid = gridOf(
        [
          ['Name', 'Mark'],
          ['Ada', '7'],
        ],
        { notes: [{ code, message: code }] },
      );
      const laidOut = layOut(grid, {}, newId);
      return laidOut.ok ? laidOut.value.doubts : ['refused'];
    };
    expect([doubts('encoding-guessed'), doubts('letters-lost'), doubts('quote-stray')]).toEqual([
      ['letters'],
      ['letters'],
      [],
    ]);
  });
  test('spaces around quoted cells, one and many, before the last cell too', () => {
    const { rows } = read('A, B, C\n"1" , "2"   , "3"\n "4","5" ,6');
    expect(rows).toEqual([
      ['1', '2', '3'],
      ['4', '5', '6'],
    ]);
  });
  test('merged cells further down the sheet are spread too', () => {
    const rows = [
      ['Name', 'House'],
      ...Array.from({ length: 40 }, (_, n) => [`L${n}`, n === 30 ? 'Otter' : '']),
    ];
    const laidOut = layOut(gridOf(rows, { merges: [{ top: 31, left: 1, bottom: 35, right: 1 }] }), {}, newId);
    const houses = laidOut.ok ? laidOut.value.sheet.rows.map(([, house]) => house) : [];
    expect(houses.slice(29, 37)).toEqual(['', 'Otter', 'Otter', 'Otter', 'Otter', 'Otter', '', '']);
  });
});
