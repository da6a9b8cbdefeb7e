import type { Folio, Proof } from '@scriptum/core/contract';
import { columnChanges } from '@scriptum/core/roll';
import { beginWorked, readFormula } from '@scriptum/core/marks';
import type { Finding } from '@scriptum/core/preflight';
import type { Column } from '@scriptum/core/column';
import { dayIn } from '@scriptum/core/time';
import { openSheetFile } from '@scriptum/core/workbook';
import { FolioRow } from '@scriptum/server/store/entities/folio';
import { School } from '@scriptum/server/store/entities/people';
import { pdfText } from './testing/pdf.js';
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

const SHEET = 'Name,Class,Maths (40),Essay (20)\nAmara,8A,30,16\nŁukasz,8A,20,18\nZoë,8B,39,19\n';
let ids = 0;
const newId = (): string => `w${++ids}`;

const patch = async (folio: Folio, body: object): Promise<Folio> => {
  expect((await client.send('PATCH', `/folios/${folio.id}/roll`, body)).status).toBe(200);
  return client.get<Folio>(`/folios/${folio.id}`);
};

/** A folio with a mark, a rank in it, and a formula, whose letter prints all three. */
async function folioWithMarks(): Promise<Folio> {
  const folio = await client.folioOf(SHEET, { letter: ['Dear {{Name}}'] });
  let { roll } = folio;
  const add = (column: Column): void => {
    roll = { ...roll, columns: [...roll.columns, column] };
  };
  add(beginWorked('scheme', roll, null, newId));
  add(beginWorked('cohort', roll, roll.columns.at(-1)!.id, newId));
  const formula = readFormula('UPPER([Name]) & " of " & COUNTA(ALL([Name]))', roll.columns);
  if (!formula.ok) throw new Error(formula.problem.message);
  add({
    id: newId(),
    title: 'Shout',
    worked: { kind: 'expression', formula: formula.value, rounding: null },
  });
  const changed = await patch(folio, { columns: columnChanges(folio.roll.columns, roll.columns) });
  const field = (title: string): object => {
    const { id } = changed.roll.columns.find((column) => column.title === title)!;
    return { id: `f-${id}`, name: title, columnId: id };
  };
  const shown = ['Mark', 'Mark rank', 'Shout'].map(field) as { id: string }[];
  const letter = {
    ...letterOf(changed).content,
    fields: shown,
    body: {
      type: 'doc',
      content: shown.map(({ id }) => ({
        type: 'paragraph',
        content: [
          { type: 'text', text: 'Says: ' },
          { type: 'field', attrs: { fieldId: id } },
        ],
      })),
    },
  };
  const saved = await client.send('PUT', writingPath(folio, 'letter'), {
    version: letterOf(changed).version,
    kind: 'letter',
    content: letter,
  });
  expect(saved.status).toBe(200);
  return client.get<Folio>(`/folios/${folio.id}`);
}

async function textOf(folio: Folio, learner: string): Promise<string> {
  const { papers } = await client.register(folio.id);
  const paper = papers.find((one) => one.learner === learner && one.state !== 'superseded')!;
  const response = await client.raw('GET', `/folios/${folio.id}/papers/${paper.id}/file`);
  return pdfText(Buffer.from(await response.arrayBuffer()));
}

test('worked columns are kept, worked out anew on the server, proofed and pressed', async () => {
  const folio = await folioWithMarks();
  expect(folio.roll.columns.map(({ title }) => title)).toEqual([
    'Name',
    'Class',
    'Maths (40)',
    'Essay (20)',
    'Mark',
    'Mark rank',
    'Shout',
  ]);
  // What is worked out is never kept.
  expect(folio.roll.entries[0]!.worked).toBeUndefined();
  const proof = await client.send<Proof>('POST', `/folios/${folio.id}/proof`, {
    entryId: folio.roll.entries[0]!.id,
    template: letterOf(folio).content,
  });
  expect(proof.status).toBe(200);
  await client.press(server, folio.id);
  // (30 + 16) of 60, the second of three.
  const text = await textOf(folio, 'Amara');
  expect(text).toContain('Says: 76.7');
  expect(text).toContain('Says: 2');
  expect(text).toContain('Says: AMARA of 3');
});

test('a mark that changes makes the papers of others out of date too, and only those are pressed again', async () => {
  const folio = await folioWithMarks();
  await client.press(server, folio.id);
  const maths = folio.roll.columns.find(({ title }) => title === 'Maths (40)')!.id;
  await patch(folio, { cells: [{ entryId: folio.roll.entries[1]!.id, columnId: maths, text: '35' }] });
  const { papers } = await client.register(folio.id);
  // Łukasz goes from third to second, Amara from second to third; Zoë stays first.
  expect(
    papers
      .filter(({ outOfDate }) => outOfDate)
      .map(({ learner }) => learner)
      .sort(),
  ).toEqual(['Amara', 'Łukasz']);
  const { total } = await client
    .press(server, folio.id)
    .then(async () => (await client.register(folio.id)).run!);
  expect(total).toBe(2);
  expect(await textOf(folio, 'Amara')).toContain('Says: 3');
});

test('a value that was written by hand is printed, and counts for the others', async () => {
  const folio = await folioWithMarks();
  const mark = folio.roll.columns.find(({ title }) => title === 'Mark')!.id;
  await patch(folio, { cells: [{ entryId: folio.roll.entries[1]!.id, columnId: mark, text: '99' }] });
  await client.press(server, folio.id);
  expect(await textOf(folio, 'Łukasz')).toContain('Says: 99');
  expect(await textOf(folio, 'Zoë')).toContain('Says: 2');
});

test('preflight tells of them, and the roll as a file has them as numbers', async () => {
  const folio = await folioWithMarks();
  const maths = folio.roll.columns.find(({ title }) => title === 'Maths (40)')!.id;
  await patch(folio, { cells: [{ entryId: folio.roll.entries[0]!.id, columnId: maths, text: '44' }] });
  const { findings } = await client.get<{ findings: Finding[] }>(`/folios/${folio.id}/preflight`);
  expect(findings.map(({ code }) => code)).toContain('mark-above');
  const bytes = await (await client.raw('GET', `/folios/${folio.id}/roll-file?kind=xlsx`)).arrayBuffer();
  const opened = openSheetFile(new Uint8Array(bytes));
  const grid = opened.ok ? opened.value.grid({}) : opened;
  expect(grid.ok && grid.value.rows[1]?.slice(4)).toEqual(['100', '1', 'AMARA of 3']);
});

test('a definition that is none is refused, and nothing is kept', async () => {
  const folio = await client.folioOf(SHEET, { letter: ['Dear {{Name}}'] });
  const bad = { id: 'bad', title: 'Bad', worked: { kind: 'scheme', groups: [] } };
  const { status } = await client.send('PATCH', `/folios/${folio.id}/roll`, {
    columns: [{ do: 'add', column: bad, behind: null }],
  });
  expect(status).toBe(400);
  expect((await client.get<Folio>(`/folios/${folio.id}`)).roll.columns).toHaveLength(4);
});

test('a new sheet with the same columns keeps the worked ones; what it leaves impossible goes', async () => {
  const folio = await folioWithMarks();
  const titles = (of: Folio): string[] => of.roll.columns.map(({ title }) => title);
  const next = await client.bringIn(
    folio.id,
    'summer.csv',
    SHEET.replace('Amara,8A,30,16', 'Amara,8A,40,20'),
  );
  expect(titles(next.body)).toEqual(titles(folio));
  await client.press(server, folio.id);
  expect(await textOf(folio, 'Amara')).toContain('Says: 100.0');
  const other = await client.bringIn(folio.id, 'names.csv', 'Name,Class\nAmara,8A\n');
  expect(titles(other.body)).toEqual(['Name', 'Class', 'Shout']);
});

test('which day it is, is the school’s to say', async () => {
  const { manager } = server.running.database;
  const todayIn = async (timeZone: string): Promise<string[]> => {
    const own = await newSchool(server);
    const folio = await own.folioOf('Name\nAmara', { letter: ['Dear {{Name}}'] });
    const { schoolId } = await manager.findOneByOrFail(FolioRow, { id: folio.id });
    await manager.update(School, { id: schoolId }, { timeZone });
    const formula = readFormula('TODAY()', folio.roll.columns);
    if (!formula.ok) throw new Error(formula.problem.message);
    const columns: Column[] = [
      ...folio.roll.columns,
      {
        id: 'todaycolumn',
        title: 'Today',
        worked: { kind: 'expression', formula: formula.value, rounding: null },
      },
    ];
    const changes = columnChanges(folio.roll.columns, columns);
    await own.send('PATCH', `/folios/${folio.id}/roll`, { columns: changes });
    const before = dayIn(new Date(), timeZone);
    const response = await own.raw('GET', `/folios/${folio.id}/roll-file?kind=csv&who=all`);
    const [, , today] = (await response.text())
      .replaceAll('"', '')
      .trim()
      .split(/[\r\n,]+/)
      .slice(-3);
    return [today!.trim(), before, dayIn(new Date(), timeZone)];
  };
  // 25 hours apart, so that it is never the same day.
  for (const zone of ['Pacific/Kiritimati', 'Pacific/Niue']) {
    const [today, before, after] = await todayIn(zone);
    expect([before, after]).toContain(today);
  }
});
