import type { Checks, Folio, PaperLine, Proof } from '@scriptum/core/contract';
import { withException, type Exception, type Letter, type Writing } from '@scriptum/core/template';
import type { FlowText } from '@scriptum/core/text';
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

const SHEET = 'Name,Mark,Mail\nAnn,71,a@b.example\nBo,60,b@b.example\nCy,50,c@b.example\n';
const made = (): Promise<Folio> =>
  client.folioOf(SHEET, { letter: ['Dear {{Name}},', 'you have {{Mark}} points.'], file: '{{Name}}' });
const saying = (letter: Letter, text: string): Letter => ({
  ...letter,
  body: {
    ...letter.body,
    content: [...letter.body.content, { type: 'paragraph', content: [{ type: 'text', text }] }],
  } as FlowText,
});

async function except(folio: Folio, n: number, text: string, who = client) {
  const letter = letterOf(folio);
  const content: Exception = {
    kind: 'exception',
    entryId: folio.roll.entries[n]!.id,
    of: letter.id,
    base: letter.content,
    own: saying(letter.content, text),
  };
  return who.send<Extract<Writing, { kind: 'exception' }> & { code: string }>(
    'POST',
    `/folios/${folio.id}/writings`,
    { kind: 'exception', content },
  );
}

const textOf = async (folio: Folio, { id }: PaperLine): Promise<string> =>
  pdfText(
    Buffer.from(await (await client.raw('GET', `/folios/${folio.id}/papers/${id}/file`)).arrayBuffer()),
  );
const present = async (folio: Folio): Promise<PaperLine[]> =>
  (await client.register(folio.id)).papers.filter(({ state }) => state !== 'superseded');

test('one learner’s paper says something else, also after the letter and the roll have changed, until it is taken back', async () => {
  const folio = await made();
  await client.press(server, folio.id);
  const { body: exception } = await except(folio, 1, 'We missed you on Friday.');
  expect((await client.press(server, folio.id)).run!.total).toBe(1);
  let papers = await present(folio);
  expect(papers.map(({ learner, excepted }) => [learner, excepted])).toEqual([
    ['Ann', false],
    ['Bo', true],
    ['Cy', false],
  ]);
  expect(await textOf(folio, papers[1]!)).toContain('We missed you on Friday.');
  expect(await textOf(folio, papers[0]!)).not.toContain('missed');

  // Another text for everybody, and another name in the roll: both are in Bo's paper too.
  const letter = letterOf(folio);
  const changed = saying(letter.content, 'The term ends on Thursday.');
  await client.send('PUT', writingPath(folio, 'letter'), { ...letter, content: changed });
  await client.send('PATCH', `/folios/${folio.id}/roll`, {
    cells: [{ entryId: folio.roll.entries[1]!.id, columnId: folio.roll.columns[0]!.id, text: 'Bobo' }],
  });
  expect((await client.press(server, folio.id)).run!.total).toBe(3);
  papers = await present(folio);
  const text = await textOf(folio, papers[1]!);
  expect(text).toContain('Dear Bobo');
  expect(text).toContain('We missed you on Friday.');
  // Both were put at the same place, so somebody is asked to look.
  const { content } = withException(changed, exception.content);
  expect(text.includes('Thursday')).toBe(JSON.stringify(content).includes('Thursday'));

  // What was pressed is shown as it was made, from its kept versions.
  const { pages } = await client.get<Proof>(`/folios/${folio.id}/papers/${papers[1]!.id}/proof`);
  expect(pages.length).toBe(1);
  await client.send('DELETE', `/folios/${folio.id}/writings/${exception.id}`);
  expect((await client.get<Proof>(`/folios/${folio.id}/papers/${papers[1]!.id}/proof`)).pages).toEqual(pages);
  expect((await client.press(server, folio.id)).run!.total).toBe(1);
  papers = await present(folio);
  expect(await textOf(folio, papers[1]!)).not.toContain('missed');
  expect(papers[1]!.excepted).toBe(false);

  // It can be had back, and then the paper is made with it again.
  await client.send('POST', `/folios/${folio.id}/writings/${exception.id}/restore`);
  expect((await client.press(server, folio.id)).run!.total).toBe(1);
});

test('a newer sheet leaves exceptions with their learners', async () => {
  const folio = await made();
  await except(folio, 1, 'Only for Bo.');
  const newer = 'Name,Mark,Mail,Class\nCy,51,c@b.example,8A\nBo,65,b@b.example,8A\nDee,40,d@b.example,8B\n';
  const file = await client.raw('POST', `/folios/${folio.id}/files`, newer, {
    'content-type': 'application/octet-stream',
  });
  const { fileId } = (await file.json()) as { fileId: string };
  const as = { kind: 'refresh', sourceId: folio.sources[0]!.id };
  const { status } = await client.send('POST', `/folios/${folio.id}/roll`, { fileId, name: 'newer.csv', as });
  expect(status).toBe(200);
  await client.press(server, folio.id);
  const papers = await present(folio);
  const told = await Promise.all(papers.map(async (paper) => [paper.learner, await textOf(folio, paper)]));
  expect(told.flatMap(([learner, text]) => (text!.includes('Only for Bo.') ? [learner] : []))).toEqual([
    'Bo',
  ]);
  expect(told.find(([learner]) => learner === 'Bo')![1]).toContain('65 points');
});

test('one learner has one exception in a letter, in a folio of the same school', async () => {
  const folio = await made();
  expect((await except(folio, 0, 'x')).status).toBe(200);
  const again = await except(folio, 0, 'y');
  expect([again.status, again.body.code]).toEqual([409, 'changed-elsewhere']);
  expect((await except(folio, 1, 'x', await newSchool(server))).status).toBe(404);
  const other = await made();
  const letter = letterOf(folio);
  const [entry] = other.roll.entries;
  const content = { kind: 'exception', base: letter.content, own: letter.content };
  const send = (entryId: string, of: string) =>
    client.send('POST', `/folios/${folio.id}/writings`, {
      kind: 'exception',
      content: { ...content, entryId, of },
    });
  expect((await send(entry!.id, letter.id)).status).toBe(404);
  expect((await send(folio.roll.entries[1]!.id, letterOf(other).id)).status).toBe(404);
});

test('it stays with its learner and its letter, and does not count as the last letter of the folio', async () => {
  const folio = await made();
  const { body: exception } = await except(folio, 0, 'x');
  const moved = { ...exception.content, entryId: folio.roll.entries[1]!.id };
  const path = `/folios/${folio.id}/writings/${exception.id}`;
  const saved = await client.send<{ detail: string }>('PUT', path, { ...exception, content: moved });
  expect([saved.status, saved.body.detail]).toEqual([
    400,
    'An exception stays with its learner and its letter.',
  ]);
  expect((await client.send('DELETE', path)).status).toBe(200);
  // Copies go with the people alone.
  await except(folio, 0, 'Only for Ann.');
  const copy = async (people: boolean): Promise<readonly Writing[]> => {
    const { body } = await client.send<{ id: string }>('POST', `/folios/${folio.id}/copies`, {
      title: 'Copy',
      people,
    });
    const { writings } = await client.get<Folio>(`/folios/${body.id}`);
    return writings.filter(({ kind }) => kind === 'exception');
  };
  expect(await copy(false)).toEqual([]);
  const [copied] = await copy(true);
  expect((copied!.content as Exception).entryId).not.toBe(folio.roll.entries[0]!.id);
  expect(
    (
      await client.send('POST', `/folios/${folio.id}/writing-copies`, {
        folioId: folio.id,
        writingId: copied!.id,
      })
    ).status,
  ).toBe(404);
});

test('the papers of exceptions are looked at as they come out', async () => {
  const folio = await made();
  await except(folio, 2, 'A long text. '.repeat(900));
  const looked = async (): Promise<Checks> => {
    for (;;) {
      const checks = await client.get<Checks>(`/folios/${folio.id}/checks`);
      if (!checks.going && checks.done === checks.total) return checks;
      await new Promise((resolve) => setTimeout(resolve, 100));
    }
  };
  const { findings } = await looked();
  const longer = findings.find(({ code }) => code === 'pages-more');
  expect(longer?.entryIds).toEqual([folio.roll.entries[2]!.id]);
});
