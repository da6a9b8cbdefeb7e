import { fromCellsText, toCellsText } from './cells-text';
import { columnsInSight, columnWidths, ROW, rowsInSight } from './geometry';
import { boxOf, moved } from './range';

test('cells go to the clipboard and come back, line ends and quotation marks too', () => {
  const cells = [
    ['a', 'b\nc', ''],
    ['"d"', 'e\tf', ' g '],
  ];
  expect(fromCellsText(toCellsText(cells))).toEqual(cells);
  expect(fromCellsText('1\t2\r\n3\t4\r\n')).toEqual([
    ['1', '2'],
    ['3', '4'],
  ]);
});

test('a range is the same whichever corner it began at, and moving stays inside the table', () => {
  const [a, b] = [
    { row: 5, column: 1 },
    { row: 2, column: 3 },
  ];
  expect(boxOf({ from: a, to: b })).toEqual(boxOf({ from: b, to: a }));
  expect(moved(a, 1e9, -1e9, { rows: 10, columns: 4 })).toEqual({ row: 9, column: 0 });
});

test('only rows and columns in sight are drawn, with a few to spare', () => {
  const [first, last] = rowsInSight(1000 * ROW, 20 * ROW, 10_000);
  expect(first).toBeGreaterThan(980);
  expect(last).toBeLessThan(1040);
  expect(rowsInSight(0, 600, 3)).toEqual([0, 3]);
  // As many at the top, in the middle and at the end.
  const counts = [0, 7, 400, 9_980, 10_000].map((row) => {
    const [from, to] = rowsInSight(row * ROW + 3, 20 * ROW, 10_000);
    return to - from;
  });
  expect(new Set(counts).size).toBe(1);
  expect(rowsInSight(9_990 * ROW, 20 * ROW, 10_000)[1]).toBe(10_000);
  const widths = Array.from({ length: 60 }, () => 100);
  const sight = columnsInSight(3000, 800, widths);
  expect(sight.last - sight.first).toBeLessThan(20);
  expect(sight.before + (sight.last - sight.first) * 100 + sight.after).toBe(6000);
});

test('a column is as wide as what is in it, within reason', () => {
  const column = (id: string, title: string) => ({ id, title });
  const entry = { id: 'e', position: 0, values: { a: 'x'.repeat(500), b: '8A' } };
  const [long, short] = columnWidths([column('a', 'Essay'), column('b', 'C')], [entry]);
  expect(long).toBe(300);
  expect(short).toBeLessThan(100);
});
