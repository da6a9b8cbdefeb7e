import type { PaperLine } from '@scriptum/core/contract';
import type { Finding } from '@scriptum/core/preflight';
import type { Letter } from '@scriptum/core/template';
import type { Block, Inline } from '@scriptum/core/text';
import { qpdfCheck, wordBox } from './testing/pdf.js';
import { readPdf, rolesOf, type ReadPdf } from './testing/pdf-reader.js';
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

const DRAWING =
  '<svg xmlns="http://www.w3.org/2000/svg" width="10" height="10"><rect width="10" height="10"/></svg>';

const text = (value: string): Inline => ({ type: 'text', text: value });
const field = (fieldId: string): Inline => ({ type: 'field', attrs: { fieldId } });
const heading = (level: number, ...content: Inline[]): Block => ({
  type: 'heading',
  attrs: { level },
  content,
});
const paragraph = (...content: Inline[]): Block => ({ type: 'paragraph', content });

/** The papers of a letter that is changed before it is pressed, as pdf.js reads them, by learner. */
async function pressed(
  csv: string,
  change: (content: Letter, picture: (alt: string) => Block) => Partial<Letter>,
): Promise<{ papers: Map<string, ReadPdf>; findings: readonly Finding[] }> {
  const folio = await client.folioOf(csv, { letter: ['{{Name}} {{House}}'] });
  const { content, version } = letterOf(folio);
  const added = await client.raw('POST', `/folios/${folio.id}/assets?name=crest.svg`, Buffer.from(DRAWING));
  const { id } = (await added.json()) as { id: string };
  const picture = (alt: string): Block => ({
    type: 'picture',
    attrs: { asset: id, width: 20, align: 'left', alt },
  });
  const body = { version, kind: 'letter', content: { ...content, ...change(content, picture) } };
  expect((await client.send('PUT', writingPath(folio, 'letter'), body)).status).toBe(200);
  const { body: found } = await client.send<{ findings: Finding[] }>('GET', `/folios/${folio.id}/preflight`);
  await client.press(server, folio.id);
  const papers = new Map<string, ReadPdf>();
  for (const paper of (await client.register(folio.id)).papers)
    papers.set(paper.learner, await readPdf(await file(folio.id, paper)));
  return { papers, findings: found.findings };
}

async function file(folioId: string, paper: PaperLine): Promise<Buffer> {
  expect(paper.state).toBe('pressed');
  const answer = await client.raw('GET', `/folios/${folioId}/papers/${paper.id}/file`);
  const bytes = Buffer.from(await answer.arrayBuffer());
  expect(qpdfCheck(bytes)).toContain('No syntax or stream encoding errors');
  return bytes;
}

const bodyOf = (...content: Block[]): Pick<Letter, 'body'> => ({ body: { type: 'doc', content } });
const roles = (paper: ReadPdf): string[] =>
  paper.pages.flatMap(rolesOf).filter((role) => !['Root', 'Document', 'Span'].includes(role));
const idOf = ({ fields }: Letter, name: string): string => fields.find((one) => one.name === name)!.id;

// ISO 14289-1 (PDF/UA-1): 6.2 identification in XMP, 7.1 title and marks, 7.2 language, 7.3 alternatives, 7.4 headings, 7.6 lists.
test('a paper is tagged, says that it is PDF/UA-1, and reads in order', async () => {
  const { papers, findings } = await pressed('Name,House\nAmara,Otter\nBo,', (content, picture) => ({
    language: 'cy-GB',
    ...bodyOf(
      picture('Crest of the school'),
      heading(2, text('Report')),
      paragraph(text('Dear '), field(idOf(content, 'Name'))),
      heading(1, field(idOf(content, 'House'))),
      heading(3, text('Next')),
      { type: 'bulletList', content: [{ type: 'listItem', content: [paragraph(text('Draw'))] }] },
      picture(''),
      { type: 'horizontalRule' },
    ),
  }));
  const amara = papers.get('Amara')!;
  expect(amara).toMatchObject({ marked: true, title: 'Test', language: 'cy-GB' });
  expect(amara.metadata).toContain('<pdfuaid:part>1</pdfuaid:part>');
  // What only decorates is no figure.
  expect(roles(amara)).toEqual([
    'Figure: Crest of the school',
    'H1',
    'P',
    'H1',
    'H2',
    'L',
    'LI',
    'Lbl',
    'LBody',
  ]);
  // A heading that is blank is none, and no level is skipped behind it.
  const bo = papers.get('Bo')!;
  expect(bo.metadata).toContain('<pdfuaid:part>1</pdfuaid:part>');
  expect(roles(bo).filter((role) => role.startsWith('H'))).toEqual(['H1', 'H2']);
  expect(findings).toContainEqual(expect.objectContaining({ code: 'picture-unsaid' }));
});

// ISO 14289-1, 7.5 tables, 7.9 notes, 7.18.5 links: what is more than paragraphs keeps a paper accessible.
test('tables with a head, notes, links and frames are what they are to a reader; what only stands side by side is no table', async () => {
  const cell = (value: string, type: 'tableCell' | 'tableHeader' = 'tableCell') => ({
    type,
    content: [paragraph(text(value))],
  });
  const { papers } = await pressed('Name,House\nAmara,Otter', () => ({
    ...bodyOf(
      paragraph(
        text('See'),
        { type: 'footnote', attrs: { text: 'Said below.' } },
        { type: 'text', text: ' here', marks: [{ type: 'link', attrs: { href: 'https://a.example/' } }] },
      ),
      {
        type: 'frame',
        attrs: { ground: '#EDF1EF', line: true, whole: true },
        content: [paragraph(text('In it'))],
      },
      {
        type: 'table',
        content: [
          { type: 'tableRow', content: [cell('When', 'tableHeader'), cell('What', 'tableHeader')] },
          { type: 'tableRow', content: [cell('9:00'), cell('Start')] },
        ],
      },
      {
        type: 'table',
        attrs: { lines: 'none' },
        content: [{ type: 'tableRow', content: [cell('left'), cell('right')] }],
      },
    ),
  }));
  const amara = papers.get('Amara')!;
  expect(amara.metadata).toContain('<pdfuaid:part>1</pdfuaid:part>');
  const seen = roles(amara);
  for (const role of ['Link', 'Note', 'TH', 'TD']) expect(seen).toContain(role);
  expect(seen.filter((role) => role === 'Table')).toHaveLength(1);
  expect(seen.filter((role) => role === 'TR')).toHaveLength(2);
});

// UAX 9: a paragraph of a right-to-left language begins at the right, and its columns run from there.
test('a letter in a language from right to left is laid out from the right', async () => {
  const side = (textAlign: 'left' | 'right', word: string): Block => ({
    type: 'paragraph',
    attrs: { textAlign },
    content: [text(word)],
  });
  const cell = (value: string) => ({ type: 'tableCell' as const, content: [paragraph(text(value))] });
  const places: Record<string, Record<string, number>> = {};
  for (const language of ['en-GB', 'ar', 'he']) {
    const folio = await client.folioOf('Name,House\nAmara,Otter', { letter: ['{{Name}}'] });
    const { content, version } = letterOf(folio);
    const change = {
      language,
      ...bodyOf(paragraph(text('first')), side('left', 'lefty'), side('right', 'righty'), {
        type: 'table',
        content: [{ type: 'tableRow', content: [cell('one'), cell('two')] }],
      }),
    };
    const body = { version, kind: 'letter', content: { ...content, ...change } };
    expect((await client.send('PUT', writingPath(folio, 'letter'), body)).status).toBe(200);
    await client.press(server, folio.id);
    const [paper] = (await client.register(folio.id)).papers;
    const bytes = await file(folio.id, paper!);
    expect((await readPdf(bytes)).metadata).toContain('<pdfuaid:part>1</pdfuaid:part>');
    places[language] = Object.fromEntries(
      ['first', 'lefty', 'righty', 'one', 'two'].map((word) => [word, wordBox(bytes, word)!.x]),
    );
  }
  // The page is 595 points wide.
  const { first, lefty, righty, one, two } = places['en-GB']!;
  expect([first! < 100, lefty! < 100, righty! > 400, one! < two!]).toEqual([true, true, true, true]);
  for (const language of ['ar', 'he']) {
    const other = places[language]!;
    expect([
      other['first']! > 400,
      other['lefty']! < 100,
      other['righty']! > 400,
      other['one']! > other['two']!,
    ]).toEqual([true, true, true, true]);
  }
});

// ISO 19005-2 and 19005-3, 6.6.4: identification in XMP.
test.each([
  ['a-2b', '2'],
  ['a-3b', '3'],
] as const)('%s: an archive form', async (standard, part) => {
  const { papers } = await pressed('Name,House\nAmara,Otter', (content) => ({
    standard,
    ...bodyOf(paragraph(field(idOf(content, 'Name')))),
  }));
  const { metadata, marked } = papers.get('Amara')!;
  expect(marked).toBe(true);
  expect(metadata).toContain(`<pdfaid:part>${part}</pdfaid:part>`);
  expect(metadata).toContain('<pdfaid:conformance>B</pdfaid:conformance>');
});

test('what is against the standard stops no press: the paper is tagged, and does not say what it is not', async () => {
  const { papers, findings } = await pressed('Name,House\nAmara \u{13000},Otter\nBo,Otter', (content) =>
    bodyOf(paragraph(field(idOf(content, 'Name')))),
  );
  const odd = papers.get('Amara \u{13000}')!;
  expect(odd.marked).toBe(true);
  expect(odd.metadata).not.toContain('pdfuaid:part');
  expect(papers.get('Bo')!.metadata).toContain('<pdfuaid:part>1</pdfuaid:part>');
  expect(findings).toContainEqual(expect.objectContaining({ code: 'letters-missing' }));
});
