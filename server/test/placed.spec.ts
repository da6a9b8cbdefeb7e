import { FIRST_ORNAMENTS } from '@scriptum/core/ornament';
import { programValues, typeset } from '@scriptum/core/page';
import {
  dressed,
  emptyLetterhead,
  emptyPlaced,
  PAGE_SIZES,
  type Placed,
  type PlacedBox,
  type TextBox,
} from '@scriptum/core/template';
import { Typesetter, type LoadedProgram, type SetPaper } from '@scriptum/server/press/typesetter';
import { sha256 } from '@scriptum/server/store/blobs';
import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { prepareZXingModule, readBarcodes } from 'zxing-wasm/reader';
import { pageBoxes, pdfInfo, pdfText, qpdfCheck, wordBox } from './testing/pdf.js';
import { readPdf, rolesOf, textRuns } from './testing/pdf-reader.js';
import { imageOf, plainPng } from './testing/pixels.js';

const require = createRequire(import.meta.url);
let typesetter: Typesetter;
beforeAll(() => {
  typesetter = new Typesetter({ workers: 1, timeLimit: 60_000 });
  const wasm = readFileSync(require.resolve('zxing-wasm/reader/zxing_reader.wasm'));
  prepareZXingModule({
    overrides: {
      wasmBinary: wasm.buffer.slice(wasm.byteOffset, wasm.byteOffset + wasm.byteLength) as ArrayBuffer,
    },
    fireImmediately: true,
  });
});
afterAll(() => typesetter.close());

/** Points in a millimetre; what a place may be off by: 0.2 mm. */
const MM = 72 / 25.4;
const OFF = 0.2 * MM;
const near = (one: number | undefined, mm: number): void =>
  expect(Math.abs((one ?? Number.NaN) - mm * MM)).toBeLessThan(OFF);

const doc = (text: string, fontSize?: string): TextBox['body'] => ({
  type: 'doc',
  content: text.split('\n').map((line) => ({
    type: 'paragraph' as const,
    content: [
      {
        type: 'text' as const,
        text: line,
        ...(fontSize ? { marks: [{ type: 'textStyle' as const, attrs: { fontSize } }] } : {}),
      },
    ],
  })),
});
const text = (id: string, x: number, y: number, more: Partial<TextBox> = {}): TextBox => ({
  kind: 'text',
  id,
  page: 0,
  x,
  y,
  width: 60,
  height: 20,
  body: doc(id),
  ...more,
});
const placedOf = (boxes: PlacedBox[], more: Partial<Placed> = {}): Placed => ({
  ...emptyPlaced('Certificate'),
  boxes,
  ...more,
});

async function set(
  template: Placed,
  values: Record<string, string> = {},
  pictures: Readonly<Record<string, Buffer>> = {},
): Promise<Extract<SetPaper, { ok: true }>> {
  const program = typeset(template);
  const loaded: LoadedProgram = {
    ...program,
    pictures: program.assets.map((name) => {
      const bytes = pictures[name] ?? Buffer.from(program.drawings[name]!);
      return { hash: sha256(bytes.toString('latin1')), bytes };
    }),
  };
  const paper = await typesetter.paper(loaded, programValues(template, values), new Date(0));
  if (!paper.ok) throw new Error(paper.reason);
  return paper;
}

test('every box stands where it is said to, to 0.2 mm', async () => {
  const places = [
    [10, 10],
    [200, 10],
    [33.3, 77.7],
    [150, 120.5],
    [220, 185],
  ] as const;
  const boxes = places.map(([x, y], n) => text(`Word${n}`, x, y, { baseline: { first: 8 } }));
  const { bytes } = await set(placedOf(boxes));
  const runs = await textRuns(bytes);
  for (const [n, [x, y]] of places.entries()) {
    const run = runs.find((one) => one.text === `Word${n}`);
    // The baseline as pdf.js reads it; where the word begins as Poppler does.
    near(run?.baseline, y + 8);
    near(wordBox(bytes, `Word${n}`)?.x, x);
  }
});

test('text stands at the side and the height of its box that it is to keep to', async () => {
  const at = (id: string, more: Partial<TextBox>): TextBox =>
    text(id, 100, 50, { width: 80, height: 40, ...more });
  const { bytes } = await set(
    placedOf([
      at('Upper', {}),
      at('Centred', { align: 'center', vertical: 'middle' }),
      at('Right', { align: 'right', vertical: 'bottom' }),
    ]),
  );
  const runs = new Map((await textRuns(bytes)).map((run) => [run.text, run]));
  near(runs.get('Upper')?.x, 100);
  const centred = runs.get('Centred')!;
  near(centred.x + centred.width / 2, 140);
  const right = runs.get('Right')!;
  near(right.x + right.width, 180);
  // From the upper edge downwards, half way, and above the lower edge.
  expect(runs.get('Upper')!.baseline).toBeLessThan(58 * MM);
  expect(Math.abs(centred.baseline - 71.5 * MM)).toBeLessThan(1.5 * MM);
  expect(right.baseline).toBeLessThan(90.1 * MM);
  expect(right.baseline).toBeGreaterThan(85 * MM);
});

test('lines stand on the lines of a form, each one pitch below the one before', async () => {
  const lines = text('lines', 30, 60, {
    width: 50,
    height: 60,
    body: doc('one two three four five six seven eight nine ten eleven twelve'),
    baseline: { first: 7, pitch: 9 },
  });
  const { bytes } = await set(placedOf([lines]));
  const baselines = [
    ...new Set((await textRuns(bytes)).map(({ baseline }) => Math.round(baseline * 100) / 100)),
  ];
  expect(baselines.length).toBeGreaterThan(2);
  baselines.sort((a, b) => a - b).forEach((one, n) => near(one, 67 + 9 * n));
});

// ISO 216:2007, 4.2 (A and B series), ANSI/ASME Y14.1 (A and B); Legal is common practice, no published source.
test.each(Object.entries(PAGE_SIZES))(
  '%s has the size of its standard, upright and lying',
  async (_, { width, height }) => {
    for (const [w, h] of [
      [width, height],
      [height, width],
    ] as const) {
      const page = { width: w, height: h, margins: { top: 0, right: 0, bottom: 0, left: 0 } };
      const { bytes } = await set(placedOf([text('A', 5, 5)], { page }));
      const [, readW, readH] = /([\d.]+) x ([\d.]+) pts/.exec(pdfInfo(bytes)['Page size']!)!;
      expect(Number(readW)).toBeCloseTo(w * MM, 1);
      expect(Number(readH)).toBeCloseTo(h * MM, 1);
    }
  },
);

test('pages may have sizes of their own', async () => {
  const { bytes, pages } = await set(
    placedOf([text('A', 5, 5), text('B', 5, 5, { page: 1 })], {
      pages: [{}, { size: { width: 105, height: 148 } }],
    }),
  );
  expect(pages).toBe(2);
  expect(
    pageBoxes(bytes).map((boxes) => boxes['/MediaBox']!.slice(2).map((n) => Math.round(n / MM))),
  ).toEqual([
    [297, 210],
    [105, 148],
  ]);
});

describe('where a text is long', () => {
  const name = (value: string, more: Partial<TextBox>): [TextBox, Record<string, string>] => [
    text('name', 20, 20, {
      width: 100,
      height: 20,
      body: {
        type: 'doc',
        content: [{ type: 'paragraph', content: [{ type: 'field', attrs: { fieldId: 'f' } }] }],
      },
      type: { size: 40 },
      ...more,
    }),
    { f: value },
  ];
  const fields: Placed['fields'] = [{ id: 'f', name: 'Name', columnId: 'c' }];
  const fitOf = async (value: string, more: Partial<TextBox>) => {
    const [box, values] = name(value, more);
    const { fits, bytes } = await set(placedOf([box], { fields }), values);
    return { ...fits[0]!, runs: await textRuns(bytes) };
  };
  const shrink = { long: { do: 'shrink', least: 12 } } as const;

  test('it stays as it is where it fits, and is set smaller where it does not, as large as it can be', async () => {
    expect(await fitOf('Bo', { ...shrink, oneLine: true })).toMatchObject({ state: 'fits', size: 40 });
    const long = await fitOf('Wilhelmina Featherstonehaugh', { ...shrink, oneLine: true });
    expect(long.state).toBe('shrinks');
    const [first] = long.runs;
    const last = long.runs.at(-1)!;
    const width = last.x + last.width - first!.x;
    // On one line, as wide as its place, and not 2 % less.
    expect(new Set(long.runs.map(({ baseline }) => Math.round(baseline))).size).toBe(1);
    expect(width).toBeLessThanOrEqual(100 * MM + 0.1);
    expect(width).toBeGreaterThan(98 * MM);
    expect(first!.size).toBeCloseTo(long.size, 1);
  });

  test('several lines become smaller until all of them, and each word, have room', async () => {
    const words = await fitOf('one two three four five six seven eight nine ten eleven twelve', shrink);
    expect(words.state).toBe('shrinks');
    expect(words.used).toBeLessThanOrEqual(20.01);
    expect(words.used).toBeGreaterThan(15);
    const word = await fitOf('Donaudampfschifffahrtsgesellschaftskapitän', shrink);
    expect(word.state).toBe('shrinks');
    expect(word.runs[0]!.width).toBeLessThanOrEqual(100 * MM + 0.1);
  });

  test('it is told as too long where even the least size is too large, and where it may not be smaller', async () => {
    const endless = 'Wilhelmina '.repeat(40);
    expect(await fitOf(endless, { ...shrink, oneLine: true })).toMatchObject({ state: 'long', size: 12 });
    expect(await fitOf(endless, shrink)).toMatchObject({ state: 'long', size: 12 });
    expect(await fitOf(endless, {})).toMatchObject({ state: 'long', size: 40 });
    expect(await fitOf(endless, { long: { do: 'cut' } })).toMatchObject({ state: 'long', size: 40 });
    expect(await fitOf('', shrink)).toMatchObject({ state: 'blank' });
  });

  test('sizes that words have of their own become smaller with the others', async () => {
    const box = text('two', 20, 20, {
      width: 60,
      height: 12,
      type: { size: 20 },
      long: { do: 'shrink', least: 5 },
      body: {
        type: 'doc',
        content: [
          {
            type: 'paragraph',
            content: [
              { type: 'text', text: 'plainwords and ' },
              { type: 'text', text: 'LARGE', marks: [{ type: 'textStyle', attrs: { fontSize: '40pt' } }] },
              { type: 'text', text: ' more of them, and then again some' },
            ],
          },
        ],
      },
    });
    const { fits, bytes } = await set(placedOf([box]));
    const runs = await textRuns(bytes);
    const [large, plain] = [
      runs.find((run) => run.text.includes('LARGE'))!,
      runs.find((run) => run.text.includes('plainwords'))!,
    ];
    expect(fits[0]!.state).toBe('shrinks');
    expect(large.size / plain.size).toBeCloseTo(2, 1);
  });
});

test('turned text is turned about the middle of its box', async () => {
  const { bytes } = await set(
    placedOf([text('Turned', 100, 50, { width: 40, height: 10, turn: 90, baseline: { first: 5 } })]),
  );
  const [run] = await textRuns(bytes);
  // The box's middle is at 120, 55; what was at its left edge, half way down, is above the middle now.
  near(run!.x, 120);
  near(run!.baseline, 35);
});

// ISO/IEC 18004 (QR) and ISO/IEC 15417 (Code 128), read by another program from the page as a scanner sees it.
test('codes are read back from the page at 200 dots an inch', async () => {
  const line = [{ type: 'field' as const, attrs: { fieldId: 'f' } }];
  const at = { page: 0, y: 60, colour: '#22303C', line } as const;
  const boxes: PlacedBox[] = [
    { kind: 'code', id: 'qr', code: 'qr', x: 30, width: 22, height: 22, ...at },
    { kind: 'code', id: 'bars', code: 'code128', x: 90, width: 70, height: 18, words: true, ...at },
  ];
  const fields: Placed['fields'] = [{ id: 'f', name: 'Number', columnId: 'c' }];
  const { bytes, fits } = await set(placedOf(boxes, { fields }), { f: 'RS-2026-0041' });
  const found = await readBarcodes(imageOf(bytes, 200), { tryHarder: true });
  expect(found.map(({ format, text: said }) => `${format} ${said}`).sort()).toEqual([
    'Code128 RS-2026-0041',
    'QRCode RS-2026-0041',
  ]);
  expect(fits.map(({ state }) => state)).toEqual(['fits', 'fits']);
  const without = await set(placedOf(boxes, { fields }), { f: 'Zoë' });
  expect(without.fits.map(({ state }) => state)).toEqual(['fits', 'letters']);
});

test('a comb has one letter in the middle of each cell, from either end, and tells where there are too many', async () => {
  const line = [{ type: 'field' as const, attrs: { fieldId: 'f' } }];
  const comb = (id: string, y: number, from: 'left' | 'right'): PlacedBox => ({
    kind: 'comb',
    id,
    page: 0,
    x: 50,
    y,
    width: 80,
    height: 8,
    line,
    cells: 8,
    from,
    capitals: true,
    ruled: true,
  });
  const fields: Placed['fields'] = [{ id: 'f', name: 'Name', columnId: 'c' }];
  const template = placedOf([comb('a', 40, 'left'), comb('b', 80, 'right')], { fields });
  const { bytes, fits } = await set(template, { f: 'zoë 7' });
  const middles = (await textRuns(bytes)).map(({ text: said, x, width }) => [
    said,
    Math.round((x + width / 2) / MM),
  ]);
  expect(middles).toEqual([
    ['Z', 55],
    ['O', 65],
    ['Ë', 75],
    ['7', 95],
    ['Z', 85],
    ['O', 95],
    ['Ë', 105],
    ['7', 125],
  ]);
  expect(fits.map(({ state }) => state)).toEqual(['fits', 'fits']);
  expect((await set(template, { f: 'Wilhelmina' })).fits.map(({ state }) => state)).toEqual(['long', 'long']);
});

// ISO 14289-1: what says nothing is an artifact, pictures have words, and the order of the boxes is the order of the tags.
test('a certificate is PDF/UA-1, read in the order of its boxes, and light', async () => {
  const boxes: PlacedBox[] = [
    {
      kind: 'ornament',
      id: 'o',
      page: 0,
      x: 10,
      y: 10,
      width: 277,
      height: 190,
      ornament: FIRST_ORNAMENTS.border,
    },
    {
      kind: 'ornament',
      id: 'r',
      page: 0,
      x: 78,
      y: 35,
      width: 140,
      height: 140,
      ornament: FIRST_ORNAMENTS.rosette,
    },
    text('Second', 100, 120),
    {
      kind: 'picture',
      id: 'p',
      page: 0,
      x: 20,
      y: 20,
      width: 30,
      height: 30,
      asset: 'crest',
      fit: 'whole',
      alt: 'Crest',
    },
    {
      kind: 'picture',
      id: 'q',
      page: 0,
      x: 240,
      y: 20,
      width: 30,
      height: 30,
      asset: 'crest',
      fit: 'cut',
      alt: '',
    },
    text('First', 100, 30),
    {
      kind: 'tick',
      id: 't',
      page: 0,
      x: 60,
      y: 60,
      width: 4,
      height: 4,
      mark: 'check',
      colour: '#000000',
      weight: 0.5,
      name: 'Yes',
    },
    {
      kind: 'line',
      id: 'l',
      page: 0,
      x: 20,
      y: 150,
      width: 60,
      height: 0,
      stroke: { colour: '#000000', weight: 0.3 },
    },
    {
      kind: 'shape',
      id: 's',
      page: 0,
      x: 20,
      y: 160,
      width: 10,
      height: 10,
      form: 'ellipse',
      fill: '#A63D40',
    },
  ];
  const { bytes } = await set(
    placedOf(boxes, { pages: [{ colour: '#FDFCF8' }] }),
    {},
    { crest: plainPng([200, 30, 40]) },
  );
  const read = await readPdf(bytes);
  expect(read.metadata).toContain('<pdfuaid:part>1</pdfuaid:part>');
  expect(rolesOf(read.pages[0]!).filter((role) => role === 'P' || role.startsWith('Figure'))).toEqual([
    'P',
    'Figure: Crest',
    'P',
    'Figure: Yes',
  ]);
  expect(pdfText(bytes).replace(/\s+/g, ' ')).toMatch(/Second.*First|First.*Second/);
  expect(qpdfCheck(bytes)).toContain('No syntax or stream encoding errors');
  expect(bytes.length).toBeLessThan(150_000);
});

// ISO 32000-1, 14.11.2: the trim box is the paper, the bleed box reaches beyond it, the media box holds the marks.
test('ground for the print shop is in the file, and the paper is told from it', async () => {
  const made = async (marks: boolean) =>
    (
      await set(
        placedOf([text('Edge', 0, 0, { baseline: { first: 5 } })], {
          bleed: { width: 3, marks },
          pages: [{ colour: '#1D6B61' }],
        }),
      )
    ).bytes;
  const [bare, marked] = [await made(false), await made(true)];
  const millimetres = (box: readonly number[]): number[] => box.map((n) => Math.round((n / MM) * 10) / 10);
  const [bareBoxes, markedBoxes] = [pageBoxes(bare)[0]!, pageBoxes(marked)[0]!];
  expect(millimetres(bareBoxes['/MediaBox']!)).toEqual([0, 0, 303, 216]);
  expect(millimetres(bareBoxes['/TrimBox']!)).toEqual([3, 3, 300, 213]);
  expect(millimetres(bareBoxes['/BleedBox']!)).toEqual([0, 0, 303, 216]);
  expect(millimetres(bareBoxes['/CropBox']!)).toEqual([3, 3, 300, 213]);
  expect(millimetres(markedBoxes['/MediaBox']!)).toEqual([0, 0, 317, 230]);
  expect(millimetres(markedBoxes['/TrimBox']!)).toEqual([10, 10, 307, 220]);
  expect(millimetres(markedBoxes['/BleedBox']!)).toEqual([7, 7, 310, 223]);
  expect(markedBoxes).not.toHaveProperty('/CropBox');
  for (const bytes of [bare, marked]) {
    expect(qpdfCheck(bytes)).toContain('No syntax or stream encoding errors');
    expect((await readPdf(bytes)).metadata).toContain('<pdfuaid:part>1</pdfuaid:part>');
  }
  near((await textRuns(marked))[0]!.x, 10);
});

test('the letterhead and a sign-off stand in their boxes, smaller where there is less room', async () => {
  const letterhead = {
    ...emptyLetterhead('Thistlequay School of Navigation and Letters'),
    signOffs: [
      { id: 'head', name: 'Ada Holm', role: 'Head of school', picture: null, family: 'Great Vibes' as const },
    ],
  };
  const template = placedOf([
    { kind: 'letterhead', id: 'n', page: 0, x: 100, y: 20, width: 40, height: 8, show: 'name' },
    {
      kind: 'signOff',
      id: 's',
      page: 0,
      x: 50,
      y: 150,
      width: 60,
      height: 22,
      signOffId: 'head',
      align: 'center',
      rule: true,
    },
  ]);
  const { bytes } = await set(dressed(template, letterhead));
  const runs = await textRuns(bytes);
  for (const run of runs.filter(({ baseline }) => baseline < 40 * MM)) {
    expect(run.x).toBeGreaterThanOrEqual(100 * MM - OFF);
    expect(run.x + run.width).toBeLessThanOrEqual(140 * MM + OFF);
  }
  const signed = runs.filter(({ baseline }) => baseline > 140 * MM);
  expect(signed.map(({ text: said }) => said).join(' ')).toContain('Head of school');
  for (const run of signed) {
    expect(run.baseline).toBeGreaterThan(150 * MM);
    expect(run.baseline).toBeLessThan(172 * MM + OFF);
  }
});
