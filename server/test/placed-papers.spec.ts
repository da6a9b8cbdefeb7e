import type { Fits, Folio, PictureAsset, Register } from '@scriptum/core/contract';
import { emptyPlaced, type Placed, type PlacedBox, type Writing } from '@scriptum/core/template';
import { PlacedBoxes1765300000000 } from '@scriptum/server/store/migrations/0014-placed-boxes';
import { readPdf, rolesOf } from './testing/pdf-reader.js';
import { plainPng } from './testing/pixels.js';
import {
  type Client,
  letterOf,
  newSchool,
  startTestServer,
  type TestServer,
  writingPath,
} from './testing/school.js';

let server: TestServer;
let client: Client;
beforeAll(async () => {
  server = await startTestServer();
  client = await newSchool(server);
});
afterAll(() => server.close());

const LONG = 'Wilhelmina Alexandrina Featherstonehaugh-Marchbanks van der Veldt-Okonjo';
const SHEET = `Name,Number\nBo,7\nAmara,8\n${LONG},9\nDilys Featherstonehaugh,10\n`;

/** A folio with a certificate alone: the letter is off. */
async function withCertificate(
  boxes: (folio: Folio) => PlacedBox[],
  more: Partial<Placed> = {},
): Promise<{ folio: Folio; writing: Writing & { kind: 'placed' } }> {
  const folio = await client.folioOf(SHEET, { letter: ['Dear {{Name}}'] });
  const { content, version } = letterOf(folio);
  await client.send('PUT', writingPath(folio, 'letter'), {
    version,
    kind: 'letter',
    content: { ...content, off: true },
  });
  const placed: Placed = { ...emptyPlaced('Award'), fields: content.fields, boxes: boxes(folio), ...more };
  const added = await client.send<Writing & { kind: 'placed' }>('POST', `/folios/${folio.id}/writings`, {
    kind: 'placed',
    content: placed,
  });
  expect(added.status).toBe(200);
  return { folio: await client.get<Folio>(`/folios/${folio.id}`), writing: added.body };
}

const fieldNamed = ({ writings }: Folio, name: string): string =>
  letterOf({ writings } as Folio).content.fields.find((field) => field.name === name)!.id;

const nameBox =
  (least: number) =>
  (folio: Folio): PlacedBox[] => [
    {
      kind: 'text',
      id: 'name',
      name: 'Name of the learner',
      page: 0,
      x: 50,
      y: 50,
      width: 90,
      height: 16,
      oneLine: true,
      type: { size: 30 },
      long: { do: 'shrink', least },
      body: {
        type: 'doc',
        content: [
          { type: 'paragraph', content: [{ type: 'field', attrs: { fieldId: fieldNamed(folio, 'Name') } }] },
        ],
      },
    },
  ];

/** Those that nothing newer took the place of. */
const papers = async (folioId: string): Promise<Register['papers']> =>
  (await client.register(folioId)).papers.filter(({ state }) => state !== 'superseded');

test('how texts fit is measured for everybody who gets a paper', async () => {
  const { folio, writing } = await withCertificate(nameBox(20));
  const { status, body } = await client.send<Fits>('POST', `/folios/${folio.id}/fits`, {
    template: writing.content,
  });
  expect(status).toBe(200);
  const idOf = (name: string): string =>
    folio.roll.entries.find(({ values }) => Object.values(values).includes(name))!.id;
  expect(body.boxes).toHaveLength(1);
  expect(body.boxes[0]).toMatchObject({ box: 'name', least: 20 });
  expect(body.boxes[0]!.who).toEqual({
    fits: [idOf('Bo'), idOf('Amara')],
    shrinks: [idOf('Dilys Featherstonehaugh')],
    long: [idOf(LONG)],
  });
});

test('a folio of another school is measured by nobody', async () => {
  const { folio, writing } = await withCertificate(nameBox(20));
  const stranger = await newSchool(server, 'Other');
  const { status } = await stranger.send('POST', `/folios/${folio.id}/fits`, { template: writing.content });
  expect(status).toBe(404);
});

test('a paper whose text does not fit is held with the reason, until somebody clears it or it fits', async () => {
  const { folio, writing } = await withCertificate(nameBox(20));
  await client.press(server, folio.id);
  const first = await papers(folio.id);
  expect(first.map(({ state }) => state)).toEqual(['pressed', 'pressed', 'held', 'pressed']);
  const held = first[2]!;
  expect(held.reason).toBe('Held: “Name of the learner” is too long for its place.');
  const cleared = await client.send('POST', `/folios/${folio.id}/papers/hold`, {
    paperIds: [held.id],
    hold: false,
  });
  if (cleared.status === 200)
    expect((await papers(folio.id))[2]).toMatchObject({ state: 'cleared', reason: null });
  // With a smaller least size it fits, and nobody holds it then.
  const content: Placed = { ...writing.content, boxes: nameBox(6)(folio) };
  const saved = await client.send('PUT', `/folios/${folio.id}/writings/${writing.id}`, {
    version: writing.version,
    kind: 'placed',
    content,
  });
  expect(saved.status).toBe(200);
  await client.press(server, folio.id);
  expect((await papers(folio.id)).map(({ state, reason }) => [state, reason])).toEqual(
    Array(4).fill(['pressed', null]),
  );
});

test('each learner gets the boxes that are for them, and the file says so', async () => {
  const { folio } = await withCertificate((one) => [
    ...nameBox(6)(one),
    {
      kind: 'code',
      id: 'code',
      page: 0,
      x: 20,
      y: 150,
      width: 50,
      height: 14,
      code: 'code128',
      words: true,
      colour: '#000000',
      line: [{ type: 'field', attrs: { fieldId: fieldNamed(one, 'Number') } }],
    },
    {
      kind: 'tick',
      id: 'tick',
      page: 0,
      x: 100,
      y: 150,
      width: 5,
      height: 5,
      mark: 'cross',
      weight: 0.5,
      colour: '#000000',
      part: 'p',
      name: 'Over eight',
    },
  ]);
  const number = folio.roll.columns.find(({ title }) => title === 'Number')!;
  const writing = folio.writings.find(({ kind }) => kind === 'placed')!;
  await client.send('PUT', `/folios/${folio.id}/writings/${writing.id}`, {
    version: writing.version,
    kind: 'placed',
    content: {
      ...writing.content,
      parts: [{ id: 'p', if: { all: [{ columnId: number.id, is: 'over', values: ['8'] }] } }],
    },
  });
  await client.press(server, folio.id);
  const ticked: boolean[] = [];
  for (const { id } of await papers(folio.id)) {
    const answer = await client.raw('GET', `/folios/${folio.id}/papers/${id}/file`);
    const bytes = Buffer.from(await answer.arrayBuffer());
    ticked.push(rolesOf((await readPdf(bytes)).pages[0]!).includes('Figure: Over eight'));
  }
  expect(ticked).toEqual([false, false, true, true]);
});

test('a certificate stands in one order with the letters, and the last of them stays', async () => {
  const { folio, writing } = await withCertificate(nameBox(6));
  const letter = letterOf(folio);
  const ordered = await client.send('PUT', `/folios/${folio.id}/writing-order`, {
    kind: 'letter',
    ids: [writing.id, letter.id],
  });
  expect(ordered.status).toBe(200);
  const places = (await client.get<Folio>(`/folios/${folio.id}`)).writings
    .filter(({ kind }) => kind === 'letter' || kind === 'placed')
    .sort((a, b) => a.place - b.place);
  expect(places.map(({ id }) => id)).toEqual([writing.id, letter.id]);
  expect((await client.send('DELETE', `/folios/${folio.id}/writings/${letter.id}`)).status).toBe(200);
  expect((await client.send('DELETE', `/folios/${folio.id}/writings/${writing.id}`)).status).toBe(409);
});

test('it goes as a file, with its pictures, into a folio of another school', async () => {
  const { folio } = await withCertificate(nameBox(6));
  const added = await client.raw(
    'POST',
    `/folios/${folio.id}/assets?name=crest.png`,
    Uint8Array.from(plainPng([200, 30, 40])),
  );
  const asset = ((await added.json()) as PictureAsset).id;
  const writing = folio.writings.find(({ kind }) => kind === 'placed')! as Writing & { kind: 'placed' };
  const picture: PlacedBox = {
    kind: 'picture',
    id: 'pic',
    page: 0,
    x: 5,
    y: 5,
    width: 20,
    height: 20,
    asset,
    fit: 'whole',
    alt: 'Crest',
  };
  const content: Placed = {
    ...writing.content,
    boxes: [...writing.content.boxes, picture],
    pages: [{ picture: { asset } }],
  };
  await client.send('PUT', `/folios/${folio.id}/writings/${writing.id}`, {
    version: writing.version,
    kind: 'placed',
    content,
  });
  const file = await client.raw('GET', `/folios/${folio.id}/writings/${writing.id}/file`);
  expect(file.headers.get('content-type')).toBe('application/zip');
  const bytes = Buffer.from(await file.arrayBuffer());

  const other = await newSchool(server, 'Other');
  const there = await other.folioOf('Number,Name\n1,Zoë\n', { letter: ['x'] });
  const brought = await other.raw('POST', `/folios/${there.id}/letter-files?name=award.zip`, bytes);
  expect(brought.status).toBe(200);
  const here = (await brought.json()) as Writing & { kind: 'placed' };
  expect(here.kind).toBe('placed');
  const [name, shown] = here.content.boxes;
  expect(name).toEqual(content.boxes[0]);
  const names = there.roll.columns.find(({ title }) => title === 'Name')!;
  expect(here.content.fields.find((field) => field.name === 'Name')!.columnId).toBe(names.id);
  // A picture of its own now, on the page too.
  expect(shown).toMatchObject({ kind: 'picture', alt: 'Crest' });
  expect(JSON.stringify(here.content)).not.toContain(asset);
  const kept = await other.raw('GET', `/folios/${there.id}/assets/${here.content.pages[0]!.picture!.asset}`);
  expect(Buffer.from(await kept.arrayBuffer())).toEqual(plainPng([200, 30, 40]));
  // Copied into another folio of the own school it takes its pictures with it too.
  const second = await client.folioOf(SHEET, { letter: ['x'] });
  const copied = await client.send<Writing & { kind: 'placed' }>(
    'POST',
    `/folios/${second.id}/writing-copies`,
    { folioId: folio.id, writingId: writing.id },
  );
  expect(copied.status).toBe(200);
  expect(JSON.stringify(copied.body.content)).not.toContain(asset);
});

test.each<[string, Partial<Placed>]>([
  [
    'a box on a page that is not there',
    {
      boxes: [
        {
          kind: 'line',
          id: 'l',
          page: 3,
          x: 0,
          y: 0,
          width: 1,
          height: 1,
          stroke: { colour: '#000000', weight: 1 },
        },
      ],
    },
  ],
  ['a page of ten metres', { pages: [{ size: { width: 10_000, height: 10_000 } }] }],
  ['no pages', { pages: [] }],
  ['a colour that is code', { pages: [{ colour: '#000000"); panic("' }] }],
])('%s is refused', async (_, part) => {
  const { folio } = await withCertificate(nameBox(6));
  const answer = await client.send('POST', `/folios/${folio.id}/writings`, {
    kind: 'placed',
    content: { ...emptyPlaced('x'), ...part },
  });
  expect(answer.status).toBe(400);
});

test('boxes far off the page, of no size, and a picture that is gone do not keep a paper from being pressed', async () => {
  const at = { page: 0, x: -900, y: 1800 };
  const { folio } = await withCertificate((one) => [
    ...nameBox(6)(one),
    { kind: 'shape', id: 's', ...at, width: 0, height: 0, form: 'ellipse' },
    { kind: 'line', id: 'l', ...at, width: 0, height: 0, stroke: { colour: '#000000', weight: 1 } },
    { kind: 'text', id: 't', ...at, width: 0, height: 0, body: { type: 'doc', content: [] } },
    { kind: 'comb', id: 'c', ...at, width: 0, height: 0, cells: 3, from: 'left', line: [] },
    { kind: 'tick', id: 'k', ...at, width: 0, height: 0, mark: 'ring', colour: '#000000', weight: 20 },
    {
      kind: 'code',
      id: 'q',
      ...at,
      width: 0,
      height: 0,
      code: 'qr',
      colour: '#000000',
      line: [{ type: 'text', text: 'x' }],
    },
    { kind: 'letterhead', id: 'h', ...at, width: 0, height: 0, show: 'name' },
  ]);
  const run = await client.press(server, folio.id);
  expect(run.run).not.toBeNull();
  expect((await papers(folio.id)).map(({ state }) => state)).toEqual(Array(4).fill('pressed'));
});

test('templates of the version before come through, with boxes of text', async () => {
  const { folio, writing } = await withCertificate(nameBox(6));
  const { manager } = server.running.database;
  const runner = manager.connection.createQueryRunner();
  const migration = new PlacedBoxes1765300000000();
  try {
    await migration.down(runner);
    const [row] = await manager.query<{ content: string | { pages: number } }[]>(
      'SELECT content FROM writing WHERE id = ?',
      [writing.id],
    );
    const old =
      typeof row!.content === 'string' ? (JSON.parse(row!.content) as { pages: number }) : row!.content;
    expect(old.pages).toBe(1);
    await migration.up(runner);
  } finally {
    await runner.release();
  }
  const now = (await client.get<Folio>(`/folios/${folio.id}`)).writings.find(({ id }) => id === writing.id)!;
  expect(now.content).toEqual(writing.content);
});
