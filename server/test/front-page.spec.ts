import type { Folio, FolioSummary, FoundLearner } from '@scriptum/core/contract';
import { Sorting, writingsOf } from '@scriptum/core/template';
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
});
beforeEach(async () => {
  client = await newSchool(server);
});
afterAll(() => server.close());

const SHEET = 'Name,Level,Mail\nZoë Quill,gold,z@a.example\nBo Reed,x,b@a.example\n';
const summaries = async (who = client): Promise<FolioSummary[]> =>
  (await who.get<{ folios: FolioSummary[] }>('/folios')).folios;
const find = async (text: string, who = client): Promise<string[]> =>
  (await who.get<{ learners: FoundLearner[] }>(`/learners?text=${encodeURIComponent(text)}`)).learners.map(
    ({ name }) => name,
  );

test('each folio tells how its papers stand and who changed it last', async () => {
  const folio = await client.folioOf(SHEET, { letter: ['Dear {{Name}}'] });
  expect(await summaries()).toMatchObject([{ entries: 2, pressed: 0, changedBy: 'Test', archived: false }]);
  await client.press(server, folio.id);
  const { papers } = await client.register(folio.id);
  await client.send('POST', `/folios/${folio.id}/papers/hold`, { paperIds: [papers[0]!.id], hold: true });
  expect(await summaries()).toMatchObject([{ pressed: 2, toReview: 1, held: 1, cleared: 0, outOfDate: 0 }]);
  await client.send('PATCH', `/folios/${folio.id}/roll`, {
    cells: [{ entryId: folio.roll.entries[1]!.id, columnId: folio.roll.columns[0]!.id, text: 'Bo Reade' }],
  });
  await client.register(folio.id);
  expect(await summaries()).toMatchObject([{ toReview: 0, held: 1, outOfDate: 1 }]);
});

test('the first page of the first paper is a picture, and is asked for again only once something changes', async () => {
  const folio = await client.folioOf(SHEET, { letter: ['Dear {{Name}}'] });
  const path = `/folios/${folio.id}/picture`;
  const first = await client.raw('GET', path);
  expect(first.headers.get('content-type')).toContain('image/svg+xml');
  expect(first.headers.get('content-security-policy')).toContain('sandbox');
  expect(await first.text()).toContain('<svg');
  const tag = first.headers.get('etag')!;
  expect((await client.raw('GET', path, undefined, { 'if-none-match': tag })).status).toBe(304);
  await client.send('PATCH', `/folios/${folio.id}/roll`, {
    cells: [{ entryId: folio.roll.entries[0]!.id, columnId: folio.roll.columns[0]!.id, text: 'Zoe' }],
  });
  expect((await client.raw('GET', path, undefined, { 'if-none-match': tag })).status).toBe(200);
  const stranger = await newSchool(server);
  expect((await stranger.raw('GET', path)).status).toBe(404);
});

test('learners are found over all folios by a part of the name, without capitals and accents, in this school alone', async () => {
  await client.folioOf(SHEET, { letter: ['{{Name}}'] });
  await client.folioOf('First name,Surname\nAnn,Quill\n,\n', { letter: ['x'] });
  expect((await find('QUILL')).sort()).toEqual(['Ann Quill', 'Zoë Quill']);
  expect(await find('zoe qu')).toEqual(['Zoë Quill']);
  // What stands in another cell is no name; signs of a pattern are letters.
  expect(await find('gold')).toEqual([]);
  expect(await find('%')).toEqual([]);
  expect(await find('_')).toEqual([]);
  expect(await find('  ')).toEqual([]);
  expect(await find("'; DROP TABLE entry; --")).toEqual([]);
  expect(await find('quill', await newSchool(server))).toEqual([]);
});

test('a folio is put away and taken back', async () => {
  const folio = await client.folioOf(SHEET, { letter: ['{{Name}}'] });
  const put = (archived: boolean) =>
    client.send<FolioSummary>('PUT', `/folios/${folio.id}/archived`, { archived });
  expect((await put(true)).body.archived).toBe(true);
  expect(await summaries()).toMatchObject([{ archived: true }]);
  expect((await put(false)).body.archived).toBe(false);
  const stranger = await newSchool(server);
  expect((await stranger.send('PUT', `/folios/${folio.id}/archived`, { archived: true })).status).toBe(404);
});

async function rich(): Promise<Folio> {
  const folio = await client.folioOf(SHEET, { letter: ['Dear {{Name}}'], file: '{{Name}}' });
  const added = await client.raw(
    'POST',
    `/folios/${folio.id}/assets?name=crest.png`,
    plainPng([20, 90, 80]) as BodyInit,
    {
      'content-type': 'application/octet-stream',
    },
  );
  const { id: asset } = (await added.json()) as { id: string };
  const { content, version, id } = letterOf(folio);
  const picture = { type: 'picture', attrs: { asset, width: 20, align: 'left', alt: 'Crest' } };
  await client.send('PUT', writingPath(folio, 'letter'), {
    version,
    kind: 'letter',
    content: { ...content, body: { type: 'doc', content: [...content.body.content, picture] } },
  });
  const rules = Sorting.parse({
    rules: [
      {
        id: 'a',
        if: { columnId: folio.roll.columns[1]!.id, is: 'equal', values: ['gold'] },
        then: { kind: 'gives', templates: [id] },
      },
      { id: 'b', if: null, then: { kind: 'out', why: 'no gold' } },
    ],
  });
  await client.send('PUT', writingPath(folio, 'sorting'), { version: 1, kind: 'sorting', content: rules });
  return client.get<Folio>(`/folios/${folio.id}`);
}

test('a copy has all that is written, with identities of its own, and presses by itself', async () => {
  const folio = await rich();
  await client.press(server, folio.id);
  const copied = await client.send<FolioSummary>('POST', `/folios/${folio.id}/copies`, {
    title: 'Next',
    people: true,
  });
  expect(copied.body).toMatchObject({ title: 'Next', entries: 2, pressed: 0, changedBy: 'Test' });
  const copy = await client.get<Folio>(`/folios/${copied.body.id}`);
  const plain = ({ roll }: Folio) => roll.columns.map(({ id, title, type }) => ({ id, title, type }));
  expect(plain(copy)).toEqual(plain(folio));
  expect(copy.roll.entries.map(({ values }) => values)).toEqual(
    folio.roll.entries.map(({ values }) => values),
  );
  const before = new Set([
    ...folio.roll.entries.map(({ id }) => id),
    ...folio.writings.map(({ id }) => id),
    ...folio.assets.map(({ id }) => id),
    ...folio.sources.map(({ id }) => id),
  ]);
  for (const id of before) expect(JSON.stringify(copy)).not.toContain(id);
  // Its rule names its own letter, and its letter its own picture.
  const [rule] = writingsOf(copy.writings, 'sorting')[0]!.content.rules;
  expect(rule!.then).toEqual({ kind: 'gives', templates: [letterOf(copy).id] });
  expect((await client.press(server, copy.id)).run!.total).toBe(1);
  // The first one stays as it was.
  expect(await client.get<Folio>(`/folios/${folio.id}`)).toEqual(folio);
});

test('a copy without people has its columns, and a new sheet fits it', async () => {
  const folio = await rich();
  const { body } = await client.send<FolioSummary>('POST', `/folios/${folio.id}/copies`, {
    title: 'Next',
    people: false,
  });
  const copy = await client.get<Folio>(`/folios/${body.id}`);
  expect([copy.roll.entries, copy.sources, copy.roll.columns.map(({ title }) => title)]).toEqual([
    [],
    [],
    ['Name', 'Level', 'Mail'],
  ]);
  await client.bringIn(copy.id, 'next.csv', 'Name,Level,Mail\nEd,gold,e@a.example\n');
  expect((await client.press(server, copy.id)).run!.total).toBe(1);
  const stranger = await newSchool(server);
  expect(
    (await stranger.send('POST', `/folios/${folio.id}/copies`, { title: 'x', people: true })).status,
  ).toBe(404);
});
