import { rm, writeFile } from 'node:fs/promises';
import { createServer, type AddressInfo, type Socket } from 'node:net';
import path from 'node:path';
import { tmpdir } from 'node:os';
import type {
  Dispatchings,
  DispatchPlan,
  Folio,
  MailAccount,
  MailQueue,
  MailTest,
  PostRoom,
  SaveMailAccount,
} from '@scriptum/core/contract';
import { Secrets, WrongKey } from '@scriptum/server/post/secrets';
import { HostRefused, MailHosts } from '@scriptum/server/post/mail-hosts';
import { MailAccountRow, MailFaultRow } from '@scriptum/server/store/entities/post';
import { MessageRow, PracticeMailRow } from '@scriptum/server/store/entities/register';
import { dkimVerify } from 'mailauth/lib/dkim/verify.js';
import { simpleParser } from 'mailparser';
import { ScriptedMailServer } from './testing/mail-server.js';
import { SafeMailServer } from './testing/safe-mail-server.js';
import {
  type Client,
  newSchool,
  noteOf,
  startTestServer,
  type TestServer,
  writingPath,
} from './testing/school.js';

const plain = new ScriptedMailServer();
let safe: SafeMailServer;
let other: SafeMailServer;
let server: TestServer;
let client: Client;
let folio: Folio;
let plainPort: number;
let closed: number;
/** A server that takes the line and says nothing. */
const held = new Set<Socket>();
const hung = createServer((socket) => held.add(socket.on('error', () => undefined)));
const portOf = (one: typeof hung): number => (one.address() as AddressInfo).port;
const authority = path.join(tmpdir(), `scriptum-ca-${process.pid}.pem`);

beforeAll(async () => {
  plainPort = Number(new URL(await plain.listen()).port);
  safe = await SafeMailServer.start('mail.school.example');
  other = await SafeMailServer.start('other.example');
  await writeFile(authority, safe.certificate);
  await new Promise<void>((resolve) => hung.listen(0, '127.0.0.1', resolve));
  closed = await closedPort();
  server = await startTestServer({
    SCRIPTUM_MAIL_HOSTS: [
      `127.0.0.1:${plainPort}`,
      `localhost:${safe.port}`,
      `localhost:${safe.tlsPort}`,
      `localhost:${other.port}`,
      `localhost:${closed}`,
      `127.0.0.1:${portOf(hung)}`,
    ].join(','),
    SCRIPTUM_MAIL_CA: authority,
  });
});
afterAll(async () => {
  await server.close();
  await plain.close();
  await safe.close();
  await other.close();
  for (const socket of held) socket.destroy();
  hung.close();
  await rm(authority, { force: true });
});
beforeEach(async () => {
  plain.behave();
  plain.taken.splice(0);
  safe.taken.splice(0);
  client = await newSchool(server);
});

const account = (more: Partial<SaveMailAccount> = {}): SaveMailAccount => ({
  name: 'School mail',
  host: '127.0.0.1',
  port: plainPort,
  security: 'none',
  user: '',
  address: 'office@school.example',
  perMinute: null,
  perDay: null,
  own: false,
  dkim: null,
  ...more,
});
interface Answered<T> {
  status: number;
  body: T & { code: string; detail: string };
}
const add = (more: Partial<SaveMailAccount> = {}, who = client): Promise<Answered<MailAccount>> =>
  who.send('POST', '/post-room/accounts', account(more)) as never;
const choose = (accountId: string | null, from: string | null): Promise<Answered<PostRoom>> =>
  client.send('PUT', '/post-room/on', { accountId, from }) as never;

async function pressed(learners: readonly string[]): Promise<Folio> {
  const sheet = [
    'Name,Mail',
    ...learners.map(
      (name) => `${name},${name.toLowerCase().normalize('NFD').replace(/\p{M}/gu, '')}@home.example`,
    ),
  ].join('\n');
  const made = await client.folioOf(sheet, {
    letter: ['Dear {{Name}}'],
    body: 'The report.',
    subject: 'Report',
  });
  const { version, content } = noteOf(made);
  const to = [{ columnId: made.roll.columns[1]!.id }];
  await client.send('PUT', writingPath(made, 'note'), { kind: 'note', version, content: { ...content, to } });
  await client.press(server, made.id);
  return made;
}
async function dispatch(of: Folio, more: object = {}): Promise<Answered<{ queued: number }>> {
  const { planId } = await client.get<DispatchPlan>(`/folios/${of.id}/dispatch`);
  return (await client.send('POST', `/folios/${of.id}/dispatch`, { planId, ...more })) as never;
}
async function bytesOf(path: string): Promise<Buffer> {
  const response = await client.raw('GET', path);
  expect(response.status).toBe(200);
  return Buffer.from(await response.arrayBuffer());
}
const sent = async (of: Folio): Promise<number> =>
  server.running.database.manager.countBy(MessageRow, { folioId: of.id, state: 'sent' });
const dispatches = async (of: Folio) =>
  (await client.get<Dispatchings>(`/folios/${of.id}/dispatches`)).dispatches;
async function until(holds: () => Promise<boolean>): Promise<void> {
  const deadline = Date.now() + 30_000;
  while (!(await holds())) {
    if (Date.now() > deadline) throw new Error('not reached');
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
}

describe('accounts', () => {
  test('a password comes in and never goes out, and opens with the key of this machine alone', async () => {
    const { status, body } = await add({
      host: 'localhost',
      port: safe.port,
      security: 'starttls',
      user: 'office',
      password: 'tide & table',
    });
    expect([status, body.hasPassword]).toEqual([200, true]);
    const seen = JSON.stringify([body, await client.get<PostRoom>('/post-room')]);
    expect(seen).not.toContain('tide');
    const row = await server.running.database.manager.findOneOrFail(MailAccountRow, {
      where: { id: body.id },
      select: { id: true, secret: true },
    });
    expect(row.secret).not.toContain('tide');
    expect(row.secret!.startsWith('1.')).toBe(true);
    // Whoever changes where the account leads has to know its password.
    const save = (more: Partial<SaveMailAccount>) =>
      client.send('PUT', `/post-room/accounts/${body.id}`, {
        ...account({ host: 'localhost', port: safe.port, security: 'starttls', user: 'office', ...more }),
        version: body.version,
      }) as Promise<Answered<MailAccount>>;
    expect((await save({ port: other.port })).body.code).toBe('password-again');
    expect((await save({ user: 'somebody' })).body.code).toBe('password-again');
    expect((await save({ name: 'The office' })).body).toMatchObject({
      name: 'The office',
      hasPassword: true,
      version: 2,
    });
    expect((await save({ name: 'Late' })).body.code).toBe('changed-elsewhere');
  });

  test('another school, and another person where it is one’s own, has no way to it', async () => {
    const { body: shared } = await add();
    const { body: mine } = await add({ name: 'Mine', own: true });
    const stranger = await newSchool(server);
    for (const { id } of [shared, mine]) {
      expect(
        (await stranger.send('PUT', `/post-room/accounts/${id}`, { ...account(), version: 1 })).status,
      ).toBe(404);
      expect((await stranger.send('DELETE', `/post-room/accounts/${id}`)).status).toBe(404);
      expect((await stranger.send('POST', `/post-room/accounts/${id}/test`, { send: false })).status).toBe(
        404,
      );
      expect((await stranger.send('PUT', '/post-room/on', { accountId: id, from: null })).status).toBe(404);
    }
    expect((await stranger.get<PostRoom>('/post-room')).accounts).toEqual([]);
    // One's own is not the whole school's.
    expect((await choose(mine.id, null)).body.code).toBe('account-own');
    expect((await choose(shared.id, mine.id)).body.code).toBe('post-changed');
    expect((await choose(shared.id, null)).body.accountId).toBe(shared.id);
    expect(
      ((await client.send('DELETE', `/post-room/accounts/${shared.id}`)) as Answered<object>).body.code,
    ).toBe('account-on');
  });

  test.each([
    [{ host: '169.254.169.254', port: 587 }, 'host-refused', /inside the network/],
    [{ host: '10.0.0.7', port: 25 }, 'host-refused', /inside the network/],
    [{ host: '[::1]', port: 587 }, 'host-refused', /inside the network/],
    [{ host: 'localhost', port: 25 }, 'host-refused', /inside the network/],
    [{ host: '127.0.0.1', port: 3306 }, 'host-refused', /at port 25, 465, 587 or 2525/],
    [{ host: 'no-such-host.invalid', port: 587 }, 'host-refused', /no server by the name/],
    [{ host: 'a b', port: 25 }, 'input', /name of the mail server alone/],
    [{ address: 'office' }, 'address-wrong', /the @ is missing/],
    [{ dkim: { domain: 'school', selector: 's', key: 'new' } }, 'domain-wrong', /not the name of a domain/],
    [
      { dkim: { domain: 'school.example', selector: 's', key: 'no key' } },
      'key-wrong',
      /not a private RSA key/,
    ],
  ] as const)('%j is refused with a sentence', async (more, code, says) => {
    const { body } = await add(more as Partial<SaveMailAccount>);
    expect([body.code, body.detail]).toEqual([code, expect.stringMatching(says)]);
  });

  test('addresses inside are known in every form', async () => {
    const hosts = new MailHosts(['10.0.0.7:587']);
    for (const inside of [
      '127.1',
      '0x7f.1',
      '::ffff:10.0.0.1',
      'fe80::1',
      'fd00::1',
      '0.0.0.0',
      '100.64.0.1',
      '224.0.0.1',
    ])
      await expect(hosts.addressOf(inside, 25)).rejects.toThrow(HostRefused);
    expect(await hosts.addressOf('10.0.0.7', 587)).toEqual({ address: '10.0.0.7', name: '10.0.0.7' });
    expect(await hosts.addressOf('192.0.2.1', 587)).toEqual({ address: '192.0.2.1', name: '192.0.2.1' });
  });

  test('what is sealed for one thing opens for no other, nor with another key, nor changed', () => {
    const secrets = new Secrets('a key of enough chance, at least thirty-two');
    const sealed = secrets.seal('tide', 'a password');
    expect(secrets.open(sealed, 'a password')).toBe('tide');
    expect(secrets.seal('tide', 'a password')).not.toBe(sealed);
    expect(() => secrets.open(sealed, 'b password')).toThrow(WrongKey);
    expect(() => new Secrets('another key').open(sealed, 'a password')).toThrow(WrongKey);
    const bytes = sealed.split('.').at(-1)!;
    const other = `${sealed.slice(0, -bytes.length)}${bytes.startsWith('A') ? 'B' : 'A'}${bytes.slice(1)}`;
    for (const spoilt of [other, '', 'x', '1...', sealed.slice(0, 20)])
      expect(() => secrets.open(spoilt, 'a password')).toThrow(WrongKey);
  });
});

describe('a conversation', () => {
  const talk = async (more: Partial<SaveMailAccount>, send = false): Promise<MailTest> => {
    const { body } = await add(more);
    return (await client.send<MailTest>('POST', `/post-room/accounts/${body.id}/test`, { send })).body;
  };
  const steps = ({ steps: all }: MailTest): string[] =>
    all.map(({ what, ok }) => `${what}: ${ok ? 'yes' : 'no'}`);
  const good = { host: 'localhost', security: 'starttls', user: 'office', password: 'right' } as const;

  test('up to signing in, and with a message to oneself', async () => {
    for (const [port, security] of [
      [safe.port, 'starttls'],
      [safe.tlsPort, 'tls'],
    ] as const) {
      const test = await talk({ ...good, port, security }, true);
      expect(steps(test)).toEqual([
        'Reach the server: yes',
        'Secure the line: yes',
        'Sign in: yes',
        'Send a message: yes',
      ]);
      expect(JSON.stringify(test)).not.toContain('right"');
      expect(test.lines.join('\n')).toContain('EHLO');
      expect(test.lines.join('\n')).not.toContain(Buffer.from('\0office\0right').toString('base64'));
    }
    expect(safe.taken).toHaveLength(2);
  });

  test.each([
    [
      'a wrong password',
      'safe',
      { ...good, password: 'wrong' },
      'Sign in: no',
      /user or the password is not right/,
    ],
    [
      'no way to secure the line',
      'plain',
      { host: '127.0.0.1', security: 'starttls' },
      'Secure the line: no',
      /does not offer to secure/,
    ],
    ['nobody there', 'closed', { host: 'localhost' }, 'Reach the server: no', /Nobody answers/],
    ['a certificate that nobody believes', 'other', good, 'Secure the line: no', /certificate/],
  ] as const)('%s', async (_, where, more, last, says) => {
    const ports: Record<string, number> = { closed, other: other.port, plain: plainPort, safe: safe.port };
    const port = ports[where]!;
    const test = await talk({ ...(more as object), port });
    expect(steps(test).at(-1)).toBe(last);
    expect(test.steps.at(-1)!.says).toMatch(says);
  });

  test('is not had too often', async () => {
    const { body } = await add();
    const tries = Array.from({ length: 31 }, () =>
      client.send('POST', `/post-room/accounts/${body.id}/test`, { send: false }),
    );
    const statuses = (await Promise.all(tries)).map(({ status }) => status);
    expect(statuses).toContain(429);
    expect(statuses).toContain(200);
  });
});

async function closedPort(): Promise<number> {
  const probe = createServer();
  await new Promise<void>((resolve) => probe.listen(0, '127.0.0.1', resolve));
  const { port } = probe.address() as { port: number };
  await new Promise((resolve) => probe.close(resolve));
  return port;
}

describe('mail leaves', () => {
  test('through what was on when it was sent, whatever is chosen since; signed as RFC 6376 wants it', async () => {
    const { body } = await add({
      host: 'localhost',
      port: safe.port,
      security: 'starttls',
      user: 'office',
      password: 'right',
      dkim: { domain: 'school.example', selector: 'autumn', key: 'new' },
    });
    const { record } = body.dkim!;
    folio = await pressed(['Ann', 'Bo']);
    // Sent while the practice post was on, and stopped: it stays there.
    await dispatch(folio, { startsAt: new Date(Date.now() + 3_600_000).toISOString() });
    await choose(body.id, null);
    const later = await pressed(['Cy']);
    await dispatch(later);
    await until(async () => (await sent(later)) === 1);
    expect(safe.taken.map(({ to }) => to)).toEqual([['cy@home.example']]);
    const { raw } = safe.taken[0]!;
    const read = await simpleParser(raw);
    expect(read.from!.value[0]).toMatchObject({ address: 'office@school.example', name: 'Saltmarsh School' });
    // Verified by another implementation, with the record that the account shows.
    const verified = await dkimVerify(raw, {
      resolver: async (name: string) => (name === record.name ? [[record.text]] : []),
    } as never);
    expect(verified.results.map((one: { status: { result: string } }) => one.status.result)).toEqual([
      'pass',
    ]);
    const spoilt = Buffer.from(raw.toString('latin1').replace('The report', 'The reward'), 'latin1');
    const refused = await dkimVerify(spoilt, {
      resolver: async (name: string) => (name === record.name ? [[record.text]] : []),
    } as never);
    expect(refused.results.map((one: { status: { result: string } }) => one.status.result)).not.toContain(
      'pass',
    );
    // What waits for the practice post goes there.
    await server.running.database.query('UPDATE message SET nextAttemptAt = queuedAt WHERE folioId = ?', [
      folio.id,
    ]);
    server.running.outbox.wake();
    await until(async () => (await sent(folio)) === 2);
    expect(safe.taken).toHaveLength(1);
    expect(
      await server.running.database.manager.countBy(PracticeMailRow, { mailbox: 'ann@home.example' }),
    ).toBe(1);
  });

  test('through one’s own account, where the school’s mail leaves at all', async () => {
    const { body: shared } = await add();
    const { body: mine } = await add({ name: 'Mine', own: true, address: 'me@school.example' });
    folio = await pressed(['Ann']);
    expect((await dispatch(folio, { accountId: mine.id })).body.code).toBe('post-changed');
    await choose(shared.id, null);
    expect((await dispatch(folio, { accountId: mine.id })).status).toBe(200);
    await until(async () => (await sent(folio)) === 1);
    expect(plain.taken[0]!.text).toContain('From: Saltmarsh School <me@school.example>');
  });

  test('one account that hangs keeps no other waiting', async () => {
    const { body } = await add({ port: portOf(hung) });
    await choose(body.id, null);
    const stuck = await pressed(['Ann', 'Bo', 'Cy', 'Di', 'Ed', 'Flo', 'Gus', 'Hal']);
    await dispatch(stuck);
    client = await newSchool(server);
    folio = await pressed(['Ida']);
    await dispatch(folio);
    await until(async () => (await sent(folio)) === 1);
    // The other one still hangs.
    expect([...held].some(({ destroyed }) => !destroyed)).toBe(true);
    expect(await sent(stuck)).toBe(0);
    hung.close();
    for (const socket of held) socket.destroy();
  });
});

describe('a dispatch', () => {
  beforeEach(async () => {
    const { body } = await add();
    await choose(body.id, null);
    folio = await pressed(['Ann', 'Bo', 'Cy']);
  });

  test('begins at a set time, can be stopped, goes on, and what has not left of it is taken back', async () => {
    const startsAt = new Date(Date.now() + 3_600_000).toISOString();
    await dispatch(folio, { startsAt });
    await server.running.outbox.idle();
    expect(await dispatches(folio)).toMatchObject([
      { total: 3, waiting: 3, sent: 0, opensAt: startsAt, through: 'School mail' },
    ]);
    const { id } = (await dispatches(folio))[0]!;
    const change = (to: string, who = client) =>
      who.send('POST', `/folios/${folio.id}/dispatches/${id}`, { to }) as Promise<Answered<Dispatchings>>;
    expect((await change('stop', await newSchool(server))).status).toBe(404);
    expect((await change('stop')).body.dispatches[0]!.stopped).toMatchObject({ by: 'Test' });
    await server.running.database.query('UPDATE message SET nextAttemptAt = queuedAt WHERE dispatchId = ?', [
      id,
    ]);
    server.running.outbox.wake();
    await server.running.outbox.idle();
    expect(await sent(folio)).toBe(0);
    // One leaves, the others are taken back; both can be sent anew.
    await server.running.database.query(
      "UPDATE message SET nextAttemptAt = UTC_TIMESTAMP(3) + INTERVAL 1 HOUR WHERE dispatchId = ? AND recipients NOT LIKE '%ann@%'",
      [id],
    );
    await change('go on');
    await until(async () => (await sent(folio)) === 1);
    expect((await change('take back')).body.dispatches).toMatchObject([{ total: 1, waiting: 0, sent: 1 }]);
    const plan = await client.get<DispatchPlan>(`/folios/${folio.id}/dispatch`);
    expect(plan.messages.map(({ to }) => to)).toEqual([['bo@home.example'], ['cy@home.example']]);
    expect((await change('take back')).body.dispatches).toMatchObject([{ total: 1 }]);
    await dispatch(folio);
    await until(async () => (await sent(folio)) === 3);
    expect(plain.taken).toHaveLength(3);
  });

  test('keeps to its hours', async () => {
    // Hours of a day that is neither today nor tomorrow, wherever the school is.
    const day = ((new Date().getUTCDay() + 2) % 7) + 1;
    await dispatch(folio, { hours: { days: [day], from: '08:00', to: '17:00' } });
    await server.running.outbox.idle();
    expect(await sent(folio)).toBe(0);
    const [one] = await dispatches(folio);
    expect(one).toMatchObject({ waiting: 3, hours: { days: [day] } });
    expect(new Date(one!.opensAt!).getUTCHours()).toBe(8);
    for (const hours of [
      { days: [], from: '08:00', to: '17:00' },
      { days: [1], from: '17:00', to: '08:00' },
      { days: [8], from: '8', to: '9' },
    ])
      expect((await dispatch(folio, { hours })).status).toBe(400);
    expect((await dispatch(folio, { startsAt: '2199-01-01T00:00:00.000Z' })).status).toBe(200);
  });

  test('keeps to its pace, also with two servers', async () => {
    await dispatch(folio, { perMinute: 1 });
    await server.running.outbox.idle();
    expect(await sent(folio)).toBe(1);
    server.running.outbox.wake();
    await server.running.outbox.idle();
    expect(await sent(folio)).toBe(1);
    await server.running.database.query('UPDATE dispatch SET openAt = UTC_TIMESTAMP(3)');
    server.running.outbox.wake();
    await server.running.outbox.idle();
    expect(await sent(folio)).toBe(2);
  });
});

test('what is sent while an account is being sent from leaves at once too', async () => {
  const { body } = await add();
  await choose(body.id, null);
  const folios = [await pressed(['Ann']), await pressed(['Bo']), await pressed(['Cy'])];
  // None waits for the next look at what is due, however the three meet.
  await Promise.all(folios.map((one) => dispatch(one)));
  await server.running.outbox.idle();
  expect(await Promise.all(folios.map(sent))).toEqual([1, 1, 1]);
});

test('an account keeps to its pace and its limit, counted in people', async () => {
  const { body } = await add({ perDay: 2 });
  await choose(body.id, null);
  folio = await pressed(['Ann', 'Bo', 'Cy']);
  await dispatch(folio);
  await server.running.outbox.idle();
  expect(await sent(folio)).toBe(2);
  const room = await client.get<PostRoom>('/post-room');
  expect(room.accounts[0]).toMatchObject({ used: 2, waiting: 1, opensAt: expect.any(String) });
  // A day later.
  await server.running.database.query('UPDATE mail_use SET hour = hour - 24');
  await server.running.database.query('UPDATE mail_account SET openAt = NULL');
  server.running.outbox.wake();
  await until(async () => (await sent(folio)) === 3);
  expect(await server.running.database.manager.countBy(MailFaultRow, { accountId: body.id })).toBe(0);
  // What waits keeps the account from being deleted.
  await choose(null, body.id);
  expect((await client.send('DELETE', `/post-room/accounts/${body.id}`)).status).toBe(200);
});

test('messages are found over all folios by learner and address, saved as files, and are one’s own school’s', async () => {
  folio = await pressed(['Zoë', 'Bo']);
  await dispatch(folio);
  await until(async () => (await sent(folio)) === 2);
  const find = (query: string, who = client) => who.get<MailQueue>(`/post-room/queue?${query}`);
  const found = await find('text=zoe');
  expect(found).toMatchObject({ count: 1, more: false, after: null });
  expect(found.messages[0]).toMatchObject({
    learners: ['Zoë'],
    to: ['zoe@home.example'],
    folio: 'Test',
    state: 'sent',
    papers: 1,
    through: 'Practice post',
  });
  expect((await find('text=bo@home')).messages).toHaveLength(1);
  expect((await find(`state=waiting&folioId=${folio.id}`)).messages).toEqual([]);
  expect((await find('text=100%25')).messages).toEqual([]);
  expect((await client.send('GET', '/post-room/queue?after=now')).status).toBe(400);
  const stranger = await newSchool(server);
  expect((await find('', stranger)).messages).toEqual([]);
  const { id } = found.messages[0]!;
  expect((await stranger.send('GET', `/post-room/messages/${id}/file`)).status).toBe(404);
  expect((await stranger.send('GET', `/folios/${folio.id}/mail`)).status).toBe(404);
  const eml = await bytesOf(`/post-room/messages/${id}/file`);
  const read = await simpleParser(eml);
  expect([read.subject, read.attachments.length, read.text]).toEqual([
    'Report',
    1,
    expect.stringContaining('The report.'),
  ]);
  const mbox = (await bytesOf(`/folios/${folio.id}/mail`)).toString('latin1');
  // RFC 4155: each message begins with such a line.
  const parts = mbox.split(/^From MAILER-DAEMON \w{3} \w{3} [ \d]\d \d\d:\d\d:\d\d \d{4}\n/m).slice(1);
  expect(parts).toHaveLength(2);
  for (const part of parts) expect((await simpleParser(part)).attachments).toHaveLength(1);
});
