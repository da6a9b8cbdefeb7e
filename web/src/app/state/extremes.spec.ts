import { emptyLetter, type Letter } from '@scriptum/core/template';
import { extremesOf } from './extremes';

const letter: Letter = {
  ...emptyLetter('T'),
  fields: [
    { id: 'f', name: 'Name', columnId: 'n' },
    { id: 'unused', name: 'Other', columnId: 'o' },
  ],
  body: {
    type: 'doc',
    content: [{ type: 'paragraph', content: [{ type: 'field', attrs: { fieldId: 'f' } }] }],
  },
};
const entry = (n: string, o = '', leftOut?: string) => ({
  id: n || 'blank',
  position: 0,
  values: { n, o },
  ...(leftOut ? { leftOut } : {}),
});

test('the longest and the shortest are those whose fields print most and least', () => {
  const columns = [
    { id: 'n', title: 'Name' },
    { id: 'o', title: 'Other' },
  ];
  const entries = [
    entry('Zoë', 'x'.repeat(90)),
    entry('Bo'),
    entry('Wilhelmina'),
    entry('A very long name', '', 'moved'),
  ];
  expect(extremesOf(letter, { columns, entries }, '2026-11-26')).toEqual({
    longest: 'Wilhelmina',
    shortest: 'Bo',
  });
  expect(extremesOf(letter, { columns, entries: [entry('Bo')] }, '2026-11-26')).toEqual({
    longest: 'Bo',
    shortest: 'Bo',
  });
  expect(extremesOf(letter, { columns, entries: [] }, '2026-11-26')).toBeNull();
});
