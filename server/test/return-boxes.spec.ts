import { rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import type { DispatchPlan, LookedForReturns, MailAccount, PostRoom } from '@scriptum/core/contract';
import { deliveryReport } from '@scriptum/server/post/delivery-report';
import { MessageRow } from '@scriptum/server/store/entities/register';
import { generate } from 'selfsigned';
import { ReadOnlyMailbox } from './testing/imap-server.js';
import { ScriptedMailServer } from './testing/mail-server.js';
import { type Client, newSchool, startTestServer, type TestServer } from './testing/school.js';

const mail = new ScriptedMailServer();
let box: ReadOnlyMailbox;
let secured: ReadOnlyMailbox;
let server: TestServer;
let client: Client;
let mailPort: number;
let boxPort: number;
let securedPort: number;
const authority = path.join(tmpdir(), `scriptum-imap-ca-${process.pid}.pem`);

beforeAll(async () => {
  mailPort = Number(new URL(await mail.listen()).port);
  const made = await generate([{ name: 'commonName', value: 'localhost' }], {
    keySize: 2048,
    extensions: [
      { name: 'basicConstraints', cA: true },
      { name: 'subjectAltName', altNames: [{ type: 2, value: 'localhost' }] },
    ],
  } as never);
  secured = new ReadOnlyMailbox({ key: made.private, cert: made.cert });
  securedPort = await secured.listen();
  box = new ReadOnlyMailbox();
  boxPort = await box.listen();
  await writeFile(authority, made.cert);
  server = await startTestServer({
    SCRIPTUM_MAIL_HOSTS: [
      `127.0.0.1:${mailPort}`,
      `127.0.0.1:${boxPort}`,
      `localhost:${securedPort}`,
      `127.0.0.1:${securedPort}`,
      '127.0.0.1:1',
    ].join(','),
    SCRIPTUM_MAIL_CA: authority,
  });
});
afterAll(async () => {
  await server.close();
  await mail.close();
  await box.close();
  await secured.close();
  await rm(authority, { force: true });
});
beforeEach(async () => {
  client = await newSchool(server);
  box.messages.splice(0);
});

const PLAIN = { security: 'none', folder: 'INBOX' } as const;
interface Answered<T> {
  readonly status: number;
  readonly body: T & { readonly code: string; readonly detail: string };
}
const save = (returns: object | null, more: object = {}, id?: string): Promise<Answered<MailAccount>> =>
  client.send(id ? 'PUT' : 'POST', `/post-room/accounts${id ? `/${id}` : ''}`, {
    name: 'Own',
    host: '127.0.0.1',
    port: mailPort,
    security: 'none',
    user: 'office',
    password: 'right',
    address: 'office@saltmarsh.example',
    perMinute: null,
    perDay: null,
    own: false,
    dkim: null,
    returns,
    ...more,
  }) as never;
const look = (id: string, who = client): Promise<Answered<LookedForReturns>> =>
  who.send('POST', `/post-room/accounts/${id}/returns`) as never;

/** A message that was sent, as the built-in way sends it. */
async function sent(name: string): Promise<{ folioId: string; message: MessageRow }> {
  const address = `${name.toLowerCase()}@families.example`;
  const folio = await client.folioOf(`Name,Mail\n${name},${address}`, { letter: ['Dear {{Name}}'] });
  await client.press(server, folio.id);
  const { planId } = await client.get<DispatchPlan>(`/folios/${folio.id}/dispatch`);
  await client.send('POST', `/folios/${folio.id}/dispatch`, { planId });
  await server.running.outbox.idle();
  const message = await server.running.database.manager.findOneByOrFail(MessageRow, { folioId: folio.id });
  expect(message.state).toBe('sent');
  return { folioId: folio.id, message };
}
const reportOf = ({ messageId, recipients }: MessageRow): Buffer =>
  deliveryReport({
    raw: Buffer.from(`Message-ID: ${messageId}\r\nSubject: Report\r\n\r\nx`),
    sender: 'office@saltmarsh.example',
    recipient: recipients[0]!,
    status: '5.1.1',
    diagnostic: '550 5.1.1 Unknown user',
    at: new Date(),
  });
const stateOf = async (id: string) =>
  (await server.running.database.manager.findOneByOrFail(MessageRow, { id })).state;

// RFC 3501: a message is known by the mailbox's UIDVALIDITY and its own UID; a mailbox that is examined stays as it is.
test('reports are fetched, each once, and nothing in the mailbox is changed', async () => {
  const { body: account } = await save({ host: '127.0.0.1', port: boxPort, ...PLAIN });
  const first = await sent('Ada');
  box.put('From: a@b.example\r\nSubject: Thanks\r\nContent-Type: text/plain\r\n\r\nThanks!\r\n');
  box.put(reportOf(first.message));
  expect((await look(account.id)).body).toEqual({ messages: 2, marked: 1, known: 0, strange: 0 });
  expect(await stateOf(first.message.id)).toBe('refused');
  expect((await client.register(first.folioId)).papers[0]!.message?.answer).toMatch(/^Came back: ada@/);
  expect((await look(account.id)).body).toEqual({ messages: 0, marked: 0, known: 0, strange: 0 });
  const second = await sent('Bo');
  box.put(reportOf(second.message));
  // Another school's report is no news here.
  box.put(reportOf({ ...first.message, messageId: '<elsewhere@x.example>' } as MessageRow));
  expect((await look(account.id)).body).toEqual({ messages: 2, marked: 1, known: 0, strange: 1 });
  expect(await stateOf(second.message.id)).toBe('refused');
  box.makeAnew();
  expect((await look(account.id)).body).toEqual({ messages: 4, marked: 0, known: 2, strange: 1 });
  const said = new Set(box.heard.map((line) => line.split(' ')[0]));
  for (const changing of ['SELECT', 'STORE', 'EXPUNGE', 'APPEND', 'COPY', 'MOVE', 'DELETE'])
    expect([...said]).not.toContain(changing);
  expect(box.heard.join(' ')).not.toMatch(/UID STORE|BODY\[/);
  const room = await client.get<PostRoom>('/post-room');
  expect(room.accounts[0]!.returns).toMatchObject({ port: boxPort, fault: null, at: expect.any(String) });
});

test('over a line that is secured, whose certificate has to be right', async () => {
  const { body: account } = await save({
    host: 'localhost',
    port: securedPort,
    security: 'tls',
    folder: 'INBOX',
  });
  expect((await look(account.id)).body).toMatchObject({ messages: 0 });
  // Its certificate is made out for another name.
  const { body: wrong } = await save({
    host: '127.0.0.1',
    port: securedPort,
    security: 'tls',
    folder: 'INBOX',
  });
  const heard = secured.heard.length;
  const reply = await look(wrong.id);
  expect([reply.status, reply.body.detail]).toEqual([
    502,
    expect.stringContaining('certificate is not right'),
  ]);
  expect(secured.heard.length).toBe(heard);
});

test('what keeps a mailbox from being read is said, and stays with the account', async () => {
  const says = async (returns: object, more: object = {}) => {
    const { body } = await save({ host: '127.0.0.1', port: boxPort, ...PLAIN, ...returns }, more);
    const { status, body: answer } = await look(body.id);
    const room = await client.get<PostRoom>('/post-room');
    expect(room.accounts.find(({ id }) => id === body.id)!.returns!.fault).toBe(answer.detail);
    return [status, answer.detail];
  };
  expect(await says({}, { password: 'wrong' })).toEqual([
    502,
    expect.stringContaining('does not take the user or the password'),
  ]);
  expect(await says({ folder: 'Returns' })).toEqual([502, expect.stringContaining('no such folder')]);
  expect(await says({ port: 1 })).toEqual([502, 'Nothing answers at this server and port.']);
  expect(await says({ security: 'starttls' })).toEqual([
    502,
    expect.stringMatching(/could not be read|hung up/),
  ]);
});

test('where it leads is looked at, and its password goes nowhere unasked', async () => {
  const code = async (returns: object, more: object = {}, id?: string) =>
    (await save(returns, more, id)).body.code;
  const at = { host: '127.0.0.1', port: boxPort, ...PLAIN };
  expect(await code(at, { user: '' })).toBe('box-user');
  expect(await code({ ...at, host: '10.0.0.1', port: 993, security: 'tls' })).toBe('host-refused');
  expect(await code({ ...at, host: 'imap.school.example', port: 25, security: 'tls' })).toBe('host-refused');
  expect(await code({ ...at, host: 'imap.school.example', port: 143 })).toBe('line-open');
  const { body: account } = await save(at);
  const keep = { password: undefined, version: account.version };
  expect(await code({ ...at, host: 'localhost', port: securedPort, security: 'tls' }, keep, account.id)).toBe(
    'password-again',
  );
  // What is not said of it stays as it is.
  const { body: same } = await save(null, { ...keep, returns: undefined, name: 'Another' }, account.id);
  expect(same.returns).toMatchObject({ port: boxPort });
  const others = await newSchool(server);
  expect((await look(account.id, others)).status).toBe(404);
  const { body: none } = await save(null, { ...keep, version: same.version }, account.id);
  expect(none.returns).toBeNull();
  expect((await look(account.id)).body.code).toBe('no-box');
});
