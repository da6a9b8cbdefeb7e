import type { AnswersOf, Folio, FormDoor, OpenedForm, ProblemDetails } from '@scriptum/core/contract';
import { TICKET_BITS, workFor, type Form, type FormItem } from '@scriptum/core/form';
import { Tickets } from '@scriptum/server/intake/tickets';
import { FormUploadRow } from '@scriptum/server/store/entities/intake';
import { sweepUploads } from '@scriptum/server/intake/uploads';
import exifr from 'exifr';
import piexif from 'piexifjs';
import { newSchool, startTestServer, type Client, type TestServer } from './testing/school.js';
import {
  answerAt,
  askAt,
  asked,
  FORM_KEY,
  formOf,
  publishedBy,
  publishedIn,
  QUESTIONS,
  sha256,
  ticketFor,
  tickets,
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

const published = (
  items: FormItem[] = QUESTIONS,
  terms: Partial<Form['terms']> = {},
  by = client,
): Promise<Published> => publishedBy(by, items, terms);
const ask = <T>(method: string, path: string, body?: unknown): ReturnType<typeof askAt<T>> =>
  askAt<T>(server, method, path, body);
const answer = (to: Published, given: object, ticket = ticketFor(to.token)): ReturnType<typeof answerAt> =>
  answerAt(server, to, given, ticket);

const rollOf = async ({ folio }: Published, by = client): Promise<Folio['roll']> =>
  (await by.get<Folio>(`/folios/${folio.id}`)).roll;

test('what is published is asked, and without a cookie', async () => {
  const form = await published();
  expect(form.folio.roll.columns.map(({ id, title, type, sourceId }) => [id, title, type, sourceId])).toEqual(
    [
      ['name01', 'Name', undefined, form.door.writingId],
      ['email1', 'Email', 'email', form.door.writingId],
      ['club01', 'Club', 'choice', form.door.writingId],
    ],
  );
  const { body, cookies } = await ask<OpenedForm>('GET', `/f/${form.token}/form`);
  expect(body).toMatchObject({ state: 'open', school: { name: 'Saltmarsh School', crest: null } });
  expect(cookies).toEqual([]);
});

test('a new roll, and one that is had back, keep the columns that people answer into', async () => {
  const { body: made } = await client.send<{ id: string }>('POST', '/folios', { title: 'Sign-up' });
  const titles = ({ roll }: Folio): string[] => roll.columns.map(({ title }) => title);
  const sheet = 'Number,Town\nS1,Rye\n';
  await client.bringIn(made.id, 'a.csv', sheet);
  const { body: begun } = await client.bringIn(made.id, 'b.csv', sheet.replace('Rye', 'Hythe'));
  const form = await publishedIn(client, made.id);
  // Back to before it was published, and a new roll after that.
  const back = `/folios/${made.id}/roll/earlier/${begun.earlier!.id}`;
  const { body: had } = await client.send<Folio>('POST', back);
  expect(titles(had)).toEqual(['Number', 'Town', 'Name', 'Email', 'Club']);
  const { body: anew } = await client.bringIn(made.id, 'c.csv', 'Number,Name\nS1,Zoë\n');
  expect(titles(anew)).toEqual(['Number', 'Name', 'Email', 'Club']);
  expect((await answer(form, { name01: 'Ada', email1: 'ada@families.example' })).status).toBe(200);
  const { columns, entries } = await rollOf(form);
  const cells = columns.map(({ id }) => entries.at(-1)!.values[id] ?? '');
  expect(cells).toEqual(['', 'Ada', 'ada@families.example', '']);
});

test('an answer is an entry of the roll, at once', async () => {
  const form = await published();
  const text = '<script>alert(1)</script> =HYPERLINK("x") \u202eevil';
  const { status, body } = await answer(form, { name01: text, club01: 'choir1', other1: 'not asked' });
  expect([status, body.editLink]).toEqual([200, null]);
  const { entries } = await rollOf(form);
  expect(entries).toHaveLength(1);
  expect(entries[0]).toMatchObject({
    values: { name01: text, email1: '', club01: 'Choir' },
    answered: form.door.writingId,
  });
  expect(entries[0]!.values).not.toHaveProperty('other1');
});

test('what is sent again and again, at the same time too, is one answer', async () => {
  const form = await published();
  const ticket = ticketFor(form.token);
  const replies = await Promise.all(
    Array.from({ length: 12 }, () => answer(form, { name01: 'Ada' }, ticket)),
  );
  expect(new Set(replies.map(({ status, body }) => `${status} ${body.receivedAt}`)).size).toBe(1);
  expect(replies[0]!.status).toBe(200);
  await answer(form, { name01: 'Ada, once more' }, ticket);
  expect((await rollOf(form)).entries.map(({ values }) => values['name01'])).toEqual(['Ada']);
});

test('many at once are all there, each once', async () => {
  const form = await published();
  const names = Array.from({ length: 40 }, (_, n) => `Learner ${n}`);
  // Worked for before, so that no connection waits meanwhile.
  const paid = names.map(() => ticketFor(form.token));
  const replies = await Promise.all(names.map((name, n) => answer(form, { name01: name }, paid[n])));
  expect(replies.map(({ status }) => status)).toEqual(names.map(() => 200));
  const { entries } = await rollOf(form);
  expect(entries.map(({ values }) => values['name01']!).sort()).toEqual([...names].sort());
  expect(new Set(entries.map(({ position }) => position)).size).toBe(40);
});

test('what is wrong is told question by question, and nothing is kept', async () => {
  const form = await published();
  const { status, body } = await answer(form, { email1: 'nobody', club01: 'fencing' });
  expect([status, body.code]).toEqual([422, 'answers']);
  expect(body.problems!.map(({ columnId, code }) => [columnId, code])).toEqual([
    ['name01', 'missing'],
    ['email1', 'no-email'],
    ['club01', 'no-choice'],
  ]);
  expect((await rollOf(form)).entries).toEqual([]);
});

describe('tickets', () => {
  test('forged, borrowed, too old, unpaid and not yet given ones are good for nothing', async () => {
    const form = await published();
    const other = await published();
    const good = ticketFor(form.token);
    const cases: [{ ticket: string; nonce: string }, string][] = [
      [{ ...good, ticket: good.ticket.replace(/^./, (sign) => (sign === 'a' ? 'b' : 'a')) }, 'ticket-old'],
      [ticketFor(other.token), 'ticket-old'],
      [{ ...good, nonce: good.nonce === 'zz' ? 'zy' : 'zz' }, 'ticket-old'],
      [ticketFor(form.token, 25 * 3_600_000), 'ticket-old'],
      [ticketFor(form.token, -3_600_000), 'early'],
    ];
    for (const [ticket, code] of cases)
      expect((await answer(form, { name01: 'Robot' }, ticket)).body.code).toBe(code);
    expect((await rollOf(form)).entries).toEqual([]);
  });

  test('nobody answers in less than a second and a half, nor a day later', () => {
    const at = 1_800_000_000_000;
    const ticket = tickets.give('t', at);
    const nonce = workFor(ticket, { bits: TICKET_BITS, from: 0, tries: 10_000_000 }, sha256)!;
    const state = (after: number): string => tickets.look('t', ticket, nonce, at + after).state;
    expect([1_499, 1_500, 86_400_000, 86_400_001].map(state)).toEqual(['early', 'good', 'good', 'old']);
  });

  test('the key of two servers is the same where the setting is', () => {
    const { ticket, nonce } = ticketFor('t');
    expect(new Tickets(FORM_KEY).look('t', ticket, nonce).state).toBe('good');
    expect(new Tickets('another').look('t', ticket, nonce).state).toBe('forged');
  });
});

describe('terms', () => {
  const hour = (n: number): string => new Date(Date.now() + n * 3_600_000).toISOString();

  test('a form is answered between its times, as long as there is room, and while nobody has closed it', async () => {
    const says = async (form: Published): Promise<[string, string]> => {
      const { body } = await ask<OpenedForm>('GET', `/f/${form.token}/form`);
      // What cannot be answered is not shown either.
      expect(body.form!.items.length > 0).toBe(body.state === 'open');
      return [body.state, (await answer(form, { name01: 'Ada' })).body.code];
    };
    expect(await says(await published(QUESTIONS, { opens: hour(1) }))).toEqual(['not yet', 'not-yet']);
    expect(await says(await published(QUESTIONS, { closes: hour(-1) }))).toEqual(['over', 'over']);
    const one = await published(QUESTIONS, { most: 1 });
    const replies = await Promise.all([1, 2, 3].map((n) => answer(one, { name01: `Ada ${n}` })));
    expect(replies.map(({ body }) => body.code ?? 'kept').sort()).toEqual(['full', 'full', 'kept']);
    expect(await says(one)).toEqual(['full', 'full']);
    // An answer that is deleted makes room, for staff and families alike.
    const doorOf = async (): Promise<[string, number]> => {
      const { doors } = await client.get<{ doors: FormDoor[] }>(`/folios/${one.folio.id}/forms`);
      return [doors[0]!.state, doors[0]!.answers];
    };
    expect(await doorOf()).toEqual(['full', 1]);
    const [entry] = (await rollOf(one)).entries;
    await client.send('DELETE', `/folios/${one.folio.id}/entries/${entry!.id}/answers`);
    expect(await doorOf()).toEqual(['open', 0]);
    expect(await says(one)).toEqual(['open', undefined]);
    const open = await published();
    await client.send('PUT', `/folios/${open.folio.id}/forms/${open.door.writingId}/open`, { isOpen: false });
    expect(await says(open)).toEqual(['closed', 'closed']);
    await client.send('PUT', `/folios/${open.folio.id}/forms/${open.door.writingId}/open`, { isOpen: true });
    expect(await says(open)).toEqual(['open', undefined]);
    // What is put away takes no answers.
    await client.send('PUT', `/folios/${open.folio.id}/archived`, { archived: true });
    expect((await ask<OpenedForm>('GET', `/f/${open.token}/form`)).body.state).toBe('closed');
    expect((await answer(open, { name01: 'Late' })).body.code).toBe('closed');
  });

  test('each address counts once, however it is written, at the same time too', async () => {
    const form = await published(QUESTIONS, { onceBy: 'email1' });
    const replies = await Promise.all(
      ['ada@families.example', 'ADA@families.example', ' ada@FAMILIES.example '].map((email) =>
        answer(form, { name01: 'Ada', email1: email }),
      ),
    );
    expect(replies.map(({ status }) => status).sort()).toEqual([200, 422, 422]);
    expect(replies.find(({ status }) => status === 422)!.body.problems).toMatchObject([
      { columnId: 'email1', code: 'answered-before' },
    ]);
    // Who gives none is not counted.
    expect((await answer(form, { name01: 'Bo' })).status).toBe(200);
    expect((await answer(form, { name01: 'Cy' })).status).toBe(200);
  });
});

describe('changing an answer', () => {
  test('whoever has its link can, what staff have mended stays, and nobody else can', async () => {
    const form = await published(QUESTIONS, { mayChange: true, onceBy: 'email1' });
    const first = await answer(form, { name01: 'Ada', email1: 'a@families.example', club01: 'chess1' });
    const link = first.body.editLink!;
    const [entry] = (await rollOf(form)).entries;
    await client.send('PATCH', `/folios/${form.folio.id}/roll`, {
      cells: [{ entryId: entry!.id, columnId: 'name01', text: 'Ada Lovett' }],
    });
    const opened = await ask<OpenedForm>('GET', `/f/${form.token}/change/${link}/form`);
    expect(opened.body.given).toEqual({ name01: 'Ada', email1: 'a@families.example', club01: 'chess1' });
    const change = (edit: string, given: object): Promise<{ status: number }> =>
      ask('PUT', `/f/${form.token}/change/${edit}`, {
        ...ticketFor(form.token),
        version: form.version,
        language: 'en-GB',
        given,
      });
    expect(
      (await change(link, { name01: 'Ada L.', email1: 'a@families.example', club01: 'choir1' })).status,
    ).toBe(200);
    const [after] = (await rollOf(form)).entries;
    expect(after!.values).toMatchObject({ name01: 'Ada Lovett', club01: 'Choir' });
    expect(after!.mends).toEqual({ name01: { text: 'Ada L.' } });
    const last = link.at(-1) === '0' ? '1' : '0';
    for (const edit of [link.slice(0, -1) + last, link.split('-')[0]!, `${link.split('-')[0]}-`, 'x'])
      expect((await change(edit, { name01: 'Eve' })).status).toBe(404);
    const about = await client.get<AnswersOf>(`/folios/${form.folio.id}/entries/${entry!.id}/answers`);
    expect(about.answers).toMatchObject([
      { form: 'Sign-up', editLink: expect.stringContaining(link) as string },
    ]);
    expect(about.answers[0]!.changedAt).not.toBeNull();
  });

  test('where the form lets nobody change anything there is no link, and an old one does nothing', async () => {
    const form = await published(QUESTIONS, { mayChange: true });
    const { body } = await answer(form, { name01: 'Ada' });
    const writing = form.folio.writings.find(({ kind }) => kind === 'form')!;
    await client.send('PUT', `/folios/${form.folio.id}/writings/${writing.id}`, {
      kind: 'form',
      version: writing.version,
      content: await formOf(QUESTIONS),
    });
    await client.send('POST', `/folios/${form.folio.id}/forms/${writing.id}/publish`, {
      version: writing.version + 1,
    });
    const refused = await ask<ProblemDetails>('PUT', `/f/${form.token}/change/${body.editLink}`, {
      ...ticketFor(form.token),
      version: writing.version + 1,
      language: 'en-GB',
      given: { name01: 'Eve' },
    });
    expect([refused.status, refused.body.code]).toEqual([409, 'no-changes']);
  });
});

test('a form that is changed keeps its columns; who answers the old one is shown what is new', async () => {
  const form = await published();
  await answer(form, { name01: 'Ada', club01: 'chess1' });
  const writing = form.folio.writings.find(({ kind }) => kind === 'form')!;
  const [name, , club] = QUESTIONS as [FormItem, FormItem, Extract<FormItem, { kind: 'one' }>];
  const items: FormItem[] = [
    { ...name, label: W('Full name') } as FormItem,
    club,
    { kind: 'short', ...asked('year01', 'Year'), required: true },
  ];
  const content = await formOf(items);
  await client.send('PUT', `/folios/${form.folio.id}/writings/${writing.id}`, {
    kind: 'form',
    version: 1,
    content,
  });
  // Nothing of it counts before it is published.
  expect((await answer(form, { name01: 'Bo' })).status).toBe(200);
  const stale = await client.send<ProblemDetails>(
    'POST',
    `/folios/${form.folio.id}/forms/${writing.id}/publish`,
    {
      version: 1,
    },
  );
  expect(stale.body.code).toBe('form-changed');
  await client.send('POST', `/folios/${form.folio.id}/forms/${writing.id}/publish`, { version: 2 });
  const { columns, entries } = await rollOf(form);
  expect(columns.map(({ id, title }) => [id, title])).toEqual([
    ['name01', 'Full name'],
    ['email1', 'Email'],
    ['club01', 'Club'],
    ['year01', 'Year'],
  ]);
  expect(entries[0]!.values).toMatchObject({ name01: 'Ada', club01: 'Chess' });
  const old = await answer(form, { name01: 'Cy' });
  expect([old.status, old.body.code]).toEqual([409, 'form-changed']);
  expect((await answer({ ...form, version: 2 }, { name01: 'Cy', year01: '8' })).status).toBe(200);
  // What was filled in before and is enough is taken.
  expect((await answer(form, { name01: 'Di', year01: '9' })).status).toBe(200);
});

test.each([
  ['asks nothing', [], 'form-blank'],
  ['has a question without words', [{ kind: 'short', ...asked('q00001', ' ') }], 'form-words'],
  [
    'offers nothing',
    [{ kind: 'one', ...asked('q00001', 'Q'), choices: [], other: false, look: 'list' }],
    'form-words',
  ],
  [
    'offers the same twice',
    [
      {
        kind: 'one',
        ...asked('q00001', 'Q'),
        choices: [
          { id: 'c00001', label: W('Yes') },
          { id: 'c00002', label: W('yes ') },
        ],
        other: false,
        look: 'list',
      },
    ],
    'form-words',
  ],
])('a form that %s is not published', async (_, items, code) => {
  const { body: made } = await client.send<{ id: string }>('POST', '/folios', { title: 'Blank' });
  const { body: writing } = await client.send<{ id: string }>('POST', `/folios/${made.id}/writings`, {
    kind: 'form',
    content: await formOf(items as FormItem[]),
  });
  const reply = await client.send<ProblemDetails>('POST', `/folios/${made.id}/forms/${writing.id}/publish`, {
    version: 1,
  });
  expect([reply.status, reply.body.code]).toEqual([422, code]);
});

describe('beside a sheet', () => {
  test('a newer version of it leaves answers where they are, and a new roll is not begun over them', async () => {
    const folio = await client.folioOf('Name,Email\nAda,a@families.example\nBo,b@families.example\n', {
      letter: ['{{Name}}'],
    });
    const name = folio.roll.columns.find(({ title }) => title === 'Name')!;
    const items = [{ ...QUESTIONS[0]!, columnId: name.id } as FormItem];
    const { body: writing } = await client.send<{ id: string }>('POST', `/folios/${folio.id}/writings`, {
      kind: 'form',
      content: await formOf(items),
    });
    const { body } = await client.send<{ doors: FormDoor[] }>(
      'POST',
      `/folios/${folio.id}/forms/${writing.id}/publish`,
      { version: 1 },
    );
    const form = { folio, door: body.doors[0]!, token: body.doors[0]!.link.split('/').at(-1)!, version: 1 };
    await answer(form, { [name.id]: 'Cy' });
    const names = async (): Promise<(string | undefined)[]> =>
      (await rollOf(form)).entries.filter(({ leftOut }) => !leftOut).map(({ values }) => values[name.id]);
    expect(await names()).toEqual(['Ada', 'Bo', 'Cy']);
    const sheet = 'Name,Email\nAda,a@families.example\nDi,d@families.example\n';
    const kept = await client.raw('POST', `/folios/${folio.id}/files`, sheet, {
      'content-type': 'application/octet-stream',
    });
    const { fileId } = (await kept.json()) as { fileId: string };
    const refreshed = await client.send<ProblemDetails>('POST', `/folios/${folio.id}/roll`, {
      fileId,
      name: 'roll.csv',
      reading: {},
      as: { kind: 'refresh', sourceId: folio.sources[0]!.id, decisions: {} },
    });
    expect([refreshed.status, refreshed.body.detail]).toEqual([200, undefined]);
    expect(await names()).toEqual(['Ada', 'Di', 'Cy']);
    // Taking the newer version back takes back no answer that came meanwhile.
    await answer(form, { [name.id]: 'Fay' });
    const { earlier } = await client.get<Folio>(`/folios/${folio.id}`);
    await client.send('POST', `/folios/${folio.id}/roll/earlier/${earlier!.id}`, {});
    expect(await names()).toEqual(['Ada', 'Bo', 'Cy', 'Fay']);
    const anew = await client.bringIn<ProblemDetails>(folio.id, 'other.csv', 'Name\nEve\n');
    expect([anew.status, anew.body.code]).toEqual([409, 'answers-there']);
  });
});

describe('files', () => {
  const FILE: FormItem = {
    kind: 'file',
    ...asked('file01', 'Picture'),
    takes: 'pictures',
    most: 1,
    megabytes: 1,
  };
  const PAPER: FormItem = { kind: 'file', ...asked('paper1', 'Paper'), takes: 'pdf', most: 2, megabytes: 1 };
  // The smallest picture that readers take: one grey point.
  const JPEG = Buffer.from(
    '/9j/4AAQSkZJRgABAQEASABIAAD/2wBDAP//////////////////////////////////////////////////////////////////////////////////////wgALCAABAAEBAREA/8QAFBABAAAAAAAAAAAAAAAAAAAAAP/aAAgBAQABPxA=',
    'base64',
  );
  const withTraces = (): Buffer =>
    Buffer.from(
      piexif.insert(
        piexif.dump({
          '0th': { [piexif.ImageIFD.Make]: 'Shell cameras', [piexif.ImageIFD.Orientation]: 6 },
          GPS: {
            [piexif.GPSIFD.GPSLatitudeRef]: 'N',
            [piexif.GPSIFD.GPSLongitudeRef]: 'W',
            [piexif.GPSIFD.GPSLongitude]: [
              [2, 1],
              [0, 1],
              [0, 1],
            ],
            [piexif.GPSIFD.GPSLatitude]: [
              [54, 1],
              [30, 1],
              [0, 1],
            ],
          },
        }),
        JPEG.toString('latin1'),
      ),
      'latin1',
    );
  const bring = async (
    form: Published,
    item: string,
    name: string,
    bytes: Uint8Array,
    ticket = ticketFor(form.token),
  ) => {
    const query = new URLSearchParams({ item, name, ...ticket });
    const response = await fetch(`${server.running.url}/f/${form.token}/uploads?${query}`, {
      method: 'POST',
      body: bytes as BodyInit,
    });
    return {
      status: response.status,
      body: (await response.json()) as { id: string; name: string } & ProblemDetails,
    };
  };

  test('a picture loses where and with what it was taken, keeps how it is turned, and papers can show it', async () => {
    const form = await published([QUESTIONS[0]!, FILE]);
    const before = await exifr.parse(withTraces(), { gps: true });
    expect(before).toMatchObject({ Make: 'Shell cameras', latitude: 54.5 });
    const { body: kept } = await bring(form, 'file01', '../../me\u202egpj.exe.jpg', withTraces());
    expect(kept.name).toMatch(/^me gpj\.exe\.jpg$/);
    await answer(form, { name01: 'Ada', file01: [kept.id] });
    const [entry] = (await rollOf(form)).entries;
    const asset = /^i:(\w+)$/.exec(entry!.exact!['file01']!)![1]!;
    expect(entry!.values['file01']).toBe(kept.name);
    const picture = await client.raw('GET', `/folios/${form.folio.id}/assets/${asset}`);
    const bytes = Buffer.from(await picture.arrayBuffer());
    const left = (await exifr.parse(bytes, {
      translateValues: false,
      gps: true,
      xmp: true,
      iptc: true,
    })) as object;
    expect(left).toEqual({ Orientation: 6 });
    const { answers } = await client.get<AnswersOf>(`/folios/${form.folio.id}/entries/${entry!.id}/answers`);
    const file = await client.raw('GET', `/folios/${form.folio.id}/uploads/${answers[0]!.uploads[0]!.id}`);
    expect([
      file.status,
      file.headers.get('content-disposition')?.split(';')[0],
      file.headers.get('content-type'),
    ]).toEqual([200, 'attachment', 'image/jpeg']);
    expect(file.headers.get('content-security-policy')).toContain('sandbox');
  });

  test('what is not what is asked for is refused by its bytes', async () => {
    const form = await published([QUESTIONS[0]!, FILE, PAPER]);
    const code = async (item: string, name: string, bytes: Uint8Array): Promise<string> =>
      (await bring(form, item, name, bytes)).body.code;
    const page = Buffer.from('<!doctype html><script>alert(1)</script>');
    const drawing = Buffer.from('<svg xmlns="http://www.w3.org/2000/svg"><script>alert(1)</script></svg>');
    expect(await code('file01', 'picture.jpg', page)).toBe('file-picture');
    expect(await code('file01', 'picture.svg', drawing)).toBe('file-picture');
    expect(await code('paper1', 'paper.pdf', JPEG)).toBe('file-pdf');
    expect(await code('file01', 'blank.jpg', Buffer.alloc(0))).toBe('file-blank');
    expect(await code('file01', 'large.jpg', Buffer.concat([JPEG, Buffer.alloc(1024 * 1024)]))).toBe(
      'file-large',
    );
    expect(await code('name01', 'x.jpg', JPEG)).toBe('not-asked');
    expect(
      (await bring(form, 'file01', 'x.jpg', JPEG, { ...ticketFor(form.token), nonce: 'zz' })).body.code,
    ).toBe('ticket-old');
    expect(
      await server.running.database.manager.countBy(FormUploadRow, { writingId: form.door.writingId }),
    ).toBe(0);
  });

  test('a file belongs to one answer: nobody takes another one’s along, and what was never sent goes', async () => {
    const form = await published([QUESTIONS[0]!, FILE]);
    const { body: kept } = await bring(form, 'file01', 'a.jpg', JPEG);
    expect((await answer(form, { name01: 'Ada', file01: [kept.id] })).status).toBe(200);
    const stolen = await answer(form, { name01: 'Eve', file01: [kept.id] });
    expect(stolen.body.problems).toMatchObject([{ columnId: 'file01', code: 'file-gone' }]);
    const two = await answer(form, { name01: 'Bo', file01: [kept.id, kept.id] });
    expect(two.body.problems).toMatchObject([{ code: 'too-many-files' }]);
    await bring(form, 'file01', 'b.jpg', JPEG);
    const { manager } = server.running.database;
    await sweepUploads(manager);
    expect(await manager.countBy(FormUploadRow, { writingId: form.door.writingId })).toBe(2);
    await sweepUploads(manager, new Date(Date.now() + 3 * 24 * 3_600_000));
    expect(await manager.countBy(FormUploadRow, { writingId: form.door.writingId })).toBe(1);
  });

  test('an answer is deleted with its files and its row', async () => {
    const form = await published([QUESTIONS[0]!, FILE]);
    const { body: kept } = await bring(form, 'file01', 'a.jpg', JPEG);
    await answer(form, { name01: 'Ada', file01: [kept.id] });
    const [entry] = (await rollOf(form)).entries;
    const stranger = await newSchool(server, 'Other School');
    const path = `/folios/${form.folio.id}/entries/${entry!.id}/answers`;
    for (const [method, at] of [
      ['GET', path],
      ['DELETE', path],
      ['GET', `/folios/${form.folio.id}/forms`],
      ['GET', `/folios/${form.folio.id}/uploads/${kept.id}`],
    ] as const)
      expect((await stranger.raw(method, at)).status).toBe(404);
    expect(
      (
        await stranger.send('PUT', `/folios/${form.folio.id}/forms/${form.door.writingId}/open`, {
          isOpen: false,
        })
      ).status,
    ).toBe(404);
    expect((await client.send('DELETE', path)).status).toBe(200);
    expect((await rollOf(form)).entries).toEqual([]);
    expect((await client.raw('GET', `/folios/${form.folio.id}/uploads/${kept.id}`)).status).toBe(404);
    expect(
      (await client.get<{ doors: FormDoor[] }>(`/folios/${form.folio.id}/forms`)).doors[0]!.answers,
    ).toBe(0);
  });
});

describe('bad input', () => {
  test('a million characters, odd keys, deep nesting and things that are no answers are refused with a sentence', async () => {
    const form = await published();
    const long = await answer(form, { name01: 'x'.repeat(1_000_000) });
    expect(long.status).toBeGreaterThanOrEqual(400);
    expect(long.body.detail).toMatch(/\.$/);
    expect((await answer(form, { name01: 'x'.repeat(90_000) })).body.problems).toMatchObject([
      { code: 'too-long' },
    ]);
    for (const given of [
      null,
      [],
      'x',
      { name01: 5 },
      { name01: { a: 1 } },
      JSON.parse('{"__proto__":"x"}') as object,
    ])
      expect((await answer(form, given as object)).status).toBeGreaterThanOrEqual(400);
    for (const name of ['constructor', 'toString', 'hasOwnProperty'])
      expect((await answer(form, { [name]: 'x', name01: 'Ada' })).status).toBe(200);
    expect((await ask('GET', `/f/${'0'.repeat(24)}/form`)).status).toBe(404);
    expect((await ask('GET', `/f/%27%20OR%201/form`)).status).toBe(404);
  });

  test('a deleted form leads nowhere, and is back with its link when it is had back', async () => {
    const form = await published();
    const at = `/folios/${form.folio.id}/writings/${form.door.writingId}`;
    await client.send('DELETE', at);
    expect((await answer(form, { name01: 'Ada' })).status).toBe(404);
    await client.send('POST', `${at}/restore`, {});
    expect((await answer(form, { name01: 'Ada' })).status).toBe(200);
  });

  test('a form stands inside other pages only where it says so', async () => {
    const policy = async (form: Published): Promise<string> =>
      (await fetch(`${server.running.url}/f/${form.token}`)).headers.get('content-security-policy')!;
    expect(await policy(await published())).toContain("frame-ancestors 'self'");
    expect(await policy(await published(QUESTIONS, { embed: true }))).toContain('frame-ancestors *');
  });
});

test('a copy of a form asks into columns of its own, and is not published', async () => {
  const form = await published();
  const copy = await client.send<{ id: string; content: Form }>(
    'POST',
    `/folios/${form.folio.id}/writing-copies`,
    {
      folioId: form.folio.id,
      writingId: form.door.writingId,
      name: 'Another',
    },
  );
  expect(copy.body.content.name).toBe('Another');
  expect(copy.body.content.items.map(({ id }) => id)).not.toContain('name01');
  expect((await client.get<{ doors: FormDoor[] }>(`/folios/${form.folio.id}/forms`)).doors).toHaveLength(1);
});
