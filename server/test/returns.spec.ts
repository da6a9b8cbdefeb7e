import type { DispatchPlan, Folio, MailQueue, Mailboxes, TakenReturns } from '@scriptum/core/contract';
import { deliveryReport } from '@scriptum/server/post/delivery-report';
import { messagesIn, readReturn } from '@scriptum/server/post/read-return';
import { MessageRow, PracticeMailRow } from '@scriptum/server/store/entities/register';
import {
  type Client,
  newSchool,
  noteOf,
  startTestServer,
  type TestServer,
  writingPath,
} from './testing/school.js';

let server: TestServer;
let client: Client;
beforeAll(async () => {
  server = await startTestServer();
});
afterAll(() => server.close());
beforeEach(async () => {
  client = await newSchool(server);
});

const crlf = (text: string): Buffer => Buffer.from(text.replace(/\n/g, '\r\n'));

// RFC 3464, appendix E.1, with the head of the message that it is about as RFC 6522 lets it be.
const EXAMPLE = crlf(`Date: Thu, 7 Jul 1994 17:16:05 -0400
From: Mail Delivery Subsystem <MAILER-DAEMON@CS.UTK.EDU>
Message-Id: <199407072116.RAA14128@CS.UTK.EDU>
Subject: Returned mail: Cannot send message for 5 days
To: <owner-info-mime@cs.utk.edu>
MIME-Version: 1.0
Content-Type: multipart/report; report-type=delivery-status;
      boundary="RAA14128.773615765/CS.UTK.EDU"

--RAA14128.773615765/CS.UTK.EDU

The original message was received at Sat, 2 Jul 1994 17:10:28 -0400
from root@localhost

   ----- The following addresses had delivery problems -----
<louisl@larry.slip.umd.edu>  (unrecoverable error)

--RAA14128.773615765/CS.UTK.EDU
content-type: message/delivery-status

Reporting-MTA: dns; cs.utk.edu

Original-Recipient: rfc822;louisl@larry.slip.umd.edu
Final-Recipient: rfc822;louisl@larry.slip.umd.edu
Action: failed
Status: 4.0.0
Diagnostic-Code: smtp; 426 connection timed out
Last-Attempt-Date: Thu, 7 Jul 1994 17:15:49 -0400

--RAA14128.773615765/CS.UTK.EDU
content-type: message/rfc822

Message-ID:
 <info-mime.7@cs.utk.edu>
Subject: Info

[original message goes here]

--RAA14128.773615765/CS.UTK.EDU--
`);

test('the example of RFC 3464 is read', async () =>
  expect(await readReturn(EXAMPLE)).toEqual({
    messageId: '<info-mime.7@cs.utk.edu>',
    people: [
      {
        addresses: ['louisl@larry.slip.umd.edu'],
        action: 'failed',
        status: '4.0.0',
        diagnostic: '426 connection timed out',
      },
    ],
  }));

test.each([
  ['an answer', 'From: a@b.example\nSubject: Re: Report\nIn-Reply-To: <x@y>\n\nThanks!\n'],
  ['nothing', ''],
  ['bytes', '\u0000\u0001\u0002'],
  ['a report without a message', EXAMPLE.toString().replace(/Message-ID:[^>]*>/, 'X-Other: 1')],
  ['a report without people', EXAMPLE.toString().replace(/(Original|Final)-Recipient:/g, 'X-$1:')],
])('%s is no report', async (_, text) => expect(await readReturn(crlf(text.replace(/\r/g, '')))).toBeNull());

// RFC 4155: messages stand one behind the other; lines of theirs that begin so are marked.
test('a file may hold several messages', () => {
  const mbox =
    'From a@b.example Thu Jul  7 17:16:05 1994\nSubject: 1\n\nDear\n>From here\n\nFrom c Fri Jul  8 17:16:05 1994\nSubject: 2\n\nx\n';
  const parts = messagesIn(Buffer.from(mbox)).map(String);
  expect(parts).toHaveLength(2);
  expect(parts[0]).toContain('\nFrom here');
  expect(messagesIn(EXAMPLE)).toEqual([EXAMPLE]);
});

/** A folio whose only learner is written to at these addresses, sent by the practice post. */
async function sentTo(addresses: string): Promise<{ folio: Folio; message: MessageRow }> {
  const folio = await client.folioOf(`Name;Mail\nAnn;"${addresses}"\n`, {
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
  const { planId } = await client.get<DispatchPlan>(`/folios/${folio.id}/dispatch`);
  await client.send('POST', `/folios/${folio.id}/dispatch`, { planId });
  await server.running.outbox.idle();
  const message = await server.running.database.manager.findOneByOrFail(MessageRow, { folioId: folio.id });
  return { folio, message };
}
const report = (
  { messageId }: MessageRow,
  recipient: string,
  diagnostic = '550 5.1.1 Unknown user',
): Buffer =>
  deliveryReport({
    raw: Buffer.from(`Message-ID: ${messageId}\r\nSubject: Report\r\n\r\nx`),
    sender: 'office@school.example',
    recipient,
    status: '5.1.1',
    diagnostic,
    at: new Date(),
  });
async function takeIn(
  bytes: Buffer,
  who = client,
): Promise<{ status: number; body: TakenReturns & { code: string } }> {
  const response = await who.raw('POST', '/post-room/returns', new Uint8Array(bytes), {
    'content-type': 'application/octet-stream',
  });
  return { status: response.status, body: (await response.json()) as TakenReturns & { code: string } };
}
const lineOf = async (folio: Folio) => (await client.register(folio.id)).papers[0]!;

test('a message that came back is refused, its paper waits, and it is offered once the address is mended', async () => {
  const { folio, message } = await sentTo('ann@home.example');
  expect(await lineOf(folio)).toMatchObject({ state: 'dispatched' });
  // Another school’s person cannot mark it, and learns nothing.
  const stranger = await newSchool(server);
  expect((await takeIn(report(message, 'ann@home.example'), stranger)).body).toMatchObject({
    marked: 0,
    strange: 1,
  });
  expect(await lineOf(folio)).toMatchObject({ state: 'dispatched' });
  expect((await takeIn(report(message, 'Ann@Home.example'))).body).toEqual({
    messages: 1,
    marked: 1,
    known: 0,
    strange: 0,
  });
  expect(await lineOf(folio)).toMatchObject({ state: 'cleared', message: { state: 'refused' } });
  const queue = await client.get<MailQueue>('/post-room/queue?state=refused');
  expect(queue.messages[0]!.answer).toBe('Came back: ann@home.example: 550 5.1.1 Unknown user.');
  // The same report says nothing new, and one about somebody else is not believed.
  expect((await takeIn(report(message, 'ann@home.example'))).body).toMatchObject({ marked: 0, known: 1 });
  expect((await takeIn(report(message, 'other@home.example'))).body).toMatchObject({ marked: 0, known: 1 });
  await client.send('PATCH', `/folios/${folio.id}/roll`, {
    cells: [
      { entryId: folio.roll.entries[0]!.id, columnId: folio.roll.columns[1]!.id, text: 'new@home.example' },
    ],
  });
  expect((await client.get<DispatchPlan>(`/folios/${folio.id}/dispatch`)).messagesCorrected).toMatchObject([
    { to: ['new@home.example'] },
  ]);
});

test('one that reached some says for whom it did not, and reaches nobody once all came back', async () => {
  const { folio, message } = await sentTo('ann@home.example, ben@home.example');
  await takeIn(report(message, 'ben@home.example'));
  expect(await lineOf(folio)).toMatchObject({
    state: 'dispatched',
    message: { state: 'sent', answer: 'Came back: ben@home.example: 550 5.1.1 Unknown user.' },
  });
  await takeIn(report(message, 'ann@home.example', '552 5.2.2 Mailbox full'));
  expect(await lineOf(folio)).toMatchObject({ state: 'cleared', message: { state: 'refused' } });
  const { messages } = await client.get<MailQueue>('/post-room/queue');
  expect(messages[0]!.answer).toBe(
    'Came back: ben@home.example: 550 5.1.1 Unknown user. ann@home.example: 552 5.2.2 Mailbox full.',
  );
});

test('a report names a domain in ASCII that the roll has in its own script', async () => {
  const { folio, message } = await sentTo('ann@bücher.example');
  expect((await takeIn(report(message, 'ann@xn--bcher-kva.example'))).body).toMatchObject({ marked: 1 });
  expect(await lineOf(folio)).toMatchObject({ message: { state: 'refused' } });
});

test('late is not refused, and a file without a report is said to have none', async () => {
  const { folio, message } = await sentTo('ann@home.example');
  const late = Buffer.from(
    report(message, 'ann@home.example').toString('latin1').replace('Action: failed', 'Action: delayed'),
  );
  expect((await takeIn(late)).body).toMatchObject({ marked: 0, known: 1 });
  expect(await lineOf(folio)).toMatchObject({ state: 'dispatched' });
  for (const nothing of ['', 'Dear Ann,\r\n', 'From: a@b.example\r\n\r\nHello'])
    expect((await takeIn(Buffer.from(nothing))).body.code).toBe('no-report');
});

describe('the practice post', () => {
  const setMood = (mood: string, who = client) => who.send('PUT', '/practice-post/manner', { mood });
  async function until(holds: () => Promise<boolean>): Promise<void> {
    const deadline = Date.now() + 30_000;
    while (!(await holds())) {
      if (Date.now() > deadline) throw new Error('not reached');
      await new Promise((resolve) => setTimeout(resolve, 50));
    }
  }
  const state = async (folio: Folio): Promise<string> =>
    (await server.running.database.manager.findOneByOrFail(MessageRow, { folioId: folio.id })).state;

  test('sends back, and keeps the report in the sender’s mailbox', async () => {
    await setMood('return');
    const { folio } = await sentTo('ann@home.example');
    await until(async () => (await state(folio)) === 'refused');
    const { mailboxes, mood } = await client.get<Mailboxes>('/practice-post/mailboxes');
    expect([mood, mailboxes.map(({ address }) => address)]).toEqual([
      'return',
      ['office@thistlequay.example'],
    ]);
    const row = await server.running.database.manager.findOneByOrFail(PracticeMailRow, {
      mailbox: 'office@thistlequay.example',
    });
    expect((await readReturn(row.raw))!.people[0]!.addresses).toEqual(['ann@home.example']);
  });

  test('refuses, puts off once, and hangs up with the text: each is told as what it is', async () => {
    await setMood('refuse');
    expect(await state((await sentTo('ann@home.example')).folio)).toBe('refused');
    await setMood('greylist');
    const { folio } = await sentTo('ann@home.example');
    expect(await state(folio)).toBe('deferred');
    await client.send('POST', '/mail-account/again', {});
    await until(async () => (await state(folio)) === 'sent');
    await setMood('drop');
    expect(await state((await sentTo('bo@home.example')).folio)).toBe('unconfirmed');
    // It did arrive: nobody but a person may send it again.
    expect(
      await server.running.database.manager.countBy(PracticeMailRow, { mailbox: 'bo@home.example' }),
    ).toBe(1);
    expect((await setMood('other')).status).toBe(400);
  });

  test('shows a certificate that nobody believes: nothing is lost, and it goes on once that is over', async () => {
    await setMood('bad-tls');
    const { folio } = await sentTo('ann@home.example');
    expect(await state(folio)).toBe('deferred');
    expect((await client.register(folio.id)).dispatch!.fault!.answer).toMatch(/certificate/i);
    // Another school’s mail goes on.
    const other = client;
    client = await newSchool(server);
    expect(await state((await sentTo('bo@home.example')).folio)).toBe('sent');
    client = other;
    await setMood('well');
    await until(async () => (await state(folio)) === 'sent');
  });

  test('says whom the messages of a mailbox are about', async () => {
    await sentTo('ann@home.example');
    expect((await client.get<Mailboxes>('/practice-post/mailboxes')).mailboxes).toMatchObject([
      { address: 'ann@home.example', learners: ['Ann'], messages: 1 },
    ]);
  });
});
