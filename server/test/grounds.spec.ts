import {
  degrees,
  drawObject,
  PDFArray,
  PDFDict,
  PDFDocument,
  PDFName,
  PDFOperator,
  PDFOperatorNames,
  rgb,
  StandardFonts,
  type PDFPage,
} from '@cantoo/pdf-lib';
import type { DispatchPlan, Folio, Ground, ProblemDetails, Proof } from '@scriptum/core/contract';
import { emptyPlaced, withPagesBehind, type Placed, type Writing } from '@scriptum/core/template';
import { cleaned, operationsOf } from '@scriptum/server/ground/content-stream';
import { prepareGround } from '@scriptum/server/ground/prepare-ground';
import { PracticeMailRow } from '@scriptum/server/store/entities/register';
import { unzipSync } from 'fflate';
import { simpleParser } from 'mailparser';
import { randomBytes } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { pageBoxes, pdfText, qpdfCheck, qpdfFields, wordBox } from './testing/pdf.js';
import { PRINT, packOf } from './testing/packs.js';
import { readPdf, rolesOf, textRuns } from './testing/pdf-reader.js';
import { countPixels, pixelsOf, plainPng } from './testing/pixels.js';
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

const MM = 72 / 25.4;
const A4 = [595.28, 841.89] as const;
const require = createRequire(import.meta.url);
/** A face that is in the file, since its papers claim to be accessible. */
const face = (): Buffer =>
  readFileSync(require.resolve('@expo-google-fonts/source-sans-3/400Regular/SourceSans3_400Regular.ttf'));

/** A form as another program writes it. */
async function form(
  draw: (page: PDFPage, document: PDFDocument) => void | Promise<void>,
  size: readonly [number, number] = A4,
): Promise<Uint8Array> {
  const document = await PDFDocument.create();
  await draw(document.addPage([...size]), document);
  // As it stands: what only other programs understand is not to be tidied away.
  return document.save({ updateFieldAppearances: false });
}
const label = async (
  page: PDFPage,
  document: PDFDocument,
  text = 'Consent: ________',
  x = 60,
  y = 700,
): Promise<void> => {
  page.drawText(text, { x, y, size: 14, font: await document.embedFont(StandardFonts.Helvetica) });
};
const prepared = async (bytes: Uint8Array) => {
  const ready = await prepareGround(bytes);
  if (!ready.ok) throw new Error(ready.problem.message);
  return ready.value;
};
const codeOf = async (bytes: Uint8Array): Promise<string> => {
  const ready = await prepareGround(bytes);
  return ready.ok ? 'fine' : ready.problem.code;
};

async function bring(folioId: string, bytes: Uint8Array, as: Client = client) {
  const answer = await as.raw('POST', `/folios/${folioId}/grounds?name=form.pdf`, Buffer.from(bytes));
  return { status: answer.status, body: (await answer.json()) as Ground };
}

/** A folio of two learners whose only template is written on a PDF, with the name at a place. */
async function onForm(
  bytes: Uint8Array,
  sheet = 'Name\nBo\nAmara\n',
): Promise<{ folio: Folio; ground: Ground; writing: Writing }> {
  const folio = await client.folioOf(sheet, { letter: ['{{Name}}'] });
  const { content, version } = letterOf(folio);
  await client.send('PUT', writingPath(folio, 'letter'), {
    version,
    kind: 'letter',
    content: { ...content, off: true },
  });
  const { status, body: ground } = await bring(folio.id, bytes);
  expect(status).toBe(200);
  const blank = emptyPlaced('Consent form');
  const [first] = ground.about.pages;
  const placed: Placed = {
    ...blank,
    page: { ...blank.page, ...first! },
    fields: content.fields,
    pages: ground.about.pages.map((size, page) => ({ size, ground: { asset: ground.id, page } })),
    boxes: [
      {
        kind: 'text',
        id: 'name',
        page: 0,
        x: 60,
        y: 40,
        width: 80,
        height: 10,
        baseline: { first: 6 },
        body: {
          type: 'doc',
          content: [
            { type: 'paragraph', content: [{ type: 'field', attrs: { fieldId: content.fields[0]!.id } }] },
          ],
        },
      },
    ],
  };
  const added = await client.send<Writing>('POST', `/folios/${folio.id}/writings`, {
    kind: 'placed',
    content: placed,
  });
  expect(added.status).toBe(200);
  return { folio, ground, writing: added.body };
}

async function pressed(folioId: string): Promise<Buffer[]> {
  await client.press(server, folioId);
  const { papers } = await client.register(folioId);
  return Promise.all(
    papers
      .filter(({ state }) => state === 'pressed')
      .map(async ({ id }) =>
        Buffer.from(await (await client.raw('GET', `/folios/${folioId}/papers/${id}/file`)).arrayBuffer()),
      ),
  );
}

describe('content streams (ISO 32000-1, 7.8.2)', () => {
  const read = (text: string): string[] =>
    [...operationsOf(Buffer.from(text, 'latin1'))].map(({ operator, operands }) =>
      [...operands, operator].join(' '),
    );
  const kept = (text: string, off: string[] = []): string =>
    Buffer.from(cleaned(Buffer.from(text, 'latin1'), (name) => off.includes(name)).bytes).toString('latin1');

  test('operators are told from strings, names, numbers, dictionaries, comments and inline images', () => {
    expect(
      read('q 1 0 0 -1.5 .2 72 cm % BDC here\n/F1 12 Tf (a \\) BT (nested)) Tj <414> Tj [(x) -20 (y)] TJ'),
    ).toEqual([
      'q',
      '1 0 0 -1.5 .2 72 cm',
      '/F1 12 Tf',
      '(a \\) BT (nested)) Tj',
      '<414> Tj',
      '[ (x) -20 (y) ] TJ',
    ]);
    expect(read('/P <</MCID 3 /A [1 2]>> BDC EMC').at(-1)).toBe('EMC');
    expect(read('BI /W 1 /H 1 ID \x00EI\xffBMC EI Q')).toEqual(['BI', 'Q']);
    expect(read('(never closed')).toEqual([]);
  });

  test('marks of a structure are taken out, and what they hold stays', () => {
    expect(kept('/P <</MCID 0>> BDC BT (a) Tj ET EMC /Artifact BMC 0 0 9 9 re f EMC /X MP')).toBe(
      'BT\n(a) Tj\nET\n0 0 9 9 re\nf\n',
    );
  });

  test('a layer that is off goes out whole, with what is nested in it', () => {
    expect(kept('(a) Tj /OC /L1 BDC (b) Tj /P BMC (c) Tj EMC (d) Tj EMC (e) Tj', ['L1'])).toBe(
      '(a) Tj\n(e) Tj\n',
    );
    expect(kept('/OC /L2 BDC (b) Tj EMC', ['L1'])).toBe('(b) Tj\n');
    // One too many ends nothing.
    expect(kept('EMC (a) Tj')).toBe('(a) Tj\n');
  });
});

describe('a PDF becomes ground', () => {
  test('pages have the size that they are shown in: crop box, rotation and unit (ISO 32000-1, 14.11.2, 8.3.2.3)', async () => {
    const at = (turn: number) =>
      form(async (page, document) => {
        await label(page, document, 'Corner', 110, 640);
        page.setCropBox(100, 100, 300, 600);
        page.setRotation(degrees(turn));
      });
    for (const [turn, width, height] of [
      [0, 300, 600],
      [90, 600, 300],
      [180, 300, 600],
      [270, 600, 300],
    ] as const) {
      const { bytes, about } = await prepared(await at(turn));
      expect(about.pages[0]!.width).toBeCloseTo(width / MM, 1);
      expect(about.pages[0]!.height).toBeCloseTo(height / MM, 1);
      expect(pageBoxes(bytes)[0]!['/MediaBox']!.slice(2)).toEqual([width, height]);
      expect(qpdfCheck(bytes)).toContain('No syntax or stream encoding errors');
      // Where the word stands on the page as it is shown, as Poppler reads the file before and after.
      const run = (await textRuns(bytes))[0]!;
      expect(run.text).toBe('Corner');
      const [x, y] = [10, 60];
      const expected = { 0: [x, y], 90: [540, 10], 180: [290, 540], 270: [60, 290] }[turn];
      expect(run.x).toBeCloseTo(expected[0]!, 0);
      expect(run.baseline).toBeCloseTo(expected[1]!, 0);
    }
    const doubled = await form(
      (page, document) => {
        page.node.set(PDFName.of('UserUnit'), document.context.obj(2));
      },
      [300, 400],
    );
    expect((await prepared(doubled)).about.pages).toEqual([{ width: 211.67, height: 282.22 }]);
  });

  test('form fields become what they show, and are told of', async () => {
    const bytes = await form((page, document) => {
      const field = document.getForm().createTextField('class');
      field.setText('already here');
      field.addToPage(page, { x: 60, y: 600, width: 200, height: 24 });
    });
    const { bytes: ready, about } = await prepared(bytes);
    expect(about.notices).toContain('fields');
    expect(pdfText(ready)).toContain('already here');
  });

  test('a scan, missing typefaces and layers that are off are told of', async () => {
    const scan = await form(async (page, document) => {
      page.drawImage(await document.embedPng(plainPng([200, 30, 40])), {
        x: 0,
        y: 0,
        width: 595,
        height: 842,
      });
    });
    expect((await prepared(scan)).about).toMatchObject({ notices: ['scan'], embedded: true });
    expect((await prepared(await form(label))).about).toMatchObject({ notices: ['fonts'], embedded: false });
    const layered = await form(async (page, document) => {
      await label(page, document, 'Seen');
      const layer = document.context.register(document.context.obj({ Type: 'OCG', Name: 'Draft' }));
      document.catalog.set(
        PDFName.of('OCProperties'),
        document.context.obj({ OCGs: [layer], D: { OFF: [layer] } }),
      );
      page.node.Resources()!.set(PDFName.of('Properties'), document.context.obj({ L1: layer }));
      const op = (name: PDFOperatorNames, ...args: PDFName[]) => PDFOperator.of(name, args);
      page.pushOperators(op(PDFOperatorNames.BeginMarkedContentSequence, PDFName.of('OC'), PDFName.of('L1')));
      await label(page, document, 'Hidden', 60, 600);
      page.pushOperators(op(PDFOperatorNames.EndMarkedContent));
    });
    const { bytes, about } = await prepared(layered);
    expect(about.notices).toContain('layers');
    expect(pdfText(bytes)).toContain('Seen');
    expect(pdfText(bytes)).not.toContain('Hidden');
  });

  test('an empty page is a page', async () => {
    const { about, bytes } = await prepared(await form(() => undefined));
    expect(about.pages).toHaveLength(1);
    expect(qpdfCheck(bytes)).toContain('No syntax');
  });

  test.each<[string, () => Promise<Uint8Array> | Uint8Array, string]>([
    ['nothing', () => new Uint8Array(), 'ground-damaged'],
    ['a text', () => Buffer.from('Dear family'), 'ground-damaged'],
    ['a PDF that breaks off', async () => (await form(label)).slice(0, 300), 'ground-damaged'],
    [
      '400 pages',
      async () => {
        const document = await PDFDocument.create();
        for (let n = 0; n < 400; n++) document.addPage([100, 100]);
        return document.save();
      },
      'ground-pages',
    ],
    ['a page of ten metres', () => form(() => undefined, [28_346, 842]), 'ground-size'],
    ['a page as small as a stamp', () => form(() => undefined, [20, 20]), 'ground-size'],
    [
      'a form for one program alone',
      () =>
        form((page, document) => {
          document.getForm().createTextField('x').addToPage(page);
          const acro = document.catalog.lookup(PDFName.of('AcroForm'), PDFDict);
          acro.set(PDFName.of('XFA'), PDFArray.withContext(document.context));
          document.catalog.set(PDFName.of('NeedsRendering'), document.context.obj(true));
        }),
      'ground-xfa',
    ],
    [
      'a PDF with a password',
      async () => {
        const document = await PDFDocument.create();
        document.addPage([300, 300]);
        document.encrypt({ userPassword: 'secret', ownerPassword: 'other' });
        return document.save();
      },
      'ground-locked',
    ],
  ])('%s is refused with a sentence', async (_, make, code) => {
    expect(await codeOf(await make())).toBe(code);
  });

  test('a file that only forbids changes is taken', async () => {
    const document = await PDFDocument.create();
    await label(document.addPage([...A4]), document, 'Owner only');
    document.encrypt({ userPassword: '', ownerPassword: 'other' });
    const { bytes } = await prepared(await document.save());
    expect(pdfText(bytes)).toContain('Owner only');
  });
});

describe('papers on a PDF', () => {
  test('have what is filled in on top of the form, each at its place, and the form stays text', async () => {
    const bytes = await form(label);
    const { folio } = await onForm(bytes);
    const [bo, amara] = await pressed(folio.id);
    for (const [file, name] of [
      [bo!, 'Bo'],
      [amara!, 'Amara'],
    ] as const) {
      expect(pdfText(file)).toContain('Consent: ________');
      expect(pdfText(file)).toContain(name);
      expect(qpdfCheck(file)).toContain('No syntax or stream encoding errors');
      const runs = await textRuns(file);
      const consent = runs.find((run) => run.text.startsWith('Consent'))!;
      expect(consent.x).toBeCloseTo(60, 0);
      expect(consent.baseline).toBeCloseTo(841.89 - 700, 0);
      const own = runs.find((run) => run.text === name)!;
      expect(Math.abs(own.x - 60 * MM)).toBeLessThan(0.2 * MM);
      expect(Math.abs(own.baseline - 46 * MM)).toBeLessThan(0.2 * MM);
    }
    expect(wordBox(bo!, 'Bo')!.x).toBeCloseTo(60 * MM, 0);
    // Helvetica is not in the file: nobody may be told that it is accessible (ISO 14289-1, 7.21.3).
    const read = await readPdf(bo!);
    expect(read.metadata).not.toContain('pdfuaid');
    expect(read.marked).toBe(true);
  });

  test('claim to be accessible where the form has its typefaces, and tell the form to nobody twice', async () => {
    const bytes = await form(async (page, document) => {
      document.registerFontkit((await import('fontkit')) as never);
      page.drawText('Parent or guardian', {
        x: 60,
        y: 700,
        size: 14,
        font: await document.embedFont(face(), { subset: true }),
      });
      page.drawRectangle({ x: 60, y: 300, width: 100, height: 100, color: rgb(0.7, 0.1, 0.2) });
    });
    const { folio, ground } = await onForm(bytes);
    expect(ground.about).toMatchObject({ embedded: true, notices: [] });
    const [bo] = await pressed(folio.id);
    const read = await readPdf(bo!);
    expect(read.metadata).toContain('<pdfuaid:part>1</pdfuaid:part>');
    expect(read.title).toBe('Consent form');
    // One paragraph, the name: the ground is an artifact.
    expect(rolesOf(read.pages[0]!).filter((role) => role === 'P')).toHaveLength(1);
    expect(pdfText(bo!)).toContain('Parent or guardian');
    expect(countPixels(pixelsOf(bo!), [179, 26, 51])).toBeGreaterThan(3000);
  });

  test('have the form where it is on screen, at the corner of the paper, whatever the paper, its bleed and its colour', async () => {
    const bytes = await form(label);
    const { folio, writing } = await onForm(bytes);
    const content = writing.content as Placed;
    const changed: Placed = {
      ...content,
      bleed: { width: 3, marks: true },
      // A larger sheet than the form's own: A3, lying.
      pages: content.pages.map((page) => ({ ...page, colour: '#A63D40', size: { width: 420, height: 297 } })),
    };
    const saved = await client.send('PUT', `/folios/${folio.id}/writings/${writing.id}`, {
      version: writing.version,
      kind: 'placed',
      content: changed,
    });
    expect(saved.status).toBe(200);
    const [bo] = await pressed(folio.id);
    const runs = await textRuns(bo!);
    const [consent, name] = [
      runs.find((run) => run.text.startsWith('Consent'))!,
      runs.find((run) => run.text === 'Bo')!,
    ];
    // Bleed and marks take 10 mm on each side.
    expect(consent.x).toBeCloseTo(60 + 10 * MM, 0);
    expect(consent.baseline).toBeCloseTo(841.89 - 700 + 10 * MM, 0);
    expect(Math.abs(name.baseline - 56 * MM)).toBeLessThan(0.2 * MM);
    // No colour hides it.
    expect(countPixels(pixelsOf(bo!), [166, 61, 64])).toBe(0);
  });

  // LibreOffice 7.4 wrote it, with a structure of its own, from the text beside it.
  test('lie on what another program wrote, whose structure is not told, and whose blanks are found', async () => {
    const { folio, ground } = await onForm(readFileSync(new URL('fixtures/visit.pdf', import.meta.url)));
    expect(ground.about).toMatchObject({ notices: [], embedded: true });
    expect(ground.about.blanks![0]!.map(({ label, reason }) => `${label}: ${reason}`)).toEqual([
      'Name of the learner: leaders',
      'Class: leaders',
      'Parent or guardian: leaders',
      'Telephone: leaders',
      'Mobile: leaders',
      'Monday, Comes: table',
      'Monday, Is fetched by: table',
      'Tuesday, Comes: table',
      'Tuesday, Is fetched by: table',
      'Date: leaders',
      'Signature: leaders',
    ]);
    const [bo] = await pressed(folio.id);
    expect(pdfText(bo!)).toContain('Visit to the weather station');
    expect(qpdfCheck(bo!)).toContain('No syntax or stream encoding errors');
    const read = await readPdf(bo!);
    expect(read.metadata).toContain('<pdfuaid:part>1</pdfuaid:part>');
    expect(rolesOf(read.pages[0]!).filter((role) => role === 'P')).toHaveLength(1);
    expect(rolesOf(read.pages[0]!)).not.toContain('H1');
  });

  test('are kept without the form, and have it wherever they go', async () => {
    const noise = randomBytes(800 * 800 * 3);
    const bytes = await form(async (page, document) => {
      const image = document.context.stream(noise, {
        Type: 'XObject',
        Subtype: 'Image',
        Width: 800,
        Height: 800,
        ColorSpace: 'DeviceRGB',
        BitsPerComponent: 8,
      });
      page.node.setXObject(PDFName.of('Noise'), document.context.register(image));
      page.pushOperators(drawObject('Noise'));
      await label(page, document);
    });
    const sheet = 'Name,Mail\nBo,bo@families.example\nAmara,amara@families.example\n';
    const { folio } = await onForm(bytes, sheet);
    const files = await pressed(folio.id);
    const { papers } = await client.register(folio.id);
    const kept = await server.running.database.query<{ size: number; laidOn: string }[]>(
      'SELECT LENGTH(b.bytes) AS size, p.laidOn FROM paper p JOIN blob_file b ON b.hash = p.blobHash WHERE p.folioId = ?',
      [folio.id],
    );
    for (const { size } of kept) expect(size).toBeLessThan(20_000);
    for (const file of files) expect(file.length).toBeGreaterThan(noise.length);
    // What is said of its length is said of the file that leaves.
    for (const [n, file] of files.entries())
      expect(Math.abs(file.length - papers[n]!.bytes!)).toBeLessThan(2000);

    const { 'Index.xlsx': _, ...zip } = unzipSync((await packOf(client, folio.id, { kind: 'zip' })).bytes);
    expect(Object.values(zip).map((file) => pdfText(Buffer.from(file)).includes('Consent'))).toEqual([
      true,
      true,
    ]);

    // Printed in one go the form is there once, and nobody else's school prints it.
    const { bytes: pack } = await packOf(client, folio.id, { ...PRINT, fronts: true });
    expect(pack.length).toBeLessThan(noise.length + 40_000);
    expect(qpdfCheck(pack)).toContain('No syntax or stream encoding errors');
    expect(pageBoxes(pack)).toHaveLength(3);
    for (const [page, name] of [
      [1, 'Bo'],
      [3, 'Amara'],
    ] as const)
      expect((await textRuns(pack, page)).map(({ text }) => text.trim())).toEqual(
        expect.arrayContaining([name, 'Consent: ________']),
      );
    expect(await textRuns(pack, 2)).toEqual([]);

    // Nothing leaves by halves: what one paper lies on is gone.
    const { database, outbox } = server.running;
    const lies = kept.map(({ laidOn }) => laidOn)[0]!;
    const lost = lies.replace(/[0-9a-f]{64}/, '0'.repeat(64));
    const [, second] = papers;
    await database.query('UPDATE paper SET laidOn = ? WHERE id = ?', [lost, second!.id]);
    const { planId } = await client.get<DispatchPlan>(`/folios/${folio.id}/dispatch`);
    await client.send('POST', `/folios/${folio.id}/dispatch`, { planId, again: false });
    await outbox.idle();
    const inbox = (who: string) =>
      database.manager.findOneBy(PracticeMailRow, { mailbox: `${who}@families.example` });
    const mail = await simpleParser((await inbox('bo'))!.raw);
    expect(mail.attachments).toHaveLength(1);
    expect(pdfText(mail.attachments[0]!.content)).toMatch(/Bo[^]*Consent: _+/);
    expect(qpdfCheck(mail.attachments[0]!.content)).toContain('No syntax or stream encoding errors');
    expect(await inbox('amara')).toBeNull();
    const stands = async () => (await client.register(folio.id)).papers.map(({ message }) => message?.state);
    expect(await stands()).toEqual(['sent', 'deferred']);
    await database.query('UPDATE paper SET laidOn = ? WHERE id = ?', [lies, second!.id]);
    await client.send('POST', '/mail-account/again');
    await outbox.idle();
    expect(await stands()).toEqual(['sent', 'sent']);
  });

  test('stay a form where that is wanted: with values in its fields, and what stands elsewhere on its page', async () => {
    const bytes = await form((page, document) => {
      const fields = document.getForm();
      fields.createTextField('learner').addToPage(page, { x: 60, y: 600, width: 200, height: 24 });
      fields.createTextField('guardian').addToPage(page, { x: 60, y: 560, width: 200, height: 24 });
    });
    const { folio, ground, writing } = await onForm(bytes);
    expect(ground.about).toMatchObject({ fillable: true });
    const [blank] = ground.about.blanks![0]!;
    expect(blank).toMatchObject({ reason: 'field', fills: { field: 'learner' } });
    const content = writing.content as Placed;
    const [elsewhere] = content.boxes;
    const { x, y, width, height, fills } = blank!;
    const inField = { ...elsewhere!, id: 'field', x, y, width, height, fills: fills! };
    const put = await client.send<Writing>('PUT', `/folios/${folio.id}/writings/${writing.id}`, {
      version: writing.version,
      kind: 'placed',
      content: { ...content, fillable: true, boxes: [...content.boxes, inField] },
    });
    expect(put.status).toBe(200);
    const [bo] = await pressed(folio.id);
    expect(qpdfCheck(bo!)).toContain('No syntax or stream encoding errors');
    expect(qpdfFields(bo!)).toEqual({ learner: 'u:Bo', guardian: null });
    // Once in its field, once on the page.
    expect(pdfText(bo!).match(/Bo/g)).toHaveLength(2);
    expect((await textRuns(bo!)).filter(({ text }) => text === 'Bo')).toHaveLength(1);
    // No structure names the fields, so nothing is claimed.
    expect((await readPdf(bo!)).metadata).not.toContain('pdfuaid');
    const { bytes: pack } = await packOf(client, folio.id, PRINT);
    expect(qpdfFields(pack)).toEqual({});
    expect(pdfText(pack).match(/Bo/g)).toHaveLength(2);
    const before = { version: put.body.version, kind: 'placed', content: { ...content, boxes: [inField] } };
    expect((await client.send('PUT', `/folios/${folio.id}/writings/${writing.id}`, before)).status).toBe(200);
    const [flat] = await pressed(folio.id);
    expect(qpdfFields(flat!)).toEqual({});
    expect((await textRuns(flat!)).filter(({ text }) => text === 'Bo')).toHaveLength(1);
  });

  test('come behind a letter in one paper, however long the letter is', async () => {
    const { folio, writing } = await onForm(await form(label));
    const { content, version, id } = letterOf(folio);
    const long = Array.from({ length: 60 }, (_, n) => ({
      type: 'paragraph',
      content: [{ type: 'text', text: `Line ${n} of the letter.` }],
    }));
    const together = withPagesBehind(
      { ...content, body: { type: 'doc', content: [...content.body.content, ...long] } as never },
      writing.content as Placed,
      () => 'newid',
    );
    const saved = await client.send<Writing>('PUT', `/folios/${folio.id}/writings/${id}`, {
      version: version + 1,
      kind: 'letter',
      content: { ...together, off: false },
    });
    expect(saved.status).toBe(200);
    const proof = await client.send<Proof>('POST', `/folios/${folio.id}/proof`, {
      entryId: folio.roll.entries[0]!.id,
      template: together,
    });
    expect(proof.body.pages).toHaveLength(3);
    expect(proof.body.fits).toEqual([expect.objectContaining({ box: 0, state: 'fits' })]);
    await client.press(server, folio.id);
    const { papers } = await client.register(folio.id);
    const paper = papers.find(({ templateId, learner }) => templateId === id && learner === 'Bo')!;
    expect(paper.pages).toBe(3);
    const file = Buffer.from(
      await (await client.raw('GET', `/folios/${folio.id}/papers/${paper.id}/file`)).arrayBuffer(),
    );
    expect(qpdfCheck(file)).toContain('No syntax or stream encoding errors');
    const last = await textRuns(file, 3);
    expect(last.map(({ text }) => text.trim())).toEqual(expect.arrayContaining(['Bo', 'Consent: ________']));
    expect(Math.abs(last.find(({ text }) => text === 'Bo')!.x - 60 * MM)).toBeLessThan(0.2 * MM);
    for (const page of [1, 2])
      expect((await textRuns(file, page)).some(({ text }) => text.includes('Consent'))).toBe(false);

    // They go along with the letter into another folio, and as a file into another school.
    const second = await client.folioOf('Name\nCai\n', { letter: ['x'] });
    const copied = await client.send<Writing & { kind: 'letter' }>(
      'POST',
      `/folios/${second.id}/writing-copies`,
      { folioId: folio.id, writingId: id },
    );
    const school = await newSchool(server, 'Other');
    const there = await school.folioOf('Name\nDilys\n', { letter: ['x'] });
    const saving = await client.raw('GET', `/folios/${folio.id}/writings/${id}/file`);
    const brought = await school.raw(
      'POST',
      `/folios/${there.id}/letter-files?name=letter.zip`,
      Buffer.from(await saving.arrayBuffer()),
    );
    const seen = async (who: Client, where: Folio, template: Writing['content']) =>
      (
        await who.send<Proof>('POST', `/folios/${where.id}/proof`, {
          entryId: where.roll.entries[0]!.id,
          template,
        })
      ).body.pages.at(-1)!.svg;
    // What is not there is as large as a stamp, and blank.
    const BLANK = 'width="72" height="72"';
    expect(await seen(client, second, copied.body.content)).not.toContain(BLANK);
    const here = (await brought.json()) as Writing;
    expect(await seen(school, there, here.content)).not.toContain(BLANK);
    expect(await seen(school, there, together)).toContain(BLANK);
  });

  test('are seen so in the proof too', async () => {
    const { folio, writing } = await onForm(
      await form((page) =>
        page.drawRectangle({ x: 0, y: 0, width: 300, height: 300, color: rgb(0, 0.2, 1) }),
      ),
    );
    const { status, body } = await client.send<Proof>('POST', `/folios/${folio.id}/proof`, {
      entryId: folio.roll.entries[0]!.id,
      template: writing.content,
    });
    expect(status).toBe(200);
    const inner = /data:image\/svg\+xml;base64,([^"]+)/.exec(body.pages[0]!.svg);
    expect(Buffer.from(inner![1]!, 'base64').toString()).toMatch(/#0033ff/i);
  });

  test('are pressed without the form where it is gone, or has fewer pages', async () => {
    const { folio, writing } = await onForm(await form(label));
    const content = writing.content as Placed;
    const changed: Placed = {
      ...content,
      pages: [{ size: content.pages[0]!.size!, ground: { ...content.pages[0]!.ground!, page: 7 } }],
    };
    const proof = await client.send('POST', `/folios/${folio.id}/proof`, {
      entryId: folio.roll.entries[0]!.id,
      template: changed,
    });
    expect(proof.status).toBe(200);
    const other = await client.folioOf('Name\nZoë\n', { letter: ['x'] });
    // An identity of another folio is nothing here.
    const stranger = await client.send('POST', `/folios/${other.id}/proof`, {
      entryId: other.roll.entries[0]!.id,
      template: content,
    });
    expect(stranger.status).toBe(200);
    expect(JSON.stringify(stranger.body)).not.toContain('Consent');
  });

  test('go with their form into another folio, and as a file into another school', async () => {
    const { folio, writing, ground } = await onForm(await form(label));
    const second = await client.folioOf('Name\nCai\n', { letter: ['x'] });
    const copied = await client.send<Writing & { kind: 'placed' }>(
      'POST',
      `/folios/${second.id}/writing-copies`,
      { folioId: folio.id, writingId: writing.id },
    );
    expect(copied.body.content.pages[0]!.ground!.asset).not.toBe(ground.id);
    const file = Buffer.from(
      await (await client.raw('GET', `/folios/${folio.id}/writings/${writing.id}/file`)).arrayBuffer(),
    );
    const school = await newSchool(server, 'Other');
    const there = await school.folioOf('Name\nDilys\n', { letter: ['x'] });
    const brought = await school.raw('POST', `/folios/${there.id}/letter-files?name=form.zip`, file);
    expect(brought.status).toBe(200);
    const here = (await brought.json()) as Writing & { kind: 'placed' };
    const proof = await school.send<Proof>('POST', `/folios/${there.id}/proof`, {
      entryId: there.roll.entries[0]!.id,
      template: here.content,
    });
    expect(proof.status).toBe(200);
    expect(JSON.stringify(proof.body)).toContain('data:image/svg+xml');
    // Nobody of another school brings anything into this folio, or reads its PDF.
    expect((await bring(folio.id, await form(label), school)).status).toBe(404);
    expect((await school.raw('GET', `/folios/${folio.id}/assets/${ground.id}`)).status).toBe(404);
  });

  test('what cannot be read is refused, and nothing is changed', async () => {
    const folio = await client.folioOf('Name\nBo\n', { letter: ['x'] });
    for (const bytes of [Buffer.from('no PDF'), Buffer.from('%PDF-1.7\nbroken')]) {
      const { status, body } = await bring(folio.id, bytes);
      expect(status).toBe(422);
      expect((body as unknown as ProblemDetails).code).toBe('ground-damaged');
    }
    expect((await client.get<Folio>(`/folios/${folio.id}`)).assets).toEqual([]);
  });
});
