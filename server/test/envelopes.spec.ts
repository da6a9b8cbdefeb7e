import type { DispatchPlan, Folio } from '@scriptum/core/contract';
import type { CoverNote } from '@scriptum/core/template';
import { MessageRow } from '@scriptum/server/store/entities/register';
import { simpleParser, type AddressObject } from 'mailparser';
import { ScriptedMailServer } from './testing/mail-server.js';
import {
  type Client,
  newSchool,
  noteOf,
  startTestServer,
  type TestServer,
  writingPath,
} from './testing/school.js';

const mail = new ScriptedMailServer();
let server: TestServer;
let client: Client;
beforeAll(async () => {
  server = await startTestServer({ SCRIPTUM_SMTP_URL: await mail.listen() });
  client = await newSchool(server);
});
afterAll(async () => {
  await server.close();
  await mail.close();
});
beforeEach(() => {
  mail.behave();
  mail.taken.splice(0);
});

const SHEET = [
  'Name,Mother,Father,Called,Tutor',
  'Ada,m@x.example,f@x.example,Mrs Quill,t1@s.example',
  'Bo,M@x.example,f@x.example,Mrs Quill,t2@s.example',
  'Cy,c@y.example; d@y.example,,,t1@s.example',
].join('\n');

/** A folio whose papers are pressed, with a note that is sent as said. */
async function folioWith(more: (column: (title: string) => string) => Partial<CoverNote>): Promise<Folio> {
  const folio = await client.folioOf(SHEET, {
    letter: ['Dear {{Name}}'],
    body: 'The report.',
    subject: 'Report',
  });
  const column = (title: string): string => folio.roll.columns.find((one) => one.title === title)!.id;
  const { version, content } = noteOf(await client.get<Folio>(`/folios/${folio.id}`));
  const reply = await client.send('PUT', writingPath(folio, 'note'), {
    kind: 'note',
    version,
    content: { ...content, ...more(column) },
  });
  expect(reply.status).toBe(200);
  await client.press(server, folio.id);
  return folio;
}

async function dispatch(folio: Folio): Promise<{ queued: number; plan: DispatchPlan }> {
  const plan = await client.get<DispatchPlan>(`/folios/${folio.id}/dispatch`);
  const { body } = await client.send<{ queued: number }>('POST', `/folios/${folio.id}/dispatch`, {
    planId: plan.planId,
  });
  await server.running.outbox.idle();
  return { queued: body.queued, plan };
}

const texts = (): Promise<Awaited<ReturnType<typeof simpleParser>>[]> =>
  Promise.all(mail.taken.map(({ text }) => simpleParser(text)));
const addresses = (of: AddressObject | AddressObject[] | undefined): string[] =>
  [of ?? []].flat().flatMap(({ value }) => value.map(({ name, address }) => `${name} <${address}>`));

test('a family has one message with all papers, copies go along, answers go where they should', async () => {
  const folio = await folioWith((column) => ({
    to: [{ columnId: column('Mother'), nameId: column('Called') }, { columnId: column('Father') }],
    cc: [{ columnId: column('Tutor') }],
    bcc: [{ address: 'archive@s.example' }],
    replyTo: { address: 'office@s.example' },
    from: 'Year 8 team',
    family: true,
  }));
  const { queued, plan } = await dispatch(folio);
  expect([queued, plan.messages]).toEqual([
    2,
    [
      {
        learners: ['Ada', 'Bo'],
        to: ['m@x.example', 'f@x.example'],
        cc: ['t1@s.example', 't2@s.example'],
        bcc: ['archive@s.example'],
        papers: 2,
      },
      {
        learners: ['Cy'],
        to: ['c@y.example', 'd@y.example'],
        cc: ['t1@s.example'],
        bcc: ['archive@s.example'],
        papers: 1,
      },
    ],
  ]);
  const family = mail.taken.find(({ text }) => text.includes('Quill'))!;
  expect(family.to.split(', ').sort()).toEqual([
    'archive@s.example',
    'f@x.example',
    'm@x.example',
    't1@s.example',
    't2@s.example',
  ]);
  const read = await simpleParser(family.text);
  expect(addresses(read.to)).toEqual(['Mrs Quill <m@x.example>', ' <f@x.example>']);
  expect(addresses(read.cc)).toEqual([' <t1@s.example>', ' <t2@s.example>']);
  expect(addresses(read.replyTo)).toEqual([' <office@s.example>']);
  expect(read.from!.value[0]!.name).toBe('Year 8 team');
  // RFC 5322, 3.6.3: nobody is shown who else gets a blind copy.
  expect(family.text).not.toContain('archive@s.example');
  expect(read.attachments.map(({ filename }) => filename)).toHaveLength(2);
  // Nothing is sent a second time.
  expect((await dispatch(folio)).queued).toBe(0);
  const { papers } = await client.register(folio.id);
  expect(papers.map(({ state }) => state)).toEqual(['dispatched', 'dispatched', 'dispatched']);
});

test('each guardian gets a message of their own, with the same paper, and each leaves', async () => {
  const folio = await folioWith((column) => ({
    to: [{ columnId: column('Mother') }, { columnId: column('Father') }],
    apart: true,
  }));
  expect((await dispatch(folio)).queued).toBe(6);
  expect(mail.taken.map(({ to }) => to.toLowerCase()).sort()).toEqual([
    'c@y.example',
    'd@y.example',
    'f@x.example',
    'f@x.example',
    'm@x.example',
    'm@x.example',
  ]);
  const rows = await server.running.database.manager.findBy(MessageRow, { folioId: folio.id });
  expect(rows.map(({ state }) => state)).toEqual(Array.from({ length: 6 }, () => 'sent'));
  expect((await dispatch(folio)).queued).toBe(0);
  const [ada] = (await client.register(folio.id)).papers;
  expect(ada!.message!.to).toBe('m@x.example, f@x.example');
});

// RFC 5321, 3.3: each recipient is answered by itself.
test('where one of several addresses is not taken it is said which, and by whom', async () => {
  const folio = await folioWith((column) => ({
    to: [{ columnId: column('Mother') }, { columnId: column('Father') }],
    family: true,
  }));
  mail.sayOf('f@x.example', '550 5.1.1 No such mailbox here');
  await dispatch(folio);
  const { papers } = await client.register(folio.id);
  expect(papers.map(({ learner, message }) => [learner, message!.state, message!.answer])).toEqual([
    ['Ada', 'sent', 'f@x.example: 550 5.1.1 No such mailbox here'],
    ['Bo', 'sent', 'f@x.example: 550 5.1.1 No such mailbox here'],
    ['Cy', 'sent', null],
  ]);
});

// OWASP, injection of mail headers by what people type.
test('no name can add a header or a recipient, or turn what stands beside it', async () => {
  const folio = await client.folioOf(
    'Name,Mail,Called\nAda,a@x.example,"Eve\r\nBcc: thief@z.example\r\n\r\nHello \u202e<b@z.example>, ""x"" (y)"',
    { letter: ['Dear {{Name}}'], body: 'The report.', subject: 'Report' },
  );
  const [, to, called] = folio.roll.columns;
  const { version, content } = noteOf(await client.get<Folio>(`/folios/${folio.id}`));
  await client.send('PUT', writingPath(folio, 'note'), {
    kind: 'note',
    version,
    content: {
      ...content,
      to: [{ columnId: to!.id, nameId: called!.id }],
      from: 'School\r\nBcc: thief@z.example',
      replyTo: { address: 'a@s.example\r\nBcc: thief@z.example' },
    },
  });
  await client.press(server, folio.id);
  // The address for answers cannot be right, and blocks.
  expect((await client.get<DispatchPlan>(`/folios/${folio.id}/dispatch`)).blocked).toEqual([
    expect.stringContaining('cannot be right'),
  ]);
  const now = noteOf(await client.get<Folio>(`/folios/${folio.id}`));
  await client.send('PUT', writingPath(folio, 'note'), {
    kind: 'note',
    version: now.version,
    content: { ...now.content, replyTo: undefined },
  });
  expect((await dispatch(folio)).queued).toBe(1);
  expect(mail.taken[0]!.to).toBe('a@x.example');
  const [read] = await texts();
  expect(read!.headers.has('bcc')).toBe(false);
  expect(addresses(read!.to)).toEqual([
    'Eve Bcc: thief@z.example Hello <b@z.example>, "x" (y) <a@x.example>',
  ]);
  expect(read!.from!.value).toEqual([
    { name: 'School Bcc: thief@z.example', address: 'office@thistlequay.example' },
  ]);
});

const again = (folio: Folio, asked: object, who = client) =>
  who.send<{ queued: number; code: string; detail: string }>(
    'POST',
    `/folios/${folio.id}/papers/send-again`,
    asked,
  );
const lineOf = async (folio: Folio, learner: string) =>
  (await client.register(folio.id)).papers.find((paper) => paper.learner === learner)!;

test('a paper is sent once more to another address, by one click only, and nobody else gets that', async () => {
  const folio = await folioWith((column) => ({
    to: [{ columnId: column('Mother') }],
    cc: [{ columnId: column('Tutor') }],
  }));
  await dispatch(folio);
  mail.taken.splice(0);
  const ada = await lineOf(folio, 'Ada');
  const asked = { paperIds: [ada.id], to: 'Other Parent <other@z.example>', seen: ada.message!.count };
  expect((await again(folio, { ...asked, to: 'nobody' })).body.detail).toMatch(/“nobody” cannot be right/);
  expect((await again(folio, asked, await newSchool(server))).status).toBe(404);
  const clicks = await Promise.all([again(folio, asked), again(folio, asked)]);
  expect(clicks.map(({ status }) => status).sort()).toEqual([200, 409]);
  await server.running.outbox.idle();
  expect(mail.taken.map(({ to }) => to)).toEqual(['other@z.example']);
  expect((await again(folio, asked)).body.code).toBe('sent-meanwhile');
  const { message, state } = await lineOf(folio, 'Ada');
  expect([state, message]).toMatchObject(['dispatched', { state: 'sent', count: 2 }]);
  // The same paper goes to the same people again where somebody says so.
  expect((await again(folio, { paperIds: [ada.id], seen: 2 })).body.queued).toBe(1);
  await server.running.outbox.idle();
  expect(mail.taken.at(-1)!.to).toBe('m@x.example, t1@s.example');
  // A try, a plan and a second dispatch find nothing left.
  expect((await dispatch(folio)).queued).toBe(0);
});

test('what was refused is offered once the address in the roll is another one, and does not wait any more then', async () => {
  const folio = await folioWith((column) => ({ to: [{ columnId: column('Mother') }] }));
  mail.sayOf('m@x.example', '550 5.1.1 No such mailbox here');
  await dispatch(folio);
  expect((await client.register(folio.id)).dispatch).toMatchObject({ sent: 2, refused: 1 });
  const plan = () => client.get<DispatchPlan>(`/folios/${folio.id}/dispatch`);
  expect(await plan()).toMatchObject({ messages: [], messagesAgain: [], messagesCorrected: [] });
  const [ada] = folio.roll.entries;
  await client.send('PATCH', `/folios/${folio.id}/roll`, {
    cells: [{ entryId: ada!.id, columnId: folio.roll.columns[1]!.id, text: 'right@x.example' }],
  });
  const { planId, messagesCorrected } = await plan();
  expect(messagesCorrected).toMatchObject([{ learners: ['Ada'], to: ['right@x.example'] }]);
  const send = (corrected: boolean) =>
    client.send<{ queued: number }>('POST', `/folios/${folio.id}/dispatch`, { planId, corrected });
  expect((await send(false)).body.queued).toBe(0);
  expect((await send(true)).body.queued).toBe(1);
  await server.running.outbox.idle();
  expect((await client.register(folio.id)).dispatch).toMatchObject({ sent: 3, refused: 0 });
  expect(await lineOf(folio, 'Ada')).toMatchObject({ state: 'dispatched', message: { state: 'sent' } });
  expect((await plan()).messagesCorrected).toEqual([]);
});

test('of a family and of two guardians only who was not reached is written to again', async () => {
  const family = await folioWith((column) => ({ to: [{ columnId: column('Mother') }], family: true }));
  mail.sayOf('m@x.example', '550 5.1.1 No such mailbox here');
  await dispatch(family);
  const plan = (of: Folio) => client.get<DispatchPlan>(`/folios/${of.id}/dispatch`);
  const mend = (of: Folio, learner: number, column: number, text: string) =>
    client.send('PATCH', `/folios/${of.id}/roll`, {
      cells: [{ entryId: of.roll.entries[learner]!.id, columnId: of.roll.columns[column]!.id, text }],
    });
  const send = async (of: Folio) => {
    mail.taken.splice(0);
    const { planId } = await plan(of);
    await client.send('POST', `/folios/${of.id}/dispatch`, { planId, corrected: true });
    await server.running.outbox.idle();
    return mail.taken.map(({ to }) => to);
  };
  await mend(family, 0, 1, 'right@x.example');
  expect(await send(family)).toEqual(['right@x.example']);
  // Bo shared the message that was refused, and still waits.
  expect((await client.register(family.id)).dispatch).toMatchObject({ refused: 1 });
  expect([(await lineOf(family, 'Ada')).message!.state, (await lineOf(family, 'Bo')).message!.state]).toEqual(
    ['sent', 'refused'],
  );
  const old = (await lineOf(family, 'Bo')).message!.id;
  expect(
    (await client.send<{ code: string }>('POST', `/folios/${family.id}/messages/${old}/again`, {})).body.code,
  ).toBe('sent-since');
  await mend(family, 1, 1, 'right@x.example');
  expect(await send(family)).toEqual(['right@x.example']);
  expect((await client.register(family.id)).dispatch).toMatchObject({ refused: 0 });

  const apart = await folioWith((column) => ({
    to: [{ columnId: column('Mother') }, { columnId: column('Father') }],
    apart: true,
  }));
  await dispatch(apart);
  expect((await plan(apart)).messagesCorrected).toEqual([]);
  await mend(apart, 0, 1, 'right@x.example');
  expect((await plan(apart)).messagesCorrected).toMatchObject([
    { learners: ['Ada'], to: ['right@x.example'] },
  ]);
  expect(await send(apart)).toEqual(['right@x.example']);
  expect((await lineOf(apart, 'Ada')).message!.state).toBe('sent');

  // That somebody else gets it too does not settle that the mother was not reached.
  const alone = await folioWith((column) => ({ to: [{ columnId: column('Mother') }] }));
  await dispatch(alone);
  const ada = await lineOf(alone, 'Ada');
  expect((await again(alone, { paperIds: [ada.id], to: 'other@z.example', seen: 1 })).status).toBe(200);
  await server.running.outbox.idle();
  expect(mail.taken.at(-1)!.to).toBe('other@z.example');
  expect((await client.register(alone.id)).dispatch).toMatchObject({ refused: 1 });
});

test('a try is the message as the family would get it, marked, with all its papers, and goes to oneself alone', async () => {
  const folio = await folioWith((column) => ({
    to: [{ columnId: column('Mother') }],
    cc: [{ columnId: column('Tutor') }],
    from: 'Year 8 team',
    family: true,
  }));
  const bo = folio.roll.entries[1]!.id;
  const { body } = await client.send('POST', `/folios/${folio.id}/tries`, { entryIds: [bo], messages: true });
  expect(body).toMatchObject({ papers: 2, messages: 1 });
  expect(mail.taken).toHaveLength(1);
  const [read] = await texts();
  expect(mail.taken[0]!.to).toBe((body as { to: string }).to);
  expect(read!.subject).toBe('Try: Report');
  const mark = 'The message below would go to m@x.example, a copy to t1@s.example, t2@s.example.';
  expect(read!.text).toMatch(/^This is a try, and went to you alone\./);
  expect(read!.text).toContain(mark);
  expect(read!.html).toContain(mark);
  expect(read!.from!.value[0]!.name).toBe('Year 8 team');
  expect(read!.attachments).toHaveLength(2);
  // Nothing is kept of it, and nobody counts as written to.
  expect((await client.register(folio.id)).dispatch).toMatchObject({ total: 0 });
});

// RFC 6531, 3.1, and RFC 5890: the domain goes in ASCII, letters before the @ to servers alone that take them.
test('addresses in other scripts leave as the mail server takes them, or it is said that it does not', async () => {
  const send = async (): Promise<{ folio: Folio; messages: readonly MessageRow[] }> => {
    const folio = await client.folioOf('Name,Mother\nAda,a@bücher.example\nBo,zoë@b.example', {
      letter: ['Dear {{Name}}'],
      body: 'The report.',
      subject: 'Report',
    });
    const { version, content } = noteOf(folio);
    const to = [{ columnId: folio.roll.columns[1]!.id }];
    await client.send('PUT', writingPath(folio, 'note'), {
      kind: 'note',
      version,
      content: { ...content, to },
    });
    await client.press(server, folio.id);
    await dispatch(folio);
    const messages = await server.running.database.manager.findBy(MessageRow, { folioId: folio.id });
    return { folio, messages };
  };
  const first = await send();
  expect(mail.taken.map(({ to }) => to)).toEqual(['a@xn--bcher-kva.example']);
  expect(first.messages.find(({ state }) => state === 'refused')?.answer).toMatch(
    /takes no letters such as in “zoë@b\.example” before the @ \(SMTPUTF8/,
  );
  mail.taken.splice(0);
  // Another account’s server says that it takes them.
  const other = new ScriptedMailServer();
  other.say('EHLO', '250-scripted.example\r\n250 SMTPUTF8');
  const abroad = await startTestServer({ SCRIPTUM_SMTP_URL: await other.listen() });
  const [mine, theirs] = [client, server];
  client = await newSchool(abroad);
  server = abroad;
  await send();
  [client, server] = [mine, theirs];
  const taken = other.taken.map(({ to, text }) => ({
    to: Buffer.from(to, 'latin1').toString(),
    text: Buffer.from(text, 'latin1').toString(),
  }));
  expect(taken.map(({ to }) => to).sort()).toEqual(['a@xn--bcher-kva.example', 'zoë@b.example']);
  // RFC 6532, 3.2: such an address stands in the head as it is.
  expect(taken.find(({ to }) => to.startsWith('zoë'))!.text).toMatch(/^To: zoë@b\.example\r$/m);
  await abroad.close();
  await other.close();
});
