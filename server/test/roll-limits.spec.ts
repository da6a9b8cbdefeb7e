import type { Folio, ProblemDetails } from '@scriptum/core/contract';
import type { Column } from '@scriptum/core/column';
import { columnChanges } from '@scriptum/core/roll';
import type { Letter } from '@scriptum/core/template';
import { Rolls } from '@scriptum/server/tasks/rolls';
import { EntryRow } from '@scriptum/server/store/entities/folio';
import { zerosZip } from '../../core/test/zeros-zip.js';
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

const wordsOf = (folio: Folio, words: string): Letter => ({
  ...letterOf(folio).content,
  body: { type: 'doc', content: [{ type: 'paragraph', content: [{ type: 'text', text: words }] }] },
});

test('a letter that is saved while sheets are brought in is kept, or its save is refused', async () => {
  const folio = await client.folioOf('Name,Mail\nA,a@families.example', { letter: ['Dear {{Name}}'] });
  let version = letterOf(folio).version;
  let kept = '';
  let refused = 0;
  const save = async (n: number): Promise<void> => {
    const words = `Words of save ${n}`;
    const reply = await client.send<{ version: number }>('PUT', writingPath(folio, 'letter'), {
      version,
      kind: 'letter',
      content: wordsOf(folio, words),
    });
    if (reply.status === 200) {
      kept = words;
      version = reply.body.version;
    } else {
      expect(reply.status).toBe(409);
      refused++;
      version = letterOf(await client.get<Folio>(`/folios/${folio.id}`)).version;
    }
  };
  for (let round = 0; round < 8; round++) {
    // Other titles each time, so that the fields are matched anew each time.
    const bring = client.bringIn(folio.id, 'roll.csv', `Name ${round},Mail\nA,a@families.example`);
    for (let n = 0; n < 6; n++) await save(round * 10 + n);
    expect((await bring).status).toBe(200);
  }
  const { content } = letterOf(await client.get<Folio>(`/folios/${folio.id}`));
  expect(content.body).toEqual(wordsOf(folio, kept).body);
  expect(refused).toBeLessThan(40);
});

test('bringing in a sheet with the same titles leaves the letter’s version alone', async () => {
  const folio = await client.folioOf('Name,Mail\nA,a@families.example', { letter: ['Dear {{Name}}'] });
  await client.bringIn(folio.id, 'roll.csv', 'Name,Mail\nB,b@families.example');
  const { writings } = await client.get<Folio>(`/folios/${folio.id}`);
  expect(writings.map(({ version }) => version)).toEqual(folio.writings.map(({ version }) => version));
});

describe('work that does not end', () => {
  const freeze = async (folio: Folio): Promise<void> => {
    // Comparisons of each with each, past all bounds of one formula: what a limit of time is for.
    const rows = Array.from({ length: 3_000 }, (_, n) => `L${n},${n}.${n + 1}`);
    await client.bringIn(folio.id, 'roll.csv', `Name,Mark\n${rows.join('\n')}`);
  };

  test('is ended with its process, said in a sentence, and others are not held up', async () => {
    const folio = await client.folioOf('Name,Mark\nA,1', { letter: ['Dear {{Name}}'] });
    await freeze(folio);
    const rolls = new Rolls({ databaseUrl: server.databaseUrl, timeLimit: 1 });
    const place = {
      schoolId: (await server.running.database.manager.findOneByOrFail(EntryRow, { folioId: folio.id }))
        .schoolId,
      folioId: folio.id,
    };
    await expect(rolls.do('comparePapers', place)).rejects.toMatchObject({
      code: 'too-much-work',
      status: 422,
    });
    // Not tried again at once; a change of the roll may help.
    await expect(rolls.do('preflight', place)).rejects.toMatchObject({ code: 'too-much-work' });
    await rolls.close();
    // Whatever a formula asks for, the folio can be opened, so that it can be mended.
    const patient = new Rolls({ databaseUrl: server.databaseUrl });
    expect((await patient.do('folio', place)).json.length).toBeGreaterThan(1000);
    await patient.close();
    expect((await client.send('GET', `/folios/${folio.id}/papers`)).status).toBe(200);
  });

  test('past its memory it is ended too', async () => {
    const folio = await client.folioOf('Name,Mark\nA,1', { letter: ['Dear {{Name}}'] });
    await freeze(folio);
    const rolls = new Rolls({ databaseUrl: server.databaseUrl, memoryLimit: 1024 * 1024 });
    const { schoolId } = await server.running.database.manager.findOneByOrFail(EntryRow, {
      folioId: folio.id,
    });
    const outcome = await rolls
      .do('comparePapers', { schoolId, folioId: folio.id })
      .catch((error: unknown) => error);
    await rolls.close();
    expect(outcome).toMatchObject({ code: 'too-much-work' });
  });

  test('formulas that would freeze or fill the server have errors in their cells, and the server answers', async () => {
    const long = 'अ'.repeat(38_000);
    const { body: made } = await client.send<{ id: string }>('POST', '/folios', { title: 'Long' });
    const rows = Array.from({ length: 30 }, (_, n) => `L${n},${long},${n + 1}`);
    const { body: folio } = await client.bringIn(made.id, 'roll.csv', `Name,Essay,Mark\n${rows.join('\n')}`);
    const [, essay, mark] = folio.roll.columns;
    const formula = (...parts: (string | number)[]): object[] =>
      parts.map((part) =>
        typeof part === 'number' ? { columnId: folio.roll.columns[part]!.id } : { text: part },
      );
    expect([essay!.title, mark!.title]).toEqual(['Essay', 'Mark']);
    const nested = Array.from({ length: 12 }).reduce<string>(
      (inner) => `SUBSTITUTE(${inner}; "a"; REPT("a"; 4000))`,
      'REPT("a"; 4000)',
    );
    const columns = [
      formula('LEN(', 1, ') + LEN(', 1, ') + LEN(', 1, ')'),
      formula(nested),
      formula(`SUM(${Array.from({ length: 150 }, (_, n) => `1 / ${1_000_003 + n * n * 977}`).join('; ')})`),
      formula('9 ^ 9 ^ 9 ^ 9'),
      formula(`${'('.repeat(9_000)}1${')'.repeat(9_000)}`.slice(0, 3_999)),
      formula('"'.repeat(60)),
      formula('DATE(1 / 0.0000000001; 99999999; 9999999999)'),
      formula('LCM(', Array.from({ length: 60 }, (_, n) => `${10 ** 15 + n * 7919}`).join('; '), ')'),
    ].map((parts, n) => ({
      id: `worked${n}`,
      title: `W${n}`,
      worked: { kind: 'expression', formula: parts, rounding: null },
    }));
    const now = folio.roll.columns;
    const patch = { columns: columnChanges(now, [...now, ...columns] as Column[]) };
    expect((await client.send('PATCH', `/folios/${made.id}/roll`, patch)).status).toBe(200);
    const check = client.send<{ findings: { code: string }[] }>('GET', `/folios/${made.id}/preflight`);
    // Meanwhile the thread that answers requests does answer.
    expect((await client.send('GET', '/me')).status).toBe(200);
    const { status, body } = await check;
    expect(status).toBe(200);
    expect(body.findings.map(({ code }) => code)).toEqual(
      expect.arrayContaining(['formula-error', 'formula-wrong-in']),
    );
  });
});

test('a small archive whose parts share their bytes is refused at once', async () => {
  const bomb = zerosZip(600, 2_000_000, 'shared');
  expect(bomb.length).toBeLessThan(100_000);
  const { body: folio } = await client.send<{ id: string }>('POST', '/folios', { title: 'Bomb' });
  const reply = await client.bringIn<ProblemDetails>(folio.id, 'roll.xlsx', bomb);
  expect(reply).toMatchObject({ status: 422, body: { code: 'unpacks-too-large' } });
  for (const pid of server.running.rolls.processes) expect(() => process.kill(pid, 0)).not.toThrow();
});
