import { readingLike } from '../sources/index.js';
import type { Reading } from '../table/index.js';
import { openSheetFile } from './index.js';

const TITLES = ['Name', 'Class', 'Mark'];
const open = (lines: string[]) => {
  const opened = openSheetFile(new TextEncoder().encode(lines.join('\n')));
  if (!opened.ok) throw new Error(opened.problem.message);
  return opened.value;
};

test.each<[string, Reading, string[], Reading]>([
  [
    'the titles where they stood',
    { header: { row: 1, count: 1 } },
    ['Name,Class,Mark', 'A,8A,1'],
    { header: { row: 1, count: 1 } },
  ],
  [
    'lines above the titles that were not there before',
    { header: { row: 1, count: 1 } },
    ['Year 8', 'printed on Monday', '', 'name,CLASS,Mark', 'A,8A,1'],
    { header: { row: 4, count: 1 } },
  ],
  [
    'titles of which some are others now, and what was chosen about totals',
    { header: { row: 2, count: 1 }, keepTotals: true, skipHidden: false },
    ['Spring', 'Name,Class,Points', 'A,8A,1'],
    { header: { row: 2, count: 1 }, keepTotals: true, skipHidden: false },
  ],
  [
    'no titles, where it had none',
    { encoding: 'utf-8', delimiter: ',', header: { row: 1, count: 0 } },
    ['Ilse,8A,1', 'Sam,8B,2'],
    { header: { row: 1, count: 0 } },
  ],
  ['nothing, where the titles are gone', { header: { row: 3, count: 1 } }, ['a,b,c', 'd,e,f'], {}],
])('a newer version is read by %s', (_, before, lines, like) => {
  expect(readingLike(open(lines), before, TITLES)).toEqual(like);
});

test('two rows of titles are found where they stand now', () => {
  const file = open(['Term report', ',,Spring,', 'Name,Class,Essay,Test', 'A,8A,1,2']);
  expect(
    readingLike(file, { header: { row: 1, count: 2 } }, ['Name', 'Class', 'Spring – Essay', 'Test']),
  ).toEqual({ header: { row: 2, count: 2 } });
});

test('of a workbook the sheet of the same name, or the one with the titles, is read', () => {
  const sheets: Record<string, string[]> = {
    'Read me': ['Fill in the marks', 'and send it back'],
    'Marks May': ['Name,Class,Mark', 'A,8A,1'],
  };
  const file = {
    sheets: Object.keys(sheets).map((name) => ({ name, hidden: false })),
    grid: ({ sheet }: Reading) => open(sheets[sheet ?? 'Read me']!).grid({}),
  };
  const header = { row: 1, count: 1 };
  expect(readingLike(file, { sheet: 'Marks April', header }, TITLES)).toEqual({ sheet: 'Marks May', header });
  // What was chosen by name stays, even without titles.
  expect(readingLike(file, { sheet: 'Read me', header }, TITLES)).toEqual({ sheet: 'Read me' });
});

test('letters that a newer text file does not explain are read as those of the file before', () => {
  const lines = (name: number[]): Uint8Array =>
    Uint8Array.from([
      ...new TextEncoder().encode('Name,Class,Mark\n'),
      ...name,
      ...new TextEncoder().encode(',8A,1\n'),
    ]);
  const read = (bytes: Uint8Array): string | undefined => {
    const opened = openSheetFile(bytes);
    if (!opened.ok) throw new Error(opened.problem.message);
    const header = { row: 1, count: 1 };
    const like = readingLike(opened.value, { encoding: 'windows-1250', header }, TITLES);
    expect(like.header).toEqual(header);
    const grid = opened.value.grid(like);
    return grid.ok ? grid.value.rows[1]?.[0] : undefined;
  };
  // The bytes of the name in Windows-1250 (unicode.org, MAPPINGS/VENDORS/MICSFT/WINDOWS/CP1250.TXT), and in UTF-8.
  expect(read(lines([0xa3, 0xf3, 0x64, 0x9f]))).toBe('Łódź');
  expect(read(lines([...new TextEncoder().encode('Łódź')]))).toBe('Łódź');
});
