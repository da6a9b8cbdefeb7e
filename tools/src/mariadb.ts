import { spawn, spawnSync, type ChildProcess } from 'node:child_process';
import { closeSync, existsSync, mkdirSync, openSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:net';
import { userInfo } from 'node:os';
import path from 'node:path';
import mysql from 'mysql2/promise';

/** A MariaDB server of our own, in a folder of our own, on loopback. */
export interface OwnDatabase {
  /** `mysql://user@host:port/database` */
  readonly url: string;
  stop(): Promise<void>;
}

export interface OwnDatabaseOptions {
  /** Folder that holds the data, the socket and the log. Made where it is missing. */
  readonly folder: string;
  /** For tests: faster, and not safe against a power cut. */
  readonly careless?: boolean;
  /** More options of the server. */
  readonly more?: readonly string[];
  /** Told when the server ended without being asked to, before it is started again. */
  readonly ended?: () => void;
}

/** A sentence for the person who started the program. */
export class StartProblem extends Error {
  override name = 'StartProblem';
}

const DATABASE = 'scriptum';
const STARTUP = 180_000;
/** Waits for no disk: a slow one would take minutes for a thousand small writes at the start. */
const CARELESS = ['--debug-no-sync', '--innodb-flush-log-at-trx-commit=0', '--innodb-doublewrite=0'];

/**
 * Starts MariaDB, made ready at the first start, and keeps it running until it is stopped. After a crash InnoDB mends
 * itself from its log.
 */
export async function startMariaDb(options: OwnDatabaseOptions): Promise<OwnDatabase> {
  mkdirSync(options.folder, { recursive: true });
  const place = keepAlone(options.folder);
  try {
    const { url, stop } = await startAlone(options);
    return { url, stop: () => stop().finally(() => place.leave()) };
  } catch (error) {
    place.leave();
    throw error;
  }
}

async function startAlone({
  folder,
  careless = false,
  more = [],
  ended,
}: OwnDatabaseOptions): Promise<OwnDatabase> {
  const server = find('mariadbd');
  const data = path.join(folder, 'mariadb');
  const ready = path.join(data, '.scriptum-ready');
  await endLeftOver(data);
  // A first start that was cut off leaves half a database behind; it holds nothing yet.
  if (!existsSync(ready)) {
    rmSync(data, { recursive: true, force: true });
    install(data, careless);
  }
  const port = await freePort();
  const log = path.join(folder, 'mariadb.log');
  const launch = (): ChildProcess => {
    const out = openSync(log, 'a');
    const child = spawn(
      server,
      [
        '--no-defaults',
        `--datadir=${data}`,
        // Socket paths may have 107 bytes at most; a relative one, from the data folder, is always short enough.
        '--socket=scriptum.sock',
        `--pid-file=${path.join(data, 'scriptum.pid')}`,
        `--port=${port}`,
        '--bind-address=127.0.0.1',
        '--skip-log-bin',
        '--max-allowed-packet=256M',
        '--character-set-server=utf8mb4',
        '--innodb-buffer-pool-size=256M',
        '--innodb-log-file-size=128M',
        '--skip-name-resolve',
        ...(isRoot() ? ['--user=root'] : []),
        ...(careless ? CARELESS : []),
        ...more,
      ],
      // Its own group: a Ctrl-C in the terminal reaches Scriptum first, which then stops the database in order.
      { cwd: data, stdio: ['ignore', out, out], detached: true },
    );
    closeSync(out);
    return child;
  };
  const keeper = new Keeper(launch, (child) => untilItAnswers(child, port, log), ended);
  try {
    await keeper.start();
    await makeDatabase(port);
  } catch (error) {
    await keeper.stop();
    throw error;
  }
  if (!existsSync(ready)) writeFileSync(ready, '');
  return { url: `mysql://root@127.0.0.1:${port}/${DATABASE}`, stop: () => keeper.stop() };
}

/** Milliseconds until a server that ended by itself is started again; longer each time it does not come up. */
const RESTARTS = [100, 500, 2_000, 5_000, 15_000];

/** Keeps a server running: one that ends without being asked to, because it was killed or broke down, is started again. */
class Keeper {
  private child: ChildProcess | null = null;
  private gone: Promise<void> = Promise.resolve();
  private stopping = false;
  private failed = 0;

  constructor(
    private readonly launch: () => ChildProcess,
    private readonly ready: (child: ChildProcess) => Promise<void>,
    private readonly ended: (() => void) | undefined,
  ) {}

  async start(): Promise<void> {
    const child = this.launch();
    this.child = child;
    this.gone = new Promise((resolve) => child.once('exit', () => resolve()));
    child.once('error', () => undefined);
    await this.ready(child);
    this.failed = 0;
    child.once('exit', () => this.again());
    if (child.exitCode !== null || child.signalCode !== null) this.again();
  }

  async stop(): Promise<void> {
    this.stopping = true;
    const { child } = this;
    if (child && child.exitCode === null && child.signalCode === null) child.kill('SIGTERM');
    await this.gone;
  }

  private again(): void {
    if (this.stopping) return;
    this.ended?.();
    const wait = RESTARTS[Math.min(this.failed++, RESTARTS.length - 1)]!;
    setTimeout(() => {
      if (this.stopping) return;
      this.start().catch(() => {
        if (this.child?.exitCode === null && this.child.signalCode === null) this.child.kill('SIGKILL');
        this.again();
      });
    }, wait);
  }
}

function find(name: string): string {
  for (const folder of [
    ...(process.env['PATH'] ?? '').split(':'),
    '/usr/sbin',
    '/usr/bin',
    '/usr/local/sbin',
  ]) {
    const file = path.join(folder, name);
    if (folder && existsSync(file)) return file;
  }
  throw new StartProblem(
    'MariaDB is not installed. Run this, then start again:\n  sudo apt-get install mariadb-server',
  );
}

/**
 * Notes that this process keeps the database of the folder. Refuses while another one does, or this one does already:
 * each would start its own again once the other ended it, and two servers on one data folder destroy it.
 */
function keepAlone(folder: string): { leave(): void } {
  const file = path.join(folder, 'keeper');
  let keeper: string | null = null;
  try {
    keeper = readFileSync(file, 'utf8').trim();
  } catch {
    // Nobody has kept it yet, or in order.
  }
  const [pid, since] = (keeper ?? '').split(' ');
  if (pid && since && startOf(Number(pid)) === since) {
    throw new StartProblem(
      `Scriptum is already running on the folder ${folder} (process ${pid}). Use that one, or end it, then start again:\n  kill ${pid}`,
    );
  }
  writeFileSync(file, `${process.pid} ${startOf(process.pid) ?? 'unknown'}\n`);
  return { leave: () => rmSync(file, { force: true }) };
}

/** When a process began, in ticks since the machine did: numbers are given again, a number and its beginning are not. */
function startOf(pid: number): string | null {
  try {
    const [state, ...fields] = readFileSync(`/proc/${pid}/stat`, 'utf8')
      .replace(/^.*\) /s, '')
      .trim()
      .split(' ');
    // The 22nd of all fields is the 20th of those after the name (proc(5)).
    return state === 'Z' || state === 'X' ? null : (fields[18] ?? null);
  } catch {
    return null;
  }
}

/** A database that was left running when its Scriptum was killed is asked to end, in order. */
async function endLeftOver(data: string): Promise<void> {
  let pid: number;
  try {
    pid = Number(readFileSync(path.join(data, 'scriptum.pid'), 'utf8'));
  } catch {
    return;
  }
  if (!isRunningDatabase(pid)) return;
  process.kill(pid, 'SIGTERM');
  const deadline = Date.now() + 30_000;
  while (isRunningDatabase(pid) && Date.now() < deadline)
    await new Promise((resolve) => setTimeout(resolve, 100));
  if (isRunningDatabase(pid)) {
    throw new StartProblem(
      `The database of this folder is still running (process ${pid}) and does not stop. End it, then start again:\n  kill ${pid}`,
    );
  }
}

/** False also where another program has the number by now, or where the process has ended and only its entry is left. */
function isRunningDatabase(pid: number): boolean {
  try {
    const [, name, state] = /\((.*)\) (\S)/.exec(readFileSync(`/proc/${pid}/stat`, 'utf8')) ?? [];
    return /^(mariadbd|mysqld)/.test(name ?? '') && state !== 'Z' && state !== 'X';
  } catch {
    return false;
  }
}

function install(data: string, careless: boolean): void {
  const made = spawnSync(
    find('mariadb-install-db'),
    [
      '--no-defaults',
      '--auth-root-authentication-method=normal',
      '--skip-test-db',
      `--datadir=${data}`,
      ...(isRoot() ? ['--user=root'] : []),
      ...(careless ? CARELESS : []),
    ],
    { encoding: 'utf8' },
  );
  if (made.status !== 0) {
    throw new StartProblem(
      `MariaDB could not make its data folder ${data}:\n${(made.stderr || made.stdout).trim().split('\n').slice(-4).join('\n')}`,
    );
  }
}

async function untilItAnswers(child: ChildProcess, port: number, log: string): Promise<void> {
  const deadline = Date.now() + STARTUP;
  for (;;) {
    if (child.exitCode !== null || child.signalCode !== null) {
      const tail = readFileSync(log, 'utf8')
        .trim()
        .split('\n')
        .filter((line) => /ERROR/.test(line))
        .slice(-3)
        .join('\n');
      throw new StartProblem(`MariaDB stopped while it was starting. ${log} says:\n${tail}`);
    }
    try {
      const connection = await mysql.createConnection({
        host: '127.0.0.1',
        port,
        user: 'root',
        connectTimeout: 1000,
      });
      await connection.end();
      return;
    } catch (error) {
      if (Date.now() > deadline)
        throw new StartProblem(
          `MariaDB does not answer on port ${port} (${(error as Error).message}). See ${log}.`,
        );
    }
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
}

async function makeDatabase(port: number): Promise<void> {
  const connection = await mysql.createConnection({ host: '127.0.0.1', port, user: 'root' });
  await connection.query(
    `CREATE DATABASE IF NOT EXISTS ${DATABASE} CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_520_ci`,
  );
  await connection.end();
}

/** A port on loopback that nobody uses now. */
export async function freePort(): Promise<number> {
  return new Promise((resolve, reject) => {
    const probe = createServer();
    probe.once('error', reject);
    probe.listen(0, '127.0.0.1', () => {
      const address = probe.address();
      probe.close(() => resolve(typeof address === 'object' && address ? address.port : 0));
    });
  });
}

const isRoot = (): boolean => userInfo().uid === 0;
