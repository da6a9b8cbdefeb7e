import type {
  Folio,
  KeptVersion,
  KeptVersions,
  ProblemDetails,
  Writing,
  WritingNow,
  WritingSaved,
} from '@scriptum/core/contract';
import { emptyNote, writingsOf } from '@scriptum/core/template';
import { letterOf, newSchool, noteOf, startTestServer, writingPath } from './testing/school.js';
import type { Client, TestServer } from './testing/school.js';

let server: TestServer;
let client: Client;
beforeAll(async () => {
  server = await startTestServer();
  client = await newSchool(server);
});
afterAll(() => server.close());

const folioOf = (): Promise<Folio> =>
  client.folioOf('Name,Mail\nAmara,a@families.example', { letter: ['Dear {{Name}}'] });

test('a save says what it saved, and who changed it last is told', async () => {
  const folio = await folioOf();
  const { id, version, kind, content } = noteOf(folio);
  const path = writingPath(folio, 'note');
  const saved = await client.send<WritingSaved>('PUT', path, { kind, version, content });
  expect(saved.body).toEqual({ folioId: folio.id, writingId: id, version: version + 1 });
  const now = await client.get<WritingNow>(path);
  expect(now).toMatchObject({ writing: { id, version: version + 1, content }, changedBy: 'Test' });
  expect(Date.parse(now.changedAt)).not.toBeNaN();
});

test('each kind is checked with its own schema, and stays of its kind', async () => {
  const folio = await folioOf();
  const letter = letterOf(folio);
  const wrong = await client.send<ProblemDetails>('PUT', writingPath(folio, 'letter'), {
    kind: 'letter',
    version: letter.version,
    content: emptyNote(),
  });
  expect(wrong).toMatchObject({ status: 400, body: { code: 'input' } });
  const other = await client.send<ProblemDetails>('PUT', writingPath(folio, 'letter'), {
    kind: 'note',
    version: letter.version,
    content: emptyNote(),
  });
  expect(other).toMatchObject({ status: 400, body: { detail: expect.stringContaining('another kind') } });
});

test('a second letter is added behind the first, which the papers are still made from, and deleted again', async () => {
  const folio = await folioOf();
  const { content } = letterOf(folio);
  const added = await client.send<Writing>('POST', `/folios/${folio.id}/writings`, {
    kind: 'letter',
    content: { ...content, name: 'Second' },
  });
  expect(added.body).toMatchObject({ kind: 'letter', name: 'Second', place: 1, version: 1 });
  const both = await client.get<Folio>(`/folios/${folio.id}`);
  expect(writingsOf(both.writings, 'letter').map(({ name }) => name)).toEqual([content.name, 'Second']);
  await client.press(server, folio.id);
  expect((await client.register(folio.id)).papers).toHaveLength(1);
  const remove = (id: string) => client.send<ProblemDetails>('DELETE', `/folios/${folio.id}/writings/${id}`);
  // Papers were made from the first one.
  expect(await remove(letterOf(folio).id)).toMatchObject({ status: 409, body: { code: 'in-use' } });
  expect((await remove(added.body.id)).status).toBe(200);
  expect(await remove(letterOf(folio).id)).toMatchObject({ status: 409, body: { code: 'last-of-kind' } });
});

test('versions with a name stay, and a copy is kept beside the text', async () => {
  const folio = await folioOf();
  const note = noteOf(folio);
  const path = writingPath(folio, 'note');
  const named = await client.send<KeptVersion>('POST', `${path}/versions`, { name: 'Before the trip' });
  expect(named.body).toMatchObject({ name: 'Before the trip', version: note.version, keptBy: 'Test' });
  const copied = { ...note.content, subject: [{ type: 'text', text: 'My copy' }] };
  await client.send('POST', `${path}/versions`, { name: 'Mine', copy: { kind: 'note', content: copied } });
  await client.send('PUT', path, {
    kind: 'note',
    version: note.version,
    content: { ...note.content, subject: [{ type: 'text', text: 'After' }] },
  });
  const { versions } = await client.get<KeptVersions>(`${path}/versions`);
  expect(versions.map(({ name, version }) => [name, version]).sort()).toEqual([
    ['Before the trip', note.version],
    ['Mine', null],
  ]);
  const mine = versions.find(({ name }) => name === 'Mine')!;
  expect((await client.get<Writing>(`${path}/versions/${mine.id}`)).content).toEqual(copied);
  expect((await client.get<Writing>(`${path}/versions/${named.body.id}`)).content).toEqual(note.content);
  const letter = { kind: 'letter', content: letterOf(folio).content };
  expect((await client.send('POST', `${path}/versions`, { name: 'X', copy: letter })).status).toBe(400);
});
