import fc from 'fast-check';
import type { Entry, Roll } from '../roll/index.js';
import { type Column, PLAIN_CODES, PLAIN_STATES, Worked } from '../column/index.js';
import { Marks, readFormula, sameCell, stepText } from './index.js';

/** Columns that are given, as a school's sheet has them. */
const given: Column[] = [
  { id: 'first', title: 'First name', role: 'given name' },
  { id: 'last', title: 'Surname', role: 'surname' },
  { id: 'class', title: 'Class' },
  { id: 'essay', title: 'Essay', type: 'number' },
  { id: 'test', title: 'Test', type: 'number' },
  { id: 'came', title: 'Came' },
  { id: 'q1', title: 'What is it?' },
  { id: 'h1', title: 'What is it?, points', type: 'number' },
  { id: 'mon', title: 'Mon' },
  { id: 'tue', title: 'Tue' },
  { id: 'they', title: 'Pronouns' },
];

const worked = (id: string, from: object, more: Partial<Column> = {}): Column => ({
  id,
  title: id,
  worked: Worked.parse(from),
  ...more,
});
const scheme = (id: string, pieces: string[], weight = '100'): Column =>
  worked(
    id,
    {
      kind: 'scheme',
      weigh: 'weights',
      states: PLAIN_STATES,
      late: { perDay: '10', of: 'out of', grace: 0, floor: '0' },
      groups: [
        {
          id: 'g',
          name: 'Work',
          weight,
          weigh: 'points',
          drop: pieces.length > 1 ? 1 : 0,
          pieces: pieces.map((columnId) => ({
            id: `p${columnId}`,
            columnId,
            outOf: '20',
            lateColumnId: 'came',
            due: '2026-03-01',
          })),
        },
      ],
    },
    { type: 'number' },
  );
const band = (id: string, of: string, basis: string, give = 'label'): Column =>
  worked(id, {
    kind: 'band',
    of,
    basis,
    bands: [
      { id: 'a', label: 'Secure', from: '70', share: '30', points: '3', pass: true },
      { id: 'b', label: 'Developing', from: '40', share: '40', points: '2', pass: true },
      { id: 'c', label: 'Beginning', from: null, share: '30', points: '1', pass: false },
    ],
    before: null,
    near: '2',
    within: ['class'],
    give,
  });
const cohort = (id: string, of: string, measure: string, within: string[] = []): Column =>
  worked(id, { kind: 'cohort', of, measure, within, earlier: 'test', least: 0 }, { type: 'number' });
const formula = (id: string, written: string): Column => {
  const read = readFormula(written, given);
  if (!read.ok) throw new Error(read.problem.message);
  return worked(id, { kind: 'expression', formula: read.value, rounding: null });
};
const part = (id: string, of: string, what: string, which?: string): Column =>
  worked(id, { kind: 'part', of, part: what, ...(which ? { which } : {}) });
const key: Column = worked('key', {
  kind: 'key',
  give: 'points',
  rounding: { places: 1, mode: 'half up' },
  questions: [
    { id: 'q', columnId: 'q1', points: '2', mode: 'text', answers: [{ text: 'arch' }], topic: 'Bridges' },
    { id: 'h', columnId: 'q1', points: '3', mode: 'hand', answers: [], handId: 'h1' },
  ],
});
const remark = (id: string, of: string, more: object = {}): Column =>
  worked(id, {
    kind: 'remark',
    of,
    within: ['class'],
    pronounId: 'they',
    room: 30,
    bank: [
      {
        id: 'x',
        parts: [{ word: 'name' }, { text: ' work' }, { word: 's' }, { text: ' well.' }],
        from: '50',
        to: null,
      },
      {
        id: 'y',
        parts: [{ word: 'they' }, { text: ' ' }, { word: 'are' }, { text: ' quick.' }],
        from: '40',
        to: null,
      },
      { id: 'z', parts: [{ text: 'Keep going, ' }, { word: 'name' }, { text: '.' }], from: null, to: '49.9' },
    ],
    ...more,
  });

/** Columns of all kinds, some made from others, in an order that is not the one in which they are worked out. */
const columns: Column[] = [
  part('rankSteps', 'rank', 'steps'),
  part('shareSteps', 'byShare', 'steps'),
  part('remarkSteps', 'remark', 'steps'),
  part('deepSteps', 'rankBand', 'steps'),
  remark('remark', 'mark'),
  remark('other', 'rank', { bank: [], bankOf: 'remark', nameId: 'whole' }),
  formula('whole', '[First name] & " " & [Surname]'),
  band('byMark', 'mark', 'thresholds'),
  band('byShare', 'mark', 'shares'),
  band('rankBand', 'rank', 'thresholds', 'distance'),
  cohort('rank', 'mark', 'rank', ['class']),
  cohort('mean', 'mark', 'mean', ['byMark']),
  cohort('z', 'essay', 'z-score'),
  cohort('change', 'mark', 'change'),
  scheme('mark', ['essay', 'test', 'bonus']),
  formula('bonus', 'ROUND([Essay] / 4; 1)'),
  formula('against', '[Essay] - AVERAGE(ALL([Essay]; [Class]))'),
  formula('own', 'SUM(OWN("Points"))'),
  key,
  part('answers', 'key', 'answers'),
  part('low', 'mark', 'lowest'),
  worked('sessions', {
    kind: 'attendance',
    from: { kind: 'sessions', columnIds: ['mon', 'tue'] },
    codes: PLAIN_CODES,
    lateIsPresent: true,
    give: 'sentence',
    rounding: { places: 1, mode: 'half up' },
  }),
  worked(
    'totals',
    {
      kind: 'attendance',
      from: { kind: 'totals', unexcused: 'essay', possible: 'test' },
      codes: PLAIN_CODES,
      lateIsPresent: true,
      give: 'rate',
      rounding: { places: 1, mode: 'half up' },
    },
    { type: 'number' },
  ),
  worked(
    'table',
    {
      kind: 'attendance',
      from: { kind: 'table', sourceId: 's', at: 0 },
      codes: PLAIN_CODES,
      lateIsPresent: false,
      give: 'rate',
      rounding: { places: 1, mode: 'half up' },
    },
    { type: 'number' },
  ),
  part('tableSteps', 'table', 'steps'),
];
const TABLES = [
  {
    id: 's',
    name: 'Log',
    columns: [
      { id: 'l0', title: 'Code' },
      { id: 'l1', title: 'Points', type: 'number' as const },
    ],
  },
];

const TEXTS: Record<string, readonly string[]> = {
  first: ['Amara', 'Zoë', '', 'محمد'],
  last: ['Okonjo', 'Łukasz', ''],
  class: ['8A', '8B', ''],
  essay: ['', '3', '12.5', '19', '20', 'ex', 'missing', 'nonsense', '-2'],
  test: ['', '5', '14', '20', 'abs'],
  came: ['', '2', '2026-03-02', 'soon'],
  q1: ['', 'arch', 'Arch.', 'beam'],
  h1: ['', '0', '3', '7'],
  mon: ['', '/', 'l', 'e', '?'],
  tue: ['', '/', 'u', 'l'],
  they: ['', 'she/her', 'they/them', 'dragon'],
  mark: ['', '55', 'see me'],
  rank: ['', '1'],
  remark: ['', 'Well done.'],
};
const cells = Object.keys(TEXTS);

const entryOf = fc.record(
  Object.fromEntries(given.map(({ id }) => [id, fc.constantFrom(...(TEXTS[id] ?? ['']))])),
) as unknown as fc.Arbitrary<Record<string, string>>;

type Change = (roll: Roll) => Roll;
const onEntry = (roll: Roll, at: number, of: (entry: Entry) => Entry): Roll => ({
  ...roll,
  entries: roll.entries.map((entry, n) => (n === at % roll.entries.length ? of(entry) : entry)),
});
const onColumn = (roll: Roll, id: string, of: (column: Column) => Column): Roll => ({
  ...roll,
  columns: roll.columns.map((column) => (column.id === id ? of(column) : column)),
});
const place = fc.nat({ max: 20 });
const change: fc.Arbitrary<Change> = fc.oneof(
  {
    weight: 6,
    arbitrary: fc.tuple(place, fc.constantFrom(...cells), fc.nat({ max: 20 })).map(
      ([at, id, n]): Change =>
        (roll) =>
          onEntry(roll, at, (entry) => {
            const text = TEXTS[id]![n % TEXTS[id]!.length]!;
            const byHand = roll.columns.find((column) => column.id === id)?.worked;
            return {
              ...entry,
              values: { ...entry.values, [id]: text },
              ...(byHand ? { mends: { ...entry.mends, [id]: { from: '', at: '' } } as never } : {}),
            };
          }),
    ),
  },
  place.map(
    (at): Change =>
      (roll) =>
        onEntry(roll, at, ({ leftOut, ...entry }) =>
          leftOut === undefined ? { ...entry, leftOut: 'moved' } : entry,
        ),
  ),
  place.map(
    (at): Change =>
      (roll) =>
        onEntry(roll, at, (entry) => ({
          ...entry,
          tables: {
            s: [
              ['/', '4'],
              ['u', String(at)],
            ],
          },
        })),
  ),
  fc.constantFrom('class', 'mark', 'rank', 'first', 'q1').map(
    (id): Change =>
      (roll) =>
        onColumn(roll, id, (column) => ({ ...column, title: `${column.title}’` })),
  ),
  fc.constantFrom('given name', 'surname', 'name').map(
    (role): Change =>
      (roll) =>
        onColumn(roll, 'last', (column) => ({ ...column, role: role as never })),
  ),
  fc.constantFrom('first', 'class').map(
    (id): Change =>
      (roll) =>
        onColumn(roll, id, ({ role: _, ...column }) => column),
  ),
  fc.constant<Change>((roll) =>
    onColumn(roll, 'essay', (column) => ({
      ...column,
      format: { decimal: column.format?.decimal === ',' ? '.' : ',' },
    })),
  ),
  fc.constantFrom('essay', 'came', 'h1').map(
    (id): Change =>
      (roll) =>
        onColumn(roll, id, (column) => ({ ...column, type: column.type === 'number' ? 'text' : 'number' })),
  ),
  fc.constantFrom<string[]>(['essay'], ['test', 'essay']).map(
    (pieces): Change =>
      (roll) =>
        onColumn(roll, 'mark', () => scheme('mark', pieces)),
  ),
  fc.constantFrom('shares', 'thresholds').map(
    (basis): Change =>
      (roll) =>
        onColumn(roll, 'byMark', () => band('byMark', 'mark', basis)),
  ),
  fc.constant<Change>((roll) =>
    onColumn(roll, 'remark', () =>
      remark('remark', 'mark', {
        bank: [{ id: 'n', parts: [{ word: 'name' }, { text: '!' }], from: null, to: null }],
      }),
    ),
  ),
  fc
    .constantFrom('came', 'rank', 'bonus', 'h1')
    .map((id): Change => (roll) => ({ ...roll, columns: roll.columns.filter((column) => column.id !== id) })),
  fc.constant<Change>((roll) => ({ ...roll, columns: [...roll.columns].reverse() })),
  fc.constant<Change>((roll) => ({
    ...roll,
    entries: roll.entries.slice(1).concat(roll.entries.slice(0, 1)),
  })),
  fc.constant<Change>((roll) =>
    roll.entries.length > 2 ? { ...roll, entries: roll.entries.slice(1) } : roll,
  ),
);

/** All that marks say: cells, steps and what is worth a look. */
function said(marks: Marks): unknown {
  const { roll } = marks;
  return {
    texts: marks.withWorked().entries.map(({ worked: texts }) => texts),
    steps: marks.columnIds.map((id) => [
      id,
      roll.entries.map((entry) => {
        const how = marks.explain(id, entry.id);
        return [how?.problem, ...(how?.steps ?? []).map(stepText)];
      }),
    ]),
    notices: marks
      .notices()
      .map(({ code, columnId, places, parameters }) => [code, columnId, places, parameters]),
  };
}

test('whatever changes, all columns are what they would be from scratch, with their steps and findings', () => {
  fc.assert(
    fc.property(
      fc.array(entryOf, { minLength: 2, maxLength: 6 }),
      fc.array(change, { minLength: 1, maxLength: 6 }),
      fc.boolean(),
      (rows, changes, looked) => {
        let roll: Roll = {
          columns: [...given, ...columns],
          entries: rows.map((values, n) => ({ id: `e${n}`, position: n, values })),
        };
        const marks = new Marks(roll, TABLES, '2026-11-25');
        for (const one of changes) {
          if (looked) said(marks);
          const next = one(roll);
          const old = new Marks(roll, TABLES, '2026-11-25');
          const told = marks.update(next);
          roll = next;
          const fresh = new Marks(roll, TABLES, '2026-11-25');
          for (const id of fresh.columnIds)
            roll.entries.forEach((entry, at) => {
              if (!sameCell(fresh.cell(id, at), marks.cell(id, at)))
                throw new Error(
                  `${id} of ${entry.id}: ${JSON.stringify([marks.cell(id, at), fresh.cell(id, at)], (_, value: unknown) => (typeof value === 'bigint' ? String(value) : value))}`,
                );
              // What changed is told, so that the table shows it.
              const was = old.roll.entries[at]?.id === entry.id ? old.cell(id, at) : undefined;
              if (was && old.columnIds.includes(id) && !sameCell(was, fresh.cell(id, at)))
                expect(told.get(id) ?? []).toContain(at);
            });
          expect(said(marks)).toEqual(said(fresh));
        }
      },
    ),
    { numRuns: 120 },
  );
}, 120_000);
