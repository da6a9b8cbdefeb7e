import type { Roll } from '@scriptum/core/roll';
import { valueOf } from '@scriptum/core/roll';
import { mergeWorked, takeTexts } from './worked-cells';

const roll: Roll = {
  columns: [{ id: 'mark', title: 'Mark' }],
  entries: [
    { id: 'a', position: 0, values: {} },
    { id: 'b', position: 1, values: { mark: 'by hand' } },
  ],
};
const all = takeTexts(new Map(), [{ columnId: 'mark', places: null, texts: ['70', '80'] }], ['a', 'b'], true);

test('texts go to the entries at their places; what was written by hand goes before them', () => {
  const merged = mergeWorked(roll, all);
  expect(merged.entries.map((entry) => valueOf(entry, 'mark'))).toEqual(['70', 'by hand']);
});

test('entries without new texts stay the same objects', () => {
  const before = mergeWorked(roll, all);
  const next = takeTexts(all, [{ columnId: 'mark', places: [0], texts: ['71'] }], ['a', 'b'], false);
  const after = mergeWorked(roll, next);
  expect(valueOf(after.entries[0], 'mark')).toBe('71');
  expect(after.entries[1]).toBe(before.entries[1]);
  expect(mergeWorked(roll, next).entries[0]).toBe(after.entries[0]);
});

test('where everything is worked out anew, what was there before goes', () => {
  const next = takeTexts(all, [{ columnId: 'level', places: null, texts: ['B'] }], ['a'], true);
  expect([...next]).toEqual([['a', { level: 'B' }]]);
});

test('a roll without worked columns is the roll itself', () => {
  expect(mergeWorked(roll, new Map())).toBe(roll);
});
