import { createServer, type Server, type Socket } from 'node:net';
import type { AddressInfo } from 'node:net';
import type { DispatchPlan, Folio, Mailboxes, MailList } from '@scriptum/core/contract';
import { MessageRow, PracticeMailRow } from '@scriptum/server/store/entities/register';
import { simpleParser } from 'mailparser';
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
  client = await newSchool(server, 'Saltmarsh – Schule für Übung');
});
afterAll(() => server.close());

const plan = (folio: Folio, who = client): Promise<DispatchPlan> =>
  who.get<DispatchPlan>(`/folios/${folio.id}/dispatch`);
async function dispatch(
  folio: Folio,
  again = false,
  at = server,
  who = client,
): Promise<{ status: number; body: { queued: number } }> {
  const reply = await who.send<{ queued: number }>('POST', `/folios/${folio.id}/dispatch`, {
    planId: (await plan(folio, who)).planId,
    again,
  });
  await at.running.outbox.idle();
  return reply;
}
const inbox = (mailbox: string): Promise<MailList> =>
  client.get<MailList>(`/practice-post/messages?mailbox=${encodeURIComponent(mailbox)}`);

test('a message reads back as it was meant (mailparser; RFC 2047 subject, RFC 2231 file name)', async () => {
  const folio = await client.folioOf('Name,Mail\nŁukasz Żak-Øst 王,lukasz@families.example', {
    letter: ['Dear {{Name}}'],
    subject: 'Rückmeldung für {{Name}} ✓',
    body: 'Liebe Familie von {{Name}}',
    file: 'Brücke/{{Name}} – Größe',
  });
  await client.press(server, folio.id);
  expect((await dispatch(folio)).body).toEqual({ queued: 1 });
  const { messages } = await inbox('lukasz@families.example');
  expect(messages).toMatchObject([{ subject: 'Rückmeldung für Łukasz Żak-Øst 王 ✓', attachments: 1 }]);
  const row = await server.running.database.manager.findOneByOrFail(PracticeMailRow, { id: messages[0]!.id });
  const raw = row.raw.toString('latin1');
  // Nothing but ASCII leaves (RFC 5322 2.1, without SMTPUTF8), in lines of at most 998 characters (2.1.1).
  expect(raw).toMatch(/^[\r\n\t\u0020-\u007e]*$/);
  expect(Math.max(...raw.split('\r\n').map((line) => line.length))).toBeLessThanOrEqual(998);
  expect(raw).toMatch(/^Subject: =\?UTF-8\?[QB]\?/m);
  expect(raw).toMatch(/filename\*0\*=utf-8''|filename\*=utf-8''/i);
  const mail = await simpleParser(row.raw);
  expect(mail.attachments[0]).toMatchObject({
    filename: 'Łukasz Żak-Øst 王 – Größe.pdf',
    contentType: 'application/pdf',
  });
  expect(mail.attachments[0]!.content.subarray(0, 5).toString()).toBe('%PDF-');
  expect(mail.from?.value[0]).toEqual({
    name: 'Saltmarsh – Schule für Übung',
    address: 'office@thistlequay.example',
  });
  expect(mail.text).toContain('Liebe Familie von Łukasz');
  expect(mail.html).toContain('Łukasz');
  const message = await server.running.database.manager.findOneByOrFail(MessageRow, { folioId: folio.id });
  expect(mail.messageId).toBe(message.messageId);
});

test('a second click, a second run and a restart send nothing again', async () => {
  const own = await startTestServer();
  const person = await newSchool(own);
  const folio = await person.folioOf('Name,Mail\nA,a@families.example\nB,b@families.example', {
    letter: ['Dear {{Name}}'],
  });
  await person.press(own, folio.id);
  const { planId } = await plan(folio, person);
  const clicks = await Promise.all(
    [1, 2, 3].map(() => person.send<{ queued?: number }>('POST', `/folios/${folio.id}/dispatch`, { planId })),
  );
  expect(clicks.map(({ status }) => status).sort()).toEqual([200, 409, 409]);
  await own.running.outbox.idle();
  await person.press(own, folio.id);
  expect((await dispatch(folio, true, own, person)).body).toEqual({ queued: 0 });
  const again = await own.restart();
  await again.running.outbox.idle();
  expect(await again.running.database.manager.count(PracticeMailRow)).toBe(2);
  await again.close();
});

test('a new version goes to those who have an earlier one only when asked for', async () => {
  const folio = await client.folioOf('Name,Mail\nC,c@families.example', { letter: ['Dear {{Name}}'] });
  await client.press(server, folio.id);
  await dispatch(folio);
  await client.send('PUT', writingPath(folio, 'letter'), {
    version: letterOf(folio).version,
    kind: 'letter',
    content: { ...letterOf(folio).content, language: 'de-DE' },
  });
  expect(await plan(folio)).toMatchObject({ send: [], again: [] });
  await client.press(server, folio.id);
  expect(await plan(folio)).toMatchObject({ send: [], again: [{ learner: 'C' }] });
  expect((await dispatch(folio)).body).toEqual({ queued: 0 });
  expect((await dispatch(folio, true)).body).toEqual({ queued: 1 });
  expect((await inbox('c@families.example')).messages).toHaveLength(2);
});

test('held papers, papers out of date and people without an address stay behind, and it is said', async () => {
  const folio = await client.folioOf(
    'Name,Mail\nD,d@families.example\nE,\nF,f at home\nG,g@families.example',
    { letter: ['Dear {{Name}}'] },
  );
  await client.press(server, folio.id);
  const held = (await client.register(folio.id)).papers.find((paper) => paper.learner === 'G')!;
  await client.send('POST', `/folios/${folio.id}/papers/hold`, { paperIds: [held.id], hold: true });
  expect(await plan(folio)).toMatchObject({
    send: [{ learner: 'D', to: 'd@families.example' }],
    held: 1,
    noAddress: [
      { learner: 'E', reason: 'no email address' },
      { learner: 'F', reason: expect.stringContaining('space') },
    ],
  });
  await client.send('PUT', writingPath(folio, 'letter'), {
    version: letterOf(folio).version,
    kind: 'letter',
    content: { ...letterOf(folio).content, language: 'de-DE' },
  });
  expect(await plan(folio)).toMatchObject({ send: [], outOfDate: 1 });
  expect((await client.send('POST', `/folios/${folio.id}/dispatch`, { planId: 'another' })).status).toBe(409);
  expect((await inbox('d@families.example')).messages).toEqual([]);
});

test('the roll stays once letters have gone out', async () => {
  const folio = await client.folioOf('Name,Mail\nH,h@families.example', { letter: ['Dear {{Name}}'] });
  await client.press(server, folio.id);
  await dispatch(folio);
  expect(await client.bringIn(folio.id, 'x.csv', 'Name,Mail\nI,i@families.example')).toMatchObject({
    status: 409,
    body: { code: 'roll-in-use' },
  });
});

test('a no for good is refused, a no for now is tried again later (RFC 5321 4.2.1), a person can send it again', async () => {
  const folio = await client.folioOf('Name,Mail\nJ,j@refuse.example\nK,k@later.example', {
    letter: ['Dear {{Name}}'],
  });
  await client.press(server, folio.id);
  await dispatch(folio);
  const state = async (name: string) =>
    (await client.register(folio.id)).papers.find((paper) => paper.learner === name)!;
  expect((await state('J')).message).toMatchObject({
    state: 'refused',
    answer: expect.stringContaining('No such mailbox'),
  });
  expect((await state('K')).message).toMatchObject({
    state: 'deferred',
    answer: expect.stringContaining('busy'),
  });
  expect((await state('J')).state).toBe('cleared');
  const { id } = (await state('J')).message!;
  expect((await client.send('POST', `/folios/${folio.id}/messages/${id}/again`, {})).status).toBe(200);
  await server.running.outbox.idle();
  expect((await state('J')).message).toMatchObject({ state: 'refused' });
});

test('what a dead server was sending is unconfirmed and waits for a person', async () => {
  const own = await startTestServer();
  const person = await newSchool(own);
  const folio = await person.folioOf('Name,Mail\nL,l@families.example', { letter: ['Dear {{Name}}'] });
  await person.press(own, folio.id);
  await dispatch(folio, false, own, person);
  await own.running.database.query("UPDATE message SET state = 'sending'");
  const again = await own.restart();
  await again.running.outbox.idle();
  const row = await again.running.database.manager.findOneByOrFail(MessageRow, { folioId: folio.id });
  expect(row.state).toBe('unconfirmed');
  expect(await again.running.database.manager.count(PracticeMailRow)).toBe(1);
  await again.close();
});

test('a server that hangs up after the text leaves the message unconfirmed, not sent twice', async () => {
  const rude = await rudeMailServer();
  const own = await startTestServer({
    SCRIPTUM_SMTP_URL: `smtp://127.0.0.1:${(rude.server.address() as AddressInfo).port}`,
  });
  const person = await newSchool(own);
  const folio = await person.folioOf('Name,Mail\nM,m@families.example', { letter: ['Dear {{Name}}'] });
  await person.press(own, folio.id);
  await dispatch(folio, false, own, person);
  const row = await own.running.database.manager.findOneByOrFail(MessageRow, { folioId: folio.id });
  expect(row.state).toBe('unconfirmed');
  expect(rude.texts()).toBe(1);
  await own.close();
  rude.server.close();
});

test('a mail server that is not there defers, and it is no fault of the message', async () => {
  const own = await startTestServer({ SCRIPTUM_SMTP_URL: 'smtp://127.0.0.1:1' });
  const person = await newSchool(own);
  const folio = await person.folioOf('Name,Mail\nN,n@families.example', { letter: ['Dear {{Name}}'] });
  await person.press(own, folio.id);
  await dispatch(folio, false, own, person);
  expect(await own.running.database.manager.findOneByOrFail(MessageRow, { folioId: folio.id })).toMatchObject(
    { state: 'deferred', attempts: 0 },
  );
  await own.close();
});

test('each school has its own mailboxes, and their HTML cannot run', async () => {
  const other = await newSchool(server, 'Other');
  expect((await other.get<Mailboxes>('/practice-post/mailboxes')).mailboxes).toEqual([]);
  const folio = await client.folioOf('Name,Mail\n<b onclick=x>,o@families.example', {
    letter: ['{{Name}}'],
    body: '{{Name}}',
  });
  await client.press(server, folio.id);
  await dispatch(folio);
  const [message] = (await inbox('o@families.example')).messages;
  expect((await other.send('GET', `/practice-post/messages/${message!.id}`)).status).toBe(404);
  const html = await client.raw('GET', `/practice-post/messages/${message!.id}/html`);
  expect(html.headers.get('content-security-policy')).toContain("sandbox; default-src 'none'");
  expect(await html.text()).not.toContain('<b onclick');
});

/** Takes a message's text and hangs up without an answer. */
async function rudeMailServer(): Promise<{ server: Server; texts: () => number }> {
  let texts = 0;
  const talk = (socket: Socket): void => {
    let inText = false;
    let seen = '';
    socket.on('error', () => undefined);
    socket.write('220 rude.example\r\n');
    socket.on('data', (chunk) => {
      seen += chunk.toString('latin1');
      if (inText) {
        if (!seen.endsWith('\r\n.\r\n')) return;
        texts++;
        socket.destroy();
        return;
      }
      for (const line of seen.split('\r\n').slice(0, -1)) {
        if (/^DATA/i.test(line)) {
          inText = true;
          socket.write('354 Go on\r\n');
        } else socket.write('250 Fine\r\n');
      }
      seen = '';
    });
  };
  const listener = createServer(talk);
  await new Promise<void>((resolve) => listener.listen(0, '127.0.0.1', resolve));
  return { server: listener, texts: () => texts };
}
