import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import type { DispatchPlan, Folio } from '@scriptum/core/contract';
import {
  accountsDue,
  findDue,
  settleExpired,
  takeMessages,
  type WaitingAccount,
} from '@scriptum/server/post/message-claims';
import { recordOutcomes } from '@scriptum/server/post/record-outcomes';
import { startServer } from '@scriptum/server/server';
import { readSettings } from '@scriptum/server/settings';
import { MessageRow, PaperRow, PracticeMailRow } from '@scriptum/server/store/entities/register';
import { MailFaultRow } from '@scriptum/server/store/entities/post';
import { newId } from '@scriptum/server/store/id';
import { startMariaDb } from '@scriptum/tools/mariadb';
import { ScriptedMailServer, type Step } from './testing/mail-server.js';
import { newSchool, startTestServer, type Client, type TestServer } from './testing/school.js';

let mail: ScriptedMailServer;
let server: TestServer;
let client: Client;
let mailUrl: string;
beforeAll(async () => {
  mail = new ScriptedMailServer();
  mailUrl = await mail.listen();
  server = await startTestServer({ SCRIPTUM_SMTP_URL: mailUrl, SCRIPTUM_MAIL_HOSTS: new URL(mailUrl).host });
});
beforeEach(async () => {
  client = await newSchool(server);
});
afterEach(async () => {
  await idle();
  await server.running.database.query('DELETE FROM message');
  await server.running.database.query('DELETE FROM mail_fault');
  mail.behave();
  mail.taken.length = 0;
});
afterAll(async () => {
  await server.close();
  await mail.close();
});

async function pressed(names: readonly string[], of = client, on = server): Promise<Folio> {
  const rows = names.map((name) => `${name},${name.toLowerCase()}@families.example`);
  const folio = await of.folioOf(`Name,Mail\n${rows.join('\n')}`, { letter: ['Dear {{Name}}'] });
  await of.press(on, folio.id);
  return folio;
}

async function dispatch(folio: Folio, of = client): Promise<number> {
  const { planId } = await of.get<DispatchPlan>(`/folios/${folio.id}/dispatch`);
  const { body } = await of.send<{ queued: number }>('POST', `/folios/${folio.id}/dispatch`, { planId });
  return body.queued;
}

const idle = (): Promise<void> => server.running.outbox.idle();
const states = async (folio: Folio): Promise<Record<string, string | undefined>> =>
  Object.fromEntries(
    (await client.register(folio.id)).papers.map(({ learner, message }) => [learner, message?.state]),
  );

// RFC 5321 4.2.1: 4yz may go well later, 5yz will not. What is said before a recipient is named is about the account.
describe.each(['as the server is set up', 'through an account of the school'] as const)(
  'each answer at each step, %s',
  (way) => {
    beforeEach(async () => {
      if (way === 'as the server is set up') return;
      const { body } = await client.send<{ id: string }>('POST', '/post-room/accounts', {
        name: 'Own',
        host: '127.0.0.1',
        port: Number(new URL(mailUrl).port),
        security: 'none',
        user: '',
        address: 'office@saltmarsh.example',
        perMinute: null,
        perDay: null,
        own: false,
        dkim: null,
      });
      const on = await client.send('PUT', '/post-room/on', { accountId: body.id, from: null });
      expect(on.status).toBe(200);
    });

    const cases: [Step, string, string, boolean][] = [
      ['greeting', '554 No service for you', 'deferred', true],
      ['greeting', '421 Not now', 'deferred', true],
      ['greeting', 'drop', 'deferred', true],
      ['EHLO', '550 Who are you', 'deferred', true],
      ['EHLO', '421 Not now', 'deferred', true],
      ['EHLO', 'drop', 'deferred', true],
      ['MAIL', '550 Sender not allowed', 'deferred', true],
      ['MAIL', '451 Too many messages', 'deferred', true],
      ['MAIL', 'drop', 'deferred', true],
      ['MAIL', '552 Too large', 'refused', false],
      ['RCPT', '550 No such mailbox', 'refused', false],
      ['RCPT', '552 Mailbox full', 'refused', false],
      ['RCPT', '450 Mailbox busy', 'deferred', false],
      ['RCPT', '452 Too many recipients', 'deferred', false],
      ['RCPT', 'drop', 'deferred', true],
      ['DATA', '554 No', 'refused', false],
      ['DATA', '451 Not now', 'deferred', false],
      ['DATA', 'drop', 'deferred', true],
      ['DATA', '421 Closing', 'deferred', true],
      ['text', '554 Looks like spam', 'refused', false],
      ['text', '550 Not wanted', 'refused', false],
      ['text', '552 Too much', 'refused', false],
      ['text', '452 No room just now', 'deferred', false],
      ['text', '421 Closing', 'deferred', false],
      ['text', '451 Disk full', 'deferred', false],
      ['text', 'drop', 'unconfirmed', false],
    ];
    test.each(cases)('%s %s: %s', async (step, reply, state, fault) => {
      mail.say(step, reply);
      const folio = await pressed(['A']);
      await dispatch(folio);
      await idle();
      expect(await states(folio)).toEqual({ A: state });
      const { dispatch: progress } = await client.register(folio.id);
      expect(progress.fault !== null).toBe(fault);
      expect(mail.taken).toEqual([]);
      // Where nothing arrived it arrives later, once; where nobody knows it waits for a person.
      mail.behave();
      const ended = mail.ended;
      await client.send('POST', '/mail-account/again', {});
      await idle();
      const later = state === 'deferred' ? 'sent' : state;
      expect(await states(folio)).toEqual({ A: later });
      expect(mail.ended - ended).toBe(later === 'sent' ? 1 : 0);
    });
  },
);

test('a fault of the account refuses nobody, is said once, and all go out with one action', async () => {
  mail.say('MAIL', '550 5.7.1 Sender not allowed');
  const folio = await pressed(Array.from({ length: 40 }, (_, n) => `L${n}`));
  expect(await dispatch(folio)).toBe(40);
  await idle();
  const { dispatch: progress } = await client.register(folio.id);
  expect(progress).toMatchObject({ refused: 0, unconfirmed: 0, waiting: 40, sent: 0 });
  expect(progress.fault).toMatchObject({ answer: expect.stringContaining('Sender not allowed') });
  expect(await server.running.database.manager.count(MailFaultRow)).toBe(1);
  mail.behave();
  expect((await client.send('POST', '/mail-account/again', {})).body).toEqual({ waiting: 40 });
  await idle();
  expect((await client.register(folio.id)).dispatch).toMatchObject({ sent: 40, waiting: 0, fault: null });
  expect(new Set(mail.taken.map(({ to }) => to)).size).toBe(40);
  expect(mail.taken).toHaveLength(40);
});

test('a message is taken once, whoever asks; what is taken twice at a time goes to one', async () => {
  mail.say('greeting', 'drop');
  // A server of its own that sends nothing any more: it would take what is queued here, sooner or later.
  const quiet = await startTestServer({ SCRIPTUM_SMTP_URL: mailUrl });
  const staff = await newSchool(quiet);
  const folio = await pressed(['A', 'B', 'C', 'D'], staff, quiet);
  await dispatch(folio, staff);
  await quiet.running.outbox.close();
  const { database } = quiet.running;
  await database.query('DELETE FROM mail_fault');
  await database.query("UPDATE message SET state = 'queued'");
  const [{ accountId }] = (await accountsDue(database.manager)) as [WaitingAccount];
  const due = await findDue(database.manager, accountId, 16);
  expect(due).toHaveLength(4);
  const claims = Array.from({ length: 6 }, () => newId());
  const taken = await Promise.all(claims.map((claim) => takeMessages(database, claim, due, 60_000)));
  const ids = taken.flatMap((one) => one.map(({ message }) => message.id));
  expect(ids).toHaveLength(4);
  expect(new Set(ids).size).toBe(4);
  expect(await findDue(database.manager, accountId, 16)).toEqual([]);

  // Its server is gone: nobody knows, so it is unconfirmed, and nobody takes it again by itself.
  await database.query('UPDATE message SET claimedUntil = UTC_TIMESTAMP(3) - INTERVAL 1 SECOND');
  expect(await settleExpired(database)).toEqual([folio.id]);
  expect(await database.manager.countBy(MessageRow, { state: 'unconfirmed' })).toBe(4);
  expect(await findDue(database.manager, accountId, 16)).toEqual([]);

  // It was only slow: what it knows to be sent is sent. Where a person asked again meanwhile, it counts no more.
  const winner = taken.findIndex((one) => one.length > 0);
  const [first, second] = taken[winner]!.map(({ message }) => message);
  await database.manager.update(MessageRow, { id: second!.id }, { state: 'queued', claim: null });
  await recordOutcomes(
    database,
    claims[winner]!,
    [first!, second!].map((message) => ({ message, delivery: { state: 'sent' as const, answer: '' } })),
    new Date(),
    new Set(),
  );
  const state = async (id: string) => (await database.manager.findOneByOrFail(MessageRow, { id })).state;
  expect([await state(first!.id), await state(second!.id)]).toEqual(['sent', 'queued']);
  await quiet.close();
});

test('what was held, left out or pressed anew since it was confirmed does not leave', async () => {
  mail.say('greeting', '421 Not now');
  const folio = await pressed(['Held', 'Out', 'Anew', 'Goes']);
  await dispatch(folio);
  await idle();
  const { papers } = await client.register(folio.id);
  const paper = (name: string) => papers.find(({ learner }) => learner === name)!;
  const entry = (name: string) => paper(name).entryId;
  await client.send('POST', `/folios/${folio.id}/papers/hold`, { paperIds: [paper('Held').id], hold: true });
  await client.send('PATCH', `/folios/${folio.id}/roll`, {
    leftOut: [{ entryId: entry('Out'), reason: 'moved away' }],
    cells: [{ entryId: entry('Anew'), columnId: folio.roll.columns[0]!.id, text: 'Anew and new' }],
  });
  await client.press(server, folio.id, [entry('Anew')]);
  mail.behave();
  await client.send('POST', '/mail-account/again', {});
  await idle();
  expect(mail.taken.map(({ to }) => to)).toEqual(['goes@families.example']);
  expect((await client.register(folio.id)).dispatch).toMatchObject({ sent: 1, keptBack: 2, waiting: 2 });
  // The newer paper is offered as the first one, since no family has any.
  expect(await client.get(`/folios/${folio.id}/dispatch`)).toMatchObject({
    send: [{ learner: 'Anew and new' }],
    again: [],
  });
  // Cleared again, it leaves; and once it has, it can be held no more.
  await client.send('POST', `/folios/${folio.id}/papers/hold`, { paperIds: [paper('Held').id], hold: false });
  server.running.outbox.wake();
  await idle();
  expect(mail.taken.map(({ to }) => to)).toEqual(['goes@families.example', 'held@families.example']);
});

test('a paper that is just being handed over cannot be held, and says so; an old one is not sent again', async () => {
  mail.say('text', 'drop');
  const folio = await pressed(['A']);
  await dispatch(folio);
  await idle();
  const { database } = server.running;
  const [paper] = (await client.register(folio.id)).papers;
  const hold = () =>
    client.send<{ code: string }>('POST', `/folios/${folio.id}/papers/hold`, {
      paperIds: [paper!.id],
      hold: true,
    });
  await database.query(
    "UPDATE message SET state = 'sending', claimedUntil = UTC_TIMESTAMP(3) + INTERVAL 1 HOUR",
  );
  expect((await hold()).body.code).toBe('on-its-way');
  await database.query("UPDATE message SET state = 'unconfirmed'");
  expect((await hold()).status).toBe(200);
  const again = () =>
    client.send<{ code: string }>('POST', `/folios/${folio.id}/messages/${paper!.message!.id}/again`, {});
  expect((await again()).body.code).toBe('paper-held');
  await database.manager.update(PaperRow, { id: paper!.id }, { state: 'superseded' });
  expect((await again()).body.code).toBe('paper-replaced');
});

test('two servers whose idle connections are closed all the time send each message once', async () => {
  const folder = await mkdtemp(path.join(tmpdir(), 'scriptum-two-'));
  const database = await startMariaDb({
    folder,
    careless: true,
    more: ['--wait-timeout=1', '--interactive-timeout=1'],
  });
  const settings = readSettings({
    ...server.settings,
    SCRIPTUM_SMTP_URL: '',
    SCRIPTUM_SESSION_SECRET: 'the same for both of them',
  });
  const both = [await startServer(settings, database.url), await startServer(settings, database.url)];
  try {
    const one = { ...server, running: both[0]! };
    const person = await newSchool(one);
    const folio = await pressed(
      Array.from({ length: 120 }, (_, n) => `L${n}`),
      person,
      one,
    );
    // Longer than the database keeps connections that nobody uses.
    await new Promise((resolve) => setTimeout(resolve, 1_500));
    await dispatch(folio, person);
    const { manager } = both[0]!.database;
    const left = () => manager.countBy(MessageRow, { state: 'queued' });
    while ((await left()) > 0) {
      for (const { outbox } of both) outbox.wake();
      await Promise.all(both.map(({ outbox }) => outbox.idle()));
    }
    expect(await manager.countBy(MessageRow, { state: 'sent' })).toBe(120);
    const rows = await manager.find(PracticeMailRow, { select: { mailbox: true } });
    expect(rows).toHaveLength(120);
    expect(new Set(rows.map(({ mailbox }) => mailbox)).size).toBe(120);
  } finally {
    for (const running of both) await running.close();
    await database.stop();
    await rm(folder, { recursive: true, force: true });
  }
});
