import { mkdtemp } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { startMariaDb } from '../../../tools/dist/mariadb.js';

/** A MariaDB of the tests' own, in a folder that goes when they end. */
export default async function start() {
  const folder = await mkdtemp(path.join(tmpdir(), 'scriptum-test-'));
  const database = await startMariaDb({ folder, careless: true });
  globalThis.scriptumTestDatabase = { folder, database };
  process.env.TEST_DATABASE_URL = database.url;
}
