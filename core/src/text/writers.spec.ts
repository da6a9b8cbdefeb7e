import type { Block, FlowText, Inline, TextMark } from './index.js';
import {
  assetAt,
  assetsShown,
  contentIdOf,
  blocksOf,
  fieldPlaces,
  fieldsUsed,
  FlowText as FlowTextSchema,
  inlinesOf,
  isBlank,
  linePlain,
  partsUsed,
  picturesOf,
  textHtml,
  textPlain,
  TypeSize,
  TypstWriter,
  type BlankRules,
} from './index.js';

const text = (said: string, ...marks: TextMark[]): Inline => ({
  type: 'text',
  text: said,
  ...(marks.length > 0 ? { marks } : {}),
});
const field = (fieldId: string, ...marks: TextMark[]): Inline => ({
  type: 'field',
  attrs: { fieldId },
  ...(marks.length > 0 ? { marks } : {}),
});
const lineBreak: Inline = { type: 'hardBreak' };
const paragraph = (...content: Inline[]): Block => ({ type: 'paragraph', content });
const heading = (level: number, ...content: Inline[]): Block => ({
  type: 'heading',
  attrs: { level },
  content,
});
const picture = (asset: string, part?: string): Block => ({
  type: 'picture',
  attrs: { asset, width: 20, align: 'left', alt: 'Crest', ...(part ? { part } : {}) },
});
const rule: Block = { type: 'horizontalRule' };
const list = (type: 'bulletList' | 'orderedList', start: number | null, ...items: Block[][]): Block => ({
  type,
  ...(start === null ? {} : { attrs: { start } }),
  content: items.map((content) => ({ type: 'listItem', content })),
});
const fieldBlock = (fieldId: string): Block => ({ type: 'fieldBlock', attrs: { fieldId } });
const doc = (...content: Block[]): FlowText => ({ type: 'doc', content });

describe('Typst', () => {
  const NEVER: BlankRules = { language: 'en', goesOut: () => null };
  const writer = (rules: BlankRules = NEVER): TypstWriter =>
    new TypstWriter(
      (id) =>
        id === 'no'
          ? { unmatched: 'Shoe' }
          : id === 'table'
            ? { key: 'f9', block: (fixed) => `table(${fixed('Head')})` }
            : { key: id },
      rules,
      (part) => (part === 'known' ? 'p0' : null),
    );
  const code = (blocks: Block[], rules?: BlankRules): string => writer(rules).flow(doc(...blocks));
  const aligned = (textAlign: 'left' | 'center' | 'right' | 'justify'): string =>
    code([{ type: 'paragraph', attrs: { textAlign }, content: [text('x')] }]);

  test.each<[string, Block, string]>([
    [
      'a paragraph',
      paragraph(text('a'), field('f'), lineBreak, field('no')),
      'par({ t(0); f("f"); linebreak(); unmatched(1) })',
    ],
    ['a blank paragraph', paragraph(), 'blank'],
    ['a paragraph without content', { type: 'paragraph' }, 'blank'],
    ['a heading', heading(2, text('a')), 'headed(2, 1, { t(0) })'],
    ['a heading of spaces', heading(1, text(' ')), 'blank'],
    [
      'a heading of a field',
      heading(1, field('f'), text(' '), field('g')),
      'if gone("f") and gone("g") { blank } else { headed(1, 1, { f("f"); t(0); f("g") }) }',
    ],
    ['a heading of what nothing fills', heading(1, field('no')), 'headed(1, 1, { unmatched(0) })'],
    [
      'a line across',
      rule,
      'block(above: 1.3em, below: 1.3em, line(length: 100%, stroke: 0.6pt + rgb("#55636E")))',
    ],
    ['a picture', picture('a'), 'picture(0, 20mm, left, 0)'],
    [
      'a list with a blank item',
      list('bulletList', null, [paragraph(text('a'))], []),
      'there(items => list(..items), filled(({ t(0) }, [],)))',
    ],
    ['a numbered list', list('orderedList', null, [paragraph(text('a'))]), 'enum({ t(0) })'],
    ['a numbered list from 3', list('orderedList', 3, [paragraph(text('a'))]), 'enum(start: 3, { t(0) })'],
    ['a number on a list of dots', list('bulletList', 3, [paragraph(text('a'))]), 'list({ t(0) })'],
    [
      'an item of two paragraphs',
      list('bulletList', null, [paragraph(text('a')), paragraph(text('b'))]),
      'list({\n{ t(0) }\npar({ t(1) })\n})',
    ],
    [
      'an item that begins with a picture',
      list('bulletList', null, [picture('a')]),
      'list(picture(0, 20mm, left, 0))',
    ],
    ['a table', fieldBlock('table'), 'if not gone("f9") { table(0) }'],
    ['a block of a field that is only text', fieldBlock('f'), 'if not gone("f") { par(f("f")) }'],
    ['a block of what nothing fills', fieldBlock('no'), 'par(unmatched(0))'],
    [
      'a part',
      { ...paragraph(text('a')), attrs: { part: 'known' } } as Block,
      'if stands("p0") { par({ t(0) }) }',
    ],
    [
      'a part that is not known',
      { ...paragraph(text('a')), attrs: { part: 'other' } } as Block,
      'par({ t(0) })',
    ],
    [
      'an item that is a part',
      list('bulletList', null, [{ ...paragraph(text('a')), attrs: { part: 'known' } } as Block]),
      'there(items => list(..items), filled((if stands("p0") { par({ t(0) }) },)))',
    ],
    [
      'a numbered list of a table',
      list('orderedList', 2, [fieldBlock('table')]),
      'there(items => enum(start: 2, ..items), filled((if not gone("f9") { table(0) },)))',
    ],
    [
      'a list in a list that may vanish',
      list('bulletList', null, [list('bulletList', null, [fieldBlock('f')])]),
      'there(items => list(..items), filled((there(items => list(..items), filled((if not gone("f") { par(f("f")) },))),)))',
    ],
  ])('%s', (_, block, expected) => expect(code([block])).toBe(expected));

  test('kinds of paragraphs, and pages that begin', () => {
    const styled = { type: 'paragraph', attrs: { style: 'small' }, content: [text('a')] } as Block;
    expect(code([styled])).toBe('styled("small", par({ t(0) }))');
    expect(code([{ ...styled, attrs: { style: 'title', textAlign: 'center' } } as Block])).toBe(
      'align(center, styled("title", par({ t(0) })))',
    );
    const page: Block = { type: 'pageBreak' };
    expect(writer().flow(doc(page, styled), true)).toBe(
      'mark(0)\npagebreak(weak: true)\nmark(1)\nstyled("small", par({ t(0) }))',
    );
    // No page is broken in a box or in a list.
    expect(code([page])).toBe('[]');
    expect(writer().flow(doc(list('bulletList', null, [page])), true)).toBe('mark(0)\nlist([])');
    expect(writer().lineOf([text('a'), field('f')])).toBe('{ t(0); f("f") }');
  });

  test('alignment', () => {
    expect(aligned('left')).toBe('par({ t(0) })');
    expect(aligned('center')).toBe('align(center, par({ t(0) }))');
    expect(aligned('right')).toBe('align(right, par({ t(0) }))');
    expect(aligned('justify')).toBe('{ set par(justify: true)\npar({ t(0) }) }');
  });
  test.each<[TextMark[], string]>([
    [[{ type: 'bold' }], 'text(weight: "bold", t(0))'],
    [[{ type: 'italic' }], 'text(style: "italic", t(0))'],
    [[{ type: 'underline' }], 'underline(t(0))'],
    [[{ type: 'textStyle', attrs: { color: '#A63D40' } }], 'text(fill: rgb("#A63D40"), t(0))'],
    [[{ type: 'textStyle', attrs: { fontSize: '10.5pt' } }], 'text(size: 10.5pt, t(0))'],
    [[{ type: 'textStyle', attrs: {} }], 't(0)'],
    [
      [{ type: 'bold' }, { type: 'underline' }, { type: 'italic' }],
      'text(weight: "bold", style: "italic", underline(t(0)))',
    ],
  ])('marks %j', (marks, expected) =>
    expect(code([paragraph(text('a', ...marks))])).toBe(`par({ ${expected} })`),
  );
  test('texts and pictures are numbered, each picture once', () => {
    const one = writer();
    one.flow(doc(paragraph(text('a')), picture('x'), picture('y'), picture('x'), paragraph(text('\ud800'))));
    expect(one.texts).toEqual(['a', 'Crest', 'Crest', 'Crest', '\ufffd']);
    expect(one.assets).toEqual(['x', 'y']);
  });
  test('what goes out with a blank field', () => {
    const rules: BlankRules = {
      language: 'en',
      goesOut: (id) => (id === 's' ? 'sentence' : id === 'l' ? 'line' : null),
    };
    expect(code([paragraph(text('One. '), text('Two '), field('s'), text('. Three.'))], rules)).toBe(
      'there(it => par(it), lines(stretches({ t(0) }, if gone("s") { none } else { t(1); f("s"); t(2) }, { t(3) })))',
    );
    expect(code([paragraph(text('a'), lineBreak, field('l'), text('b'))], rules)).toBe(
      'there(it => par(it), lines(stretches({ t(0) }), if gone("l") { none } else { stretches({ f("l"); t(1) }) }))',
    );
    expect(code([list('bulletList', null, [paragraph(field('l'))], [paragraph(text('b'))])], rules)).toBe(
      'there(items => list(..items), filled((lines(if gone("l") { none } else { stretches({ f("l") }) }), { t(0) },)))',
    );
    expect(code([heading(1, text('a '), field('l')), heading(2, text('b'))], rules)).toBe(
      'there(it => headed(1, 1, it), lines(if gone("l") { none } else { stretches({ t(0); f("l") }) }))\nheaded(2, 1, { t(1) })',
    );
    // What nothing fills is never blank.
    expect(code([paragraph(field('no'))], { language: 'en', goesOut: () => 'line' })).toBe(
      'there(it => par(it), lines(stretches({ unmatched(0) })))',
    );
  });
});

// RFC 2392: `cid:` and the content id of another part.
test('pictures are known by their addresses, and by no others', () => {
  const html =
    '<img src="cid:picture-a@scriptum"><img src="cid:picture-b-2@scriptum"><img src="cid:picture-a@scriptum">';
  expect(assetsShown(`${html}<img src="https://x.example/picture-c@scriptum">`)).toEqual(['a', 'b-2']);
  expect(assetAt(`cid:${contentIdOf('q7')}`)).toBe('q7');
  for (const other of [
    'cid:picture-@scriptum',
    'cid:a@scriptum',
    'picture-a@scriptum',
    'cid:picture-a@scriptum.example',
  ])
    expect(assetAt(other)).toBeNull();
});

describe('HTML', () => {
  const html = (...content: Block[]): string => textHtml(doc(...content), { f: 'a<b>\n"c"', t: 'x' });
  test.each<[string, Block, string]>([
    [
      'a paragraph',
      paragraph(text('a & b'), lineBreak, field('f')),
      '<p style="margin:0 0 1em">a &#38; b<br>a&#60;b&#62;<br>&#34;c&#34;</p>',
    ],
    ['a blank paragraph', { type: 'paragraph' }, '<p style="margin:0 0 1em">&nbsp;</p>'],
    [
      'a paragraph at the right',
      { type: 'paragraph', attrs: { textAlign: 'right' }, content: [text('a')] },
      '<p style="margin:0 0 1em;text-align:right">a</p>',
    ],
    [
      'a paragraph at the left',
      { type: 'paragraph', attrs: { textAlign: 'left' }, content: [text('a')] },
      '<p style="margin:0 0 1em">a</p>',
    ],
    [
      'a heading',
      { type: 'heading', attrs: { level: 3, textAlign: 'center' }, content: [text('a')] },
      '<h3 style="margin:0 0 .6em;text-align:center">a</h3>',
    ],
    ['a line across', rule, '<hr>'],
    // RFC 2392: a part of the message, named by its content id. Mail programs show 96 dots to an inch.
    [
      'a picture',
      picture('a'),
      '<p style="margin:0 0 1em"><img src="cid:picture-a@scriptum" alt="Crest" width="76" style="width:76px;max-width:100%;height:auto"></p>',
    ],
    ['a page', { type: 'pageBreak' }, ''],
    [
      'a quotation',
      { type: 'paragraph', attrs: { style: 'quotation' }, content: [text('a')] },
      '<p style="margin:0 0 1em;padding-left:1.2em;font-style:italic">a</p>',
    ],
    [
      'a title',
      { type: 'paragraph', attrs: { style: 'title' }, content: [text('a')] },
      '<p style="margin:0 0 1em;font-size:1.6em;font-weight:bold">a</p>',
    ],
    [
      'small print',
      { type: 'paragraph', attrs: { style: 'small' }, content: [text('a')] },
      '<p style="margin:0 0 1em;font-size:.85em;color:#55636E">a</p>',
    ],
    [
      'a signature',
      { type: 'paragraph', attrs: { style: 'signature' }, content: [text('a')] },
      '<p style="margin:0 0 1em;font-size:1.3em;font-style:italic">a</p>',
    ],
    ['a table', fieldBlock('f'), '<p style="margin:0 0 1em">a&#60;b&#62;<br>&#34;c&#34;</p>'],
    ['a table of nothing', fieldBlock('g'), ''],
    [
      'a list',
      list('bulletList', null, [paragraph(text('a'))]),
      '<ul><li><p style="margin:0 0 1em">a</p></li></ul>',
    ],
    [
      'a list of numbers',
      list('orderedList', 4, [paragraph(text('a'))], [rule]),
      '<ol start="4"><li><p style="margin:0 0 1em">a</p></li><li><hr></li></ol>',
    ],
    ['a list of dots has no start', list('bulletList', 4, [rule]), '<ul><li><hr></li></ul>'],
    ['a field that is not known', paragraph(field('g'), text('.')), '<p style="margin:0 0 1em">.</p>'],
  ])('%s', (_, block, expected) => expect(html(block)).toBe(expected));
  test.each<[TextMark[], string]>([
    [[{ type: 'bold' }], '<strong>a</strong>'],
    [[{ type: 'italic' }], '<em>a</em>'],
    [[{ type: 'underline' }], '<u>a</u>'],
    [
      [{ type: 'textStyle', attrs: { color: '#A63D40', fontSize: '9pt' } }],
      '<span style="color:#A63D40;font-size:9pt">a</span>',
    ],
    [[{ type: 'textStyle', attrs: {} }], 'a'],
    [
      [{ type: 'bold' }, { type: 'textStyle', attrs: { fontSize: '9pt' } }],
      '<span style="font-size:9pt"><strong>a</strong></span>',
    ],
  ])('marks %j', (marks, expected) =>
    expect(html(paragraph(text('a', ...marks)))).toBe(`<p style="margin:0 0 1em">${expected}</p>`),
  );
  test('blocks stand on lines of their own', () => expect(html(rule, rule)).toBe('<hr>\n<hr>'));
});

describe('plain text', () => {
  const plain = (...content: Block[]): string => textPlain(doc(...content), { f: 'Zoë', t: 'a\nb' });
  test('blank lines stand between blocks, and none at the ends', () => {
    expect(
      plain(
        paragraph(),
        paragraph(text('a'), lineBreak, field('f')),
        heading(1, text('b')),
        picture('x'),
        rule,
        fieldBlock('t'),
        fieldBlock('g'),
        paragraph(),
      ),
    ).toBe('a\nZoë\n\nb\n\n----\n\na\nb');
  });
  test('lists are indented below their signs', () => {
    const inner = list('bulletList', null, [paragraph(text('c'))]);
    expect(
      plain(list('orderedList', 9, [paragraph(text('a'))], [paragraph(text('b')), inner, picture('x')])),
    ).toBe('9. a\n10. b\n    - c');
    expect(plain(list('orderedList', null, [paragraph(text('a'))]))).toBe('1. a');
    expect(plain(list('bulletList', null, [paragraph(text('a'), lineBreak, text('b'))]))).toBe('- a\n  b');
  });
  test('a line alone', () =>
    expect(linePlain([text('a'), field('f'), field('g'), lineBreak], { f: 'b' })).toBe('ab\n'));
});

describe('a walk', () => {
  const all = doc(
    heading(1, field('a')),
    { ...paragraph(field('b'), text('x')), attrs: { part: 'p' } } as Block,
    list('orderedList', null, [
      paragraph(field('a')),
      list('bulletList', null, [picture('x', 'q'), paragraph(field('c'))]),
    ]),
    fieldBlock('d'),
    picture('x', 'p'),
    picture('y'),
  );
  test('finds blocks, inlines, fields, parts and pictures in reading order', () => {
    expect([...blocksOf(all)].map(({ type }) => type)).toEqual([
      'heading',
      'paragraph',
      'orderedList',
      'paragraph',
      'bulletList',
      'picture',
      'paragraph',
      'fieldBlock',
      'picture',
      'picture',
    ]);
    expect(
      [...inlinesOf(all)].map((inline) => (inline.type === 'field' ? inline.attrs.fieldId : inline.type)),
    ).toEqual(['a', 'b', 'text', 'a', 'c']);
    expect(fieldsUsed(all)).toEqual(['a', 'b', 'c', 'd']);
    expect(fieldsUsed([field('z'), text('x'), field('z')])).toEqual(['z']);
    expect([...fieldPlaces(all, [field('a')])]).toEqual([
      ['a', 3],
      ['b', 1],
      ['c', 1],
      ['d', 1],
    ]);
    expect(partsUsed(all)).toEqual(['p', 'q']);
    expect(picturesOf(all).map(({ attrs }) => [attrs.asset, attrs.part ?? null])).toEqual([
      ['x', 'q'],
      ['y', null],
    ]);
  });
  test.each<[Block[], boolean]>([
    [[], true],
    [[paragraph(), heading(1, text('  ')), paragraph(lineBreak)], true],
    [[paragraph(text('a'))], false],
    [[list('bulletList', null, [paragraph(field('f'))])], false],
    [[rule], false],
    [[picture('a')], false],
    [[fieldBlock('a')], false],
  ])('is blank: %#', (content, blank) => expect(isBlank(doc(...content))).toBe(blank));
});

describe('what a text may be', () => {
  const valid = (...content: unknown[]): boolean =>
    FlowTextSchema.safeParse({ type: 'doc', content }).success;
  const nested = (deep: number): Block =>
    deep === 0 ? paragraph(text('a')) : list('bulletList', null, [nested(deep - 1)]);
  test('lists stand in lists up to twelve deep', () => {
    expect([valid(nested(12)), valid(nested(13))]).toEqual([true, false]);
    expect(valid(list('orderedList', null, [nested(11)], [nested(12)]))).toBe(false);
  });
  test('sizes of type are 5 to 96 points', () => {
    const sizes = ['5pt', '96pt', '10.5pt', '4.9pt', '96.1pt', '12px', '12', '10.55pt'];
    expect(sizes.map((size) => TypeSize.safeParse(size).success)).toEqual([
      true,
      true,
      true,
      false,
      false,
      false,
      false,
      false,
    ]);
  });
  test('pictures are 2 to 400 mm wide, headings of three levels, numbers up to 100,000', () => {
    const of = (attrs: object): unknown => ({ type: 'picture', attrs: { asset: 'a', width: 20, ...attrs } });
    expect([2, 400, 1.9, 400.1].map((width) => valid(of({ width })))).toEqual([true, true, false, false]);
    expect(valid(of({ asset: '' }))).toBe(false);
    expect([0, 1, 3, 4, 1.5].map((level) => valid(heading(level, text('a'))))).toEqual([
      false,
      true,
      true,
      false,
      false,
    ]);
    expect([-1, 0, 100_000, 100_001].map((start) => valid(list('orderedList', start)))).toEqual([
      false,
      true,
      true,
      false,
    ]);
    expect(valid({ type: 'paragraph', content: [{ type: 'text', text: '' }] })).toBe(false);
    expect(
      valid({ type: 'paragraph', content: [text('a', { type: 'textStyle', attrs: { color: 'red' } })] }),
    ).toBe(false);
  });
});
