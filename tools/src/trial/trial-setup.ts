import { readFileSync } from 'node:fs';
import { mkdtemp, rm } from 'node:fs/promises';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import path from 'node:path';
import mysql, { type Connection, type RowDataPacket } from 'mysql2/promise';
import { SMTPServer } from 'smtp-server';
import { startMariaDb, type OwnDatabase } from '../mariadb.js';
import { ServerProcess } from './server-process.js';

export const pause = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms));

/** A mail server that takes everything, and outlives the servers that are killed. */
export class Sink {
  readonly arrived = new Map<string, number>();
  private readonly server = new SMTPServer({
    authOptional: true,
    disableReverseLookup: true,
    hideSTARTTLS: true,
    onData: (stream, session, done) => {
      stream.on('data', () => undefined);
      stream.on('end', () => {
        for (const { address } of session.envelope.rcptTo)
          this.arrived.set(address, (this.arrived.get(address) ?? 0) + 1);
        done();
      });
    },
  });

  async listen(): Promise<string> {
    this.server.on('error', () => undefined);
    await new Promise<void>((resolve) => {
      this.server.listen(0, '127.0.0.1', () => resolve());
    });
    return `smtp://127.0.0.1:${(this.server.server.address() as AddressInfo).port}`;
  }

  close(): Promise<void> {
    return new Promise((resolve) => this.server.close(() => resolve()));
  }
}

/** A database, a mail server and servers that may be killed. */
export class TrialSetup {
  private constructor(
    private readonly folder: string,
    readonly database: OwnDatabase,
    readonly sink: Sink,
    private readonly smtp: string,
  ) {}

  static async make(more: readonly string[] = []): Promise<TrialSetup> {
    const folder = await mkdtemp(path.join(tmpdir(), 'scriptum-trial-'));
    const database = await startMariaDb({ folder, more });
    const sink = new Sink();
    return new TrialSetup(folder, database, sink, await sink.listen());
  }

  server(): Promise<ServerProcess> {
    return ServerProcess.start({
      SCRIPTUM_DATABASE_URL: this.database.url,
      SCRIPTUM_DATA: this.folder,
      SCRIPTUM_SMTP_URL: this.smtp,
      SCRIPTUM_CLAIM_SECONDS: '2',
      SCRIPTUM_SESSION_SECRET: 'the same for all servers',
    });
  }

  killDatabase(): void {
    process.kill(Number(readFileSync(path.join(this.folder, 'mariadb', 'scriptum.pid'), 'utf8')), 'SIGKILL');
  }

  /** A number out of the database; while that is away it is asked again. */
  async count(query: string, values: unknown[] = []): Promise<number> {
    const deadline = Date.now() + 120_000;
    for (;;) {
      let connection: Connection | null = null;
      try {
        connection = await mysql.createConnection(this.database.url);
        return Number((await connection.query<RowDataPacket[]>(query, values))[0][0]!['n']);
      } catch (error) {
        if (Date.now() > deadline) throw error;
        await pause(100);
      } finally {
        connection?.destroy();
      }
    }
  }

  async until(query: string, values: unknown[], enough: (n: number) => boolean): Promise<void> {
    const deadline = Date.now() + 300_000;
    while (!enough(await this.count(query, values))) {
      if (Date.now() > deadline) throw new Error(`not reached: ${query}`);
      await pause(5);
    }
  }

  async close(): Promise<void> {
    await this.sink.close();
    await this.database.stop();
    await rm(this.folder, { recursive: true, force: true });
  }
}
