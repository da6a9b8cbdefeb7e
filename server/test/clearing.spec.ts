import type { DispatchPlan, Judged, PaperLine, Proof, SchoolWishes } from '@scriptum/core/contract';
import { FolioRow } from '@scriptum/server/store/entities/folio';
import { Staff } from '@scriptum/server/store/entities/people';
import { newId } from '@scriptum/server/store/id';
import { hashPassword } from '@scriptum/server/store/password';
import { PRINT, packOf } from './testing/packs.js';
import { pdfText } from './testing/pdf.js';
import {
  Client,
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
// What a school wants is its own.
beforeEach(async () => {
  client = await newSchool(server);
});
afterAll(() => server.close());

const SHEET = 'Name,Mark,Mail\nAnn,71,a@b.example\nBo,60,b@b.example\nCy,50,c@b.example\n';
const judge = (who: Client, folioId: string, papers: readonly PaperLine[], hold: boolean, note?: string) =>
  who.send<Judged & { code: string; detail: string }>('POST', `/folios/${folioId}/papers/hold`, {
    paperIds: papers.map(({ id }) => id),
    hold,
    note,
  });
/** Somebody else of the same school. */
async function colleague(folioId: string): Promise<Client> {
  const { manager } = server.running.database;
  const { schoolId } = await manager.findOneByOrFail(FolioRow, { id: folioId });
  const email = `${newId()}@saltmarsh.example`;
  await manager.insert(Staff, {
    id: newId(),
    schoolId,
    email,
    name: 'Colleague',
    passwordHash: await hashPassword('correct horse'),
  });
  const other = new Client(server.running.url);
  await other.signIn(email, 'correct horse');
  return other;
}
async function pressed() {
  const folio = await client.folioOf(SHEET, { letter: ['Dear {{Name}}, {{Mark}} points'] });
  await client.press(server, folio.id);
  return { folio, papers: (await client.register(folio.id)).papers };
}

test('a paper is cleared or held with a note, and it is told by whom and when', async () => {
  const { folio, papers } = await pressed();
  expect((await judge(client, folio.id, papers.slice(0, 2), false)).body).toEqual({
    done: 2,
    own: 0,
    passedOver: 0,
  });
  await judge(client, folio.id, papers.slice(2), true, ' Ask the teacher. ');
  const now = (await client.register(folio.id)).papers;
  expect(now.map(({ state, judgedBy, note }) => [state, judgedBy, note])).toEqual([
    ['cleared', 'Test', null],
    ['cleared', 'Test', null],
    ['held', 'Test', 'Ask the teacher.'],
  ]);
  expect(now[0]!.judgedAt).toMatch(/^\d{4}-\d\d-\d\dT/);
  // Cleared once more is passed over; another school has nothing to say.
  expect((await judge(client, folio.id, papers.slice(0, 1), false)).body).toMatchObject({
    done: 0,
    passedOver: 1,
  });
  const stranger = await newSchool(server);
  expect((await judge(stranger, folio.id, papers, false)).status).toBe(404);
  expect((await stranger.send('GET', `/folios/${folio.id}/papers/${papers[0]!.id}/proof`)).status).toBe(404);
});

test('where the school wants it nothing leaves that is not cleared', async () => {
  const { folio, papers } = await pressed();
  const plan = () => client.get<DispatchPlan>(`/folios/${folio.id}/dispatch`);
  expect(await client.get<SchoolWishes>('/wishes')).toEqual({ clearing: 'free' });
  expect((await plan()).send).toHaveLength(3);
  await client.send('PUT', '/wishes', { clearing: 'cleared' });
  expect(await plan()).toMatchObject({ send: [], notCleared: 3 });
  await judge(client, folio.id, papers.slice(0, 1), false);
  expect(await plan()).toMatchObject({ send: [{ learner: 'Ann' }], notCleared: 2 });
  expect((await client.send('PUT', '/wishes', { clearing: 'sometimes' })).status).toBe(400);
});

test('what may not be mailed is not printed either', async () => {
  const { folio, papers } = await pressed();
  const printed = async (): Promise<string[]> => {
    const { status, bytes } = await packOf(client, folio.id, PRINT);
    return status === 200 ? (pdfText(bytes).match(/Dear \w+/g) ?? []) : [];
  };
  expect(await printed()).toEqual(['Dear Ann', 'Dear Bo', 'Dear Cy']);
  await client.send('PATCH', `/folios/${folio.id}/roll`, {
    cells: [{ entryId: folio.roll.entries[0]!.id, columnId: folio.roll.columns[1]!.id, text: '72' }],
  });
  await client.register(folio.id);
  expect(await printed()).toEqual(['Dear Bo', 'Dear Cy']);
  await client.send('PUT', '/wishes', { clearing: 'cleared' });
  expect(await printed()).toEqual([]);
  await judge(client, folio.id, papers.slice(1, 2), false);
  expect(await printed()).toEqual(['Dear Bo']);
});

test('somebody else than who pressed them clears them, where the school wants it so', async () => {
  const { folio, papers } = await pressed();
  await client.send('PUT', '/wishes', { clearing: 'other' });
  const own = await judge(client, folio.id, papers, false);
  expect([own.status, own.body.code]).toEqual([409, 'own-papers']);
  const other = await colleague(folio.id);
  await other.press(server, folio.id, [folio.roll.entries[0]!.id]);
  // Holding back is everybody's right.
  expect((await judge(client, folio.id, papers.slice(0, 1), true)).body.done).toBe(1);
  expect((await judge(other, folio.id, papers, false)).body).toEqual({ done: 3, own: 0, passedOver: 0 });
  expect((await client.register(folio.id)).papers.map(({ judgedBy }) => judgedBy)).toEqual(
    Array(3).fill('Colleague'),
  );
});

test('a cleared paper that changed is to be cleared again, and says what is another one in it', async () => {
  const { folio, papers } = await pressed();
  await judge(client, folio.id, papers, false);
  const mark = folio.roll.columns[1]!.id;
  await client.send('PATCH', `/folios/${folio.id}/roll`, {
    cells: [{ entryId: folio.roll.entries[0]!.id, columnId: mark, text: '74' }],
  });
  await client.press(server, folio.id);
  const first = (await client.register(folio.id)).papers.filter(({ state }) => state !== 'superseded');
  expect(first.map(({ learner, state, changed }) => [learner, state, changed])).toEqual([
    ['Ann', 'pressed', 'Since it was cleared, Mark (71 → 74) changed.'],
    ['Bo', 'cleared', null],
    ['Cy', 'cleared', null],
  ]);
  await judge(client, folio.id, first.slice(0, 1), false);
  const { content, version } = letterOf(folio);
  const body = { type: 'doc', content: [...content.body.content, { type: 'paragraph' }] };
  await client.send('PUT', writingPath(folio, 'letter'), {
    version,
    kind: 'letter',
    content: { ...content, body },
  });
  await client.press(server, folio.id);
  const second = (await client.register(folio.id)).papers.filter(({ state }) => state !== 'superseded');
  expect(second[0]).toMatchObject({
    state: 'pressed',
    changed: 'Since it was cleared, the text of the template changed.',
  });
});

test('a pressed paper is shown as it was made, whatever was changed since', async () => {
  const { folio, papers } = await pressed();
  const proof = () => client.get<Proof>(`/folios/${folio.id}/papers/${papers[0]!.id}/proof`);
  const before = await proof();
  expect(before.pages).toHaveLength(1);
  await client.send('PATCH', `/folios/${folio.id}/roll`, {
    cells: [
      { entryId: folio.roll.entries[0]!.id, columnId: folio.roll.columns[0]!.id, text: 'Somebody else' },
    ],
  });
  const { content, version } = letterOf(folio);
  await client.send('PUT', writingPath(folio, 'letter'), {
    version,
    kind: 'letter',
    content: { ...content, font: { ...content.font, size: 20 } },
  });
  expect((await proof()).pages).toEqual(before.pages);
});
