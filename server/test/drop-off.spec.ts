import type { DropOff, DropPlace } from '@scriptum/core/contract';
import { mkdir, mkdtemp, readdir, readFile, rm, symlink, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { PRACTICE_SHELF, PracticeShelf } from '@scriptum/server/drop/practice-shelf';
import { WebDavShelf } from '@scriptum/server/drop/webdav-shelf';
import { pdfText } from './testing/pdf.js';
import { type Client, newSchool, startTestServer, type TestServer } from './testing/school.js';

let server: TestServer;
let client: Client;
let root: string;
let shelf: PracticeShelf;
let url: string;
beforeAll(async () => {
  root = await mkdtemp(path.join(tmpdir(), 'scriptum-drop-'));
  shelf = new PracticeShelf(path.join(root, 'dav'));
  url = await shelf.listen();
  server = await startTestServer({
    SCRIPTUM_DROP_FOLDER: path.join(root, 'folder'),
    SCRIPTUM_WEBDAV: new URL(url).origin,
  });
  client = await newSchool(server);
});
afterAll(async () => {
  await server.close();
  await shelf.close();
  await rm(root, { recursive: true, force: true });
});

const SHEET = 'Name,Class\nZoë,8A\nمحمد,8B\nBo & Co,8B\n';
const made = () => client.folioOf(SHEET, { letter: ['Dear {{Name}}'], file: '{{Class}}/{{Name}}' });
const put = (folioId: string, place: DropPlace, who = client) =>
  who.send<DropOff & { detail: string }>('PUT', `/folios/${folioId}/drop-off`, { place });
/** How it stands once nothing is on its way. */
async function settled(folioId: string): Promise<DropOff> {
  for (;;) {
    const open = await server.running.database.query<unknown[]>(
      "SELECT 1 FROM slice WHERE jobId = ? AND state IN ('queued', 'claimed')",
      [`drop-${folioId}`],
    );
    const about = await client.get<DropOff>(`/folios/${folioId}/drop-off`);
    // Right after a run has ended its papers wait, and nothing has been asked of the drop-off yet.
    const all = about.waiting === 0 || about.fault !== null;
    if (open.length === 0 && about.checkedAt && all) return about;
    await new Promise((resolve) => setTimeout(resolve, 30));
  }
}
async function filesIn(folder: string): Promise<string[]> {
  const all = await readdir(folder, { recursive: true, withFileTypes: true });
  return all
    .filter((one) => one.isFile())
    .map((one) => path.relative(folder, path.join(one.parentPath, one.name)))
    .sort();
}
const schoolOf = async (folioId: string): Promise<string> =>
  (
    await server.running.database.query<{ schoolId: string }[]>('SELECT schoolId FROM folio WHERE id = ?', [
      folioId,
    ])
  )[0]!.schoolId;

describe.each(['folder', 'webdav'] as const)('papers go to a %s', (kind) => {
  const placeFor = (name: string): DropPlace =>
    kind === 'folder'
      ? { kind, path: name }
      : {
          kind,
          url: new URL(`${name}/`, url).href,
          user: PRACTICE_SHELF.user,
          password: PRACTICE_SHELF.password,
        };
  const folderOf = async (folioId: string, name: string): Promise<string> =>
    kind === 'folder'
      ? path.join(root, 'folder', await schoolOf(folioId), name)
      : path.join(root, 'dav', name);

  test('under their file names, once, a newer one in the place of the one before; what others put there stays', async () => {
    const folio = await made();
    const folder = await folderOf(folio.id, 'Reports');
    await mkdir(path.join(folder, '8A'), { recursive: true });
    await writeFile(path.join(folder, '8A', 'Zoë.pdf'), 'somebody else’s');
    expect((await put(folio.id, placeFor('Reports'))).body).toMatchObject({ there: 0, waiting: 0 });
    await client.press(server, folio.id);
    expect(await settled(folio.id)).toMatchObject({ there: 3, waiting: 0, fault: null });
    expect(await filesIn(folder)).toEqual(['8A/Zoë (2).pdf', '8A/Zoë.pdf', '8B/Bo & Co.pdf', '8B/محمد.pdf']);
    expect(pdfText(await readFile(path.join(folder, '8A', 'Zoë (2).pdf')))).toContain('Dear Zoë');
    const lies = async () =>
      (await client.register(folio.id)).papers
        .filter(({ state }) => state === 'pressed')
        .map((paper) => paper.lies);
    expect(await lies()).toEqual(['8A/Zoë (2).pdf', '8B/محمد.pdf', '8B/Bo & Co.pdf']);

    // Once more nothing is put there again.
    const before = await readFile(path.join(folder, '8B', 'Bo & Co.pdf'));
    await writeFile(path.join(folder, '8B', 'محمد.pdf'), 'changed by a hand');
    await client.send('POST', `/folios/${folio.id}/drop-off/again`);
    await settled(folio.id);
    expect(await readFile(path.join(folder, '8B', 'محمد.pdf'), 'utf8')).toBe('changed by a hand');

    // A name and a text change: the new paper takes the old one's place, and what nobody needs any more goes.
    await client.send('PATCH', `/folios/${folio.id}/roll`, {
      cells: [{ entryId: folio.roll.entries[2]!.id, columnId: folio.roll.columns[0]!.id, text: 'Bobo' }],
    });
    await client.press(server, folio.id);
    await settled(folio.id);
    expect(await filesIn(folder)).toEqual(['8A/Zoë (2).pdf', '8A/Zoë.pdf', '8B/Bobo.pdf', '8B/محمد.pdf']);
    expect(before.equals(await readFile(path.join(folder, '8B', 'Bobo.pdf')))).toBe(false);
    const [first] = (await client.register(folio.id)).papers;
    await client.send('POST', `/folios/${folio.id}/papers/void`, { paperIds: [first!.id], reason: 'x' });
    await settled(folio.id);
    expect(await filesIn(folder)).toEqual(['8A/Zoë.pdf', '8B/Bobo.pdf', '8B/محمد.pdf']);

    // Ended, all stays as it is.
    await client.send('DELETE', `/folios/${folio.id}/drop-off`);
    expect((await client.get<DropOff>(`/folios/${folio.id}/drop-off`)).place).toBeNull();
    expect(await filesIn(folder)).toHaveLength(3);
  });

  test('a held paper is not put there before it is cleared', async () => {
    const folio = await made();
    await client.press(server, folio.id);
    const { papers } = await client.register(folio.id);
    const judge = (hold: boolean) =>
      client.send('POST', `/folios/${folio.id}/papers/hold`, { paperIds: [papers[0]!.id], hold });
    await judge(true);
    await put(folio.id, placeFor('Held'));
    expect(await settled(folio.id)).toMatchObject({ there: 2, waiting: 0 });
    await judge(false);
    expect(await settled(folio.id)).toMatchObject({ there: 3 });
  });
});

test('nothing is written outside of the school’s own folder', async () => {
  const folio = await made();
  for (const bad of ['..', 'a/../../b', 'C:', 'a\0b', 'x/..'])
    expect((await put(folio.id, { kind: 'folder', path: bad })).status).toBe(400);
  await client.press(server, folio.id);
  const own = path.join(root, 'folder', await schoolOf(folio.id));
  await mkdir(own, { recursive: true });
  await mkdir(path.join(root, 'elsewhere'), { recursive: true });
  await mkdir(path.join(own, 'linked'), { recursive: true });
  await symlink(path.join(root, 'elsewhere'), path.join(own, 'linked', '8A'));
  await put(folio.id, { kind: 'folder', path: 'linked' });
  const about = await settled(folio.id);
  expect(about.fault).toContain('cannot be reached');
  expect(await readdir(path.join(root, 'elsewhere'))).toEqual([]);
});

test('addresses lead only where it is allowed, a password is never told, and what is wrong is said', async () => {
  const folio = await made();
  const refused = await put(folio.id, {
    kind: 'webdav',
    url: 'http://127.0.0.1:1/',
    user: 'x',
    password: 'y',
  });
  expect([refused.status, refused.body.detail]).toEqual([422, expect.stringContaining(new URL(url).origin)]);
  const named = { kind: 'webdav' as const, url: url.replace('//', '//me:secret@'), user: '' };
  expect((await put(folio.id, named)).status).toBe(400);
  expect((await put(folio.id, { kind: 'webdav', url: 'file:///etc', user: '', password: '' })).status).toBe(
    400,
  );
  await client.press(server, folio.id);
  const { user } = PRACTICE_SHELF;
  await put(folio.id, { kind: 'webdav', url, user, password: 'wrong' });
  expect((await settled(folio.id)).fault).toBe(
    'The WebDAV address does not take papers: it answered 401. Name or password are not right.',
  );
  const place = { kind: 'webdav' as const, url, user };
  const right = await put(folio.id, { ...place, password: PRACTICE_SHELF.password });
  expect(right.body.place).toEqual({ ...place, hasPassword: true });
  expect((await settled(folio.id)).fault).toBeNull();
  // Left out it stays.
  await put(folio.id, place);
  expect(await settled(folio.id)).toMatchObject({ there: 3, fault: null });
  const other = await newSchool(server);
  const at = `/folios/${folio.id}/drop-off`;
  expect((await other.raw('GET', at)).status).toBe(404);
  expect((await put(folio.id, { kind: 'folder', path: '' }, other)).status).toBe(404);
  expect((await other.send('DELETE', at)).status).toBe(404);
  expect((await other.send('POST', `${at}/again`)).status).toBe(404);
});

// RFC 4918, 9.3.1, 9.7.1, 9.1: folders above have to be there; PROPFIND tells what lies in a folder.
test('the practice shelf speaks WebDAV', async () => {
  const authorization = `Basic ${Buffer.from(`${PRACTICE_SHELF.user}:${PRACTICE_SHELF.password}`).toString('base64')}`;
  const ask = (method: string, at: string, headers: Record<string, string> = {}, body?: string) =>
    fetch(new URL(at, url), { method, headers: { authorization, ...headers }, body });
  expect((await fetch(url)).status).toBe(401);
  expect((await ask('OPTIONS', '')).headers.get('dav')).toBe('1');
  expect((await ask('PUT', 'no/such/file', {}, 'x')).status).toBe(409);
  expect((await ask('MKCOL', 'a/b')).status).toBe(409);
  expect((await ask('MKCOL', 'one')).status).toBe(201);
  expect((await ask('MKCOL', 'one')).status).toBe(405);
  expect((await ask('PUT', 'one/f%C3%AF le.txt', {}, 'hello')).status).toBe(201);
  const listed = await ask('PROPFIND', 'one', { depth: '1' });
  expect([listed.status, await listed.text()]).toEqual([207, expect.stringContaining('f%C3%AF%20le.txt')]);
  expect(await (await ask('GET', 'one/f%C3%AF le.txt')).text()).toBe('hello');
  expect((await ask('GET', 'one/%2e%2e/%2e%2e/secret')).status).toBeGreaterThanOrEqual(403);
  expect((await ask('DELETE', 'one')).status).toBe(204);
  expect((await ask('GET', 'one/f%C3%AF le.txt')).status).toBe(404);
  const there = new WebDavShelf(url, PRACTICE_SHELF.user, PRACTICE_SHELF.password);
  await there.put('deep/er/#1 & 50%.pdf', Buffer.from('x'));
  expect(await there.hashAt('deep/er/#1 & 50%.pdf')).toHaveLength(64);
});
