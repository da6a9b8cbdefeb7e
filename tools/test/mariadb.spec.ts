import { existsSync, readFileSync, rmSync, mkdtempSync, mkdirSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { startMariaDb } from '@scriptum/tools/mariadb';
import mysql from 'mysql2/promise';

let folder: string;
beforeAll(() => {
  folder = mkdtempSync(path.join(tmpdir(), 'scriptum-mariadb-'));
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));

async function ask(url: string, query: string): Promise<unknown> {
  const connection = await mysql.createConnection(url);
  try {
    return (await connection.query(query))[0];
  } finally {
    await connection.end();
  }
}

test('starts in its own folder, on loopback only, and keeps the data; copes with what a crash leaves', async () => {
  // A first start that was cut off leaves half a data folder.
  mkdirSync(path.join(folder, 'mariadb'));
  writeFileSync(path.join(folder, 'mariadb', 'half'), 'made');
  const first = await startMariaDb({ folder, careless: true });
  expect(existsSync(path.join(folder, 'mariadb', 'half'))).toBe(false);
  expect(await ask(first.url, 'SELECT @@bind_address AS address')).toEqual([{ address: '127.0.0.1' }]);
  await ask(first.url, 'CREATE TABLE kept (n INT) ENGINE=InnoDB');
  await ask(first.url, 'INSERT INTO kept VALUES (41), (42)');

  // Scriptum was killed: its database is still running, and the next start takes over.
  const pid = Number(readFileSync(path.join(folder, 'mariadb', 'scriptum.pid'), 'utf8'));
  const second = await startMariaDb({ folder, careless: true });
  // The killed one would not start it again either.
  await first.stop();
  expect(Number(readFileSync(path.join(folder, 'mariadb', 'scriptum.pid'), 'utf8'))).not.toBe(pid);
  expect(await ask(second.url, 'SELECT n FROM kept ORDER BY n')).toEqual([{ n: 41 }, { n: 42 }]);

  // The database itself was killed: it mends itself from its log.
  process.kill(Number(readFileSync(path.join(folder, 'mariadb', 'scriptum.pid'), 'utf8')), 'SIGKILL');
  await second.stop();
  const third = await startMariaDb({ folder });
  expect(await ask(third.url, 'SELECT COUNT(*) AS n FROM kept')).toEqual([{ n: 2 }]);
  await third.stop();
}, 60_000);
