import type { AgainPlan, DispatchPlan, Folio, PaperHistory } from '@scriptum/core/contract';
import type { CoverNote, Writing } from '@scriptum/core/template';
import { lockFile } from '@scriptum/server/ground/lock-file';
import { MessageRow } from '@scriptum/server/store/entities/register';
import { PrivateLinkRow } from '@scriptum/server/store/entities/private-link';
import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { HtmlValidate } from 'html-validate';
import { simpleParser } from 'mailparser';
import { PNG } from 'pngjs';
import { packOf, PRINT } from './testing/packs.js';
import { pdfText } from './testing/pdf.js';
import { ScriptedMailServer } from './testing/mail-server.js';
import {
  type Client,
  newSchool,
  noteOf,
  startTestServer,
  type TestServer,
  writingPath,
} from './testing/school.js';

const mail = new ScriptedMailServer();
const folder = mkdtempSync(path.join(tmpdir(), 'scriptum-along-'));
let server: TestServer;
let client: Client;
beforeAll(async () => {
  server = await startTestServer({ SCRIPTUM_SMTP_URL: await mail.listen() });
  client = await newSchool(server, 'Saltmarsh School');
});
afterAll(async () => {
  await server.close();
  await mail.close();
  rmSync(folder, { recursive: true });
});
beforeEach(() => {
  mail.behave();
  mail.taken.splice(0);
});

const SHEET = [
  'Name,Email,Born,Word',
  'Ada,ada@x.example,2012-03-04,otter',
  'Bo,bo@x.example,2012-11-30,heron',
  'Cy,cy@x.example,,',
].join('\n');
const LINK = { type: 'paragraph', content: [{ type: 'field', attrs: { fieldId: 'the-link' } }] };

/** A folio whose papers are pressed, with a note that takes along what is said. */
async function folioWith(
  more: (column: (title: string) => string, folio: Folio) => Partial<CoverNote> | Promise<Partial<CoverNote>>,
  sheet = SHEET,
): Promise<Folio> {
  const folio = await client.folioOf(sheet, { letter: ['Dear {{Name}}'], subject: 'Report for {{Name}}' });
  await write(folio, more);
  await client.press(server, folio.id);
  return folio;
}

async function write(
  folio: Folio,
  more: (column: (title: string) => string, folio: Folio) => Partial<CoverNote> | Promise<Partial<CoverNote>>,
): Promise<void> {
  const column = (title: string): string => folio.roll.columns.find((one) => one.title === title)!.id;
  const { version, content } = noteOf(await client.get<Folio>(`/folios/${folio.id}`));
  const fields = [
    ...content.fields,
    { id: 'the-link', name: 'Link', columnId: null, same: { kind: 'link' as const } },
    { id: 'the-end', name: 'End', columnId: null, same: { kind: 'link-ends' as const } },
  ];
  const own = await more(column, folio);
  const reply = await client.send<{ message?: string }>('PUT', writingPath(folio, 'note'), {
    kind: 'note',
    version,
    content: { ...content, fields, to: [{ columnId: column('Email') }], ...own },
  });
  expect(reply.body.message).toBeUndefined();
}

async function dispatch(folio: Folio): Promise<DispatchPlan> {
  const plan = await client.get<DispatchPlan>(`/folios/${folio.id}/dispatch`);
  expect(plan.blocked).toEqual([]);
  await client.send('POST', `/folios/${folio.id}/dispatch`, { planId: plan.planId });
  await server.running.outbox.idle();
  return plan;
}
const taken = async (to: string) => {
  const { text } = mail.taken.find((one) => one.to.includes(to))!;
  return { text, read: await simpleParser(text) };
};

/** What another program says of a PDF that is opened with a password. */
function opened(bytes: Uint8Array, password: string): { text: string | null; encryption: string } {
  const file = path.join(folder, 'locked.pdf');
  writeFileSync(file, bytes);
  const read = spawnSync('pdftotext', ['-upw', password, file, '-'], { encoding: 'utf8' });
  const about = spawnSync('qpdf', [`--password=${password}`, '--show-encryption', file], {
    encoding: 'utf8',
  });
  const check = spawnSync('qpdf', [`--password=${password}`, '--check', file], { encoding: 'utf8' });
  return {
    text: read.status === 0 ? read.stdout.trim() : null,
    encryption: read.status === 0 ? `${about.stdout}${check.stdout}` : '',
  };
}

describe('papers are locked', () => {
  // ISO 32000-2, 7.6.4: AES-256, revision 6; read back by qpdf and poppler.
  test('with what a column says for each, a day as its digits; who has none there is not written to', async () => {
    const folio = await folioWith((column) => ({ lock: { columnId: column('Born') } }));
    const plan = await dispatch(folio);
    expect(plan.noAddress).toEqual([
      { learner: 'Cy', reason: 'nothing in “Born”, by which the papers are opened' },
    ]);
    const [{ read: ada }, { read: bo }] = [await taken('ada@'), await taken('bo@')];
    const paper = ada.attachments[0]!.content;
    const { text, encryption } = opened(paper, '04032012');
    expect(text).toContain('Dear Ada');
    expect(encryption).toMatch(/R = 6/);
    expect(encryption).toMatch(/file encryption method: AESv3/);
    expect(encryption).toMatch(/extract for accessibility: allowed/);
    expect(encryption).toMatch(/print high resolution: allowed/);
    expect(encryption).toMatch(/No syntax or stream encoding errors/);
    for (const wrong of ['', '30112012', '2012-03-04']) expect(opened(paper, wrong).text).toBeNull();
    expect(opened(bo.attachments[0]!.content, '30112012').text).toContain('Dear Bo');
    // Nothing that is kept of the message, or told of it, says the password.
    const { papers } = await client.register(folio.id);
    const rows = await server.running.database.query<object[]>('SELECT * FROM message WHERE folioId = ?', [
      folio.id,
    ]);
    const history = await client.get(`/folios/${folio.id}/papers/${papers[0]!.id}/history`);
    for (const said of [rows, papers, history, mail.taken.map((one) => one.text)])
      expect(JSON.stringify(said)).not.toContain('04032012');
  });

  test('with one password for all, which nobody can read again, and which is of no use elsewhere', async () => {
    const word = 'Pelican über 7';
    const seal = async (who: Client, folioId: string) =>
      (await who.send<{ sealed: string }>('POST', `/folios/${folioId}/password`, { word })).body.sealed;
    const folio = await folioWith(async (_, { id }) => ({ lock: { sealed: await seal(client, id) } }));
    expect(JSON.stringify(await client.get(`/folios/${folio.id}`))).not.toContain('Pelican');
    await dispatch(folio);
    const { read } = await taken('cy@');
    // With another key than this machine's nobody can read it, and that is said.
    const { id } = await server.running.database.manager.findOneByOrFail(MessageRow, { folioId: folio.id });
    await server.running.database.query(
      'UPDATE message SET envelope = REPLACE(envelope, \'"lock":"1.\', \'"lock":"1.A\') WHERE id = ?',
      [id],
    );
    const file = await client.raw('GET', `/post-room/messages/${id}/file`);
    expect([file.status, await file.text()]).toEqual([
      410,
      expect.stringContaining('key of another machine'),
    ]);
    expect(opened(read.attachments[0]!.content, word).text).toContain('Dear Cy');

    const others = await newSchool(server, 'Elsewhere');
    const { id: theirs } = await others.folioOf(SHEET, { letter: ['x'] });
    const stolen = await folioWith(async () => ({ lock: { sealed: await seal(others, theirs) } }));
    const { planId } = await client.get<DispatchPlan>(`/folios/${stolen.id}/dispatch`);
    const reply = await client.send<{ code: string }>('POST', `/folios/${stolen.id}/dispatch`, { planId });
    expect([reply.status, reply.body.code]).toEqual([409, 'password-unknown']);
    expect((await client.send('POST', `/folios/${theirs}/password`, { word })).status).toBe(404);
    expect((await client.send('POST', `/folios/${folio.id}/password`, { word: 'abc' })).status).toBe(400);
  });

  // ISO 19005-2, 6.1.3: a file for archives is not encrypted.
  test('a paper for archives claims that no more', async () => {
    const folio = await client.folioOf(SHEET, { letter: ['Dear {{Name}}'] });
    const letter = folio.writings.find(({ kind }) => kind === 'letter')!;
    await client.send('PUT', writingPath(folio, 'letter'), {
      kind: 'letter',
      version: letter.version,
      content: { ...letter.content, standard: 'a-2b' },
    });
    await client.press(server, folio.id);
    const { papers } = await client.register(folio.id);
    const response = await client.raw('GET', `/folios/${folio.id}/papers/${papers[0]!.id}/file`);
    const bytes = new Uint8Array(await response.arrayBuffer());
    const says = (some: Uint8Array, password = '') => {
      const file = path.join(folder, 'archive.pdf');
      writeFileSync(file, some);
      return spawnSync('pdfinfo', ['-meta', '-upw', password, file], { encoding: 'utf8' }).stdout;
    };
    expect(says(bytes)).toMatch(/pdfaid:part/);
    const locked = await lockFile(bytes, 'otter');
    expect(says(locked, 'otter')).not.toMatch(/pdfaid:(part|conf)/);
    expect(says(locked, 'otter')).toMatch(/dc:title/);
  });
});

/** A family at a browser of its own. */
class Family {
  private cookie = '';
  constructor(private readonly link: string) {}

  async at(
    more = '',
    init: RequestInit = {},
  ): Promise<{ status: number; body: string; bytes: Buffer; where: string | null }> {
    const response = await fetch(`${this.link}${more}`, {
      redirect: 'manual',
      ...init,
      headers: { ...(this.cookie ? { cookie: this.cookie } : {}), ...init.headers },
    });
    const [set] = response.headers.getSetCookie();
    if (set) this.cookie = set.split(';')[0]!;
    const bytes = Buffer.from(await response.arrayBuffer());
    return {
      status: response.status,
      body: bytes.toString(),
      bytes,
      where: response.headers.get('location'),
    };
  }

  answer(answer?: string) {
    return this.at('', {
      method: 'POST',
      body: new URLSearchParams(answer === undefined ? {} : { answer }),
    });
  }
}

const linkIn = (text: string | undefined): string =>
  /http:\/\/\S+\/p\/[\w-]{43}(?=\s|$)/.exec(text ?? '')![0];
const BODY = {
  type: 'doc',
  content: [LINK, { type: 'paragraph', content: [{ type: 'field', attrs: { fieldId: 'the-end' } }] }],
};

describe('a private link goes in place of papers', () => {
  const linked = (more: Partial<CoverNote> = {}) =>
    ({ along: 'link', link: { days: 10 }, body: BODY, ...more }) as Partial<CoverNote>;

  test('its page shows the papers to whoever opens it, and says so to the school', async () => {
    const folio = await folioWith(() => linked());
    await dispatch(folio);
    const { read } = await taken('ada@');
    expect(read.attachments).toEqual([]);
    const link = linkIn(read.text);
    expect(String(read.html)).toContain(`<a href="${link}">${link}</a>`);
    expect(new Set(mail.taken.map(({ text }) => /\/p\/([\w=\r\n-]{43,})/.exec(text)![1])).size).toBe(3);
    // What is kept of the link does not open it.
    const token = link.split('/').at(-1)!;
    const kept = await server.running.database.query<object[]>('SELECT * FROM private_link', []);
    expect(JSON.stringify(kept)).not.toContain(token);

    const family = new Family(link);
    const door = await family.at();
    expect(door.status).toBe(200);
    expect(door.body).toContain('From Saltmarsh School');
    expect(door.body).not.toContain('Ada');
    expect((await family.at('/1')).where).toBe(`/p/${token}`);
    const state = async () => (await client.register(folio.id)).papers.map(({ message }) => message?.opened);
    // A program that looks at links in mail has opened nothing.
    expect(await state()).toEqual([false, false, false]);
    expect((await family.answer()).status).toBe(303);
    const page = (await family.at()).body;
    expect(page).toContain(`href="/p/${token}/1"`);
    expect(page).not.toMatch(/<script|src=|https?:/);
    const paper = await family.at('/1');
    expect(opened(paper.bytes, '').text).toContain('Dear Ada');
    expect((await family.at('/2')).status).toBe(404);
    expect(await state()).toEqual([true, false, false]);
    // Another one at the same link sees the door, not the papers.
    expect((await new Family(link).at()).body).not.toContain(`/p/${token}/1`);
    // A pass of one link opens no other.
    const bo = new Family(linkIn((await taken('bo@')).read.text));
    (bo as unknown as { cookie: string }).cookie = (family as unknown as { cookie: string }).cookie;
    expect((await bo.at()).body).not.toContain('/1"');

    const { papers } = await client.register(folio.id);
    const history = await client.get<PaperHistory>(`/folios/${folio.id}/papers/${papers[0]!.id}/history`);
    expect(history.links).toMatchObject([{ state: 'works', opens: 1, to: 'ada@x.example', asks: null }]);
    expect(history.steps.map(({ kind }) => kind)).toContain('opened');
  });

  // WHATWG HTML, by html-validate; there is no other page that a family sees.
  test('its pages are right HTML, in the language of the message', async () => {
    const folio = await folioWith((column) =>
      linked({ language: 'de-DE', link: { days: 10, askId: column('Word') } }),
    );
    await dispatch(folio);
    const family = new Family(linkIn((await taken('ada@')).read.text));
    const html = new HtmlValidate({
      extends: ['html-validate:recommended', 'html-validate:a11y'],
      rules: {
        'no-trailing-whitespace': 'off',
        'doctype-style': 'off',
        'require-csp-nonce': 'off',
        'long-title': 'off',
      },
    });
    const pages = [(await family.at()).body, (await family.answer('falsch')).body];
    await family.answer('OTTER ');
    pages.push(
      (await family.at()).body,
      (await new Family(`${server.running.url}/p/${'x'.repeat(43)}`).at()).body,
    );
    for (const page of pages)
      expect((await html.validateString(page)).results.flatMap(({ messages }) => messages)).toEqual([]);
    expect(pages[0]).toContain('<html lang="de-DE"');
    expect(pages[2]).toMatch(/Diese Seite lässt sich bis \d+\. \p{L}+ \d{4} öffnen/u);
  });

  test('it asks for what the family knows, and takes five wrong answers, however many come at once', async () => {
    const folio = await folioWith((column) => linked({ link: { days: 10, askId: column('Born') } }));
    const plan = await dispatch(folio);
    expect(plan.noAddress.map(({ learner }) => learner)).toEqual(['Cy']);
    // Who is not written to is in the pack that is printed for them.
    const { bytes } = await packOf(client, folio.id, { ...PRINT, who: 'no-address' });
    expect(pdfText(bytes)).toContain('Dear Cy');
    expect(pdfText(bytes)).not.toContain('Dear Ada');
    const link = linkIn((await taken('ada@')).read.text);
    const family = new Family(link);
    expect((await family.at()).body).toContain('>Born</label>');
    const wrong = await family.answer('2012-04-03');
    expect([wrong.status, wrong.body]).toEqual([422, expect.stringContaining('You can try 4 times more.')]);
    expect((await family.answer('4 March 2012')).status).toBe(303);
    expect((await family.at()).body).toContain('/1"');

    const other = new Family(link);
    const many = await Promise.all(Array.from({ length: 12 }, (_, n) => other.answer(`2011-01-${n + 10}`)));
    expect(many.filter(({ status }) => status === 422)).toHaveLength(4);
    expect(many.filter(({ status }) => status === 429)).toHaveLength(8);
    expect((await other.answer('2012-03-04')).status).toBe(429);
    // Who has seen them before does not any more either, until the school says so.
    expect((await family.at()).status).toBe(429);
    const { messageId } = await server.running.database.manager.findOneByOrFail(PrivateLinkRow, { wrong: 5 });
    const change = (body: object, who = client) =>
      who.send('POST', `/folios/${folio.id}/messages/${messageId}/link`, body);
    expect((await change({ do: 'allow' }, await newSchool(server))).status).toBe(404);
    expect((await change({ do: 'allow' })).status).toBe(200);
    expect((await other.answer('04.03.2012')).status).toBe(303);
    await change({ do: 'withdraw' });
    const withdrawn = await other.at();
    expect([withdrawn.status, withdrawn.body]).toEqual([410, expect.stringContaining('withdrawn')]);
    expect((await other.at('/1')).status).toBe(410);
    await change({ do: 'allow' });
    await change({ do: 'lengthen', ends: '2020-02-29' });
    expect((await other.at()).status).toBe(410);
    await change({ do: 'lengthen', ends: '2099-02-28' });
    expect((await other.at()).body).toContain('28 February 2099');
  });

  test('none is sent that ends before its message leaves', async () => {
    const folio = await folioWith(() => linked({ link: { days: 3 } }));
    const { planId } = await client.get<DispatchPlan>(`/folios/${folio.id}/dispatch`);
    const send = (days: number) =>
      client.send<{ code?: string }>('POST', `/folios/${folio.id}/dispatch`, {
        planId,
        startsAt: new Date(Date.now() + days * 86_400_000).toISOString(),
      });
    expect((await send(5)).body.code).toBe('link-ends');
    expect((await send(1)).status).toBe(200);
  });

  test('a paper that counts no more is not shown, and it says so', async () => {
    const folio = await folioWith(() => linked());
    await dispatch(folio);
    const family = new Family(linkIn((await taken('ada@')).read.text));
    await family.answer();
    const { papers } = await client.register(folio.id);
    await client.send('POST', `/folios/${folio.id}/papers/void`, {
      paperIds: [papers[0]!.id],
      reason: 'wrong mark',
    });
    const page = (await family.at()).body;
    expect(page).toContain('replaced or withdrawn');
    expect(page).not.toContain('wrong mark');
    expect((await family.at('/1')).status).toBe(404);
  });

  test('one that is sent but stands nowhere, or stands there but is not sent, keeps all from leaving', async () => {
    const folio = await folioWith(() => ({ along: 'link' }));
    const blocked = async () => (await client.get<DispatchPlan>(`/folios/${folio.id}/dispatch`)).blocked;
    expect(await blocked()).toEqual([expect.stringContaining('stands nowhere in the text')]);
    await write(folio, () => ({ along: undefined, body: BODY as CoverNote['body'] }));
    expect(await blocked()).toEqual([expect.stringContaining('prints a private link, but sends none')]);
  });
});

describe('to many once more', () => {
  const planOf = (folio: Folio, whom: string, noteId?: string, who = client) =>
    who.send<AgainPlan>('GET', `/folios/${folio.id}/again?whom=${whom}${noteId ? `&noteId=${noteId}` : ''}`);
  const send = async (folio: Folio, whom: string, planId: string, noteId?: string, who = client) => {
    const reply = await who.send<{ queued: number; code?: string }>('POST', `/folios/${folio.id}/again`, {
      whom,
      planId,
      ...(noteId ? { noteId } : {}),
    });
    await server.running.outbox.idle();
    return reply;
  };
  const told = ({ messages, passed }: AgainPlan) => [
    messages.map(({ learners, to, before }) => `${learners.join('+')} → ${to.join()} (${before})`),
    passed.map(({ learner, reason }) => `${learner}: ${reason}`),
  ];

  test('all that were refused, to the same addresses, once however often it is asked for', async () => {
    const folio = await folioWith(() => ({}));
    mail.sayOf('bo@x.example', '550 5.2.1 mailbox closed');
    mail.sayOf('cy@x.example', '550 5.2.1 mailbox closed');
    await dispatch(folio);
    expect(mail.taken.map(({ to }) => to)).toEqual(['ada@x.example']);
    mail.behave();
    const { papers } = await client.register(folio.id);
    await client.send('POST', `/folios/${folio.id}/papers/hold`, { paperIds: [papers[2]!.id], hold: true });
    const { body: plan } = await planOf(folio, 'refused');
    expect(told(plan)).toEqual([['Bo → bo@x.example (1)'], ['Cy: held']]);
    const both = await Promise.all([
      send(folio, 'refused', plan.planId),
      send(folio, 'refused', plan.planId),
    ]);
    expect(both.map(({ status }) => status).sort()).toEqual([200, 409]);
    expect(mail.taken.map(({ to }) => to)).toEqual(['ada@x.example', 'bo@x.example']);
    expect(told((await planOf(folio, 'refused')).body)).toEqual([[], ['Cy: held']]);
    const others = await newSchool(server);
    expect((await planOf(folio, 'refused', undefined, others)).status).toBe(404);
    expect((await send(folio, 'refused', plan.planId, undefined, others)).status).toBe(404);
  });

  test('what is out of date is passed over, so that nothing wrong leaves', async () => {
    const folio = await folioWith(() => ({}));
    mail.sayOf('bo@x.example', '550 5.2.1 mailbox closed');
    await dispatch(folio);
    mail.behave();
    await client.send('PATCH', `/folios/${folio.id}/roll`, {
      cells: [{ entryId: folio.roll.entries[1]!.id, columnId: folio.roll.columns[0]!.id, text: 'Bobo' }],
    });
    expect((await client.register(folio.id)).papers[1]!.outOfDate).toBe(true);
    expect(told((await planOf(folio, 'refused')).body)).toEqual([[], ['Bo: out of date']]);
  });

  test('no message leaves without its link, where that is in a part that is not for everybody', async () => {
    const folio = await folioWith((column) => ({
      along: 'link',
      link: { days: 9 },
      parts: [
        { id: 'for-ada', if: { all: [{ columnId: column('Name'), is: 'equal', values: ['Ada'] }] } },
      ] as never,
      body: {
        type: 'doc',
        content: [
          { type: 'paragraph', content: [{ type: 'text', text: 'Hello' }] },
          { ...LINK, attrs: { part: 'for-ada' } },
        ],
      } as CoverNote['body'],
    }));
    const { planId } = await client.get<DispatchPlan>(`/folios/${folio.id}/dispatch`);
    const reply = await client.send<{ code: string; detail: string }>(
      'POST',
      `/folios/${folio.id}/dispatch`,
      { planId },
    );
    expect([reply.status, reply.body.code]).toEqual([409, 'link-unsaid']);
    expect(reply.body.detail).toContain('The message about Bo');
    expect(mail.taken).toEqual([]);
  });

  test('a reminder goes to those who have not opened their link, with a link of its own', async () => {
    const folio = await folioWith(() => ({
      along: 'link',
      link: { days: 9 },
      body: BODY as CoverNote['body'],
    }));
    const { content } = noteOf(await client.get<Folio>(`/folios/${folio.id}`));
    const { body: reminder } = await client.send<Writing>('POST', `/folios/${folio.id}/writings`, {
      kind: 'note',
      content: {
        ...content,
        name: 'Reminder',
        goes: 'asked',
        subject: [{ type: 'text', text: 'Not opened yet' }],
      },
    });
    await dispatch(folio);
    await new Family(linkIn((await taken('ada@')).read.text)).answer();
    const { body: plan } = await planOf(folio, 'unopened', reminder.id);
    expect(told(plan)).toEqual([['Bo → bo@x.example (1)', 'Cy → cy@x.example (1)'], []]);
    const first = linkIn((await taken('bo@')).read.text);
    mail.taken.splice(0);
    expect((await send(folio, 'unopened', plan.planId, reminder.id)).body.queued).toBe(2);
    const { read } = await taken('bo@');
    expect(read.subject).toBe('Not opened yet');
    expect(linkIn(read.text)).not.toBe(first);
    // Who opens either of them has opened it.
    await new Family(first).answer();
    expect(told((await planOf(folio, 'unopened', reminder.id)).body)[0]).toEqual(['Cy → cy@x.example (2)']);
    expect(told((await planOf(folio, 'sent')).body)[0]).toHaveLength(3);
  });
});

describe('files and pictures', () => {
  const upload = async (folioId: string, name: string, bytes: Buffer, who = client) => {
    const response = await who.raw(
      'POST',
      `/folios/${folioId}/along?name=${encodeURIComponent(name)}`,
      new Uint8Array(bytes),
      {
        'content-type': 'application/octet-stream',
      },
    );
    return {
      status: response.status,
      body: (await response.json()) as { asset: string; name: string; bytes: number; code?: string },
    };
  };
  const ICS = Buffer.from('BEGIN:VCALENDAR\r\nEND:VCALENDAR\r\n');
  const picture = PNG.sync.write(new PNG({ width: 4, height: 4 }));

  // RFC 2046 media types; RFC 2387 and 2392: a picture in the text is a part that the HTML names.
  test('go along with every message, the picture where it stands in the text', async () => {
    const folio = await folioWith(async (_, { id }) => {
      const { body: file } = await upload(id, 'Ende des Schuljahrs – Ünïcode.ics', ICS);
      const response = await client.raw(
        'POST',
        `/folios/${id}/assets?name=crest.png`,
        new Uint8Array(picture),
        {
          'content-type': 'image/png',
        },
      );
      const { id: asset } = (await response.json()) as { id: string };
      const shown = { type: 'picture', attrs: { asset, width: 20, align: 'left', alt: 'Our crest' } };
      const body = {
        type: 'doc',
        content: [shown, { type: 'paragraph', content: [{ type: 'text', text: 'Hello' }] }],
      };
      return { along: 'nothing', files: [file], body: body as CoverNote['body'] };
    });
    await dispatch(folio);
    const { read } = await taken('bo@');
    expect(
      read.attachments.map(({ filename, contentType, related, content }) => [
        filename,
        contentType,
        related,
        content.length,
      ]),
    ).toEqual([
      ['picture.png', 'image/png', true, picture.length],
      ['Ende des Schuljahrs – Ünïcode.ics', 'text/calendar', undefined, ICS.length],
    ]);
    expect(String(read.html)).toMatch(/<img src="data:image\/png;base64,[^"]+" alt="Our crest" width="76"/);
    expect(read.text).toContain('Hello');
  });

  test('what mail does not take, or is not what it says, is refused; nobody else’s can go along', async () => {
    const folio = await client.folioOf(SHEET, { letter: ['x'] });
    const codes = async (...files: (readonly [string, Buffer])[]) =>
      Promise.all(files.map(async ([name, bytes]) => (await upload(folio.id, name, bytes)).body.code));
    expect(
      await codes(
        ['tool.exe', Buffer.from('MZ')],
        ['no ending', ICS],
        ['paper.pdf', Buffer.from('MZ no pdf')],
        ['words.txt', Buffer.from([1, 0, 2])],
        ['blank.txt', Buffer.alloc(0)],
      ),
    ).toEqual(['file-kind', 'file-kind', 'file-other', 'file-other', 'file-blank']);
    expect((await upload(folio.id, 'a.ics', ICS, await newSchool(server))).status).toBe(404);

    const others = await newSchool(server);
    const theirs = await others.folioOf(SHEET, { letter: ['x'] });
    const { body: file } = await upload(theirs.id, 'secret.ics', ICS, others);
    const stolen = await folioWith(() => ({ files: [file] }));
    await dispatch(stolen);
    expect(mail.taken).toEqual([]);
    const { papers } = await client.register(stolen.id);
    expect(papers[0]!.message).toMatchObject({
      state: 'refused',
      answer: 'The file “secret.ics” that goes along is not there any more.',
    });
  });

  test('a try brings what the family would get, locked as for it', async () => {
    const folio = await folioWith(async (column, { id }) => ({
      lock: { columnId: column('Word') },
      files: [(await upload(id, 'days.ics', ICS)).body],
    }));
    await client.send('POST', `/folios/${folio.id}/tries`, {
      entryIds: [folio.roll.entries[0]!.id],
      messages: true,
    });
    const { read } = await taken('saltmarsh');
    expect(read.attachments.map(({ contentType }) => contentType)).toEqual([
      'application/pdf',
      'text/calendar',
    ]);
    expect(opened(read.attachments[0]!.content, 'otter').text).toContain('Dear Ada');
  });
});
