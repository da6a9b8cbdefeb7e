import type { Checks, Folio, SeenFindings } from '@scriptum/core/contract';
import { marksOf, preflight } from '@scriptum/core/preflight';
import { Sorting, type Writing } from '@scriptum/core/template';
import {
  type Client,
  filingOf,
  letterOf,
  newSchool,
  noteOf,
  startTestServer,
  type TestServer,
  writingPath,
} from './testing/school.js';

let server: TestServer;
let client: Client;
beforeAll(async () => {
  server = await startTestServer();
  client = await newSchool(server);
});
afterAll(() => server.close());

async function checked(folioId: string, who = client): Promise<Checks> {
  for (;;) {
    const checks = await who.get<Checks>(`/folios/${folioId}/checks`);
    if (!checks.going && checks.done === checks.total) return checks;
    await new Promise((resolve) => setTimeout(resolve, 30));
  }
}
const looksOf = async (folioId: string): Promise<string[]> => {
  const rows = await server.running.database.query<{ lookHash: string }[]>(
    'SELECT lookHash FROM checked_look WHERE folioId = ? ORDER BY lookHash',
    [folioId],
  );
  return rows.map(({ lookHash }) => lookHash);
};

test('papers are set in the background: pages, equal papers, and only what changed is set again', async () => {
  const long = Array.from({ length: 700 }, (_, n) => `word${n}`).join(' ');
  const rows = ['Ann,a', 'Bo,b', 'Cy,c', 'Di,d', 'Ed,e', `Flo,${long}`, 'Gus,g', 'Gus,g'];
  const folio = await client.folioOf(`Name,Remark\n${rows.join('\n')}\n`, {
    letter: ['Dear {{Name}}', '{{Remark}}'],
  });
  const first = await checked(folio.id);
  // Two papers are one look.
  expect([first.done, first.total]).toEqual([7, 7]);
  expect(first.findings.map(({ code, message }) => [code, message])).toEqual([
    ['pages-more', 'The letter has 2 pages for Flo, where the others have 1.'],
    [
      'papers-equal',
      'Gus and Gus get the same paper, word for word (the letter), though it prints names. Look whether they are one learner.',
    ],
  ]);
  expect(first.findings[0]!.templateId).toBe(letterOf(folio).id);
  const before = await looksOf(folio.id);
  const remark = folio.roll.columns[1]!.id;
  await client.send('PATCH', `/folios/${folio.id}/roll`, {
    cells: [{ entryId: folio.roll.entries[7]!.id, columnId: remark, text: 'other' }],
  });
  const second = await checked(folio.id);
  expect(second.findings.map(({ code }) => code)).toEqual(['pages-more']);
  const after = await looksOf(folio.id);
  expect(after.filter((look) => !before.includes(look))).toHaveLength(1);
});

test('a paper that cannot be set is found, with its reason, and the others are known all the same', async () => {
  const rows = Array.from({ length: 30 }, (_, n) => `Learner ${n},x`);
  const folio = await client.folioOf(`Name,Remark\n${rows.join('\n')}\nBad,${'é '.repeat(8_000)}\n`, {
    letter: ['{{Name}} {{Remark}}'],
  });
  const { database } = server.running;
  const { findings, done, total } = await checked(folio.id);
  expect([done, total]).toEqual([31, 31]);
  expect(findings.map(({ code }) => code)).toContain('pages-more');
  // What cannot be set is kept with its reason.
  await database.query(
    "UPDATE checked_look SET pages = 0, failed = 'It could not be set.' WHERE folioId = ? AND pages > 1",
    [folio.id],
  );
  const failed = await client.get<Checks>(`/folios/${folio.id}/checks`);
  expect(failed.findings.map(({ code, message }) => [code, message])).toEqual([
    ['paper-fails', 'The letter cannot be set for Bad. It could not be set.'],
  ]);
});

test('only papers that somebody gets are set, each by its own template', async () => {
  const folio = await client.folioOf('Name,Level\nAnn,gold\nBo,x\nCy,out\n', { letter: ['Dear {{Name}}'] });
  const { content } = letterOf(folio);
  const { body: other } = await client.send<Writing>('POST', `/folios/${folio.id}/writings`, {
    kind: 'letter',
    content: { ...content, name: 'Other' },
  });
  const level = (value: string) => ({ columnId: folio.roll.columns[1]!.id, is: 'equal', values: [value] });
  const rules = Sorting.parse({
    rules: [
      { id: 'a', if: level('gold'), then: { kind: 'gives', templates: [letterOf(folio).id] } },
      { id: 'b', if: level('out'), then: { kind: 'out', why: '' } },
      { id: 'c', if: null, then: { kind: 'gives', templates: [other.id] } },
    ],
  });
  await client.send('PUT', writingPath(folio, 'sorting'), { version: 1, kind: 'sorting', content: rules });
  expect((await checked(folio.id)).total).toBe(2);
});

test('what somebody found right is kept with who and when, until its value changes, and for this school alone', async () => {
  const folio = await client.folioOf('Name,Mail\nAnn,a@b.example\nBo,\n', { letter: ['Dear {{Name}}'] });
  const found = (one: Folio) =>
    preflight({
      roll: one.roll,
      templates: [letterOf(one).content],
      notes: [
        { ...noteOf(one), content: { ...noteOf(one).content, to: [{ columnId: one.roll.columns[1]!.id }] } },
      ],
      filing: filingOf(one).content,
      assets: new Set(),
    }).filter(({ code }) => code === 'address-none');
  const marks = marksOf(found(folio)[0]!, folio.roll);
  const { body, status } = await client.send<SeenFindings>('POST', `/folios/${folio.id}/seen`, {
    marks,
    right: true,
  });
  expect(status).toBe(200);
  expect(body.seen).toMatchObject([{ mark: marks[0], by: 'Test' }]);
  expect((await client.get<SeenFindings>(`/folios/${folio.id}/seen`)).seen).toEqual(body.seen);
  // Another school sees and changes nothing of it.
  const stranger = await newSchool(server);
  expect((await stranger.send('GET', `/folios/${folio.id}/seen`)).status).toBe(404);
  expect((await stranger.send('GET', `/folios/${folio.id}/checks`)).status).toBe(404);
  expect((await stranger.send('POST', `/folios/${folio.id}/seen`, { marks, right: false })).status).toBe(404);
  expect(
    (await client.send('POST', `/folios/${folio.id}/seen`, { marks: ['../x'], right: true })).status,
  ).toBe(400);
  const back = await client.send<SeenFindings>('POST', `/folios/${folio.id}/seen`, { marks, right: false });
  expect(back.body.seen).toEqual([]);
});
