import type { Roll } from './roll.js';
import { fileKey, guessMatchedBy, matchPictures } from './match-pictures.js';

const rollOf = (rows: readonly (readonly [string, string, string])[], key?: string[]): Roll => ({
  columns: [
    { id: 'name', title: 'Name', role: 'name' },
    { id: 'no', title: 'Number' },
    { id: 'file', title: 'Photo', type: 'picture' },
  ],
  entries: rows.map(([name, no, file], n) => ({ id: `e${n}`, position: n, values: { name, no, file } })),
  ...(key ? { key } : {}),
});

const roll = rollOf([
  ['Amara Okafor', '0017', 'IMG_2031.JPG'],
  ['Zoë Åkesson-Lund', '0018', 'uploads/scan 4.png'],
  ['محمد علي', '0019', ''],
]);

test.each([
  ['photos/IMG_2031.jpg', 'img 2031'],
  ['C:\\photos\\IMG-2031.JPEG', 'img 2031'],
  ['Okafor, Amara.png', 'okafor amara'],
  ['0017', '0017'],
  ['v1.2', 'v1 2'],
])('%s is compared as %s', (text, key) => expect(fileKey(text)).toBe(key));

test('by names in whatever order, without accents, in any script', () => {
  const files = ['okafor_amara.jpg', 'Lund Zoe Akesson.png', 'class/علي محمد.webp', 'group.jpg'];
  const { fileOf, without, left } = matchPictures(roll, files, 'name');
  expect([...fileOf]).toEqual([
    ['e0', 0],
    ['e1', 1],
    ['e2', 2],
  ]);
  expect(without).toEqual([]);
  expect(left).toEqual([3]);
});

test('by the cells of a column, with their folders, and whatever the case', () => {
  const { fileOf, without } = matchPictures(roll, ['x/scan_4.PNG', 'img_2031.jpg'], { columnId: 'file' });
  expect([...fileOf]).toEqual([
    ['e1', 0],
    ['e0', 1],
  ]);
  expect(without.map(({ id }) => id)).toEqual(['e2']);
});

test('two learners of one name, and two pictures of one learner, are left to people', () => {
  const twins = rollOf([
    ['Bo Lind', '1', ''],
    ['Bo Lind', '2', ''],
    ['Cai Ann', '3', ''],
  ]);
  const { fileOf, left } = matchPictures(twins, ['Bo Lind.jpg', 'Cai Ann.jpg', 'cai_ann.png'], 'name');
  expect([...fileOf]).toEqual([['e2', 1]]);
  expect(left).toEqual([0, 2]);
});

test('who is left out needs none', () => {
  const [first, ...rest] = roll.entries;
  const without = matchPictures({ ...roll, entries: [{ ...first!, leftOut: 'moved' }, ...rest] }, [], 'name');
  expect(without.without.map(({ id }) => id)).toEqual(['e1', 'e2']);
});

test('what most files are named after is found out', () => {
  expect(guessMatchedBy(roll, ['0017.jpg', '0018.jpg', 'x.jpg'])).toEqual({ columnId: 'no' });
  expect(guessMatchedBy(roll, ['amara okafor.jpg'])).toBe('name');
  expect(guessMatchedBy(roll, ['IMG_2031.jpg'])).toEqual({ columnId: 'file' });
  expect(guessMatchedBy(roll, ['nobody.jpg'])).toBe('name');
});
