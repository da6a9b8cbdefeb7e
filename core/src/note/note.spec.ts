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
