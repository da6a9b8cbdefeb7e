import type { DispatchPlan, Judged, PaperHistory, PaperLine } from '@scriptum/core/contract';
import { openSheetFile } from '@scriptum/core/workbook';
import { type Client, newSchool, startTestServer, type TestServer } from './testing/school.js';

let server: TestServer;
let client: Client;
beforeAll(async () => {
  server = await startTestServer();
  client = await newSchool(server);
});
afterAll(() => server.close());

async function pressed() {
  const folio = await client.folioOf('Name,Mail\nAnn,a@b.example\n=2+3,b@b.example\n', {
    letter: ['Dear {{Name}}'],
    file: '{{Name}}',
  });
  await client.press(server, folio.id);
  return { folio, papers: (await client.register(folio.id)).papers };
}
const voidThem = (folioId: string, papers: readonly PaperLine[], reason: string, who = client) =>
  who.send<Judged>('POST', `/folios/${folioId}/papers/void`, {
    paperIds: papers.map(({ id }) => id),
    reason,
  });

test('a voided paper counts no more, stays with its reason, and another one can be made', async () => {
  const { folio, papers } = await pressed();
  expect((await voidThem(folio.id, papers.slice(0, 1), '  ')).status).toBe(400);
  expect((await voidThem(folio.id, papers.slice(0, 1), 'Wrong name')).body).toMatchObject({ done: 1 });
  const after = await client.register(folio.id);
  expect(after.papers.map(({ learner, state, note, judgedBy }) => [learner, state, note, judgedBy])).toEqual([
    ['Ann', 'void', 'Wrong name', 'Test'],
    ['=2+3', 'pressed', null, null],
  ]);
  // Neither mailed nor packed, and its file can still be looked at.
  expect(
    (await client.get<DispatchPlan>(`/folios/${folio.id}/dispatch`)).send.map(({ learner }) => learner),
  ).toEqual(['=2+3']);
  expect((await client.raw('GET', `/folios/${folio.id}/papers/${papers[0]!.id}/file`)).status).toBe(200);
  // Once more is passed over, and nobody of another school can do it.
  expect((await voidThem(folio.id, papers.slice(0, 1), 'again')).body).toMatchObject({
    done: 0,
    passedOver: 1,
  });
  expect((await voidThem(folio.id, papers, 'x', await newSchool(server))).status).toBe(404);
  const again = await client.press(server, folio.id);
  expect([again.run!.total, again.upToDate]).toEqual([1, 1]);
  const now = (await client.register(folio.id)).papers.filter(({ learner }) => learner === 'Ann');
  expect(now.map(({ state }) => state).sort()).toEqual(['pressed', 'void']);
});

test('messages that wait do not leave with a voided paper', async () => {
  const { folio, papers } = await pressed();
  const { planId } = await client.get<DispatchPlan>(`/folios/${folio.id}/dispatch`);
  await server.running.outbox.idle();
  const sent = client.send('POST', `/folios/${folio.id}/dispatch`, { planId });
  await sent;
  await server.running.outbox.idle();
  // One that was sent can be voided too; its message stays as it was.
  expect((await voidThem(folio.id, papers.slice(0, 1), 'Sent to the wrong family')).body.done).toBe(1);
  const [ann] = (await client.register(folio.id)).papers;
  expect([ann!.state, ann!.message?.state]).toEqual(['void', 'sent']);
  await server.running.database.query("UPDATE message SET state = 'queued' WHERE folioId = ?", [folio.id]);
  await server.running.database.query("UPDATE paper SET state = 'cleared' WHERE folioId = ? AND id = ?", [
    folio.id,
    papers[1]!.id,
  ]);
  await voidThem(folio.id, papers.slice(1), 'x');
  const left = await server.running.database.query<unknown[]>(
    'SELECT 1 FROM message m JOIN enclosure c ON c.messageId = m.id WHERE c.paperId = ?',
    [papers[1]!.id],
  );
  expect(left).toEqual([]);
});

test('the history of a paper tells what it was made from and what became of it', async () => {
  const { folio, papers } = await pressed();
  const history = (who = client) =>
    who.send<PaperHistory>('GET', `/folios/${folio.id}/papers/${papers[0]!.id}/history`);
  await client.send('POST', `/folios/${folio.id}/papers/hold`, {
    paperIds: [papers[0]!.id],
    hold: true,
    note: 'ask',
  });
  await client.send('POST', `/folios/${folio.id}/papers/hold`, { paperIds: [papers[0]!.id], hold: false });
  await client.send('PATCH', `/folios/${folio.id}/roll`, {
    cells: [{ entryId: folio.roll.entries[0]!.id, columnId: folio.roll.columns[0]!.id, text: 'Anna' }],
  });
  await client.press(server, folio.id);
  const { body } = await history();
  expect(body.steps.map(({ kind, by, note }) => [kind, by, note])).toEqual([
    ['pressed', 'Test', null],
    ['held', 'Test', 'ask'],
    ['cleared', 'Test', null],
    ['superseded', null, null],
  ]);
  expect(body).toMatchObject({
    version: 1,
    template: { version: 2 },
    values: [{ name: 'Name', text: 'Ann' }],
  });
  expect((await history(await newSchool(server))).status).toBe(404);
});

test('the register is saved as a file that a spreadsheet reads, formulas made harmless', async () => {
  const { folio } = await pressed();
  const file = async (kind: string): Promise<Uint8Array> => {
    const response = await client.raw('GET', `/folios/${folio.id}/register-file?kind=${kind}`);
    expect(response.status).toBe(200);
    expect(response.headers.get('content-disposition')).toContain(`.${kind}`);
    return new Uint8Array(await response.arrayBuffer());
  };
  // RFC 4180.
  const csv = new TextDecoder().decode(await file('csv'));
  expect(csv).toContain('"Learner","Paper","Number","Replaces","File","State"');
  expect(csv).toContain(`"'=2+3"`);
  const opened = openSheetFile(await file('xlsx'));
  if (!opened.ok) throw new Error(opened.problem.message);
  let n = 0;
  const laidOut = opened.value.layOut({}, () => `i${++n}`);
  if (!laidOut.ok) throw new Error(laidOut.problem.message);
  expect(laidOut.value.sheet.columns.map(({ title }) => title).slice(0, 6)).toEqual([
    'Learner',
    'Paper',
    'Number',
    'Replaces',
    'File',
    'State',
  ]);
  expect((await client.raw('GET', `/folios/${folio.id}/register-file?kind=exe`)).status).toBe(400);
  expect(
    (await (await newSchool(server)).raw('GET', `/folios/${folio.id}/register-file?kind=csv`)).status,
  ).toBe(404);
});
