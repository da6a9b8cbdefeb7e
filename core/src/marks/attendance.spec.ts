import type { Roll } from '../roll/index.js';
import { type Column, PLAIN_CODES, Worked } from '../column/index.js';
import { attendanceFromTotals, beginWorked, Marks, ratio, type Attendance } from './index.js';

// Worked by hand. Common practice; no published source.
const totals = (
  [present, late, excused, unexcused, possible]: readonly (number | null)[],
  presentHasLate = false,
): Attendance | null => {
  const of = (n: number | null | undefined) => (n === null || n === undefined ? null : ratio(String(n)));
  return attendanceFromTotals(
    {
      present: of(present),
      late: of(late),
      excused: of(excused),
      unexcused: of(unexcused),
      possible: of(possible),
    },
    presentHasLate,
    true,
  );
};
const rate = (attendance: Attendance | null): number | null | undefined =>
  attendance?.rate && attendance.rate.valueOf();

describe('totals', () => {
  test.each([
    // present, late, excused, unexcused, all sessions: the rate, and what is wrong
    [[170, 10, 5, 5, 190], (180 / 190) * 100, null],
    [[170, 10, 5, 5, null], (180 / 190) * 100, null],
    [[null, 10, 5, 5, 190], (180 / 190) * 100, null],
    [[null, null, 5, 5, 190], (180 / 190) * 100, null],
    // Absences alone say nothing of the whole.
    [[null, null, 5, 5, null], null, null],
    [[null, 3, 5, null, null], null, null],
    // More than there was.
    [[null, null, 120, 80, 190], null, 'over'],
    [[200, null, null, null, 190], null, 'over'],
    [[-1, null, null, null, 190], null, 'over'],
    // Present and late are one too many exactly where the late are among the present.
    [[180, 10, 5, 5, 190], (190 / 190) * 100, 'unlike'],
    [[0, 0, 0, 0, 0], null, null],
  ] as const)('%j', (given, expected, trouble) => {
    const attendance = totals(given);
    expect(rate(attendance) ?? null).toEqual(expected === null ? null : expect.closeTo(expected));
    expect(attendance!.trouble).toBe(trouble);
  });
  test('nothing counted is nothing', () => expect(totals([null, null, null, null, 190])).toBeNull());
  test('the late among the present are counted once: 180 with 10 late of 190', () => {
    const attendance = totals([180, 10, 5, 5, 190], true)!;
    expect(attendance.present!.valueOf()).toBe(170);
    expect(rate(attendance)).toBeCloseTo((180 / 190) * 100);
    expect(attendance.trouble).toBeNull();
  });
});

const roll = (titles: string[], rows: (string | number)[][], columns: Column[] = []): Roll => ({
  columns: [
    ...titles.map((title, n): Column => ({
      id: `c${n}`,
      title,
      ...(n > 0 ? { type: 'number' as const } : {}),
    })),
    ...columns,
  ],
  entries: rows.map((row, n) => ({
    id: `e${n}`,
    position: n,
    values: Object.fromEntries(row.map((cell, c) => [`c${c}`, String(cell)])),
  })),
});
let ids = 0;
const begun = (base: Roll): Column => beginWorked('attendance', base, null, () => `n${++ids}`);

test('whether the late are among the present is told from the sheet', () => {
  const titles = ['Name', 'Present', 'Late', 'Excused', 'Unexcused', 'Sessions'];
  const within = roll(titles, [
    ['Amara', 180, 10, 5, 5, 190],
    ['Zoë', 190, 0, 0, 0, 190],
  ]);
  const beside = roll(titles, [['Amara', 170, 10, 5, 5, 190]]);
  expect(begun(within).worked).toMatchObject({ from: { kind: 'totals', presentHasLate: true } });
  expect(begun(beside).worked).toMatchObject({ from: { kind: 'totals', presentHasLate: false } });
});

test('findings: more than there was, parts that do not add up, absences alone', () => {
  const codes = (base: Roll): string[] => {
    const marks = new Marks({ ...base, columns: [...base.columns, begun(base)] }, [], '2026-11-25');
    return marks.notices().map(({ code }) => code);
  };
  expect(codes(roll(['Name', 'Excused', 'Unexcused'], [['Amara', 3, 2]]))).toEqual(['attendance-unsaid']);
  expect(codes(roll(['Name', 'Unexcused', 'Sessions'], [['Amara', 200, 190]]))).toEqual(['attendance-over']);
  expect(
    codes(
      roll(
        ['Name', 'Present', 'Late', 'Sessions'],
        [
          ['Amara', 186, 10, 190],
          ['Zoë', 180, 10, 190],
        ],
      ),
    ),
  ).toEqual(['attendance-unlike']);
});

test('worked and untyped columns are read as any, and an error stays one', () => {
  const attendance = (from: object): Column => ({
    id: 'att',
    title: 'Attendance',
    worked: Worked.parse({
      kind: 'attendance',
      from,
      codes: PLAIN_CODES,
      lateIsPresent: true,
      give: 'rate',
      rounding: { places: 1, mode: 'half up' },
    }),
  });
  const formula = (id: string, text: string): Column => ({
    id,
    title: id,
    worked: Worked.parse({ kind: 'expression', formula: [{ text }], rounding: null }),
  });
  const cellOf = (columns: Column[]): unknown =>
    new Marks(roll(['Name', 'A'], [['Amara', '']], columns), [], '2026-11-25').cell('att', 0);
  expect(
    cellOf([
      formula('code', '"/"'),
      formula('away', '"U"'),
      attendance({ kind: 'sessions', columnIds: ['code', 'away'] }),
    ]),
  ).toMatchObject({ shown: '50.0' });
  expect(
    cellOf([
      formula('of', '"200"'),
      formula('out', '20'),
      attendance({ kind: 'totals', unexcused: 'out', possible: 'of' }),
    ]),
  ).toMatchObject({ shown: '90.0' });
  expect(
    cellOf([formula('of', '1 / 0'), attendance({ kind: 'totals', present: 'of', possible: 'c1' })]),
  ).toMatchObject({ kind: 'error', code: '#DIV/0!' });
});
