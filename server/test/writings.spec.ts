import type {
  DeletedWritings,
  DispatchPlan,
  Folio,
  KeptVersion,
  KeptVersions,
  ProblemDetails,
  Writing,
  WritingNow,
  WritingSaved,
} from '@scriptum/core/contract';
import type { Finding } from '@scriptum/core/preflight';
import { emptyNote, writingsOf, type Letter } from '@scriptum/core/template';
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

const addLetter = async (folio: Folio, name: string): Promise<Writing> => {
  const content = { ...letterOf(folio).content, name };
  return (await client.send<Writing>('POST', `/folios/${folio.id}/writings`, { kind: 'letter', content }))
    .body;
};
const lettersOf = async ({ id }: Folio): Promise<string[]> =>
  writingsOf((await client.get<Folio>(`/folios/${id}`)).writings, 'letter').map(({ name }) => name);
const remove = (folio: Folio, id: string) =>
  client.send<ProblemDetails>('DELETE', `/folios/${folio.id}/writings/${id}`);
const papersOf = async ({ id }: Folio): Promise<[string, string, boolean][]> =>
  (await client.register(id)).papers.map(({ fileName, state, outOfDate }) => [fileName, state, outOfDate]);

test('everybody gets a paper of each letter that is on, in their order', async () => {
  const folio = await folioOf();
  const second = await addLetter(folio, 'Second');
  expect(second).toMatchObject({ kind: 'letter', name: 'Second', place: 1, version: 1 });
  expect(await lettersOf(folio)).toEqual([letterOf(folio).name, 'Second']);
  await client.press(server, folio.id);
  const [first, other] = (await client.register(folio.id)).papers;
  expect([first!.templateId, other!.templateId]).toEqual([letterOf(folio).id, second.id]);
  expect(other!.fileName).toBe(first!.fileName.replace('.pdf', ' – Second.pdf'));
  // One message takes both along.
  const { body } = await client.send<DispatchPlan>('GET', `/folios/${folio.id}/dispatch`);
  expect(body.send.map(({ paperId }) => paperId)).toEqual([first!.id, other!.id]);
  const put = (content: object, version: number) =>
    client.send('PUT', `/folios/${folio.id}/writings/${second.id}`, { kind: 'letter', version, content });
  await put({ ...second.content, off: true }, 1);
  expect(await papersOf(folio)).toMatchObject([
    [first!.fileName, 'pressed', false],
    [other!.fileName, 'pressed', true],
  ]);
  // Switched on again it is as it was.
  await put(second.content, 2);
  expect((await papersOf(folio)).map(([, , outOfDate]) => outOfDate)).toEqual([false, false]);
  await client.send('PUT', `/folios/${folio.id}/writing-order`, {
    kind: 'letter',
    ids: [second.id, letterOf(folio).id],
  });
  expect(await lettersOf(folio)).toEqual(['Second', letterOf(folio).name]);
  const strange = { kind: 'letter', ids: [second.id, second.id] };
  expect(await client.send('PUT', `/folios/${folio.id}/writing-order`, strange)).toMatchObject({
    status: 409,
  });
});

test('where all letters are off nobody is pressed for, and it is told', async () => {
  const folio = await folioOf();
  const { id, version, content } = letterOf(folio);
  await client.send('PUT', `/folios/${folio.id}/writings/${id}`, {
    kind: 'letter',
    version,
    content: { ...content, off: true },
  });
  const { findings } = await client.get<{ findings: Finding[] }>(`/folios/${folio.id}/preflight`);
  expect(findings[0]).toMatchObject({ code: 'no-template', blocks: 'press' });
  expect(await client.send('POST', `/folios/${folio.id}/runs`, {})).toMatchObject({ status: 409 });
});

test('a letter that was deleted can be had back, with its papers', async () => {
  const folio = await folioOf();
  expect(await remove(folio, letterOf(folio).id)).toMatchObject({
    status: 409,
    body: { code: 'last-of-kind' },
  });
  const second = await addLetter(folio, 'Second');
  await client.press(server, folio.id);
  const before = await client.register(folio.id);
  expect((await remove(folio, second.id)).status).toBe(200);
  expect(await lettersOf(folio)).toEqual([letterOf(folio).name]);
  expect((await papersOf(folio)).map(([, , outOfDate]) => outOfDate)).toEqual([false, true]);
  const file = await client.raw('GET', `/folios/${folio.id}/papers/${before.papers[1]!.id}/file`);
  expect(file.status).toBe(200);
  const gone = `/folios/${folio.id}/writings/${second.id}`;
  expect((await client.send('GET', gone)).status).toBe(404);
  expect(
    (await client.send('PUT', gone, { kind: 'letter', version: 1, content: second.content })).status,
  ).toBe(404);
  expect((await remove(folio, second.id)).status).toBe(404);
  const { writings } = await client.get<DeletedWritings>(`/folios/${folio.id}/deleted-writings`);
  expect(writings).toEqual([
    { id: second.id, kind: 'letter', name: 'Second', deletedAt: expect.any(String) },
  ]);
  expect((await client.send<Writing>('POST', `${gone}/restore`, {})).body).toMatchObject({
    id: second.id,
    place: 1,
  });
  expect((await client.send('POST', `${gone}/restore`, {})).status).toBe(404);
  expect(await papersOf(folio)).toEqual(before.papers.map(({ fileName }) => [fileName, 'pressed', false]));
});

test('a letter of another folio is copied with its pictures, and matched to the roll here', async () => {
  const from = await folioOf();
  const drawing =
    '<svg xmlns="http://www.w3.org/2000/svg" width="10" height="10"><rect width="10" height="10"/></svg>';
  const added = await client.raw('POST', `/folios/${from.id}/assets?name=crest.svg`, Buffer.from(drawing));
  const { id: asset } = (await added.json()) as { id: string };
  await client.raw('POST', `/folios/${from.id}/assets?name=unused.svg`, Buffer.from(drawing));
  const picture = { type: 'picture', attrs: { asset, width: 20, align: 'left', alt: 'Crest' } };
  const item = { type: 'listItem', content: [picture] };
  const { content, version } = letterOf(from);
  const body = { type: 'doc', content: [...content.body.content, { type: 'bulletList', content: [item] }] };
  await client.send('PUT', writingPath(from, 'letter'), {
    kind: 'letter',
    version,
    content: { ...content, body },
  });
  const to = await client.folioOf('Name,Class\nBo,8A', { letter: ['Hello'] });
  const copy = { folioId: from.id, writingId: letterOf(from).id, name: 'Copied' };
  const { body: made } = await client.send<Writing>('POST', `/folios/${to.id}/writing-copies`, copy);
  const letter = made.content as Letter;
  const name = to.roll.columns.find(({ title }) => title === 'Name')!.id;
  expect(made).toMatchObject({ kind: 'letter', name: 'Copied', place: 1 });
  expect(letter.fields[0]).toMatchObject({ name: 'Name', columnId: name });
  const own = JSON.stringify(letter.body).match(/"asset":"([^"]+)"/)![1]!;
  expect(own).not.toBe(asset);
  expect((await client.raw('GET', `/folios/${to.id}/assets/${own}`)).status).toBe(200);
  expect((await client.get<Folio>(`/folios/${to.id}`)).assets.map(({ name: file }) => file)).toEqual([
    'crest.svg',
  ]);
  // Another school's is not there.
  const stranger = await newSchool(server);
  const theirs = await stranger.folioOf('Name\nX', { letter: ['x'] });
  for (const asked of [copy, { ...copy, folioId: theirs.id }])
    expect((await stranger.send('POST', `/folios/${theirs.id}/writing-copies`, asked)).status).toBe(404);
  expect((await stranger.send('POST', `/folios/${to.id}/writing-copies`, copy)).status).toBe(404);
  expect((await stranger.send('POST', `/folios/${to.id}/writings/${made.id}/restore`, {})).status).toBe(404);
  expect((await stranger.send('GET', `/folios/${to.id}/deleted-writings`)).status).toBe(404);
  expect(
    (await stranger.send('PUT', `/folios/${to.id}/writing-order`, { kind: 'letter', ids: [made.id] })).status,
  ).toBe(404);
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
