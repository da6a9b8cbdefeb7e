import { changePack, EMPTY_PRINT, packSentence, type PrintAsked } from './pack-sentence';

const columns = [
  { id: 'c', title: 'Class' },
  { id: 'n', title: 'Name' },
  { id: 'h', title: 'Homes' },
];
const some = { entryIds: ['e1', 'e2'] };
const said = (asked: PrintAsked): string =>
  packSentence(asked, columns, some)
    .map((piece) => (typeof piece === 'string' ? piece : piece.text))
    .join('');

test('a pack is read as a sentence, and changed part by part', () => {
  const changed = [
    { id: 'sort 0', value: 'c' },
    { id: 'sort 1', value: 'n' },
    { id: 'apart', value: 'c' },
    { id: 'copies', value: 'h' },
    { id: 'who', value: 'some' },
  ].reduce((asked, change) => changePack(asked, change, some), EMPTY_PRINT);
  expect(changed).toMatchObject({
    sort: ['c', 'n'],
    apart: 'c',
    copies: 'h',
    who: 'all',
    entryIds: ['e1', 'e2'],
  });
  expect(said(changed)).toBe(
    'Print the papers of the 2 whom the list shows, in the order of Class, then Name then by …, with a sheet before each Class.\nEach paper begins on a new sheet, in as many copies as Homes says.',
  );
  expect(changePack(changed, { id: 'who', value: 'no-address' }, some)).toMatchObject({ who: 'no-address' });
  expect(changePack(changed, { id: 'who', value: 'no-address' }, some).entryIds).toBeUndefined();
});

test('taking a column out of the order moves the others up; the same one twice counts once', () => {
  const asked = { ...EMPTY_PRINT, sort: ['c', 'n'] };
  expect(changePack(asked, { id: 'sort 0', value: '' }, null).sort).toEqual(['n']);
  expect(changePack(asked, { id: 'sort 1', value: 'c' }, null).sort).toEqual(['c']);
});
