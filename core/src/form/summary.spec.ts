import type { Entry } from '../roll/index.js';
import { columnsOfForm, emptyForm, Form, summaryOf, type FormItem } from './index.js';

const W = (en: string): Record<string, string> => ({ en });
const asked = (id: string, en: string) => ({ id, label: W(en), required: false });
const choice = (id: string, en: string) => ({ id, label: W(en) });
const choices = [choice('a', 'Arch'), choice('t', 'Truss; stiff'), choice('b', 'Beam')];
const items: FormItem[] = [
  { kind: 'one', ...asked('bridge', 'Bridge'), choices, other: true, look: 'list' },
  { kind: 'several', ...asked('liked', 'Liked'), choices, other: false },
  {
    kind: 'grid',
    ...asked('grid', 'How well'),
    rows: [choice('r1', 'Planning'), choice('r2', 'Building')],
    choices: [choice('w', 'well'), choice('x', 'badly')],
    several: false,
  },
  { kind: 'scale', ...asked('scale', 'How hard'), from: 1, to: 5 },
  { kind: 'number', ...asked('load', 'Load'), whole: false },
  { kind: 'consent', ...asked('ok', 'Agree') },
  { kind: 'short', ...asked('team', 'Team') },
  { kind: 'short', ...asked('word', 'A word') },
  { kind: 'long', ...asked('why', 'Why') },
  { kind: 'time', ...asked('at', 'When') },
  { kind: 'email', ...asked('mail', 'Email') },
  { kind: 'section', id: 'sect', title: W('Not asked') },
];
const form = Form.parse({ ...emptyForm('Bridges', 'en'), items });
const columns = columnsOfForm(form).map((column) => ({ ...column, sourceId: 'form' }));
const rows: Record<string, string>[] = [
  {
    bridge: 'Arch',
    liked: 'Arch; Truss, stiff',
    r1: 'well',
    scale: '2',
    load: '10',
    ok: 'yes',
    team: 'Otters',
    at: '09:00',
  },
  {
    bridge: 'arch ',
    liked: 'Arch',
    r1: 'badly',
    r2: 'well',
    scale: '4',
    load: '12.5',
    team: 'otters',
    at: '08:30',
  },
  {
    bridge: 'Rope',
    liked: '',
    scale: '4',
    load: 'much',
    team: 'Herons',
    word: 'one',
    why: 'First\nsecond',
    at: '09:00',
  },
  { bridge: '', word: 'two', why: 'Later', mail: 'ada@families.example' },
];
const entries = rows.map((values, position): Entry => ({
  id: `e${position}`,
  position,
  values,
  answered: 'form',
}));
const others: Entry[] = [
  { id: 'sheet', position: 9, values: { bridge: '' } },
  { id: 'other', position: 10, values: { bridge: 'Arch' }, answered: 'elsewhere' },
];
const summary = summaryOf('form', form, { entries: [...entries, ...others], columns });
const of = (id: string) => summary.items.find(({ itemId }) => itemId === id)!;
const counts = (id: string, row = 0): unknown =>
  of(id).rows[row]?.tallies.map(({ label, entryIds, isOther }) => [label, entryIds.length, isOther]);

test('those who answered are counted, and nobody else', () => {
  expect(summary.entryIds).toEqual(['e0', 'e1', 'e2', 'e3']);
  expect(of('bridge').entryIds).toEqual(['e0', 'e1', 'e2']);
  expect(summary.items.map(({ title }) => title)).not.toContain('Not asked');
  // A learner's own entry counts once anything of the form stands in it.
  const own: Entry = { id: 'own', position: 0, values: { bridge: 'Beam' } };
  expect(summaryOf('form', form, { entries: [own], columns }).entryIds).toEqual(['own']);
});

test('choices stand in the order of the form, with none that nobody chose left out, others behind them', () => {
  expect(counts('bridge')).toEqual([
    ['Arch', 2, false],
    ['Truss; stiff', 0, false],
    ['Beam', 0, false],
    ['Rope', 1, true],
  ]);
  expect(counts('liked')).toEqual([
    ['Arch', 2, false],
    ['Truss, stiff', 1, false],
    ['Beam', 0, false],
  ]);
  expect(counts('grid', 0)).toEqual([
    ['well', 1, false],
    ['badly', 1, false],
  ]);
  expect(counts('grid', 1)).toEqual([
    ['well', 1, false],
    ['badly', 0, false],
  ]);
  expect(counts('ok')).toEqual([
    ['Yes', 1, false],
    ['No', 3, false],
  ]);
});

// Mean and median reckoned by hand: (2 + 4 + 4) / 3, and (10 + 12.5) / 2.
test('numbers have their mean and median, and what is none is left out', () => {
  expect(of('scale').numbers).toMatchObject({ least: 2, most: 4, median: 4 });
  expect(of('scale').numbers!.mean).toBeCloseTo(10 / 3, 12);
  expect(counts('scale')).toEqual([
    ['1', 0, false],
    ['2', 1, false],
    ['3', 0, false],
    ['4', 2, false],
    ['5', 0, false],
  ]);
  expect(of('load').numbers).toEqual({ all: [10, 12.5], least: 10, most: 12.5, mean: 11.25, median: 11.25 });
});

test('a few numbers that come again are counted in their own order', () => {
  const loads = ['10', '9', '10', '100'].map((load, n) => ({ id: `n${n}`, position: n, values: { load } }));
  const [row] = summaryOf('form', form, { entries: loads, columns }).items.find(
    ({ itemId }) => itemId === 'load',
  )!.rows;
  expect(row!.tallies.map(({ label, entryIds }) => [label, entryIds.length])).toEqual([
    ['9', 1],
    ['10', 2],
    ['100', 1],
  ]);
});

test('a share is one of those who answered the row, however many answers they gave', () => {
  expect(of('liked').rows[0]).toMatchObject({ of: 2 });
  expect(of('grid').rows.map((row) => row.of)).toEqual([2, 1]);
  // All are counted of an agreement, since who has not agreed has answered too.
  expect(of('ok').rows[0]).toMatchObject({ of: 4 });
});

test('what stands in cells counts by what it means, as staff and other programs write it', () => {
  const cells: Record<string, string>[] = [
    { ok: 'TRUE', load: '10' },
    { ok: 'no', load: '10.0' },
    { ok: 'ask her', load: 'heavy' },
    { load: '9' },
    {},
  ];
  const { items: all } = summaryOf('form', form, {
    entries: cells.map((values, n) => ({ id: `m${n}`, position: n, values, answered: 'form' })),
    columns,
  });
  const said = (id: string): unknown =>
    all
      .find(({ itemId }) => itemId === id)!
      .rows[0]!.tallies.map(({ label, entryIds, isOther }) => [label, entryIds.length, isOther]);
  expect(said('ok')).toEqual([
    ['Yes', 1, false],
    ['No', 3, false],
    ['ask her', 1, true],
  ]);
  expect(said('load')).toEqual([
    ['9', 1, false],
    ['10', 2, false],
  ]);
});

test('words are counted where they come again, and else told, the last first', () => {
  expect(counts('team')).toEqual([
    ['Otters', 2, false],
    ['Herons', 1, false],
  ]);
  expect(counts('at')).toEqual([
    ['08:30', 1, false],
    ['09:00', 2, false],
  ]);
  expect(of('word').texts.map(({ text }) => text)).toEqual(['two', 'one']);
  expect(of('why').texts).toEqual([
    { text: 'Later', entryId: 'e3' },
    { text: 'First\nsecond', entryId: 'e2' },
  ]);
  // An address is nobody's business here.
  expect(of('mail')).toMatchObject({ entryIds: ['e3'], rows: [], texts: [] });
});
