import { readFileSync } from 'node:fs';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import type { Folio, ProblemDetails, RunStarted } from '@scriptum/core/contract';
import { startServer, type Running } from '@scriptum/server/server';
import { readSettings } from '@scriptum/server/settings';
import { PaperRow, PressRunRow } from '@scriptum/server/store/entities/register';
import { startMariaDb } from '@scriptum/tools/mariadb';
import {
  Client,
  letterOf,
  newSchool,
  noteOf,
  startTestServer,
  type TestServer,
  writingPath,
} from './testing/school.js';

const LEARNERS = 240;
let first: TestServer;
let second: Running;
let client: Client;
beforeAll(async () => {
  const secret = { SCRIPTUM_SESSION_SECRET: 'the same for both of them', SCRIPTUM_CLAIM_SECONDS: '5' };
  first = await startTestServer(secret);
  second = await startServer(readSettings(first.settings), first.databaseUrl);
  client = await newSchool(first);
});
afterAll(async () => {
  await second.close();
  await first.close();
});

/** The same person at the other server. */
async function elsewhere(): Promise<Client> {
  const other = new Client(second.url);
  for (const name of ['scriptum.sid', 'scriptum.csrf']) other.takeCookie(name, client.cookie(name)!);
  await other.takeToken();
  return other;
}

function largeFolio(): Promise<Folio> {
  const rows = Array.from({ length: LEARNERS }, (_, n) => `Learner ${n},${n}`);
  return client.folioOf(`Name,Mark\n${rows.join('\n')}`, { letter: ['Dear {{Name}}', 'Mark {{Mark}}'] });
}

async function until(what: string, done: () => Promise<boolean>): Promise<void> {
  const deadline = Date.now() + 90_000;
  while (!(await done())) {
    if (Date.now() > deadline) throw new Error(`not reached: ${what}`);
    await new Promise((resolve) => setTimeout(resolve, 20));
  }
}

test('a stop on another server loses no paper: what was not made anew stays as it was', async () => {
  const folio = await largeFolio();
  await client.press(first, folio.id);
  const { manager } = first.running.database;
  expect(await manager.countBy(PaperRow, { folioId: folio.id, state: 'pressed' })).toBe(LEARNERS);
  const { version } = (
    await client.send<{ version: number }>('PUT', writingPath(folio, 'letter'), {
      version: letterOf(folio).version,
      kind: 'letter',
      content: { ...letterOf(folio).content, language: 'de-DE' },
    })
  ).body;
  expect(version).toBeGreaterThan(letterOf(folio).version);
  const { body } = await client.send<RunStarted>('POST', `/folios/${folio.id}/runs`, {});
  const other = await elsewhere();
  expect((await other.send('POST', `/folios/${folio.id}/runs/${body.run!.id}/stop`, {})).status).toBe(200);
  expect((await manager.findOneByOrFail(PressRunRow, { id: body.run!.id })).state).not.toBe('running');
  await first.running.press.ended(body.run!.id);
  const rows = await manager.findBy(PaperRow, { folioId: folio.id });
  const standing = rows.filter(({ state }) => state === 'pressed');
  // Each learner has exactly one paper that stands, and it has its file; nothing waits any more.
  expect(standing).toHaveLength(LEARNERS);
  expect(new Set(standing.map(({ entryId }) => entryId)).size).toBe(LEARNERS);
  expect(standing.every(({ blobHash }) => blobHash !== null)).toBe(true);
  expect(rows.filter(({ state }) => state === 'waiting')).toEqual([]);
  // And what is left can be pressed, on either server.
  expect((await other.send<RunStarted>('POST', `/folios/${folio.id}/runs`, {})).status).toBe(200);
  await until(
    'the rest is pressed',
    async () => !(await manager.existsBy(PressRunRow, { state: 'running' })),
  );
});

test('a run whose server is gone is finished by a living one, without a restart', async () => {
  const folio = await largeFolio();
  const { manager } = first.running.database;
  // As a server leaves it that was killed right after it had claimed the run.
  const { body } = await client.send<RunStarted>('POST', `/folios/${folio.id}/runs`, {});
  await first.running.press.ended(body.run!.id);
  await manager.update(PaperRow, { runId: body.run!.id }, { state: 'waiting', blobHash: null });
  await manager.update(PressRunRow, { id: body.run!.id }, { state: 'running' });
  await manager.query(
    `UPDATE slice SET state = 'claimed', claim = 'gone', claimedUntil = UTC_TIMESTAMP(3) + INTERVAL 2 SECOND, endedAt = NULL
     WHERE jobId = ?`,
    [body.run!.id],
  );
  await until('the run is finished', async () =>
    manager.existsBy(PressRunRow, { id: body.run!.id, state: 'finished' }),
  );
  expect(await manager.countBy(PaperRow, { runId: body.run!.id, state: 'pressed' })).toBe(LEARNERS);
});

test('the database is killed in a run and while people work: said as such, and all goes on by itself', async () => {
  const folder = await mkdtemp(path.join(tmpdir(), 'scriptum-outage-'));
  const database = await startMariaDb({ folder });
  const running = await startServer(readSettings({ ...first.settings, SCRIPTUM_DATA: folder }), database.url);
  const own = { ...first, running };
  try {
    const person = await newSchool(own);
    const rows = Array.from({ length: LEARNERS }, (_, n) => `Learner ${n}`);
    const folio = await person.folioOf(`Name\n${rows.join('\n')}`, { letter: ['Dear {{Name}}'] });
    const { body } = await person.send<RunStarted>('POST', `/folios/${folio.id}/runs`, {});
    process.kill(Number(readFileSync(path.join(folder, 'mariadb', 'scriptum.pid'), 'utf8')), 'SIGKILL');
    const seen = new Set<string>();
    await until('the database is back', async () => {
      const reply = await person.send<ProblemDetails>('GET', `/folios/${folio.id}`);
      if (reply.status !== 200) seen.add(`${reply.status} ${reply.body.code}`);
      return reply.status === 200;
    });
    expect([...seen].filter((one) => one !== '503 database-away')).toEqual([]);
    const { manager } = running.database;
    await until('the run is finished', async () =>
      manager.existsBy(PressRunRow, { id: body.run!.id, state: 'finished' }).catch(() => false),
    );
    expect(await manager.countBy(PaperRow, { folioId: folio.id, state: 'pressed' })).toBe(LEARNERS);
    expect((await person.press(own, folio.id)).upToDate).toBe(LEARNERS);
    // A save whose answer was lost is sent once more, and is no conflict.
    const save = {
      version: noteOf(folio).version,
      kind: 'note',
      content: { ...noteOf(folio).content, subject: [] },
    };
    expect((await person.send('PUT', writingPath(folio, 'note'), save)).status).toBe(200);
    expect((await person.send('PUT', writingPath(folio, 'note'), save)).status).toBe(200);
    const other = { ...save, content: { ...save.content, to: [] } };
    expect((await person.send('PUT', writingPath(folio, 'note'), { ...other, version: 1 })).status).toBe(409);
  } finally {
    await running.close();
    await database.stop();
    await rm(folder, { recursive: true, force: true });
  }
});

test('a desk at one server hears of what is done at the other', async () => {
  const folio = await client.folioOf('Name,Mark\nAmara,1', { letter: ['Dear {{Name}}'] });
  const other = await elsewhere();
  const stop = new AbortController();
  const stream = await other.raw('GET', `/folios/${folio.id}/events`, undefined, {}, stop.signal);
  const heard: { kind: string; writingId?: string; desk?: string | null }[] = [];
  const listening = (async () => {
    let rest = '';
    for await (const chunk of stream.body as unknown as AsyncIterable<Uint8Array>) {
      rest += new TextDecoder().decode(chunk);
      const lines = rest.split('\n');
      rest = lines.pop()!;
      for (const line of lines) if (line.startsWith('data: ')) heard.push(JSON.parse(line.slice(6)) as never);
    }
  })().catch(() => undefined);
  // By the window that did it: a desk that has just opened hears of the seconds before, too.
  const count = (wanted: string): number =>
    heard.filter((news) => news.kind === wanted && (wanted === 'run' || news.desk === 'window1')).length;
  const change = (method: string, path: string, body: object): Promise<Response> =>
    client.raw(method, path, JSON.stringify(body), {
      'content-type': 'application/json',
      'x-desk': 'window1',
    });
  const { id, kind, version, content } = letterOf(folio);
  await change('PUT', writingPath(folio, 'letter'), { kind, version, content });
  const cells = [{ entryId: folio.roll.entries[0]!.id, columnId: folio.roll.columns[1]!.id, text: '2' }];
  await change('PATCH', `/folios/${folio.id}/roll`, { cells });
  await until('both are heard', async () => count('roll') > 0 && count('writing') > 0);
  // Each once, though the table is read again and again.
  await client.press(first, folio.id);
  await until('the run is heard', async () => count('run') > 0);
  expect([count('roll'), count('writing')]).toEqual([1, 1]);
  expect(heard).toContainEqual({ kind: 'writing', writingId: id, desk: 'window1' });
  stop.abort();
  await listening;
});
