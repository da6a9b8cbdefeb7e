import { EventRow } from '@scriptum/server/store/entities/people';
import { newSchool, startTestServer, type TestServer } from './testing/school.js';

let server: TestServer;
beforeAll(async () => {
  server = await startTestServer();
});
afterAll(() => server.close());

test('an open desk hears of a run and of a dispatch as they happen (WHATWG HTML, server-sent events)', async () => {
  const client = await newSchool(server);
  const folio = await client.folioOf('Name,Mail\nAmara,a@families.example\nIlse,i@families.example', {
    letter: ['Dear {{Name}}'],
  });
  const stop = new AbortController();
  const stream = await client.raw('GET', `/folios/${folio.id}/events`, undefined, {}, stop.signal);
  expect(stream.headers.get('content-type')).toContain('text/event-stream');
  const heard: string[] = [];
  const listening = (async () => {
    let rest = '';
    for await (const chunk of stream.body as unknown as AsyncIterable<Uint8Array>) {
      rest += new TextDecoder().decode(chunk);
      const lines = rest.split('\n');
      rest = lines.pop()!;
      for (const line of lines)
        if (line.startsWith('data: ')) heard.push((JSON.parse(line.slice(6)) as { kind: string }).kind);
    }
  })().catch(() => undefined);
  await client.press(server, folio.id);
  const { planId } = await client.get<{ planId: string }>(`/folios/${folio.id}/dispatch`);
  await client.send('POST', `/folios/${folio.id}/dispatch`, { planId });
  await server.running.outbox.idle();
  await client.get(`/folios/${folio.id}/papers`);
  stop.abort();
  await listening;
  expect(heard).toContain('run');
  expect(heard.filter((kind) => kind === 'dispatch').length).toBeGreaterThanOrEqual(2);
});

test('who did what is written down, with counts and without personal data', async () => {
  const client = await newSchool(server);
  const folio = await client.folioOf('Name,Mail\nAmara,a@families.example', { letter: ['Dear {{Name}}'] });
  await client.press(server, folio.id);
  const { planId } = await client.get<{ planId: string }>(`/folios/${folio.id}/dispatch`);
  await client.send('POST', `/folios/${folio.id}/dispatch`, { planId });
  const events = await server.running.database.manager.find(EventRow, {
    where: { folioId: folio.id },
    order: { at: 'ASC' },
  });
  expect(events.map(({ kind, count }) => [kind, count])).toEqual([
    ['folio-started', null],
    ['sheet-brought-in', null],
    ['run-started', 1],
    ['dispatched', 1],
  ]);
  expect(JSON.stringify(events)).not.toContain('Amara');
});

test('a folio goes with all that is in it', async () => {
  const client = await newSchool(server);
  const folio = await client.folioOf('Name,Mail\nAmara,a@families.example', { letter: ['Dear {{Name}}'] });
  await client.press(server, folio.id);
  expect((await client.send('DELETE', `/folios/${folio.id}`)).status).toBe(200);
  expect((await client.send('GET', `/folios/${folio.id}`)).status).toBe(404);
  for (const table of ['entry', 'source', 'writing', 'paper', 'press_run']) {
    expect(
      await server.running.database.query(`SELECT COUNT(*) AS n FROM ${table} WHERE folioId = ?`, [folio.id]),
    ).toEqual([{ n: '0' }]);
  }
});

test('the tables are as the entities say', async () => {
  const { database } = server.running;
  for (const { tableName, columns } of database.entityMetadatas) {
    const rows: { COLUMN_NAME: string; IS_NULLABLE: string }[] = await database.query(
      'SELECT COLUMN_NAME, IS_NULLABLE FROM information_schema.COLUMNS WHERE TABLE_SCHEMA = DATABASE() AND TABLE_NAME = ?',
      [tableName],
    );
    const real = rows.map((row) => `${row.COLUMN_NAME} ${row.IS_NULLABLE === 'YES'}`).sort();
    expect([tableName, ...real]).toEqual([
      tableName,
      ...columns.map((column) => `${column.databaseName} ${column.isNullable}`).sort(),
    ]);
  }
});
