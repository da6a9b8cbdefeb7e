import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { existsSync, readFileSync, rmSync, mkdtempSync, mkdirSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { startMariaDb } from '@scriptum/tools/mariadb';
import mysql from 'mysql2/promise';

let folder: string;
let elsewhere: { kill(): Promise<void> } | null = null;
beforeAll(() => {
  folder = mkdtempSync(path.join(tmpdir(), 'scriptum-mariadb-'));
});
afterAll(async () => {
  await elsewhere?.kill();
  rmSync(folder, { recursive: true, force: true });
});

async function ask(url: string, query: string): Promise<unknown> {
  const connection = await mysql.createConnection(url);
  try {
    return (await connection.query(query))[0];
  } finally {
    await connection.end();
  }
}

/** A database kept by a process of its own, as `npm start` keeps one. */
async function startElsewhere(): Promise<{ url: string; kill(): Promise<void> }> {
  const script = `const { startMariaDb } = await import('@scriptum/tools/mariadb');
    const { url } = await startMariaDb({ folder: process.argv[1], careless: true });
    console.log(url);`;
  const child = spawn(process.execPath, ['--input-type=module', '--eval', script, folder], {
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  const gone = once(child, 'exit');
  const [said] = (await once(child.stdout, 'data')) as [Buffer];
  return {
    url: said.toString().trim(),
    kill: async () => {
      child.kill('SIGKILL');
      await gone;
    },
  };
}

test('starts in its own folder, on loopback only, and keeps the data; copes with what a crash leaves', async () => {
  // A first start that was cut off leaves half a data folder.
  mkdirSync(path.join(folder, 'mariadb'));
  writeFileSync(path.join(folder, 'mariadb', 'half'), 'made');
  const first = await startElsewhere();
  elsewhere = first;
  expect(existsSync(path.join(folder, 'mariadb', 'half'))).toBe(false);
  expect(await ask(first.url, 'SELECT @@bind_address AS address')).toEqual([{ address: '127.0.0.1' }]);
  await ask(first.url, 'CREATE TABLE kept (n INT) ENGINE=InnoDB');
  await ask(first.url, 'INSERT INTO kept VALUES (41), (42)');

  // While it runs nobody else starts a database on its folder, and it stays as it is.
  await expect(startMariaDb({ folder, careless: true })).rejects.toThrow(/already running on the folder/);
  expect(await ask(first.url, 'SELECT COUNT(*) AS n FROM kept')).toEqual([{ n: 2 }]);

  // Scriptum was killed: its database is still running, and the next start takes over.
  await first.kill();
  const pid = Number(readFileSync(path.join(folder, 'mariadb', 'scriptum.pid'), 'utf8'));
  const second = await startMariaDb({ folder, careless: true });
  await expect(startMariaDb({ folder, careless: true })).rejects.toThrow(/already running on the folder/);
  expect(Number(readFileSync(path.join(folder, 'mariadb', 'scriptum.pid'), 'utf8'))).not.toBe(pid);
  expect(await ask(second.url, 'SELECT n FROM kept ORDER BY n')).toEqual([{ n: 41 }, { n: 42 }]);

  // The database itself was killed: it mends itself from its log.
  process.kill(Number(readFileSync(path.join(folder, 'mariadb', 'scriptum.pid'), 'utf8')), 'SIGKILL');
  await second.stop();
  const third = await startMariaDb({ folder });
  expect(await ask(third.url, 'SELECT COUNT(*) AS n FROM kept')).toEqual([{ n: 2 }]);
  await third.stop();
}, 60_000);
