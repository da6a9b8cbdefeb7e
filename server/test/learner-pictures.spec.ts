import type { Folio, PictureAsset, Proof } from '@scriptum/core/contract';
import { newId } from '../dist/store/id.js';
import type { CellChange } from '@scriptum/core/roll';
import type { Field, PictureFilling } from '@scriptum/core/template';
import { qpdfCheck } from './testing/pdf.js';
import { readPdf, rolesOf } from './testing/pdf-reader.js';
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

const RED = [200, 30, 40] as const;
const BLUE = [30, 60, 200] as const;
/** What the sample shows of an inch, in dots. */
const MM = 50 / 25.4;

const csv = 'Name,Photo\nAmara,amara.png\nBo,bo.png\nCai,\nDilys,lost.png\n';

async function bring(folioId: string, bytes: Uint8Array, name: string): Promise<string> {
  const added = await client.raw('POST', `/folios/${folioId}/assets?name=${name}`, Uint8Array.from(bytes));
  expect(added.status).toBe(200);
  return ((await added.json()) as PictureAsset).id;
}

/** A folio with a photo for two of four, and a letter that shows it. */
async function withPhotos(filling: Partial<PictureFilling> = {}): Promise<{ folio: Folio; photo: Field }> {
  const folio = await client.folioOf(csv, { letter: ['{{Name}}'] });
  const column = folio.roll.columns.find(({ title }) => title === 'Photo')!;
  const [amara, bo, , dilys] = folio.roll.entries;
  const cells: CellChange[] = [
    {
      entryId: amara!.id,
      columnId: column.id,
      text: 'amara.png',
      exact: `i:${await bring(folio.id, plainPng(RED), 'amara.png')}`,
    },
    {
      entryId: bo!.id,
      columnId: column.id,
      text: 'bo.png',
      exact: `i:${await bring(folio.id, plainPng(BLUE), 'bo.png')}`,
    },
    // One that is nowhere.
    { entryId: dilys!.id, columnId: column.id, text: 'lost.png', exact: 'i:../../assets/0' },
  ];
  const patched = await client.send('PATCH', `/folios/${folio.id}/roll`, { cells });
  expect(patched.status).toBe(200);
  const { content, version } = letterOf(folio);
  const photo: Field = {
    id: 'photo',
    name: 'Photo',
    columnId: column.id,
    picture: { width: 40, height: 50, fit: 'cut below', side: 'right', ...filling },
  };
  const put = await client.send('PUT', writingPath(folio, 'letter'), {
    version,
    kind: 'letter',
    content: {
      ...content,
      fields: [...content.fields, photo],
      body: {
        type: 'doc',
        content: [...content.body.content, { type: 'fieldBlock', attrs: { fieldId: 'photo' } }],
      },
    },
  });
  expect(put.status).toBe(200);
  return { folio, photo };
}

async function filesOf(folioId: string): Promise<Map<string, { state: string; pdf: Buffer }>> {
  await client.press(server, folioId);
  const { papers } = await client.register(folioId);
  const files = new Map<string, { state: string; pdf: Buffer }>();
  for (const { learner, id, state } of papers) {
    const answer = await client.raw('GET', `/folios/${folioId}/papers/${id}/file`);
    const pdf = Buffer.from(await answer.arrayBuffer());
    expect(qpdfCheck(pdf)).toContain('No syntax or stream encoding errors');
    files.set(learner, { state, pdf });
  }
  return files;
}

test('each paper shows its own learner’s picture, said to those who cannot see it', async () => {
  const { folio } = await withPhotos();
  const files = await filesOf(folio.id);
  const shown = (learner: string, colour: readonly [number, number, number]): number =>
    countPixels(pixelsOf(files.get(learner)!.pdf), colour);
  // 40 by 50 mm, cut to that from a square.
  const area = 40 * 50 * MM * MM;
  expect(Math.abs(shown('Amara', RED) - area)).toBeLessThan(area * 0.05);
  expect(Math.abs(shown('Bo', BLUE) - area)).toBeLessThan(area * 0.05);
  expect(shown('Amara', BLUE) + shown('Bo', RED)).toBe(0);
  expect(shown('Cai', RED) + shown('Cai', BLUE) + shown('Dilys', RED) + shown('Dilys', BLUE)).toBe(0);
  const read = await readPdf(files.get('Amara')!.pdf);
  expect(rolesOf(read.pages[0]!)).toContain('Figure: Photo: Amara');
  expect(read.metadata).toContain('<pdfuaid:part>1</pdfuaid:part>');
  const { body } = await client.send<{ findings: { code: string; message: string }[] }>(
    'GET',
    `/folios/${folio.id}/preflight`,
  );
  expect(body.findings.find(({ code }) => code === 'field-empty')?.message).toContain('Cai');
});

test('shown whole it keeps its sides and the room, and the proof shows the same', async () => {
  const { folio, photo } = await withPhotos({ fit: 'whole', width: 30, height: 60, side: 'left' });
  const files = await filesOf(folio.id);
  // A square in a room of 30 by 60 mm.
  const area = 30 * 30 * MM * MM;
  const red = countPixels(pixelsOf(files.get('Amara')!.pdf), RED);
  expect(Math.abs(red - area)).toBeLessThan(area * 0.08);
  const now = await client.send<Folio>('GET', `/folios/${folio.id}`);
  const template = letterOf(now.body).content;
  expect(template.fields).toContainEqual(photo);
  const proof = await client.send<Proof>('POST', `/folios/${folio.id}/proof`, {
    template,
    entryId: folio.roll.entries[1]!.id,
  });
  expect(proof.body.pages[0]!.svg).toContain('data:image/png;base64');
});

test('another picture puts that learner’s paper out of date, and no other', async () => {
  const { folio, photo } = await withPhotos();
  await filesOf(folio.id);
  const [amara] = folio.roll.entries;
  const asset = await bring(folio.id, plainPng(BLUE), 'amara-2.png');
  await client.send('PATCH', `/folios/${folio.id}/roll`, {
    cells: [{ entryId: amara!.id, columnId: photo.columnId!, text: 'amara-2.png', exact: `i:${asset}` }],
  });
  const run = await client.press(server, folio.id);
  expect(run.upToDate).toBe(3);
});

test('a picture of another school is never printed', async () => {
  const { folio, photo } = await withPhotos();
  const other = await newSchool(server);
  const theirs = await other.folioOf('Name\nX\n', { letter: ['{{Name}}'] });
  const added = await other.raw(
    'POST',
    `/folios/${theirs.id}/assets?name=x.png`,
    Uint8Array.from(plainPng(RED)),
  );
  const { id } = (await added.json()) as PictureAsset;
  const [, bo] = folio.roll.entries;
  for (const asset of [id, newId()]) {
    await client.send('PATCH', `/folios/${folio.id}/roll`, {
      cells: [{ entryId: bo!.id, columnId: photo.columnId!, text: 'x.png', exact: `i:${asset}` }],
    });
    const files = await filesOf(folio.id);
    const pixels = pixelsOf(files.get('Bo')!.pdf);
    expect(countPixels(pixels, RED) + countPixels(pixels, BLUE)).toBe(0);
  }
});
