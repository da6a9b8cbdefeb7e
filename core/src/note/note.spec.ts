import { personalCode, type Column } from '../column/index.js';
import type { Entry } from '../roll/index.js';
import type { CoverNote } from '../template/index.js';
import { recipientsOf, writeNote } from './index.js';

const entry: Entry = {
  id: 'e',
  position: 0,
  values: { n: '<script>alert(1)</script> & "Zoë"\nsecond', m: ' zoe@example.org ' },
};
const one = { entries: [entry], to: [] };
const field = (fieldId: string) => ({ type: 'field' as const, attrs: { fieldId } });
const note: CoverNote = {
  to: [{ columnId: 'm' }],
  fields: [{ id: 'f', name: 'Name', columnId: 'n' }],
  subject: [{ type: 'text', text: 'For ' }, field('f')],
  body: {
    type: 'doc',
    content: [
      {
        type: 'paragraph',
        attrs: { textAlign: 'center' },
        content: [
          { type: 'text', text: 'Dear ' },
          { ...field('f'), marks: [{ type: 'bold' }] },
        ],
      },
      {
        type: 'bulletList',
        content: [
          { type: 'listItem', content: [{ type: 'paragraph', content: [{ type: 'text', text: 'one' }] }] },
        ],
      },
      {
        type: 'orderedList',
        attrs: { start: 4 },
        content: [
          {
            type: 'listItem',
            content: [
              {
                type: 'paragraph',
                content: [
                  {
                    type: 'text',
                    text: 'four',
                    marks: [{ type: 'textStyle', attrs: { color: '#1D6B61', fontSize: '14pt' } }],
                  },
                ],
              },
            ],
          },
        ],
      },
    ],
  },
};

test('a value is text in the HTML, whatever it holds', () => {
  const { html } = writeNote(note, one, { columns: [], language: 'en-GB', day: '2026-11-26' });
  expect(html).not.toContain('<script');
  expect(html).toContain(
    '<strong>&#60;script&#62;alert(1)&#60;/script&#62; &#38; &#34;Zoë&#34;<br>second</strong>',
  );
  expect(html).toContain('text-align:center');
  expect(html).toContain('<ol start="4">');
  expect(html).toContain('<span style="color:#1D6B61;font-size:14pt">four</span>');
  expect(html).toContain('lang="en-GB"');
});

test('the subject is one line, so that no value can add a header (RFC 5322 2.2)', () => {
  expect(writeNote(note, one, { columns: [], language: 'en', day: '2026-11-26' }).subject).toBe(
    'For <script>alert(1)</script> & "Zoë" second',
  );
});

test('the plain text reads as the HTML does', () => {
  expect(writeNote(note, one, { columns: [], language: 'en', day: '2026-11-26' }).text).toBe(
    'Dear <script>alert(1)</script> & "Zoë"\nsecond\n\n- one\n\n4. four',
  );
});

test('the address is read from its column', () => {
  expect(recipientsOf(note, entry).to).toEqual([{ address: 'zoe@example.org', name: '' }]);
  expect(recipientsOf({ ...note, to: [] }, entry).to).toEqual([]);
});

// WCAG 2.2, 1.4.3; mail programs with a dark theme put their own ground under what brings none.
test('what is dark brings its own light ground', () => {
  const { html } = writeNote(note, one, { columns: [], language: 'en-GB', day: '2026-11-26' });
  expect(html).toMatch(/<div style="[^"]*background-color:#FFFFFF[^"]*color:#22303C/);
  expect(html).toContain('<meta name="color-scheme" content="light">');
});

test('a personal link leads there, and in a message about several learners each has their own', () => {
  const columns: Column[] = [
    { id: 'n', title: 'Name', role: 'name' },
    {
      id: 'p',
      title: 'Trip: personal link',
      worked: {
        kind: 'personal',
        formId: 'trip01',
        base: 'https://papers.example/f/a',
        seed: '0'.repeat(32),
        give: 'link',
      },
    },
  ];
  const link = (id: string): string => `https://papers.example/f/a/for/${personalCode('0'.repeat(32), id)}`;
  const learner = (id: string, name: string): Entry => ({
    id,
    position: 0,
    values: { n: name },
    worked: { p: link(id) },
  });
  const asks: CoverNote = {
    ...note,
    fields: [{ id: 'l', name: 'Link', columnId: 'p', after: '.' }],
    subject: [{ type: 'text', text: 'A trip' }],
    body: { type: 'doc', content: [{ type: 'paragraph', content: [field('l')] }] },
  };
  const written = (...entries: Entry[]) =>
    writeNote(asks, { entries, to: [] }, { columns, language: 'en-GB', day: '2026-11-26' });
  const [ada, bo] = [learner('ada1', 'Ada'), learner('bo1', 'Bo <b>')];
  expect(written(ada).html).toContain(`<a href="${link('ada1')}">${link('ada1')}</a>.`);
  expect(written(ada).text).toContain(`${link('ada1')}.`);
  const both = written(ada, bo);
  expect(both.html).toContain(`Ada: <a href="${link('ada1')}">${link('ada1')}</a>`);
  expect(both.html).toContain(`Bo &#60;b&#62;: <a href="${link('bo1')}">${link('bo1')}</a>`);
  expect(both.text).toContain(`Ada: ${link('ada1')}\nBo <b>: ${link('bo1')}`);
});
