import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import type { DispatchPlan, FolioSummary, ProblemDetails } from '@scriptum/core/contract';
import { startServer } from '@scriptum/server/server';
import { readSettings } from '@scriptum/server/settings';
import { isDatabaseAway } from '@scriptum/server/store/database-away';
import { MessageRow, PaperRow, PracticeMailRow, PressRunRow } from '@scriptum/server/store/entities/register';
import { startMariaDb } from '@scriptum/tools/mariadb';
import type { DataSource, EntityManager } from 'typeorm';
import { type Client, newSchool, startTestServer, type TestServer } from './testing/school.js';

const LEARNERS = 500;
/** All tables in one file that must not grow beyond this: MariaDB answers as it does where its disk is full. */
const ROOM = '160M';

let server: TestServer;
beforeAll(async () => {
  server = await startTestServer();
});
afterAll(() => server.close());

/** Fills the database until no page more can be had. MariaDB 10.11 may end where it cannot take a statement back either. */
async function fill(database: DataSource): Promise<void> {
  await database.query('CREATE TABLE filler (id INT AUTO_INCREMENT PRIMARY KEY, b VARBINARY(7000))');
  for (const [size, rows] of [
    [7_000, 100],
    [7_000, 1],
    [100, 1],
  ] as const)
    for (let full = false; !full;)
      await database
        .query(`INSERT INTO filler (b) SELECT REPEAT('x', ${size}) FROM seq_1_to_${rows}`)
        .catch((error: unknown) => {
          expect(isDatabaseAway(error)).toBe(true);
          full = true;
        });
}

/** Makes room again: tried until the database is there. */
const empty = (database: DataSource): Promise<void> =>
  until('there is room', () =>
    database.query('DROP TABLE IF EXISTS filler').then(
      () => true,
      () => false,
    ),
  );

/** The states that papers have. */
async function states(manager: EntityManager, folioId: string): Promise<string[]> {
  for (;;) {
    const papers = await manager.findBy(PaperRow, { folioId }).catch(() => null);
    if (papers) return [...new Set(papers.map(({ state }) => state))].sort();
    await new Promise((resolve) => setTimeout(resolve, 200));
  }
}

async function until(what: string, done: () => Promise<boolean>): Promise<void> {
  const deadline = Date.now() + 90_000;
  while (!(await done())) {
    if (Date.now() > deadline) throw new Error(`not reached: ${what}`);
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
}

test('a full disk fails no paper and loses no message: people are told, and all goes on once there is room', async () => {
  const folder = await mkdtemp(path.join(tmpdir(), 'scriptum-full-'));
  const more = ['--innodb-file-per-table=0', `--innodb-data-file-path=ibdata1:12M:autoextend:max:${ROOM}`];
  const database = await startMariaDb({ folder, careless: true, more });
  const own = { ...server.settings, SCRIPTUM_DATA: folder, SCRIPTUM_CLAIM_SECONDS: '2' };
  const running = await startServer(readSettings(own), database.url);
  try {
    const person = await newSchool({ ...server, running });
    const rows = Array.from({ length: LEARNERS }, (_, n) => `Learner ${n},l${n}@families.example`);
    const folio = await person.folioOf(`Name,Email\n${rows.join('\n')}`, { letter: ['Dear {{Name}}'] });
    const { manager } = running.database;
    await fill(running.database);
    // Enough to plan the papers, not enough for their files.
    await running.database.query('DELETE FROM filler LIMIT 400');
    await new Promise((resolve) => setTimeout(resolve, 2_000));
    expect((await person.send('POST', `/folios/${folio.id}/runs`, {})).status).toBe(200);
    expect(await untilRefused(person)).toMatchObject({
      status: 503,
      code: expect.stringMatching(/^(disk-full|database-away)$/),
    });
    // More terms than a slice has tries: waiting for room is none.
    await new Promise((resolve) => setTimeout(resolve, 14_000));
    expect(await states(manager, folio.id)).toContain('waiting');
    expect(await states(manager, folio.id)).not.toContain('failed');
    await empty(running.database);
    // Where the first word found no room it is said again.
    await until(
      'a run',
      async () => (await person.send('POST', `/folios/${folio.id}/runs`, {})).status === 200,
    );
    await until(
      'the run is finished',
      async () => !(await manager.existsBy(PressRunRow, { state: 'running' })),
    );
    const papers = await manager.findBy(PaperRow, { folioId: folio.id });
    expect(papers.map(({ state }) => state)).toEqual(Array.from({ length: LEARNERS }, () => 'pressed'));
    expect(new Set(papers.map(({ entryId }) => entryId)).size).toBe(LEARNERS);

    // What the mail server has answered is known until it can be written down.
    const { planId } = await person.get<DispatchPlan>(`/folios/${folio.id}/dispatch`);
    expect((await person.send('POST', `/folios/${folio.id}/dispatch`, { planId })).status).toBe(200);
    await fill(running.database);
    await new Promise((resolve) => setTimeout(resolve, 3_000));
    await empty(running.database);
    await until('all is sent', async () => {
      running.outbox.wake();
      return (await manager.countBy(MessageRow, { state: 'sent' })) === LEARNERS;
    });
    const mail = await manager.find(PracticeMailRow, { select: { mailbox: true } });
    expect([mail.length, new Set(mail.map(({ mailbox }) => mailbox)).size]).toEqual([LEARNERS, LEARNERS]);
  } finally {
    await running.close().finally(() => database.stop());
    await rm(folder, { recursive: true, force: true });
  }
}, 240_000);

/** Brings large sheets into new folios until there is no room for one. */
async function untilRefused(person: Client): Promise<ProblemDetails> {
  const rows = Array.from({ length: 3_000 }, (_, n) => `Learner ${n},${'A remark. '.repeat(20)}`);
  for (;;) {
    const made = await person.send<FolioSummary & ProblemDetails>('POST', '/folios', { title: 'More' });
    if (made.status >= 400) return made.body;
    const reply = await person.bringIn(made.body.id, 'more.csv', `Name,Remark\n${rows.join('\n')}`);
    if (reply.status >= 400) return reply.body as unknown as ProblemDetails;
  }
}
