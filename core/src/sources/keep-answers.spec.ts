import type { Entry, Roll } from '../roll/index.js';
import { keepAnswers } from './index.js';

const entry = (
  id: string,
  position: number,
  values: Record<string, string>,
  more: Partial<Entry> = {},
): Entry => ({
  id,
  position,
  values,
  ...more,
});
const answered = 'form';
const name = { id: 'name', title: 'Name' };
const club = { id: 'club', title: 'Club', sourceId: answered };
const joined = { id: 'mark', title: 'Mark', sourceId: 'sheet' };

test('going back keeps what was answered since, as it is now, and nothing else of now', () => {
  const earlier: Roll = {
    columns: [name],
    entries: [
      entry('a', 0, { name: 'Ada' }),
      entry('b', 1, { name: 'Bo' }, { answered }),
      entry('c', 2, { name: 'Cy' }, { answered }),
    ],
  };
  const now: Roll = {
    columns: [name, joined, club],
    entries: [
      entry('a', 0, { name: 'Ada, newer', mark: '5' }),
      entry('d', 1, { name: 'Di', mark: '4' }),
      entry('b', 2, { name: 'Bo, changed', club: 'Chess', mark: '3' }, { answered, exact: { mark: 'n:3' } }),
      entry('e', 3, { name: 'Eve', club: 'Choir' }, { answered, mends: { name: { text: 'eve' } } }),
    ],
  };
  expect(keepAnswers(earlier, now)).toEqual({
    columns: [name, club],
    entries: [
      entry('a', 0, { name: 'Ada' }),
      entry('b', 1, { name: 'Bo, changed', club: 'Chess' }, { answered }),
      // The answer of Cy was deleted meanwhile.
      entry('e', 2, { name: 'Eve', club: 'Choir' }, { answered, mends: { name: { text: 'eve' } } }),
    ],
  });
});

test('without answers it is the earlier state', () => {
  const earlier: Roll = { columns: [name], entries: [entry('a', 0, { name: 'Ada' })], key: ['name'] };
  expect(keepAnswers(earlier, { columns: [name, joined], entries: [entry('z', 0, {})] })).toEqual(earlier);
});
