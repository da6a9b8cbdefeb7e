import { createHash } from 'node:crypto';
import { mkdir, mkdtemp, rename, rm, symlink, utimes, writeFile } from 'node:fs/promises';
import { createServer, type IncomingMessage, type Server, type ServerResponse } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import path from 'node:path';
import type {
  Folio,
  FolioSummary,
  OrderNext,
  OrderWorkList,
  ProblemDetails,
  WatchedFile,
  WatchedList,
  WatchPlace,
} from '@scriptum/core/contract';
import { emptyOrder, type Order } from '@scriptum/core/order';
import { writeSheet } from '@scriptum/core/workbook';
import { takeNewer } from '@scriptum/server/watch/take-newer';
import { keepBlob } from '@scriptum/server/store/blobs';
import { WatchedRow } from '@scriptum/server/store/entities/watched';
import { newId } from '@scriptum/server/store/id';
import { newSchool, startTestServer, type Client, type TestServer } from './testing/school.js';

/** A web server of a school, whose files lie in memory. */
class FileServer {
  readonly files = new Map<string, { body: Buffer; tag?: string; type?: string }>();
  readonly asked: { path: string; authorization?: string; status: number }[] = [];
  /** Answers in another way than with a file. */
  other: ((request: IncomingMessage, response: ServerResponse) => boolean) | null = null;
  private readonly server: Server;

  constructor() {
    this.server = createServer((request, response) => {
      const file = this.files.get(request.url!);
      if (this.other?.(request, response)) return;
      const same = file?.tag !== undefined && request.headers['if-none-match'] === file.tag;
      response.statusCode = !file ? 404 : same ? 304 : 200;
      if (file?.tag) response.setHeader('etag', file.tag);
      this.asked.push({
        path: request.url!,
        status: response.statusCode,
        ...(request.headers.authorization ? { authorization: request.headers.authorization } : {}),
      });
      response.end(file && !same ? file.body : '');
    });
  }

  async listen(): Promise<string> {
    await new Promise<void>((resolve) => this.server.listen(0, '127.0.0.1', resolve));
    return `http://127.0.0.1:${(this.server.address() as AddressInfo).port}`;
  }

  async close(): Promise<void> {
    this.server.closeAllConnections();
    await new Promise((resolve) => this.server.close(resolve));
  }
}

let server: TestServer;
let client: Client;
let root: string;
let folder: string;
const web = new FileServer();
const elsewhere = new FileServer();
let origin: string;
let otherOrigin: string;
beforeAll(async () => {
  root = await mkdtemp(path.join(tmpdir(), 'scriptum-watch-'));
  [origin, otherOrigin] = await Promise.all([web.listen(), elsewhere.listen()]);
  server = await startTestServer({
    SCRIPTUM_WATCH_FOLDER: path.join(root, 'watched'),
    SCRIPTUM_WATCH_ADDRESSES: origin,
  });
  client = await newSchool(server);
  folder = path.join(root, 'watched', await schoolOf((await made()).id));
  await mkdir(folder, { recursive: true });
});
afterAll(async () => {
  await server.close();
  await Promise.all([web.close(), elsewhere.close()]);
  await rm(root, { recursive: true, force: true });
});

const list = (rows: readonly string[]): string => ['Number,Name,Email,Mark', ...rows, ''].join('\n');
const FIRST = ['S1,Ada,ada@home.example,5', 'S2,Bo,bo@home.example,6', 'S3,Cy,cy@home.example,7'];
const NEWER = [
  'S1,Ada,ada@home.example,9',
  'S2,Bo,bo@home.example,6',
  'S3,Cy,cy@home.example,7',
  'S4,Di,di@home.example,8',
];

const schoolOf = async (folioId: string): Promise<string> =>
  (
    await server.running.database.query<{ schoolId: string }[]>('SELECT schoolId FROM folio WHERE id = ?', [
      folioId,
    ])
  )[0]!.schoolId;

async function made(by = client, sheet = list(FIRST)): Promise<Folio> {
  const { body } = await by.send<{ id: string }>('POST', '/folios', { title: 'Marks' });
  return (await by.bringIn(body.id, 'marks.csv', sheet)).body;
}

/** Watches the folio's first source there. */
async function watch(
  folio: Folio,
  place: WatchPlace,
  more: object = {},
  by = client,
): Promise<{ status: number; body: WatchedList & ProblemDetails }> {
  const asked = { id: newId(), sourceId: folio.sources[0]!.id, place, ...more };
  return by.send('POST', `/folios/${folio.id}/watched`, asked);
}
const nowOf = async (folio: Folio, by = client): Promise<WatchedFile> =>
  (await by.get<WatchedList>(`/folios/${folio.id}/watched`)).files[0]!;
async function until(folio: Folio, holds: (file: WatchedFile) => boolean): Promise<WatchedFile> {
  for (;;) {
    const file = await nowOf(folio);
    if (holds(file)) return file;
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
}
/** Has it looked at again, and waits until it was, and what was seen has settled. */
async function looked(folio: Folio): Promise<WatchedFile> {
  const { id } = await nowOf(folio);
  expect((await client.send('POST', `/folios/${folio.id}/watched/${id}/look`)).status).toBe(200);
  return seen(folio);
}
/** Waits until nothing is to be looked at soon. */
const seen = (folio: Folio): Promise<WatchedFile> =>
  until(
    folio,
    ({ nextAt, lookedAt }) => lookedAt !== null && new Date(nextAt!).getTime() > Date.now() + 20_000,
  );
const rollOf = async (folio: Folio): Promise<Folio> => client.get<Folio>(`/folios/${folio.id}`);
const marksOf = ({ roll }: Folio): string[] => {
  const [, name, , mark] = roll.columns.map(({ id }) => id) as [string, string, string, string];
  return roll.entries.map(
    ({ values, leftOut }) => `${values[name]} ${values[mark] ?? ''}${leftOut === undefined ? '' : ' out'}`,
  );
};

describe.each(['folder', 'web'] as const)('a file in a %s', (kind) => {
  const placeFor = (name: string): WatchPlace =>
    kind === 'folder' ? { kind, path: name } : { kind, url: `${origin}/${name}`, user: '' };
  const put = async (name: string, bytes: string | Uint8Array): Promise<void> => {
    if (kind === 'folder') await writeFile(path.join(folder, name), bytes);
    else
      web.files.set(`/${name}`, {
        body: Buffer.from(bytes),
        tag: `"${createHash('sha256').update(bytes).digest('hex').slice(0, 12)}"`,
      });
  };

  test('is read as a newer version: what is new is new, what is there is not done again, a mend stays', async () => {
    const name = `${newId()}.csv`;
    await put(name, list(FIRST));
    const folio = await made();
    const mark = folio.roll.columns[3]!.id;
    const bo = folio.roll.entries[1]!.id;
    expect(
      (
        await client.send('PATCH', `/folios/${folio.id}/roll`, {
          cells: [{ entryId: bo, columnId: mark, text: '10' }],
        })
      ).status,
    ).toBe(200);
    expect((await watch(folio, placeFor(name))).status).toBe(200);
    // The same as on the roll already.
    expect(await seen(folio)).toMatchObject({ took: null, fault: null, waits: null, source: 'marks.csv' });
    expect((await rollOf(folio)).sources[0]!.broughtInAt).toBe(folio.sources[0]!.broughtInAt);

    await put(name, list(NEWER));
    expect(await looked(folio)).toMatchObject({
      took: { name, added: 1, changed: 1, missing: 0 },
      fault: null,
      waits: null,
    });
    const after = await rollOf(folio);
    expect(marksOf(after)).toEqual(['Ada 9', 'Bo 10', 'Cy 7', 'Di 8']);
    expect(after.roll.entries.slice(0, 3).map(({ id }) => id)).toEqual(
      folio.roll.entries.map(({ id }) => id),
    );
    expect(after.earlier?.what).toBe(`the newer version ${name}`);

    // As a workbook, with one learner fewer.
    const cells = NEWER.slice(1).map((row) => row.split(',').map((text) => ({ text })));
    await put(name, writeSheet('ods', 'Marks', ['Number', 'Name', 'Email', 'Mark'], cells));
    expect(await looked(folio)).toMatchObject({ took: { missing: 1 } });
    expect(marksOf(await rollOf(folio))).toEqual(['Bo 10', 'Cy 7', 'Di 8', 'Ada 9 out']);
  });
});

describe('what had better be looked at', () => {
  test('a list that was cut off waits for a person, and nobody is left out', async () => {
    const name = `${newId()}.csv`;
    const many = Array.from({ length: 40 }, (_, n) => `S${n},Name ${n},n${n}@home.example,${n}`);
    const folio = await made(client, list(many));
    await writeFile(path.join(folder, name), list(many.slice(0, 4)));
    await watch(folio, { kind: 'folder', path: name });
    const file = await seen(folio);
    expect(file).toMatchObject({
      took: null,
      fault: null,
      waits: { name, says: '36 of 40 learners are not in it.' },
    });
    expect((await rollOf(folio)).roll.entries.every(({ leftOut }) => leftOut === undefined)).toBe(true);
    const onFront = async (): Promise<number> =>
      (await client.get<{ folios: FolioSummary[] }>('/folios')).folios.find(({ id }) => id === folio.id)!
        .filesWait;
    expect(await onFront()).toBe(1);
    expect(await looked(folio)).toMatchObject({ waits: { name } });

    // Somebody looks at it and takes it over by hand.
    const version = await client.raw('GET', `/folios/${folio.id}/watched/${file.id}/version`);
    const bytes = Buffer.from(await version.arrayBuffer());
    expect(bytes.toString()).toBe(list(many.slice(0, 4)));
    const kept = await client.raw('POST', `/folios/${folio.id}/files`, bytes, { 'content-type': 'text/csv' });
    const { fileId } = (await kept.json()) as { fileId: string };
    const as = { kind: 'refresh', sourceId: folio.sources[0]!.id };
    expect((await client.send('POST', `/folios/${folio.id}/roll`, { fileId, name, as })).status).toBe(200);
    expect(await nowOf(folio)).toMatchObject({ waits: null });
    expect(await onFront()).toBe(0);
    // From then on the shorter list is what newer ones are compared with.
    await writeFile(path.join(folder, name), list(many.slice(0, 5)));
    expect(await looked(folio)).toMatchObject({ waits: null, took: { added: 0, missing: 0 } });
  });

  test.each([
    [
      'no sheet at all',
      Buffer.from([0x50, 0x4b, 3, 4, 9, 9, 9, 9, 1, 2, 3]),
      /cannot be read|not a|damaged|broken/i,
    ],
    ['an empty file', Buffer.alloc(0), /empty/i],
    ['another sheet', Buffer.from('Room,Size\nA1,20\nA2,30\n'), /none of the columns of the version before/],
    ['a column fewer', Buffer.from(list(FIRST).replaceAll(/,[^,\n]*\n/g, '\n')), /lacks the column “Mark”/],
  ])('%s waits with a sentence, and the roll stays', async (_, bytes, says) => {
    const name = `${newId()}.csv`;
    const folio = await made();
    await writeFile(path.join(folder, name), bytes);
    await watch(folio, { kind: 'folder', path: name });
    const file = await seen(folio);
    expect(file.fault).toBeNull();
    expect(file.waits?.says).toMatch(says);
    expect(marksOf(await rollOf(folio))).toEqual(['Ada 5', 'Bo 6', 'Cy 7']);
  });

  test('a newer version of a joined sheet is joined as before', async () => {
    const name = `${newId()}.csv`;
    const folio = await made();
    const houses = 'Number,House\nS1,Heron\nS2,Otter\n';
    const kept = await client.raw('POST', `/folios/${folio.id}/files`, houses, {
      'content-type': 'text/csv',
    });
    const { fileId } = (await kept.json()) as { fileId: string };
    const join = { left: [folio.roll.columns[0]!.id], right: ['Number'], shape: 'columns' };
    const { body: joined } = await client.send<Folio>('POST', `/folios/${folio.id}/roll`, {
      fileId,
      name: 'houses.csv',
      as: { kind: 'join', join },
    });
    const sourceId = joined.sources.find(({ kind }) => kind === 'joined')!.id;
    await writeFile(path.join(folder, name), 'Number,House\nS1,Heron\nS2,Plover\nS3,Plover\n');
    await watch(folio, { kind: 'folder', path: name }, { sourceId });
    expect(await seen(folio)).toMatchObject({ took: { added: 0, changed: 2, missing: 0 }, waits: null });
    const { roll } = await rollOf(folio);
    const house = roll.columns.at(-1)!;
    expect(house.title).toBe('House');
    expect(roll.entries.map(({ values }) => values[house.id])).toEqual(['Heron', 'Plover', 'Plover']);
  });
});

describe('in a folder', () => {
  test('the newest of files that are called alike counts; what programs put beside them does not', async () => {
    const folio = await made();
    const sub = path.join(folder, 'Exports');
    await mkdir(sub, { recursive: true });
    const at = async (name: string, rows: readonly string[], time: number): Promise<void> => {
      await writeFile(path.join(sub, name), list(rows));
      await utimes(path.join(sub, name), time, time);
    };
    await at('marks-1.csv', FIRST, 1_700_000_000);
    await at('marks-2.csv', NEWER, 1_700_000_100);
    await at('~$marks-3.csv', [], 1_700_000_200);
    await at('marks-4.csv.part', [], 1_700_000_200);
    await at('other.csv', [], 1_700_000_200);
    await watch(folio, { kind: 'folder', path: 'Exports/marks-*.csv' });
    expect(await seen(folio)).toMatchObject({ took: { name: 'marks-2.csv', added: 1 } });
    const { there } = await client.get<WatchedList>(`/folios/${folio.id}/watched`);
    expect(there).toEqual(
      expect.arrayContaining(['Exports/marks-1.csv', 'Exports/marks-2.csv', 'Exports/other.csv']),
    );
    expect(there).not.toContain('Exports/~$marks-3.csv');
  });

  test('a file that is still being written is read once it stays as it is', async () => {
    // So many that a part of it would not be taken either, however slow this machine is.
    const many = Array.from({ length: 20 }, (_, n) => `S${n},Name ${n},n${n}@home.example,${n}`);
    const folio = await made(client, list(many));
    const name = `${newId()}.csv`;
    await writeFile(path.join(folder, name), list(many.slice(0, 1)));
    await watch(folio, { kind: 'folder', path: name });
    // Each time it was looked at it is a little longer.
    for (const length of [2, 3]) {
      const { lookedAt } = await nowOf(folio);
      await until(folio, (file) => file.lookedAt !== lookedAt);
      await writeFile(path.join(folder, name), list(many.slice(0, length)));
    }
    const whole = ['S0,Name 0,n0@home.example,99', ...many.slice(1), 'S20,New,new@home.example,1'];
    await writeFile(path.join(folder, `${name}.part`), list(whole));
    await rename(path.join(folder, `${name}.part`), path.join(folder, name));
    const file = await until(folio, ({ took }) => took !== null);
    expect(file).toMatchObject({ took: { added: 1, changed: 1, missing: 0 }, waits: null });
  });

  test('nothing outside of it is read', async () => {
    const folio = await made();
    const secret = path.join(root, 'secret.csv');
    await writeFile(secret, list(NEWER));
    const other = path.join(root, 'watched', 'anotherschool');
    await mkdir(other, { recursive: true });
    await writeFile(path.join(other, 'theirs.csv'), list(NEWER));
    for (const to of [
      '../anotherschool/theirs.csv',
      '/etc/../../etc/passwd',
      'a/../../secret.csv',
      'C:\\x.csv',
      '',
      '..',
      'a*/b.csv',
    ])
      expect([to, (await watch(folio, { kind: 'folder', path: to })).status]).toEqual([to, 400]);
    await symlink(secret, path.join(folder, 'link.csv'));
    await symlink(other, path.join(folder, 'theirs'));
    await watch(folio, { kind: 'folder', path: 'link.csv' });
    expect((await seen(folio)).fault).toBe('What lies there is a link to elsewhere, and is not read.');
    const { id } = await nowOf(folio);
    const faultAt = async (to: string): Promise<string | null> => {
      const change = { place: { kind: 'folder', path: to } };
      expect((await client.send('PATCH', `/folios/${folio.id}/watched/${id}`, change)).status).toBe(200);
      return (await looked(folio)).fault;
    };
    expect(await faultAt('theirs/theirs.csv')).toBe(
      'What lies there is a link to elsewhere, and is not read.',
    );
    expect(await faultAt('theirs/*.csv')).toBe('What lies there is a link to elsewhere, and is not read.');
    expect(await faultAt('absent.csv')).toBe('There is no file “absent.csv” in the folder.');
    expect(await faultAt('no/where/*.csv')).toBe('There is no folder “no/where”.');
    expect(await faultAt('nothing*.csv')).toBe('There is no file like “nothing*.csv” in the folder.');
    expect(marksOf(await rollOf(folio))).toEqual(['Ada 5', 'Bo 6', 'Cy 7']);
    // Absolute paths lie below the folder too.
    expect(await faultAt('etc/passwd')).toBe('There is no file “etc/passwd” in the folder.');
  });
});

describe('at an address', () => {
  test('only those that are allowed, also where it leads on to', async () => {
    const folio = await made();
    expect((await watch(folio, { kind: 'web', url: `${otherOrigin}/x.csv`, user: '' })).body.detail).toBe(
      `Files may not be read from this address. Allowed are: ${origin}. Whoever looks after Scriptum can allow others (SCRIPTUM_WATCH_ADDRESSES).`,
    );
    for (const url of [
      'http://127.0.0.1:1/x.csv',
      'file:///etc/passwd',
      `http://user:word@${new URL(origin).host}/x.csv`,
      'ftp://x.example/a',
    ])
      expect((await watch(folio, { kind: 'web', url, user: '' })).status).toBeGreaterThanOrEqual(400);
    web.other = (request, response) => {
      if (request.url === '/loop.csv') response.writeHead(302, { location: '/loop.csv' }).end();
      else if (request.url === '/away.csv')
        response.writeHead(302, { location: `${otherOrigin}/x.csv` }).end();
      else if (request.url === '/on.csv') response.writeHead(307, { location: '/there.csv' }).end();
      else return false;
      return true;
    };
    elsewhere.files.set('/x.csv', { body: Buffer.from(list(NEWER)) });
    web.files.set('/there.csv', { body: Buffer.from(list(NEWER)) });
    await watch(folio, { kind: 'web', url: `${origin}/away.csv`, user: 'office', password: 'secret' });
    expect((await seen(folio)).fault).toBe(`The address leads on to ${otherOrigin}, which is not allowed.`);
    expect(elsewhere.asked).toEqual([]);
    const { id } = await nowOf(folio);
    const at = async (name: string): Promise<WatchedFile> => {
      const place = { kind: 'web', url: `${origin}/${name}`, user: 'office' };
      expect((await client.send('PATCH', `/folios/${folio.id}/watched/${id}`, { place })).status).toBe(200);
      return looked(folio);
    };
    expect((await at('loop.csv')).fault).toBe('The address leads on and on.');
    expect((await at('none.csv')).fault).toBe(
      'The address gives no file: it answered 404. There is no such file.',
    );
    expect(await at('on.csv')).toMatchObject({ fault: null, took: { added: 1 } });
    web.other = null;
  });

  test('a name and password are sent, kept sealed and never told; what is the same is not sent again', async () => {
    const folio = await made();
    web.files.set('/kept.csv', { body: Buffer.from(list(NEWER)), tag: '"v1"' });
    const place: WatchPlace = {
      kind: 'web',
      url: `${origin}/kept.csv`,
      user: 'office',
      password: 'tide & chalk',
    };
    const { body } = await watch(folio, place);
    expect(JSON.stringify(body)).not.toContain('tide & chalk');
    expect(body.files[0]!.place).toEqual({ kind: 'web', url: place.url, user: 'office', hasPassword: true });
    await seen(folio);
    await client.send('PATCH', `/folios/${folio.id}/watched/${body.files[0]!.id}`, { everyMinutes: 1 });
    await until(folio, ({ everyMinutes }) => everyMinutes === 1);
    const rows = await server.running.database.query<{ all: string }[]>(
      'SELECT CONCAT_WS(" ", place, sealedPassword) AS `all` FROM watched_file WHERE folioId = ?',
      [folio.id],
    );
    expect(rows[0]!.all).not.toContain('tide & chalk');
    const asked = (): typeof web.asked => web.asked.filter((one) => one.path === '/kept.csv');
    const { lookedAt } = await nowOf(folio);
    if (asked().length < 2) await until(folio, (file) => file.lookedAt !== lookedAt);
    // RFC 7617, 2: the name, a colon and the password, in Base64.
    const authorization = `Basic ${Buffer.from('office:tide & chalk').toString('base64')}`;
    expect(asked().slice(0, 2)).toEqual([
      { path: '/kept.csv', status: 200, authorization },
      // RFC 9110, 13.1.2 and 15.4.5.
      { path: '/kept.csv', status: 304, authorization },
    ]);
  });

  test('what is too large, breaks off or cannot be reached is told', async () => {
    const folio = await made();
    web.other = (request, response) => {
      if (request.url === '/large.csv') {
        response.writeHead(200);
        const more = (): void => {
          while (!response.destroyed && response.write(Buffer.alloc(1024 * 1024, 'a,b\n')));
        };
        response.on('drain', more);
        more();
      } else if (request.url === '/broken.csv') {
        response.writeHead(200, { 'content-length': 1000 });
        response.write('Number,Name\n');
        setTimeout(() => response.destroy(), 20);
      } else return false;
      return true;
    };
    await watch(folio, { kind: 'web', url: `${origin}/large.csv`, user: '' });
    expect((await seen(folio)).fault).toMatch(/^The file is larger than \d+ MB\./);
    const { id } = await nowOf(folio);
    const place = { kind: 'web', url: `${origin}/broken.csv`, user: '' };
    await client.send('PATCH', `/folios/${folio.id}/watched/${id}`, { place });
    expect((await looked(folio)).fault).toMatch(/^The address cannot be reached, or its answer broke off\./);
    expect(marksOf(await rollOf(folio))).toEqual(['Ada 5', 'Bo 6', 'Cy 7']);
    web.other = null;
  });
});

describe('whatever happens', () => {
  const take = async (folio: Folio, rows: readonly string[]): Promise<boolean[]> => {
    const { manager } = server.running.database;
    const schoolId = await schoolOf(folio.id);
    const blobHash = await keepBlob(manager, schoolId, Buffer.from(list(rows)));
    const watchedId = (await manager.findOneByOrFail(WatchedRow, { folioId: folio.id })).id;
    const one = () =>
      server.running.rolls.do('takeNewer', {
        schoolId,
        folioId: folio.id,
        watchedId,
        version: { name: 'x.csv', blobHash, stamp: null },
      });
    return (await Promise.all([one(), one(), one()])).map(({ changed }) => changed);
  };
  const off = async (): Promise<Folio> => {
    const folio = await made();
    await watch(folio, { kind: 'folder', path: 'not there.csv' });
    await seen(folio);
    return folio;
  };

  test('several servers that look at the same time take a version once', async () => {
    const folio = await off();
    expect((await take(folio, NEWER)).sort()).toEqual([false, false, true]);
    expect(marksOf(await rollOf(folio))).toEqual(['Ada 9', 'Bo 6', 'Cy 7', 'Di 8']);
  });

  test('what breaks off half-way leaves everything as it was', async () => {
    const folio = await off();
    const { database } = server.running;
    const schoolId = await schoolOf(folio.id);
    const blobHash = await keepBlob(database.manager, schoolId, Buffer.from(list(NEWER)));
    const { id: watchedId } = await nowOf(folio);
    await expect(
      database.transaction(async (manager) => {
        const version = { name: 'x.csv', blobHash, stamp: null };
        await takeNewer(manager, { schoolId, folioId: folio.id, watchedId }, version);
        throw new Error('the line is dead');
      }),
    ).rejects.toThrow('the line is dead');
    expect(marksOf(await rollOf(folio))).toEqual(['Ada 5', 'Bo 6', 'Cy 7']);
    expect((await nowOf(folio)).took).toBeNull();
    expect(await take(folio, NEWER)).toContain(true);
  });

  test('states before versions that came by themselves do not push out those before what people did', async () => {
    const folio = await off();
    const count = async (): Promise<string[]> =>
      (
        await server.running.database.query<{ what: string }[]>(
          'SELECT what FROM roll_earlier WHERE folioId = ? ORDER BY at',
          [folio.id],
        )
      ).map(({ what }) => what);
    const again = await client.bringIn(folio.id, 'again.csv', list(FIRST));
    expect(again.status).toBe(200);
    const sourceId = again.body.sources[0]!.id;
    await client.send('PATCH', `/folios/${folio.id}/watched/${(await nowOf(folio)).id}`, { sourceId });
    for (let n = 0; n < 5; n++) await take(folio, [...NEWER.slice(0, 3), `S4,Di,di@home.example,${n}`]);
    expect(await count()).toEqual([
      'the new roll from again.csv',
      'the newer version x.csv',
      'the newer version x.csv',
    ]);
  });

  test('a source that is gone, a file watched twice, and a folio put away', async () => {
    const folio = await off();
    expect((await watch(folio, { kind: 'folder', path: 'b.csv' })).body.code).toBe('watched-already');
    await client.bringIn(folio.id, 'again.csv', list(FIRST));
    expect(await looked(folio)).toMatchObject({
      source: null,
      fault: 'Its source is not on the roll any more. Choose what it is a newer version of, or delete it.',
    });
    const path_ = `/folios/${folio.id}/watched/${(await nowOf(folio)).id}`;
    expect((await client.send('PATCH', path_, { isOn: false })).status).toBe(200);
    expect((await client.send<ProblemDetails>('PATCH', path_, { isOn: true })).body.code).toBe('no-source');
    expect((await client.send<ProblemDetails>('POST', `${path_}/look`)).body.code).toBe('watched-off');
    expect((await client.send('DELETE', path_)).status).toBe(200);
    expect((await client.get<WatchedList>(`/folios/${folio.id}/watched`)).files).toEqual([]);
  });

  test('people of another school see and change nothing', async () => {
    const folio = await off();
    const { id } = await nowOf(folio);
    const stranger = await newSchool(server);
    const base = `/folios/${folio.id}/watched`;
    const place = { kind: 'folder', path: 'x.csv' };
    const sourceId = folio.sources[0]!.id;
    const tries: [string, string, object?][] = [
      ['GET', base],
      ['POST', base, { id: newId(), sourceId, place }],
      ['PATCH', `${base}/${id}`, { isOn: false }],
      ['POST', `${base}/${id}/look`],
      ['DELETE', `${base}/${id}`],
      ['GET', `${base}/${id}/version`],
    ];
    for (const [method, to, body] of tries)
      expect([method, to, (await stranger.send(method, to, body)).status]).toEqual([method, to, 404]);
    // Neither with an identity that is taken, nor for a source of somebody else.
    const own = await made(stranger);
    expect((await watch(own, { kind: 'folder', path: 'x.csv' }, { id }, stranger)).status).toBe(409);
    expect((await watch(own, { kind: 'folder', path: 'x.csv' }, { sourceId }, stranger)).status).toBe(404);
    expect((await nowOf(folio)).isOn).toBe(true);
  });

  test('it is off where nobody has allowed it', async () => {
    const plain = await startTestServer();
    try {
      const by = await newSchool(plain);
      const folio = await made(by);
      expect(await by.get(`/folios/${folio.id}/watched`)).toEqual({
        files: [],
        folder: null,
        there: null,
        origins: [],
      });
      for (const place of [
        { kind: 'folder', path: 'x.csv' },
        { kind: 'web', url: `${origin}/x.csv`, user: '' },
      ] as WatchPlace[])
        expect((await watch(folio, place, {}, by)).body.code).toBe('not-allowed');
    } finally {
      await plain.close();
    }
  });
});

describe('standing orders', () => {
  const orderOn = async (folio: Folio, when: Order['when']): Promise<string> => {
    const id = newId();
    const order: Order = { ...emptyOrder('Answer each'), when, then: { kind: 'keep' } };
    const at = `/folios/${folio.id}/orders`;
    expect((await client.send('POST', at, { id, order })).status).toBe(200);
    expect((await client.send('PUT', `${at}/${id}/on`, { isOn: true })).status).toBe(200);
    return id;
  };
  const workOf = async (folio: Folio, id: string): Promise<string[]> => {
    const { work } = await client.get<OrderWorkList>(`/folios/${folio.id}/orders/${id}/work`);
    return work.map(({ learner }) => learner).sort();
  };

  test('act on new and on changed rows, each once', async () => {
    const name = `${newId()}.csv`;
    await writeFile(path.join(folder, name), list(FIRST));
    const folio = await client.folioOf(list(FIRST), { letter: ['Dear {{Name}}: {{Mark}}'] });
    await watch(folio, { kind: 'folder', path: name });
    await seen(folio);
    const { id } = await nowOf(folio);
    const fresh = await orderOn(folio, { kind: 'answer', which: 'new', formId: id });
    const changed = await orderOn(folio, { kind: 'answer', which: 'changed', formId: null });
    const other = await orderOn(folio, { kind: 'answer', which: 'both', formId: newId() });
    await writeFile(path.join(folder, name), list(NEWER));
    await looked(folio);
    await looked(folio);
    expect([await workOf(folio, fresh), await workOf(folio, changed), await workOf(folio, other)]).toEqual([
      ['Di'],
      ['Ada'],
      [],
    ]);
    const { orders: _, watched } = await client.get<{ orders: unknown; watched: unknown }>(
      `/folios/${folio.id}/orders`,
    );
    expect(watched).toEqual([{ id, name }]);
    // By somebody's word also those who were there before.
    const next = await client.get<OrderNext>(`/folios/${folio.id}/orders/${fresh}/next`);
    expect(next.takes).toHaveLength(3);
  });
});
