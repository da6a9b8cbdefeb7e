import { type AttendanceColumn, PLAIN_CODES, PLAIN_ROUNDING, type Column } from '../column/index.js';
import type { Entry } from '../roll/index.js';
import { attendanceWeeks } from './index.js';

const register = (from: AttendanceColumn['from']): AttendanceColumn => ({
  kind: 'attendance',
  from,
  codes: PLAIN_CODES,
  lateIsPresent: true,
  give: 'rate',
  rounding: PLAIN_ROUNDING,
});

function weeksOf(titles: readonly string[], codes: readonly string[], language = 'en-GB'): unknown {
  const columns = titles.map((title, n): Column => ({ id: `s${n}`, title }));
  const entry: Entry = {
    id: 'e',
    position: 0,
    values: Object.fromEntries(codes.map((code, n) => [`s${n}`, code])),
  };
  const columnIds = columns.map(({ id }) => id);
  return attendanceWeeks(register({ kind: 'sessions', columnIds }), entry, columns, language);
}

// 12 January 2026 is a Monday; ISO 8601 lets weeks begin on Mondays, so Sunday the 18th belongs to it.
test.each([
  ['ISO days', ['2026-01-12', '2026-01-16', '2026-01-18', '2026-01-19']],
  ['days with a half of the day', ['12/01/2026 AM', '16/01/2026 PM', '18/01/2026 AM', '19/01/2026 PM']],
  [
    'days in words',
    ['Mon 12 January 2026', 'Fri 16 January 2026', 'Sun 18 January 2026', '19 Jan 2026 (am)'],
  ],
  ['days within words', ['Reg 2026-01-12 p1', 'Reg 2026-01-16 p1', 'Reg 2026-01-18 p2', 'Reg 2026-01-19']],
])('%s', (_, titles) =>
  expect(weeksOf(titles, ['/', 'L', 'ill', 'o'])).toEqual([
    { title: '12 Jan', present: 1, late: 1, away: 1 },
    { title: '19 Jan', present: 0, late: 0, away: 1 },
  ]),
);

test('weeks that the sheet counts itself are in their order, and need a number', () =>
  expect(weeksOf(['Week 10 Mon', 'Week 2 Mon', 'Week 2 Tue', 'Trip'], ['/', 'L', '#', 'o'])).toEqual([
    { title: '2', present: 0, late: 1, away: 0 },
    { title: '10', present: 1, late: 0, away: 0 },
  ]));

test('the language of the paper says the months; over the end of a year', () =>
  expect(weeksOf(['2026-03-02', '2025-12-31', '2026-01-02'], ['/', '/', 'l'], 'de')).toEqual([
    { title: '29. Dez.', present: 1, late: 1, away: 0 },
    { title: '2. März', present: 1, late: 0, away: 0 },
  ]));

test('a joined register has the day in its rows', () => {
  const rows = [
    ['P. 1', '2026-01-13', '/'],
    ['P. 1', '2026-01-12', 'late'],
    ['P. 1', '2026-01-20', ''],
    ['P. 1', '2026-01-21', 'u'],
    ['P. 1', 'unknown', '/'],
  ];
  const entry: Entry = { id: 'e', position: 0, values: {}, tables: { s: rows } };
  expect(attendanceWeeks(register({ kind: 'table', sourceId: 's', at: 2 }), entry, [], 'en-GB')).toEqual([
    { title: '12 Jan', present: 1, late: 1, away: 0 },
    { title: '19 Jan', present: 0, late: 0, away: 1 },
  ]);
});

test('totals, and sessions of which nothing says when they were, have no weeks', () => {
  const entry: Entry = { id: 'e', position: 0, values: { a: '/' } };
  expect(attendanceWeeks(register({ kind: 'totals', presentHasLate: false }), entry, [], 'en')).toEqual([]);
  expect(weeksOf(['Session one', 'Session two'], ['/', '/'])).toEqual([]);
});
