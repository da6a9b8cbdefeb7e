import type { Column } from '../column/index.js';
import type { Entry, Roll } from '../roll/index.js';
import type { SortedBy } from '../sorting/index.js';
import { emptyNote, type CoverNote, type SortingRule } from '../template/index.js';
import type { Finding } from './finding.js';
import { noteFindings } from './note-findings.js';

const columns: Column[] = [
  { id: 'n', title: 'Name', role: 'name' },
  { id: 'm', title: 'Mother' },
  { id: 'f', title: 'Father' },
  { id: 'k', title: 'Mark' },
];
const roll = (...rows: [name: string, mother: string, father?: string, mark?: string][]): Roll => ({
  columns,
  entries: rows.map(([n, m, f = '', k = ''], position): Entry => ({
    id: n,
    position,
    values: { n, m, f, k },
  })),
});
const written = (used: string[]): Pick<CoverNote, 'subject' | 'body'> => ({
  subject: [{ type: 'text', text: 'S' }],
  body: {
    type: 'doc',
    content: [
      {
        type: 'paragraph',
        content: [
          { type: 'text', text: 'Dear' },
          ...used.map((fieldId) => ({ type: 'field' as const, attrs: { fieldId } })),
        ],
      },
    ],
  },
});
const noteOf = (id: string, more: Partial<CoverNote>, used: string[] = []) => ({
  id,
  name: id,
  content: { ...emptyNote(), to: [{ columnId: 'm' }, { columnId: 'f' }], ...written(used), ...more },
});
const say = (findings: readonly Finding[]): string[] =>
  findings.map(({ code, blocks, entryIds }) =>
    [code, blocks ?? '', entryIds.join('+')].filter(Boolean).join(' '),
  );
const found = (more: Partial<CoverNote>, of: Roll, used: string[] = []): string[] =>
  say(noteFindings([noteOf('note', more, used)], of, undefined));

test('nobody to write to, and addresses that cannot be right beside those that can', () => {
  const of = roll(
    ['Ada', 'a@x.example; no mail', ''],
    ['Bo', '', 'b@x.example'],
    ['Cy', '', ''],
    ['Di', 'x', ''],
  );
  expect(found({}, of)).toEqual(['address-none Cy', 'address-wrong Ada', 'address-wrong Di']);
  // One address for everybody leaves nobody out.
  expect(found({ to: [{ address: 'office@s.example' }] }, of)).toEqual([]);
});

test('what is typed for everybody has to be an address, and a column that is gone is not passed over', () => {
  const of = roll(['Ada', 'a@x.example']);
  expect(found({ to: [] }, of)).toEqual(['address-column dispatch']);
  expect(found({ to: [{ columnId: 'gone' }] }, of)).toEqual(['address-column dispatch']);
  expect(found({ cc: [{ columnId: 'gone' }] }, of)).toEqual(['address-gone dispatch']);
  expect(found({ bcc: [{ address: 'the office' }] }, of)).toEqual(['address-fixed dispatch']);
  expect(found({ replyTo: { address: 'a@s.example\nBcc: b' } }, of)).toEqual(['address-fixed dispatch']);
});

test('what goes along: a link stands in the text, and what opens the papers of each is there', () => {
  const of = roll(['Ada', 'a@x.example', ''], ['Bo', 'b@x.example', 'word']);
  const link: Partial<CoverNote> = {
    to: [{ columnId: 'm' }],
    fields: [{ id: 'l', name: 'Link', columnId: null, same: { kind: 'link' } }],
  };
  expect(found({ ...link, along: 'link' }, of)).toEqual(['link-unsaid dispatch']);
  expect(found({ ...link, along: 'link' }, of, ['l'])).toEqual([]);
  expect(found(link, of, ['l'])).toEqual(['link-idle dispatch']);
  expect(found({ to: link.to!, lock: { columnId: 'f' } }, of)).toEqual(['needed-blank Ada']);
  expect(found({ to: link.to!, lock: { columnId: 'gone' } }, of)).toEqual(['needed-gone dispatch']);
  expect(found({ to: link.to!, lock: { columnId: 'gone' }, along: 'nothing' }, of)).toEqual([]);
  const asks = { ...link, along: 'link' as const, link: { days: 3, askId: 'f' } };
  expect(found({ ...asks, lock: { columnId: 'f' } }, of, ['l'])).toEqual(['needed-blank Ada']);
});

test('one address for many', () => {
  const names = ['Ada', 'Bo', 'Cy', 'Di', 'Eli'];
  const of = roll(...names.map((name): [string, string] => [name, 'Home@x.example']));
  expect(found({}, of)).toEqual([`address-shared ${names.join('+')}`]);
});

test('what differs in a family that shares a message is said, but for what names all of them', () => {
  const of = roll(
    ['Ada', 'a@x.example', '', '7'],
    ['Bo', 'a@x.example', '', '9'],
    ['Cy', 'c@x.example', '', '7'],
  );
  const fields = [
    { id: 'mark', name: 'Mark', columnId: 'k' },
    { id: 'who', name: 'Learners', columnId: null, same: { kind: 'learners' as const, columnId: null } },
  ];
  expect(found({ fields, family: true }, of, ['mark', 'who'])).toEqual(['family-differs Ada+Bo']);
  expect(found({ fields }, of, ['mark', 'who'])).toEqual([]);
  expect(found({ fields, family: true }, of, ['who'])).toEqual([]);
});

test('of several notes each is looked at with those to whom it goes', () => {
  const of = roll(['Ada', 'a@s.example', '', '9'], ['Bo', '', 'b@s.example', '3'], ['Cy', '', '', '9']);
  const gold: SortingRule = {
    id: 'r',
    if: { columnId: 'k', is: 'equal', values: ['9'] },
    then: { kind: 'gives', templates: ['t'], notes: ['gold'] },
  };
  const rest: SortingRule = { id: 'e', if: null, then: { kind: 'gives', templates: ['t'] } };
  const by: SortedBy = { sorting: { rules: [gold, rest] }, columns };
  const notes = [
    noteOf('all', { to: [{ columnId: 'f' }] }),
    noteOf('gold', { goes: 'ruled', to: [{ columnId: 'm' }] }),
    noteOf('later', { goes: 'asked', subject: [] }),
  ];
  const findings = noteFindings(notes, of, by);
  expect(say(findings)).toEqual(['address-none Cy', 'address-none-of Ada', 'subject-blank']);
  expect(findings.map(({ message }) => message)).toEqual([
    'Cy has no email address. Print that paper from the register.',
    '“all” does not reach anybody for Ada: there is no address for it. Other notes do.',
    '“later” has no subject.',
  ]);
  // A note that nobody is named for, and learners for whom there is none.
  expect(say(noteFindings([noteOf('gold', { goes: 'ruled' }), notes[2]!], of, undefined))).toEqual([
    'note-none Ada+Bo+Cy',
    'note-nobody',
    'subject-blank',
  ]);
});
