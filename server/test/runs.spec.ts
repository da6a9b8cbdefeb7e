import type { Folio, RunLine, RunStarted, Tried } from '@scriptum/core/contract';
import { PaperRow } from '@scriptum/server/store/entities/register';
import { simpleParser } from 'mailparser';
import { pdfText } from './testing/pdf.js';
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

const runs = async (folioId: string): Promise<RunLine[]> =>
  (await client.get<{ runs: RunLine[] }>(`/folios/${folioId}/runs`)).runs;
async function press(folioId: string, asked: object): Promise<RunStarted> {
  const { body } = await client.send<RunStarted>('POST', `/folios/${folioId}/runs`, asked);
  if (body.run) await server.running.press.ended(body.run.id);
  return body;
}

test('only what is asked for is pressed: new papers, those out of date, those that failed', async () => {
  const folio = await client.folioOf('Name,Mail\nAnn,a@b.example\nBo,b@b.example\nCy,c@b.example\n', {
    letter: ['Dear {{Name}}'],
  });
  const [ann, bo] = folio.roll.entries;
  expect((await press(folio.id, { entryIds: [ann!.id, bo!.id] })).run!.total).toBe(2);
  await client.send('PATCH', `/folios/${folio.id}/roll`, {
    cells: [{ entryId: bo!.id, columnId: folio.roll.columns[0]!.id, text: 'Bob' }],
  });
  expect(await press(folio.id, { only: ['failed'] })).toMatchObject({ run: null, upToDate: 1 });
  expect((await press(folio.id, { only: ['old'] })).run!.total).toBe(1);
  expect(await press(folio.id, { only: ['old'] })).toMatchObject({ run: null, upToDate: 2 });
  expect((await press(folio.id, { only: ['new'] })).run!.total).toBe(1);
  // One that failed is asked for by itself.
  await server.running.database.query(
    "UPDATE paper SET state = 'failed', blobHash = NULL, reason = 'Too long.' WHERE folioId = ? AND entryId = ?",
    [folio.id, ann!.id],
  );
  expect((await press(folio.id, { only: ['new', 'old'] })).run).toBeNull();
  const [, , first] = await runs(folio.id);
  expect(first).toMatchObject({
    by: 'Test',
    total: 2,
    pressed: 1,
    failed: 1,
    asked: { entryIds: [ann!.id, bo!.id] },
    failures: [{ entryId: ann!.id, learner: 'Ann', reason: 'Too long.' }],
  });
  expect(first!.templates).toEqual([{ name: letterOf(folio).content.name, version: 2, papers: 1 }]);
  expect((await press(folio.id, { only: ['failed'] })).run!.total).toBe(1);
  const list = await runs(folio.id);
  expect(list).toHaveLength(4);
  expect(list[3]!.failures).toEqual([]);
  const stranger = await newSchool(server);
  expect((await stranger.send('GET', `/folios/${folio.id}/runs`)).status).toBe(404);
});

test('a run keeps the versions that it was planned from: what is changed meanwhile is in none of its papers', async () => {
  const rows = Array.from({ length: 200 }, (_, n) => `Learner ${n},Mark ${n}`);
  const folio = await client.folioOf(`Name,Mark\n${rows.join('\n')}`, {
    letter: ['Dear {{Name}}: {{Mark}}'],
  });
  const { body } = await client.send<RunStarted>('POST', `/folios/${folio.id}/runs`, {});
  const { content, version } = letterOf(await client.get<Folio>(`/folios/${folio.id}`));
  const words = JSON.stringify(content).replace('Dear ', 'Hello ');
  await client.send('PUT', writingPath(folio, 'letter'), {
    kind: 'letter',
    version,
    content: JSON.parse(words) as object,
  });
  await client.send('PATCH', `/folios/${folio.id}/roll`, {
    cells: folio.roll.entries.map(({ id }) => ({
      entryId: id,
      columnId: folio.roll.columns[1]!.id,
      text: 'Other',
    })),
  });
  const { manager } = server.running.database;
  await server.running.press.ended(body.run!.id);
  const papers = await manager.findBy(PaperRow, { runId: body.run!.id, state: 'pressed' });
  expect(papers).toHaveLength(200);
  expect(new Set(papers.map(({ templateVersion }) => templateVersion))).toEqual(new Set([version]));
  for (const paper of [...papers.slice(0, 3), ...papers.slice(-3)]) {
    const file = await client.raw('GET', `/folios/${folio.id}/papers/${paper.id}/file`);
    expect(pdfText(Buffer.from(await file.arrayBuffer()))).toContain(
      `Dear ${paper.learner}: Mark ${paper.learner.slice(8)}`,
    );
  }
  // What was changed is not lost either: all of them are out of date.
  expect((await press(folio.id, { only: ['old'] })).run!.total).toBe(200);
});

test('a try goes to oneself, with the papers as they would come out, and leaves nothing behind', async () => {
  const folio = await client.folioOf('Name,Mail\nAnn,family@home.example\nŁukasz,x@home.example\n', {
    letter: ['Dear {{Name}}'],
    file: '{{Name}}',
  });
  const entryIds = folio.roll.entries.map(({ id }) => id);
  const { status, body } = await client.send<Tried>('POST', `/folios/${folio.id}/tries`, { entryIds });
  expect([status, body]).toEqual([
    200,
    { to: expect.stringContaining('@saltmarsh.example'), papers: 2, messages: 1 },
  ]);
  const mails = await server.running.database.query<{ mailbox: string; raw: Buffer }[]>(
    'SELECT mailbox, raw FROM practice_mail WHERE mailbox = ? OR mailbox LIKE ?',
    [body.to, '%home.example'],
  );
  expect(mails.map(({ mailbox }) => mailbox)).toEqual([body.to]);
  const mail = await simpleParser(mails[0]!.raw);
  expect(mail.subject).toBe('Try: Test');
  expect(mail.text).toContain('It went to you alone; no family got anything.');
  expect(mail.attachments.map(({ filename }) => filename)).toEqual(['Ann.pdf', 'Łukasz.pdf']);
  expect(pdfText(mail.attachments[1]!.content)).toContain('Dear Łukasz');
  const { papers } = await client.register(folio.id);
  expect(papers).toEqual([]);
  // Nobody of another school is tried, and a paper that cannot be set is said.
  const other = await newSchool(server);
  expect((await other.send('POST', `/folios/${folio.id}/tries`, { entryIds })).status).toBe(404);
  expect(
    (await client.send('POST', `/folios/${folio.id}/tries`, { entryIds: ['gone567890123456'] })).status,
  ).toBe(409);
});

test('what blocks a press is not in the way of a try; what cannot be mailed is told', async () => {
  const folio = await client.folioOf('Name,Mail\nAnn,a@b.example\n', { letter: ['Dear {{Name}}'] });
  const { content, version } = letterOf(folio);
  const fields = content.fields.map((field) => ({ ...field, columnId: null }));
  await client.send('PUT', writingPath(folio, 'letter'), {
    version,
    kind: 'letter',
    content: { ...content, fields },
  });
  const entryIds = [folio.roll.entries[0]!.id];
  expect((await client.send('POST', `/folios/${folio.id}/runs`, {})).status).toBe(409);
  expect((await client.send('POST', `/folios/${folio.id}/tries`, { entryIds })).status).toBe(200);
});
