import type {
  AnswerKept,
  AnswersOf,
  Folio,
  OpenedForm,
  OrderNext,
  ProblemDetails,
} from '@scriptum/core/contract';
import { personalCode } from '@scriptum/core/column';
import type { Form, FormItem } from '@scriptum/core/form';
import { emptyOrder } from '@scriptum/core/order';
import { newId } from '@scriptum/server/store/id';
import { newSchool, startTestServer, type Client, type TestServer } from './testing/school.js';
import {
  answerAt,
  asked,
  askAt,
  FORM_KEY,
  publishedIn,
  ticketFor,
  W,
  type Published,
} from './testing/web-form.js';

let server: TestServer;
let client: Client;
beforeAll(async () => {
  server = await startTestServer({ SCRIPTUM_SECRET_KEY: FORM_KEY });
  client = await newSchool(server);
});
afterAll(() => server.close());

const SHEET = 'Number,Name,Phone,House\nS1,Ada,01000 555 901,Heron\nS2,Bo,01000 555 902,Otter\nS3,محمد,,\n';

/** A trip: may they go, whom to ring (a column of the sheet), and which house (a choice from the sheet). */
const questions = (folio: Folio): FormItem[] => [
  { kind: 'consent', ...asked('goes01', 'May go') },
  { kind: 'phone', ...asked('ring01', 'Phone'), columnId: columnOf(folio, 'Phone') },
  {
    kind: 'one',
    ...asked('house1', 'House'),
    columnId: columnOf(folio, 'House'),
    choices: [
      { id: 'heron1', label: W('Heron') },
      { id: 'otter1', label: W('Otter') },
    ],
    other: false,
    look: 'list',
  },
];
const columnOf = ({ roll }: Folio, title: string): string =>
  roll.columns.find((one) => one.title === title)!.id;

async function trip(
  terms: Partial<Form['terms']> = {},
  by = client,
  asks = questions,
): Promise<Published & { codes: string[] }> {
  const { body: made } = await by.send<{ id: string }>('POST', '/folios', { title: 'Trip' });
  const { body: folio } = await by.bringIn(made.id, 'roll.csv', SHEET);
  const form = await publishedIn(by, made.id, asks(folio), { who: 'roll', ...terms });
  const worked = form.folio.roll.columns.flatMap((one) =>
    one.worked?.kind === 'personal' ? [one.worked] : [],
  );
  return { ...form, codes: form.folio.roll.entries.map(({ id }) => personalCode(worked[0]?.seed ?? '', id)) };
}
const opened = (form: Published, code: string) =>
  askAt<OpenedForm & ProblemDetails>(server, 'GET', `/f/${form.token}/for/${code}/form`);
const answer = (form: Published, code: string, given: object, ticket = ticketFor(form.token)) =>
  askAt<AnswerKept & ProblemDetails>(server, 'POST', `/f/${form.token}/for/${code}/answers`, {
    ...ticket,
    version: form.version,
    language: 'en-GB',
    given,
  });
const rollOf = async ({ folio }: Published): Promise<Folio> => client.get<Folio>(`/folios/${folio.id}`);
const cellsOf = async (form: Published, ...titles: string[]): Promise<string[]> => {
  const folio = await rollOf(form);
  return folio.roll.entries.map(({ values }) =>
    titles.map((title) => values[columnOf(folio, title)] ?? '').join(' | '),
  );
};

test('each learner has a link and a code, which begin with what stands in the row', async () => {
  const form = await trip();
  const personal = form.folio.roll.columns.filter(({ worked }) => worked?.kind === 'personal');
  expect(personal.map(({ title }) => title)).toEqual(['Sign-up: personal link', 'Sign-up: code']);
  const file = await client.raw('GET', `/folios/${form.folio.id}/roll-file?kind=csv`);
  const csv = await file.text();
  expect(csv).toContain(`${form.door.link}/for/${form.codes[0]}`);
  const { status, body, cookies } = await opened(form, form.codes[0]!);
  expect([status, body.state, body.about, cookies]).toEqual([200, 'open', 'Ada', []]);
  expect(body.given).toEqual({
    [columnOf(form.folio, 'Phone')]: '01000 555 901',
    [columnOf(form.folio, 'House')]: 'heron1',
  });
  // As somebody types it who has it on paper.
  const typed = ` ${form.codes[0]!.slice(0, 5).toUpperCase()} – ${form.codes[0]!.slice(5)}`
    .replace(/0/g, 'O')
    .replace(/1/g, 'l');
  expect((await opened(form, encodeURIComponent(typed))).body.about).toBe('Ada');
  const blank = await askAt<OpenedForm>(server, 'GET', `/f/${form.token}/form`);
  expect([blank.body.state, blank.body.form?.items, blank.body.about]).toEqual(['code', [], null]);
});

test('an answer stands in the learner’s own row, once; what the sheet says stays behind it', async () => {
  const form = await trip({ stampId: 'stamp1' });
  const phone = columnOf(form.folio, 'Phone');
  const ticket = ticketFor(form.token);
  const given = { goes01: 'yes', [phone]: '01000 555 909', [columnOf(form.folio, 'House')]: 'heron1' };
  const first = await answer(form, form.codes[0]!, given, ticket);
  expect([first.status, first.body.editLink]).toEqual([200, null]);
  // A line that was lost: the same once more.
  expect((await answer(form, form.codes[0]!, given, ticket)).status).toBe(200);
  const folio = await rollOf(form);
  expect(folio.roll.entries).toHaveLength(3);
  expect(await cellsOf(form, 'Name', 'May go', 'Phone')).toEqual([
    'Ada | yes | 01000 555 909',
    'Bo |  | 01000 555 902',
    'محمد |  | ',
  ]);
  expect(folio.roll.entries[0]!.answered).toBeUndefined();
  // School clocks: the tests' schools have none of their own, which is UTC.
  expect(folio.roll.entries[0]!.values['stamp1']).toBe(first.body.receivedAt.slice(0, 16));
  // A newer version of the sheet does not take it back.
  const kept = await client.raw('POST', `/folios/${form.folio.id}/files`, SHEET.replace('Heron', 'Plover'), {
    'content-type': 'text/csv',
  });
  const { fileId } = (await kept.json()) as { fileId: string };
  const as = { kind: 'refresh', sourceId: folio.sources[0]!.id };
  await client.send('POST', `/folios/${form.folio.id}/roll`, { fileId, name: 'roll.csv', as });
  expect(await cellsOf(form, 'May go', 'Phone', 'House')).toEqual([
    'yes | 01000 555 909 | Plover',
    ' | 01000 555 902 | Otter',
    ' |  | ',
  ]);
  // It counts once.
  expect((await opened(form, form.codes[0]!)).body).toMatchObject({ state: 'answered', form: { items: [] } });
  expect((await answer(form, form.codes[0]!, { goes01: '' })).body.code).toBe('answered');
  const { answers } = await client.get<AnswersOf>(
    `/folios/${form.folio.id}/entries/${folio.roll.entries[0]!.id}/answers`,
  );
  expect(answers).toMatchObject([{ form: 'Sign-up', editLink: null }]);
  // Whoever deletes it leaves the learner where they are.
  const entry = `/folios/${form.folio.id}/entries/${folio.roll.entries[0]!.id}/answers`;
  expect((await client.send('DELETE', entry)).status).toBe(200);
  expect(await cellsOf(form, 'Name', 'May go')).toEqual(['Ada | ', 'Bo | ', 'محمد | ']);
  expect((await opened(form, form.codes[0]!)).body.state).toBe('open');
});

test('what is not asked leaves the cell of the sheet as it is', async () => {
  const form = await trip({}, client, (folio) =>
    questions(folio).map((item): FormItem =>
      item.id === 'ring01'
        ? { ...item, shownIf: { columnId: 'goes01', is: 'equal', values: ['yes'] } }
        : item,
    ),
  );
  const house = columnOf(form.folio, 'House');
  expect((await answer(form, form.codes[0]!, { goes01: '', [house]: 'otter1' })).status).toBe(200);
  expect((await cellsOf(form, 'Phone', 'House'))[0]).toBe('01000 555 901 | Otter');
});

test('it can be changed by the same link, where the form says so; two at the same time are one answer', async () => {
  const form = await trip({ mayChange: true });
  const replies = await Promise.all(['yes', ''].map((goes01) => answer(form, form.codes[1]!, { goes01 })));
  expect(replies.map(({ status }) => status)).toEqual([200, 200]);
  await answer(form, form.codes[1]!, { goes01: 'yes' });
  expect((await opened(form, form.codes[1]!)).body).toMatchObject({
    state: 'open',
    given: { goes01: 'yes' },
  });
  expect(await cellsOf(form, 'May go')).toEqual(['', 'yes', '']);
  const [door] = (await client.get<{ doors: { answers: number }[] }>(`/folios/${form.folio.id}/forms`)).doors;
  expect(door!.answers).toBe(1);
});

test('nobody else answers it: no code, a wrong one, another form’s, another school’s', async () => {
  const [form, other] = [await trip(), await trip({}, await newSchool(server))];
  expect((await answerAt(server, form, { goes01: 'yes' })).body.code).toBe('needs-code');
  for (const code of ['', 'x', '0000000000', other.codes[0]!, `${form.codes[0]!}0`, '../form', '%00'])
    expect([code, (await opened(form, code)).status]).toEqual([code, 404]);
  expect((await answer(form, other.codes[0]!, { goes01: 'yes' })).status).toBe(404);
  expect((await askAt(server, 'POST', `/f/${form.token}/uploads?item=goes01&name=x`, {})).status).toBe(409);
  // A form for everybody knows no codes.
  const open = await trip({ who: 'anyone' });
  expect((await opened(open, form.codes[0]!)).status).toBe(404);
  expect(open.folio.roll.columns.some(({ worked }) => worked?.kind === 'personal')).toBe(false);
  expect(await cellsOf(form, 'May go')).toEqual(['', '', '']);
});

test('what is guessed is slowed down', async () => {
  const own = await startTestServer({ SCRIPTUM_SECRET_KEY: FORM_KEY });
  try {
    const by = await newSchool(own);
    const { body: made } = await by.send<{ id: string }>('POST', '/folios', { title: 'Trip' });
    const { body: folio } = await by.bringIn(made.id, 'roll.csv', SHEET);
    const form = await publishedIn(by, made.id, questions(folio), { who: 'roll' });
    const code = personalCode(
      form.folio.roll.columns.flatMap(({ worked }) => (worked?.kind === 'personal' ? [worked.seed] : []))[0]!,
      form.folio.roll.entries[0]!.id,
    );
    // What is wrong with an answer counts for nobody: a year group sits behind one address.
    const path = `/f/${form.token}/for/${code}/answers`;
    const wrong = await Promise.all(Array.from({ length: 20 }, () => askAt(own, 'POST', path, {})));
    expect(new Set(wrong.map(({ status }) => status))).toEqual(new Set([400]));
    const tries = await Promise.all(
      Array.from({ length: 210 }, async (_, n) => {
        const code = String(n).padStart(10, '0');
        return (await fetch(`${own.running.url}/f/${form.token}/for/${code}/form`)).status;
      }),
    );
    expect(tries).toContain(429);
    expect(tries.filter((status) => status === 404).length).toBeGreaterThanOrEqual(200);
  } finally {
    await own.close();
  }
});

test('a copy that is published has codes of its own, and taking a change back keeps what was answered', async () => {
  const form = await trip();
  const sheet = SHEET.replace('S3,محمد,,\n', '');
  const kept = await client.raw('POST', `/folios/${form.folio.id}/files`, sheet, {
    'content-type': 'text/csv',
  });
  const { fileId } = (await kept.json()) as { fileId: string };
  const as = { kind: 'refresh', sourceId: form.folio.sources[0]!.id };
  const { body: after } = await client.send<Folio>('POST', `/folios/${form.folio.id}/roll`, {
    fileId,
    name: 'b.csv',
    as,
  });
  await answer(form, form.codes[0]!, { goes01: 'yes', [columnOf(form.folio, 'Phone')]: '01000 555 901' });
  const back = `/folios/${form.folio.id}/roll/earlier/${after.earlier!.id}`;
  expect((await client.send('POST', back)).status).toBe(200);
  const now = await rollOf(form);
  expect(await cellsOf(form, 'Name', 'May go')).toEqual(['Ada | yes', 'Bo | ', 'محمد | ']);
  expect(now.roll.entries.every(({ leftOut }) => leftOut === undefined)).toBe(true);
  // A new roll would take the answers out.
  expect((await client.bringIn<ProblemDetails>(form.folio.id, 'new.csv', SHEET)).body.code).toBe(
    'answers-there',
  );

  const { body: copy } = await client.send<{ id: string }>('POST', `/folios/${form.folio.id}/copies`, {
    title: 'Next term',
    people: true,
  });
  const copied = await client.get<Folio>(`/folios/${copy.id}`);
  const writing = copied.writings.find(({ kind }) => kind === 'form')!;
  await client.send('POST', `/folios/${copy.id}/forms/${writing.id}/publish`, { version: writing.version });
  const published = await client.get<Folio>(`/folios/${copy.id}`);
  const [link] = published.roll.columns.flatMap(({ worked }) =>
    worked?.kind === 'personal' ? [worked] : [],
  );
  expect(link).toMatchObject({ formId: writing.id });
  expect(link!.base).not.toBe(form.door.link);
  const code = personalCode(link!.seed, published.roll.entries[0]!.id);
  const path = new URL(link!.base).pathname;
  expect((await askAt<OpenedForm>(server, 'GET', `${path}/for/${code}/form`)).body.about).toBe('Ada');
  expect((await askAt(server, 'GET', `${path}/for/${form.codes[0]}/form`)).status).toBe(404);
});

test('standing orders act on each answer, and by somebody’s word on those who have answered', async () => {
  const form = await trip();
  const at = `/folios/${form.folio.id}/orders`;
  const id = newId();
  const order = { ...emptyOrder('Answer each'), then: { kind: 'keep' } };
  await client.send('POST', at, { id, order });
  await answer(form, form.codes[0]!, { goes01: 'yes' });
  const next = await client.get<OrderNext>(`${at}/${id}/next`);
  expect(next.takes).toEqual([form.folio.roll.entries[0]!.id]);
  await client.send('PUT', `${at}/${id}/on`, { isOn: true });
  await answer(form, form.codes[1]!, { goes01: 'yes' });
  const { work } = await client.get<{ work: { learner: string }[] }>(`${at}/${id}/work`);
  expect(work.map(({ learner }) => learner)).toEqual(['Bo']);
});

test('an answer from before the form was for the roll can still be changed by its link', async () => {
  const form = await trip({ who: 'anyone', mayChange: true });
  const { body } = await answerAt(server, form, { goes01: '' });
  const writing = (await rollOf(form)).writings.find(({ kind }) => kind === 'form')!;
  const content = {
    ...(writing.content as Form),
    terms: { ...(writing.content as Form).terms, who: 'roll' },
  };
  const path = `/folios/${form.folio.id}/writings/${writing.id}`;
  const saved = await client.send<{ version: number }>('PUT', path, {
    version: writing.version,
    kind: 'form',
    content,
  });
  const publish = `/folios/${form.folio.id}/forms/${writing.id}/publish`;
  expect((await client.send('POST', publish, { version: saved.body.version })).status).toBe(200);
  const link = `/f/${form.token}/change/${body.editLink}`;
  expect((await askAt<OpenedForm>(server, 'GET', `${link}/form`)).body.state).toBe('open');
  const again = {
    ...ticketFor(form.token),
    version: saved.body.version,
    language: 'en-GB',
    given: { goes01: 'yes' },
  };
  expect((await askAt(server, 'PUT', link, again)).status).toBe(200);
  expect((await cellsOf(form, 'May go')).at(-1)).toBe('yes');
});

test('a form for staff is answered by those who are signed in at the school alone', async () => {
  const form = await trip({ who: 'staff' });
  const path = `/f/${form.token}`;
  const stranger = await newSchool(server);
  const pageFor = async (by: Client): Promise<OpenedForm> => {
    const cookie = `scriptum.sid=${by.cookie('scriptum.sid') ?? ''}`;
    const response = await fetch(`${server.running.url}${path}/form`, { headers: { cookie } });
    expect(response.headers.getSetCookie()).toEqual([]);
    return (await response.json()) as OpenedForm;
  };
  const send = async (by: Client): Promise<number> => {
    const given = { goes01: 'yes' };
    const body = JSON.stringify({
      ...ticketFor(form.token),
      version: form.version,
      language: 'en-GB',
      given,
    });
    const cookie = `scriptum.sid=${by.cookie('scriptum.sid') ?? ''}`;
    const headers = { cookie, 'content-type': 'application/json' };
    return (await fetch(`${server.running.url}${path}/answers`, { method: 'POST', headers, body })).status;
  };
  expect((await askAt<OpenedForm>(server, 'GET', `${path}/form`)).body.state).toBe('staff');
  expect((await answerAt(server, form, { goes01: 'yes' })).body.code).toBe('staff-only');
  expect((await pageFor(stranger)).state).toBe('staff');
  expect(await send(stranger)).toBe(403);
  expect((await pageFor(client)).state).toBe('open');
  expect(await send(client)).toBe(200);
  expect((await rollOf(form)).roll.entries).toHaveLength(4);
});
