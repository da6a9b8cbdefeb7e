import { rmSync } from 'node:fs';
import { readSettings, SettingsError, type Settings } from '@scriptum/server/settings';
import { startServer, type Running } from '@scriptum/server/server';
import { plainError } from '@scriptum/server/http/plain-error';
import { StartProblem, startMariaDb, type OwnDatabase } from './mariadb.js';

/** Starts the database and the server, says where Scriptum is, and stops all of it in order at Ctrl-C. */
async function start(): Promise<void> {
  const settings = readSettings(process.env);
  const fresh = process.argv.includes('--fresh');
  if (fresh && settings.databaseUrl) {
    throw new StartProblem(
      '--fresh empties the own database only, and SCRIPTUM_DATABASE_URL names another. Empty that one yourself.',
    );
  }
  let own: OwnDatabase | null = null;
  let running: Running | null = null;
  let stopping = false;
  const stop = async (code: number): Promise<void> => {
    if (stopping) return;
    stopping = true;
    try {
      await running?.close();
    } finally {
      await own?.stop();
    }
    process.exit(code);
  };
  for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP'] as const) {
    process.on(signal, () => {
      if (!stopping) console.log('\nStopping. What is at hand is finished first.');
      void stop(0);
    });
  }
  try {
    if (!settings.databaseUrl)
      own = await startMariaDb({
        folder: prepared(settings, fresh),
        ended: () => console.error('The database ended by itself. It is started again; nothing is lost.'),
      });
    running = await startServer(settings, settings.databaseUrl ?? own!.url);
    if (stopping) return;
    console.log(welcome(running));
  } catch (error) {
    console.error(`\n${sentence(error, settings)}`);
    await stop(1);
  }
}

function prepared(settings: Settings, fresh: boolean): string {
  if (fresh) {
    console.log('Beginning again with the demo school.');
    // Stops a server that a crash left on this folder before the folder goes.
    rmSync(`${settings.dataFolder}/mariadb/.scriptum-ready`, { force: true });
  }
  return settings.dataFolder;
}

function welcome(running: Running): string {
  const lines = ['', `  Scriptum is ready:  ${running.url}`];
  if (running.demo) lines.push(`  Demo sign-in:       ${running.demo.email}  /  ${running.demo.password}`);
  lines.push('', '  Ctrl-C stops it. `npm start -- --fresh` begins again with the demo school.', '');
  return lines.join('\n');
}

function sentence(error: unknown, settings: Settings): string {
  if (error instanceof StartProblem) return error.message;
  const { code, message } = error as NodeJS.ErrnoException;
  if (code === 'EADDRINUSE') {
    return `Port ${settings.port} is taken, perhaps by another Scriptum. Stop that, or choose another port:\n  SCRIPTUM_PORT=${settings.port + 1} npm start`;
  }
  if (code === 'EACCES' && settings.port < 1024)
    return `Port ${settings.port} may be used by root only. Choose one above 1023 with SCRIPTUM_PORT.`;
  if (
    code === 'ECONNREFUSED' ||
    code === 'ER_ACCESS_DENIED_ERROR' ||
    code === 'ENOTFOUND' ||
    code === 'ER_BAD_DB_ERROR'
  ) {
    return `The database cannot be reached: ${message}. Check SCRIPTUM_DATABASE_URL.`;
  }
  return `Scriptum could not start: ${message}`;
}

// Whatever nobody waited for is told without what people typed, and ends no server.
process.on('unhandledRejection', (error) => console.error(JSON.stringify(plainError(error))));

start().catch((error: unknown) => {
  console.error(
    `\n${error instanceof SettingsError || error instanceof StartProblem ? error.message : String((error as Error).stack)}`,
  );
  process.exit(1);
});
