import { spawnSync } from 'node:child_process';
import { writeNote } from '@scriptum/core/note';
import type { FlowText } from '@scriptum/core/text';
import { emptyNote, type CoverNote } from '@scriptum/core/template';
import { mailOf } from '@scriptum/server/post/transport';
import { HtmlValidate } from 'html-validate';
import nodemailer from 'nodemailer';

const columns = [
  { id: 'n', title: 'Name', role: 'name' as const },
  { id: 'm', title: 'Mark' },
];
const NAMES = [
  'Zoë D’Arcy-Lévesque',
  'محمد السعدي',
  '王 小明',
  '<b>Ann</b> & "Bo"',
  'Wilhelmina van der Veldt-Featherstonehaugh-Marchbanks',
];
const text = (words: string, ...marks: { type: string; attrs?: object }[]) => ({
  type: 'text',
  text: words,
  ...(marks.length > 0 ? { marks } : {}),
});
const body = {
  type: 'doc',
  content: [
    { type: 'heading', attrs: { level: 1 }, content: [text('Report')] },
    {
      type: 'paragraph',
      content: [text('Dear family of '), { type: 'field', attrs: { fieldId: 'fn' } }, text(', ')],
    },
    {
      type: 'bulletList',
      content: [
        { type: 'listItem', content: [{ type: 'paragraph', content: [text('Bold', { type: 'bold' })] }] },
        { type: 'listItem', content: [{ type: 'paragraph', content: [text('Plain')] }] },
      ],
    },
    {
      type: 'paragraph',
      content: [text('Our page', { type: 'link', attrs: { href: 'https://thistlequay.example/?a=1&b=2' } })],
    },
    { type: 'paragraph' },
  ],
} as unknown as FlowText;
const note: CoverNote = {
  ...emptyNote(),
  fields: [{ id: 'fn', name: 'Name', columnId: 'n' }],
  subject: [
    {
      type: 'text',
      text: 'How the bridge-building project of the whole year group went, and what comes next, for ',
    },
    { type: 'field', attrs: { fieldId: 'fn' } },
  ],
  preview: [{ type: 'text', text: 'Marks & more' }],
  body,
};
const written = (name: string, language = 'en-GB') => {
  const entry = { id: 'e', position: 0, values: { n: name, m: '7' } };
  const to = [{ address: 'a@b.example', name: '' }];
  return writeNote(note, { entries: [entry], to }, {
    columns,
    language,
    day: '2026-11-27',
    cohort: undefined,
  } as never);
};

// The HTML Living Standard and its parsing rules, as html-validate checks them.
const validate = new HtmlValidate({
  extends: ['html-validate:standard', 'html-validate:document'],
  rules: {
    // Mail programs know styles in the elements alone; colours in capitals and the short doctype are a matter of taste.
    'no-inline-style': 'off',
    'doctype-style': 'off',
    'long-title': 'off',
    'no-implicit-button-type': 'off',
  },
});

test.each(NAMES)('the HTML for %s is valid, without scripts and anything from outside', async (name) => {
  const { html } = written(name, name.startsWith('محمد') ? 'ar' : 'en-GB');
  const report = await validate.validateString(html);
  expect(
    report.results.flatMap(({ messages }) => messages.map(({ ruleId, message }) => `${ruleId}: ${message}`)),
  ).toEqual([]);
  expect(html).not.toMatch(/<script|<link|<img|<iframe|src=|url\(|javascript:/i);
});

/** The whole message as it is handed over, RFC 5322. */
async function built(name: string): Promise<Buffer> {
  const { subject, html, text: plain } = written(name);
  const transport = nodemailer.createTransport({
    streamTransport: true,
    buffer: true,
    newline: 'windows',
  } as never);
  const info = await transport.sendMail(
    mailOf({
      messageId: '<abc@thistlequay.example>',
      from: { name: 'Thistlequay School, office', address: 'office@thistlequay.example' },
      to: [{ address: 'a@bücher.example', name }],
      subject,
      html,
      text: plain,
      date: new Date('2026-11-27T12:00:00Z'),
      language: 'en-GB',
      files: [{ name: `${name.replace(/[<>"]/g, '')} – Bericht.pdf`, bytes: Buffer.from('%PDF-1.7 x') }],
    }),
  );
  return (info as unknown as { message: Buffer }).message;
}

test('lines keep to the lengths of RFC 5322, 2.1.1, and no byte is beyond ASCII', async () => {
  for (const name of NAMES) {
    const raw = (await built(name)).toString('latin1');
    const [head = ''] = raw.split('\r\n\r\n');
    expect(raw.replace(/\r\n/g, '')).not.toMatch(/[\r\n]/);
    for (const line of raw.split('\r\n')) expect(line.length).toBeLessThanOrEqual(998);
    for (const line of head.split('\r\n')) expect(line.length).toBeLessThanOrEqual(78);
    expect(raw).toMatch(/^[\x20-\x7e\r\n\t]*$/);
    expect(head).toMatch(/^Auto-Submitted: auto-generated\r$/m);
    expect(head).toMatch(/^Content-Language: en-GB\r$/m);
    expect(head).toContain('a@xn--bcher-kva.example');
  }
});

const PYTHON = `
import sys, json, email, email.policy
message = email.message_from_bytes(sys.stdin.buffer.read(), policy=email.policy.default)
def walk(part):
    return [part.get_content_type()] + [one for child in (part.iter_parts() if part.is_multipart() else []) for one in walk(child)]
print(json.dumps({
    'subject': message['subject'], 'from': message['from'].addresses[0].display_name,
    'to': message['to'].addresses[0].display_name, 'date': message['date'].datetime.isoformat(),
    'types': walk(message), 'text': message.get_body(('plain',)).get_content(), 'html': message.get_body(('html',)).get_content(),
    'files': [part.get_filename() for part in message.iter_attachments()],
    'defects': [str(defect) for part in message.walk() for defect in part.defects],
}))`;
const python = spawnSync('python3', ['-c', 'import email.policy']).status === 0;

// Python’s email package, an independent reader of RFC 5322, 2045 to 2047 and 2231.
(python ? test : test.skip)('Python reads the same that was written', async () => {
  for (const name of NAMES) {
    const { status, stdout, stderr } = spawnSync('python3', ['-c', PYTHON], { input: await built(name) });
    expect([status, stderr.toString()]).toEqual([0, '']);
    const read = JSON.parse(stdout.toString()) as Record<string, unknown>;
    const { subject, text: plain, html } = written(name);
    expect(read).toMatchObject({
      subject,
      from: 'Thistlequay School, office',
      to: name,
      date: '2026-11-27T12:00:00+00:00',
      types: ['multipart/mixed', 'multipart/alternative', 'text/plain', 'text/html', 'application/pdf'],
      files: [`${name.replace(/[<>"]/g, '')} – Bericht.pdf`],
      defects: [],
    });
    expect(String(read['text']).replace(/\r\n/g, '\n').trim()).toBe(plain.trim());
    expect(String(read['html']).replace(/\r\n/g, '\n').trim()).toBe(html.trim());
  }
});
