import { Picking } from './pick-list';

const OPTIONS = ['Name', 'Class', 'Surname', 'Éva', 'Guardian email'].map((label) => ({
  value: label,
  label,
}));
const press = (picking: Picking, ...keys: string[]) =>
  keys.map((key) => picking.key(new KeyboardEvent('keydown', { key })));
const labels = (picking: Picking): string[] => picking.lines().map(({ label }) => label);

test('lines agree with what is typed, those that begin with it first', () => {
  const picking = new Picking('p', () => OPTIONS);
  expect(labels(picking)).toHaveLength(5);
  picking.type('na');
  expect(labels(picking)).toEqual(['Name', 'Surname']);
  picking.type('eva');
  expect(labels(picking)).toEqual(['Éva']);
  picking.type('nobody');
  expect(labels(picking)).toEqual([]);
  expect(picking.line).toBeUndefined();
});

test('arrows choose and stop at the ends; typing begins at the first line again', () => {
  const picking = new Picking('p', () => OPTIONS, 4);
  expect(press(picking, 'ArrowUp', 'ArrowDown', 'ArrowDown')).toEqual(['moved', 'moved', 'moved']);
  expect(picking.line?.label).toBe('Surname');
  press(picking, 'PageDown');
  expect(picking.line?.label).toBe('Éva');
  picking.type('class');
  expect(picking.line?.label).toBe('Class');
});

test('Enter takes, Escape and Tab leave, letters are none of its keys', () => {
  const picking = new Picking('p', () => OPTIONS);
  expect(press(picking, 'Enter', 'Escape', 'Tab', 'a', ' ')).toEqual(['take', 'leave', 'leave', null, null]);
});
