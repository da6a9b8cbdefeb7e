import type { Block } from '../text/index.js';
import fc from 'fast-check';
import {
  dressed,
  emptyLetter,
  emptyLetterhead,
  fieldsOf,
  PAPER_SIZES,
  type Letter,
  type Letterhead,
} from '../template/index.js';
import { programValues, typeset } from './index.js';

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
      expect(typeset({ ...letter, name: typed }).source).toBe(typeset(plain).source);
    }),
  );
});

test('nothing that is written in a letterhead is in the source', () => {
  const signing: Letter = {
    ...letterOf([{ type: 'signOff', attrs: { signOffId: 's' } }]),
    letterhead: { print: 'printed', looks: true },
  };
  const houseSaying = (typed: string): Letterhead => {
    const house = emptyLetterhead(typed);
    return {
      ...house,
      name: { ...house.name, text: typed },
      crest: { asset: typed, height: 20, alt: typed },
      lines: [typed, typed],
      foot: [typed],
      signOffs: [{ id: 's', name: typed, role: typed, picture: null, family: 'Great Vibes' }],
    };
  };
  const sourceOf = (typed: string): string => typeset(dressed(signing, houseSaying(typed))).source;
  fc.assert(
    fc.property(fc.string({ unit: 'binary', minLength: 6, maxLength: 40 }), (typed) => {
      // A line that says nothing is left out.
      fc.pre(typed.trim() !== '');
      expect(sourceOf(typed)).toBe(sourceOf('Saltmarsh'));
    }),
  );
});

test('page size and margins stand in millimetres', () => {
  const letter = {
    ...letterOf([]),
    page: { ...PAPER_SIZES.Letter, margins: { top: 10, right: 11, bottom: 12.5, left: 13 } },
  };
  expect(typeset(letter).source).toContain(
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
  expect(typeset(letter).source).toContain(
    'text(weight: "bold", fill: rgb("#A63D40"), size: 14pt, underline(f("f0")))',
  );
});

test('an unmatched field is set as a mark with its name, not as a value', () => {
  const letter = letterOf(
    [{ type: 'paragraph', content: [{ type: 'field', attrs: { fieldId: 'f' } }] }],
    [{ id: 'f', name: 'Shoe', columnId: null }],
  );
  const { source, texts } = typeset(letter);
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
  const { texts } = typeset(letterOf([{ type: 'paragraph', content: [{ type: 'text', text: 'a\ud800b' }] }]));
  expect(texts).toContain('a\ufffdb');
});

test('head and foot stand on the pages that they are for, with the number of the page', () => {
  const fields: Letter['fields'] = [
    { id: 'n', name: 'Name', columnId: 'c' },
    { id: 'p', name: 'Page', columnId: null, same: { kind: 'page', all: false } },
    { id: 'a', name: 'All pages', columnId: null, same: { kind: 'page', all: true } },
  ];
  const place = (fieldId: string) => ({ type: 'field' as const, attrs: { fieldId } });
  const right = [{ type: 'text' as const, text: 'Page ' }, place('p'), place('a')];
  const letter: Letter = {
    ...letterOf([], fields),
    head: { left: [], right: [], later: false },
    foot: { left: [place('n')], right, later: true },
  };
  const { source } = typeset(letter);
  expect(source).toContain('#set page(header: { page-line((later: false), [], []) })');
  expect(source).toContain(
    '#set page(footer: { page-line((later: true), { f("f0") }, { t(1); page-number(false); page-number(true) }) })',
  );
  expect(fieldsOf(letter)).toEqual(['n', 'p', 'a']);
  expect(typeset(letterOf([])).source).not.toContain('#set page(footer');
});

test('headings and signatures have their own look where one is given', () => {
  const plain = typeset(letterOf([])).source;
  expect(plain).toContain('#let heading-look = (:)');
  expect(plain).toContain('#let signature-fonts = ("Dancing Script", ');
  const styled = {
    ...letterOf([]),
    headings: { family: 'Cinzel', colour: '#1D6B61' },
    signature: 'Great Vibes',
  } as const;
  const { source } = typeset(styled);
  expect(source).toMatch(
    /#let heading-look = \(font: \("Cinzel", "Noto Sans", .*\), fill: rgb\("#1D6B61"\)\)/,
  );
  expect(source).toContain('#let signature-fonts = ("Great Vibes", ');
});

test('a kind of text looks as the template says once', () => {
  const plain = typeset(letterOf([])).source;
  expect(plain).toContain('#let style-looks = (:)\n');
  const { source } = typeset({
    ...letterOf([]),
    styles: { title: { size: 30.5, colour: '#1D6B61' }, small: { colour: '#8F5B0C' }, h2: {} },
  });
  expect(source).toContain(
    '#let style-looks = (title: (size: 30.5pt, fill: rgb("#1D6B61")), small: (fill: rgb("#8F5B0C")), )\n',
  );
});
