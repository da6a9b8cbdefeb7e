import type { DispatchPlan, Folio, PaperLine } from '@scriptum/core/contract';
import type { Finding } from '@scriptum/core/preflight';
import { writingsOf, type SortingRule, type Writing } from '@scriptum/core/template';
import {
  type Client,
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
  client = await newSchool(server);
});
afterAll(() => server.close());

const SHEET = `Name,Level,Consent,Mail
Ann,gold,yes,ann@a.example
Bo,silver,yes,bo@a.example
Cy,bronze,no,cy@a.example
Di,bronze,yes,di@a.example
`;

/** A folio with three letters: gold is the first, and the others are its copies. */
async function awards(): Promise<{ folio: Folio; gold: string; silver: string; bronze: string }> {
  const folio = await client.folioOf(SHEET, { letter: ['Dear {{Name}}'], file: '{{Name}}' });
  const { content, version, id: gold } = letterOf(folio);
  const named = async (name: string): Promise<string> => {
    const { body } = await client.send<Writing>('POST', `/folios/${folio.id}/writings`, {
      kind: 'letter',
      content: { ...content, name },
    });
    return body.id;
  };
  await client.send('PUT', writingPath(folio, 'letter'), {
    version,
    kind: 'letter',
    content: { ...content, name: 'Gold' },
  });
  const [silver, bronze] = [await named('Silver'), await named('Bronze')];
  return { folio: await client.get<Folio>(`/folios/${folio.id}`), gold, silver, bronze };
}

async function sort(folioId: string, rules: Omit<SortingRule, 'id'>[]): Promise<void> {
  const folio = await client.get<Folio>(`/folios/${folioId}`);
  const { version } = writingsOf(folio.writings, 'sorting')[0]!;
  const content = { rules: rules.map((rule, n) => ({ id: `rule${n}`, ...rule })) };
  const saved = await client.send('PUT', writingPath(folio, 'sorting'), {
    version,
    kind: 'sorting',
    content,
  });
  expect(saved.status).toBe(200);
}

const columnId = ({ roll }: Folio, title: string): string =>
  roll.columns.find((one) => one.title === title)!.id;
const level = (folio: Folio, value: string): SortingRule['if'] => ({
  columnId: columnId(folio, 'Level'),
  is: 'equal',
  values: [value],
});
const gives = (...templates: string[]): SortingRule['then'] => ({ kind: 'gives', templates });
const told = (papers: readonly PaperLine[], names: Record<string, string>): string[] =>
  papers.map(({ learner, templateId, fileName, state, outOfDate }) =>
    [learner, names[templateId], fileName, state, ...(outOfDate ? ['old'] : [])].join(' | '),
  );

test('one run makes the right paper for each; who is left out gets none', async () => {
  const { folio, gold, silver, bronze } = await awards();
  const names = { [gold]: 'gold', [silver]: 'silver', [bronze]: 'bronze' };
  await sort(folio.id, [
    { if: level(folio, 'gold'), then: gives(gold) },
    { if: level(folio, 'silver'), then: gives(silver) },
    {
      if: { not: { columnId: columnId(folio, 'Consent'), is: 'equal', values: ['yes'] } },
      then: { kind: 'out', why: 'no consent' },
    },
    { if: null, then: gives(bronze) },
  ]);
  const { run, upToDate } = await client.press(server, folio.id);
  expect([run!.total, upToDate]).toEqual([3, 0]);
  const register = await client.register(folio.id);
  expect(told(register.papers, names)).toEqual([
    'Ann | gold | Ann.pdf | pressed',
    'Bo | silver | Bo.pdf | pressed',
    'Di | bronze | Di.pdf | pressed',
  ]);
  // Nobody of those who are asked for gets one.
  const cy = folio.roll.entries[2]!.id;
  const none = await client.send<{ problem: { code: string; message: string } }>(
    'POST',
    `/folios/${folio.id}/runs`,
    {
      entryIds: [cy],
    },
  );
  expect(none.status).toBe(409);
  expect(JSON.stringify(none.body)).toContain('The sorting gives no paper to anybody of these.');
  const plan = await client.get<DispatchPlan>(`/folios/${folio.id}/dispatch`);
  expect(plan.send.map(({ to }) => to)).toEqual(['ann@a.example', 'bo@a.example', 'di@a.example']);
});

test('who gets another paper now has the one before superseded by it, under its name, and a hold goes along', async () => {
  const { folio, gold, silver, bronze } = await awards();
  const names = { [gold]: 'gold', [silver]: 'silver', [bronze]: 'bronze' };
  const rules = (first: string): Omit<SortingRule, 'id'>[] => [
    { if: level(folio, 'gold'), then: gives(first) },
    { if: null, then: gives(bronze) },
  ];
  await sort(folio.id, rules(gold));
  await client.press(server, folio.id);
  const [ann] = (await client.register(folio.id)).papers;
  await client.send('POST', `/folios/${folio.id}/papers/hold`, { paperIds: [ann!.id], hold: true });
  await sort(folio.id, rules(silver));
  const before = await client.register(folio.id);
  expect(told(before.papers, names)[0]).toBe('Ann | gold | Ann.pdf | held | old');
  const { run, upToDate } = await client.press(server, folio.id);
  expect([run!.total, upToDate]).toEqual([1, 3]);
  const after = (await client.register(folio.id)).papers.filter(({ learner }) => learner === 'Ann');
  expect(told(after, names).sort()).toEqual([
    'Ann | gold | Ann.pdf | superseded',
    'Ann | silver | Ann.pdf | held',
  ]);
  // Back again: it is made anew, and nothing else is.
  await sort(folio.id, rules(gold));
  expect((await client.press(server, folio.id)).run!.total).toBe(1);
});

test('several papers of a learner by rules that add to others', async () => {
  const { folio, gold, silver, bronze } = await awards();
  await sort(folio.id, [
    { if: null, then: { kind: 'also', templates: [bronze] } },
    { if: level(folio, 'gold'), then: gives(gold) },
    { if: null, then: gives(silver) },
  ]);
  await client.press(server, folio.id);
  const { papers } = await client.register(folio.id);
  expect(papers).toHaveLength(8);
  expect(papers.slice(0, 2).map(({ fileName }) => fileName)).toEqual(['Ann.pdf', 'Ann – Bronze.pdf']);
});

test('rules for new learners, and for those of whom something changed since', async () => {
  const { folio, gold, silver } = await awards();
  const names = { [gold]: 'gold', [silver]: 'silver' };
  await sort(folio.id, [
    { if: { papers: 'new' }, then: gives(gold) },
    { if: { papers: 'changed' }, then: gives(silver) },
    { if: null, then: { kind: 'out', why: 'has it already' } },
  ]);
  expect((await client.press(server, folio.id)).run!.total).toBe(4);
  // Nobody is new any more, and what was made stays as it is: it can be sent.
  const first = await client.register(folio.id);
  expect(first.papers.some(({ outOfDate, entryChanged }) => outOfDate || entryChanged)).toBe(false);
  expect((await client.get<DispatchPlan>(`/folios/${folio.id}/dispatch`)).send).toHaveLength(4);
  const again = await client.send('POST', `/folios/${folio.id}/runs`, {});
  expect(again.status).toBe(409);
  await client.send('PATCH', `/folios/${folio.id}/roll`, {
    cells: [{ entryId: folio.roll.entries[1]!.id, columnId: columnId(folio, 'Level'), text: 'gold' }],
  });
  const changed = await client.register(folio.id);
  expect(changed.papers.filter(({ entryChanged }) => entryChanged).map(({ learner }) => learner)).toEqual([
    'Bo',
  ]);
  const { run } = await client.press(server, folio.id);
  expect(run!.total).toBe(1);
  const now = (await client.register(folio.id)).papers.filter(({ learner }) => learner === 'Bo');
  expect(told(now, names)).toEqual(['Bo | silver | Bo (2).pdf | pressed', 'Bo | gold | Bo.pdf | pressed']);
});

test('nonsense is refused; what a rule names of another folio gives nothing', async () => {
  const { folio, gold } = await awards();
  const path = writingPath(folio, 'sorting');
  const put = (rules: unknown): Promise<{ status: number }> =>
    client.send('PUT', path, { version: 1, kind: 'sorting', content: { rules } });
  expect((await put([{ id: 'a', if: null, then: { kind: 'gives' } }])).status).toBe(400);
  expect((await put([{ id: 'a', if: { papers: 'old' }, then: gives(gold) }])).status).toBe(400);
  const other = await awards();
  await sort(folio.id, [{ if: null, then: gives(other.gold) }]);
  const { findings } = await client.get<{ findings: Finding[] }>(`/folios/${folio.id}/preflight`);
  expect(
    findings
      .filter(({ place }) => place === 'sorting')
      .map(({ code }) => code)
      .sort(),
  ).toEqual(['rule-gives-gone', 'sorting-nothing', 'template-nobody', 'template-nobody', 'template-nobody']);
  expect((await client.send('POST', `/folios/${folio.id}/runs`, {})).status).toBe(409);
  // A letter’s parts may not ask what was made: it would be out of date by being there.
  const { content, version } = letterOf(folio);
  const bad = { ...content, parts: [{ id: 'p', if: { papers: 'new' } }] };
  const saved = await client.send('PUT', writingPath(folio, 'letter'), {
    version,
    kind: 'letter',
    content: bad,
  });
  expect(saved.status).toBe(400);
  // Nor does it go over into another folio: its rules name what there is here.
  const copied = await client.send('POST', `/folios/${other.folio.id}/writing-copies`, {
    folioId: folio.id,
    writingId: writingsOf(folio.writings, 'sorting')[0]!.id,
  });
  expect(copied.status).toBe(409);
});
