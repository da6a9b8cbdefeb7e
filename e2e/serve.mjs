// A Scriptum with the demo school for the tests: its own database in its own folder, both gone when it ends.
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { startServer } from '../server/dist/server.js';
import { readSettings } from '../server/dist/settings.js';
import { startMariaDb } from '../tools/dist/mariadb.js';

const watched = process.env['E2E_WATCHED'];
const folder = await mkdtemp(path.join(tmpdir(), 'scriptum-e2e-'));
console.log('Starting a database …');
const database = await startMariaDb({ folder, careless: true });
const settings = readSettings({
  SCRIPTUM_PORT: process.argv[2],
  SCRIPTUM_DATA: folder,
  SCRIPTUM_LOG: 'warn',
  SCRIPTUM_WATCH_FOLDER: watched,
});
console.log('Starting Scriptum …');
const running = await startServer(settings, database.url);

let stopping = false;
for (const signal of ['SIGTERM', 'SIGINT']) {
  process.on(signal, async () => {
    if (stopping) return;
    stopping = true;
    await running.close();
    await database.stop();
    await rm(folder, { recursive: true, force: true });
    if (watched) await rm(watched, { recursive: true, force: true });
    process.exit(0);
  });
}
