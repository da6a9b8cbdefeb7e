import type { KeptVersions, Me, ProblemDetails } from '@scriptum/core/contract';
import { SessionRow, Staff } from '@scriptum/server/store/entities/people';
import {
  Client,
  letterOf,
  newSchool,
  startTestServer,
  type TestServer,
  writingPath,
} from './testing/school.js';
import { packOf } from './testing/packs.js';

let server: TestServer;
beforeAll(async () => {
  server = await startTestServer({ SCRIPTUM_DEMO: 'yes' });
});
afterAll(() => server.close());

test('the demo account is told in demo mode, and signs in', async () => {
  const client = new Client(server.running.url);
  const before = await client.get<Me>('/me');
  expect(before).toMatchObject({ staff: null, demo: { email: 'office@thistlequay.example' } });
  expect((await client.signIn(before.demo!.email, before.demo!.password)).status).toBe(200);
  expect((await client.get<Me>('/me')).staff).toMatchObject({ school: 'Thistlequay School' });
  expect(
    (await client.get<{ folios: { title: string; entries: number }[] }>('/folios')).folios,
  ).toMatchObject([
    { title: 'Bridge-design feedback', entries: 28 },
    { title: 'Year 8 spring reports', entries: 30 },
    { title: 'River survey awards' },
    { title: 'Instrument loans' },
  ]);
});

test('passwords are kept as argon2id (RFC 9106) and sessions under a hash', async () => {
  const { manager } = server.running.database;
  const [staff] = await manager.find(Staff);
  expect(staff!.passwordHash).toMatch(
    /^\$argon2id\$v=19\$m=65536,p=4,t=3\$|^\$argon2id\$v=19\$m=65536,t=3,p=4\$/,
  );
  const client = await newSchool(server);
  const sid = /^s%3A([^.]+)\./.exec(client.cookie('scriptum.sid') ?? '')?.[1];
  expect(sid).toBeTruthy();
  expect(await manager.findOneBy(SessionRow, { id: sid })).toBeNull();
});

test('the cookie is httpOnly and SameSite', async () => {
  const client = new Client(server.running.url);
  const cookie = (await client.raw('GET', '/csrf')).headers.getSetCookie()[0];
  expect(cookie).toMatch(/HttpOnly/);
  expect(cookie).toMatch(/SameSite=Strict/);
});

test('a change without the token is refused, with problem details (RFC 9457)', async () => {
  const client = new Client(server.running.url);
  const reply = await client.send<ProblemDetails>('POST', '/sign-in', {
    email: 'a@b.example',
    password: 'x',
  });
  expect(reply.status).toBe(403);
  expect(reply.type).toContain('application/problem+json');
  expect(reply.body).toMatchObject({
    type: 'urn:scriptum:problem:csrf',
    status: 403,
    code: 'csrf',
    title: expect.any(String),
    detail: expect.any(String),
  });
});

test('the session changes at sign-in, and sign-out ends it', async () => {
  const client = await newSchool(server);
  expect((await client.send('GET', '/folios')).status).toBe(200);
  expect((await client.send('POST', '/sign-out', {})).status).toBe(200);
  expect((await client.send<ProblemDetails>('GET', '/folios')).body).toMatchObject({
    status: 401,
    code: 'signed-out',
  });
});

test('wrong passwords run into the limit; another address does not', async () => {
  const client = new Client(server.running.url);
  const seen: number[] = [];
  for (let n = 0; n < 11; n++)
    seen.push((await client.signIn('guessed@saltmarsh.example', `guess ${n}`)).status);
  expect(seen.slice(0, 10).every((status) => status === 401)).toBe(true);
  expect(seen[10]).toBe(429);
  expect((await client.signIn('other@saltmarsh.example', 'guess')).status).toBe(401);
});

test('every page has a strict content security policy', async () => {
  const response = await fetch(`${server.running.url}/`);
  const policy = response.headers.get('content-security-policy') ?? '';
  expect(policy).toContain("default-src 'none'");
  expect(policy).toContain("script-src 'self';");
  expect(policy).not.toContain('unsafe');
  const nonce = /'nonce-([^']+)'/.exec(policy)?.[1];
  if (response.status === 200) expect(await response.text()).toContain(`ngcspnonce="${nonce}"`);
});

test('the description of the interface is served', async () => {
  const client = new Client(server.running.url);
  expect(await client.get('/openapi.json')).toMatchObject({
    openapi: '3.1.0',
    paths: { '/api/folios/{folioId}/runs': { post: { operationId: 'startRun' } } },
  });
});

test('what is not there is said as problem details', async () => {
  const client = await newSchool(server);
  for (const path of ['/nowhere', '/folios/aaaaaaaaaaaa', "/folios/'%20OR%201=1"]) {
    expect(await client.send('GET', path)).toMatchObject({ status: 404, body: { code: 'not-found' } });
  }
  const wrong = await client.raw('POST', '/folios', '{', { 'content-type': 'application/json' });
  expect(wrong.status).toBe(400);
  expect(await wrong.json()).toMatchObject({ code: 'json' });
  expect(await client.send('POST', '/folios', { title: '  ' })).toMatchObject({
    status: 400,
    body: { code: 'input', detail: expect.stringContaining('title') },
  });
});

test('one school sees and changes nothing of another', async () => {
  const [ours, theirs] = [await newSchool(server), await newSchool(server, 'Other School')];
  const folio = await ours.folioOf('Name,Mail\nAmara,a@families.example', { letter: ['Dear {{Name}}'] });
  await ours.press(server, folio.id);
  const { papers, run } = await ours.register(folio.id);
  const paper = papers[0]!;
  const { versions } = await ours.get<KeptVersions>(`${writingPath(folio, 'letter')}/versions`);
  const id = `/folios/${folio.id}`;
  const { pack } = await packOf(ours, folio.id, { kind: 'zip' });
  const tries: [string, string, unknown?][] = [
    ['GET', id],
    ['PATCH', id, { title: 'Taken' }],
    ['DELETE', id],
    ['PATCH', `${id}/columns/${folio.roll.columns[0]!.id}`, { title: 'X' }],
    ['POST', `${id}/writings`, { kind: 'letter', content: letterOf(folio).content }],
    ...folio.writings.flatMap((writing): [string, string, unknown?][] => {
      const at = `${id}/writings/${writing.id}`;
      return [
        ['GET', at],
        ['PUT', at, writing],
        ['DELETE', at],
        ['GET', `${at}/versions`],
        ['POST', `${at}/versions`, { name: 'Mine' }],
      ];
    }),
    ['GET', `${id}/writings/${letterOf(folio).id}/versions/${versions[0]!.id}`],
    ['POST', `${id}/proof`, { entryId: folio.roll.entries[0]!.id, template: letterOf(folio).content }],
    ['GET', `${id}/preflight`],
    ['POST', `${id}/runs`, {}],
    ['POST', `${id}/runs/${run!.id}/stop`, {}],
    ['GET', `${id}/papers`],
    ['GET', `${id}/events`],
    ['GET', `${id}/papers/${paper.id}/file`],
    ['GET', `${id}/packs`],
    ['POST', `${id}/packs`, { kind: 'zip' }],
    ['GET', `${id}/packs/${pack.id}`],
    ['GET', `${id}/packs/${pack.id}/file`],
    ['DELETE', `${id}/packs/${pack.id}`],
    ['GET', `${id}/dispatch`],
    ['POST', `${id}/dispatch`, { planId: 'x' }],
    ['POST', `${id}/messages/aaaaaaaaaaaa/again`, {}],
  ];
  for (const [method, path, body] of tries)
    expect([method, path, (await theirs.send(method, path, body)).status]).toEqual([method, path, 404]);
  expect((await theirs.bringIn(folio.id, 'x.csv', 'a\n1')).status).toBe(404);
  await theirs.send('POST', `${id}/papers/hold`, { paperIds: [paper.id], hold: true });
  expect((await ours.register(folio.id)).papers[0]).toMatchObject({ state: 'pressed' });
  expect(await ours.get(id)).toMatchObject({ title: 'Test' });
  expect((await theirs.get<{ folios: unknown[] }>('/folios')).folios).toEqual([]);
});

test('a session outlives a restart', async () => {
  const own = await startTestServer({ SCRIPTUM_PORT: '0' });
  const client = await newSchool(own);
  const cookie = client.cookie('scriptum.sid')!;
  const again = await own.restart();
  const later = new Client(again.running.url);
  later.takeCookie('scriptum.sid', cookie);
  expect((await later.get<Me>('/me')).staff).toMatchObject({ school: 'Saltmarsh School' });
  await again.close();
});
