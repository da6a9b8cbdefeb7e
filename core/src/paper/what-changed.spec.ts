import { say } from '../sentences/index.js';
import { whatChanged } from './index.js';

const field = (id: string, name: string) => ({ id, name, columnId: id });
const fields = ['a', 'b', 'c', 'd', 'e', 'f'].map((id) => field(id, id.toUpperCase()));
const PLAIN = { exceptionId: null, exceptionVersion: null };
const told = (before: Record<string, string>, now: Record<string, string>, version = 1): string | null => {
  const changed = whatChanged(
    { values: before, templateVersion: 1, ...PLAIN },
    { values: now, templateVersion: version, ...PLAIN },
    fields,
  );
  return changed && say(changed);
};

test('fields that print something else are told by name, with both texts', () => {
  expect(told({ a: '1', b: '2' }, { a: '1', b: '3' })).toBe('Since it was cleared, B (2 → 3) changed.');
  expect(told({ a: '', b: '2' }, { a: 'x', b: '' }, 2)).toBe(
    'Since it was cleared, A (blank → x), B (2 → blank) and the text of the template changed.',
  );
  expect(told({ a: '1' }, { a: '1' })).toBeNull();
  expect(told({ a: '1' }, { a: '1' }, 2)).toBe('Since it was cleared, the text of the template changed.');
});

test('many are counted, and so is what has no name', () => {
  const all = Object.fromEntries(fields.map(({ id }) => [id, '1']));
  const others = Object.fromEntries(fields.map(({ id }) => [id, '2']));
  expect(told(all, { ...others, part: 'yes' })).toBe(
    'Since it was cleared, A (1 → 2), B (1 → 2), C (1 → 2), D (1 → 2) and 3 more things changed.',
  );
  expect(told({}, { part: 'yes' })).toBe('Since it was cleared, 1 more thing changed.');
});

test('another exception is another text of the template', () => {
  const made = { values: {}, templateVersion: 1, ...PLAIN };
  const changed = whatChanged(made, { ...made, exceptionId: 'x', exceptionVersion: 1 }, fields);
  expect(changed && say(changed)).toBe('Since it was cleared, the text of the template changed.');
});
