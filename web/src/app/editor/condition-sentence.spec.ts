import { Condition } from '@scriptum/core/condition';
import type { Column } from '@scriptum/core/column';
import { changePart, partSentence } from './condition-sentence';

const columns: Column[] = [
  { id: 'mark', title: 'Mark', type: 'number' },
  { id: 'house', title: 'House' },
];
const around = { columns, entry: undefined };
const told = (condition: Condition | null): string =>
  partSentence(condition, around)
    .map((piece) => (typeof piece === 'string' ? piece : piece.text))
    .join('')
    .replace(/ \+$/, '');
/** What was chosen one after the other; each step is one that the sentence offers. */
function choose(condition: Condition | null, ...steps: [id: string, value: string][]): Condition | null {
  return steps.reduce<Condition | null>((one, [id, value]) => {
    const part = partSentence(one, around).find((piece) => typeof piece !== 'string' && piece.id === id);
    if (!part || typeof part === 'string') throw new Error(`There is no part ${id}.`);
    expect(part.typed !== undefined || part.options.some((option) => option.value === value)).toBe(true);
    const changed = changePart(one, { id, value }, around);
    return changed && Condition.parse(changed);
  }, condition);
}

test('from every paper to some, with one test and with several', () => {
  expect(told(null)).toBe('This block stands in every paper.');
  const one = choose(null, ['stands', 'if'], ['is 0', 'at least'], ['with 0', '70']);
  expect(one).toEqual({ columnId: 'mark', is: 'at least', values: ['70'] });
  expect(told(one)).toBe('This block stands only if Mark is at least 70.');
  const two = choose(one, ['add', 'any'], ['if 1', 'house'], ['is 1', 'equal'], ['with 1', 'Otter']);
  expect(told(two)).toBe('This block stands only if Mark is at least 70 or House is Otter.');
  expect(told(choose(two, ['how', 'all']))).toBe(
    'This block stands only if Mark is at least 70 and House is Otter.',
  );
  const three = choose(two, ['add', 'any'], ['is 2', 'blank']);
  expect(told(three)).toBe(
    'This block stands only if Mark is at least 70 or House is Otter or House is blank.',
  );
  expect(choose(three, ['if 2', 'out'], ['if 0', 'out'])).toEqual({
    columnId: 'house',
    is: 'equal',
    values: ['Otter'],
  });
  expect(choose(one, ['if 0', 'out'])).toBeNull();
  expect(choose(two, ['stands', 'always'])).toBeNull();
});

test('as many values as are compared with', () => {
  const between = choose(null, ['stands', 'if'], ['is 0', 'between'], ['with 0', '10'], ['and 0', '20']);
  expect(between).toEqual({ columnId: 'mark', is: 'between', values: ['10', '20'] });
  expect(told(between)).toBe('This block stands only if Mark is between 10 and 20.');
  expect(choose(between, ['is 0', 'blank'])).toEqual({ columnId: 'mark', is: 'blank', values: [] });
  expect(choose(between, ['is 0', 'under'])).toEqual({ columnId: 'mark', is: 'under', values: ['10'] });
});

test('a condition that is nested is kept as it is', () => {
  const nested: Condition = { not: { columnId: 'mark', is: 'blank', values: [] } };
  expect(told(nested)).toBe('This block stands only if a condition of several kinds holds.');
  expect(changePart(nested, { id: 'stands', value: 'if' }, around)).toBe(nested);
  expect(changePart(nested, { id: 'stands', value: 'always' }, around)).toBeNull();
});
