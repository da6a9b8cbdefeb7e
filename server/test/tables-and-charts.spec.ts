import type { Folio, PaperLine } from '@scriptum/core/contract';
import type { Finding } from '@scriptum/core/preflight';
import type { ChartFilling, Field, TableColumn, TableFilling } from '@scriptum/core/template';
import { linesOfPdf, pdfFonts, qpdfCheck } from './testing/pdf.js';
import { readPdf, rolesOf } from './testing/pdf-reader.js';
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

const MARKS = `Name,Class,English mark,History mark
Amara,8A,55.5,60
Bo,8A,70,
Cai,8A,80,90
Dilys,8B,,
`;

const column = (title: string, more: Partial<TableColumn> = {}): TableColumn => ({
  id: title || 'none',
  title,
  look: { kind: 'plain' },
  width: 'auto',
  ...more,
});

interface Made {
  readonly folioId: string;
  readonly papers: ReadonlyMap<string, PaperLine>;
  readonly file: (learner: string) => Promise<Buffer>;
  readonly findings: readonly Finding[];
}

/** Papers of a letter that holds some fields as blocks, made from the identities of the columns. */
async function made(
  csv: string,
  fields: (ids: Record<string, string>) => Omit<Field, 'id' | 'columnId'>[],
): Promise<Made> {
  const folio = await client.folioOf(csv, { letter: ['{{Name}}'] });
  const ids = Object.fromEntries(folio.roll.columns.map(({ title, id }) => [title, id]));
  const { content, version } = letterOf(folio);
  const own = fields(ids).map((field, n): Field => ({ ...field, id: `block${n}`, columnId: null }));
  const body = {
    type: 'doc',
    content: [
      ...content.body.content,
      ...own.map(({ id }) => ({ type: 'fieldBlock', attrs: { fieldId: id } })),
    ],
  };
  const put = await client.send('PUT', writingPath(folio, 'letter'), {
    version,
    kind: 'letter',
    content: { ...content, fields: [...content.fields, ...own], body },
  });
  expect(put.status).toBe(200);
  const { body: found } = await client.send<{ findings: Finding[] }>('GET', `/folios/${folio.id}/preflight`);
  await client.press(server, folio.id);
  const { papers } = await client.register(folio.id);
  const lines = new Map(papers.map((paper) => [paper.learner, paper]));
  const file = async (learner: string): Promise<Buffer> => {
    const answer = await client.raw('GET', `/folios/${folio.id}/papers/${lines.get(learner)!.id}/file`);
    const bytes = Buffer.from(await answer.arrayBuffer());
    expect(qpdfCheck(bytes)).toContain('No syntax or stream encoding errors');
    return bytes;
  };
  return { folioId: folio.id, papers: lines, file, findings: found.findings };
}

const marks = (ids: Record<string, string>): TableFilling => ({
  columns: [
    column('Subject', { look: { kind: 'strong' }, width: { share: 1 } }),
    column('Mark', { total: 'mean' }),
    column('Bar', { look: { kind: 'bar', most: 100, mean: true } }),
    column('Class mean'),
  ],
  rows: {
    kind: 'each',
    rows: ['English', 'History'].map((subject) => {
      const named = { columnId: ids[`${subject} mark`]!, name: `${subject} mark` };
      return {
        id: subject,
        cells: [
          { kind: 'text', text: subject },
          { kind: 'column', ...named },
          { kind: 'column', ...named },
          { kind: 'mean', ...named },
        ],
      };
    }),
  },
  within: [{ columnId: ids['Class']!, name: 'Class' }],
  blankRows: 'stand',
});

// ISO 14289-1, 7.5: a table has rows of cells, and heads that say so.
test('a table of marks is a table to every reader, with the mean of the class', async () => {
  const { file, papers, findings } = await made(MARKS, (ids) => [{ name: 'Marks', table: marks(ids) }]);
  const amara = await file('Amara');
  const lines = linesOfPdf(amara).map((line) => line.trim().split(/\s{2,}/));
  expect(lines).toContainEqual(['Subject', 'Mark', 'Bar', 'Class mean']);
  // (55.5 + 70 + 80) / 3 is 68.5; in history only two have a mark.
  expect(lines).toContainEqual(['English', '55.5', '68.5']);
  expect(lines).toContainEqual(['History', '60']);
  const { pages, metadata } = await readPdf(amara);
  expect(metadata).toContain('<pdfuaid:part>1</pdfuaid:part>');
  const roles = pages.flatMap(rolesOf).filter((role) => /^(Table|T|Figure)/.test(role));
  expect(roles.filter((role) => role === 'TH')).toHaveLength(4);
  // Cells that say nothing are not told.
  expect(roles.filter((role) => role === 'TD')).toHaveLength(8);
  expect(roles.filter((role) => role.startsWith('Figure'))).toEqual([
    'Figure: Bar: 55.5 | 68.5',
    'Figure: Bar: 60',
  ]);
  // Nobody has a mark there: no empty table is left behind, and it is told.
  expect(linesOfPdf(await file('Dilys')).join(' ')).not.toContain('Subject');
  expect(findings).toContainEqual(
    expect.objectContaining({
      code: 'field-empty',
      message: expect.stringContaining('“Marks” is empty for Dilys'),
    }),
  );
  expect(papers.get('Dilys')!.state).toBe('pressed');
});

test('a mark that changes puts the papers of those out of date whose mean it changes', async () => {
  const { folioId } = await made(MARKS, (ids) => [{ name: 'Marks', table: marks(ids) }]);
  const { roll } = await client.get<Folio>(`/folios/${folioId}`);
  const english = roll.columns.find(({ title }) => title === 'English mark')!.id;
  const cai = roll.entries.find(({ values }) => Object.values(values).includes('Cai'))!.id;
  const patch = { cells: [{ entryId: cai, columnId: english, text: '81' }] };
  expect((await client.send('PATCH', `/folios/${folioId}/roll`, patch)).status).toBeLessThan(300);
  const old = async (): Promise<string[]> =>
    (await client.register(folioId)).papers
      .filter(({ outOfDate }) => outOfDate)
      .map(({ learner }) => learner);
  expect(await old()).toEqual(['Amara', 'Bo', 'Cai']);
});

test('charts are pictures that say their numbers, with words in the type of the paper', async () => {
  const { file } = await made(MARKS, (ids) => {
    const values = ['English', 'History'].map((title) => ({
      title,
      columnId: ids[`${title} mark`]!,
      name: '',
    }));
    const bars: ChartFilling = { kind: 'bars', values, mean: true, within: [], axis: 'Mark in %', width: 60 };
    return [
      { name: 'Bars', chart: bars },
      { name: 'Line', chart: { ...bars, kind: 'course' } },
      {
        name: 'Place',
        chart: { kind: 'place', columnId: ids['English mark']!, name: '', within: [], axis: 'English' },
      },
    ];
  });
  const bo = await file('Bo');
  const { pages, metadata } = await readPdf(bo);
  expect(metadata).toContain('<pdfuaid:part>1</pdfuaid:part>');
  const alt = 'Mark in %. English: 70 (Mean 68.5); History: –';
  expect(pages.flatMap(rolesOf).filter((role) => role.startsWith('Figure'))).toEqual([
    `Figure: ${alt}`,
    `Figure: ${alt}`,
    expect.stringMatching(/^Figure: English\. Own mark 70\. Learners 54–56: 1; 56–58: 0; /),
  ]);
  expect(linesOfPdf(bo).join(' ')).toMatch(/English .*70.*Own mark/);
  // Dilys has no mark: no chart is left behind.
  expect((await readPdf(await file('Dilys'))).pages.flatMap(rolesOf)).not.toContain('Figure');
});

test('a table of 200 rows goes on over the pages, with its head on each', async () => {
  const { file } = await made(MARKS, (ids) => [
    {
      name: 'Long',
      table: {
        ...marks(ids),
        rows: {
          kind: 'each',
          rows: Array.from({ length: 200 }, (_, n) => ({
            id: `r${n}`,
            cells: [
              { kind: 'text', text: `Subject ${n + 1}` },
              { kind: 'column', columnId: ids['English mark']!, name: '' },
            ],
          })),
        },
      },
    },
  ]);
  const lines = linesOfPdf(await file('Amara'));
  const heads = lines.filter((line) => line.includes('Class mean')).length;
  expect(heads).toBeGreaterThan(4);
  expect((await readPdf(await file('Amara'))).pages).toHaveLength(heads);
  expect(lines.some((line) => /Subject 200\s/.test(line))).toBe(true);
});

test('words stand in the place of a table or chart that is blank', async () => {
  const { file } = await made(MARKS, (ids) => {
    const whenBlank = { do: 'words' as const, words: 'No marks yet.' };
    const values = [{ title: 'English', columnId: ids['English mark']!, name: '' }];
    return [
      { name: 'Marks', table: marks(ids), whenBlank },
      { name: 'Bars', chart: { kind: 'bars', values, mean: false, within: [], axis: '' }, whenBlank },
    ];
  });
  expect(linesOfPdf(await file('Dilys')).filter((line) => line.includes('No marks yet.'))).toHaveLength(2);
  expect(linesOfPdf(await file('Amara')).join(' ')).not.toContain('No marks yet.');
});

test('same input, same bytes', async () => {
  const { file, folioId } = await made(MARKS, (ids) => [{ name: 'Marks', table: marks(ids) }]);
  const first = await file('Amara');
  await client.press(server, folioId);
  expect(await file('Amara')).toEqual(first);
});

test('what is told to be a table is one: a stranger field is refused with a sentence', async () => {
  const folio = await client.folioOf(MARKS, { letter: ['{{Name}}'] });
  const { content, version } = letterOf(folio);
  const put = (table: unknown): Promise<{ status: number }> =>
    client.send('PUT', writingPath(folio, 'letter'), {
      version,
      kind: 'letter',
      content: { ...content, fields: [{ id: 't', name: 'T', columnId: null, table }] },
    });
  const fine = { columns: [column('A')], rows: { kind: 'each', rows: [] }, within: [], blankRows: 'stand' };
  for (const table of [
    { ...fine, columns: [] },
    { ...fine, columns: Array.from({ length: 21 }, (_, n) => column(`${n}`)) },
    {
      ...fine,
      rows: { kind: 'each', rows: Array.from({ length: 201 }, (_, n) => ({ id: `${n}`, cells: [] })) },
    },
    { ...fine, columns: [column('A', { look: { kind: 'bar', most: 0, mean: true } })] },
    { ...fine, columns: [column('A', { width: { mm: 2 } })] },
    { ...fine, columns: [column('x'.repeat(301))] },
    'a table',
  ])
    expect((await put(table)).status).toBe(400);
  expect((await put(fine)).status).toBe(200);
});

test('pages begin where it is said, and say which they are; every type is its own', async () => {
  const folio = await client.folioOf(MARKS, { letter: ['{{Name}}'] });
  const { content, version } = letterOf(folio);
  const [name] = content.fields;
  const page = (all: boolean): Field => ({
    id: `page${all}`,
    name: 'Page',
    columnId: null,
    same: { kind: 'page', all },
  });
  const place = (fieldId: string) => ({ type: 'field', attrs: { fieldId } });
  const paragraph = (style: string | null, text: string) => ({
    type: 'paragraph',
    attrs: { style },
    content: [{ type: 'text', text }],
  });
  const body = {
    type: 'doc',
    content: [
      paragraph('title', 'Report'),
      { type: 'heading', attrs: { level: 1 }, content: [{ type: 'text', text: 'Marks' }] },
      { type: 'pageBreak' },
      paragraph('quotation', 'Quoted'),
      paragraph('small', 'Small print'),
      paragraph('signature', 'Marit Osgathorpe'),
    ],
  };
  const right = [place('pagefalse'), { type: 'text', text: ' of ' }, place('pagetrue')];
  const put = await client.send('PUT', writingPath(folio, 'letter'), {
    version,
    kind: 'letter',
    content: {
      ...content,
      fields: [...content.fields, page(false), page(true)],
      body,
      font: { family: 'Lora', size: 11 },
      headings: { family: 'Playfair Display', colour: '#1D6B61' },
      signature: 'Great Vibes',
      head: { left: [{ type: 'text', text: 'Thistlequay' }], right: [], later: true },
      foot: { left: [place(name!.id)], right, later: false },
    },
  });
  expect(put.status).toBe(200);
  await client.press(server, folio.id);
  const [paper] = (await client.register(folio.id)).papers;
  expect(paper).toMatchObject({ learner: 'Amara', pages: 2 });
  const answer = await client.raw('GET', `/folios/${folio.id}/papers/${paper!.id}/file`);
  const bytes = Buffer.from(await answer.arrayBuffer());
  const lines = linesOfPdf(bytes).map((line) => line.trim().replace(/\s{2,}/g, ' | '));
  expect(lines).toEqual([
    'Report',
    'Marks',
    'Amara | 1 of 2',
    // A form feed stands between pages.
    expect.stringContaining('Thistlequay'),
    'Quoted',
    'Small print',
    'Marit Osgathorpe',
    'Amara | 2 of 2',
  ]);
  const fonts = pdfFonts(bytes).join(' ');
  for (const font of ['Lora-Regular', 'Lora-Italic', 'PlayfairDisplay-Bold', 'GreatVibes'])
    expect(fonts).toContain(font);
  expect((await readPdf(bytes)).metadata).toContain('<pdfuaid:part>1</pdfuaid:part>');
});
