import type { Column } from '@scriptum/core/column';
import { Field } from '@scriptum/core/template';
import { changePicture, pictureSentence } from './picture-sentence';

const columns: Column[] = [
  { id: 'f', title: 'Photo', type: 'picture' },
  { id: 'w', title: 'Work', type: 'picture' },
];
const around = { columns, entry: undefined };
const field: Field = {
  id: 'p',
  name: 'Photo',
  columnId: 'f',
  picture: { width: 35, height: 45, fit: 'cut below', side: 'left' },
};
const told = (one: Field): string =>
  pictureSentence(one, one.picture!, around)
    .pieces.map((piece) => (typeof piece === 'string' ? piece : piece.text))
    .join('');
const change = (one: Field, id: string, value: string): Field =>
  Field.parse(changePicture(one, one.picture!, { id, value }, around));

test('a picture is read as a sentence, and each part of it can be changed', () => {
  expect(told(field)).toBe(
    'The picture in Photo, in a room 35 mm wide and 45 mm high, cut to a face, on the left. For whom there is none: nothing stands there.',
  );
  const other = [
    ['column', 'w'],
    ['width', '120'],
    ['height', '62,5 mm'],
    ['fit', 'whole'],
    ['side', 'center'],
    ['blank', 'hold'],
  ].reduce((one, [id, value]) => change(one, id!, value!), field);
  expect(told(other)).toBe(
    'The picture in Work, in a room 120 mm wide and 62.5 mm high, shown whole, in the middle. For whom there is none: the paper waits.',
  );
  expect(change(other, 'blank', 'nothing').whenBlank).toBeUndefined();
});

test.each(['4', '401', 'wide', ''])('a size of “%s” is none', (value) =>
  expect(change(field, 'width', value)).toEqual(field),
);

test('a column that is gone is to be chosen anew', () => {
  const gone = { ...field, columnId: 'x', name: 'Portrait' };
  expect(pictureSentence(gone, field.picture!, around).pieces[1]).toMatchObject({
    text: 'Portrait',
    look: 'missing',
  });
});
