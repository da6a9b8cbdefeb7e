import fc from 'fast-check';
import { FIRST_ORNAMENTS } from '../ornament/index.js';
import {
  dressed,
  emptyLetterhead,
  emptyPlaced,
  Placed,
  type BoxOf,
  type PlacedBox,
  type TextBox,
} from '../template/index.js';
import {
  chainsOf,
  drawnValues,
  forMeasuring,
  mayGoOnIn,
  programValues,
  typeset,
  valuesToMeasure,
} from './index.js';

const at = { id: 'b', page: 0, x: 30, y: 40, width: 80, height: 20 };
const words = (text: string): TextBox['body'] => ({
  type: 'doc',
  content: [{ type: 'paragraph', content: [{ type: 'text', text }] }],
});
const fieldText: TextBox['body'] = {
  type: 'doc',
  content: [{ type: 'paragraph', content: [{ type: 'field', attrs: { fieldId: 'f' } }] }],
};
const placedOf = (boxes: PlacedBox[], more: Partial<Placed> = {}): Placed => ({
  ...emptyPlaced('Certificate'),
  fields: [{ id: 'f', name: 'Name', columnId: 'c' }],
  boxes,
  ...more,
});
const sourceOf = (box: PlacedBox, more: Partial<Placed> = {}): string => {
  const { source } = typeset(placedOf([box], more));
  return source.slice(source.lastIndexOf('placed-page('));
};

test('boxes stand where they belong, on as many pages as there are, each of its own size', () => {
  const placed = placedOf(
    [
      { kind: 'text', ...at, body: words('First') },
      { kind: 'text', ...at, id: 'c', page: 1, x: -5, y: 190.5, body: words('Second') },
    ],
    { pages: [{}, { size: { width: 100, height: 50 }, colour: '#FDFCF8' }] },
  );
  const { source, texts } = typeset(placed);
  expect(source).toContain(
    'placed-page(297mm, 210mm, 0mm, false, none, none, none, {\nput(30mm, 40mm, 80mm, 20mm, 0deg, text-box(0,',
  );
  expect(source).toContain(
    'placed-page(100mm, 50mm, 0mm, false, rgb("#FDFCF8"), none, none, {\nput(-5mm, 190.5mm,',
  );
  expect(JSON.parse(texts)).toEqual(['Certificate', 'First', 'Second']);
});

test('what is typed into any kind of box changes no byte of the source', () => {
  const boxes = (text: string): PlacedBox[] => [
    { kind: 'text', ...at, name: text, body: words(text) },
    { kind: 'comb', ...at, id: 'd', line: [{ type: 'text', text }], cells: 5, from: 'left' },
    { kind: 'code', ...at, id: 'e', code: 'qr', line: [{ type: 'text', text }], colour: '#000000' },
    { kind: 'tick', ...at, id: 'g', name: text, mark: 'cross', colour: '#000000', weight: 0.5 },
    { kind: 'picture', ...at, id: 'h', asset: 'a', fit: 'whole', alt: text },
  ];
  const plain = typeset(placedOf(boxes('x'))).source;
  fc.assert(
    fc.property(fc.string({ minLength: 1, maxLength: 40 }), (text) => {
      expect(typeset(placedOf(boxes(text))).source).toBe(plain);
    }),
  );
});

test('a text that may be set smaller has its sizes times a scale, down to its least one', () => {
  const sized: TextBox['body'] = {
    type: 'doc',
    content: [
      {
        type: 'paragraph',
        content: [{ type: 'text', text: 'a', marks: [{ type: 'textStyle', attrs: { fontSize: '30pt' } }] }],
      },
    ],
  };
  const source = sourceOf({
    kind: 'text',
    ...at,
    body: sized,
    type: { size: 40, family: 'Cinzel', colour: '#1D6B61', spacing: 50 },
    oneLine: true,
    align: 'center',
    long: { do: 'shrink', least: 18 },
  });
  expect(source).toContain('40pt, 18pt, true, center, top, none, false');
  expect(source).toContain('size: 40pt * scale, font: ("Cinzel", ');
  expect(source).toContain('tracking: 0.05em');
  expect(source).toContain('text(size: 30pt * scale, t(1))');
  // One that is not set smaller has no lower size.
  expect(sourceOf({ kind: 'text', ...at, body: words('a') })).toContain(
    '14pt, 14pt, false, left, top, none, false',
  );
  expect(sourceOf({ kind: 'text', ...at, body: words('a'), long: { do: 'cut' } })).toContain(
    'top, none, true',
  );
});

test('text on the lines of a form is counted from baseline to baseline', () => {
  const source = sourceOf({ kind: 'text', ...at, body: words('a'), baseline: { first: 6.5, pitch: 8 } });
  expect(source).toContain(
    'set text(top-edge: "baseline", bottom-edge: "baseline"); set par(leading: 8mm, spacing: 8mm); v(6.5mm)',
  );
});

test('a box stands under the condition of its part', () => {
  const parts: Placed['parts'] = [{ id: 'p', if: { all: [{ columnId: 'c', is: 'not blank', values: [] }] } }];
  const source = sourceOf(
    { kind: 'tick', ...at, part: 'p', mark: 'check', colour: '#000000', weight: 0.4 },
    { parts },
  );
  expect(source).toContain('if stands("p0") { put(');
  // One whose part is gone stands for everybody.
  expect(sourceOf({ kind: 'text', ...at, part: 'gone', body: words('a') })).not.toContain('stands(');
});

test('ornaments and marks are drawings of the program itself; one in no room is left out', () => {
  const program = typeset(
    placedOf([
      { kind: 'ornament', ...at, ornament: FIRST_ORNAMENTS.border },
      { kind: 'ornament', ...at, id: 'n', width: 0.5, ornament: FIRST_ORNAMENTS.seal },
      { kind: 'tick', ...at, id: 't', mark: 'dot', colour: '#000000', weight: 0.5 },
    ]),
  );
  expect(program.assets).toEqual(['drawing 0', 'drawing 1']);
  expect(Object.keys(program.drawings)).toEqual(program.assets);
  expect(program.drawings['drawing 0']).toContain('viewBox="0 0 80 20"');
  expect(program.boxes).toBe(true);
});

test('lines, shapes and what turns are set as they are asked for', () => {
  const stroke = { colour: '#8F5B0C', weight: 0.4 };
  expect(sourceOf({ kind: 'line', ...at, stroke, rising: true })).toContain(
    'line(start: (0mm, 20mm), end: (80mm, 0mm), stroke: (paint: rgb("#8F5B0C"), thickness: 0.4mm))',
  );
  expect(
    sourceOf({ kind: 'shape', ...at, form: 'rectangle', fill: '#EEF4F2', radius: 2, turn: -30 }),
  ).toContain(
    'put(30mm, 40mm, 80mm, 20mm, -30deg, pdf.artifact(rect(width: 80mm, height: 20mm, stroke: none, fill: rgb("#EEF4F2"), radius: 2mm))',
  );
  expect(
    sourceOf({ kind: 'shape', ...at, form: 'ellipse', stroke: { ...stroke, dashes: 'dashed' } }),
  ).toContain('dash: "dashed"');
});

test('the letterhead stands in its box as far as the school has one', () => {
  const box: BoxOf<'letterhead'> = { kind: 'letterhead', ...at, show: 'name', align: 'left' };
  const signed: BoxOf<'signOff'> = {
    kind: 'signOff',
    ...at,
    id: 's',
    signOffId: 'head',
    align: 'center',
    rule: true,
  };
  const letterhead = {
    ...emptyLetterhead('Thistlequay School'),
    signOffs: [{ id: 'head', name: 'Ada Holm', role: 'Head', picture: null, family: 'Great Vibes' as const }],
  };
  const placed = placedOf([box, signed]);
  const { source, texts } = typeset(dressed(placed, letterhead));
  expect(source).toContain('name-in((n: ');
  expect(source).toContain(', 80mm, 20mm, left)');
  expect(JSON.parse(texts)).toEqual(expect.arrayContaining(['Thistlequay School', 'Ada Holm', 'Head']));
  // What takes nothing of it stays what it was.
  const alone = placedOf([{ kind: 'text', ...at, body: words('a') }]);
  expect(dressed(alone, letterhead)).toBe(alone);
  expect(dressed(placed, { ...letterhead, signOffs: [] }).dress?.signOffs).toEqual([]);
  expect(typeset(dressed(placedOf([signed]), { ...letterhead, signOffs: [] })).source).toContain(
    'unmatched(',
  );
  expect(typeset(placedOf([box])).source).not.toContain('name-in((');
});

test('ground for the print shop reaches beyond the page', () => {
  const placed = placedOf([], {
    bleed: { width: 3, marks: true },
    pages: [{ picture: { asset: 'ground' } }],
  });
  const program = typeset(placed);
  expect(program.source).toContain('placed-page(297mm, 210mm, 3mm, true, none, 0, none, {');
  expect(program.assets).toEqual(['ground']);
  expect(program.beyond).toEqual({ bleed: 3, all: 10 });
  expect(typeset(placedOf([])).beyond).toEqual({ bleed: 0, all: 0 });
});

test('values of boxes: the longest words, what is cut into letters, what becomes a code', () => {
  const line: BoxOf<'comb'>['line'] = [
    { type: 'text', text: 'no ' },
    { type: 'field', attrs: { fieldId: 'f' } },
  ];
  const placed = placedOf([
    { kind: 'text', ...at, body: fieldText },
    { kind: 'comb', ...at, id: 'd', line, cells: 8, from: 'left', capitals: true },
    { kind: 'code', ...at, id: 'e', code: 'qr', line, colour: '#000000' },
    { kind: 'code', ...at, id: 'g', code: 'code128', line: [], colour: '#000000' },
  ]);
  const values = JSON.parse(programValues(placed, { f: 'Zoë Featherstone-Marchbanks' })) as Record<
    string,
    unknown
  >;
  expect(values['b0']).toEqual(['Featherstone', 'Marchbanks', 'Zoë']);
  expect(values['b1']).toBe('NO ZOË FEATHERSTONE-MARCHBANKS');
  expect(values['b2']).toMatchObject({ code: 'qr', text: 'no Zoë Featherstone-Marchbanks' });
  // Of nothing there is no code.
  expect(values).not.toHaveProperty('b3');
  const drawn = JSON.parse(drawnValues(JSON.stringify(values))) as Record<string, Record<string, unknown>>;
  expect(drawn['b2']!['svg']).toContain('<path fill="#000000"');
  const bars = placedOf([{ kind: 'code', ...at, code: 'code128', line, colour: '#000000' }]);
  expect(drawnValues(programValues(bars, { f: 'Zoë' }))).toContain('"trouble":"letters"');
  expect(typeset(bars).draws).toBe(true);
});

test('only what has a text is measured, for those who get a paper', () => {
  const placed = placedOf(
    [
      { kind: 'ornament', ...at, ornament: FIRST_ORNAMENTS.rosette },
      { kind: 'text', ...at, id: 't', body: fieldText },
    ],
    {
      pages: [{ picture: { asset: 'a' } }],
      variant: { of: 'x', columnId: 'l', name: '', says: ['Deutsch'] },
    },
  );
  const { template, boxIds } = forMeasuring(placed);
  expect(boxIds).toEqual(['t']);
  expect(typeset(template).assets).toEqual([]);
  const entry = (id: string, l: string, leftOut?: string) => ({
    id,
    position: 0,
    values: { c: id, l },
    ...(leftOut ? { leftOut } : {}),
  });
  const measured = valuesToMeasure(
    template,
    [entry('a', 'deutsch'), entry('b', 'English'), entry('d', 'Deutsch', 'moved away')],
    {
      columns: [
        { id: 'c', title: 'Name' },
        { id: 'l', title: 'Language' },
      ],
      day: '2026-11-26',
    },
  );
  expect(measured.map(({ entryId }) => entryId)).toEqual(['a']);
  expect(JSON.parse(measured[0]!.values)).toMatchObject({ f0: 'a', b0: ['a'] });
});

test('a box on a page that is not there is no template', () => {
  const read = Placed.safeParse(placedOf([{ kind: 'text', ...at, page: 1, body: words('a') }]));
  expect(read.success).toBe(false);
  expect(Placed.safeParse(placedOf([{ kind: 'text', ...at, body: words('a') }])).success).toBe(true);
});

test('a page of a PDF lies under a page on screen; in the file it is put there afterwards', () => {
  const pages: Placed['pages'] = [{ ground: { asset: 'form', page: 2 } }, {}];
  const program = typeset(placedOf([], { pages }));
  expect(program.source).toContain('(n: 0, page: 3, width: auto)');
  expect(program.assets).toEqual(['form']);
  expect(program.under).toEqual([{ asset: 0, page: 2 }, null]);
});

test('ornaments beyond what can be drawn while others wait are left out, and too many are no template', () => {
  const at0 = { ...at, width: 2000, height: 2000 };
  const heavy = { ...FIRST_ORNAMENTS.waves, pattern: 'ground' as const, count: 80 };
  const boxes = Array.from({ length: 60 }, (_, n): PlacedBox => ({
    kind: 'ornament',
    ...at0,
    id: `o${n}`,
    ornament: heavy,
  }));
  const drawn = Object.values(typeset(placedOf(boxes)).drawings).reduce((sum, { length }) => sum + length, 0);
  expect(drawn).toBeLessThan(5_500_000);
  expect(Placed.safeParse(placedOf(boxes)).success).toBe(true);
  expect(Placed.safeParse(placedOf([...boxes, { ...boxes[0]!, id: 'more' }])).success).toBe(false);
});

test('boxes form chains by where their texts go on; what would run in a circle does not', () => {
  const box = (id: string, to?: string): TextBox => ({
    kind: 'text',
    ...at,
    id,
    body: words(id),
    ...(to ? { long: { do: 'on', to } } : {}),
  });
  expect(chainsOf(placedOf([box('a', 'b'), box('b', 'c'), box('c')]))).toEqual([[0, 1, 2]]);
  // Two that want to go on in one: the first has it. One that is gone, itself, and a circle are none.
  expect(chainsOf(placedOf([box('c'), box('a', 'c'), box('b', 'c')]))).toEqual([[1, 0]]);
  expect(chainsOf(placedOf([box('a', 'z'), box('b', 'b')]))).toEqual([]);
  expect(chainsOf(placedOf([box('a', 'b'), box('b', 'a')]))).toEqual([]);
  expect(chainsOf(placedOf([box('a', 'b'), box('b', 'c'), box('c', 'b')]))).toEqual([[0, 1, 2]]);
  const three = [box('a', 'b'), box('b'), box('c')];
  const may = (from: number, to: number) =>
    mayGoOnIn({ boxes: three }, three[from] as TextBox, three[to] as TextBox);
  expect([may(0, 1), may(0, 2), may(1, 0), may(1, 2), may(2, 1), may(2, 2)]).toEqual([
    true,
    true,
    false,
    true,
    false,
    false,
  ]);
});

test('a text without spaces is no long word', () => {
  const template = placedOf([{ kind: 'text', ...at, body: words('学生表现优异 ok นักเรียน') }]);
  expect((JSON.parse(programValues(template, {})) as { b0: string[] }).b0[0]).toBe('ok');
});
