import { programValues, typeset } from '@scriptum/core/page';
import { emptyPlaced, type Placed, type TextBox } from '@scriptum/core/template';
import { Typesetter, type SetPaper } from '@scriptum/server/press/typesetter';
import { qpdfCheck } from './testing/pdf.js';
import { readPdf, textRuns } from './testing/pdf-reader.js';

let typesetter: Typesetter;
beforeAll(() => {
  typesetter = new Typesetter({ workers: 1, timeLimit: 20_000 });
});
afterAll(() => typesetter.close());

type Body = TextBox['body'];
const MM = 72 / 25.4;
const paragraph = (...content: object[]) => ({ type: 'paragraph', content });
const plain = (text: string) => ({ type: 'text', text });
const bold = (text: string) => ({ type: 'text', text, marks: [{ type: 'bold' }] });
const bodyOf = (...content: object[]): Body => ({ type: 'doc', content }) as Body;
const words = (from: number, count: number): string =>
  Array.from({ length: count }, (_, n) => `w${from + n}`).join(' ');

const box = (id: string, page: number, height: number, more: Partial<TextBox> = {}): TextBox => ({
  kind: 'text',
  id,
  page,
  x: 20,
  y: 20,
  width: 100,
  height,
  body: bodyOf(),
  type: { size: 12 },
  ...more,
});
const on = (to: string): Pick<TextBox, 'long'> => ({ long: { do: 'on', to } });

async function set(
  boxes: TextBox[],
  values: Record<string, string | boolean> = {},
  more: Partial<Placed> = {},
): Promise<Extract<SetPaper, { ok: true }>> {
  const pages = Math.max(...boxes.map(({ page }) => page)) + 1;
  const template: Placed = {
    ...emptyPlaced('Report'),
    pages: Array.from({ length: pages }, () => ({})),
    boxes,
    ...more,
  };
  const program = { ...typeset(template), pictures: [] };
  const paper = await typesetter.paper(program, programValues(template, values as never), new Date(0));
  if (!paper.ok) throw new Error(paper.reason);
  return paper;
}
const statesOf = ({ fits }: { fits: readonly { box: number; state: string }[] }): string[] =>
  [...fits].sort((a, b) => a.box - b.box).map(({ state }) => state);
/** The words of each page, as pdf.js reads them. */
const wordsOf = async ({ bytes, pages }: { bytes: Uint8Array; pages: number }): Promise<string[][]> =>
  Promise.all(
    Array.from({ length: pages }, async (_, n) =>
      (await textRuns(bytes, n + 1)).flatMap(({ text }) => text.split(/\s+/).filter(Boolean)),
    ),
  );

test('a text goes on in the next box, with each word once and none over an edge', async () => {
  const body = bodyOf(
    paragraph(plain(words(0, 40)), bold(` ${words(40, 30)} `), plain(words(70, 10))),
    paragraph(plain(words(80, 60))),
    { type: 'bulletList', content: [{ type: 'listItem', content: [paragraph(plain(words(140, 20)))] }] },
    paragraph(plain(words(160, 40))),
  );
  const paper = await set([
    box('a', 0, 22, { body, ...on('b') }),
    box('b', 1, 31, { width: 60, ...on('c') }),
    box('c', 2, 150, { align: 'justify', body: bodyOf(paragraph(plain('own'))) }),
  ]);
  expect(statesOf(paper)).toEqual(['goes-on', 'goes-on', 'fits']);
  const pages = await wordsOf(paper);
  expect(pages.every((page) => page.length > 5)).toBe(true);
  expect(pages.flat().filter((word) => word !== '•')).toEqual([
    ...Array.from({ length: 200 }, (_, n) => `w${n}`),
    'own',
  ]);
  for (const { box: n, used } of paper.fits) expect(used).toBeLessThanOrEqual([22, 31, 150][n]! + 0.01);
  // A line more would not have fitted: each box is full but for less than one.
  for (const [n, height] of [22, 31].entries())
    expect(height - paper.fits.find(({ box: at }) => at === n)!.used).toBeLessThan(2 * 12 * (1 / MM) * 1.3);
  expect(qpdfCheck(paper.bytes)).toContain('No syntax');
  expect((await readPdf(paper.bytes)).metadata).toContain('<pdfuaid:part>1</pdfuaid:part>');
});

test('a short text leaves the next box to what it says itself', async () => {
  const short = await set([
    box('a', 0, 22, { body: bodyOf(paragraph(plain('short'))), ...on('b') }),
    box('b', 1, 20),
  ]);
  expect(statesOf(short)).toEqual(['fits', 'blank']);
  const own = await set([
    box('a', 0, 22, { body: bodyOf(paragraph(plain('short'))), ...on('b') }),
    box('b', 1, 20, { body: bodyOf(paragraph(plain('own'))) }),
  ]);
  expect(await wordsOf(own)).toEqual([['short'], ['own']]);
});

test('what is too much for all of them is told of the last one that there is', async () => {
  const body = bodyOf(paragraph(plain(words(0, 120))));
  const three = [
    box('a', 0, 12, { body, ...on('b') }),
    box('b', 1, 12, on('c')),
    box('c', 2, 12, { part: 'p' }),
  ];
  const parts = { parts: [{ id: 'p', when: { kind: 'all', of: [] } }] } as never;
  const all = await set(three, {}, parts);
  expect(statesOf(all)).toEqual(['goes-on', 'goes-on', 'long']);
  expect((await wordsOf(all)).flat()).toHaveLength(120);
  // The last one does not stand in this paper: nothing of the text is lost for that.
  const two = await set(three, { p: '' }, parts);
  expect(statesOf(two)).toEqual(['goes-on', 'long']);
  expect((await wordsOf(two)).flat()).toHaveLength(120);
});

test('letters without spaces between them are cut too, and a word is not', async () => {
  const chinese = '学生在本学期表现优异'.repeat(12);
  const paper = await set([
    box('a', 0, 14, { body: bodyOf(paragraph(plain(chinese))), ...on('b') }),
    box('b', 1, 60),
  ]);
  expect(statesOf(paper)).toEqual(['goes-on', 'fits']);
  expect((await wordsOf(paper)).flat().join('')).toBe(chinese);
  // Thai has spaces between phrases, and a phrase is not cut within a word.
  const thai = 'นักเรียนทำงานได้ดีมาก '.repeat(12).trim();
  const phrases = await set([
    box('a', 0, 14, { body: bodyOf(paragraph(plain(thai))), ...on('b') }),
    box('b', 1, 90),
  ]);
  const [first, second] = (await wordsOf(phrases)).map((some) => some.join(''));
  expect([first!.at(-1), second![0]]).toEqual([thai.at(-1), thai[0]]);
  const word = await set([
    box('a', 0, 14, { body: bodyOf(paragraph(plain('x'.repeat(80)))), ...on('b') }),
    box('b', 1, 60),
  ]);
  expect(statesOf(word)[0]).toBe('long');
});

test('boxes that go on in each other, or in one that is gone, are set as they are', async () => {
  const body = bodyOf(paragraph(plain('here')));
  const circle = await set([box('a', 0, 12, { body, ...on('b') }), box('b', 0, 12, { y: 60, ...on('a') })]);
  expect(statesOf(circle)).toEqual(['fits', 'blank']);
  const gone = await set([box('a', 0, 12, { body, ...on('z') })]);
  expect(statesOf(gone)).toEqual(['fits']);
});
