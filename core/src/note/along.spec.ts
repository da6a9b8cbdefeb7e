import type { Column } from '../column/index.js';
import type { Entry } from '../roll/index.js';
import { emptyNote, type CoverNote } from '../template/index.js';
import {
  answerKey,
  lackedColumns,
  linkOf,
  OWN_LINK,
  passwordOf,
  passwordText,
  rightAnswer,
  writeNote,
} from './index.js';

const columns: Column[] = [
  { id: 'n', title: 'Name' },
  { id: 'b', title: 'Born', type: 'date' },
];
const entry = (values: Record<string, string>): Entry => ({ id: 'e', position: 0, values });

// How a day of birth is asked for as a password is common practice of banks and schools, without a published source.
test.each([
  [{ columnId: 'b' }, { b: '2012-03-04' }, '04032012'],
  [{ columnId: 'b', form: 'iso' as const }, { b: '4 March 2012' }, '2012-03-04'],
  [{ columnId: 'b', form: 'cell' as const }, { b: ' 4.3.2012 ' }, '4.3.2012'],
  [{ columnId: 'b' }, { b: 'not known' }, 'not known'],
  [{ columnId: 'n' }, { n: ' Zoë ' }, 'Zoë'],
  [{ columnId: 'n' }, {}, ''],
  [{ columnId: 'gone' }, { n: 'Ada' }, ''],
])('the password by %j of %j', (lock, values, expected) => {
  expect(passwordOf(lock, entry(values), columns)).toBe(expected);
});

// ISO 32000-2, 7.6.4.3.3: SASLprep (RFC 4013, with Unicode's form KC), and 127 bytes of UTF-8 count.
test('a password is as programs that read PDF take it', () => {
  expect(passwordText('ﬁnch １２')).toBe('finch 12');
  expect(new TextEncoder().encode(passwordText('é'.repeat(100))).length).toBe(126);
  expect(passwordText('🦢'.repeat(100))).toBe('🦢'.repeat(31));
});

test.each([
  ['2012-03-04', true, '2012-03-04'],
  ['4.3.2012', true, '2012-03-04'],
  ['4th March 2012', true, '2012-03-04'],
  ['4. März 2012', true, '2012-03-04'],
  ['never', true, ''],
  ['  OTTER\tcreek ', false, answerKey('otter creek', false)],
])('the answer %j, of a day: %s', (text, isDay, expected) => {
  expect(answerKey(text, isDay)).toBe(expected);
});

test('the right answer is what the cell means', () => {
  expect(rightAnswer('b', entry({ b: '4 March 2012' }), columns)).toBe('2012-03-04');
  expect(rightAnswer('n', entry({ n: 'Ó Súilleabháin' }), columns)).toBe(answerKey('ó súilleabháin', false));
});

const note = (more: Partial<CoverNote>): CoverNote => ({ ...emptyNote(), ...more });

test('what a message cannot go without', () => {
  const of = note({ along: 'link', link: { days: 3, askId: 'b' }, lock: { columnId: 'n' } });
  expect(lackedColumns(of, entry({ n: 'Ada', b: ' ' }))).toEqual(['b']);
  expect(lackedColumns(of, entry({ b: '2012-03-04' }))).toEqual(['n']);
  // What does not go along needs no password.
  expect(lackedColumns({ ...of, along: 'nothing' }, entry({}))).toEqual([]);
});

test('a link ends so many days later, over the ends of months and years', () => {
  const of = (days: number): CoverNote => note({ along: 'link', link: { days } });
  expect(linkOf(of(30), 'https://x.example', '2027-12-15')).toEqual({
    url: `https://x.example/p/${OWN_LINK}`,
    ends: '2028-01-14',
  });
  expect(linkOf(of(1), '', '2028-02-28')?.ends).toBe('2028-02-29');
  expect(linkOf(note({}), '', '2028-02-28')).toBeUndefined();
});

test('a link leads where it says, its last day is told, and neither stands where there is none', () => {
  const field = (fieldId: string) => ({ type: 'field' as const, attrs: { fieldId } });
  const of = note({
    fields: [
      { id: 'l', name: 'Link', columnId: null, same: { kind: 'link' } },
      { id: 'd', name: 'End', columnId: null, same: { kind: 'link-ends' } },
    ],
    body: {
      type: 'doc',
      content: [{ type: 'paragraph', content: [field('l'), { type: 'text', text: ' until ' }, field('d')] }],
    },
  });
  const context = { columns, language: 'en-GB', day: '2026-11-27' };
  const written = (link?: { url: string; ends: string }) =>
    writeNote(of, { entries: [entry({})], to: [] }, context, link);
  const { html, text } = written({ url: 'https://x.example/p/a"b', ends: '2026-12-24' });
  expect(text).toBe('https://x.example/p/a"b until 24 December 2026');
  expect(html).toContain(
    '<a href="https://x.example/p/a&#34;b">https://x.example/p/a&#34;b</a> until 24 December 2026',
  );
  expect(written().text).toBe('until');
});
