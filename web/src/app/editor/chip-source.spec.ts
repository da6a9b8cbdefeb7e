import { ChipSource } from './chip-source';

const columns = [{ id: 'c', title: 'First name' }];
const fields = [
  { id: 'f', name: 'Name', columnId: 'c' },
  { id: 'g', name: 'Shoe', columnId: null },
];
const entry = (value: string) => ({ id: 'e', position: 0, values: { c: value } });

test('a chip shows the picked learner’s value, and says when there is none', () => {
  const chips = new ChipSource();
  chips.set(fields, { columns, language: 'en', day: '2026-11-26', entry: entry(' Zoë ') });
  expect(chips.faceOf('f')).toEqual({ label: 'First name', value: 'Zoë', state: 'filled' });
  chips.set(fields, { columns, language: 'en', day: '2026-11-26', entry: entry('') });
  expect(chips.faceOf('f').state).toBe('empty');
  expect(chips.faceOf('g')).toEqual({ label: 'Shoe', value: '', state: 'unmatched' });
  expect(chips.faceOf('gone').state).toBe('unmatched');
});

test('chips look again when the learner changes, until they are gone', () => {
  const chips = new ChipSource();
  const look = jest.fn();
  const stop = chips.onChange(look);
  chips.set(fields, { columns, language: 'en', day: '2026-11-26', entry: entry('A') });
  expect(look).toHaveBeenCalledTimes(1);
  stop();
  chips.set(fields, { columns, language: 'en', day: '2026-11-26', entry: entry('B') });
  expect(look).toHaveBeenCalledTimes(1);
});
