import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import mysql, { type Connection, type RowDataPacket } from 'mysql2/promise';
import { newId } from '@scriptum/server/store/id';
import { ServerProcess } from '@scriptum/tools/trial/server-process';
import { Client } from '../../server/test/testing/school.js';

const LEARNERS = 600;
let folder: string;
let url: string;
let sql: Connection;
let server: ServerProcess | null = null;

beforeAll(async () => {
  const base = process.env['TEST_DATABASE_URL']!;
  const name = `test_${newId()}`;
  const connection = await mysql.createConnection(base);
  await connection.query(`CREATE DATABASE ${name} CHARACTER SET utf8mb4`);
  await connection.end();
  url = base.replace(/[^/]+$/, name);
  sql = await mysql.createConnection(url);
  folder = await mkdtemp(path.join(tmpdir(), 'scriptum-killed-'));
});
afterAll(async () => {
  await server?.kill();
  await sql.end();
  await rm(folder, { recursive: true, force: true });
});

/** Starts Scriptum as `npm start` does and waits for its address. */
async function start(): Promise<string> {
  server = await ServerProcess.start({
    SCRIPTUM_DATABASE_URL: url,
    SCRIPTUM_DATA: folder,
    SCRIPTUM_CLAIM_SECONDS: '3',
  });
  return server.url;
}

const kill = (): Promise<unknown> => server!.kill();

const count = async (query: string): Promise<number> =>
  Number((await sql.query<RowDataPacket[]>(query))[0][0]!['n']);

/** Looks again until the count is reached. */
async function until(query: string, enough: (n: number) => boolean): Promise<void> {
  const deadline = Date.now() + 60_000;
  while (!enough(await count(query))) {
    if (Date.now() > deadline) throw new Error(`not reached: ${query}`);
    await new Promise((resolve) => setTimeout(resolve, 5));
  }
}

test('killed in the middle of a run and of a dispatch: no paper lost or made twice, no message sent twice', async () => {
  const client = new Client(await start());
  await client.signIn('office@thistlequay.example', 'tide-table-and-chalk');
  const rows = Array.from({ length: LEARNERS }, (_, n) => `Learner ${n},l${n}@families.example`);
  const folio = await client.folioOf(`Name,Mail\n${rows.join('\n')}`, { letter: ['Dear {{Name}}'] });
  await client.send('POST', `/folios/${folio.id}/runs`, {});
  // The demo school presses papers of its own meanwhile.
  const own = `folioId = '${folio.id}'`;
  await until(`SELECT COUNT(*) AS n FROM paper WHERE ${own} AND state = 'pressed'`, (n) => n >= 24);
  await kill();
  const before = await count(`SELECT COUNT(*) AS n FROM paper WHERE ${own} AND state = 'pressed'`);
  expect(before).toBeLessThan(LEARNERS);
  expect(
    await count(
      "SELECT COUNT(*) AS n FROM paper p LEFT JOIN blob_file b ON b.hash = p.blobHash WHERE p.state = 'pressed' AND b.hash IS NULL",
    ),
  ).toBe(0);

  const again = new Client(await start());
  await again.signIn('office@thistlequay.example', 'tide-table-and-chalk');
  await until(`SELECT COUNT(*) AS n FROM press_run WHERE ${own} AND state = 'finished'`, (n) => n === 1);
  expect(await count(`SELECT COUNT(*) AS n FROM paper WHERE ${own}`)).toBe(LEARNERS);
  expect(
    await count(
      `SELECT COUNT(DISTINCT entryId) AS n FROM paper WHERE ${own} AND state = 'pressed' AND blobHash IS NOT NULL`,
    ),
  ).toBe(LEARNERS);

  const { planId } = await again.get<{ planId: string }>(`/folios/${folio.id}/dispatch`);
  await again.send('POST', `/folios/${folio.id}/dispatch`, { planId });
  await until('SELECT COUNT(*) AS n FROM practice_mail', (n) => n >= 20);
  await kill();
  await start();
  await until("SELECT COUNT(*) AS n FROM message WHERE state IN ('queued', 'sending')", (n) => n === 0);
  // Each arrived once; what the kill left in the air is marked for a person, and no more than was in the air.
  expect(
    await count(
      'SELECT COALESCE(MAX(n), 0) AS n FROM (SELECT COUNT(*) AS n FROM practice_mail GROUP BY mailbox) AS boxes',
    ),
  ).toBe(1);
  const unconfirmed = await count("SELECT COUNT(*) AS n FROM message WHERE state = 'unconfirmed'");
  expect(unconfirmed).toBeLessThanOrEqual(24);
  expect(await count("SELECT COUNT(*) AS n FROM message WHERE state = 'sent'")).toBe(LEARNERS - unconfirmed);
  expect(await server!.stop()).toBe(0);
  server = null;
}, 120_000);
