import fc from 'fast-check';
import {
  linePlain,
  linesOf,
  partsUsed,
  remaining,
  textPlain,
  withoutBlank,
  type BlankRules,
  type GoesOut,
  type Inline,
} from './index.js';

const text = (value: string): Inline => ({ type: 'text', text: value });
const field = (fieldId: string): Inline => ({ type: 'field', attrs: { fieldId } });
const stop: Inline = { type: 'hardBreak' };
const rules = (goes: Record<string, GoesOut>, language = 'en'): BlankRules => ({
  language,
  goesOut: (id) => goes[id] ?? null,
});
const left = (
  content: Inline[],
  goes: Record<string, GoesOut>,
  values: Record<string, string>,
): string | null => {
  const kept = remaining(content, rules(goes), (id) => !values[id]);
  return kept && linePlain(kept, values);
};

test('the sentence goes out, with the space behind it, and nothing else', () => {
  const content = [
    text('Well done, '),
    field('n'),
    text('. Your mark is '),
    field('m'),
    text(' of 20. We look forward.'),
  ];
  const goes = { m: 'sentence' } as const;
  expect(left(content, goes, { n: 'Zoë', m: '18' })).toBe(
    'Well done, Zoë. Your mark is 18 of 20. We look forward.',
  );
  expect(left(content, goes, { n: 'Zoë', m: '' })).toBe('Well done, Zoë. We look forward.');
  expect(left([field('m'), text('!')], goes, { m: '' })).toBeNull();
});

test('the line goes out, with its line break', () => {
  const address = [field('a'), stop, field('b'), stop, field('c')];
  const goes = { a: 'line', b: 'line', c: 'line' } as const;
  expect(left(address, goes, { a: '1 Weir Lane', b: '', c: 'Withycombe' })).toBe('1 Weir Lane\nWithycombe');
  expect(left(address, goes, { a: '', b: '', c: 'Withycombe' })).toBe('Withycombe');
  expect(left(address, goes, { a: '', b: '', c: '' })).toBeNull();
  // A line all of whose sentences are out is out too.
  expect(left([field('m'), text('.'), stop, text('End')], { m: 'sentence' }, {})).toBe('End');
});

// UAX 29: a full stop before a small letter or within a number ends no sentence; CJK and Hindi have signs of their own.
test.each([
  ['en', 'At 3.30 p.m. we met. Then we left.', ['At 3.30 p.m. we met. ', 'Then we left.']],
  ['ja', '来ました。ありがとう。', ['来ました。', 'ありがとう。']],
  ['hi', 'वह आया। धन्यवाद।', ['वह आया। ', 'धन्यवाद।']],
  ['ar', 'جاء؟ شكرا.', ['جاء؟ ', 'شكرا.']],
])('sentences in %s', (language, written, sentences) => {
  const [line] = linesOf([text(written), field('x')], rules({ x: 'sentence' }, language));
  const said = line!.stretches.map(({ inlines }) => linePlain(inlines, {}));
  expect(said.filter(Boolean)).toEqual(sentences);
});

const words = (value: string, part: string): Inline => ({
  type: 'text',
  text: value,
  marks: [{ type: 'part', attrs: { part } }],
});
const standing = (
  content: Inline[],
  stands: readonly string[],
  goes: Record<string, GoesOut> = {},
): string | null => {
  const kept = remaining(
    content,
    rules(goes),
    () => true,
    (part) => stands.includes(part),
  );
  return kept && linePlain(kept, {});
};

test.each([
  // The space behind them goes with them, where there is one before them.
  [[text('One. '), words('Two.', 'p'), text(' Three.')], [], 'One. Three.'],
  [[text('One. '), words('Two.', 'p'), text(' Three.')], ['p'], 'One. Two. Three.'],
  [[text('One.'), words(' Two.', 'p'), text(' Three.')], [], 'One. Three.'],
  [[text('One. '), words('Two. ', 'p'), text('Three.')], [], 'One. Three.'],
  [[text('One'), words(', two', 'p'), text(' three')], [], 'One three'],
  [[words('One.', 'p'), text(' Two.')], [], 'Two.'],
  [[text('A '), words('b', 'p'), text(' '), words('c', 'q'), text(' d')], [], 'A d'],
  [[text('A '), words('b', 'p'), text(' '), words('c', 'q'), text(' d')], ['q'], 'A c d'],
  [[text('A '), words('b', 'p'), text(' '), words('c', 'q'), text(' d')], ['p', 'q'], 'A b c d'],
  [[words('One', 'p'), stop, words('Two', 'q')], ['q'], 'Two'],
  [[words('One', 'p'), stop, words('Two', 'q')], [], null],
])('words of a part come and go, and leave one space (%#)', (content, stands, expected) =>
  expect(standing(content, stands)).toBe(expected),
);

test('words of a part go with their sentence too', () => {
  const content = [text('One. Mark '), field('m'), words(' of 20', 'p'), text('. Two.')];
  expect(standing(content, ['p'], { m: 'sentence' })).toBe('One. Two.');
  expect(partsUsed({ type: 'doc', content: [{ type: 'paragraph', content }] })).toEqual(['p']);
});

const inline = fc.oneof(
  fc.string({ minLength: 1, maxLength: 30 }).map(text),
  fc.constantFrom(
    text('One. Two! '),
    text(' Three? '),
    words('Four. ', 'p'),
    words('five', 'p'),
    field('a'),
    field('b'),
    field('c'),
    stop,
  ),
);
test('cut and put together again it is what it was, whatever was written', () => {
  fc.assert(
    fc.property(fc.array(inline, { maxLength: 12 }), (content) => {
      const values = { a: 'A', b: 'B', c: 'C' };
      const lines = linesOf(content, rules({ a: 'sentence', b: 'line' }));
      const said = lines.map(({ stretches }) =>
        stretches.map(({ inlines }) => linePlain(inlines, values)).join(''),
      );
      expect(said.join('\n')).toBe(linePlain(content, values));
      expect(left(content, { a: 'sentence', b: 'line' }, values)).toBe(linePlain(content, values));
    }),
  );
});

test('formatting stays at what is left', () => {
  const bold = { type: 'text' as const, text: 'One. Two ', marks: [{ type: 'bold' as const }] };
  expect(remaining([bold, field('a'), text('.')], rules({ a: 'sentence' }), () => true)).toEqual([
    { ...bold, text: 'One. ' },
  ]);
});

test('nothing empty is left: no paragraph, no item, no list', () => {
  const paragraph = (...content: Inline[]) => ({ type: 'paragraph' as const, content });
  const item = (...content: Inline[]) => ({ type: 'listItem' as const, content: [paragraph(...content)] });
  const doc = {
    type: 'doc' as const,
    content: [
      paragraph(text('Clubs')),
      { type: 'bulletList' as const, content: [item(field('a')), item(field('b'))] },
      { type: 'orderedList' as const, content: [item(field('b'), text('.'))] },
      paragraph(field('b')),
      { type: 'heading' as const, attrs: { level: 1 }, content: [field('b')] },
      paragraph(),
    ],
  };
  const blank = (id: string): boolean => id === 'b';
  const goes = rules({ a: 'line', b: 'line' });
  expect(textPlain(withoutBlank(doc, goes, blank), { a: 'Chess' })).toBe('Clubs\n\n- Chess');
  expect(withoutBlank(doc, goes, blank).content.map(({ type }) => type)).toEqual([
    'paragraph',
    'bulletList',
    'paragraph',
  ]);
  expect(withoutBlank(doc, goes, () => true).content).toHaveLength(2);
});

test('a part that does not stand goes out with all that is in it; a part that nobody knows stands', () => {
  const paragraph = (words: string, part?: string) => ({
    type: 'paragraph' as const,
    attrs: { part },
    content: [text(words)],
  });
  const doc = {
    type: 'doc' as const,
    content: [
      paragraph('One', 'a'),
      paragraph('Two'),
      {
        type: 'bulletList' as const,
        content: [{ type: 'listItem' as const, content: [paragraph('item', 'a')] }],
      },
      { type: 'orderedList' as const, attrs: { part: 'a' }, content: [] },
      { type: 'horizontalRule' as const, attrs: { part: 'a' } },
      paragraph('Three', 'b'),
    ],
  };
  const left = (stands: (id: string) => boolean): string =>
    textPlain(
      withoutBlank(doc, rules({}), () => false, stands),
      {},
    );
  expect(left((id) => id !== 'a')).toBe('Two\n\nThree');
  expect(left(() => true)).toBe('One\n\nTwo\n\n- item\n\n\n\n----\n\nThree');
  expect(partsUsed(doc)).toEqual(['a', 'b']);
});
