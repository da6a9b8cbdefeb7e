import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import type { Folio, FolioSummary, Register, RunStarted } from '@scriptum/core/contract';
import { startServer, type Running } from '@scriptum/server/server';
import { readSettings } from '@scriptum/server/settings';
import { School, Staff } from '@scriptum/server/store/entities/people';
import { hashPassword } from '@scriptum/server/store/password';
import { writingsOf, type WritingKind } from '@scriptum/core/template';
import { newId } from '@scriptum/server/store/id';
import mysql from 'mysql2/promise';

export interface TestServer {
  readonly running: Running;
  readonly settings: NodeJS.ProcessEnv;
  readonly databaseUrl: string;
  /** Stops it and takes its database away. */
  close(): Promise<void>;
  /** Stops it and starts it again on the same database. */
  restart(): Promise<TestServer>;
}

/** A server on a new database of the tests' MariaDB, or on one that is there, on a free port. */
export async function startTestServer(
  more: NodeJS.ProcessEnv = {},
  databaseUrl?: string,
): Promise<TestServer> {
  const folder = await mkdtemp(path.join(tmpdir(), 'scriptum-data-'));
  const settings = {
    SCRIPTUM_PORT: '0',
    SCRIPTUM_DATA: folder,
    SCRIPTUM_LOG: 'silent',
    SCRIPTUM_DEMO: 'no',
    ...more,
  };
  return run(settings, databaseUrl ?? (await newDatabase()), folder);
}

/** An empty database of the tests' MariaDB. @returns its URL. */
export async function newDatabase(): Promise<string> {
  const base = process.env['TEST_DATABASE_URL']!;
  const name = `test_${newId()}`;
  const connection = await mysql.createConnection(base);
  await connection.query(`CREATE DATABASE ${name} CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_520_ci`);
  await connection.end();
  return base.replace(/[^/]+$/, name);
}

async function run(settings: NodeJS.ProcessEnv, databaseUrl: string, folder: string): Promise<TestServer> {
  const running = await startServer(readSettings(settings), databaseUrl);
  return {
    running,
    settings,
    databaseUrl,
    async close() {
      await running.close();
      await rm(folder, { recursive: true, force: true });
    },
    async restart() {
      await running.close();
      return run(settings, databaseUrl, folder);
    },
  };
}

export interface Reply<T = Record<string, never>> {
  readonly status: number;
  readonly type: string;
  readonly body: T;
}

/** A person at a browser: keeps cookies and the token. */
export class Client {
  private readonly jar = new Map<string, string>();
  private token = '';

  constructor(private readonly url: string) {}

  cookie(name: string): string | undefined {
    return this.jar.get(name);
  }

  takeCookie(name: string, value: string): void {
    this.jar.set(name, value);
  }

  async raw(
    method: string,
    path: string,
    body?: BodyInit,
    headers: Record<string, string> = {},
    signal?: AbortSignal,
  ): Promise<Response> {
    const cookie = [...this.jar].map(([key, value]) => `${key}=${value}`).join('; ');
    const response = await fetch(`${this.url}/api${path}`, {
      method,
      body,
      signal,
      headers: {
        ...(cookie ? { cookie } : {}),
        ...(this.token ? { 'x-csrf-token': this.token } : {}),
        ...headers,
      },
    });
    for (const line of response.headers.getSetCookie()) {
      const [pair = ''] = line.split(';');
      this.jar.set(pair.slice(0, pair.indexOf('=')), pair.slice(pair.indexOf('=') + 1));
    }
    return response;
  }

  async send<T>(method: string, path: string, body?: unknown): Promise<Reply<T>> {
    const response = await this.raw(
      method,
      path,
      body === undefined ? undefined : JSON.stringify(body),
      body === undefined ? {} : { 'content-type': 'application/json' },
    );
    return {
      status: response.status,
      type: response.headers.get('content-type') ?? '',
      body: (await response.json()) as T,
    };
  }

  async get<T>(path: string): Promise<T> {
    return (await this.send<T>('GET', path)).body;
  }

  async takeToken(): Promise<void> {
    this.token = (await this.get<{ token: string }>('/csrf')).token;
  }

  async signIn(email: string, password: string): Promise<Reply<unknown>> {
    await this.takeToken();
    const reply = await this.send('POST', '/sign-in', { email, password });
    if (reply.status === 200) await this.takeToken();
    return reply;
  }

  async bringIn<T = Folio>(folioId: string, name: string, bytes: string | Uint8Array): Promise<Reply<T>> {
    const response = await this.raw(
      'POST',
      `/folios/${folioId}/sheet?name=${encodeURIComponent(name)}`,
      bytes as BodyInit,
      { 'content-type': 'text/csv' },
    );
    return {
      status: response.status,
      type: response.headers.get('content-type') ?? '',
      body: (await response.json()) as T,
    };
  }

  /** A folio with this sheet as its roll and a letter, a note and names that use its columns by title. */
  async folioOf(
    sheet: string,
    words: { letter: string[]; subject?: string; body?: string; file?: string },
  ): Promise<Folio> {
    const { body: made } = await this.send<FolioSummary>('POST', '/folios', { title: 'Test' });
    const { body: folio } = await this.bringIn(made.id, 'roll.csv', sheet);
    const fields = folio.roll.columns.map((column) => ({
      id: `f${column.id}`.slice(0, 12),
      name: column.title,
      columnId: column.id,
    }));
    const line = (text: string): object[] =>
      text
        .split(/(\{\{.*?\}\})/)
        .filter(Boolean)
        .map((part) => {
          const name = /^\{\{(.*)\}\}$/.exec(part)?.[1];
          return name
            ? { type: 'field', attrs: { fieldId: fields.find((field) => field.name === name)!.id } }
            : { type: 'text', text: part };
        });
    const paragraph = (text: string): object => ({ type: 'paragraph', content: line(text) });
    await this.send('PUT', writingPath(folio, 'letter'), {
      version: letterOf(folio).version,
      kind: 'letter',
      content: {
        ...letterOf(folio).content,
        fields,
        body: { type: 'doc', content: words.letter.map(paragraph) },
      },
    });
    const note = {
      ...noteOf(folio).content,
      fields,
      subject: line(words.subject ?? 'For you'),
      body: { type: 'doc', content: [paragraph(words.body ?? 'See the letter.')] },
    };
    await this.send('PUT', writingPath(folio, 'note'), {
      version: noteOf(folio).version,
      kind: 'note',
      content: note,
    });
    if (words.file)
      await this.send('PUT', writingPath(folio, 'filing'), {
        version: filingOf(folio).version,
        kind: 'filing',
        content: { fields, pattern: line(words.file) },
      });
    return this.get<Folio>(`/folios/${made.id}`);
  }

  async press(server: TestServer, folioId: string, entryIds?: string[]): Promise<RunStarted> {
    const { body } = await this.send<RunStarted>('POST', `/folios/${folioId}/runs`, { entryIds });
    if (body.run) await server.running.press.ended(body.run.id);
    return body;
  }

  /** The register once it is known which papers are out of date. */
  async register(folioId: string): Promise<Register> {
    for (;;) {
      const register = await this.get<Register>(`/folios/${folioId}/papers`);
      if (!register.comparing) return register;
      await new Promise((resolve) => setTimeout(resolve, 20));
    }
  }
}

/** A school of its own with one member of staff, signed in. */
export async function newSchool(server: TestServer, name = 'Saltmarsh School'): Promise<Client> {
  const { manager } = server.running.database;
  const id = newId();
  const email = `${id}@saltmarsh.example`;
  await manager.insert(School, { id, name, createdAt: new Date() });
  await manager.insert(Staff, {
    id: newId(),
    schoolId: id,
    email,
    name: 'Test',
    passwordHash: await hashPassword('correct horse'),
  });
  const client = new Client(server.running.url);
  await client.signIn(email, 'correct horse');
  return client;
}

/** The first letter, cover note or pattern of file names of a folio. */
export const letterOf = ({ writings }: Folio) => writingsOf(writings, 'letter')[0]!;
export const noteOf = ({ writings }: Folio) => writingsOf(writings, 'note')[0]!;
export const filingOf = ({ writings }: Folio) => writingsOf(writings, 'filing')[0]!;
export const writingPath = (folio: Folio, kind: WritingKind): string =>
  `/folios/${folio.id}/writings/${writingsOf(folio.writings, kind)[0]!.id}`;
