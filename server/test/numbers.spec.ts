import type { Folio, Judged, PaperLine, RunStarted, SchoolRegister } from '@scriptum/core/contract';
import type { Filing, PaperNumbers } from '@scriptum/core/template';
import { openSheetFile } from '@scriptum/core/workbook';
import type { PlannedPaper } from '@scriptum/core/paper';
import { giveNumbers, keepNumbers } from '@scriptum/server/register/numbers';
import type { EntityManager } from 'typeorm';
import { pdfText } from './testing/pdf.js';
import {
  type Client,
  filingOf,
  letterOf,
  newSchool,
  startTestServer,
  type TestServer,
  writingPath,
} from './testing/school.js';

let server: TestServer;
let client: Client;
beforeAll(async () => {
  server = await startTestServer();
});
beforeEach(async () => {
  client = await newSchool(server);
});
afterAll(() => server.close());

const SHEET = 'Name,Class\nAnn,8A\nBo,8B\nCy,8B\n';
const PATTERN: PaperNumbers = { before: 'TQ-', digits: 4, after: '/26', from: 7 };

/** A folio whose letters print their numbers, and those whose place they take. */
async function numbered(sheet = SHEET, pattern = PATTERN): Promise<Folio> {
  const folio = await client.folioOf(sheet, { letter: ['Dear {{Name}}'], file: '{{Name}}' });
  const letter = letterOf(folio);
  const field = (fieldId: string) => ({ type: 'field' as const, attrs: { fieldId } });
  const content = {
    ...letter.content,
    fields: [
      ...letter.content.fields,
      { id: 'no', name: 'Number', columnId: null, same: { kind: 'number' }, before: 'No. ' },
      { id: 'old', name: 'Replaces', columnId: null, same: { kind: 'replaces' }, before: 'replaces no. ' },
    ],
    body: {
      type: 'doc',
      content: [
        ...letter.content.body.content,
        { type: 'paragraph', content: [field('no'), { type: 'text', text: ' ' }, field('old')] },
      ],
    },
  };
  await client.send('PUT', writingPath(folio, 'letter'), { ...letter, content });
  const filing = filingOf(folio);
  const numbers: Filing = { ...filing.content, numbers: pattern };
  await client.send('PUT', writingPath(folio, 'filing'), { ...filing, content: numbers });
  return folio;
}
const papersOf = async (folio: Folio): Promise<PaperLine[]> => (await client.register(folio.id)).papers;
const numbersOf = async (folio: Folio, state = 'pressed'): Promise<(string | null)[]> =>
  (await papersOf(folio)).filter((paper) => paper.state === state).map(({ number }) => number);
const textOf = async (folio: Folio, { id }: PaperLine): Promise<string> =>
  pdfText(
    Buffer.from(await (await client.raw('GET', `/folios/${folio.id}/papers/${id}/file`)).arrayBuffer()),
  );

test('papers are numbered in the order of the roll, and keep their numbers when they are pressed again', async () => {
  const folio = await numbered();
  await client.press(server, folio.id);
  expect(await numbersOf(folio)).toEqual(['TQ-0007/26', 'TQ-0008/26', 'TQ-0009/26']);
  const [ann] = await papersOf(folio);
  expect(await textOf(folio, ann!)).toMatch(/No\. TQ-0007\/26\s*$/);
  // A number is no reason to be out of date.
  expect((await client.press(server, folio.id)).run).toBeNull();
  await client.send('PATCH', `/folios/${folio.id}/roll`, {
    cells: [{ entryId: folio.roll.entries[1]!.id, columnId: folio.roll.columns[0]!.id, text: 'Bobo' }],
    added: [{ id: 'newlearner01', position: 0, values: { [folio.roll.columns[0]!.id]: 'Abe' } }],
  });
  await client.press(server, folio.id);
  const now = (await papersOf(folio)).filter(({ state }) => state === 'pressed');
  expect(now.map(({ learner, number }) => `${learner} ${number}`)).toEqual([
    'Abe TQ-0010/26',
    'Ann TQ-0007/26',
    'Bobo TQ-0008/26',
    'Cy TQ-0009/26',
  ]);
});

test('a voided paper keeps its number, and the next one gets another', async () => {
  const folio = await numbered();
  await client.press(server, folio.id);
  const [ann] = await papersOf(folio);
  await client.send<Judged>('POST', `/folios/${folio.id}/papers/void`, {
    paperIds: [ann!.id],
    reason: 'Torn',
  });
  await client.press(server, folio.id);
  expect(await numbersOf(folio, 'void')).toEqual(['TQ-0007/26']);
  expect(await numbersOf(folio)).toEqual(['TQ-0010/26', 'TQ-0008/26', 'TQ-0009/26']);
});

test('issued again a paper says which number it replaces, and the one before says why', async () => {
  const folio = await numbered();
  await client.press(server, folio.id);
  const [ann] = await papersOf(folio);
  const again = (body: object, who = client) =>
    who.send<RunStarted & { code: string }>('POST', `/folios/${folio.id}/papers/issue-again`, body);
  expect((await again({ paperIds: [ann!.id], reason: ' ' })).status).toBe(400);
  expect((await again({ paperIds: [ann!.id], reason: 'x' }, await newSchool(server))).status).toBe(404);
  const { status, body } = await again({ paperIds: [ann!.id], reason: 'Lost in the post' });
  expect([status, body.run!.total]).toEqual([200, 1]);
  await server.running.press.ended(body.run!.id);
  const now = (await papersOf(folio)).filter(({ learner }) => learner === 'Ann');
  expect(now.map(({ state, number, replacesNumber, note }) => [state, number, replacesNumber, note])).toEqual(
    [
      ['pressed', 'TQ-0010/26', 'TQ-0007/26', null],
      ['superseded', 'TQ-0007/26', null, 'Lost in the post'],
    ],
  );
  expect(await textOf(folio, now[0]!)).toContain('No. TQ-0010/26 replaces no. TQ-0007/26');
  // The one that does not count any more cannot be issued again, and nothing else is made.
  expect((await again({ paperIds: [ann!.id], reason: 'x' })).status).toBe(404);
  expect((await client.press(server, folio.id)).run).toBeNull();
});

test('what nobody would get any more is not issued again, and stays as it is', async () => {
  const folio = await numbered();
  await client.press(server, folio.id);
  const [ann] = await papersOf(folio);
  await client.send('PATCH', `/folios/${folio.id}/roll`, {
    leftOut: [{ entryId: ann!.entryId, reason: 'moved away' }],
  });
  const { status } = await client.send('POST', `/folios/${folio.id}/papers/issue-again`, {
    paperIds: [ann!.id],
    reason: 'x',
  });
  expect(status).toBe(404);
  expect((await papersOf(folio)).find(({ id }) => id === ann!.id)).toMatchObject({
    state: 'pressed',
    note: null,
  });
});

test('numbers of folios with one pattern are one row, without gaps or doubles, whoever presses at the same time', async () => {
  const names = (from: string) =>
    `Name,Class\n${Array.from({ length: 12 }, (_, n) => `${from}${n},8A`).join('\n')}\n`;
  const folios = await Promise.all(['A', 'B', 'C', 'D'].map((from) => numbered(names(from))));
  const runs = await Promise.all(
    folios.map(({ id }) => client.send<RunStarted>('POST', `/folios/${id}/runs`, {})),
  );
  // One of them is stopped at once: what it had not made gives its numbers back.
  await client.send('POST', `/folios/${folios[0]!.id}/runs/${runs[0]!.body.run!.id}/stop`, {});
  await Promise.all(runs.map(({ body }) => server.running.press.ended(body.run!.id)));
  for (const { id } of folios) await client.press(server, id);
  const all = (await Promise.all(folios.map((folio) => numbersOf(folio)))).flat();
  expect(all.map((number) => Number(/\d+/.exec(number!)![0])).sort((a, b) => a - b)).toEqual(
    Array.from({ length: 48 }, (_, n) => n + 7),
  );
});

test('a number that was free is given once, also where two plan at the same time', async () => {
  const folio = await numbered();
  const { database } = server.running;
  const [{ schoolId }] = (await database.query('SELECT schoolId FROM folio WHERE id = ?', [folio.id])) as [
    { schoolId: string },
  ];
  const place = { schoolId, folioId: folio.id };
  // A run that was stopped has left number 7 behind.
  await database.query("INSERT INTO paper_number VALUES (?, 'TQ-#/26', 7, ?, 'e', 't', 'gone', 0, 0)", [
    schoolId,
    folio.id,
  ]);
  await database.query("INSERT INTO number_series VALUES (?, 'TQ-#/26', 8)", [schoolId]);
  const give = async (manager: EntityManager, entryId: string): Promise<string> => {
    const papers = [{ entryId, templateId: 't' }] as PlannedPaper[];
    const given = await giveNumbers(manager, place, PATTERN, papers, new Map());
    const rows = [{ entryId, templateId: 't', paperId: `paper${entryId}`, given: given.get(`${entryId} t`) }];
    await keepNumbers(manager, place, rows);
    await manager.query(
      `INSERT INTO paper (id, schoolId, folioId, runId, entryId, templateId, templateVersion, position, learner, fileName, \`values\`,
         lookHash, state) VALUES (?, ?, ?, 'r', ?, 't', 1, 0, '', '', '{}', '', 'waiting')`,
      [`paper${entryId}`, schoolId, folio.id, entryId],
    );
    return given.get(`${entryId} t`)!.own;
  };
  const numbers = await database.transaction(async (first) => {
    await first.query('SET FOREIGN_KEY_CHECKS = 0');
    // It looks around before the other one gives numbers, and gives its own afterwards.
    await first.query('SELECT COUNT(*) FROM paper_number');
    const other = await database.transaction(async (second) => {
      await second.query('SET FOREIGN_KEY_CHECKS = 0');
      const one = await give(second, 'e1');
      await second.query('SET FOREIGN_KEY_CHECKS = 1');
      return one;
    });
    const own = await give(first, 'e2');
    await first.query('SET FOREIGN_KEY_CHECKS = 1');
    return [other, own];
  });
  expect(numbers).toEqual(['TQ-0007/26', 'TQ-0008/26']);
});

test('the papers of all folios are found by name, class, number, folio, state and day', async () => {
  const one = await numbered('Name,Class\nŁucja Żak,8A\nAnn Hill,8B\n');
  await client.send('PATCH', `/folios/${one.id}`, { title: 'River awards' });
  const other = await client.folioOf('Name,Class\nAnn Hill,9C\n', { letter: ['Dear {{Name}}'] });
  for (const { id } of [one, other]) await client.press(server, id);
  const find = async (query: Record<string, string>, who = client): Promise<string[]> => {
    const found = await who.get<SchoolRegister>(`/register?${new URLSearchParams(query)}`);
    return found.papers
      .map(({ learner, klass, folio, number }) => [learner, klass, folio, number].join(' · '))
      .sort();
  };
  const [hill, zak] = [
    'Ann Hill · 8B · River awards · TQ-0008/26',
    'Łucja Żak · 8A · River awards · TQ-0007/26',
  ];
  const test9 = 'Ann Hill · 9C · Test · ';
  expect(await find({})).toEqual([hill, test9, zak]);
  expect(await find({ text: 'ZAK luc' })).toEqual([zak]);
  expect(await find({ text: 'hill river' })).toEqual([hill]);
  expect(await find({ text: '0007' })).toEqual([zak]);
  expect(await find({ text: '100%_\\' })).toEqual([]);
  expect(await find({ klass: '9C' })).toEqual([test9]);
  expect(await find({ folioId: one.id, state: 'present' })).toEqual([hill, zak]);
  expect(await find({ state: 'held' })).toEqual([]);
  const today = new Date().toISOString().slice(0, 10);
  expect(await find({ from: '2020-01-01', to: today })).toHaveLength(3);
  expect(await find({ to: '2020-01-01' })).toEqual([]);
  expect(await find({}, await newSchool(server))).toEqual([]);
  expect(await client.get('/register/classes')).toEqual({ classes: ['8A', '8B', '9C'] });
  expect((await client.raw('GET', '/register?state=lost')).status).toBe(400);
  const file = await client.raw('GET', '/register/file?kind=xlsx&text=hill');
  const opened = openSheetFile(Buffer.from(await file.arrayBuffer()));
  if (!opened.ok) throw new Error(opened.problem.message);
  const laid = opened.value.layOut({}, () => 'x');
  if (!laid.ok) throw new Error(laid.problem.message);
  expect(JSON.stringify(laid.value)).toContain('TQ-0008/26');
});

test('many are found in parts, each once', async () => {
  const folio = await client.folioOf(
    `Name,Class\n${Array.from({ length: 120 }, (_, n) => `Learner ${n},8A`).join('\n')}\n`,
    { letter: ['Dear {{Name}}'] },
  );
  await client.press(server, folio.id);
  const seen: string[] = [];
  let after: string | null = null;
  do {
    const query = new URLSearchParams(after ? { after } : {});
    const found: SchoolRegister = await client.get(`/register?${query}`);
    expect([found.count, found.more]).toEqual([after === null ? 120 : null, false]);
    seen.push(...found.papers.map(({ learner }) => learner));
    after = found.after;
  } while (after);
  expect([seen.length, new Set(seen).size]).toEqual([120, 120]);
});
