import type { BlankRules, Block, FlowText, FreeTable, Inline } from './index.js';
import {
  blocksOf,
  fieldsUsed,
  FlowText as FlowTextSchema,
  isBlank,
  LinkAddress,
  partsUsed,
  picturesOf,
  textHtml,
  textPlain,
  TypstWriter,
  withoutBlank,
  withPictures,
  wordsOfLine,
} from './index.js';

const NEVER: BlankRules = { language: 'en', goesOut: () => null };
const text = (said: string, href?: string): Inline => ({
  type: 'text',
  text: said,
  ...(href ? { marks: [{ type: 'link', attrs: { href } }] } : {}),
});
const note = (said: string): Inline => ({ type: 'footnote', attrs: { text: said } });
const field = (fieldId: string): Inline => ({ type: 'field', attrs: { fieldId } });
const paragraph = (...content: Inline[]): Block => ({ type: 'paragraph', content });
const frame = (attrs: Extract<Block, { type: 'frame' }>['attrs'], ...content: Block[]): Block => ({
  type: 'frame',
  attrs,
  content,
});
type Cell = FreeTable['content'][number]['content'][number];
const cell = (said: string, attrs?: Cell['attrs'], type: Cell['type'] = 'tableCell'): Cell => ({
  type,
  ...(attrs ? { attrs } : {}),
  content: [paragraph(text(said))],
});
const row = (cells: Cell[], part?: string): FreeTable['content'][number] => ({
  type: 'tableRow',
  ...(part ? { attrs: { part } } : {}),
  content: cells,
});
const table = (attrs: FreeTable['attrs'], ...content: FreeTable['content']): Block => ({
  type: 'table',
  ...(attrs ? { attrs } : {}),
  content,
});
const doc = (...content: Block[]): FlowText => ({ type: 'doc', content });
const heads = row([cell('When', undefined, 'tableHeader'), cell('What', undefined, 'tableHeader')]);
const TIMES = table({ lines: 'all' }, heads, row([cell('9:00'), cell('Start')]));

const writer = (rules = NEVER): TypstWriter =>
  new TypstWriter(
    (key) => ({ key }),
    rules,
    (part) => (part === 'known' ? 'p0' : null),
  );
const code = (block: Block, rules = NEVER): string =>
  writer(rules).flow(doc(block), true).replace('mark(0)\n', '');

test('a link leads to the web or a mailbox, and to nothing else', () => {
  for (const href of ['https://a.example/x?y=1#z', 'http://a.example', 'MAILTO:a@b.example'])
    expect(LinkAddress.safeParse(href).success).toBe(true);
  for (const href of [
    'javascript:alert(1)',
    'data:text/html,x',
    'a.example',
    'https://',
    'https://a b',
    'file:///x',
  ])
    expect(LinkAddress.safeParse(href).success).toBe(false);
});

test.each<[string, Block, string]>([
  ['a link', paragraph(text('here', 'https://a.example')), 'par({ link(texts.at(1), t(0)) })'],
  ['a footnote', paragraph(text('a'), note('n')), 'par({ t(0); footnote(t(1)) })'],
  ['a footnote that says nothing', paragraph(text('a'), note('')), 'par({ t(0); [] })'],
  [
    'a frame',
    frame({ ground: '#EDF1EF', line: true, whole: true }, paragraph(text('a'))),
    'frame({\npar({ t(0) })\n}, fill: rgb("#EDF1EF"), stroke: 0.6pt + slate, inset: 4mm, radius: 1mm, breakable: false)',
  ],
  [
    'a frame that only may be broken',
    frame({ whole: false }, paragraph(text('a'))),
    'frame({\npar({ t(0) })\n}, breakable: true)',
  ],
  [
    'a frame whose only block comes and goes',
    frame({ whole: true }, { ...paragraph(text('a')), attrs: { part: 'known' } } as Block),
    'there(it => frame(it, breakable: false), {\nif stands("p0") { par({ t(0) }) }\n})',
  ],
  [
    'a table with a head',
    TIMES,
    'free-table(table, "all", (1fr, 1fr, ), table.header(..(table.cell(strong([] + {\npar({ t(0) })\n})), table.cell(strong([] + {\npar({ t(1) })\n})),)), ..(table.cell([] + {\npar({ t(2) })\n}), table.cell([] + {\npar({ t(3) })\n}),))',
  ],
  [
    'what only stands side by side, a row of it for some',
    table({ lines: 'none' }, row([cell('a', { colwidth: [100] }), cell('b', { colwidth: [300] })], 'known')),
    'free-table(grid, "none", (0.5fr, 1.5fr, ), ..if stands("p0") { (grid.cell([] + {\npar({ t(0) })\n}), grid.cell([] + {\npar({ t(1) })\n}),) } else { () })',
  ],
  [
    'cells over several columns, and a row that is short',
    table(undefined, row([cell('a', { colspan: 2 })]), row([cell('b')])),
    'free-table(table, "rows", (1fr, 1fr, ), ..(table.cell(colspan: 2, [] + {\npar({ t(0) })\n}),), ..(table.cell([] + {\npar({ t(1) })\n}), [],))',
  ],
  [
    'no page begins inside a frame',
    frame({ whole: false }, paragraph(text('a')), { type: 'pageBreak' }),
    'frame({\npar({ t(0) })\n[]\n}, breakable: true)',
  ],
])('%s', (_, block, expected) => {
  expect(code(block)).toBe(expected);
});

test('what stands in frames and cells is found as everything else', () => {
  const all = doc(
    frame({}, paragraph(field('in frame'), note('Said below')), {
      type: 'picture',
      attrs: { asset: 'p', width: 20, align: 'left', alt: '' },
    }),
    table(undefined, row([{ type: 'tableCell', content: [paragraph(field('in cell'))] }], 'rows')),
  );
  expect(fieldsUsed(all)).toEqual(['in frame', 'in cell']);
  expect(partsUsed(all)).toEqual(['rows']);
  expect(picturesOf(all).map(({ attrs }) => attrs.asset)).toEqual(['p']);
  expect(picturesOf(withPictures(all, () => 'q')).map(({ attrs }) => attrs.asset)).toEqual(['q']);
  expect([...blocksOf(all)].map(({ type }) => type)).toEqual([
    'frame',
    'paragraph',
    'picture',
    'table',
    'paragraph',
  ]);
  expect(isBlank(doc(frame({}, paragraph())))).toBe(true);
  expect(isBlank(doc(frame({}, paragraph(note('x')))))).toBe(false);
  expect(isBlank(doc(TIMES))).toBe(false);
  expect(wordsOfLine([text('a'), field('f'), note('b')])).toBe('ab');
});

test('nothing empty is left of a frame, a row, or a sentence with a note', () => {
  const rules: BlankRules = { language: 'en', goesOut: (id) => (id === 's' ? 'sentence' : null) };
  const left = (block: Block, stands = false) =>
    withoutBlank(
      doc(block),
      rules,
      () => true,
      () => stands,
    ).content;
  expect(left(frame({}, { ...paragraph(text('a')), attrs: { part: 'p' } } as Block))).toEqual([]);
  expect(left(frame({}, paragraph(text('a'))))).toHaveLength(1);
  const rows = table(undefined, row([cell('a')], 'p'));
  expect(left(rows)).toEqual([]);
  expect(left(rows, true)).toEqual([rows]);
  // The note belongs to the sentence that it stands behind, and goes with it.
  const [kept] = left(
    paragraph(text('We met '), field('s'), text('.'), note('On Monday'), text(' Good bye.')),
  );
  expect(kept).toEqual(paragraph(text('Good bye.')));
});

test('in mail: tables and frames, and links that tell their address', () => {
  const all = doc(
    TIMES,
    frame({ ground: '#EDF1EF' }, paragraph(text('Look <here>', 'https://a.example/?x=1&y=2'), note('n'))),
  );
  const html = textHtml(all, {});
  expect(html).toContain('<th style=');
  expect(html).toContain('background:#EDF1EF');
  expect(html).toContain('<a href="https://a.example/?x=1&#38;y=2">Look &#60;here&#62;</a> (n)');
  expect(textPlain(all, {})).toBe('When\tWhat\n9:00\tStart\n\nLook <here> <https://a.example/?x=1&y=2> (n)');
  expect(textPlain(doc(paragraph(text('a.example', 'https://a.example'))), {})).toBe('a.example');
});

test('a table stands in no other, and nothing stands too deep', () => {
  const inside = (block: Block): Block => table(undefined, row([{ type: 'tableCell', content: [block] }]));
  expect(FlowTextSchema.safeParse(doc(TIMES)).success).toBe(true);
  expect(FlowTextSchema.safeParse(doc(inside(frame({}, TIMES)))).success).toBe(false);
  const deep = (levels: number): Block => (levels === 0 ? paragraph(text('a')) : frame({}, deep(levels - 1)));
  expect(FlowTextSchema.safeParse(doc(deep(12))).success).toBe(true);
  expect(FlowTextSchema.safeParse(doc(deep(13))).success).toBe(false);
  expect(FlowTextSchema.safeParse(doc(table(undefined))).success).toBe(false);
});
