import { connectDatabase, openDatabase } from '@scriptum/server/store/database';
import { MessageRow } from '@scriptum/server/store/entities/register';
import { SessionRow, Staff } from '@scriptum/server/store/entities/people';
import { Foundation1764000000000 } from '@scriptum/server/store/migrations/0001-foundation';
import { Roll1764100000000 } from '@scriptum/server/store/migrations/0002-roll';
import { settleExpired } from '@scriptum/server/post/message-claims';
import { DataSource } from 'typeorm';
import { newDatabase } from './testing/school.js';

const NOTE = {
  toColumnId: 'm',
  fields: [],
  subject: [],
  body: { type: 'doc', content: [{ type: 'paragraph' }] },
};

/** A database as the version before claims left it, with one of each that the change is about. */
async function earlier(): Promise<string> {
  const url = await newDatabase();
  const old = new DataSource({
    type: 'mariadb',
    url: url.replace(/^mysql:/, 'mariadb:'),
    migrations: [Foundation1764000000000, Roll1764100000000],
    migrationsTableName: 'migration',
  });
  await old.initialize();
  await old.runMigrations({ transaction: 'each' });
  const now = '2026-11-23 12:00:00.000';
  await old.query("INSERT INTO school VALUES ('school1', 'Saltmarsh', ?)", [now]);
  await old.query("INSERT INTO staff VALUES ('staff1', 'school1', 'zoë@saltmarsh.example', 'Zoë', 'hash')");
  await old.query('INSERT INTO session VALUES (?, ?, ?), (?, ?, ?)', [
    'a'.repeat(64),
    JSON.stringify({ cookie: {}, staffId: 'staff1', schoolId: 'school1', csrfToken: 'x' }),
    '2099-01-01 00:00:00',
    'b'.repeat(64),
    JSON.stringify({ cookie: {}, csrfToken: 'y' }),
    '2099-01-01 00:00:00',
  ]);
  await old.query(
    `INSERT INTO folio (id, schoolId, title, columns, note, noteVersion, filing, filingVersion, createdAt, changedAt)
     VALUES ('folio1', 'school1', 'F', '[]', ?, 1, '{}', 1, ?, ?)`,
    [JSON.stringify(NOTE), now, now],
  );
  await old.query(
    `INSERT INTO press_run (id, schoolId, folioId, templateId, templateVersion, state, total, startedAt)
     VALUES ('run1', 'school1', 'folio1', 'template1', 1, 'running', 1, ?)`,
    [now],
  );
  for (const state of ['sending', 'sent', 'queued'])
    await old.query(
      `INSERT INTO message (id, schoolId, folioId, entryId, paperId, sendKey, messageId, recipient, subject, text, html, state, attempts,
         queuedAt, nextAttemptAt) VALUES (?, 'school1', 'folio1', 'entry1', ?, ?, ?, 'a@b.example', 's', 't', 'h', ?, 0, ?, ?)`,
      [state, `paper ${state}`, state, `<${state}@x>`, state, now, now],
    );
  await old.destroy();
  return url;
}

test('a database of the version before comes through, and what was being sent waits for a person', async () => {
  const url = await earlier();
  const database = await openDatabase(url);
  try {
    const sessions = await database.manager.find(SessionRow);
    expect(sessions).toMatchObject([{ id: 'a'.repeat(64), staffId: 'staff1', startedAt: expect.any(Date) }]);
    // Compared byte by byte from now on.
    expect(await database.manager.countBy(Staff, { email: 'zoë@saltmarsh.example' })).toBe(1);
    expect(await database.manager.countBy(Staff, { email: 'zoe@saltmarsh.example' })).toBe(0);
    expect(await settleExpired(database)).toEqual(['folio1']);
    const rows = await database.manager.find(MessageRow, { order: { id: 'ASC' } });
    expect(rows.map(({ id, state }) => `${id}: ${state}`)).toEqual([
      'queued: queued',
      'sending: unconfirmed',
      'sent: sent',
    ]);
    // The run that was going waits to be done, as one slice.
    expect(await database.query("SELECT state FROM press_run WHERE id = 'run1'")).toEqual([
      { state: 'running' },
    ]);
    expect(await database.query('SELECT jobId, kind, lane, state, size FROM slice')).toEqual([
      { jobId: 'run1', kind: 'press', lane: 'bulk', state: 'queued', size: 0 },
    ]);
    // A note that named a column goes to it, there and back.
    const { toColumnId, ...rest } = NOTE;
    const note = async (): Promise<unknown> =>
      JSON.parse(
        (await database.query<{ content: string }[]>("SELECT content FROM writing WHERE id = 'folio1n'"))[0]!
          .content,
      );
    expect(await note()).toEqual({ ...rest, to: [{ columnId: toColumnId }] });
    // All that is there leaves the way it did before there were accounts.
    expect(await database.query('SELECT DISTINCT accountId = schoolId AS own, people FROM message')).toEqual([
      { own: 1, people: 1 },
    ]);
    for (const _ of [
      'answer copies',
      'watched files',
      'hooks',
      'standing orders',
      'intake',
      'return boxes',
      'private links',
      'post room',
      'envelopes',
    ])
      await database.undoLastMigration({ transaction: 'each' });
    expect(await note()).toEqual(NOTE);
    await database.runMigrations({ transaction: 'each' });
    // And it is not migrated a second time.
    const again = await connectDatabase(url, 1);
    expect(await again.runMigrations()).toEqual([]);
    await again.destroy();
  } finally {
    await database.destroy();
  }
});
