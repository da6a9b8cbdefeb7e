import type { DispatchPlan, Folio, Register } from '@scriptum/core/contract';
import { FolioRow } from '@scriptum/server/store/entities/folio';
import { EnclosureRow, MessageRow } from '@scriptum/server/store/entities/register';
import { newId } from '@scriptum/server/store/id';
import { simpleParser } from 'mailparser';
import { ScriptedMailServer } from './testing/mail-server.js';
import { newSchool, noteOf, startTestServer, type Client, type TestServer } from './testing/school.js';

let server: TestServer;
let client: Client;
const mail = new ScriptedMailServer();
beforeAll(async () => {
  server = await startTestServer({ SCRIPTUM_SMTP_URL: await mail.listen() });
  client = await newSchool(server);
});
afterAll(async () => {
  await server.close();
  await mail.close();
});
beforeEach(() => mail.taken.splice(0));

/** Two children of one family, pressed. */
async function family(): Promise<{ folio: Folio; register: Register }> {
  const folio = await client.folioOf(
    'Name,Mail\nIlse,brandt@families.example\nJonas,brandt@families.example',
    { letter: ['Dear {{Name}}'], file: 'Letter for {{Name}}' },
  );
  await client.press(server, folio.id);
  return { folio, register: await client.register(folio.id) };
}

/** A message for all papers of the register, as it is queued for a family. */
async function queueBundle(folio: Folio, { papers }: Register, sendKey: string): Promise<void> {
  const { manager } = server.running.database;
  const { schoolId } = await manager.findOneByOrFail(FolioRow, { id: folio.id });
  const now = new Date();
  const message = {
    id: newId(),
    schoolId,
    folioId: folio.id,
    sendKey,
    messageId: `<${newId()}@saltmarsh.example>`,
    recipients: ['brandt@families.example', 'other.parent@families.example'],
    subject: 'Two letters',
    text: 'Both are enclosed.',
    html: '<p>Both are enclosed.</p>',
    accountId: schoolId,
    state: 'queued' as const,
    attempts: 0,
    answer: null,
    noteId: noteOf(folio).id,
    noteVersion: noteOf(folio).version,
    queuedAt: now,
    nextAttemptAt: now,
    sentAt: null,
  };
  await manager.transaction(async (inside) => {
    await inside.insert(MessageRow, message);
    await inside.insert(
      EnclosureRow,
      papers.map(({ id: paperId, entryId }, place) => ({
        messageId: message.id,
        paperId,
        entryId,
        noteId: message.noteId,
        place,
        schoolId: message.schoolId,
        folioId: folio.id,
      })),
    );
  });
}

async function send(): Promise<void> {
  server.running.outbox.wake();
  await server.running.outbox.idle();
}

test('one message holds the papers of two entries, and goes to two recipients once', async () => {
  const { folio, register } = await family();
  await queueBundle(folio, register, 'bundle 1');
  // Nothing is left to be sent, and no other message with one of these papers is queued.
  expect(await client.get<DispatchPlan>(`/folios/${folio.id}/dispatch`)).toMatchObject({
    send: [],
    again: [],
  });
  await expect(queueBundle(folio, register, 'bundle 2')).rejects.toMatchObject({ code: 'ER_DUP_ENTRY' });
  await send();
  await send();
  expect(mail.taken).toHaveLength(1);
  const read = await simpleParser(mail.taken[0]!.text);
  expect(read.attachments.map(({ filename }) => filename)).toEqual([
    'Letter for Ilse.pdf',
    'Letter for Jonas.pdf',
  ]);
  const to = [read.to].flat().flatMap((one) => one?.value ?? []);
  expect(to.map(({ address }) => address)).toEqual([
    'brandt@families.example',
    'other.parent@families.example',
  ]);
  const after = await client.register(folio.id);
  expect(after.papers.map(({ state, message }) => [state, message?.state, message?.to])).toEqual([
    ['dispatched', 'sent', 'brandt@families.example, other.parent@families.example'],
    ['dispatched', 'sent', 'brandt@families.example, other.parent@families.example'],
  ]);
  expect(after.dispatch).toMatchObject({ total: 1, sent: 1 });
});

test('one paper that is held keeps the whole message back; one that is pressed anew takes it out of the queue', async () => {
  const { folio, register } = await family();
  const hold = (value: boolean) =>
    client.send('POST', `/folios/${folio.id}/papers/hold`, {
      paperIds: [register.papers[1]!.id],
      hold: value,
    });
  await hold(true);
  await queueBundle(folio, register, 'bundle 3');
  await send();
  expect(mail.taken).toEqual([]);
  expect((await client.register(folio.id)).dispatch).toMatchObject({ waiting: 1, keptBack: 1 });
  const mends = {
    cells: [{ entryId: folio.roll.entries[0]!.id, columnId: folio.roll.columns[0]!.id, text: 'Ilse M.' }],
  };
  await client.send('PATCH', `/folios/${folio.id}/roll`, mends);
  await client.press(server, folio.id);
  await hold(false);
  await send();
  expect(mail.taken).toEqual([]);
  // Both can be sent again by themselves, so nobody is forgotten.
  const plan = await client.get<DispatchPlan>(`/folios/${folio.id}/dispatch`);
  expect(plan.send.map(({ learner }) => learner).sort()).toEqual(['Ilse M.', 'Jonas']);
});
