import type { Block } from '@scriptum/core/text';
import { readFileSync } from 'node:fs';
import { programValues, typeset } from '@scriptum/core/page';
import { emptyLetter, PAPER_FONTS, type Letter } from '@scriptum/core/template';
import { sha256 } from '@scriptum/server/store/blobs';
import { slimSvg } from '@scriptum/server/press/slim-svg';
import { Typesetter, type LoadedProgram } from '@scriptum/server/press/typesetter';
import { SaxesParser } from 'saxes';
import { pdfInfo, pdfText, qpdfCheck } from './testing/pdf.js';

let typesetter: Typesetter;
beforeAll(() => {
  typesetter = new Typesetter({ workers: 1, timeLimit: 10_000 });
});
afterAll(() => typesetter.close());

const letterOf = (content: Block[], more: Partial<Letter> = {}): Letter => ({
  ...emptyLetter('T'),
  fields: [{ id: 'f', name: 'F', columnId: 'c' }],
  body: { type: 'doc', content },
  ...more,
});
const text = (
  words: string,
  marks?: NonNullable<Extract<Block, { type: 'paragraph' }>['content']>[number]['marks'],
) => ({ type: 'text' as const, text: words, ...(marks ? { marks } : {}) });
const paragraph = (...content: NonNullable<Extract<Block, { type: 'paragraph' }>['content']>): Block => ({
  type: 'paragraph',
  content,
});

async function set(letter: Letter, value = '', pictures: LoadedProgram['pictures'] = []): Promise<Buffer> {
  const answer = await typesetter.paper(
    { ...typeset(letter), pictures },
    programValues(letter, { f: value }),
    new Date('2026-11-23T12:00:00Z'),
  );
  if (!answer.ok) throw new Error(answer.reason);
  return answer.bytes;
}

test('every kind of block and mark is set, and its text can be read back', async () => {
  const letter = letterOf([
    { type: 'heading', attrs: { level: 1, textAlign: 'center' }, content: [text('One')] },
    { type: 'heading', attrs: { level: 2 }, content: [text('Two')] },
    { type: 'heading', attrs: { level: 3 }, content: [] },
    {
      type: 'paragraph',
      attrs: { textAlign: 'justify' },
      content: [
        text('bold', [{ type: 'bold' }]),
        text(' slanted', [{ type: 'italic' }]),
        text(' lined', [{ type: 'underline' }]),
        text(' big', [{ type: 'textStyle', attrs: { color: '#A63D40', fontSize: '20pt' } }]),
      ],
    },
    paragraph(),
    {
      type: 'paragraph',
      attrs: { textAlign: 'right' },
      content: [text('before'), { type: 'hardBreak' }, text('after')],
    },
    { type: 'horizontalRule' },
    {
      type: 'bulletList',
      content: [
        {
          type: 'listItem',
          content: [
            paragraph(text('outer')),
            {
              type: 'orderedList',
              attrs: { start: 7 },
              content: [{ type: 'listItem', content: [paragraph(text('inner'))] }],
            },
          ],
        },
        { type: 'listItem', content: [] },
      ],
    },
    { type: 'orderedList', content: [] },
  ]);
  const bytes = await set(letter);
  qpdfCheck(bytes);
  const read = pdfText(bytes).replace(/\s+/g, ' ');
  for (const words of ['One', 'Two', 'bold slanted lined big', 'before after', 'outer', '7.', 'inner'])
    expect(read).toContain(words);
  expect(pdfInfo(bytes)).toMatchObject({ Title: 'T', Tagged: 'yes', Pages: '1' });
});

test('a value keeps its lines, and a field without one prints nothing', async () => {
  const letter = letterOf([paragraph(text('['), { type: 'field', attrs: { fieldId: 'f' } }, text(']'))]);
  expect(pdfText(await set(letter, 'first\nsecond'))).toContain('[first\nsecond]');
  expect(pdfText(await set(letter, ''))).toContain('[]');
});

test('the same letter, values and date give the same bytes', async () => {
  const letter = letterOf([paragraph({ type: 'field', attrs: { fieldId: 'f' } })]);
  const [one, two, other] = [await set(letter, 'Zoë'), await set(letter, 'Zoë'), await set(letter, 'Zoe')];
  expect(sha256(one)).toBe(sha256(two));
  expect(sha256(one)).not.toBe(sha256(other));
});

test.each(PAPER_FONTS)('%s ships and is embedded', async (family) => {
  const bytes = await set(letterOf([paragraph(text('Hamburgefonstiv'))], { font: { family, size: 11 } }));
  expect(bytes.toString('latin1')).toContain(family.replace(/\s/g, ''));
});

test('pictures are known by their bytes, whatever they are called', async () => {
  const png = Buffer.from(
    'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==',
    'base64',
  );
  const svg = readFileSync(new URL('../../demo/crest.svg', import.meta.url));
  const letter = letterOf(
    [png, svg].map(
      (_, n) =>
        ({
          type: 'picture',
          attrs: { asset: `${n}`, width: 400, align: 'center', alt: 'what it shows' },
        }) as const,
    ),
  );
  const bytes = await set(
    letter,
    '',
    [png, svg].map((bytes) => ({ hash: sha256(bytes), bytes })),
  );
  qpdfCheck(bytes);
  expect(pdfInfo(bytes)['Page size']).toContain('A4');
});

test('a damaged picture fails that paper with a sentence', async () => {
  const letter = letterOf([{ type: 'picture', attrs: { asset: 'x', width: 20, align: 'left', alt: '' } }]);
  const program = {
    ...typeset(letter),
    pictures: [{ hash: 'broken', bytes: Buffer.from('not a picture') }],
  };
  expect(await typesetter.paper(program, '{}', new Date())).toEqual({
    ok: false,
    reason: expect.stringMatching(/^The typesetter could not set this paper: .+\.$/),
  });
  expect(pdfText(await set(letterOf([paragraph(text('next'))])))).toContain('next');
});

test('a slimmer picture draws the same shapes', async () => {
  const svg =
    '<svg viewBox="0 0 1 1">\n  <g>\n    <use href="#a" x="1" y="0" fill="#000000" fill-rule="nonzero"/>\n <use href="#a" x="1" y="0" fill="#aa0000" fill-rule="nonzero"/>  </g>\n</svg>';
  expect(slimSvg(svg)).toBe(
    '<svg viewBox="0 0 1 1"><g><use href="#a" x="1"/><use href="#a" x="1" fill="#aa0000"/></g></svg>',
  );
});

test('a proof has a picture for each page, of its own size, with the letters that stand on it', async () => {
  const letter = letterOf(Array.from({ length: 60 }, (_, n) => paragraph(text(`Line ${n} q`))));
  const lying = { ...letter, page: { ...letter.page, width: 297, height: 210 } };
  const set = await typesetter.proof({ ...typeset(lying), pictures: [] }, programValues(lying, {}));
  if (!set.ok) throw new Error(set.reason);
  expect(set.pages.length).toBeGreaterThan(2);
  for (const { svg, width, height } of set.pages) {
    // 297 by 210 mm in points of 1/72 inch.
    expect([width, height].map(Math.round)).toEqual([842, 595]);
    // Each is well-formed and says where it begins; no letter is missing, none is there for nothing.
    const parser = new SaxesParser();
    const known = new Set<string>();
    const used = new Set<string>();
    parser.on('opentag', ({ name, attributes }) => {
      if (name === 'symbol') known.add(attributes['id']!);
      if (name === 'use') used.add(attributes['xlink:href']!.slice(1));
    });
    parser.on('error', (error) => {
      throw error;
    });
    parser.write(svg).close();
    expect(used.size).toBeGreaterThan(5);
    expect([...known].sort()).toEqual([...used].sort());
  }
  // What stands on a page begins at its top, not below the pages before it.
  expect(set.pages[1]!.svg).not.toMatch(/<g transform="matrix\(1 0 0 1 0 5\d\d/);
});
