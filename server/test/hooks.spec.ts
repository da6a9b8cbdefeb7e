import { request, type IncomingMessage } from 'node:http';
import type {
  AnswersOf,
  Folio,
  HookLine,
  HookList,
  OrderList,
  OrderWorkList,
  Practised,
  ProblemDetails,
} from '@scriptum/core/contract';
import { emptyOrder } from '@scriptum/core/order';
import { hmacOf, signatureOf } from '@scriptum/server/intake/hooks';
import { FormAnswerRow } from '@scriptum/server/store/entities/intake';
import { HookRow } from '@scriptum/server/store/entities/hooks';
import { newId } from '@scriptum/server/store/id';
import { newSchool, startTestServer, type Client, type TestServer } from './testing/school.js';

let server: TestServer;
let client: Client;
beforeAll(async () => {
  server = await startTestServer();
  client = await newSchool(server);
});
afterAll(() => server.close());

interface Made {
  readonly folioId: string;
  readonly hook: HookLine;
  readonly key: string;
}

async function hookOf(by = client, sheet?: string): Promise<Made> {
  const { body: folio } = await by.send<{ id: string }>('POST', '/folios', { title: 'From elsewhere' });
  if (sheet) await by.bringIn(folio.id, 'roll.csv', sheet);
  const { body } = await by.send<HookList>('POST', `/folios/${folio.id}/hooks`, {
    id: newId(),
    name: 'Form service',
  });
  return { folioId: folio.id, hook: body.hooks[0]!, key: body.key!.key };
}

const now = (): string => String(Math.floor(Date.now() / 1000));

interface SendOptions {
  readonly time?: string;
  readonly key?: string;
  readonly type?: string;
  readonly idempotencyKey?: string;
  readonly signature?: string;
}

async function send(
  { hook, key }: Made,
  body: object | string | Buffer,
  more: SendOptions = {},
): Promise<{ status: number; body: { kept?: boolean; again?: boolean } & Partial<ProblemDetails> }> {
  const bytes =
    typeof body === 'string' || Buffer.isBuffer(body) ? Buffer.from(body) : Buffer.from(JSON.stringify(body));
  const time = more.time ?? now();
  const headers = {
    'content-type': more.type ?? 'application/json',
    'content-length': bytes.length,
    'scriptum-time': time,
    'scriptum-signature': more.signature ?? signatureOf(more.key ?? key, time, bytes),
    ...(more.idempotencyKey ? { 'idempotency-key': more.idempotencyKey } : {}),
  };
  const response = await new Promise<IncomingMessage>((resolve, reject) => {
    request(hook.link, { method: 'POST', agent: false, headers }, resolve).once('error', reject).end(bytes);
  });
  const text = Buffer.concat(await response.toArray()).toString('utf8');
  return { status: response.statusCode!, body: JSON.parse(text) as never };
}

const rollOf = async ({ folioId }: Made, by = client): Promise<Folio['roll']> =>
  (await by.get<Folio>(`/folios/${folioId}`)).roll;
const hookNow = async ({ folioId, hook }: Made): Promise<HookLine> =>
  (await client.get<HookList>(`/folios/${folioId}/hooks`)).hooks.find(({ id }) => id === hook.id)!;

// RFC 4231, 4.2 to 4.4 and 4.7: key, data, HMAC-SHA-256.
test.each([
  ['0b'.repeat(20), '4869205468657265', 'b0344c61d8db38535ca8afceaf0bf12b881dc200c9833da726e9376c2e32cff7'],
  [
    '4a656665',
    '7768617420646f2079612077616e7420666f72206e6f7468696e673f',
    '5bdcc146bf60754e6a042426089575c75a003f089d2739839dec58b964ec3843',
  ],
  ['aa'.repeat(20), 'dd'.repeat(50), '773ea91e36800e46854db8ebd09181a72959098b3ef8c122d9635514ced565fe'],
  [
    'aa'.repeat(131),
    '54657374205573696e67204c6172676572205468616e20426c6f636b2d53697a65204b6579202d2048617368204b6579204669727374',
    '60e431591ee0b67f0d8a26aacbf5b77f8e0bc6213728c5140546040f0ee37f54',
  ],
])('vectors of RFC 4231: %#', (key, data, mac) => {
  expect(hmacOf(Buffer.from(key, 'hex'), Buffer.from(data, 'hex'))).toBe(mac);
});

test('the first submission makes the columns, and those after it stand in them', async () => {
  const made = await hookOf();
  expect(await send(made, { name: 'Ada', clubs: ['Chess', 'Choir'], mail: 'ada@x.example' })).toEqual({
    status: 200,
    body: { kept: true, again: false },
  });
  await send(made, { mail: 'bo@x.example', name: 'Bo', more: 'news' });
  const { columns, entries } = await rollOf(made);
  expect(columns.map(({ title, type, sourceId }) => [title, type, sourceId === made.hook.id])).toEqual([
    ['name', undefined, true],
    ['clubs', 'several choices', true],
    ['mail', 'email', true],
    ['more', undefined, true],
  ]);
  const [name, clubs, mail, more] = columns.map(({ id }) => id) as [string, string, string, string];
  expect(
    entries.map(({ values }) => [values[name], values[clubs] ?? '', values[mail], values[more] ?? '']),
  ).toEqual([
    ['Ada', 'Chess; Choir', 'ada@x.example', ''],
    ['Bo', '', 'bo@x.example', 'news'],
  ]);
  expect(entries.every(({ answered }) => answered === made.hook.id)).toBe(true);
  const { answers } = await client.get<AnswersOf>(
    `/folios/${made.folioId}/entries/${entries[0]!.id}/answers`,
  );
  expect(answers).toMatchObject([{ form: 'Form service', editLink: null, uploads: [] }]);
  expect(await hookNow(made)).toMatchObject({ answers: 2, refused: null });
  expect(
    (await client.send('DELETE', `/folios/${made.folioId}/entries/${entries[0]!.id}/answers`)).status,
  ).toBe(200);
  expect((await rollOf(made)).entries).toHaveLength(1);
});

test('columns that are there are found by their titles, and can be others from now on', async () => {
  const made = await hookOf(client, 'First name,E-Mail,Class\nZoë,zoe@x.example,8A');
  await send(made, { 'first name': 'Ada', email: 'ada@x.example', secret: 'x' });
  const { columns } = await rollOf(made);
  expect(columns.map(({ title }) => title)).toEqual(['First name', 'E-Mail', 'Class', 'secret']);
  const path = `/folios/${made.folioId}/hooks/${made.hook.id}`;
  const klass = columns.find(({ title }) => title === 'Class')!.id;
  expect((await client.send('PATCH', path, { field: { key: 'secret', columnId: klass } })).status).toBe(200);
  expect((await client.send('PATCH', path, { field: { key: 'email', columnId: null } })).status).toBe(200);
  expect((await client.send('PATCH', path, { field: { key: 'x', columnId: 'nocolumn' } })).status).toBe(404);
  await send(made, { 'first name': 'Bo', email: 'bo@x.example', secret: '8B' });
  const [, ada, bo] = (await rollOf(made)).entries;
  const value = (entry: typeof ada, title: string): string =>
    entry!.values[columns.find((column) => column.title === title)!.id] ?? '';
  expect([value(ada, 'First name'), value(ada, 'E-Mail'), value(ada, 'secret')]).toEqual([
    'Ada',
    'ada@x.example',
    'x',
  ]);
  expect([value(bo, 'E-Mail'), value(bo, 'Class'), value(bo, 'secret')]).toEqual(['', '8B', '']);
});

test('the same submission is one row: sent again, at the same time, later, or named so', async () => {
  const made = await hookOf();
  const replies = await Promise.all(Array.from({ length: 8 }, () => send(made, { name: 'Ada' })));
  expect(replies.map(({ status }) => status)).toEqual(replies.map(() => 200));
  expect(replies.filter(({ body }) => !body.again)).toHaveLength(1);
  expect((await send(made, { name: 'Ada' }, { time: String(Number(now()) + 60) })).body.again).toBe(true);
  await send(made, { name: 'Bo' }, { idempotencyKey: 'one' });
  expect((await send(made, { name: 'Bo, mended' }, { idempotencyKey: 'one' })).body.again).toBe(true);
  expect((await rollOf(made)).entries).toHaveLength(2);
});

test('a form’s data is taken like JSON, with lists where a name comes twice', async () => {
  const made = await hookOf();
  await send(made, 'name=Ad%C3%A1&club=Chess&club=Choir&__proto__=x', {
    type: 'application/x-www-form-urlencoded',
  });
  const { columns, entries } = await rollOf(made);
  expect(
    columns.map(({ title }) => entries[0]!.values[columns.find((one) => one.title === title)!.id]),
  ).toEqual(['Adá', 'Chess; Choir', 'x']);
});

test('what is forged, replayed, off by an hour or broken is refused in a sentence, and nothing is kept', async () => {
  const made = await hookOf();
  const other = await hookOf();
  const body = { name: 'Eve' };
  const hour = (sign: 1 | -1): string => String(Number(now()) + sign * 3600);
  const cases: [Awaited<ReturnType<typeof send>>, number, string][] = [
    [await send(made, body, { key: other.key }), 401, 'signature-wrong'],
    [await send(made, body, { signature: '0'.repeat(64) }), 401, 'signature-wrong'],
    [await send(made, body, { signature: ' ' }), 401, 'not-signed'],
    [await send(made, body, { time: 'soon' }), 401, 'not-signed'],
    [await send(made, body, { time: hour(1) }), 401, 'clock-off'],
    [await send(made, body, { time: hour(-1) }), 401, 'clock-off'],
    [await send(made, '{"name":'), 422, 'not-json'],
    [await send(made, Buffer.from([0x7b, 0xff, 0x7d])), 422, 'not-json'],
    [await send(made, '{"__proto__":{"a":1}}'), 400, 'input'],
    [await send(made, '[]'), 422, 'submission'],
    [await send(made, `${'['.repeat(400)}${']'.repeat(400)}`), 400, 'input'],
    [await send(made, 'name: Eve', { type: 'text/plain' }), 422, 'content-type'],
    [await send(made, { text: 'x'.repeat(1_000_000) }), 422, 'submission'],
    [await send(made, 'x'.repeat(1_100_000)), 413, 'too-large'],
    [
      await send({ ...made, hook: { ...made.hook, link: `${made.hook.link.slice(0, -1)}` } }, body),
      404,
      'not-found',
    ],
  ];
  expect(cases.map(([{ status, body: told }]) => [status, told.code])).toEqual(
    cases.map(([, status, code]) => [status, code]),
  );
  expect(cases[4]![0].body.detail).toContain('60 minutes ahead');
  // A signature belongs to its time and its body.
  const time = now();
  const signature = signatureOf(made.key, time, Buffer.from(JSON.stringify(body)));
  expect((await send(made, { name: 'Mallory' }, { time, signature })).status).toBe(401);
  expect((await send(made, body, { time: String(Number(time) + 1), signature })).status).toBe(401);
  expect((await rollOf(made)).entries).toEqual([]);
  expect((await hookNow(made)).refused?.says).toContain('The signature is wrong');
});

test('keys change without a gap, and the former one ends', async () => {
  const made = await hookOf();
  const { body } = await client.send<HookList>('POST', `/folios/${made.folioId}/hooks/${made.hook.id}/key`);
  const next = body.key!.key;
  expect(next).not.toBe(made.key);
  expect(body.hooks[0]!.formerUntil).not.toBeNull();
  expect((await send(made, { name: 'By the former' })).status).toBe(200);
  expect((await send(made, { name: 'By the new' }, { key: next })).status).toBe(200);
  const time = now();
  const bytes = Buffer.from('{"name":"By both"}');
  const both = `${signatureOf('another', time, bytes)}, ${signatureOf(next, time, bytes)}`;
  expect((await send(made, bytes, { time, signature: both })).status).toBe(200);
  const { manager } = server.running.database;
  await manager.update(HookRow, { id: made.hook.id }, { formerUntil: new Date(Date.now() - 1000) });
  expect((await send(made, { name: 'Too late' })).status).toBe(401);
  // Keys stand nowhere as they are.
  const row = await manager.findOneByOrFail(HookRow, { id: made.hook.id });
  expect(JSON.stringify(row)).not.toContain(next.slice(3));
  expect(JSON.stringify(await client.get(`/folios/${made.folioId}/hooks`))).not.toContain(next);
});

test('a key that was sealed by another server is told, and long keys of submissions are told apart', async () => {
  const made = await hookOf();
  const long = 'x'.repeat(300);
  await send(made, { name: 'A' }, { idempotencyKey: `${long}1` });
  expect((await send(made, { name: 'B' }, { idempotencyKey: `${long}2` })).body.again).toBe(false);
  const { manager } = server.running.database;
  const { sealedKey } = await manager.findOneByOrFail(HookRow, { id: (await hookOf()).hook.id });
  await manager.update(HookRow, { id: made.hook.id }, { sealedKey });
  expect(await send(made, { name: 'C' })).toMatchObject({ status: 409, body: { code: 'key-unknown' } });
});

test('closed, put away or deleted it takes nothing', async () => {
  const made = await hookOf();
  const path = `/folios/${made.folioId}/hooks/${made.hook.id}`;
  await client.send('PATCH', path, { isOn: false });
  expect(await send(made, { name: 'A' })).toMatchObject({ status: 409, body: { code: 'closed' } });
  await client.send('PATCH', path, { isOn: true });
  expect((await send(made, { name: 'A' })).status).toBe(200);
  await client.send('PUT', `/folios/${made.folioId}/archived`, { archived: true });
  expect((await send(made, { name: 'B' })).status).toBe(409);
  await client.send('PUT', `/folios/${made.folioId}/archived`, { archived: false });
  await client.send('DELETE', path);
  expect((await send(made, { name: 'C' })).status).toBe(404);
  // What came by it stays.
  expect((await rollOf(made)).entries).toHaveLength(1);
});

test('other schools see, change and delete none', async () => {
  const made = await hookOf();
  const stranger = await newSchool(server);
  const path = `/folios/${made.folioId}/hooks`;
  for (const [method, at, body] of [
    ['GET', path],
    ['POST', path, { id: newId(), name: 'X' }],
    ['PATCH', `${path}/${made.hook.id}`, { isOn: false }],
    ['POST', `${path}/${made.hook.id}/key`],
    ['POST', `${path}/${made.hook.id}/practice`],
    ['DELETE', `${path}/${made.hook.id}`],
  ] as const)
    expect([method, at, (await stranger.send(method, at, body)).status]).toEqual([method, at, 404]);
});

test('an order acts on what a hook brings', async () => {
  const made = await hookOf();
  const id = newId();
  const order = { ...emptyOrder('Each'), then: { kind: 'keep' as const } };
  await client.send('POST', `/folios/${made.folioId}/orders`, { id, order });
  await client.send<OrderList>('PUT', `/folios/${made.folioId}/orders/${id}/on`, { isOn: true });
  await send(made, { name: 'Ada' });
  await send(made, { name: 'Ada' });
  const { work } = await client.get<OrderWorkList>(`/folios/${made.folioId}/orders/${id}/work`);
  expect(work.map(({ learner }) => learner)).toEqual(['Ada']);
  expect(await server.running.database.manager.countBy(FormAnswerRow, { folioId: made.folioId })).toBe(1);
});

test('the practice service brings an answer over HTTP; there is none outside the demo', async () => {
  const made = await hookOf();
  expect((await client.send('POST', `/folios/${made.folioId}/hooks/${made.hook.id}/practice`)).status).toBe(
    404,
  );
  const demo = await startTestServer({ SCRIPTUM_DEMO: 'yes' });
  const person = await newSchool(demo);
  const own = await hookOf(person);
  const { body } = await person.send<Practised>(
    'POST',
    `/folios/${own.folioId}/hooks/${own.hook.id}/practice`,
  );
  expect(body).toEqual({
    status: 200,
    says: expect.stringMatching(/^The answer of .+ was brought\.$/) as string,
  });
  expect((await rollOf(own, person)).columns.map(({ title }) => title)).toEqual([
    'submission',
    'First name',
    'Surname',
    'Guardian email',
    'Clubs',
    'Takes school meals',
  ]);
  await demo.close();
});
