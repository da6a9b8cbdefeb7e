import type { PackList } from '@scriptum/core/contract';
import { openSheetFile } from '@scriptum/core/workbook';
import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { endedPack, packBytes, PRINT, packOf } from './testing/packs.js';
import { pageBoxes, pdfFonts, pdfInfo, pdfText, qpdfCheck } from './testing/pdf.js';
import { type Client, newSchool, startTestServer, type TestServer } from './testing/school.js';

let server: TestServer;
let client: Client;
beforeAll(async () => {
  server = await startTestServer();
  client = await newSchool(server);
});
afterAll(() => server.close());

const SHEET =
  'Name,Class,Mail,Homes\nZoë,8B,z@b.example,2\nAnn,8A,,1\nŁukasz,8A,no address,x\nمحمد,10A,m@b.example,\nBo,,b@b.example,1\n';
async function pressed(sheet = SHEET) {
  const folio = await client.folioOf(sheet, { letter: ['Dear {{Name}}'], file: '{{Class}}/{{Name}}' });
  await client.press(server, folio.id);
  const column = (title: string): string => folio.roll.columns.find((one) => one.title === title)!.id;
  return { folio, column, papers: (await client.register(folio.id)).papers };
}
/** The pages of a pack as Poppler reads them. */
const pagesOf = (bytes: Buffer): string[] =>
  pdfText(bytes)
    .split('\f')
    .slice(0, -1)
    .map((page) => page.trim().replace(/\s*\n\s*/g, ' | '));

test('papers are sorted as asked, with sheets between, each on a front, and their pages are told', async () => {
  const { folio, column } = await pressed();
  const { pack, bytes, lines } = await packOf(client, folio.id, {
    ...PRINT,
    sort: [column('Name')],
    apart: column('Class'),
    fronts: true,
  });
  expect(qpdfCheck(bytes)).toContain('No syntax or stream encoding errors');
  const pages = pagesOf(bytes);
  // 8A before 10A, as people count, and who has no class comes last.
  expect(pages).toEqual([
    'Test · Class | 8A | 2 papers · 2 learners',
    '',
    'Dear Ann',
    '',
    'Dear Łukasz',
    '',
    'Test · Class | 8B | 1 paper · 1 learner',
    '',
    'Dear Zoë',
    '',
    'Test · Class | 10A | 1 paper · 1 learner',
    '',
    expect.stringContaining('محمد'),
    '',
    'Test · Class | Without Class | 1 paper · 1 learner',
    '',
    'Dear Bo',
  ]);
  expect(pack).toMatchObject({ state: 'done', papers: 5, pages: 17, old: 0, madeBy: 'Test' });
  expect(pack.bytes).toBe(bytes.length);
  expect(lines.map(({ learner, page }) => [learner, page])).toEqual([
    ['Ann', 3],
    ['Łukasz', 5],
    ['Zoë', 9],
    ['محمد', 13],
    ['Bo', 17],
  ]);
});

test('copies by learner, only those without an address, and only some', async () => {
  const { folio, column } = await pressed();
  const printed = async (more: object): Promise<string[]> =>
    pagesOf((await packOf(client, folio.id, { ...PRINT, ...more })).bytes);
  expect((await printed({ copies: column('Homes') })).slice(0, 3)).toEqual([
    'Dear Zoë',
    'Dear Zoë',
    'Dear Ann',
  ]);
  expect(await printed({ who: 'no-address' })).toEqual(['Dear Ann', 'Dear Łukasz']);
  expect(await printed({ entryIds: [folio.roll.entries[4]!.id] })).toEqual(['Dear Bo']);
  const nobody = await packOf(client, folio.id, {
    ...PRINT,
    who: 'no-address',
    entryIds: [folio.roll.entries[0]!.id],
  });
  expect([nobody.status, nobody.detail]).toEqual([
    404,
    'Everybody whose paper is ready has an address that mail can go to.',
  ]);
});

// ISO 32000-1, 9.7.4.3: a map tells which glyph of the shared font each number of a paper means.
test('typefaces are in a pack once, and every page looks and reads as its paper does', async () => {
  const names = Array.from({ length: 12 }, (_, n) => `Learner ${'ABCDEFGHIJKL'[n]} ${'αβγδжзиклмно'[n]}${n}`);
  const { folio, papers } = await pressed(`Name,Class\n${names.map((name) => `${name},8A`).join('\n')}\n`);
  const { bytes } = await packOf(client, folio.id, PRINT);
  expect(qpdfCheck(bytes)).toContain('No syntax or stream encoding errors');
  const sum = papers.reduce((all, paper) => all + paper.bytes!, 0);
  expect(bytes.length).toBeLessThan(0.35 * sum);
  // One file of each face, whatever each paper shows of it.
  expect(new Set(pdfFonts(bytes)).size).toBe(
    new Set(pdfFonts(bytes).map((font) => font.replace(/^.*\+/, ''))).size,
  );
  const folder = mkdtempSync(path.join(tmpdir(), 'scriptum-pack-'));
  try {
    const drawn = (file: Buffer, page: number): Buffer => {
      const name = path.join(folder, 'one.pdf');
      writeFileSync(name, file);
      return execFileSync('pdftoppm', ['-r', '60', '-png', '-f', `${page}`, '-l', `${page}`, name]);
    };
    for (const [n, paper] of papers.entries()) {
      const own = Buffer.from(
        await (await client.raw('GET', `/folios/${folio.id}/papers/${paper.id}/file`)).arrayBuffer(),
      );
      expect(pagesOf(bytes)[n]).toBe(pagesOf(own)[0]);
      expect(drawn(bytes, n + 1).equals(drawn(own, 1))).toBe(true);
    }
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
});

test('an archive has the folders of the file names, and a sheet that lists what is in it', async () => {
  const { folio } = await pressed();
  const { bytes } = await packOf(client, folio.id, { kind: 'zip' });
  // A second reader, which looks at each file's checksum.
  const { default: JSZip } = await import('jszip');
  const files = Object.keys((await JSZip.loadAsync(bytes, { checkCRC32: true })).files);
  expect(files).toEqual([
    '8B/Zoë.pdf',
    '8A/Ann.pdf',
    '8A/Łukasz.pdf',
    '10A/محمد.pdf',
    'Bo.pdf',
    'Index.xlsx',
  ]);
  const { unzipSync } = await import('fflate');
  const index = openSheetFile(Buffer.from(unzipSync(bytes)['Index.xlsx']!));
  if (!index.ok) throw new Error(index.problem.message);
  const laid = index.value.layOut({}, () => `i${Math.random()}`);
  if (!laid.ok) throw new Error(laid.problem.message);
  expect(JSON.stringify(laid.value)).toContain('10A/محمد.pdf');
});

test('a growing pack takes new papers in at its end, by itself, and lets go of what counts no more', async () => {
  const { folio } = await pressed('Name,Class\nCy,8A\nDi,8A\n');
  const first = await packOf(client, folio.id, { kind: 'growing', fronts: false });
  expect(pagesOf(first.bytes)).toEqual(['Dear Cy', 'Dear Di']);
  const [name] = folio.roll.columns;
  await client.send('PATCH', `/folios/${folio.id}/roll`, {
    added: [{ id: 'newlearner01', position: 0, values: { [name!.id]: 'Abe' } }],
  });
  await client.press(server, folio.id);
  const now = async (): Promise<string[]> => {
    const pack = await endedPack(client, folio.id, first.pack.id);
    expect(pack.state).toBe('done');
    return pagesOf(await packBytes(client, folio.id, first.pack.id));
  };
  expect(await now()).toEqual(['Dear Cy', 'Dear Di', 'Dear Abe']);
  const { papers } = await client.register(folio.id);
  const [cy] = papers.filter(({ learner }) => learner === 'Cy');
  await client.send('POST', `/folios/${folio.id}/papers/void`, { paperIds: [cy!.id], reason: 'x' });
  expect(await now()).toEqual(['Dear Di', 'Dear Abe']);
  // Asked for once more it is the same one.
  const again = await packOf(client, folio.id, { kind: 'growing', fronts: true });
  expect([again.pack.id, pageBoxes(again.bytes).length]).toEqual([first.pack.id, 3]);
});

test('a growing pack of which no paper counts any more stays as it is, and says so', async () => {
  const { folio, papers } = await pressed('Name,Class\nCy,8A\n');
  const { pack } = await packOf(client, folio.id, { kind: 'growing', fronts: false });
  const paperIds = papers.map(({ id }) => id);
  await client.send('POST', `/folios/${folio.id}/papers/void`, { paperIds, reason: 'x' });
  const stands = async () => (await client.get<PackList>(`/folios/${folio.id}/packs`)).packs;
  expect(await stands()).toMatchObject([{ id: pack.id, state: 'done', papers: 1, old: 1 }]);
  expect(await stands()).toMatchObject([{ state: 'done' }]);
});

test('what is in a pack and has changed since is told; packs can be taken away; another school sees none', async () => {
  const { folio, column } = await pressed();
  const { pack } = await packOf(client, folio.id, PRINT);
  await client.send('PATCH', `/folios/${folio.id}/roll`, {
    cells: [{ entryId: folio.roll.entries[0]!.id, columnId: column('Name'), text: 'Zoe' }],
  });
  await client.register(folio.id);
  await client.press(server, folio.id);
  const packs = async (who = client): Promise<PackList['packs']> =>
    (await who.get<PackList>(`/folios/${folio.id}/packs`)).packs;
  expect((await packs()).map(({ id, old }) => [id, old])).toEqual([[pack.id, 1]]);
  const other = await newSchool(server);
  const path = `/folios/${folio.id}/packs/${pack.id}`;
  for (const [method, where] of [
    ['GET', path],
    ['GET', `${path}/file`],
    ['DELETE', path],
  ] as const)
    expect((await other.raw(method, where)).status).toBe(404);
  expect((await client.send('DELETE', path)).status).toBe(200);
  expect(await packs()).toEqual([]);
  expect((await client.raw('GET', `${path}/file`)).status).toBe(404);
  const [left] = await server.running.database.query<{ n: string }[]>(
    'SELECT COUNT(*) AS n FROM pack_part WHERE packId = ?',
    [pack.id],
  );
  expect(Number(left!.n)).toBe(0);
});

test('picked papers alone, as far as they count and may be printed', async () => {
  const { folio, papers } = await pressed();
  const [zoe, ann] = papers;
  await client.send('POST', `/folios/${folio.id}/papers/hold`, { paperIds: [ann!.id], hold: true });
  const stranger = await pressed();
  const paperIds = [zoe!.id, ann!.id, stranger.papers[0]!.id];
  const { pack, bytes } = await packOf(client, folio.id, { ...PRINT, paperIds });
  expect([pack.papers, pagesOf(bytes)]).toEqual([1, ['Dear Zoë']]);
  const archive = await packOf(client, folio.id, { kind: 'zip', paperIds });
  expect(archive.lines.map(({ learner }) => learner)).toEqual(['Zoë', 'Ann']);
  const none = await packOf(client, folio.id, { ...PRINT, paperIds: [ann!.id] });
  expect([none.status, none.detail]).toEqual([
    404,
    expect.stringMatching(/^None of the papers that were picked/),
  ]);
});

test('a pack whose server ended is made by the next one; what it had written is taken away', async () => {
  const { folio } = await pressed();
  const { pack } = await packOf(client, folio.id, PRINT);
  const { database } = server.running;
  // As a server leaves it that was killed: the slice is held by nobody, some parts are there.
  await database.query("UPDATE pack SET state = 'making', fileId = NULL, endedAt = NULL WHERE id = ?", [
    pack.id,
  ]);
  await database.query('UPDATE pack_part SET n = n + 5 WHERE packId = ?', [pack.id]);
  await database.query(
    "UPDATE slice SET state = 'claimed', claim = 'gone', claimedUntil = UTC_TIMESTAMP(6) - INTERVAL 1 SECOND WHERE jobId = ?",
    [`pack-${pack.id}`],
  );
  const after = await endedPack(client, folio.id, pack.id);
  expect([after.state, after.papers]).toEqual(['done', 5]);
  expect(pdfInfo(await packBytes(client, folio.id, pack.id))['Pages']).toBe('5');
  const parts = await database.query<{ n: number }[]>('SELECT n FROM pack_part WHERE packId = ?', [pack.id]);
  expect(parts.map(({ n }) => n)).toEqual([0]);
});
