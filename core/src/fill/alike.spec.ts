import type { Column, ColumnType } from '../column/index.js';
import type { Roll } from '../roll/index.js';
import { cohortOf, fillFields } from './index.js';

const rollOf = (type: ColumnType, cells: readonly string[], more: Partial<Column> = {}): Roll => ({
  columns: [{ id: 'c', title: 'C', type, ...more }],
  entries: cells.map((c, n) => ({ id: `e${n}`, position: n, values: { c } })),
});
const printed = (roll: Roll, language = 'en-GB'): string[] =>
  roll.entries.map(
    (entry) =>
      fillFields([{ id: 'f', name: 'C', columnId: 'c' }], entry, {
        columns: roll.columns,
        language,
        day: '',
        cohort: cohortOf(roll),
      })['f']!.text,
  );

// Unicode CLDR, long dates; the decimal signs and the grouping of numbers.
test.each<[ColumnType, string[], string, string[]]>([
  ['date', ['2026-03-04', '4 March 2026', ''], 'en-GB', ['4 March 2026', '4 March 2026', '']],
  ['date', ['2026-03-04', '4 March 2026'], 'de', ['4. März 2026', '4. März 2026']],
  // One form, whatever the day: as they stand.
  ['date', ['2026-03-04', '2026-12-24'], 'en-GB', ['2026-03-04', '2026-12-24']],
  ['date', ['4 March 2026', '14 May 2026'], 'en-GB', ['4 March 2026', '14 May 2026']],
  ['number', ['12.50', '7.5', '8'], 'en-GB', ['12.50', '7.50', '8.00']],
  ['number', ['12.5', '7.25', '8'], 'en-GB', ['12.5', '7.25', '8']],
  ['number', ['1,200', '1500', '80'], 'en-GB', ['1,200', '1,500', '80']],
  ['number', ['1200', '1500'], 'en-GB', ['1200', '1500']],
  ['number', ['+3', '2', '-1'], 'en-GB', ['+3', '+2', '-1']],
  ['number', ['+3', '-1'], 'en-GB', ['+3', '-1']],
  ['percentage', ['45%', '50 %'], 'en-GB', ['45%', '50%']],
  ['percentage', ['45%', '50%'], 'en-GB', ['45%', '50%']],
  ['number', ['12.50', 'absent', '8'], 'en-GB', ['12.50', 'absent', '8.00']],
  ['text', ['12.50', '8'], 'en-GB', ['12.50', '8']],
  // Another language's decimal sign, and its months.
  ['number', ['12.5', '7.25', '8'], 'pl', ['12,5', '7,25', '8']],
  ['number', ['55.0', '71.5'], 'de', ['55,0', '71,5']],
  ['number', ['12', '8'], 'de', ['12', '8']],
  ['number', ['12.5', '8'], 'fa', ['۱۲٫۵', '۸']],
  ['date', ['4 March 2026', '5 May 2026'], 'pl', ['4 marca 2026', '5 maja 2026']],
  ['date', ['4. März 2026', '5. Mai 2026'], 'de', ['4. März 2026', '5. Mai 2026']],
  ['date', ['2026-03-04', '2026-05-05'], 'pl', ['2026-03-04', '2026-05-05']],
  ['date', ['Wed, 4 March 2026', 'Tue, 5 May 2026'], 'en-GB', ['Wed, 4 March 2026', 'Tue, 5 May 2026']],
  ['date-time', ['2026-03-04T09:30', '2026-05-05T10:00'], 'en-GB', ['2026-03-04T09:30', '2026-05-05T10:00']],
  ['date-time', ['4/3/2026 2:30 PM', '5/3/2026 9:00 AM'], 'en-GB', ['4/3/2026 2:30 PM', '5/3/2026 9:00 AM']],
])('%s: %j in %s', (type, cells, language, expected) =>
  expect(printed(rollOf(type, cells), language)).toEqual(expected),
);

test('a decimal comma is the sheet’s, and the paper’s language has its own', () =>
  expect(printed(rollOf('number', ['1.234,50', '7,5'], { format: { decimal: ',' } }))).toEqual([
    '1,234.50',
    '7.50',
  ]));

test('who is left out does not count, and who says so has the cell as it stands', () => {
  const roll = rollOf('date', ['2026-03-04', '4 March 2026']);
  const [first, second] = roll.entries;
  expect(printed({ ...roll, entries: [first!, { ...second!, leftOut: 'moved' }] })[0]).toBe('2026-03-04');
  const field = { id: 'f', name: 'C', columnId: 'c', format: { kind: 'cell' as const } };
  const context = { columns: roll.columns, language: 'en', day: '', cohort: cohortOf(roll) };
  expect(fillFields([field], first!, context)['f']!.text).toBe('2026-03-04');
});
