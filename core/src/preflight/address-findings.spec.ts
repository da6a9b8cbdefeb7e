import type { Column } from '../column/index.js';
import type { Entry, Roll } from '../roll/index.js';
import { emptyNote, type CoverNote } from '../template/index.js';
import { addressFindings } from './address-findings.js';

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
const found = (more: Partial<CoverNote>, of: Roll, used: string[] = []): string[] =>
  addressFindings({ ...emptyNote(), to: [{ columnId: 'm' }, { columnId: 'f' }], ...more }, of, used).map(
    ({ code, blocks, entryIds }) => [code, blocks ?? '', entryIds.join('+')].filter(Boolean).join(' '),
  );

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
