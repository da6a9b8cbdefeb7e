import type { Folio, FolioSummary, ProblemDetails } from '@scriptum/core/contract';
import { columnChanges } from '@scriptum/core/roll';
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

const newFolio = async (): Promise<string> =>
  (await client.send<FolioSummary>('POST', '/folios', { title: 'T' })).body.id;

test('a sheet becomes the roll; the address column and the file name are guessed', async () => {
  const id = await newFolio();
  const { status, body } = await client.bringIn(
    id,
    'Namen für Übung.csv',
    'First name,Surname,Parent email\r\nAmara,Okonjo,a@families.example\r\nŁukasz,Żak,l@families.example\r\n',
  );
  expect(status).toBe(200);
  expect(body.sources).toMatchObject([{ kind: 'base', fileName: 'Namen für Übung.csv', rows: 2 }]);
  expect(body.roll.entries.map((entry) => Object.values(entry.values)[1])).toEqual(['Okonjo', 'Żak']);
  expect(noteOf(body).content.to).toEqual([{ columnId: body.roll.columns[2]!.id }]);
  expect(filingOf(body).content.pattern.filter((piece) => piece.type === 'field')).toHaveLength(2);
});

test.each([
  ['nothing', '', 'file-empty', 422],
  ['a header only', 'Name,Mail\n', 'header-only', 422],
  ['half a workbook', new Uint8Array([0x50, 0x4b, 3, 4, 20, 0, 8, 8]), 'file-damaged', 422],
  ['60 MB', new Uint8Array(60 * 1024 * 1024).fill(97), 'file-too-large', 413],
])(
  'a file with %s is refused in a sentence, and the roll stays as it was',
  async (_name, bytes, code, status) => {
    const id = await newFolio();
    await client.bringIn(id, 'good.csv', 'Name\nAmara');
    const reply = await client.bringIn<ProblemDetails>(id, 'bad.csv', bytes);
    expect(reply).toMatchObject({ status, body: { code, detail: expect.stringMatching(/^[A-Z].*\.$/) } });
    expect(await client.get(`/folios/${id}`)).toMatchObject({
      sources: [{ fileName: 'good.csv' }],
      roll: { entries: [{ position: 0 }] },
    });
  },
);

test('a column keeps its identity through a new title and a new file, and fields follow it', async () => {
  const folio = await client.folioOf('Name,Mail\nAmara,a@families.example', { letter: ['Dear {{Name}}'] });
  const column = folio.roll.columns[0]!;
  const retitle = async (title: string): Promise<number> => {
    const columns = folio.roll.columns.map((each) => (each.id === column.id ? { ...each, title } : each));
    const { roll } = await client.get<Folio>(`/folios/${folio.id}`);
    const changes = columnChanges(roll.columns, columns);
    return (await client.send('PATCH', `/folios/${folio.id}/roll`, { columns: changes })).status;
  };
  expect(await retitle('Full name')).toBe(200);
  const renamed = await client.get<Folio>(`/folios/${folio.id}`);
  expect(renamed.roll.columns[0]).toMatchObject({ id: column.id, title: 'Full name' });
  expect(letterOf(renamed).content.fields[0]).toMatchObject({ columnId: column.id });
  expect(await retitle('Mail')).toBe(409);
  const again = await client.bringIn(
    folio.id,
    'new.csv',
    'mail,FULL_NAME,Class\na@families.example,Amara,8A\nb@families.example,Ilse,8B',
  );
  const moved = again.body.roll.columns;
  expect(moved.find((each) => each.title === 'FULL_NAME')?.id).toBe(column.id);
  expect(letterOf(again.body).content.fields.find((field) => field.name === 'Name')?.columnId).toBe(
    column.id,
  );
});

test('two windows do not overwrite each other', async () => {
  const folio = await client.folioOf('Name\nAmara', { letter: ['Dear {{Name}}'] });
  const save = (name: string): Promise<{ status: number }> =>
    client.send('PUT', writingPath(folio, 'letter'), {
      version: letterOf(folio).version,
      kind: 'letter',
      content: { ...letterOf(folio).content, name },
    });
  expect((await save('first')).status).toBe(200);
  expect(await save('second')).toMatchObject({ status: 409, body: { code: 'changed-elsewhere' } });
  expect(letterOf(await client.get<Folio>(`/folios/${folio.id}`)).content.name).toBe('first');
});

test('what is no letter is not saved', async () => {
  const folio = await client.folioOf('Name\nAmara', { letter: ['x'] });
  const letter = { ...letterOf(folio).content, language: 'en"); read("/etc/passwd' };
  expect(
    await client.send('PUT', writingPath(folio, 'letter'), {
      version: letterOf(folio).version,
      kind: 'letter',
      content: letter,
    }),
  ).toMatchObject({ status: 400, body: { code: 'input' } });
});

test('pictures are known by their bytes, and served so that nothing in them runs', async () => {
  const id = await newFolio();
  const svg = '<svg xmlns="http://www.w3.org/2000/svg"><script>alert(1)</script></svg>';
  const add = (bytes: string): Promise<Response> =>
    client.raw('POST', `/folios/${id}/assets?name=x.png`, bytes, {
      'content-type': 'application/octet-stream',
    });
  const asset = (await (await add(svg)).json()) as { id: string; mime: string };
  expect(asset.mime).toBe('image/svg+xml');
  const served = await client.raw('GET', `/folios/${id}/assets/${asset.id}`);
  expect(served.headers.get('content-security-policy')).toContain('sandbox');
  expect(await (await add('MZ not a picture')).json()).toMatchObject({ code: 'picture-kind' });
});

test('a sheet that is in doubt is not taken by itself where that is asked, and is where it is not', async () => {
  const id = await newFolio();
  const send = (sheet: string, ifSure: boolean): Promise<Response> =>
    client.raw('POST', `/folios/${id}/sheet?name=list.csv${ifSure ? '&ifSure=yes' : ''}`, sheet, {
      'content-type': 'text/csv',
    });
  const doubtful = await send('Mina,7\nZoë,8', true);
  expect([doubtful.status, ((await doubtful.json()) as ProblemDetails).code]).toEqual([
    409,
    'reading-doubtful',
  ]);
  expect((await client.get<Folio>(`/folios/${id}`)).roll.entries).toEqual([]);
  expect((await send('Name,Mark\nMina,7', true)).status).toBe(200);
  expect((await send('Mina,7\nZoë,8', false)).status).toBe(200);
});

test('files of a roll are called after any title, and no cell is cut in them', async () => {
  const made = await client.send<FolioSummary>('POST', '/folios', { title: '8A/8B: “Reports”?' });
  const { id } = made.body;
  await client.bringIn(id, 'roll.csv', `Name,Text\nMina,${'x'.repeat(33_000)}`);
  const file = (kind: string): Promise<Response> =>
    client.raw('GET', `/folios/${id}/roll-file?kind=${kind}&who=all`);
  const refused = await file('xlsx');
  expect(refused.status).toBe(409);
  // ECMA-376 Part 1, 22.9.2.19: 32,767 signs in a cell.
  expect(((await refused.json()) as ProblemDetails).detail).toBe(
    '“Text” of Mina has 33,000 letters; a cell of XLSX holds 32,767. Save the roll as CSV or ODS.',
  );
  for (const kind of ['csv', 'ods']) {
    const taken = await file(kind);
    expect(taken.status).toBe(200);
    const name = /filename\*=UTF-8''([^;]+)/.exec(taken.headers.get('content-disposition')!)![1]!;
    expect(decodeURIComponent(name)).toBe(`8A-8B- “Reports”-.${kind}`);
  }
});
