import type { Folio, ProblemDetails } from '@scriptum/core/contract';
import type { Letter, Writing } from '@scriptum/core/template';
import {
  type Client,
  letterOf,
  newSchool,
  startTestServer,
  type TestServer,
  writingPath,
} from './testing/school.js';

let server: TestServer;
beforeAll(async () => {
  server = await startTestServer();
});
afterAll(() => server.close());

const DRAWING =
  '<svg xmlns="http://www.w3.org/2000/svg" width="10" height="10"><rect width="10" height="10"/></svg>';

/** A folio whose letter has a picture. */
async function withPicture(client: Client): Promise<Folio> {
  const folio = await client.folioOf('Name,House\nAmara,Otter', { letter: ['Dear {{Name}}'] });
  const added = await client.raw('POST', `/folios/${folio.id}/assets?name=crest.svg`, Buffer.from(DRAWING));
  const { id: asset } = (await added.json()) as { id: string };
  const { content, version } = letterOf(folio);
  const change: Partial<Letter> = {
    body: {
      type: 'doc',
      content: [
        ...content.body.content,
        { type: 'picture', attrs: { asset, width: 20, align: 'left', alt: 'Crest' } },
      ],
    },
  };
  const sent = { version, kind: 'letter', content: { ...content, ...change } };
  expect((await client.send('PUT', writingPath(folio, 'letter'), sent)).status).toBe(200);
  return folio;
}

async function saved(client: Client, folio: Folio): Promise<Buffer> {
  const answer = await client.raw('GET', `${writingPath(folio, 'letter')}/file`);
  expect(answer.status).toBe(200);
  expect(answer.headers.get('content-type')).toBe('application/zip');
  expect(answer.headers.get('content-disposition')).toContain('.zip');
  return Buffer.from(await answer.arrayBuffer());
}

async function bring(
  client: Client,
  folioId: string,
  bytes: Uint8Array,
): Promise<{ status: number; body: unknown }> {
  const answer = await client.raw('POST', `/folios/${folioId}/letter-files?name=x.zip`, Buffer.from(bytes));
  return { status: answer.status, body: await answer.json() };
}

test('a letter goes as a file into a folio of another school, with its pictures, over the columns there', async () => {
  const [client, other] = [await newSchool(server), await newSchool(server, 'Other')];
  const folio = await withPicture(client);
  const bytes = await saved(client, folio);
  const there = await other.folioOf('HOUSE,name\nHeron,Bo', { letter: ['Hello {{name}}'] });
  const { status, body } = await bring(other, there.id, bytes);
  expect(status).toBe(200);
  const letter = body as Extract<Writing, { kind: 'letter' }>;
  expect(letter.content.name).not.toBe(letterOf(there).content.name);
  const idOf = (title: string) => there.roll.columns.find((column) => column.title === title)!.id;
  const ids = letter.content.fields.map(({ columnId }) => columnId);
  expect(ids).toEqual([idOf('name'), idOf('HOUSE')]);
  const now = await other.get<Folio>(`/folios/${there.id}`);
  expect(now.assets.map((asset) => asset.name)).toEqual(['crest.svg']);
  const shown = letter.content.body.content.at(-1);
  expect(shown).toMatchObject({ attrs: { asset: now.assets[0]!.id } });
  await other.press(server, there.id);
  const states = (await other.register(there.id)).papers.map(({ state }) => state);
  expect(states).toEqual(['pressed', 'pressed']);
  // Brought in once more it has another name.
  const again = (await bring(other, there.id, bytes)).body as Writing;
  expect(again.name).not.toBe(letter.name);
});

test('what is no letter changes nothing, and says what it is', async () => {
  const client = await newSchool(server);
  const folio = await withPicture(client);
  for (const [bytes, code] of [
    ['Dear family', 'template-json'],
    ['{}', 'template-shape'],
    ['', 'template-json'],
  ] as const) {
    const { status, body } = await bring(client, folio.id, Buffer.from(bytes));
    expect(status).toBe(422);
    expect((body as ProblemDetails).code).toBe(code);
  }
  const { writings } = await client.get<Folio>(`/folios/${folio.id}`);
  expect(writings.filter(({ kind }) => kind === 'letter')).toHaveLength(1);
});

test('another school neither gets the file nor brings one into the folio', async () => {
  const [client, stranger] = [await newSchool(server), await newSchool(server, 'Other')];
  const folio = await withPicture(client);
  const bytes = await saved(client, folio);
  expect((await stranger.send('GET', `${writingPath(folio, 'letter')}/file`)).status).toBe(404);
  expect((await bring(stranger, folio.id, bytes)).status).toBe(404);
  expect((await client.send('GET', `${writingPath(folio, 'note')}/file`)).status).toBe(404);
});
