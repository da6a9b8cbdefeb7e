import type { LetterheadNow, PictureAsset, ProblemDetails, Proof } from '@scriptum/core/contract';
import type { Finding } from '@scriptum/core/preflight';
import { emptyLetterhead, type Letter, type Letterhead } from '@scriptum/core/template';
import { pdfText, qpdfCheck, wordBox } from './testing/pdf.js';
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
beforeAll(async () => {
  server = await startTestServer();
});
afterAll(() => server.close());

const DRAWING =
  '<svg xmlns="http://www.w3.org/2000/svg" width="10" height="10"><rect width="10" height="10"/></svg>';
const house = (part: Partial<Letterhead> = {}): Letterhead => ({
  ...emptyLetterhead('Saltmarsh School'),
  lines: ['Dyke Lane 3'],
  foot: ['Registered as Saltmarsh'],
  signOffs: [
    { id: 'head', name: 'Ada Holm', role: 'Head of school', picture: null, family: 'Great Vibes' },
    { id: 'deputy', name: 'Bo Lind', role: 'Deputy', picture: null, family: 'Great Vibes' },
  ],
  ...part,
});
const use = (client: Client, version: number, letterhead: Letterhead) =>
  client.send<LetterheadNow & ProblemDetails>('PUT', '/letterhead', { version, letterhead });

async function picture(client: Client, bytes = DRAWING): Promise<PictureAsset> {
  const added = await client.raw('POST', '/letterhead/pictures?name=crest.svg', Buffer.from(bytes));
  expect(added.status).toBe(200);
  return (await added.json()) as PictureAsset;
}

/** A folio of one learner whose letter stands on the letterhead. */
async function folioOn(client: Client, change: Partial<Letter>, csv = 'Name\nAmara') {
  const folio = await client.folioOf(csv, { letter: ['Dear {{Name}}'] });
  const { content, version } = letterOf(folio);
  const [text] = content.body.content;
  const body: Letter['body'] = {
    type: 'doc',
    content: [text!, { type: 'signOff', attrs: { signOffId: 'head' } }],
  };
  const sent = { version, kind: 'letter', content: { ...content, body, ...change } };
  expect((await client.send('PUT', writingPath(folio, 'letter'), sent)).status).toBe(200);
  return folio;
}

async function paperOf(client: Client, folioId: string): Promise<Buffer> {
  const [paper] = (await client.register(folioId)).papers.filter(({ state }) => state === 'pressed');
  const answer = await client.raw('GET', `/folios/${folioId}/papers/${paper!.id}/file`);
  const bytes = Buffer.from(await answer.arrayBuffer());
  expect(qpdfCheck(bytes)).toContain('No syntax or stream encoding errors');
  return bytes;
}

const PRINTED = { letterhead: { print: 'printed', looks: true } } as const;

test('it stands on the papers of letters that ask for it, readable for everybody', async () => {
  const client = await newSchool(server);
  const { id: asset } = await picture(client);
  const letterhead = house({ crest: { asset, height: 20, alt: 'A tern over water' } });
  expect((await use(client, 0, letterhead)).body).toMatchObject({ version: 1, letters: 0, letterhead });
  const folio = await folioOn(client, PRINTED);
  await client.press(server, folio.id);
  const bytes = await paperOf(client, folio.id);
  // Poppler reads the head before the text, and the foot of the page behind it.
  const words = pdfText(bytes).split('\n').filter(Boolean);
  const order = [
    'Saltmarsh School',
    'Dyke Lane 3',
    'Dear Amara',
    'Head of school',
    'Registered as Saltmarsh',
  ];
  expect(order.map((line) => words.indexOf(line))).toEqual(
    [...order.map((line) => words.indexOf(line))].sort((a, b) => a - b),
  );
  expect(words).toEqual(expect.arrayContaining(order));
  expect(words).not.toContain('Deputy');
  // ISO 14289-1, 7.3: the crest has its alternative.
  const read = await readPdf(bytes);
  expect(read.metadata).toContain('<pdfuaid:part>1</pdfuaid:part>');
  expect(read.pages.flatMap(rolesOf)).toContain('Figure: A tern over water');
});

test('pre-printed paper keeps its room free, and nothing is printed there', async () => {
  const client = await newSchool(server);
  await use(client, 0, house({ room: 60, later: false }));
  const folio = await folioOn(client, { letterhead: { print: 'room', looks: false } });
  await client.press(server, folio.id);
  const bytes = await paperOf(client, folio.id);
  expect(pdfText(bytes)).not.toContain('Saltmarsh School');
  // 60 mm are 170 points; the line's box begins at most its own height above the letters.
  const { y } = wordBox(bytes, 'Dear')!;
  expect(y).toBeGreaterThan((60 * 72) / 25.4 - 8);
  expect(y).toBeLessThan((60 * 72) / 25.4 + 12);
});

test('changed once it is changed for all that stand on it, and for nobody else; papers that are there stay', async () => {
  const client = await newSchool(server);
  await use(client, 0, house());
  const on = await folioOn(client, PRINTED);
  const off = await client.folioOf('Name\nBo', { letter: ['Dear {{Name}}'] });
  for (const { id } of [on, off]) await client.press(server, id);
  const before = await paperOf(client, on.id);
  const outOfDate = async (folioId: string): Promise<boolean[]> => {
    for (;;) {
      const { papers, comparing } = await client.register(folioId);
      if (!comparing) return papers.map((paper) => paper.outOfDate);
      await new Promise((resolve) => setTimeout(resolve, 50));
    }
  };
  // Somebody who signs elsewhere changes nobody's paper here.
  const [head, deputy] = house().signOffs;
  await use(client, 1, house({ signOffs: [head!, { ...deputy!, role: 'Second deputy' }] }));
  expect([await outOfDate(on.id), await outOfDate(off.id)]).toEqual([[false], [false]]);
  await use(client, 2, house({ name: { ...house().name, text: 'Saltmarsh Academy' } }));
  expect([await outOfDate(on.id), await outOfDate(off.id)]).toEqual([[true], [false]]);
  expect(await paperOf(client, on.id)).toEqual(before);
  await client.press(server, on.id);
  expect(pdfText(await paperOf(client, on.id))).toContain('Saltmarsh Academy');
  // What it was before can be looked at.
  const { versions } = await client.get<{ versions: { version: number }[] }>('/letterhead/versions');
  expect(versions.map(({ version }) => version)).toEqual([3, 2, 1]);
  const first = await client.get<{ letterhead: Letterhead }>('/letterhead/versions/1');
  expect(first.letterhead.name.text).toBe('Saltmarsh School');
});

test('two who change it at once: the second is told, and what was sent twice is one change', async () => {
  const client = await newSchool(server);
  await use(client, 0, house());
  expect((await use(client, 1, house({ room: 50 }))).body.version).toBe(2);
  // Only the answer was lost.
  expect((await use(client, 1, house({ room: 50 }))).body.version).toBe(2);
  const late = await use(client, 1, house({ room: 70 }));
  expect(late).toMatchObject({ status: 409, body: { code: 'changed-elsewhere' } });
  const many = await Promise.all(
    Array.from({ length: 6 }, (_, n) => use(client, 2, house({ room: 80 + n }))),
  );
  expect(many.filter(({ status }) => status === 200)).toHaveLength(1);
  expect((await client.get<LetterheadNow>('/letterhead')).version).toBe(3);
});

test('another school sees nothing of it, and cannot use its pictures', async () => {
  const [client, stranger] = [await newSchool(server), await newSchool(server, 'Other')];
  const { id: asset } = await picture(client);
  const crest = { asset, height: 20, alt: 'Crest' };
  await use(client, 0, house({ crest }));
  expect(await stranger.get<LetterheadNow>('/letterhead')).toMatchObject({
    version: 0,
    letterhead: null,
    pictures: [],
  });
  expect((await stranger.send('GET', `/letterhead/pictures/${asset}`)).status).toBe(404);
  expect((await stranger.send('GET', '/letterhead/versions/1')).status).toBe(404);
  expect((await use(stranger, 0, house({ crest }))).status).toBe(400);
  // In a proof of their own its place stays white.
  const letterhead = house({ crest });
  const proof = await stranger.send<Proof>('POST', '/letterhead/proof', { letterhead, print: 'printed' });
  expect(proof.body.pages).toHaveLength(2);
  const own = await client.send<Proof>('POST', '/letterhead/proof', { letterhead, print: 'printed' });
  expect(own.body.pages[0]!.svg).not.toBe(proof.body.pages[0]!.svg);
  const picked = await client.raw('GET', `/letterhead/pictures/${asset}`);
  expect(picked.headers.get('content-security-policy')).toContain('sandbox');
});

test('what is no letterhead or no picture is refused in a sentence', async () => {
  const client = await newSchool(server);
  const odd = await use(client, 0, house({ ruleColour: 'red' }));
  expect(odd).toMatchObject({ status: 400, body: { code: 'input' } });
  const nameless = house({
    signOffs: [{ id: 'a', name: '', role: '', picture: null, family: 'Great Vibes' }],
  });
  expect((await use(client, 0, nameless)).body.detail).toContain('Say who signs.');
  const refused = await client.raw('POST', '/letterhead/pictures?name=x.png', Buffer.from('no picture'));
  expect(refused.status).toBe(422);
  expect(await client.get<LetterheadNow>('/letterhead')).toMatchObject({ version: 0, pictures: [] });
});

test('a sign-off that is gone is told before anything is pressed', async () => {
  const client = await newSchool(server);
  const folio = await folioOn(client, PRINTED);
  const findings = async (): Promise<string[]> =>
    (await client.get<{ findings: Finding[] }>(`/folios/${folio.id}/preflight`)).findings.map(
      ({ code }) => code,
    );
  expect(await findings()).toEqual(expect.arrayContaining(['no-letterhead', 'sign-off-gone']));
  const refused = await client.send<ProblemDetails>('POST', `/folios/${folio.id}/runs`, {});
  expect(refused).toMatchObject({ status: 409, body: { code: 'preflight-blocked' } });
  await use(client, 0, house());
  const left = await findings();
  for (const code of ['no-letterhead', 'sign-off-gone']) expect(left).not.toContain(code);
});
