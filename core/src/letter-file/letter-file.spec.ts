import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate';
import type { Column } from '../column/index.js';
import { emptyLetter, type Field, type Letter } from '../template/index.js';
import { columnsWritten, letterFile, movedTo, readLetterFile, withKeptPictures } from './index.js';

const from: Column[] = [
  { id: 'a1', title: 'Name', type: 'text' },
  { id: 'a2', title: 'Mark', type: 'number' },
  { id: 'a3', title: 'House', type: 'text' },
];
const to: Column[] = [
  { id: 'b1', title: 'MARK', type: 'number' },
  { id: 'b2', title: 'name', type: 'text' },
];
const fields: Field[] = [
  { id: 'f1', name: 'Name', columnId: 'a1', more: [{ between: ' ', name: 'House', columnId: 'a3' }] },
  {
    id: 'f2',
    name: 'Marks',
    columnId: null,
    chart: { kind: 'place', columnId: 'a2', name: 'Mark', within: [], width: 80, height: 40, axis: 'Mark' },
  },
];
const letter: Letter = {
  ...emptyLetter('Spring / report'),
  fields,
  parts: [{ id: 'p', if: { all: [{ columnId: 'a2', is: 'over', values: ['50'] }] } }],
  body: {
    type: 'doc',
    content: [{ type: 'picture', attrs: { asset: 'crest', width: 20, align: 'left', alt: 'Crest' } }],
  },
};
let count = 0;
const newId = (): string => `n${++count}`;
const picture = { asset: 'crest', name: '../crest of 8A.png', bytes: new Uint8Array([1, 2, 3]) };
const codeOf = (bytes: Uint8Array): string => {
  const read = readLetterFile(bytes, to, newId);
  return read.ok ? 'fine' : read.problem.code;
};

test('it tells which columns it looks at, in conditions too', () => {
  expect(columnsWritten(letter, from).map(({ id }) => id)).toEqual(['a1', 'a2', 'a3']);
  expect(columnsWritten(emptyLetter('x'), from)).toEqual([]);
});

test('over another roll each column is the one whose title agrees; what is not there stays', () => {
  const moved = movedTo(letter, from, to);
  expect(moved.fields[0]).toMatchObject({ columnId: 'b2', more: [{ columnId: 'a3' }] });
  expect(moved.fields[1]).toMatchObject({ chart: { columnId: 'b1' } });
  expect(JSON.stringify(moved.parts)).toContain('"columnId":"b1"');
  // Nothing is moved within one roll.
  expect(movedTo(letter, from, from)).toBe(letter);
});

test('a letter with its picture is saved and read again', () => {
  const bytes = letterFile(letter, from, [picture]);
  const names = Object.keys(unzipSync(bytes));
  // No name in it leads out of it.
  expect(names).toEqual(['letter.json', 'pictures/1-.._crest_of_8A.png']);
  const read = readLetterFile(bytes, from, newId);
  if (!read.ok) throw new Error(read.problem.message);
  expect(read.value.letter).toEqual(letter);
  expect(read.value.pictures).toEqual([{ ...picture, name: '.._crest_of_8A.png' }]);
  const kept = withKeptPictures(read.value.letter, new Map([['crest', 'asset9']]));
  expect((kept as Letter).body.content[0]).toMatchObject({ attrs: { asset: 'asset9' } });
  const elsewhere = readLetterFile(bytes, to, newId);
  expect(elsewhere.ok && elsewhere.value.letter.fields[0]!.columnId).toBe('b2');
});

test('the same letter gives the same bytes', () => {
  expect(letterFile(letter, from, [picture])).toEqual(letterFile(structuredClone(letter), from, [picture]));
});

test('a template file is read too', () => {
  const file = {
    scriptum: 'letter',
    version: 1,
    name: 'T',
    body: [{ type: 'paragraph', content: 'Dear {{Name}}' }],
  };
  const read = readLetterFile(strToU8(JSON.stringify(file)), to, newId);
  expect(read.ok && read.value.letter.fields).toMatchObject([{ name: 'Name', columnId: 'b2' }]);
});

test.each<[string, Uint8Array, string]>([
  ['nothing', new Uint8Array(), 'template-json'],
  ['a text', strToU8('Dear family'), 'template-json'],
  ['another JSON', strToU8('{"a":1}'), 'template-shape'],
  ['another archive', zipSync({ 'x.txt': strToU8('x') }), 'letter-file'],
  ['a broken archive', letterFile(letter, from, [picture]).slice(0, 200), 'letter-damaged'],
  ['an archive of broken JSON', zipSync({ 'letter.json': strToU8('{') }), 'template-json'],
  [
    'an archive of another JSON',
    zipSync({ 'letter.json': strToU8('{"scriptum":"letter"}') }),
    'template-shape',
  ],
  [
    'an archive that swells',
    zipSync({ 'letter.json': strToU8('{}'), 'pictures/1.png': new Uint8Array(61 * 1024 * 1024) }),
    'letter-large',
  ],
  ['a letter as long as a book', zipSync({ 'letter.json': new Uint8Array(5 * 1024 * 1024) }), 'letter-file'],
  ['a text as long as a book', new Uint8Array(5 * 1024 * 1024).fill(0x20), 'letter-file'],
])('%s is refused', (_, bytes, code) => {
  expect(codeOf(bytes)).toBe(code);
});

test('what a file says of parts that it does not have is left out, and so are pictures that the letter does not show', () => {
  const saved = JSON.parse(strFromU8(unzipSync(letterFile(letter, from, []))['letter.json']!)) as {
    pictures: Record<string, string>;
  };
  saved.pictures = { crest: 'pictures/none.png', other: 'pictures/other.png', constructor: 'letter.json' };
  const bytes = zipSync({
    'letter.json': strToU8(JSON.stringify(saved)),
    'pictures/other.png': new Uint8Array([1]),
  });
  const read = readLetterFile(bytes, from, newId);
  expect(read.ok && read.value.pictures).toEqual([]);
});
