import fc from 'fast-check';
import { emptyLetter, type Block, type Letter } from '../template/index.js';
import { programValues, typesetLetter } from './index.js';

const letterOf = (content: Block[], fields: Letter['fields'] = []): Letter => ({
  ...emptyLetter('T'),
  fields,
  body: { type: 'doc', content },
});

test('nothing that a person typed is in the source', () => {
  fc.assert(
    fc.property(fc.string({ unit: 'binary', minLength: 6, maxLength: 40 }), (typed) => {
      const letter = letterOf(
        [
          {
            type: 'paragraph',
            content: [
              { type: 'text', text: typed },
              { type: 'field', attrs: { fieldId: typed } },
            ],
          },
          { type: 'picture', attrs: { asset: typed, width: 20, align: 'left', alt: typed } },
        ],
        [{ id: typed, name: typed, columnId: 'c' }],
      );
      const plain = letterOf(
        [
          {
            type: 'paragraph',
            content: [
              { type: 'text', text: 'x' },
              { type: 'field', attrs: { fieldId: 'f' } },
            ],
          },
          { type: 'picture', attrs: { asset: 'a', width: 20, align: 'left', alt: 'x' } },
        ],
        [{ id: 'f', name: 'F', columnId: 'c' }],
      );
      expect(typesetLetter({ ...letter, name: typed }).source).toBe(typesetLetter(plain).source);
    }),
  );
});

test('page size and margins stand in millimetres', () => {
  const letter = {
    ...letterOf([]),
    page: { size: 'Letter' as const, margins: { top: 10, right: 11, bottom: 12.5, left: 13 } },
  };
  expect(typesetLetter(letter).source).toContain(
    'width: 215.9mm, height: 279.4mm, margin: (top: 10mm, right: 11mm, bottom: 12.5mm, left: 13mm)',
  );
});

test('formatting given to a field is the formatting of its value', () => {
  const letter = letterOf(
    [
      {
        type: 'paragraph',
        content: [
          {
            type: 'field',
            attrs: { fieldId: 'f' },
            marks: [
              { type: 'bold' },
              { type: 'underline' },
              { type: 'textStyle', attrs: { color: '#A63D40', fontSize: '14pt' } },
            ],
          },
        ],
      },
    ],
    [{ id: 'f', name: 'Name', columnId: 'c' }],
  );
  expect(typesetLetter(letter).source).toContain(
    'text(weight: "bold", fill: rgb("#A63D40"), size: 14pt, underline(f("f0")))',
  );
});

test('an unmatched field is set as a mark with its name, not as a value', () => {
  const letter = letterOf(
    [{ type: 'paragraph', content: [{ type: 'field', attrs: { fieldId: 'f' } }] }],
    [{ id: 'f', name: 'Shoe', columnId: null }],
  );
  const { source, texts } = typesetLetter(letter);
  expect(source).toContain('unmatched(');
  expect(JSON.parse(texts)).toContain('Shoe');
});

test('values go under the places of the fields', () => {
  const letter = letterOf(
    [],
    [
      { id: 'a', name: 'A', columnId: 'x' },
      { id: 'b', name: 'B', columnId: 'y' },
    ],
  );
  expect(JSON.parse(programValues(letter, { b: '"; panic()', a: '' }))).toEqual({ f0: '', f1: '"; panic()' });
});

test('half of a surrogate pair does not reach the typesetter', () => {
  const { texts } = typesetLetter(
    letterOf([{ type: 'paragraph', content: [{ type: 'text', text: 'a\ud800b' }] }]),
  );
  expect(texts).toContain('a\ufffdb');
});
