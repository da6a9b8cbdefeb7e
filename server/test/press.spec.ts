import type { Folio, PaperLine, Proof } from '@scriptum/core/contract';
import type { Finding } from '@scriptum/core/preflight';
import { blankRules, PAPER_SIZES, type Field, type Letter } from '@scriptum/core/template';
import {
  textPlain,
  withoutBlank,
  type Block,
  type FlowText,
  type Inline,
  type ListItem,
} from '@scriptum/core/text';
import { DatabaseSlices } from '@scriptum/server/jobs/database-slices';
import { endRun } from '@scriptum/server/press/commit-papers';
import { PressRunRow } from '@scriptum/server/store/entities/register';
import {
  type Client,
  filingOf,
  letterOf,
  newSchool,
  startTestServer,
  type TestServer,
  writingPath,
} from './testing/school.js';
import { packOf } from './testing/packs.js';
import { pdfFonts, pdfInfo, pdfText, qpdfCheck, wordBox } from './testing/pdf.js';
import { readPdf } from './testing/pdf-reader.js';
import { countPixels, pixelsOf } from './testing/pixels.js';

let server: TestServer;
let client: Client;
beforeAll(async () => {
  server = await startTestServer();
  client = await newSchool(server);
});
afterAll(() => server.close());

const file = async (folioId: string, paper: PaperLine): Promise<Buffer> =>
  Buffer.from(await (await client.raw('GET', `/folios/${folioId}/papers/${paper.id}/file`)).arrayBuffer());

const NAMES = [
  'Amara Okonjo-Baptiste',
  'Łukasz Wiśniewski',
  'Nguyễn Thị Ánh',
  'Γεωργία Παππά',
  'Ольга Черненко',
  'محمد السعدي',
  'یوسف الحسینی',
  'נועם ארי',
  'अनन्या शर्मा',
  'ณัฐพงษ์ ศรีสุข',
  '王小明',
  '김서연',
  'さくら',
  'D’Arcy',
  'ሰላም አበበ',
  'বাংলা',
  'ગુજરાતી',
  'ਪੰਜਾਬੀ',
  'ಕನ್ನಡ',
  'മലയാളം',
  'සිංහල',
  'தமிழ்',
  'తెలుగు',
  'ქართული',
  'Հայերեն',
  'ລາວ',
  'Zoë ★',
  '#panic("x") {{Name}} <script>',
  '*bold* $x$ @ref \\ #let',
];

test('names of every script come out of the PDF as they went in (read back with pdftotext, checked with qpdf)', async () => {
  const cell = (name: string): string => `"${name.replace(/"/g, '""')}"`;
  const folio = await client.folioOf(`Name,Class\n${NAMES.map((name) => `${cell(name)},8A`).join('\n')}`, {
    letter: ['Dear', '{{Name}}', 'of class {{Class}}, {{Class}} again'],
    file: '{{Class}}/{{Name}}',
  });
  await client.press(server, folio.id);
  const { papers, run } = await client.register(folio.id);
  expect(run).toMatchObject({ state: 'finished', total: NAMES.length, pressed: NAMES.length, failed: 0 });
  for (const [n, paper] of papers.entries()) {
    const bytes = await file(folio.id, paper);
    expect(bytes.length).toBe(paper.bytes);
    expect(qpdfCheck(bytes)).toContain('No syntax or stream encoding errors');
    expect(pdfText(bytes)).toContain(NAMES[n]);
    expect(pdfText(bytes)).toContain('of class 8A, 8A again');
  }
  expect(papers[NAMES.indexOf('#panic("x") {{Name}} <script>')]?.fileName).toBe(
    '8A/#panic(-x-) {{Name}} -script-.pdf',
  );
});

test('only fonts that ship are used, whatever the machine has', async () => {
  const folio = await client.folioOf('Name\n\u{13000} \ue000 ქართული ★ 王 😀', { letter: ['{{Name}}'] });
  const findings = await client.send<{ findings: Finding[] }>('GET', `/folios/${folio.id}/preflight`);
  expect(findings.body.findings).toContainEqual(
    expect.objectContaining({
      code: 'letters-missing',
      message: expect.stringContaining('\u{13000} (U+13000), \ue000 (U+E000)'),
      entryIds: [folio.roll.entries[0]!.id],
    }),
  );
  await client.press(server, folio.id);
  const [paper] = (await client.register(folio.id)).papers;
  const fonts = pdfFonts(await file(folio.id, paper!));
  expect(fonts.length).toBeGreaterThan(3);
  for (const font of fonts) expect(font).toMatch(/\+(SourceSerif4|Noto)/);
});

test('page sizes (ISO 216: A4 is 210 × 297 mm; ANSI/ASME Y14.1: A is 8.5 × 11 in; 72 points are an inch)', async () => {
  const folio = await client.folioOf('Name\nAmara', { letter: ['Dear {{Name}}'] });
  const { body: saved } = await client.send<{ version: number }>('PUT', writingPath(folio, 'letter'), {
    version: letterOf(folio).version,
    kind: 'letter',
    content: letterOf(folio).content,
  });
  await client.press(server, folio.id);
  const size = async (): Promise<number[]> => {
    const paper = (await client.register(folio.id)).papers.find((each) => each.state === 'pressed')!;
    return (pdfInfo(await file(folio.id, paper))['Page size'] ?? '')
      .match(/[\d.]+/g)!
      .slice(0, 2)
      .map(Number);
  };
  const [width, height] = await size();
  expect(width).toBeCloseTo((210 / 25.4) * 72, 1);
  expect(height).toBeCloseTo((297 / 25.4) * 72, 1);
  await client.send('PUT', writingPath(folio, 'letter'), {
    version: saved.version,
    kind: 'letter',
    content: { ...letterOf(folio).content, page: { ...letterOf(folio).content.page, ...PAPER_SIZES.Letter } },
  });
  await client.press(server, folio.id);
  expect(await size()).toEqual([612, 792]);
});

test('asking twice makes nothing twice; what changed is made anew and the earlier one stays', async () => {
  const folio = await client.folioOf('Name\nAmara\nIlse', { letter: ['Dear {{Name}}'] });
  expect(await client.press(server, folio.id)).toMatchObject({ run: { total: 2 }, upToDate: 0 });
  expect(await client.press(server, folio.id)).toEqual({ run: null, upToDate: 2 });
  await client.send('PUT', writingPath(folio, 'letter'), {
    version: letterOf(folio).version,
    kind: 'letter',
    content: { ...letterOf(folio).content, language: 'de-DE' },
  });
  expect((await client.register(folio.id)).papers.map((paper) => paper.outOfDate)).toEqual([true, true]);
  const [first] = folio.roll.entries;
  expect(await client.press(server, folio.id, [first!.id])).toMatchObject({ run: { total: 1 } });
  const { papers } = await client.register(folio.id);
  expect(
    papers
      .filter((paper) => paper.entryId === first!.id)
      .map((paper) => paper.state)
      .sort(),
  ).toEqual(['pressed', 'superseded']);
  expect(
    (
      await file(
        folio.id,
        papers.find((paper) => paper.state === 'superseded')!,
      )
    )
      .subarray(0, 5)
      .toString(),
  ).toBe('%PDF-');
});

test('a held paper stays held when it is made anew', async () => {
  const folio = await client.folioOf('Name\nAmara', { letter: ['Dear {{Name}}'] });
  await client.press(server, folio.id);
  const [paper] = (await client.register(folio.id)).papers;
  await client.send('POST', `/folios/${folio.id}/papers/hold`, { paperIds: [paper!.id], hold: true });
  await client.send('PUT', writingPath(folio, 'letter'), {
    version: letterOf(folio).version,
    kind: 'letter',
    content: { ...letterOf(folio).content, language: 'de-DE' },
  });
  await client.press(server, folio.id);
  expect((await client.register(folio.id)).papers.map((each) => each.state).sort()).toEqual([
    'held',
    'superseded',
  ]);
});

describe('fillings', () => {
  /** A folio whose letter is changed before it is pressed; the texts of its papers by learner. */
  async function pressed(
    csv: string,
    letter: string[],
    change: (content: Letter) => Partial<Letter>,
  ): Promise<{ folio: Folio; texts: Map<string, string> }> {
    const folio = await client.folioOf(csv, { letter });
    const { content, version } = letterOf(folio);
    const body = { version, kind: 'letter', content: { ...content, ...change(content) } };
    await client.send('PUT', writingPath(folio, 'letter'), body);
    await client.press(server, folio.id);
    const texts = new Map<string, string>();
    for (const paper of (await client.register(folio.id)).papers)
      texts.set(paper.learner, pdfText(await file(folio.id, paper)).trim());
    return { folio, texts };
  }
  const ruled = (content: Letter, name: string, more: Partial<Field>): Letter['fields'] =>
    content.fields.map((field) => (field.name === name ? { ...field, ...more } : field));
  const field = (fieldId: string): Inline => ({ type: 'field', attrs: { fieldId } });

  test('a sentence, a line, an item of a list and the list go out with a blank field, on paper as in plain text', async () => {
    const csv =
      'Name,Mark,Club,Team,Street,Town\nAmara,71,Chess,Otters,1 Weir Lane,Withycombe\nBo,,,,,Withycombe';
    let doc: FlowText = { type: 'doc', content: [] };
    let fields: Letter['fields'] = [];
    const { texts } = await pressed(
      csv,
      ['{{Name}} {{Mark}} {{Club}} {{Team}} {{Street}} {{Town}}'],
      (content) => {
        const id = (name: string): string => content.fields.find((one) => one.name === name)!.id;
        const text = (value: string): Inline => ({ type: 'text', text: value });
        const item = (...inlines: Inline[]): ListItem => ({
          type: 'listItem',
          content: [{ type: 'paragraph', content: inlines }],
        });
        fields = content.fields.map((one) => ({
          ...one,
          ...(one.name === 'Mark' ? { whenBlank: { do: 'sentence' as const } } : {}),
          ...(['Club', 'Team', 'Street', 'Town'].includes(one.name)
            ? { whenBlank: { do: 'line' as const } }
            : {}),
        }));
        doc = {
          type: 'doc',
          content: [
            { type: 'paragraph', content: [field(id('Street')), { type: 'hardBreak' }, field(id('Town'))] },
            {
              type: 'paragraph',
              content: [text('Well done. Your mark is '), field(id('Mark')), text('. See you soon.')],
            },
            {
              type: 'bulletList',
              content: [item(text('Club '), field(id('Club'))), item(text('Team '), field(id('Team')))],
            },
            { type: 'orderedList', content: [item(text('First')), item(field(id('Club')))] },
            { type: 'heading', attrs: { level: 2 }, content: [text('About '), field(id('Team'))] },
            { type: 'paragraph', attrs: { textAlign: 'justify' }, content: [field(id('Mark')), text('!')] },
            { type: 'paragraph', content: [text('The end')] },
          ],
        };
        return { fields, body: doc };
      },
    );
    const lines = (text: string): string[] =>
      text
        .split('\n')
        .map((line) =>
          line
            .replace(/^[•-]\s*/, '')
            .replace(/\s+/g, ' ')
            .trim(),
        )
        .filter(Boolean);
    for (const [learner, values] of [
      [
        'Amara',
        {
          Name: 'Amara',
          Mark: '71',
          Club: 'Chess',
          Team: 'Otters',
          Street: '1 Weir Lane',
          Town: 'Withycombe',
        },
      ],
      ['Bo', { Name: 'Bo', Mark: '', Club: '', Team: '', Street: '', Town: 'Withycombe' }],
    ] as const) {
      const byId = Object.fromEntries(
        fields.map(({ id, name }) => [id, values[name as keyof typeof values]]),
      );
      const left = withoutBlank(doc, blankRules(fields, 'en-GB'), (id) => byId[id] === '');
      expect(lines(texts.get(learner)!)).toEqual(lines(textPlain(left, byId)));
    }
    expect(lines(texts.get('Bo')!)).toEqual([
      'Withycombe',
      'Well done. See you soon.',
      '1. First',
      'The end',
    ]);
  });

  test('words come and go by a condition, in a paragraph, an item, a heading and a line of an address', async () => {
    const csv = 'Name,Mark\nAmara,91\nBo,40';
    const { folio, texts } = await pressed(csv, ['{{Name}} {{Mark}}'], ({ fields }) => {
      const mark = fields.find(({ name }) => name === 'Mark')!.columnId!;
      const part = (text: string): Inline => ({
        type: 'text',
        text,
        marks: [{ type: 'bold' }, { type: 'part', attrs: { part: 'high' } }],
      });
      const text = (value: string): Inline => ({ type: 'text', text: value });
      const paragraph = (...content: Inline[]) => ({ type: 'paragraph' as const, content });
      return {
        parts: [{ id: 'high', if: { columnId: mark, is: 'at least', values: ['80'] } }],
        body: {
          type: 'doc' as const,
          content: [
            paragraph(text('Well done. '), part('Very well.'), text(' Go on.')),
            { type: 'heading' as const, attrs: { level: 2 }, content: [part('Only for some')] },
            {
              type: 'heading' as const,
              attrs: { level: 2 },
              content: [part('Prize, '), field(fields[0]!.id)],
            },
            {
              type: 'bulletList' as const,
              content: [{ type: 'listItem' as const, content: [paragraph(part('an item'))] }],
            },
            paragraph(part('First line'), { type: 'hardBreak' }, text('Second line')),
          ],
        },
      };
    });
    const lines = (learner: string): string[] => texts.get(learner)!.split(/\n+/).filter(Boolean);
    expect(lines('Amara')).toEqual([
      'Well done. Very well. Go on.',
      'Only for some',
      'Prize, Amara',
      '• an item',
      'First line',
      'Second line',
    ]);
    expect(lines('Bo')).toEqual(['Well done. Go on.', 'Bo', 'Second line']);
    const pdf = await readPdf(await file(folio.id, (await client.register(folio.id)).papers[1]!));
    expect(pdf.metadata).toContain('<pdfuaid:part>1</pdfuaid:part>');
  });

  test('each family gets the letter in its language; who changes it gets the other one', async () => {
    const csv = 'Name,Home language\nAmara,English\nNadia,Arabic\nBo,';
    const folio = await client.folioOf(csv, { letter: ['Dear {{Name}}'] });
    const { id: of, content } = letterOf(folio);
    const language = folio.roll.columns.find(({ title }) => title === 'Home language')!;
    const arabic: Letter = {
      ...content,
      name: 'Letter, Arabic',
      language: 'ar',
      body: {
        type: 'doc',
        content: [
          { type: 'paragraph', content: [{ type: 'text', text: 'عزيزتي ' }, field(content.fields[0]!.id)] },
        ],
      },
      variant: { of, columnId: language.id, name: language.title, says: ['Arabic', 'ar'] },
    };
    const added = await client.send('POST', `/folios/${folio.id}/writings`, {
      kind: 'letter',
      content: arabic,
    });
    expect(added.status).toBe(200);
    await client.press(server, folio.id);
    const { papers } = await client.register(folio.id);
    expect(papers).toHaveLength(3);
    const texts = new Map<string, string>();
    for (const paper of papers) texts.set(paper.learner, pdfText(await file(folio.id, paper)).trim());
    expect(texts.get('Amara')).toBe('Dear Amara');
    expect(texts.get('Bo')).toBe('Dear Bo');
    expect(texts.get('Nadia')).toContain('عزيزتي');
    // Its name is that of the first paper, and no second letter’s.
    expect(papers.map(({ fileName }) => fileName)).not.toContainEqual(expect.stringContaining('Arabic'));
    const bo = folio.roll.entries.find(({ values }) => Object.values(values).includes('Bo'))!;
    await client.send('PATCH', `/folios/${folio.id}/roll`, {
      cells: [{ entryId: bo.id, columnId: language.id, text: 'ar' }],
    });
    const again = await client.press(server, folio.id);
    expect(again.upToDate).toBe(2);
    expect(again.run!.total).toBe(1);
    const now = await client.register(folio.id);
    // The one in the other language takes its place.
    const old = now.papers.filter(({ entryId, state }) => entryId === bo.id && state === 'superseded');
    expect(old.map(({ templateId }) => templateId)).toEqual([of]);
    // In another folio it stands in for nothing.
    const copied = await client.send<{ content: Letter }>(
      'POST',
      `/folios/${(await client.folioOf(csv, { letter: ['{{Name}}'] })).id}/writing-copies`,
      {
        folioId: folio.id,
        writingId: (added.body as { id: string }).id,
      },
    );
    expect(copied.body.content.variant).toBeUndefined();
  });

  test('the size and colour of a kind of text are said once', async () => {
    const title = { type: 'paragraph' as const, attrs: { style: 'title' as const } };
    const { folio } = await pressed('Name\nAmara', ['{{Name}}'], () => ({
      styles: { title: { size: 60, colour: '#c81e28' }, small: { size: 12 } },
      body: {
        type: 'doc' as const,
        content: [
          { ...title, content: [{ type: 'text' as const, text: 'WWWW' }] },
          { type: 'paragraph' as const, content: [{ type: 'text' as const, text: 'Below' }] },
        ],
      },
    }));
    const pdf = await file(folio.id, (await client.register(folio.id)).papers[0]!);
    expect(countPixels(pixelsOf(pdf), [200, 30, 40])).toBeGreaterThan(500);
    // A line of 60 points and more stands above it.
    expect(wordBox(pdf, 'Below')!.y - wordBox(pdf, 'WWWW')!.y).toBeGreaterThan(60);
  });

  // UAX 14: no line begins with a full stop or comma of Chinese and Japanese (CL, EX) or ends with an opening bracket (OP),
  // and a no-break space (GL) keeps a number and its unit together.
  test('lines break where Unicode lets them', async () => {
    const { texts } = await pressed('Name\nAmara', ['{{Name}}'], ({ page }) => ({
      page: { ...page, width: 90, margins: { top: 10, right: 10, bottom: 10, left: 10 } },
      body: {
        type: 'doc' as const,
        content: [
          'これは、とても長い文です。改行の位置を（かっこを含めて）調べます。'.repeat(8),
          'we walked 10\u00a0km (or more) and then '.repeat(30),
        ].map((text) => ({ type: 'paragraph' as const, content: [{ type: 'text' as const, text }] })),
      },
    }));
    const lines = texts.get('Amara')!.split('\n').filter(Boolean);
    expect(lines.length).toBeGreaterThan(20);
    for (const line of lines) {
      expect(line).not.toMatch(/^[、。）)]/u);
      expect(line).not.toMatch(/[（(]$/u);
      expect(line).not.toMatch(/\b10$/);
      expect(line).not.toMatch(/^km\b/);
    }
  });

  test('text runs in columns, one filled after the other', async () => {
    const { folio } = await pressed('Name\nAmara', ['{{Name}}'], ({ page }) => ({
      page: { ...page, columns: 2 },
      body: {
        type: 'doc' as const,
        content: Array.from({ length: 60 }, (_, n) => ({
          type: 'paragraph' as const,
          content: [
            { type: 'text' as const, text: `Word${n} and more words that go on for a line or so of it` },
          ],
        })),
      },
    }));
    const pdf = await file(folio.id, (await client.register(folio.id)).papers[0]!);
    const [first, second, last] = [0, 1, 25].map((n) => wordBox(pdf, `Word${n}`));
    // A4 is 595.28 points wide (ISO 216), with 25 mm at each side.
    expect(second!.x).toBeCloseTo(first!.x, 0);
    expect(second!.y).toBeGreaterThan(first!.y);
    expect(last!.x).toBeGreaterThan(595.28 / 2);
  });

  test('a paper is held where its field is blank, until that is filled', async () => {
    const { folio } = await pressed('Name,Mark\nAmara,71\nBo,', ['{{Name}} {{Mark}}'], (content) => ({
      fields: ruled(content, 'Mark', { whenBlank: { do: 'hold' } }),
    }));
    const states = async (): Promise<string[]> =>
      (await client.register(folio.id)).papers
        .filter(({ state }) => state !== 'superseded')
        .map(({ learner, state }) => `${learner} ${state}`)
        .sort();
    expect(await states()).toEqual(['Amara pressed', 'Bo held']);
    const mark = folio.roll.columns.find(({ title }) => title === 'Mark')!;
    const cells = [{ entryId: folio.roll.entries[1]!.id, columnId: mark.id, text: '64' }];
    const patched = await client.send('PATCH', `/folios/${folio.id}/roll`, { cells });
    expect(patched.status).toBe(200);
    await client.press(server, folio.id);
    expect(await states()).toEqual(['Amara pressed', 'Bo pressed']);
  });

  test('a part stands only where its condition holds, on paper as in the proof', async () => {
    const csv = 'Name,Mark\nAmara,71\nBo,64';
    let part: Letter['parts'] = [];
    const { folio, texts } = await pressed(csv, ['{{Name}} {{Mark}}'], (content) => {
      const mark = content.fields.find(({ name }) => name === 'Mark')!.columnId!;
      part = [{ id: 'distinction', if: { columnId: mark, is: 'at least', values: ['70'] } }];
      const some = { part: 'distinction' };
      const said = (value: string): Inline[] => [{ type: 'text', text: value }];
      return {
        parts: part,
        body: {
          type: 'doc',
          content: [
            { type: 'heading', attrs: { level: 1, ...some }, content: said('Distinction') },
            { type: 'paragraph', attrs: some, content: said('We are proud of you.') },
            {
              type: 'bulletList',
              attrs: some,
              content: [{ type: 'listItem', content: [{ type: 'paragraph', content: said('Prize') }] }],
            },
            { type: 'horizontalRule', attrs: some },
            {
              type: 'orderedList',
              content: [
                {
                  type: 'listItem',
                  content: [{ type: 'paragraph', attrs: some, content: said('Only some') }],
                },
              ],
            },
            { type: 'heading', attrs: { level: 2 }, content: said('Report') },
            { type: 'paragraph', attrs: { part: 'unknown' }, content: said('For all.') },
          ],
        },
      };
    });
    const words = (text: string | undefined): string => (text ?? '').replace(/\s+/g, ' ');
    expect(words(texts.get('Amara'))).toBe(
      'Distinction We are proud of you. • Prize 1. Only some Report For all.',
    );
    expect(words(texts.get('Bo'))).toBe('Report For all.');
    const { body: now } = await client.send<Folio>('GET', `/folios/${folio.id}`);
    const proof = await client.send<Proof>('POST', `/folios/${folio.id}/proof`, {
      template: letterOf(now).content,
      entryId: folio.roll.entries[1]!.id,
    });
    expect(proof.status).toBe(200);
    // Another condition puts out of date only whose paper it changes.
    const content = {
      ...letterOf(now).content,
      parts: [{ ...part[0]!, if: { ...part[0]!.if, values: ['60'] } }],
    };
    const body = { version: letterOf(now).version, kind: 'letter', content };
    expect((await client.send('PUT', writingPath(now, 'letter'), body)).status).toBe(200);
    expect(await client.press(server, folio.id)).toMatchObject({ run: { total: 1 }, upToDate: 1 });
  });

  test('the day is printed, and puts nothing out of date', async () => {
    const { folio, texts } = await pressed('Name\nAmara', ['{{Name}}'], (content) => {
      const day = { id: 'theday', name: 'Day', columnId: null, same: { kind: 'day' as const } };
      return {
        fields: [...content.fields, day],
        body: { type: 'doc', content: [{ type: 'paragraph', content: [field('theday')] }] },
      };
    });
    expect(texts.get('Amara')).toMatch(/^\d{1,2} [A-Z][a-z]+ 20\d\d$/);
    expect(await client.press(server, folio.id)).toEqual({ run: null, upToDate: 1 });
  });
});

test('what blocks is said, and nothing is made', async () => {
  const folio = await client.folioOf('Name\nAmara', { letter: ['Dear {{Name}}'] });
  const fields = letterOf(folio).content.fields.map((field) => ({ ...field, columnId: null }));
  await client.send('PUT', writingPath(folio, 'letter'), {
    version: letterOf(folio).version,
    kind: 'letter',
    content: { ...letterOf(folio).content, fields },
  });
  expect(await client.send('POST', `/folios/${folio.id}/runs`, {})).toMatchObject({
    status: 409,
    body: { code: 'preflight-blocked', detail: expect.stringContaining('“Name”') },
  });
  expect((await client.register(folio.id)).papers).toEqual([]);
});

test('one run at a time; a stop keeps what was made', async () => {
  const folio = await client.folioOf(
    `Name\n${Array.from({ length: 400 }, (_, n) => `Learner ${n}`).join('\n')}`,
    { letter: ['Dear {{Name}}'] },
  );
  const started = await client.send<{ run: { id: string } }>('POST', `/folios/${folio.id}/runs`, {});
  expect(await client.send('POST', `/folios/${folio.id}/runs`, {})).toMatchObject({
    status: 409,
    body: { code: 'run-going' },
  });
  expect(await client.bringIn(folio.id, 'x.csv', 'Name\nX')).toMatchObject({ status: 409 });
  await client.send('POST', `/folios/${folio.id}/runs/${started.body.run.id}/stop`, {});
  const { papers, run } = await client.register(folio.id);
  expect(run?.state).toBe('stopped');
  expect(papers.length).toBeLessThan(400);
  expect(papers.every((paper) => paper.state === 'pressed' && paper.bytes)).toBe(true);
  const rest = await client.press(server, folio.id);
  expect((rest.run?.total ?? 0) + rest.upToDate).toBe(400);
  expect((await client.register(folio.id)).papers).toHaveLength(400);
});

test('a document that takes too long is given up, and the others are made', async () => {
  const slow = await startTestServer({ SCRIPTUM_DOCUMENT_SECONDS: '1.5' });
  const other = await newSchool(slow);
  const body = Array.from({ length: 60 }, () => '{{Text}}');
  const folio = await other.folioOf(`Name,Text\nshort,x\nlong,"${'word '.repeat(7900)}"\nalso short,y`, {
    letter: body,
  });
  await other.press(slow, folio.id);
  const { papers } = await other.register(folio.id);
  expect(papers.map((paper) => paper.state)).toEqual(['pressed', 'failed', 'pressed']);
  expect(papers[1]?.reason).toContain('longer than 1.5 seconds');
  await slow.close();
}, 60_000);

test('a run that a dead server left is finished by the next', async () => {
  const own = await startTestServer();
  const person = await newSchool(own);
  const folio = await person.folioOf('Name\nAmara\nIlse\nTane', { letter: ['Dear {{Name}}'] });
  await person.press(own, folio.id);
  // As a server leaves it that was killed between two commits.
  const { database } = own.running;
  await database.query(
    "UPDATE paper SET state = 'waiting', blobHash = NULL, pages = NULL, bytes = NULL WHERE position > 0",
  );
  await database.manager.update(PressRunRow, { folioId: folio.id }, { state: 'running', finishedAt: null });
  const again = await own.restart();
  const { id } = await again.running.database.manager.findOneByOrFail(PressRunRow, { folioId: folio.id });
  await again.running.press.ended(id);
  expect(await again.running.database.query('SELECT state, COUNT(*) AS n FROM paper GROUP BY state')).toEqual(
    [{ state: 'pressed', n: '3' }],
  );
  expect(await again.running.database.manager.findOneByOrFail(PressRunRow, { id })).toMatchObject({
    state: 'finished',
  });
  await again.close();
});

test('a run of which papers still wait does not end as done, whoever looks after it', async () => {
  const own = await startTestServer();
  const person = await newSchool(own);
  const folio = await person.folioOf('Name\nAmara\nIlse', { letter: ['Dear {{Name}}'] });
  await person.press(own, folio.id);
  const { database } = own.running;
  const run = await database.manager.findOneByOrFail(PressRunRow, { folioId: folio.id });
  await database.query(
    "UPDATE paper SET state = 'waiting', blobHash = NULL, pages = NULL, bytes = NULL WHERE position > 0",
  );
  await database.manager.update(PressRunRow, { id: run.id }, { state: 'running', finishedAt: null });
  await endRun(database, new DatabaseSlices(database), run, 'done');
  // Whoever looks after runs offers what waits again, and it is made.
  await own.running.press.ended(run.id);
  expect(await database.query('SELECT state, COUNT(*) AS n FROM paper GROUP BY state')).toEqual([
    { state: 'pressed', n: '2' },
  ]);
  await own.close();
});

test('a proof tells where each block of the text stands, where the file has it too', async () => {
  const folio = await client.folioOf('Name\nAmara', { letter: ['{{Name}}'] });
  const { content, version } = letterOf(folio);
  const say = (text: string): Block => ({ type: 'paragraph', content: [{ type: 'text', text }] });
  const body = {
    type: 'doc' as const,
    content: [
      { type: 'pageBreak' as const },
      say('first'),
      { type: 'bulletList' as const, content: [{ type: 'listItem' as const, content: [say('second')] }] },
      { type: 'frame' as const, attrs: { whole: true, line: true }, content: [say('third'), say('more')] },
      say('fourth'),
      { type: 'pageBreak' as const },
      say('fifth'),
    ],
  };
  const template = { ...content, body };
  const sent = { version, kind: 'letter', content: template };
  expect((await client.send('PUT', writingPath(folio, 'letter'), sent)).status).toBe(200);
  const { body: proof } = await client.send<Proof>('POST', `/folios/${folio.id}/proof`, {
    entryId: folio.roll.entries[0]!.id,
    template,
  });
  await client.press(server, folio.id);
  const [paper] = (await client.register(folio.id)).papers;
  const file = await client.raw('GET', `/folios/${folio.id}/papers/${paper!.id}/file`);
  const bytes = Buffer.from(await file.arrayBuffer());
  // Marks change nothing of the paper: it has as many pages as the file.
  expect(pdfInfo(bytes)['Pages']).toBe('2');
  expect(proof.pages).toHaveLength(2);
  expect(proof.blocks.map(({ block }) => block)).toEqual([0, 1, 2, 3, 4, 5, 6]);
  // The box of a word, as Poppler sees it, begins below its block's mark, and above the next one.
  const place = (block: number) => proof.blocks.find((one) => one.block === block)!;
  for (const [block, word] of [
    [1, 'first'],
    [2, 'second'],
    [3, 'third'],
    [4, 'fourth'],
  ] as const) {
    const { y } = wordBox(bytes, word)!;
    expect(place(block).page).toBe(0);
    expect(y).toBeGreaterThan(place(block).y - 6);
    if (block < 4) expect(y).toBeLessThan(place(block + 1).y);
  }
  expect(place(6).page).toBe(1);
});

test('a proof is the same page as a picture, also of what is not saved yet', async () => {
  const folio = await client.folioOf('Name\nAmara', { letter: ['Dear {{Name}}'] });
  const proof = (
    await client.send<Proof>('POST', `/folios/${folio.id}/proof`, {
      entryId: folio.roll.entries[0]!.id,
      template: letterOf(folio).content,
    })
  ).body;
  expect(proof.pages).toHaveLength(1);
  expect(proof.pages[0]!.svg).toMatch(/^<svg /);
  expect(proof.pages[0]!.width).toBeCloseTo(595.28, 1);
  const long = {
    ...letterOf(folio).content,
    body: {
      type: 'doc',
      content: Array.from({ length: 90 }, () => ({
        type: 'paragraph',
        content: [{ type: 'text', text: 'x' }],
      })),
    },
  };
  expect(
    (await client.send<Proof>('POST', `/folios/${folio.id}/proof`, { entryId: null, template: long })).body
      .pages,
  ).toHaveLength(3);
});

test('all papers come as one ZIP, in their folders', async () => {
  const folio = await client.folioOf('Name,Class\nZoë,8A\nŁukasz,8B', {
    letter: ['{{Name}}'],
    file: '{{Class}}/{{Name}}',
  });
  expect((await packOf(client, folio.id, { kind: 'zip' })).status).toBe(404);
  await client.press(server, folio.id);
  const { bytes: zip } = await packOf(client, folio.id, { kind: 'zip' });
  const { default: JSZip } = await import('jszip');
  expect(Object.keys((await JSZip.loadAsync(zip)).files).sort()).toEqual([
    '8A/Zoë.pdf',
    '8B/Łukasz.pdf',
    'Index.xlsx',
  ]);
});

test('a new namesake puts nobody else’s paper out of date; a new pattern does, and old files keep their names', async () => {
  const words = { letter: ['Dear {{Name}}'], file: '{{Name}}' };
  const folio = await client.folioOf('Name,Number\nSam,1\nZoë,2', words);
  await client.press(server, folio.id);
  const [sam] = folio.roll.entries;
  const columns = folio.roll.columns.map(({ id }) => id);
  // Before the first one in the order of the roll, so that it would have had the name.
  const added = { id: 'namesake0001', position: 0, values: { [columns[0]!]: 'Sam', [columns[1]!]: '3' } };
  expect((await client.send('PATCH', `/folios/${folio.id}/roll`, { added: [added] })).status).toBe(200);
  expect((await client.register(folio.id)).papers.map(({ outOfDate }) => outOfDate)).toEqual([false, false]);
  expect(await client.press(server, folio.id)).toMatchObject({ run: { total: 1 }, upToDate: 2 });
  const names = async (): Promise<string[]> =>
    (await client.register(folio.id)).papers
      .filter(({ state }) => state === 'pressed')
      .map(({ entryId, fileName }) => `${entryId === sam!.id ? 'first' : 'other'} ${fileName}`)
      .sort();
  expect(await names()).toEqual(['first Sam.pdf', 'other Sam (2).pdf', 'other Zoë.pdf']);
  const filing = filingOf(folio);
  await client.send('PUT', writingPath(folio, 'filing'), {
    ...filing,
    content: { ...filing.content, pattern: [{ type: 'text', text: 'Letter ' }, ...filing.content.pattern] },
  });
  expect((await client.register(folio.id)).papers.every(({ outOfDate }) => outOfDate)).toBe(true);
});
