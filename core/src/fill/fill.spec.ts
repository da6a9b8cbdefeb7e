import fc from 'fast-check';
import { fillFields, oneLine, printable } from './index.js';

test('line ends become one kind, and control characters go', () => {
  expect(printable('a\r\nb\rc\u0000\u0007\td ')).toBe('a\nb\nc d');
});

test('text stays as it was otherwise, in every script', () => {
  for (const text of ['#panic("x") {{Name}} <script>', 'محمد السعدي', 'Zoe\u0308', 'नी', '👩‍🏫', 'a  b'])
    expect(printable(text)).toBe(text);
});

test('printing twice changes nothing, and the result is well formed', () => {
  fc.assert(
    fc.property(fc.string({ unit: 'binary' }), (text) => {
      const once = printable(text);
      expect(printable(once)).toBe(once);
      expect(once.isWellFormed()).toBe(true);
    }),
  );
});

test('one line has no line ends', () => expect(oneLine(' a\n b\u2028c ')).toBe('a b c'));

test('an unmatched field has no value, an empty cell has an empty one', () => {
  const entry = { id: 'e', position: 0, values: { c: ' x ' } };
  const fields = [
    { id: '1', name: 'A', columnId: 'c' },
    { id: '2', name: 'B', columnId: 'd' },
    { id: '3', name: 'C', columnId: null },
  ];
  expect(fillFields(fields, entry)).toEqual({ 1: 'x', 2: '' });
});
