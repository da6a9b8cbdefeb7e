import { emptyFiling, emptyLetter, emptyNote } from '../template/index.js';
import type { Roll } from '../roll/index.js';
import { about, markOf, marksOf, outOfDateFinding, preflight, withoutSeen, type Finding } from './index.js';

const columns = [
  { id: 'n', title: 'Name' },
  { id: 'm', title: 'Mail' },
  { id: 'p', title: 'Share', type: 'percentage' as const },
  { id: 'x', title: 'Points', type: 'number' as const },
];
const rollOf = (...rows: Record<string, string>[]): Roll => ({
  columns,
  entries: rows.map((values, position) => ({ id: `e${position}`, position, values })),
});
const field = (id: string) => ({ id: `f${id}`, name: id, columnId: id });
const letter = {
  ...emptyLetter('L'),
  fields: ['n', 'p', 'x'].map(field),
  body: {
    type: 'doc' as const,
    content: ['n', 'p', 'x'].map((id) => ({
      type: 'paragraph' as const,
      content: [{ type: 'field' as const, attrs: { fieldId: `f${id}` } }],
    })),
  },
};
const find = (roll: Roll): Finding[] =>
  preflight({
    roll,
    templates: [letter],
    notes: [
      {
        id: 'note',
        name: 'Cover note',
        content: {
          ...emptyNote(),
          to: [{ columnId: 'm' }],
          subject: [{ type: 'text', text: 'S' }],
          body: letter.body,
          fields: letter.fields,
        },
      },
    ],
    filing: emptyFiling(),
    assets: new Set(),
  });
const codes = (roll: Roll): string[] => find(roll).map(({ code }) => code);
const right = { n: 'Ann Lee', m: 'a@b.example', p: '50 %', x: '5' };

test('names that look wrong are found, and names of all scripts are not', () => {
  for (const n of [
    'ilse BRANDT',
    ' Ann',
    'Ann  Lee',
    'Wilhelmina (Mina)',
    'Ann3',
    'a@b.example',
    'Zo\ufffd',
    'ANN LEE',
  ])
    expect([n, codes(rollOf(right, right, { ...right, n }))]).toEqual([n, ['name-odd']]);
  for (const n of [
    "Zoë D'Arcy-Lévesque",
    'محمد السعدي',
    '王 小明',
    'Suharto',
    'Rhys ap Gwilym',
    'Seán Ó Fiannachta',
  ])
    expect(codes(rollOf(right, { ...right, n }))).toEqual([]);
  // Codes instead of names are meant so.
  expect(codes(rollOf({ ...right, n: 'Candidate 1' }, { ...right, n: 'Candidate 2' }))).toEqual([]);
  expect(codes(rollOf(right, { ...right, n: '' }))).toContain('name-blank');
});

test('values far from what they can be, or from all others, are found where papers print them', () => {
  expect(codes(rollOf(right, { ...right, p: '101 %' }))).toEqual(['value-range']);
  expect(codes(rollOf(right, { ...right, p: '-1 %' }))).toEqual(['value-range']);
  const points = [5, 6, 7, 8, 9, 10, 11, 12, 13, 14].map((x) => ({
    ...right,
    m: `a${x}@b.example`,
    x: String(x),
  }));
  // NIST/SEMATECH e-Handbook, 7.1.6: Q1 7.25, Q3 11.75; the outer fence lies at 11.75 + 3 * 4.5 = 25.25 without the new one.
  expect(codes(rollOf(...points, { ...right, x: '25' }))).toEqual([]);
  expect(codes(rollOf(...points, { ...right, x: '120' }))).toEqual(['value-range']);
  expect(codes(rollOf(...points.slice(0, 5), { ...right, x: '120' }))).toEqual([]);
});

test('one address for more than a family is found', () => {
  const four = [right, right, right, right];
  expect(codes(rollOf(...four))).toEqual([]);
  expect(codes(rollOf(...four, { ...right, m: 'A@b.example ' }))).toEqual(['address-shared']);
});

test('what was seen is left out for whom it was, and comes up again with another value', () => {
  const roll = rollOf(right, { ...right, m: '' }, { ...right, m: '' });
  const [none] = find(roll);
  expect(none).toMatchObject({ code: 'address-none', entryIds: ['e1', 'e2'] });
  const mark = markOf(none!, roll.entries[1]!);
  expect(mark).toMatch(/^[0-9a-f]{32}$/);
  const { open, seen } = withoutSeen(find(roll), roll, new Set([mark]));
  expect(open.map(({ entryIds, message }) => [entryIds, message])).toEqual([
    [['e2'], 'Ann Lee has no email address. Print that paper from the register.'],
  ]);
  expect(seen).toMatchObject([{ marks: [mark], finding: { entryIds: ['e1'] } }]);
  // What else stands in the entry does not matter; the value that it is about does.
  const other = rollOf(right, { ...right, m: '', x: '7' }, { ...right, m: 'x' });
  expect(withoutSeen(find(other), other, new Set([mark])).open.map(({ code }) => code)).toEqual([
    'address-wrong',
  ]);
  expect(marksOf(none!, roll)).toHaveLength(2);
  const all = withoutSeen(find(roll), roll, new Set(marksOf(none!, roll)));
  expect(all.open).toEqual([]);
});

test('what blocks cannot be found right; what is about all has one mark', () => {
  const blocked = preflight({
    roll: rollOf(right),
    templates: [emptyLetter('L')],
    notes: [],
    filing: emptyFiling(),
    assets: new Set(),
  });
  const marks = new Set(blocked.map((finding) => markOf(finding, null)));
  expect(withoutSeen(blocked, rollOf(right), marks).open).toEqual(blocked);
  const looks: Finding = {
    code: 'rule-nobody',
    parameters: { rule: 2 },
    severity: 'look',
    place: 'sorting',
    message: 'x',
    entryIds: [],
  };
  expect(withoutSeen([looks], rollOf(right), new Set(marksOf(looks, rollOf(right)))).open).toEqual([]);
  expect(markOf({ ...looks, parameters: { rule: 3 } }, null)).not.toBe(markOf(looks, null));
});

test('papers out of date are told, and are nobody’s to look at', () => {
  const roll = rollOf(right, right);
  expect(outOfDateFinding(roll, new Set())).toBeNull();
  expect(outOfDateFinding(roll, new Set(['e1']))).toMatchObject({ place: 'register', entryIds: ['e1'] });
  expect(
    about(outOfDateFinding(roll, new Set(['e0', 'e1']))!, roll.entries.slice(0, 1), roll).message,
  ).toContain('Ann Lee');
});
