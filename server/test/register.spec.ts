import type { Folio, Register, RunStarted } from '@scriptum/core/contract';
import { FolioEvents } from '@scriptum/server/folio-events';
import { DatabaseSlices } from '@scriptum/server/jobs/database-slices';
import { findDue } from '@scriptum/server/post/message-claims';
import { Refusal } from '@scriptum/server/refusal';
import { Registers } from '@scriptum/server/register/registers';
import { lastTurn } from '@scriptum/server/store/turns';
import { FolioRow } from '@scriptum/server/store/entities/folio';
import { pino } from 'pino';
import {
  filingOf,
  letterOf,
  newSchool,
  noteOf,
  startTestServer,
  type Client,
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

const since = (folio: Folio, revision: number): Promise<Register> =>
  client.get<Register>(`/folios/${folio.id}/papers?since=${revision}`);

/** What changed since, once it is known which papers are out of date. */
async function settledSince(folio: Folio, revision: number): Promise<Register> {
  for (;;) {
    const register = await since(folio, revision);
    if (!register.comparing) return register;
    await new Promise((resolve) => setTimeout(resolve, 10));
  }
}

async function pressed(names: readonly string[]): Promise<Folio> {
  const rows = names.map((name, n) => `${name},${n},${name.toLowerCase()}@families.example`);
  const folio = await client.folioOf(`Name,Mark,Mail\n${rows.join('\n')}`, {
    letter: ['Dear {{Name}}, {{Mark}}'],
    file: '{{Name}}',
  });
  await client.press(server, folio.id);
  return folio;
}

const save = (folio: Folio, kind: 'letter' | 'note' | 'filing', change: object): Promise<unknown> => {
  const writing = { letter: letterOf(folio), note: noteOf(folio), filing: filingOf(folio) }[kind];
  return client.send('PUT', writingPath(folio, kind), {
    version: writing.version,
    kind,
    content: { ...writing.content, ...change },
  });
};

test('who says up to where the register is known is told what changed since', async () => {
  const folio = await pressed(['Amara', 'Ilse', 'Tane']);
  const { revision, papers, whole } = await client.register(folio.id);
  expect([whole, papers.length]).toEqual([true, 3]);
  expect(await since(folio, revision)).toMatchObject({
    revision,
    whole: false,
    papers: [],
    comparing: false,
  });
  await client.send('POST', `/folios/${folio.id}/papers/hold`, { paperIds: [papers[1]!.id], hold: true });
  const held = await since(folio, revision);
  expect(held.papers.map(({ learner, state }) => [learner, state])).toEqual([['Ilse', 'held']]);
  expect(held.revision).toBeGreaterThan(revision);
  // Of a database that was put back to how it was, more is known than there is.
  expect(await since(folio, held.revision + 5)).toMatchObject({ whole: true, revision: held.revision });
});

test('a changed cell puts one paper out of date, a changed text all; a note none; and back again', async () => {
  const folio = await pressed(['Amara', 'Ilse', 'Tane']);
  let { revision } = await client.register(folio.id);
  const changes = async (): Promise<string[]> => {
    const register = await settledSince(folio, revision);
    revision = register.revision;
    return register.papers.map(({ learner, outOfDate }) => `${learner} ${outOfDate ? 'old' : 'current'}`);
  };
  const mark = (text: string) => ({
    cells: [{ entryId: folio.roll.entries[1]!.id, columnId: folio.roll.columns[1]!.id, text }],
  });
  await client.send('PATCH', `/folios/${folio.id}/roll`, mark('77'));
  expect(await changes()).toEqual(['Ilse old']);
  await client.send('PATCH', `/folios/${folio.id}/roll`, mark('1'));
  expect(await changes()).toEqual(['Ilse current']);
  await save(folio, 'note', { subject: [] });
  expect(await changes()).toEqual([]);
  await save(folio, 'letter', { language: 'de-DE' });
  expect(await changes()).toEqual(['Amara old', 'Ilse old', 'Tane old']);
  await client.press(server, folio.id);
  const after = await changes();
  expect(after.filter((line) => line.endsWith(' old'))).toEqual([]);
});

test('a run that was stopped takes its waiting papers out of what is known', async () => {
  const folio = await pressed(Array.from({ length: 300 }, (_, n) => `Learner${n}`));
  const { revision } = await client.register(folio.id);
  await save(folio, 'letter', { language: 'de-DE' });
  const { body } = await client.send<RunStarted>('POST', `/folios/${folio.id}/runs`, {});
  await client.send('POST', `/folios/${folio.id}/runs/${body.run!.id}/stop`, {});
  const register = await settledSince(folio, revision);
  expect(register.whole).toBe(true);
  expect(register.papers.filter(({ state }) => state === 'waiting')).toEqual([]);
  const standing = register.papers.filter(({ state }) => state === 'pressed');
  expect(standing).toHaveLength(300);
  // Those that were not made anew are out of date, those that were are not.
  expect(standing.filter(({ outOfDate }) => !outOfDate)).toHaveLength(register.run!.pressed);
});

test('papers that are pressed while their text changes are out of date when the run has ended', async () => {
  const folio = await client.folioOf(
    `Name\n${Array.from({ length: 200 }, (_, n) => `Learner ${n}`).join('\n')}`,
    { letter: ['Dear {{Name}}'] },
  );
  const { body } = await client.send<RunStarted>('POST', `/folios/${folio.id}/runs`, {});
  await save(folio, 'letter', { language: 'de-DE' });
  await server.running.press.ended(body.run!.id);
  const { papers } = await client.register(folio.id);
  expect(papers).toHaveLength(200);
  expect(papers.every(({ outOfDate }) => outOfDate)).toBe(true);
});

test('how the message of a paper stands is told with it', async () => {
  const folio = await pressed(['Amara', 'Ilse']);
  const mail = folio.roll.columns[2]!.id;
  await save(folio, 'note', { to: [{ columnId: mail }] });
  const { revision } = await client.register(folio.id);
  const plan = await client.get<{ planId: string; send: object[] }>(`/folios/${folio.id}/dispatch`);
  expect(plan.send).toHaveLength(2);
  await client.send('POST', `/folios/${folio.id}/dispatch`, { planId: plan.planId, again: false });
  await server.running.outbox.idle();
  const register = await since(folio, revision);
  expect(register.papers.map(({ learner, state, message }) => [learner, state, message?.state])).toEqual([
    ['Amara', 'dispatched', 'sent'],
    ['Ilse', 'dispatched', 'sent'],
  ]);
  expect(register.dispatch).toMatchObject({ total: 2, sent: 2, waiting: 0 });
});

test('papers of a slice that breaks off time and again fail with a sentence; a run whose slices are lost goes on', async () => {
  const folio = await pressed(['Amara', 'Ilse']);
  const { database, press } = server.running;
  const waitAgain = async (slices: string): Promise<void> => {
    const [run] = await database.query<{ id: string }[]>('SELECT id FROM press_run WHERE folioId = ?', [
      folio.id,
    ]);
    await database.query("UPDATE paper SET state = 'waiting', blobHash = NULL WHERE runId = ?", [run!.id]);
    await database.query(slices, [run!.id]);
    await database.query("UPDATE press_run SET state = 'running' WHERE id = ?", [run!.id]);
    await press.ended(run!.id);
  };
  await waitAgain("UPDATE slice SET state = 'queued', tries = 5 WHERE jobId = ?");
  const failed = await client.register(folio.id);
  expect(failed.papers.map(({ state }) => state)).toEqual(['failed', 'failed']);
  expect(failed.papers[0]!.reason).toContain('broke off several times');
  expect(failed.run).toMatchObject({ state: 'finished', failed: 2 });
  await waitAgain('DELETE FROM slice WHERE jobId = ?');
  expect((await client.register(folio.id)).papers.map(({ state }) => state)).toEqual(['pressed', 'pressed']);
});

test('a roll that is too much to work out is compared once, and again when it changes', async () => {
  const folio = await pressed(['Amara']);
  const { database } = server.running;
  await client.register(folio.id);
  const { schoolId } = await database.manager.findOneByOrFail(FolioRow, { id: folio.id });
  const asked: string[] = [];
  const queue = new DatabaseSlices(database);
  const registers = new Registers(
    database,
    queue,
    ({ folioId }) => {
      asked.push(folioId);
      return Promise.reject(new Refusal(422, 'too-much-work', 'Too much.'));
    },
    new FolioEvents(),
    pino({ level: 'silent' }),
    () => undefined,
    () => undefined,
  );
  const slice = {
    id: folio.id,
    kind: 'compare' as const,
    schoolId,
    folioId: folio.id,
    jobId: folio.id,
    lane: 'upkeep' as const,
    claim: 'theirs',
    tries: 0,
  };
  // The server's own worker is busy with another one of the same name meanwhile.
  const claimed = async (): Promise<void> => {
    await database.query("UPDATE register_state SET comparedWith = 'before' WHERE folioId = ?", [folio.id]);
    await database.query(
      `UPDATE slice SET state = 'claimed', claim = 'theirs', claimedUntil = UTC_TIMESTAMP(3) + INTERVAL 1 MINUTE WHERE id = ?`,
      [folio.id],
    );
  };
  await claimed();
  await registers.work(slice, () => true);
  expect(asked).toEqual([folio.id]);
  expect(await registers.compareWhereDue(schoolId, folio.id)).toBe(false);
  // Who closes leaves it to others instead.
  await claimed();
  await registers.work(slice, () => false);
  expect(asked).toHaveLength(1);
  expect(await database.query('SELECT state FROM slice WHERE id = ?', [folio.id])).toEqual([
    { state: 'claimed' },
  ]);
  await queue.giveBack(slice);
});

test('mail leaves in turns, of which a school’s next one comes behind its last that waits, or now', async () => {
  const { database } = server.running;
  const folio = await pressed(['Amara']);
  const { schoolId } = await database.manager.findOneByOrFail(FolioRow, { id: folio.id });
  const at = async (second: number): Promise<number> =>
    database.transaction(async (manager) => {
      await manager.query('SET timestamp = ?', [1_800_000_000 + second]);
      try {
        return await lastTurn(manager, 'message', schoolId);
      } finally {
        await manager.query('SET timestamp = DEFAULT');
      }
    });
  expect([await at(0), await at(7)]).toEqual([1_800_000_000_000, 1_800_000_007_000]);
  // Where something waits, what comes is behind it.
  for (const [n, turn] of [1_800_000_040_000, 1_800_000_060_000, 1_800_000_050_000].entries())
    await database.query(
      `INSERT INTO message (id, schoolId, folioId, sendKey, messageId, recipients, subject, text, html, state, attempts, queuedAt, turn,
         nextAttemptAt, accountId) VALUES (?, ?, ?, ?, ?, '["a@b.example"]', 's', 't', 'h', 'queued', 0, UTC_TIMESTAMP(3), ?, '2026-01-01', ?)`,
      [`turn${n}`, schoolId, folio.id, `turn${n}`, `<turn${n}@x>`, turn, schoolId],
    );
  expect(await at(7)).toBe(1_800_000_060_000);
  const due = await findDue(database.manager, schoolId, 10);
  expect(due.map(({ message }) => message.id)).toEqual(['turn0', 'turn2', 'turn1']);
  await database.query("DELETE FROM message WHERE id LIKE 'turn%'");
});

test('what is due is found among many that wait without reading them all', async () => {
  const { database } = server.running;
  const folio = await pressed(['Bao']);
  const { schoolId } = await database.manager.findOneByOrFail(FolioRow, { id: folio.id });
  await database.query(
    `INSERT INTO message (id, schoolId, folioId, sendKey, messageId, recipients, subject, text, html, state, attempts, queuedAt, turn,
       nextAttemptAt, accountId)
     SELECT CONCAT('many', seq), ?, ?, CONCAT('many', seq), CONCAT('<many', seq, '@x>'), '["a@b.example"]', 's', 't', 'h', 'queued', 0,
       UTC_TIMESTAMP(3), seq, '2026-01-01', ? FROM seq_1_to_1000`,
    [schoolId, folio.id, schoolId],
  );
  await database.query(
    `INSERT INTO enclosure (messageId, paperId, entryId, noteId, apart, place, schoolId, folioId)
     SELECT m.id, p.id, p.entryId, 'note', m.id, 0, m.schoolId, m.folioId FROM message m JOIN paper p ON p.folioId = m.folioId
     WHERE m.folioId = ?`,
    [folio.id],
  );
  const one = database.createQueryRunner();
  await one.query('FLUSH STATUS');
  expect(await findDue(one.manager, schoolId, 10)).toHaveLength(10);
  const reads = (await one.query("SHOW SESSION STATUS LIKE 'Handler_read%'")) as { Value: string }[];
  await one.release();
  expect(reads.reduce((sum, { Value }) => sum + Number(Value), 0)).toBeLessThan(500);
  await database.query("DELETE FROM message WHERE id LIKE 'many%'");
});
