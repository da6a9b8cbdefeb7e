import type { Folio, FolioSummary, KeptVersions, Writing } from '@scriptum/core/contract';
import type { Letter } from '@scriptum/core/template';
import { databaseOfVersion } from './testing/fixture.js';
import { ScriptedMailServer } from './testing/mail-server.js';
import { pdfText } from './testing/pdf.js';
import { Client, letterOf, noteOf, startTestServer, type TestServer, writingPath } from './testing/school.js';

/** The database of version 4: what stood in it is known from its own version (see the head of the file). */
let server: TestServer;
let client: Client;
let folio: Folio;
const mail = new ScriptedMailServer();
beforeAll(async () => {
  server = await startTestServer({ SCRIPTUM_SMTP_URL: await mail.listen() }, await databaseOfVersion(4));
  client = new Client(server.running.url);
  await client.signIn('office@saltmarsh.example', 'correct horse');
  const { folios } = await client.get<{ folios: FolioSummary[] }>('/folios');
  expect(folios).toHaveLength(1);
  folio = await client.get<Folio>(`/folios/${folios[0]!.id}`);
});
afterAll(async () => {
  await server.close();
  await mail.close();
});

test('letters, notes and names of files come through, with their versions', async () => {
  expect(folio.writings.map(({ kind, place }) => `${kind} ${place}`).sort()).toEqual([
    'filing 0',
    'letter 0',
    'note 0',
    'sorting 0',
  ]);
  const letter = letterOf(folio);
  expect(letter).toMatchObject({
    name: 'Test',
    version: 4,
    content: { language: 'de-DE', page: { width: 210, height: 297 } },
  });
  expect(letter.content.page).not.toHaveProperty('size');
  expect(noteOf(folio)).toMatchObject({ name: 'Cover note', version: 3 });
  expect(JSON.stringify(noteOf(folio).content)).toContain('The letter of ');
  // Papers were pressed from two versions of the letter; both can be had again.
  const path = writingPath(folio, 'letter');
  const { versions } = await client.get<KeptVersions>(`${path}/versions`);
  expect(versions.map(({ version }) => version)).toEqual([3, 2]);
  const kept = await Promise.all(
    versions.map(async ({ id }) => (await client.get<Writing>(`${path}/versions/${id}`)).content as Letter),
  );
  expect(kept.map(({ body }) => body.content.some(({ type }) => type === 'picture'))).toEqual([true, false]);
});

test('the roll, its mend, the one who is left out and the worked column come through', () => {
  const { columns, entries } = folio.roll;
  expect(columns.map(({ title }) => title)).toEqual([
    'Student number',
    'Name',
    'Class',
    'Guardian email',
    'Mark',
    'Award',
  ]);
  expect(entries).toHaveLength(6);
  expect(Object.values(entries[1]!.mends!)).toEqual([{ text: '64' }]);
  expect(entries[5]!.leftOut).toBe('moved away');
  expect(folio.assets).toMatchObject([{ name: 'crest.png' }]);
});

test('papers keep their files and states, and messages theirs', async () => {
  const { papers, dispatch } = await client.register(folio.id);
  expect(papers.map(({ learner, state, message }) => [learner, state, message?.state])).toEqual([
    ['Ilse Brandt', 'cleared', 'deferred'],
    ['Ilse Brandt', 'superseded', 'sent'],
    ['Wilhelmina van der Veldt', 'cleared', 'refused'],
    ['Wilhelmina van der Veldt', 'superseded', 'sent'],
    ['Amara Okonjo', 'dispatched', 'sent'],
    ['محمد السعدي', 'held', undefined],
    ['Łukasz Wójcik', 'pressed', undefined],
  ]);
  expect(dispatch).toMatchObject({ total: 5, sent: 3, waiting: 1, refused: 1 });
  const file = await client.raw('GET', `/folios/${folio.id}/papers/${papers[4]!.id}/file`);
  expect(pdfText(new Uint8Array(await file.arrayBuffer()))).toContain('your mark is 88');
});

test('what was sent is not sent again, and what is new goes its way', async () => {
  const before = (await client.register(folio.id)).papers.length;
  const run = await client.press(server, folio.id);
  // The letter was changed after the last run, so all five are pressed anew.
  expect(run.run?.total).toBe(5);
  const { papers } = await client.register(folio.id);
  expect(papers).toHaveLength(before + 5);
  const plan = await client.get<{
    planId: string;
    send: { learner: string }[];
    again: { learner: string }[];
  }>(`/folios/${folio.id}/dispatch`);
  // Held stays held; who has had a letter gets another one only where that is asked for.
  expect(plan.send).toEqual([]);
  expect(plan.again.map(({ learner }) => learner)).toEqual([
    'Ilse Brandt',
    'Wilhelmina van der Veldt',
    'Amara Okonjo',
  ]);
  await client.send('POST', `/folios/${folio.id}/dispatch`, { planId: plan.planId, again: false });
  await server.running.outbox.idle();
  expect(mail.taken).toEqual([]);
  await client.send('POST', `/folios/${folio.id}/dispatch`, { planId: plan.planId, again: true });
  await server.running.outbox.idle();
  expect(mail.taken.map(({ to }) => to).sort()).toEqual([
    'brandt.family@families.example',
    'okonjo@families.example',
    'vanderveldt@families.example',
  ]);
  // The note that they were made from is kept.
  const { versions } = await client.get<KeptVersions>(`${writingPath(folio, 'note')}/versions`);
  expect(versions.map(({ version }) => version)).toEqual([noteOf(folio).version]);
});

test('the other school has its own, and nothing of this one; its papers are still up to date', async () => {
  const other = new Client(server.running.url);
  await other.signIn('office@heathfield.example', 'correct horse');
  const { folios } = await other.get<{ folios: FolioSummary[] }>('/folios');
  expect(folios.map(({ title }) => title).sort()).toEqual(['Nothing yet', 'Test']);
  const theirs = await other.get<Folio>(`/folios/${folios.find(({ title }) => title === 'Nothing yet')!.id}`);
  expect(theirs.writings).toHaveLength(4);
  const pressed = folios.find(({ title }) => title === 'Test')!.id;
  const { papers } = await other.register(pressed);
  expect(papers.map(({ state, outOfDate }) => [state, outOfDate])).toEqual([['pressed', false]]);
  expect(await other.press(server, pressed)).toEqual({ run: null, upToDate: 1 });
  expect((await other.send('GET', writingPath(folio, 'letter'))).status).toBe(404);
});
