import { jest } from '@jest/globals';
import type { Folio, Me, PictureAsset, ProblemDetails } from '@scriptum/core/contract';
import { plainPath } from '@scriptum/server/http/app';
import { plainError } from '@scriptum/server/http/plain-error';
import { AssetRow } from '@scriptum/server/store/entities/folio';
import { PaperRow } from '@scriptum/server/store/entities/register';
import { SessionRow, Staff } from '@scriptum/server/store/entities/people';
import { keepBlob } from '@scriptum/server/store/blobs';
import { newId } from '@scriptum/server/store/id';
import { SESSION_LIFE } from '@scriptum/server/store/session-store';
import argon2 from 'argon2';
import {
  Client,
  letterOf,
  newSchool,
  startTestServer,
  type TestServer,
  writingPath,
} from './testing/school.js';

let server: TestServer;
beforeAll(async () => {
  server = await startTestServer();
});
afterAll(() => server.close());
const staffOf = async (client: Client): Promise<Staff> => {
  const { staff } = await client.get<Me>('/me');
  return server.running.database.manager.findOneByOrFail(Staff, { email: staff!.email });
};

describe('guessing passwords', () => {
  test('an address with signs that cannot be seen is no address, and checks no password', async () => {
    const email = (await staffOf(await newSchool(server))).email;
    const guesser = new Client(server.running.url);
    const [name, domain] = email.split('@') as [string, string];
    // Zero-width space and joiner, soft hyphen, direction mark, byte order mark, no-break space, variation selector.
    for (const sign of ['\u200b', '\u200d', '\u00ad', '\u200e', '\ufeff', '\u00a0', '\ufe0f', '\u0000', '\t'])
      expect((await guesser.signIn(`${name}${sign}@${domain}`, 'correct horse')).status).toBe(400);
    // Letters that the database would once take for the same: another width, an accent, capitals of another alphabet.
    for (const other of [
      `${name.replace(/[a-z]/, (letter) => String.fromCharCode(letter.charCodeAt(0) + 0xfee0))}@${domain}`,
      `${name}@SALTMÁRSH.example`,
    ])
      expect((await guesser.signIn(other, 'correct horse')).status).toBe(401);
    expect((await guesser.signIn(`  ${email.toUpperCase()} `, 'correct horse')).status).toBe(200);
  });

  test('wrong passwords for one account are counted from wherever they come, on all servers', async () => {
    const own = await startTestServer({ SCRIPTUM_TRUST_PROXY: '1' });
    const { email } = await (async () => {
      const client = await newSchool(own);
      return (await client.get<Me>('/me')).staff!;
    })();
    const from = async (address: string, password: string, at = own): Promise<number> => {
      const client = new Client(at.running.url);
      await client.takeToken();
      const headers = { 'content-type': 'application/json', 'x-forwarded-for': address };
      return (await client.raw('POST', '/sign-in', JSON.stringify({ email, password }), headers)).status;
    };
    const tries: number[] = [];
    for (let n = 0; n < 10; n++) tries.push(await from(`203.0.113.${n}`, `guess ${n}`));
    expect(tries.every((status) => status === 401)).toBe(true);
    expect(await from('203.0.113.99', 'guess')).toBe(429);
    // Another server on the same database, or the same one started anew, counts on.
    const again = await own.restart();
    expect(await from('203.0.113.98', 'guess', again)).toBe(429);
    await again.close();
  });

  test('wrong passwords from one network address are counted over all accounts', async () => {
    const own = await startTestServer();
    const client = new Client(own.running.url);
    const seen: number[] = [];
    for (let n = 0; n < 62; n++)
      seen.push((await client.signIn(`nobody${n}@saltmarsh.example`, 'guess')).status);
    expect(seen.slice(0, 60).every((status) => status === 401)).toBe(true);
    expect(seen.slice(60)).toEqual([429, 429]);
    await own.close();
  });

  test('many passwords at a time: few are checked at once, and not many wait', async () => {
    const own = await startTestServer();
    const clients = await Promise.all(
      Array.from({ length: 50 }, async () => {
        const client = new Client(own.running.url);
        await client.takeToken();
        return client;
      }),
    );
    let most = 0;
    let now = 0;
    const verify = jest.spyOn(argon2, 'verify').mockImplementation(async () => {
      most = Math.max(most, ++now);
      await new Promise((resolve) => setTimeout(resolve, 20));
      now--;
      return false;
    });
    const statuses = await Promise.all(
      clients.map(
        async (client, n) =>
          (await client.send('POST', '/sign-in', { email: `n${n}@saltmarsh.example`, password: 'x' })).status,
      ),
    );
    verify.mockRestore();
    expect(most).toBeLessThanOrEqual(2);
    expect(new Set(statuses)).toEqual(new Set([401, 503]));
    await own.close();
  });

  test('from people who are not signed in only a little is read', async () => {
    const client = new Client(server.running.url);
    await client.takeToken();
    const body = { email: 'x'.repeat(4_000_000), password: 'x' };
    expect((await client.send('POST', '/sign-in', body)).status).toBe(413);
    expect((await client.send('POST', '/sign-in', { email: 'x'.repeat(300), password: 'x' })).status).toBe(
      400,
    );
  });
});

describe('sessions', () => {
  const count = (): Promise<number> => server.running.database.manager.count(SessionRow);

  test('who is not signed in has none', async () => {
    const before = await count();
    const client = new Client(server.running.url);
    await client.takeToken();
    await client.get('/me');
    await client.signIn('nobody@saltmarsh.example', 'guess');
    expect(client.cookie('scriptum.sid')).toBeUndefined();
    expect(await count()).toBe(before);
  });

  test('who is gone from the school is signed out at once; a move to another school counts at once', async () => {
    const [leaver, mover, other] = [
      await newSchool(server),
      await newSchool(server),
      await newSchool(server, 'Other'),
    ];
    const { manager } = server.running.database;
    await manager.delete(Staff, { id: (await staffOf(leaver)).id });
    expect((await leaver.send('GET', '/folios')).status).toBe(401);
    const { schoolId } = await staffOf(other);
    await manager.update(Staff, { id: (await staffOf(mover)).id }, { schoolId });
    expect((await mover.get<Me>('/me')).staff).toMatchObject({ school: 'Other' });
  });

  test('one that is not used, or is too old, has ended; sweeping takes it out', async () => {
    const { manager } = server.running.database;
    const [idle, old] = [await newSchool(server), await newSchool(server)];
    const ended = new Date(Date.now() - 1000);
    await manager.update(SessionRow, { staffId: (await staffOf(idle)).id }, { expiresAt: ended });
    const begun = new Date(Date.now() - SESSION_LIFE.whole - 1000);
    await manager.update(SessionRow, { staffId: (await staffOf(old)).id }, { startedAt: begun });
    for (const client of [idle, old]) expect((await client.send('GET', '/folios')).status).toBe(401);
  });

  test('signing out everywhere ends all sessions of this person, and nobody else’s', async () => {
    const here = await newSchool(server);
    const { email } = await staffOf(here);
    const there = new Client(server.running.url);
    await there.signIn(email, 'correct horse');
    const someone = await newSchool(server);
    expect((await here.send('POST', '/sign-out-everywhere', {})).status).toBe(200);
    for (const client of [here, there]) expect((await client.send('GET', '/folios')).status).toBe(401);
    expect((await someone.send('GET', '/folios')).status).toBe(200);
  });

  test('a session has a few streams of news; the oldest gives way, and all end at sign-out', async () => {
    const client = await newSchool(server);
    const folio = await client.folioOf('Name\nA', { letter: ['{{Name}}'] });
    const open = async (): Promise<{ ended: Promise<void> }> => {
      const response = await client.raw('GET', `/folios/${folio.id}/events`);
      expect(response.status).toBe(200);
      const reader = response.body!.getReader();
      const ended = (async () => {
        while (!(await reader.read()).done);
      })();
      return { ended };
    };
    const streams = [];
    for (let n = 0; n < 8; n++) streams.push(await open());
    await Promise.all(streams.slice(0, 2).map(({ ended }) => ended));
    await client.send('POST', '/sign-out', {});
    await Promise.all(streams.map(({ ended }) => ended));
  });

  test('behind a proxy that speaks HTTPS people sign in with secure cookies', async () => {
    const own = await startTestServer({ SCRIPTUM_SECURE_COOKIES: 'yes', SCRIPTUM_TRUST_PROXY: 'loopback' });
    const school = await newSchool(own).catch(() => null);
    const { manager } = own.running.database;
    const [staff] = await manager.find(Staff);
    const client = new Client(own.running.url);
    const https = { 'x-forwarded-proto': 'https', 'content-type': 'application/json' };
    const { token } = (await (await client.raw('GET', '/csrf', undefined, https)).json()) as {
      token: string;
    };
    const reply = await client.raw(
      'POST',
      '/sign-in',
      JSON.stringify({ email: staff!.email, password: 'correct horse' }),
      { ...https, 'x-csrf-token': token },
    );
    expect(reply.status).toBe(200);
    expect(reply.headers.getSetCookie().join()).toMatch(/scriptum\.sid=[^;]+;.*Secure/i);
    expect((await client.raw('GET', '/folios', undefined, https)).status).toBe(200);
    expect(school).not.toBeNull();
    await own.close();
  });
});

describe('odd requests', () => {
  let client: Client;
  let folio: Folio;
  beforeAll(async () => {
    client = await newSchool(server);
    folio = await client.folioOf('Name,Mail\nA,a@families.example', { letter: ['Dear {{Name}}'] });
  });
  const saveLetter = (letter: unknown) =>
    client.send<ProblemDetails>('PUT', writingPath(folio, 'letter'), {
      version: letterOf(folio).version,
      kind: 'letter',
      content: letter,
    });

  test.each(['__proto__', 'constructor', 'toString', 'hasOwnProperty'])(
    '“%s” is no identity of a field or a column',
    async (id) => {
      const field = { id, name: 'F', columnId: folio.roll.columns[0]!.id };
      expect((await saveLetter({ ...letterOf(folio).content, fields: [field] })).status).toBe(400);
      const filled = { id: 'f', name: 'F', columnId: id };
      expect((await saveLetter({ ...letterOf(folio).content, fields: [filled] })).status).toBe(400);
      const [first] = folio.roll.columns;
      const column = { id, title: 'Odd' };
      for (const patch of [
        { columns: [{ do: 'add', column, behind: null }] },
        { columns: [{ do: 'add', column: { ...column, id: 'odd' }, behind: id }] },
        { columns: [{ do: 'set', column, was: first }] },
        { columns: [{ do: 'set', column: first, was: column }] },
        { columns: [{ do: 'remove', was: column }] },
        { columns: [{ do: 'move', columnId: id, behind: null }] },
        { cells: [{ entryId: folio.roll.entries[0]!.id, columnId: id, text: 'x' }] },
      ])
        expect((await client.send('PATCH', `/folios/${folio.id}/roll`, patch)).status).toBe(400);
      expect((await client.get<Folio>(`/folios/${folio.id}`)).roll.columns).toEqual(folio.roll.columns);
    },
  );

  test('“__proto__” as a key is refused, wherever it stands', async () => {
    const odd = JSON.stringify({ version: 1, kind: 'letter', content: letterOf(folio).content }).replace(
      '"kind"',
      '"__proto__":{"a":1},"kind"',
    );
    const reply = await client.raw('PUT', writingPath(folio, 'letter'), odd, {
      'content-type': 'application/json',
    });
    expect(reply.status).toBe(400);
    const patch = await client.raw(
      'PATCH',
      `/folios/${folio.id}/roll`,
      '{"cells":[],"__proto__":{"key":[]}}',
    );
    expect(patch.status).toBe(400);
  });

  test.each([13, 600, 40_000])(
    'lists in lists %d deep are refused as not valid, also by the proof',
    async (deep) => {
      const inner = '{"type":"paragraph"}';
      const open = '{"type":"bulletList","content":[{"type":"listItem","content":[';
      const body = `${open.repeat(deep)}${inner}${']}]}'.repeat(deep)}`;
      const letter = JSON.stringify({
        ...letterOf(folio).content,
        body: { type: 'doc', content: ['@'] },
      }).replace('"@"', body);
      const headers = { 'content-type': 'application/json' };
      const save = await client.raw(
        'PUT',
        writingPath(folio, 'letter'),
        `{"version":1,"kind":"letter","content":${letter}}`,
        headers,
      );
      expect(save.status).toBe(400);
      const proof = await client.raw(
        'POST',
        `/folios/${folio.id}/proof`,
        `{"entryId":null,"template":${letter}}`,
        headers,
      );
      expect(proof.status).toBe(400);
    },
  );

  test('an identity in the address that is none is not there', async () => {
    for (const id of ['%E2%80%8B', 'é', '😀', "a'b", '..%2f..', 'A'.repeat(500)])
      expect((await client.send('GET', `/folios/${id}`)).status).toBe(404);
  });

  test('holding papers of another school, or of another folio, answers that they are not there', async () => {
    await client.press(server, folio.id);
    const [paper] = (await client.register(folio.id)).papers;
    const hold = { paperIds: [paper!.id], hold: true };
    const theirs = await newSchool(server, 'Other');
    expect((await theirs.send('POST', `/folios/${folio.id}/papers/hold`, hold)).status).toBe(404);
    const own = await theirs.folioOf('Name\nB', { letter: ['{{Name}}'] });
    expect((await theirs.send('POST', `/folios/${own.id}/papers/hold`, hold)).status).toBe(404);
    const row = await server.running.database.manager.findOneByOrFail(PaperRow, { id: paper!.id });
    expect(row.state).toBe('pressed');
  });

  test('a drawing that asks for something outside itself is refused at the door, and not printed if it is in already', async () => {
    const drawing = (inner: string): string =>
      `<svg xmlns="http://www.w3.org/2000/svg" width="40" height="40">${inner}</svg>`;
    const add = (svg: string) =>
      client.raw('POST', `/folios/${folio.id}/assets?name=x.svg`, svg, { 'content-type': 'image/svg+xml' });
    const refused = await add(drawing('<image href="1"/>'));
    expect(refused.status).toBe(422);
    expect(((await refused.json()) as ProblemDetails).code).toBe('svg-reference');
    expect((await add(drawing('<g>'.repeat(200) + '</g>'.repeat(200)))).status).toBe(422);
    const kept = (await (await add(drawing('<rect width="9" height="9"/>'))).json()) as PictureAsset;
    expect(kept.mime).toBe('image/svg+xml');
    // As one that was taken before there was a check.
    const { manager } = server.running.database;
    const row = await manager.findOneByOrFail(AssetRow, { id: kept.id });
    const blobHash = await keepBlob(
      manager,
      row.schoolId,
      Buffer.from(drawing('<image href="../assets/1"/>')),
    );
    const asset = { ...row, id: newId(), blobHash };
    await manager.insert(AssetRow, asset);
    const content = [{ type: 'picture', attrs: { asset: asset.id, width: 50, align: 'left', alt: '' } }];
    const letter = { ...letterOf(folio).content, body: { type: 'doc', content } };
    expect(
      (await client.send('POST', `/folios/${folio.id}/proof`, { entryId: null, template: letter })).status,
    ).toBe(200);
  });

  test('a picture of more pixels than can be drawn is refused by its head alone', async () => {
    const png = Buffer.alloc(64);
    Buffer.from('89504e470d0a1a0a0000000d49484452', 'hex').copy(png);
    png.writeUInt32BE(60_000, 16);
    png.writeUInt32BE(60_000, 20);
    png.set([8, 6, 0, 0, 0], 24);
    const reply = await client.raw('POST', `/folios/${folio.id}/assets?name=x.png`, png);
    expect(await reply.json()).toMatchObject({ code: 'picture-large' });
  });
});

test('a statement that failed is logged without what people typed', async () => {
  const { database } = server.running;
  const error = await database
    .query('INSERT INTO school (id, name, createdAt) VALUES (?, ?, ?)', ['x', 'Wilhelmina'.repeat(60), 'now'])
    .then(() => null)
    .catch((caught: unknown) => caught);
  const logged = JSON.stringify(plainError(error));
  expect(logged).not.toContain('Wilhelmina');
  expect(logged).not.toContain('INSERT');
  expect(plainError(error)).toMatchObject({
    code: expect.stringMatching(/^ER_/),
    stack: expect.stringContaining('at '),
  });
  const twice = await database
    .query("INSERT INTO school (id, name, createdAt) SELECT id, 'Ottoline', createdAt FROM school LIMIT 1")
    .catch((caught: unknown) => caught);
  expect(JSON.stringify(plainError(twice))).not.toMatch(/Ottoline|Duplicate/);
  expect(plainError(new Error('a plain one'))).toMatchObject({ message: 'a plain one' });
});

test('links that are as good as a password stand in no log', () => {
  expect(
    [
      '/p/abc123',
      '/p/abc123/papers/2?x=1',
      '/y/abc-def',
      '/f/abc/change/def/form',
      '/f/abc/for/def/answers',
      '/f/abc/form',
    ].map(plainPath),
  ).toEqual(['/p/…', '/p/…/papers/2', '/y/…', '/f/abc/change/…/form', '/f/abc/for/…/answers', '/f/abc/form']);
});
