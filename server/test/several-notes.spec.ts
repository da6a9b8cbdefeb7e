import type { DispatchPlan, Folio } from '@scriptum/core/contract';
import type { CoverNote, SortingRule, Writing } from '@scriptum/core/template';
import { MessageRow } from '@scriptum/server/store/entities/register';
import { simpleParser } from 'mailparser';
import { ScriptedMailServer } from './testing/mail-server.js';
import { packOf, PRINT } from './testing/packs.js';
import {
  newSchool,
  noteOf,
  startTestServer,
  writingPath,
  type Client,
  type TestServer,
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
  'Name,Guardian,Own,Level,Language',
  'Ada,a@home.example,ada@s.example,gold,English',
  'Bo,b@home.example,,silver,Polish',
  'Cy,,cy@s.example,silver,English',
  'Di,,,silver,English',
].join('\n');

const line = (text: string) => [{ type: 'text' as const, text }];

/** A folio with a note to guardians and one to the learners, whose papers are pressed. */
async function folioWithTwo() {
  const folio = await client.folioOf(SHEET, {
    letter: ['Dear {{Name}}'],
    body: 'To the family.',
    subject: 'Guardians',
  });
  const column = (title: string): string => folio.roll.columns.find((one) => one.title === title)!.id;
  const first = noteOf(await client.get<Folio>(`/folios/${folio.id}`));
  const content: CoverNote = { ...first.content, to: [{ columnId: column('Guardian') }] };
  await client.send('PUT', writingPath(folio, 'note'), { kind: 'note', version: first.version, content });
  const add = async (name: string, more: Partial<CoverNote>): Promise<Writing> => {
    const reply = await client.send<Writing>('POST', `/folios/${folio.id}/writings`, {
      kind: 'note',
      content: { ...content, name, subject: line(name), ...more },
    });
    expect(reply.status).toBe(200);
    return reply.body;
  };
  const learner = await add('To the learner', { to: [{ columnId: column('Own') }] });
  await client.press(server, folio.id);
  return { folio, column, first, learner, add };
}

async function dispatch(folio: Folio): Promise<DispatchPlan> {
  const plan = await client.get<DispatchPlan>(`/folios/${folio.id}/dispatch`);
  if (plan.messages.length > 0)
    await client.send('POST', `/folios/${folio.id}/dispatch`, { planId: plan.planId });
  await server.running.outbox.idle();
  return plan;
}
const taken = (): string[] =>
  mail.taken.map(({ to, text }) => `${/^Subject: (.*)$/m.exec(text)![1]!} → ${to}`).sort();

test('each note is a message of its own, and only whom no note reaches is left to be printed', async () => {
  const { folio } = await folioWithTwo();
  const plan = await dispatch(folio);
  expect(plan.messages.map(({ note, to }) => [note, ...to])).toEqual([
    ['Cover note', 'a@home.example'],
    ['Cover note', 'b@home.example'],
    ['To the learner', 'ada@s.example'],
    ['To the learner', 'cy@s.example'],
  ]);
  expect(plan.noAddress.map(({ learner }) => learner)).toEqual(['Di']);
  expect(taken()).toEqual([
    'Guardians → a@home.example',
    'Guardians → b@home.example',
    'To the learner → ada@s.example',
    'To the learner → cy@s.example',
  ]);
  // Nobody gets one twice, and a pack of those without an address has Di alone.
  expect((await dispatch(folio)).messages).toEqual([]);
  const { lines } = await packOf(client, folio.id, { ...PRINT, who: 'no-address' });
  expect(lines.map(({ learner }) => learner)).toEqual(['Di']);
});

test('a note that a rule names goes to those alone whom the rule takes; one by somebody’s word to nobody by itself', async () => {
  const { folio, column, first, add } = await folioWithTwo();
  const gold = await add('For gold', { goes: 'ruled', to: [{ columnId: column('Guardian') }] });
  const reminder = await add('Reminder', { goes: 'asked', to: [{ columnId: column('Guardian') }] });
  const letterId = folio.writings.find(({ kind }) => kind === 'letter')!.id;
  const rules: SortingRule[] = [
    {
      id: 'gold',
      if: { columnId: column('Level'), is: 'equal', values: ['gold'] },
      then: { kind: 'gives', templates: [letterId], notes: [gold.id] },
    },
    { id: 'rest', if: null, then: { kind: 'gives', templates: [letterId] } },
  ];
  const reply = await client.send('PUT', writingPath(folio, 'sorting'), {
    version: 1,
    kind: 'sorting',
    content: { rules },
  });
  expect(reply.status).toBe(200);
  await dispatch(folio);
  expect(taken()).toEqual([
    'For gold → a@home.example',
    'Guardians → a@home.example',
    'Guardians → b@home.example',
    'To the learner → ada@s.example',
    'To the learner → cy@s.example',
  ]);
  mail.taken.splice(0);
  const bo = (await client.register(folio.id)).papers.find(({ learner }) => learner === 'Bo')!;
  const asked = { paperIds: [bo.id], seen: bo.message!.count, noteId: reminder.id };
  const other = await newSchool(server);
  expect((await other.send('POST', `/folios/${folio.id}/papers/send-again`, asked)).status).toBe(404);
  expect(
    (await client.send('POST', `/folios/${folio.id}/papers/send-again`, { ...asked, noteId: letterId }))
      .status,
  ).toBe(404);
  expect((await client.send('POST', `/folios/${folio.id}/papers/send-again`, asked)).status).toBe(200);
  await server.running.outbox.idle();
  expect(taken()).toEqual(['Reminder → b@home.example']);
  // What was sent as a reminder keeps nothing else back, and nothing goes twice.
  expect((await dispatch(folio)).messages).toEqual([]);
  expect(first.id).not.toBe(reminder.id);
});

test('a note in another language goes instead, and whose language is mended later gets none twice', async () => {
  const { folio, column, first, add } = await folioWithTwo();
  await add('Po polsku', {
    to: [{ columnId: column('Guardian') }],
    language: 'pl-PL',
    variant: { of: first.id, columnId: column('Language'), name: 'Language', says: ['Polish'] },
  });
  await dispatch(folio);
  expect(taken()).toEqual([
    'Guardians → a@home.example',
    'Po polsku → b@home.example',
    'To the learner → ada@s.example',
    'To the learner → cy@s.example',
  ]);
  const polish = await simpleParser(mail.taken.find(({ to }) => to === 'b@home.example')!.text);
  expect(polish.html).toContain('lang="pl-PL"');
  await client.send('PATCH', `/folios/${folio.id}/roll`, {
    cells: [{ entryId: folio.roll.entries[1]!.id, columnId: column('Language'), text: 'English' }],
  });
  expect((await client.get<Folio>(`/folios/${folio.id}`)).roll.entries[1]!.values[column('Language')]).toBe(
    'English',
  );
  const plan = await dispatch(folio);
  expect([plan.messages, plan.messagesAgain]).toEqual([[], []]);
});

test('what was refused with one note waits, though another note of the same paper arrived', async () => {
  const { folio, column } = await folioWithTwo();
  mail.sayOf('a@home.example', '550 5.1.1 No such mailbox here');
  await dispatch(folio);
  const states = async (): Promise<string[]> =>
    (await server.running.database.manager.findBy(MessageRow, { folioId: folio.id }))
      .map(({ recipients, state }) => `${recipients.join()} ${state}`)
      .sort();
  expect(await states()).toEqual([
    'a@home.example refused',
    'ada@s.example sent',
    'b@home.example sent',
    'cy@s.example sent',
  ]);
  expect((await client.register(folio.id)).dispatch).toMatchObject({ sent: 3, refused: 1 });
  await client.send('PATCH', `/folios/${folio.id}/roll`, {
    cells: [{ entryId: folio.roll.entries[0]!.id, columnId: column('Guardian'), text: 'right@home.example' }],
  });
  mail.taken.splice(0);
  const plan = await client.get<DispatchPlan>(`/folios/${folio.id}/dispatch`);
  expect(plan).toMatchObject({
    messages: [],
    messagesAgain: [],
    messagesCorrected: [{ note: 'Cover note', to: ['right@home.example'] }],
  });
  await client.send('POST', `/folios/${folio.id}/dispatch`, { planId: plan.planId, corrected: true });
  await server.running.outbox.idle();
  expect(taken()).toEqual(['Guardians → right@home.example']);
  expect((await client.register(folio.id)).dispatch).toMatchObject({ sent: 4, refused: 0 });
});
