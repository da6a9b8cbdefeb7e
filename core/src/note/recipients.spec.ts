import fc from 'fast-check';
import { readAddresses } from '../column/index.js';
import type { Entry } from '../roll/index.js';
import { emptyNote, type CoverNote } from '../template/index.js';
import { envelopesOf, recipientsOf, writeNote } from './index.js';

const entry = (id: string, values: Record<string, string>): Entry => ({ id, position: 0, values });
const note = (more: Partial<CoverNote>): CoverNote => ({ ...emptyNote(), ...more });
const told = (of: CoverNote, entries: readonly Entry[]): string[] =>
  envelopesOf(of, entries).map(
    ({ entries: about, to }) =>
      `${about.map(({ id }) => id).join('+')} → ${to.map(({ address }) => address).join(',')}`,
  );

// The forms of a cell are common practice of school systems; RFC 5322, 3.4 has names before addresses in angle brackets.
test.each([
  ['a@x.example', ['a@x.example']],
  ['a@x.example; b@x.example', ['a@x.example', 'b@x.example']],
  ['a@x.example,b@x.example\nc@x.example', ['a@x.example', 'b@x.example', 'c@x.example']],
  ['a@x.example b@x.example', ['a@x.example', 'b@x.example']],
  ['a@x.example / b@x.example and c@x.example', ['a@x.example', 'b@x.example', 'c@x.example']],
  ['a/b@x.example', ['a/b@x.example']],
  ['Ann Smith <a@x.example>; "Smith, Bo" <b@x.example>', ['a@x.example', 'b@x.example']],
  ['A@x.example; a@X.example', ['A@x.example']],
  ['  ', []],
  [';', []],
])('the addresses of %j', (cell, expected) => {
  expect(readAddresses(cell)).toEqual({ addresses: expected, wrong: [] });
});

test('what is no address stands beside those that are', () => {
  const reading = readAddresses('a@x.example; no mail; b@x');
  expect(reading.addresses).toEqual(['a@x.example']);
  expect(reading.wrong.map(({ text, reason }) => [text, reason.code])).toEqual([
    ['no mail', 'address-space'],
    ['b@x', 'address-no-ending'],
  ]);
});

test('columns and fixed addresses, each once, where it is seen best', () => {
  const one = entry('e', { m: 'a@x.example', f: 'B@x.example', t: 'tutor@school.example', n: 'Mrs A' });
  const of = note({
    to: [{ columnId: 'm', nameId: 'n' }, { columnId: 'f' }],
    cc: [{ columnId: 't' }, { address: 'b@X.example' }],
    bcc: [{ address: 'office@school.example' }, { columnId: 't' }],
    replyTo: { columnId: 't' },
  });
  expect(recipientsOf(of, one)).toEqual({
    to: [
      { address: 'a@x.example', name: 'Mrs A' },
      { address: 'B@x.example', name: '' },
    ],
    cc: [{ address: 'tutor@school.example', name: '' }],
    bcc: [{ address: 'office@school.example', name: '' }],
    replyTo: { address: 'tutor@school.example', name: '' },
  });
});

const ada = entry('ada', { m: 'a@x.example', f: 'b@x.example', t: 't1@s.example' });
const bo = entry('bo', { m: 'B@x.example', f: 'a@x.example', t: 't2@s.example' });
const cy = entry('cy', { m: 'a@x.example', f: '', t: 'a@x.example' });
const to = [{ columnId: 'm' }, { columnId: 'f' }];

test('a family is who is written to at the same addresses, in whatever order', () => {
  expect(told(note({ to }), [ada, bo, cy])).toEqual([
    'ada → a@x.example,b@x.example',
    'bo → B@x.example,a@x.example',
    'cy → a@x.example',
  ]);
  expect(told(note({ to, family: true }), [ada, bo, cy])).toEqual([
    'ada+bo → a@x.example,b@x.example',
    'cy → a@x.example',
  ]);
  expect(told(note({ to, apart: true }), [ada])).toEqual(['ada → a@x.example', 'ada → b@x.example']);
  expect(told(note({ to, apart: true, family: true }), [ada, bo, cy])).toEqual([
    'ada+bo+cy → a@x.example',
    'ada+bo → b@x.example',
  ]);
});

test('a shared message is copied to all teachers, and to nobody who gets it anyway', () => {
  const [first] = envelopesOf(note({ to: [{ columnId: 'm' }], cc: [{ columnId: 't' }], family: true }), [
    ada,
    cy,
  ]);
  expect(first!.cc.map(({ address }) => address)).toEqual(['t1@s.example']);
});

test('every learner with an address is in a message to each of them exactly once, whatever is shared', () => {
  const address = fc.constantFrom('a@x.example', 'b@x.example', 'A@x.example', 'c@y.example', '', 'none');
  const entries = fc
    .array(fc.record({ m: address, f: address }), { maxLength: 8 })
    .map((all) => all.map((values, n) => entry(`e${n}`, values)));
  fc.assert(
    fc.property(entries, fc.boolean(), fc.boolean(), (all, family, apart) => {
      const of = note({ to, family, apart });
      const pairs = envelopesOf(of, all).flatMap((one) =>
        one.entries.flatMap(({ id }) => one.to.map((person) => `${id} ${person.address.toLowerCase()}`)),
      );
      const wanted = all.flatMap((one) =>
        recipientsOf(of, one).to.map(({ address: its }) => `${one.id} ${its.toLowerCase()}`),
      );
      expect([...pairs].sort()).toEqual([...wanted].sort());
      expect(new Set(pairs).size).toBe(pairs.length);
    }),
  );
});

// CLDR, list patterns: "A, B and C" in British English, „A, B und C“ in German.
test.each([
  ['en-GB', 'For Ada, Bo and Cy / Dear Mrs A and Mr B', ['Mrs A', 'Mr B']],
  ['de-DE', 'For Ada, Bo und Cy / Dear Mrs A', ['Mrs A', '']],
  ['en-GB', 'For Ada, Bo and Cy / Dear family', ['', '']],
])('the greeting names the children and whom it goes to, in %s', (language, expected, names) => {
  const columns = [{ id: 'n', title: 'Name' }];
  const entries = ['Ada', 'Bo', 'Cy'].map((name) => entry(name, { n: name }));
  const field = (fieldId: string) => ({ type: 'field' as const, attrs: { fieldId } });
  const of = note({
    fields: [
      { id: 'l', name: 'Learners', columnId: null, same: { kind: 'learners', columnId: null } },
      {
        id: 'a',
        name: 'Addressees',
        columnId: null,
        same: { kind: 'addressees' },
        whenBlank: { do: 'words', words: 'family' },
      },
    ],
    subject: [{ type: 'text', text: 'For ' }, field('l'), { type: 'text', text: ' / Dear ' }, field('a')],
  });
  const people = names.map((name, n) => ({ address: `${n}@x.example`, name }));
  const written = writeNote(of, { entries, to: people }, { columns, language, day: '2026-11-27' });
  expect(written.subject).toBe(expected);
});

test('the preview line stands hidden before the text, and in no subject', () => {
  const of = note({ preview: [{ type: 'text', text: 'Three <papers>' }] });
  const { html, preview, subject } = writeNote(
    of,
    { entries: [ada], to: [] },
    {
      columns: [],
      language: 'en',
      day: '2026-11-27',
    },
  );
  expect([preview, subject]).toEqual(['Three <papers>', '']);
  expect(html).toMatch(/<div style="display:none[^"]*">Three &#60;papers&#62;<\/div><div style="padding/);
});
