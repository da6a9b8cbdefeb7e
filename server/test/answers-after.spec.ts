import type {
  AnswersOf,
  Folio,
  MailList,
  OpenedForm,
  OrderWorkList,
  OwnPapers,
  ProblemDetails,
} from '@scriptum/core/contract';
import type { Form, FormItem } from '@scriptum/core/form';
import { emptyOrder, type Order } from '@scriptum/core/order';
import { COPY_LANGUAGES } from '@scriptum/server/intake/copy-words';
import { FormAnswerRow } from '@scriptum/server/store/entities/intake';
import { newId } from '@scriptum/server/store/id';
import { HtmlValidate } from 'html-validate';
import Papa from 'papaparse';
import { answerCopy } from '@scriptum/server/intake/answer-copy';
import { ScriptedMailServer } from './testing/mail-server.js';
import { newSchool, startTestServer, type Client, type TestServer } from './testing/school.js';
import {
  answerAt,
  asked,
  askAt,
  FORM_KEY,
  formOf,
  letteredForm,
  publishedBy,
  QUESTIONS,
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

const inbox = async (mailbox: string, by = client): Promise<MailList['messages']> =>
  (await by.get<MailList>(`/practice-post/messages?mailbox=${encodeURIComponent(mailbox)}`)).messages;
const readMail = (id: string): Promise<{ text: string }> => client.get(`/practice-post/messages/${id}`);
/** The copies of a form's answers, once none is on its way any more. */
async function copies({ folio }: Published, at = server): Promise<FormAnswerRow[]> {
  for (;;) {
    const rows = await at.running.database.manager.find(FormAnswerRow, {
      where: { folioId: folio.id },
      order: { receivedAt: 'ASC' },
    });
    const open = rows.some(
      ({ copyState, copyAt }) => copyState === 'sending' || (copyState === 'owed' && copyAt! <= new Date()),
    );
    if (!open) return rows;
    await new Promise((resolve) => setTimeout(resolve, 40));
  }
}

describe('a copy of the answers', () => {
  test('goes to the address that was given, once, as people read it', async () => {
    const form = await publishedBy(client, QUESTIONS, { copyTo: 'email1', mayChange: true });
    const ticket = ticketFor(form.token);
    const given = {
      name01: 'Ada <b>Lovelock</b> see https://elsewhere.example/win',
      email1: 'ada.copy@families.example',
      club01: 'chess1',
    };
    const sent = await answerAt(server, form, given, ticket);
    // A line that was lost: the same once more.
    await answerAt(server, form, given, ticket);
    expect((await copies(form)).map(({ copyState }) => copyState)).toEqual(['sent']);
    const mails = await inbox('ada.copy@families.example');
    expect(mails).toMatchObject([{ subject: 'Your answers: Sign-up', attachments: 0 }]);
    const { text } = await readMail(mails[0]!.id);
    expect(text).toContain('Name\nAda <b>Lovelock</b> see (a link, left out)');
    expect(text).toContain('Club\nChess');
    expect(text).toContain(`${form.door.link}/change/${sent.body.editLink}`);
    expect(text).not.toContain('elsewhere.example');
    expect(sent.body.copy).toBe(true);
    const { entryId } = (await copies(form))[0]!;
    const { answers } = await client.get<AnswersOf>(`/folios/${form.folio.id}/entries/${entryId}/answers`);
    expect(answers[0]?.copy).toMatchObject({ state: 'sent' });
  });

  test('is sent again where an answer was changed, and to nobody who gave no address', async () => {
    const form = await publishedBy(client, QUESTIONS, { copyTo: 'email1', mayChange: true });
    await answerAt(server, form, { name01: 'Nobody' });
    const { body } = await answerAt(server, form, { name01: 'Bo', email1: 'bo.copy@families.example' });
    await copies(form);
    const changed = await askAt(server, 'PUT', `/f/${form.token}/change/${body.editLink}`, {
      ...ticketFor(form.token),
      version: form.version,
      language: 'en-GB',
      given: { name01: 'Bo the Second', email1: 'bo.copy@families.example' },
    });
    expect(changed.status).toBe(200);
    expect((await copies(form)).map(({ copyState }) => copyState)).toEqual([null, 'sent']);
    const mails = await inbox('bo.copy@families.example');
    const texts = await Promise.all(mails.map(({ id }) => readMail(id)));
    expect(texts.map(({ text }) => text.includes('Bo the Second')).sort()).toEqual([false, true]);
  });

  test('is not sent to one address without end, whoever writes it into a form', async () => {
    const form = await publishedBy(client, QUESTIONS, { copyTo: 'email1' });
    const other = await publishedBy(client, QUESTIONS, { copyTo: 'email1' });
    for (let n = 0; n < 12; n++)
      await answerAt(server, n < 7 ? form : other, { name01: `${n}`, email1: 'Victim@families.example' });
    const states = [...(await copies(form)), ...(await copies(other))].map(({ copyState }) => copyState);
    expect(states.filter((state) => state === 'sent')).toHaveLength(10);
    expect(states.filter((state) => state === 'passed over')).toHaveLength(2);
    expect(await inbox('victim@families.example')).toHaveLength(10);
    // Its answers are there all the same.
    expect((await client.get<Folio>(`/folios/${other.folio.id}`)).roll.entries).toHaveLength(5);
  });

  test('is tried again where the mail server says later, and not where it says no', async () => {
    const mail = new ScriptedMailServer();
    const own = await startTestServer({
      SCRIPTUM_SECRET_KEY: FORM_KEY,
      SCRIPTUM_SMTP_URL: await mail.listen(),
    });
    const { manager } = own.running.database;
    try {
      const form = await publishedBy(await newSchool(own), QUESTIONS, { copyTo: 'email1' });
      mail.sayOf('later@families.example', '451 Not now');
      mail.sayOf('never@families.example', '550 Nobody here');
      await answerAt(own, form, { name01: 'Later', email1: 'later@families.example' });
      await answerAt(own, form, { name01: 'Never', email1: 'never@families.example' });
      const [later, never] = await copies(form, own);
      expect([later?.copyState, never?.copyState]).toEqual(['owed', 'refused']);
      expect([later?.copySays, never?.copySays]).toEqual([
        expect.stringContaining('451'),
        expect.stringContaining('550'),
      ]);
      mail.behave();
      await manager.update(FormAnswerRow, { id: later!.id }, { copyAt: new Date() });
      // Also one that a dead server had under way: nobody knows whether it left.
      await manager.update(FormAnswerRow, { id: never!.id }, { copyState: 'sending' });
      await manager.query(
        "INSERT INTO slice (id, schoolId, folioId, kind, jobId, lane, turn, size, state) SELECT CONCAT('copy', id), schoolId, folioId, 'copy', 'x', 'quick', 0, 1, 'queued' FROM form_answer WHERE copyState = 'sending' ON DUPLICATE KEY UPDATE state = 'queued', endedAt = NULL",
      );
      const again = await own.restart();
      const states = (await copies(form, again)).map(({ copyState }) => copyState);
      expect(states).toEqual(['sent', 'unconfirmed']);
      expect(mail.taken.map(({ to }) => to)).toEqual(['later@families.example']);
      await again.close();
    } finally {
      await mail.close();
    }
  });

  test.each(COPY_LANGUAGES)('is right HTML in %s', async (language) => {
    const form: Form = {
      ...(await formOf([
        { kind: 'section', id: 'sect01', title: W('About & around') },
        ...QUESTIONS,
        { kind: 'section', id: 'sect02', title: W('Nothing below') },
        { kind: 'date', ...asked('date01', 'Day'), withTime: false },
        { kind: 'consent', ...asked('agree1', 'Agree') },
        { kind: 'signature', ...asked('sign01', 'Sign') },
      ])),
    };
    const { html, subject } = answerCopy({
      form,
      answer: {
        given: { name01: '\u202eمحمد "x" <y>', agree1: 'yes', sign01: ['upload'], date01: '2026-11-25' },
        language,
        receivedAt: new Date('2026-11-25T10:00:00Z'),
        changedAt: null,
      },
      files: {},
      school: { name: 'Thistle & Quay', colour: '#22303C', timeZone: 'Europe/London' },
      changeAt: 'https://school.example/f/x/change/y?a=1&b=2',
      paperAt: null,
    });
    expect(html).toContain('About &#38; around');
    expect(html).toContain('محمد &#34;x&#34; &#60;y&#62;');
    expect(subject).toContain('Sign-up');
    expect(html).toContain('2026');
    expect(html).not.toContain('\u202e');
    const validator = new HtmlValidate({
      extends: ['html-validate:recommended', 'html-validate:a11y'],
      rules: {
        'no-trailing-whitespace': 'off',
        'doctype-style': 'off',
        'no-inline-style': 'off',
        'long-title': 'off',
      },
    });
    const report = await validator.validateString(html);
    expect(report.results.flatMap(({ messages }) => messages.map(({ message }) => message))).toEqual([]);
  });
});

describe('papers to take along', () => {
  const papersAt = (form: Published, link: string) =>
    askAt<OwnPapers & ProblemDetails>(server, 'GET', `/f/${form.token}/paper/${link}/papers`);
  const fileAt = (form: Published, link: string, id: string): Promise<Response> =>
    fetch(`${server.running.url}/f/${form.token}/paper/${link}/${id}`);

  async function answeredAndPressed(
    then: Order['then'],
  ): Promise<{ form: Published; link: string; orderId: string }> {
    const form = await letteredForm(client, { paper: true });
    const id = newId();
    const order = { ...emptyOrder('Press'), then };
    const added = await client.send<ProblemDetails>('POST', `/folios/${form.folio.id}/orders`, { id, order });
    expect([added.status, added.body.detail]).toEqual([200, undefined]);
    await client.send('PUT', `/folios/${form.folio.id}/orders/${id}/on`, { isOn: true });
    const { body } = await answerAt(server, form, { name01: 'Ada', email1: 'ada@families.example' });
    return { form, link: body.paperLink!, orderId: id };
  }

  test('are there once they are pressed, for who has the link alone', async () => {
    const { form, link } = await answeredAndPressed({ kind: 'keep' });
    const there = async (): Promise<OwnPapers['papers']> => {
      for (;;) {
        const { body } = await papersAt(form, link);
        if (body.papers.length > 0) return body.papers;
        await new Promise((resolve) => setTimeout(resolve, 40));
      }
    };
    const [paper] = await there();
    const file = await fileAt(form, link, paper!.id);
    expect([file.status, file.headers.get('content-type')]).toEqual([200, 'application/pdf']);
    expect(file.headers.get('content-disposition')).toContain('attachment');
    expect(
      Buffer.from(await file.arrayBuffer())
        .subarray(0, 5)
        .toString(),
    ).toBe('%PDF-');
    const page = await askAt<OpenedForm>(server, 'GET', `/f/${form.token}/paper/${link}/form`);
    expect([page.body.state, page.body.form?.items]).toEqual(['paper', []]);
    const { body: bo } = await answerAt(server, form, { name01: 'Bo' });
    expect((await fileAt(form, bo.paperLink!, paper!.id)).status).toBe(404);
    const [answerId] = link.split('-');
    for (const wrong of [`${answerId}-${'0'.repeat(40)}`, 'x', '%00', bo.editLink ?? 'none'])
      expect((await papersAt(form, wrong)).status).toBe(404);
    const elsewhere = await letteredForm(await newSchool(server), { paper: true });
    expect((await papersAt(elsewhere, link)).status).toBe(404);
    // What is held is nobody's yet.
    const held = await client.send('POST', `/folios/${form.folio.id}/papers/hold`, {
      paperIds: [paper!.id],
      hold: true,
      note: 'A look first',
    });
    expect(held.status).toBe(200);
    expect((await papersAt(form, link)).body.papers).toEqual([]);
  });

  test('wait for a clearing where the school wants one', async () => {
    const own = await newSchool(server);
    const form = await letteredForm(own, { paper: true });
    await own.send('PUT', '/wishes', { clearing: 'cleared' });
    const { body } = await answerAt(server, form, { name01: 'Ada' });
    await own.press(server, form.folio.id);
    expect((await papersAt(form, body.paperLink!)).body.papers).toEqual([]);
    const { papers } = await own.register(form.folio.id);
    await own.send('POST', `/folios/${form.folio.id}/papers/hold`, {
      paperIds: papers.map(({ id }) => id),
      hold: false,
    });
    expect((await papersAt(form, body.paperLink!)).body.papers).toHaveLength(1);
  });

  test('wait for a yes where a standing order asks for one', async () => {
    const { form, link, orderId } = await answeredAndPressed(emptyOrder('Asks').then);
    const path = `/folios/${form.folio.id}/orders/${orderId}/work`;
    const asked = async (): Promise<string> => {
      for (;;) {
        const { work } = await client.get<OrderWorkList>(path);
        if (work[0]?.state === 'asked') return work[0].id;
        await new Promise((resolve) => setTimeout(resolve, 40));
      }
    };
    const workId = await asked();
    expect((await papersAt(form, link)).body.papers).toEqual([]);
    await client.send('POST', path.replace(/work$/, 'answer'), { workIds: [workId], yes: true });
    expect((await papersAt(form, link)).body.papers).toHaveLength(1);
  });

  test('are none where the form gives none', async () => {
    const form = await letteredForm(client);
    const { body } = await answerAt(server, form, { name01: 'Ada' });
    expect(body.paperLink).toBeNull();
  });
});

describe('a quiz', () => {
  const quiz = (right = 'paris1', points = '2'): FormItem[] => [
    QUESTIONS[0]!,
    {
      kind: 'one',
      ...asked('capit1', 'Capital of France'),
      choices: [
        { id: 'paris1', label: W('Paris') },
        { id: 'lyon01', label: W('Lyon') },
      ],
      other: false,
      look: 'list',
      mark: { points, right: [right] },
    },
    {
      kind: 'several',
      ...asked('prime1', 'Which are prime?'),
      choices: [
        { id: 'two001', label: W('Two; the first') },
        { id: 'four01', label: W('Four') },
        { id: 'five01', label: W('Five') },
      ],
      other: false,
      mark: { points: '3', right: ['two001', 'five01'] },
    },
    {
      kind: 'number',
      ...asked('seven1', 'Seven by six'),
      whole: false,
      mark: { points: '1', right: ['42'] },
    },
    { kind: 'short', ...asked('word01', 'A river'), mark: { points: '1.5', right: ['Tyne', 'Tees'] } },
  ];
  const scores = async ({ folio }: Published): Promise<string[]> => {
    const file = await client.raw('GET', `/folios/${folio.id}/roll-file?kind=csv`);
    const { data } = Papa.parse<Record<string, string>>((await file.text()).trim(), { header: true });
    return data.map((row) => row['Sign-up: points']!);
  };
  const keyIn = async ({ folio }: Published) => {
    const { roll } = await client.get<Folio>(`/folios/${folio.id}`);
    const column = roll.columns.find(({ worked }) => worked?.kind === 'key')!;
    if (column.worked?.kind !== 'key') throw new Error('There is no key.');
    return { column, key: column.worked };
  };
  const republish = async ({ folio, door }: Published, items: FormItem[]): Promise<ProblemDetails> => {
    const path = `/folios/${folio.id}/writings/${door.writingId}`;
    const now = (await client.get<Folio>(`/folios/${folio.id}`)).writings.find(
      ({ id }) => id === door.writingId,
    )!;
    const saved = await client.send<{ version: number }>('PUT', path, {
      version: now.version,
      kind: 'form',
      content: { ...(now.content as Form), items },
    });
    const { body } = await client.send<ProblemDetails>(
      'POST',
      `/folios/${folio.id}/forms/${door.writingId}/publish`,
      { version: saved.body.version },
    );
    return body;
  };

  test('gives points by what the form says is right, and tells nobody who answers', async () => {
    const form = await publishedBy(client, quiz());
    const { body } = await askAt<OpenedForm>(server, 'GET', `/f/${form.token}/form`);
    expect(JSON.stringify(body)).not.toMatch(/mark|Tees/);
    await answerAt(server, form, {
      name01: 'Ada',
      capit1: 'paris1',
      prime1: ['five01', 'two001'],
      seven1: '42.0',
      word01: ' tyne. ',
    });
    await answerAt(server, form, { name01: 'Bo', capit1: 'lyon01', prime1: ['two001'], seven1: '41' });
    await answerAt(server, form, { name01: 'Cy', word01: 'Tees' });
    expect(await scores(form)).toEqual(['7.5', '0.0', '1.5']);
  });

  test('keeps what was decided in its key when it is published again', async () => {
    const form = await publishedBy(client, quiz());
    const { column, key } = await keyIn(form);
    const worked = {
      ...key,
      questions: [
        ...key.questions.map((one) =>
          one.id === 'word01' ? { ...one, answers: [...one.answers, { text: 'Wear' }], points: '4' } : one,
        ),
        { ...key.questions[0]!, id: 'byhand', columnId: 'name01', answers: [{ text: 'Ada' }] },
      ],
    };
    const { status } = await client.send('PATCH', `/folios/${form.folio.id}/roll`, {
      columns: [{ do: 'set', column: { ...column, worked }, was: column }],
    });
    expect(status).toBe(200);
    await republish(form, quiz('lyon01', '5').slice(0, -2).concat(quiz().slice(-1)));
    const now = await keyIn(form);
    expect(now.column.id).toBe(column.id);
    expect(
      now.key.questions.map(({ id, points, answers }) => [id, points, answers.map(({ text }) => text)]),
    ).toEqual([
      ['capit1', '5', ['Lyon']],
      ['prime1', '3', ['Two, the first', 'Five']],
      ['word01', '4', ['Tyne', 'Tees', 'Wear']],
      ['byhand', '2', ['Ada']],
    ]);
  });

  test('is not published where nothing is right', async () => {
    const form = await publishedBy(client, QUESTIONS);
    const body = await republish(form, [
      { kind: 'short', ...asked('word01', 'A river'), mark: { points: '1', right: [' '] } },
    ]);
    expect(body.detail).toBe(
      'Question 1 gives points, but nothing is said to be right. Say what is right, or give no points.',
    );
  });
});
