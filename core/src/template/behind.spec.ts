import {
  allPicturesOf,
  boxesOf,
  emptyLetter,
  emptyPlaced,
  fieldsOf,
  isTemplateBlank,
  Letter,
  mergeContents,
  partsOf,
  placedOf,
  signOffsOf,
  withFirstBehind,
  withPagesBehind,
  withPlaced,
  withTemplatePictures,
  type Placed,
  type PlacedBox,
} from './index.js';

const at = { page: 0, x: 10, y: 10, width: 50, height: 10 };
const field = (fieldId: string) => ({ type: 'field' as const, attrs: { fieldId } });
const body = (...content: object[]) => ({ type: 'doc', content: [{ type: 'paragraph', content }] }) as never;
const certificate: Placed = {
  ...emptyPlaced('Award'),
  fields: [
    { id: 'f', name: 'Class', columnId: 'class' },
    { id: 'g', name: 'Name', columnId: 'name' },
  ],
  parts: [{ id: 'p', if: { all: [] } }] as never,
  pages: [{ picture: { asset: 'waves' } }],
  boxes: [
    { kind: 'text', id: 'a', ...at, body: body(field('f'), field('g')) },
    { kind: 'picture', id: 'b', ...at, asset: 'crest', fit: 'whole', alt: '', part: 'p' },
    { kind: 'signOff', id: 'c', ...at, signOffId: 's', align: 'left', rule: true },
  ] as PlacedBox[],
};
const letter: Letter = {
  ...emptyLetter('Report'),
  fields: [{ id: 'f', name: 'Name', columnId: 'name' }],
  body: body({ type: 'text', text: 'Dear ' }, field('f')),
};
let count = 0;
const newId = () => `n${++count}`;

test('pages of a certificate come behind a letter as its own, with fields, parts and pictures', () => {
  const both = withPagesBehind(letter, certificate, newId);
  expect(Letter.safeParse(both).success).toBe(true);
  // The field that means another one in each has a name of its own; the one that is new is taken over.
  expect(both.fields.map(({ id, columnId }) => [id, columnId])).toEqual([
    ['f', 'name'],
    ['n1', 'class'],
    ['g', 'name'],
  ]);
  expect(fieldsOf(both)).toEqual(['f', 'n1', 'g']);
  expect(partsOf(both).map(({ id }) => id)).toEqual(['p']);
  expect(allPicturesOf(both).map(({ attrs }) => attrs.asset)).toEqual(['waves', 'crest']);
  expect(signOffsOf(both)).toEqual(['s']);
  expect(boxesOf(both)).toHaveLength(3);
  const moved = withTemplatePictures(both, (asset) => `${asset}-2`);
  expect(allPicturesOf(moved).map(({ attrs }) => attrs.asset)).toEqual(['waves-2', 'crest-2']);
  expect(placedOf(letter)).toBeNull();
  expect(placedOf(certificate)).toBe(certificate);
});

test('a part that means something else in the letter is another one on the pages', () => {
  const when = { all: [{ columnId: 'c', is: 'filled' }] };
  const own = { ...letter, parts: [{ id: 'p', if: when }] as never };
  const both = withPagesBehind(own, certificate, newId);
  expect(both.parts).toHaveLength(2);
  expect(both.parts![0]).toEqual({ id: 'p', if: when });
  expect(boxesOf(both).find(({ id }) => id === 'b')!.part).toBe(both.parts![1]!.id);
});

test('the pages are one and the same template as long as the letter is, and changes to them are the letter’s', () => {
  const both = withFirstBehind(letter);
  const placed = placedOf(both)!;
  expect(placedOf(both)).toBe(placed);
  const changed = { ...placed, boxes: certificate.boxes, language: 'de-DE' };
  const after = withPlaced(both, changed);
  expect(placedOf(after)).toBe(changed);
  expect(after).toMatchObject({ body: letter.body, language: 'de-DE', font: letter.font });
  expect(Letter.parse(JSON.parse(JSON.stringify(after)))).toEqual(JSON.parse(JSON.stringify(after)));
  expect(isTemplateBlank({ ...both, body: emptyLetter('x').body })).toBe(true);
  expect(isTemplateBlank(after)).toBe(false);
});

test('what two people change in the text and on the pages goes together, box by box', () => {
  const base = withPagesBehind(letter, certificate, newId);
  const move = (id: string, x: number): Letter => ({
    ...base,
    behind: {
      ...base.behind!,
      boxes: base.behind!.boxes.map((box) => (box.id === id ? { ...box, x } : box)),
    },
  });
  const mine = { ...move('a', 1), body: body({ type: 'text', text: 'Hello' }) };
  const merged = mergeContents(base, mine, move('b', 2));
  expect(merged!.body).toBe(mine.body);
  expect(merged!.behind!.boxes.map(({ x }) => x)).toEqual([1, 2, 10]);
  expect(mergeContents(base, move('a', 1), move('a', 2))).toBeNull();
});
