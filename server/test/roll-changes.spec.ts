import { readFileSync } from 'node:fs';
import type { BringIn, DispatchPlan, Folio, ProblemDetails } from '@scriptum/core/contract';
import { columnChanges } from '@scriptum/core/roll';
import type { Column } from '@scriptum/core/column';
import { openSheetFile } from '@scriptum/core/workbook';
import { newSchool, startTestServer, type Client, type TestServer } from './testing/school.js';

let server: TestServer;
let client: Client;
beforeAll(async () => {
  server = await startTestServer();
  client = await newSchool(server);
});
afterAll(() => server.close());

const CLASS =
  'Student number,Name,Mail\nS1,Amara,a@families.example\nS2,Ilse,i@families.example\nS3,Zoë,z@families.example\n';
const LETTER = { letter: ['Dear {{Name}}'] };
const fixture = (name: string): Buffer =>
  readFileSync(new URL(`../../core/fixtures/${name}`, import.meta.url));

async function keep(folioId: string, bytes: string | Uint8Array, by = client): Promise<string> {
  const response = await by.raw('POST', `/folios/${folioId}/files`, bytes as BodyInit, {
    'content-type': 'application/octet-stream',
  });
  return ((await response.json()) as { fileId: string }).fileId;
}
async function take(
  folioId: string,
  bytes: string | Uint8Array,
  as: BringIn['as'] | { kind: 'refresh'; sourceId: string },
  more: Partial<BringIn> = {},
): Promise<{ status: number; body: Folio }> {
  const fileId = await keep(folioId, bytes);
  return client.send<Folio>('POST', `/folios/${folioId}/roll`, { fileId, name: 'class.csv', as, ...more });
}
const names = (folio: Folio): string[] => {
  const id = folio.roll.columns.find(({ title }) => title === 'Name')!.id;
  return folio.roll.entries.map(({ values }) => values[id]!);
};
const load = (folio: Folio): Promise<Folio> => client.get<Folio>(`/folios/${folio.id}`);
const columnOf = (folio: Folio, title: string): string =>
  folio.roll.columns.find((column) => column.title === title)!.id;
const patch = (folio: Folio, body: object, by = client): Promise<{ status: number; body: unknown }> =>
  by.send('PATCH', `/folios/${folio.id}/roll`, body);

test('a workbook is read in a thread of its own, as it was asked for, and its file is kept', async () => {
  const folio = await client.folioOf(CLASS, LETTER);
  const { body } = await take(
    folio.id,
    fixture('school-1900.ods'),
    { kind: 'base' },
    { name: 'marks.ods', reading: { sheet: 'Types' } },
  );
  expect(body.sources).toMatchObject([
    { kind: 'base', fileName: 'marks.ods', reading: { sheet: 'Types' }, rows: 2 },
  ]);
  expect(body.roll.columns[1]).toMatchObject({
    title: 'Candidate',
    type: 'text',
    sourceId: body.sources[0]!.id,
  });
  expect(Object.values(body.roll.entries[0]!.exact!)).toContain('d:2026-03-04');
  const file = await client.raw('GET', `/folios/${folio.id}/sources/${body.sources[0]!.id}/file`);
  expect(file.headers.get('content-disposition')).toContain('marks.ods');
  expect(Buffer.from(await file.arrayBuffer()).equals(fixture('school-1900.ods'))).toBe(true);
});

test('an entry is added by hand and taken away again; sent twice it is there once; one with a paper stays', async () => {
  const folio = await client.folioOf(CLASS, LETTER);
  const name = columnOf(folio, 'Name');
  const entry = {
    id: `hand${folio.id.slice(0, 12)}`,
    position: 3,
    values: { [name]: 'Odalys' },
    byHand: true,
  };
  for (let n = 0; n < 2; n++) expect(await patch(folio, { added: [entry] })).toMatchObject({ status: 200 });
  const added = await load(folio);
  expect(names(added)).toEqual(['Amara', 'Ilse', 'Zoë', 'Odalys']);
  expect(added.roll.entries[3]).toEqual(entry);
  for (const id of ['😀', 'a b', 'x\u0000', '__proto__', ''])
    expect(await patch(folio, { added: [{ ...entry, id }] })).toMatchObject({ status: 400 });
  for (const id of ['😀', 'x\u0000', 'nobody']) {
    expect(await patch(folio, { taken: [id] })).toMatchObject({ status: 200 });
    for (const about of [
      { cells: [{ entryId: id, columnId: name, text: 'x' }] },
      { leftOut: [{ entryId: id, reason: 'x' }] },
    ])
      expect(await patch(folio, about)).toMatchObject({ status: 409, body: { code: 'entry-gone' } });
  }
  // Nobody takes another folio's entry over by naming it.
  const other = await client.folioOf(CLASS, LETTER);
  const stranger = await newSchool(server);
  const foreign = await stranger.folioOf(CLASS, LETTER);
  for (const [place, by] of [
    [other, client],
    [foreign, stranger],
  ] as const)
    expect(await patch(place, { added: [{ ...entry, values: {} }] }, by)).toMatchObject({
      status: 409,
      body: { code: 'entry-known' },
    });
  expect(await patch(foreign, { taken: [entry.id] }, stranger)).toMatchObject({ status: 200 });
  expect(names(await load(folio))).toEqual(['Amara', 'Ilse', 'Zoë', 'Odalys']);
  await client.press(server, folio.id);
  expect(await patch(folio, { taken: [entry.id] })).toMatchObject({
    status: 409,
    body: { code: 'entry-has-paper' },
  });
  expect(await patch(other, { taken: [other.roll.entries[1]!.id] })).toMatchObject({ status: 200 });
  expect(names(await load(other))).toEqual(['Amara', 'Zoë']);
});

test('mended cells, columns and those left out are kept, and a patch that cannot be is refused whole', async () => {
  const folio = await client.folioOf(CLASS, LETTER);
  const [first, second] = folio.roll.entries;
  const name = columnOf(folio, 'Name');
  expect(
    await patch(folio, {
      cells: [{ entryId: first!.id, columnId: name, text: 'Amara O.' }],
      leftOut: [{ entryId: second!.id, reason: 'Has left' }],
      columns: columnChanges(folio.roll.columns, [...folio.roll.columns, { id: 'own', title: 'Team' }]),
    }),
  ).toMatchObject({ status: 200 });
  const after = await load(folio);
  expect(after.roll.entries[0]).toMatchObject({
    values: { [name]: 'Amara O.' },
    mends: { [name]: { text: 'Amara' } },
  });
  expect(after.roll.entries[1]).toMatchObject({ leftOut: 'Has left' });
  expect(after.roll.columns.at(-1)).toMatchObject({ title: 'Team' });
  const refused = await patch(folio, {
    cells: [{ entryId: first!.id, columnId: name, text: 'X' }],
    columns: columnChanges(folio.roll.columns, folio.roll.columns.slice(1)),
  });
  expect(refused).toMatchObject({ status: 409, body: { code: 'column-of-source' } });
  expect(names(await load(folio))[0]).toBe('Amara O.');
  const long = await patch(folio, {
    cells: [{ entryId: first!.id, columnId: name, text: 'x'.repeat(40_001) }],
  });
  expect(long).toMatchObject({ status: 400, body: { detail: expect.stringContaining('40,000') } });
});

test('columns that two people change at once: neither takes the other’s back unseen', async () => {
  const folio = await client.folioOf(CLASS, LETTER);
  const { columns } = folio.roll;
  const change = (after: Column[]): Promise<{ status: number; body: unknown }> =>
    patch(folio, { columns: columnChanges(columns, after) });
  const titled = (n: number, title: string): Column[] =>
    columns.map((column, at) => (at === n ? { ...column, title } : column));
  expect(await change([...columns, { id: 'own', title: 'Team' }])).toMatchObject({ status: 200 });
  expect(await change(titled(1, 'Learner'))).toMatchObject({ status: 200 });
  // Sent once more, since its answer was lost.
  expect(await change(titled(1, 'Learner'))).toMatchObject({ status: 200 });
  expect(await change(titled(2, 'Guardian'))).toMatchObject({ status: 200 });
  expect((await load(folio)).roll.columns.map(({ title }) => title)).toEqual([
    'Student number',
    'Learner',
    'Guardian',
    'Team',
  ]);
  expect(await change(titled(1, 'Child'))).toMatchObject({
    status: 409,
    body: { code: 'column-changed-elsewhere', detail: expect.stringContaining('“Child”') },
  });
});

test('who is left out is neither pressed nor written to', async () => {
  const folio = await client.folioOf(CLASS, LETTER);
  const leave = (entryId: string, reason: string | null) => patch(folio, { leftOut: [{ entryId, reason }] });
  await leave(folio.roll.entries[1]!.id, 'Has left');
  await client.press(server, folio.id);
  expect((await client.register(folio.id)).papers.map(({ learner }) => learner)).toEqual(['Amara', 'Zoë']);
  await leave(folio.roll.entries[2]!.id, 'Twice here');
  const plan = await client.get<DispatchPlan>(`/folios/${folio.id}/dispatch`);
  expect(plan.send.map(({ learner }) => learner)).toEqual(['Amara']);
  await leave(folio.roll.entries[2]!.id, null);
  expect((await client.get<DispatchPlan>(`/folios/${folio.id}/dispatch`)).send).toHaveLength(2);
});

test('a newer version keeps who is who, so that no family is written to twice', async () => {
  const folio = await client.folioOf(CLASS, LETTER);
  await client.press(server, folio.id);
  const plan = await client.get<DispatchPlan>(`/folios/${folio.id}/dispatch`);
  await client.send('POST', `/folios/${folio.id}/dispatch`, { planId: plan.planId });
  await server.running.outbox.idle();
  const anew = await take(folio.id, CLASS, { kind: 'base' });
  expect(anew).toMatchObject({ status: 409, body: { code: 'roll-in-use' } });
  const sourceId = folio.sources[0]!.id;
  const newer =
    'Student number,Name,Mail\nS3,Zoë,z@families.example\nS1,Amara Okonjo,a@families.example\nS4,Bo,b@families.example\n';
  const { status, body } = await take(folio.id, newer, { kind: 'refresh', sourceId });
  expect(status).toBe(200);
  expect(names(body)).toEqual(['Zoë', 'Amara Okonjo', 'Bo', 'Ilse']);
  expect(body.roll.entries[1]!.id).toBe(folio.roll.entries[0]!.id);
  expect(body.roll.entries[3]).toMatchObject({ leftOut: 'No longer in the source', gone: true });
  await client.press(server, folio.id);
  const next = await client.get<DispatchPlan>(`/folios/${folio.id}/dispatch`);
  expect(next.send.map(({ learner }) => learner)).toEqual(['Bo']);
  expect(next.again.map(({ learner }) => learner)).toEqual(['Amara Okonjo']);
});

test('a newer version of the roll has what its joined sheets say of people who are new or changed', async () => {
  const folio = await client.folioOf(CLASS, LETTER);
  const join = { left: [columnOf(folio, 'Student number')], right: ['No'], shape: 'columns' };
  const { body } = await take(folio.id, 'No,House\nS1,Reed\nS2,Fen\nS3,Elm\nS4,Ash\n', {
    kind: 'join',
    join,
  } as BringIn['as']);
  const house = columnOf(body, 'House');
  await patch(body, { cells: [{ entryId: body.roll.entries[0]!.id, columnId: house, text: 'Oak' }] });
  const newer =
    'Student number,Name,Mail,House\nS1,Amara,a@families.example,x\nS3,Ilse,i@families.example,x\nS4,Bo,b@families.example,x\n';
  const { body: after } = await take(folio.id, newer, { kind: 'refresh', sourceId: folio.sources[0]!.id });
  // The mended cell stays mended; the file's own column of that title does not stand beside the joined one.
  expect(names(after)).toEqual(['Amara', 'Ilse', 'Bo', 'Ilse']);
  expect(after.roll.entries.map(({ values }) => values[house])).toEqual(['Oak', 'Elm', 'Ash', 'Fen']);
  expect(after.roll.columns.map(({ title }) => title)).toEqual(['Student number', 'Name', 'Mail', 'House']);
});

test('a joined sheet gives columns that fields can use; it is taken out again; and all of it can be had back', async () => {
  const folio = await client.folioOf(CLASS, LETTER);
  const join = { left: [columnOf(folio, 'Student number')], right: ['No'], shape: 'columns' };
  const { body } = await take(
    folio.id,
    'No,Guardian\ns1,Ada\nS3,Kai\n',
    { kind: 'join', join } as BringIn['as'],
    { name: 'guardians.csv' },
  );
  expect(body.sources.map(({ kind, fileName }) => [kind, fileName])).toEqual([
    ['base', 'roll.csv'],
    ['joined', 'guardians.csv'],
  ]);
  const guardian = columnOf(body, 'Guardian');
  expect(body.roll.entries.map(({ values }) => values[guardian])).toEqual(['Ada', '', 'Kai']);
  const newer = await take(
    folio.id,
    'No,Guardian\nS1,Ada O.\n',
    { kind: 'refresh', sourceId: body.sources[1]!.id },
    { name: 'guardians 2.csv' },
  );
  expect(newer.body.roll.entries.map(({ values }) => values[guardian])).toEqual(['Ada O.', '', '']);
  const near = [{ entry: 's2', row: 's02', same: true }];
  const again = await take(
    folio.id,
    'No,Guardian\nS1,Ada O.\nS02,Kaja\n',
    { kind: 'refresh', sourceId: body.sources[1]!.id, join: { ...join, near } } as BringIn['as'],
    { name: 'guardians 3.csv' },
  );
  expect(again.body.roll.entries.map(({ values }) => values[guardian])).toEqual(['Ada O.', 'Kaja', '']);
  expect(again.body.sources[1]!.join!.near).toEqual(near);
  await client.send('POST', `/folios/${folio.id}/roll/earlier/${again.body.earlier!.id}`);
  const out = await client.send<Folio>('DELETE', `/folios/${folio.id}/sources/${body.sources[1]!.id}`);
  expect(out.body.roll).toEqual(folio.roll);
  const back = async (from: Folio): Promise<Folio> =>
    (await client.send<Folio>('POST', `/folios/${folio.id}/roll/earlier/${from.earlier!.id}`)).body;
  const joined = await back(out.body);
  expect(joined.roll).toEqual(newer.body.roll);
  expect((await back(joined)).roll).toEqual(body.roll);
  const missing = await take(folio.id, 'Nr,G\nS1,A\n', { kind: 'join', join } as BringIn['as']);
  expect(missing).toMatchObject({ status: 422, body: { code: 'key-missing' } });
});

test('nothing of one school’s roll is reached from another', async () => {
  const folio = await client.folioOf(CLASS, LETTER);
  await patch(folio, { leftOut: [{ entryId: folio.roll.entries[0]!.id, reason: 'x' }] });
  const mine = (await take(folio.id, CLASS, { kind: 'refresh', sourceId: folio.sources[0]!.id })).body;
  const fileId = await keep(folio.id, CLASS);
  const stranger = await newSchool(server, 'Elsewhere');
  const own = await stranger.folioOf('Name\nX', { letter: ['x'] });
  const calls: [string, string, unknown?][] = [
    ['PATCH', `/folios/${folio.id}/roll`, { leftOut: [] }],
    ['POST', `/folios/${folio.id}/roll`, { fileId, name: 'x', as: { kind: 'base' } }],
    // The bytes of another school are not there, even for one's own folio.
    ['POST', `/folios/${own.id}/roll`, { fileId, name: 'x', as: { kind: 'base' } }],
    ['GET', `/folios/${folio.id}/sources/${folio.sources[0]!.id}/file`],
    ['GET', `/folios/${own.id}/sources/${folio.sources[0]!.id}/file`],
    ['GET', `/folios/${folio.id}/roll-file?kind=csv`],
    ['DELETE', `/folios/${folio.id}/sources/${folio.sources[0]!.id}`],
    ['POST', `/folios/${folio.id}/roll/earlier/${mine.earlier!.id}`],
    ['POST', `/folios/${own.id}/roll/earlier/${mine.earlier!.id}`],
  ];
  for (const [method, path, body] of calls) {
    expect([method, path, (await stranger.send<ProblemDetails>(method, path, body)).status]).toEqual([
      method,
      path,
      404,
    ]);
  }
  // Entries of another folio are passed over, not written to.
  await patch(
    own,
    { cells: [{ entryId: folio.roll.entries[0]!.id, columnId: own.roll.columns[0]!.id, text: 'Y' }] },
    stranger,
  );
  expect(names(await load(folio))[0]).toBe('Amara');
});

test.each(['xlsx', 'ods', 'csv'] as const)(
  'the roll as it stands is saved as %s, and read back',
  async (kind) => {
    const folio = await client.folioOf('Name,Mark,Id\nAmara,1.5,00123\nIlse,=2+2,7\n', LETTER);
    await patch(folio, { leftOut: [{ entryId: folio.roll.entries[1]!.id, reason: 'Twice' }] });
    const response = await client.raw('GET', `/folios/${folio.id}/roll-file?kind=${kind}`);
    expect(response.headers.get('content-disposition')).toContain(`Test.${kind}`);
    const opened = openSheetFile(new Uint8Array(await response.arrayBuffer()));
    let n = 0;
    const laidOut = opened.ok && opened.value.layOut({}, () => `c${++n}`);
    if (!laidOut || !laidOut.ok) throw new Error('was not read');
    const { sheet } = laidOut.value;
    expect(sheet.columns.map(({ title }) => title)).toEqual(['Name', 'Mark', 'Id', 'Left out because']);
    expect(sheet.rows).toEqual([
      ['Amara', '1.5', '00123', ''],
      ['Ilse', kind === 'csv' ? "'=2+2" : '=2+2', '7', 'Twice'],
    ]);
  },
);

test('entries that stay keep what hangs on them, through newer versions and going back', async () => {
  const folio = await client.folioOf(CLASS, LETTER);
  const { database } = server.running;
  await database.query(`CREATE TABLE IF NOT EXISTS hung (entryId VARCHAR(40) CHARACTER SET ascii COLLATE ascii_bin PRIMARY KEY,
    CONSTRAINT hung_entry FOREIGN KEY (entryId) REFERENCES entry (id) ON DELETE CASCADE)`);
  const ids = folio.roll.entries.map(({ id }) => id);
  await database.query('INSERT INTO hung VALUES ?', [ids.map((id) => [id])]);
  const hung = async (): Promise<number> => {
    const rows = await database.query<{ entryId: string }[]>('SELECT entryId FROM hung');
    return rows.filter(({ entryId }) => ids.includes(entryId)).length;
  };
  await patch(folio, { key: [columnOf(folio, 'Student number')] });
  const newer = `${CLASS.replace('Ilse', 'Ilse Maria').replace('S3,Zoë,z@families.example\n', '')}S4,Sam,s@families.example\n`;
  const taken = await take(folio.id, newer, { kind: 'refresh', sourceId: folio.sources[0]!.id });
  expect(names(taken.body)).toEqual(['Amara', 'Ilse Maria', 'Sam', 'Zoë']);
  expect(await hung()).toBe(3);
  const { earlier } = await load(folio);
  const back = await client.send<Folio>('POST', `/folios/${folio.id}/roll/earlier/${earlier!.id}`, {});
  expect(names(back.body)).toEqual(['Amara', 'Ilse', 'Zoë']);
  expect(await hung()).toBe(3);
});
