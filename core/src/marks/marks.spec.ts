import fc from 'fast-check';
import { marksFindings } from '../preflight/index.js';
import { applyPatch, patchOf, type Roll, type WantedChange } from '../roll/index.js';
import { type Column, PLAIN_STATES, Worked, type MarkScheme } from '../column/index.js';
import {
  beginWorked,
  copyScheme,
  followTitle,
  guessOutOf,
  Marks,
  readFormula,
  schemeCopies,
  stepText,
} from './index.js';

let ids = 0;
const newId = (): string => `new${++ids}`;
const TODAY = '2026-11-23';

const given: Column[] = [
  { id: 'name', title: 'Name', role: 'name' },
  { id: 'class', title: 'Class' },
  { id: 'essay', title: 'Essay (20)', type: 'number' },
  { id: 'test', title: 'Test', type: 'number' },
  { id: 'before', title: 'Autumn', type: 'number' },
  { id: 'pronouns', title: 'Pronouns' },
];
const worked = (id: string, title: string, from: object, more: Partial<Column> = {}): Column => ({
  id,
  title,
  worked: Worked.parse(from),
  ...more,
});
const states = {
  missing: { as: 'zero', words: ['missing'] },
  excused: { as: 'skip', words: ['ex'] },
  absent: { as: 'open', words: ['abs'] },
  unmarked: { as: 'open', words: [] },
};
const scheme = worked(
  'mark',
  'Mark',
  {
    kind: 'scheme',
    weigh: 'weights',
    states,
    groups: [
      {
        id: 'w',
        name: 'Writing',
        weight: '40',
        weigh: 'points',
        pieces: [{ id: 'p', columnId: 'essay', outOf: '20' }],
      },
      {
        id: 't',
        name: 'Tests',
        weight: '60',
        weigh: 'points',
        pieces: [{ id: 'q', columnId: 'test', outOf: '50' }],
      },
    ],
  },
  { type: 'number' },
);
const band = worked('band', 'Level', {
  kind: 'band',
  of: 'mark',
  basis: 'thresholds',
  bands: [
    { id: 'a', label: 'Secure', from: '70' },
    { id: 'b', label: 'Developing', from: null },
  ],
  before: null,
  near: '1',
  give: 'label',
});
const cohort = (id: string, measure: string, more: object = {}): Column =>
  worked(id, id, { kind: 'cohort', of: 'mark', measure, ...more }, { type: 'number' });
const formula = (
  id: string,
  written: string,
  columns: readonly Column[],
  rounding: object | null = null,
): Column => {
  const read = readFormula(written, columns);
  if (!read.ok) throw new Error(read.problem.message);
  return worked(id, id, { kind: 'expression', formula: read.value, rounding });
};

const messageOf = (marks: Marks, code: string): string =>
  marksFindings(marks).find((finding) => finding.code === code)?.message ?? '';

const people: [string, string, string, string, string, string][] = [
  ['Amara', '8A', '16', '40', '70', 'she/her'],
  ['Łukasz', '8A', '16', '40', '', 'he/him'],
  ['محمد', '8B', '20', '', '90', ''],
  ['Zoë', '8B', 'ex', '25', '55', 'they/them'],
  ['Kwabena', '8B', '', '', '60', 'he/him'],
];
const roll = (columns: Column[], rows = people): Roll => ({
  columns: [...given, ...columns],
  entries: rows.map(([name, className, essay, test, before, pronouns], n) => ({
    id: `e${n}`,
    position: n,
    values: { name, class: className, essay, test, before, pronouns },
  })),
});
const marksOf = (columns: Column[], rows = people): Marks => new Marks(roll(columns, rows), [], TODAY);
const steps = (marks: Marks, columnId: string, at: number): string[] =>
  marks.explain(columnId, `e${at}`)!.steps.map(stepText);

describe('a chain of columns', () => {
  const marks = marksOf([
    cohort('rank', 'rank', { within: ['class'] }),
    band,
    scheme,
    cohort('mean', 'mean', { least: 3, fewer: 'few' }),
    cohort('change', 'change', { earlier: 'before' }),
  ]);
  test('is worked out whatever the order of the columns', () => {
    expect(marks.texts('mark')).toEqual(['80.0', '80.0', '100.0', '50.0', '']);
    expect(marks.texts('band')).toEqual(['Secure', 'Secure', 'Secure', 'Developing', '']);
    expect(marks.texts('rank')).toEqual(['1', '1', '1', '2', '']);
    expect(marks.texts('mean')).toEqual(['77.5', '77.5', '77.5', '77.5', '77.5']);
    expect(marks.texts('change')).toEqual(['10.0', '', '10.0', '-5.0', '']);
  });
  test('tells its steps in the words of marking', () => {
    expect(steps(marks, 'mark', 0)).toEqual([
      'Writing 40: Essay (20) 16/20 → 80 %',
      'Tests 60: Test 40/50 → 80 %',
      'Together, out of 100: Writing 80 × 40, Tests 80 × 60 → 80',
    ]);
    expect(steps(marks, 'mark', 2)).toEqual([
      'Writing 40: Essay (20) 20/20 → 100 %',
      'Tests 60: Test not marked yet (still open) → nothing yet',
      'Still open: 60 % of the weight → between 40 and 100',
    ]);
    expect(steps(marks, 'mark', 3)[0]).toBe('Writing 40: Essay (20) excused (does not count) → nothing yet');
    expect(steps(marks, 'rank', 3)).toEqual([
      'Rank among 2 learners (8B): Mark 50, 1 above, 0 alike, competition ranking → 2',
    ]);
    expect(steps(marks, 'band', 0)).toEqual(['Mark: 80, Secure from 70 → Secure']);
    expect(marks.explain('mark', 'e4')!.problem).toBe('There is nothing, because nothing is marked yet.');
  });
  test('goes into the entries beside what was given', () => {
    expect(marks.withWorked().entries[0]).toMatchObject({
      values: { name: 'Amara' },
      worked: { mark: '80.0', rank: '1' },
    });
  });
});

test('a cell that is written by hand stands in the place of the worked one, and counts', () => {
  const before = roll([scheme, band, cohort('rank', 'rank')]);
  const marks = new Marks(before, [], TODAY);
  const patched = applyPatch(before, { cells: [{ entryId: 'e3', columnId: 'mark', text: '95' }] });
  if (!patched.ok) throw new Error();
  const changes = marks.update(patched.value.roll);
  expect([...changes.keys()].sort()).toEqual(['band', 'mark', 'rank']);
  expect(marks.texts('mark')[3]).toBe('95');
  expect(marks.texts('band')[3]).toBe('Secure');
  expect(marks.texts('rank')).toEqual(['3', '3', '1', '2', '']);
  expect(marks.explain('mark', 'e3')).toMatchObject({ byHand: true, value: '95' });
});

test('small groups are protected: no mean below three, and the words for it', () => {
  const marks = marksOf([scheme, cohort('mean', 'mean', { within: ['class'], least: 3, fewer: 'too few' })]);
  expect(marks.texts('mean')).toEqual(['too few', 'too few', 'too few', 'too few', 'too few']);
});

test('those who are left out are compared with nobody, and come back', () => {
  const before = roll([scheme, cohort('rank', 'rank')]);
  const marks = new Marks(before, [], TODAY);
  const out = applyPatch(before, { leftOut: [{ entryId: 'e2', reason: 'moved' }] });
  if (!out.ok) throw new Error();
  marks.update(out.value.roll);
  expect(marks.texts('rank')).toEqual(['1', '1', '', '3', '']);
  const back = applyPatch(out.value.roll, out.value.undo);
  if (!back.ok) throw new Error();
  marks.update(back.value.roll);
  expect(marks.texts('rank')).toEqual(['2', '2', '1', '4', '']);
});

describe('circular use', () => {
  const one = worked('one', 'One', {
    kind: 'expression',
    formula: [{ columnId: 'two' }, { text: '+1' }],
    rounding: null,
  });
  const two = worked('two', 'Two', {
    kind: 'expression',
    formula: [{ columnId: 'one' }, { text: '*2' }],
    rounding: null,
  });
  const after = worked('after', 'After', {
    kind: 'expression',
    formula: [{ columnId: 'one' }],
    rounding: null,
  });
  test('is found, named, and does not hang', () => {
    const marks = marksOf([one, two, after]);
    expect(marks.texts('one')).toEqual(['', '', '', '', '']);
    expect(marks.explain('after', 'e0')!.problem).toBe(
      '“One” is worked out from “Two”, and that from “One” again.',
    );
    const own = worked('own', 'Own', { kind: 'expression', formula: [{ columnId: 'own' }], rounding: null });
    expect(marksOf([own]).explain('own', 'e0')!.problem).toBe('“Own” is worked out from itself.');
  });
});

describe('findings', () => {
  const codes = (columns: Column[], rows = people): string[] =>
    marksFindings(marksOf(columns, rows)).map(({ code }) => code);
  const messages = (columns: Column[], rows = people): string =>
    marksFindings(marksOf(columns, rows))
      .map(({ message }) => message)
      .join('\n');
  test('nothing stands against what is in order', () => expect(codes([scheme, band])).toEqual([]));
  test('weights, out of zero, too many points, texts', () => {
    const broken = structuredClone(scheme);
    if (broken.worked?.kind !== 'scheme') throw new Error();
    broken.worked.groups[0]!.weight = '30';
    broken.worked.groups[1]!.pieces[0]!.outOf = '0';
    const rows = people.map((row, n) =>
      n === 0 ? ['Amara', '8A', '21', 'good', '', ''] : row,
    ) as typeof people;
    expect(messages([broken], rows)).toMatch(/add up to 90, not to 100/);
    expect(messages([broken], rows)).toMatch(/“Test” is out of 0/);
    expect(messages([broken], rows)).toMatch(
      /A mark of Amara is outside what there is to get: “Essay \(20\)” is out of 20/,
    );
    expect(messages([broken], rows)).toMatch(
      /meets a text where a mark should be \(Amara\): “good” in “Test”/,
    );
  });
  test('everything dropped, thresholds alike, shares, a cohort of one', () => {
    const dropping = structuredClone(scheme);
    if (dropping.worked?.kind !== 'scheme') throw new Error();
    dropping.worked.groups[0]!.drop = 1;
    const twice = structuredClone(band);
    if (twice.worked?.kind !== 'band') throw new Error();
    twice.worked.bands[1]!.from = '70';
    expect(codes([dropping, twice])).toEqual(['all-dropped', 'threshold-twice', 'below-bands']);
    const shares = structuredClone(band);
    if (shares.worked?.kind !== 'band') throw new Error();
    shares.worked.basis = 'shares';
    expect(codes([scheme, shares, cohort('rank', 'rank', { within: ['name'] })])).toEqual([
      'shares-sum',
      'cohort-of-one',
    ]);
  });
  test('formulas that fail say for whom and why', () => {
    expect(messages([formula('f', '[Essay (20)] * 2', given)])).toBe(
      '“f” cannot be worked out for Zoë: “ex” is no number.',
    );
    expect(
      codes([worked('g', 'g', { kind: 'expression', formula: [{ text: '1 +' }], rounding: null })]),
    ).toEqual(['formula-wrong-in']);
  });
  test('words of a scheme are no wrong cells, and a column that is gone is told', () => {
    const marks = marksOf([
      worked('x', 'X', {
        kind: 'band',
        of: 'nobody',
        basis: 'thresholds',
        bands: [{ id: 'a', label: 'A', from: null }],
        before: null,
        near: null,
        give: 'label',
      }),
    ]);
    expect(marks.explain('x', 'e0')!.problem).toMatch(/no longer there/);
  });
});

describe('attendance', () => {
  const codes = { present: ['/'], late: ['L'], excused: ['E'], unexcused: ['U'], none: ['#'] };
  const rounding = { places: 1, mode: 'half up' };
  const sessions = (give: string, lateIsPresent = true): Column =>
    worked('att', 'Attendance', {
      kind: 'attendance',
      from: { kind: 'sessions', columnIds: ['essay', 'test', 'before', 'pronouns'] },
      codes,
      lateIsPresent,
      give,
      rounding,
    });
  const rows = [
    ['Amara', '8A', '/', '/', 'l', 'u'],
    ['Zoë', '8A', '/', '#', '', 'e'],
    ['Kwabena', '8A', '', '', '', ''],
    ['Noor', '8A', '/', '?', '/', '/'],
  ] as typeof people;
  // Worked by hand. Common practice; no published source.
  test('is counted from a register: 3 of 4 with the late one, 2 of 4 without', () => {
    expect(marksOf([sessions('rate')], rows).texts('att')).toEqual(['75.0', '50.0', '', '100.0']);
    expect(marksOf([sessions('rate', false)], rows).texts('att')[0]).toBe('50.0');
    expect(marksOf([sessions('possible')], rows).texts('att')).toEqual(['4', '2', '', '3']);
    expect(marksOf([sessions('sentence')], rows).texts('att')[0]).toBe(
      'present 2, late 1, unexcused 1 of 4 sessions',
    );
    expect(marksFindings(marksOf([sessions('rate')], rows))[0]!.message).toMatch(/holds “\?” \(Noor\)/);
  });
  test('is counted from a small table and from totals', () => {
    const base = roll([
      worked('att', 'A', {
        kind: 'attendance',
        from: { kind: 'table', sourceId: 's', at: 1 },
        codes,
        lateIsPresent: true,
        give: 'rate',
        rounding,
      }),
      worked('tot', 'T', {
        kind: 'attendance',
        from: { kind: 'totals', possible: 'test', unexcused: 'essay' },
        codes,
        lateIsPresent: true,
        give: 'present',
        rounding,
      }),
    ]);
    const [first, ...rest] = base.entries;
    const marks = new Marks(
      {
        ...base,
        entries: [
          {
            ...first!,
            tables: {
              s: [
                ['Mon', '/'],
                ['Tue', 'U'],
                ['Wed', '/'],
              ],
            },
          },
          ...rest,
        ],
      },
      [{ id: 's', name: 'register.csv', columns: [] }],
      TODAY,
    );
    expect(marks.texts('att')[0]).toBe('66.7');
    expect(marks.texts('tot')[0]).toBe('24');
  });
});

describe('remarks and parts', () => {
  const remark = worked('remark', 'Remark', {
    kind: 'remark',
    of: 'mark',
    bank: [
      {
        id: '1',
        parts: [{ word: 'they' }, { text: ' ' }, { word: 'are' }, { text: ' strong.' }],
        from: '70',
        to: null,
      },
      {
        id: '2',
        parts: [{ word: 'name' }, { text: ' need' }, { word: 's' }, { text: ' practice.' }],
        from: null,
        to: '69.9',
      },
    ],
    nameId: 'name',
    pronounId: 'pronouns',
    room: 15,
  });
  test('each learner gets one that fits, in the right form', () => {
    const marks = marksOf([scheme, remark]);
    expect(marks.texts('remark')).toEqual([
      'She is strong.',
      'He is strong.',
      'محمد is strong.',
      'Zoë needs practice.',
      '',
    ]);
    expect(marksFindings(marks).map(({ code }) => code)).toEqual(['remark-long', 'remark-same']);
  });
  test('parts of a scheme: open, range, group, steps', () => {
    const part = (id: string, what: string, more = {}): Column =>
      worked(id, id, { kind: 'part', of: 'mark', part: what, ...more });
    const marks = marksOf([
      scheme,
      part('open', 'open'),
      part('low', 'lowest'),
      part('high', 'highest'),
      part('group', 'group', { which: 'w' }),
      part('how', 'steps'),
    ]);
    expect(['open', 'low', 'high', 'group'].map((id) => marks.texts(id)[2])).toEqual([
      '60.0',
      '40.0',
      '100.0',
      '100.0',
    ]);
    expect(marks.texts('how')[0]).toContain('Writing 40: Essay (20) 16/20 → 80 %\nTests 60');
  });
});

describe('a column to begin with', () => {
  test('takes marks, and what they are out of', () => {
    const base = roll([]);
    const column = beginWorked('scheme', base, null, newId);
    expect(column.title).toBe('Mark');
    if (column.worked?.kind !== 'scheme') throw new Error();
    expect(column.worked.groups[0]!.pieces.map(({ columnId, outOf }) => [columnId, outOf])).toEqual([
      ['essay', '20'],
      ['test', '40'],
      ['before', '100'],
    ]);
    expect(guessOutOf({ id: 'test', title: 'Test /50' }, base)).toBe('50');
  });
  test('takes one subject after the other where titles begin with them', () => {
    const titles = [
      'English: Essay (30)',
      'English: Speech (20)',
      'Maths – Test 1 (40)',
      'Maths – Test 2 (40)',
      'Art',
    ];
    let now: Roll = {
      columns: [
        { id: 'name', title: 'Name', role: 'name' },
        ...titles.map((title, n): Column => ({ id: `m${n}`, title, type: 'number' })),
      ],
      entries: [
        { id: 'e', position: 0, values: { name: 'Mina', m0: '20', m1: '10', m2: '30', m3: '20', m4: '9' } },
      ],
    };
    const next = (about: string | null): [string, string[]] => {
      const column = beginWorked('scheme', now, about, newId);
      now = { ...now, columns: [...now.columns, column] };
      if (column.worked?.kind !== 'scheme') throw new Error();
      return [column.title, column.worked.groups[0]!.pieces.map(({ columnId }) => columnId)];
    };
    expect(next('m3')).toEqual(['Maths mark', ['m2', 'm3']]);
    // What is left is one subject and a column by itself.
    expect(next(null)).toEqual(['Mark', ['m0', 'm1', 'm4']]);
    now = { ...now, columns: now.columns.filter(({ id }) => id.startsWith('m') || id === 'name') };
    expect(next(null)).toEqual(['English mark', ['m0', 'm1']]);
    expect(next(null)[0]).toBe('Mark');
  });
  test('a scheme is copied for another subject, piece by piece, or over the same columns', () => {
    const titles = [
      'English: Essay (30)',
      'English: Talk',
      'Maths: Essay (40)',
      'Maths: Talk',
      'Maths: Quiz',
      'Art: Pot',
    ];
    const base: Roll = {
      columns: titles.map((title, n): Column => ({ id: `m${n}`, title, type: 'number' })),
      entries: [
        { id: 'e', position: 0, values: { m0: '20', m1: '9', m2: '30', m3: '17', m4: '1', m5: '1' } },
      ],
    };
    const first = beginWorked('scheme', base, 'm0', newId);
    if (first.worked?.kind !== 'scheme') throw new Error();
    const weighed: MarkScheme = {
      ...first.worked,
      groups: first.worked.groups.map((group) => ({ ...group, weigh: 'weights', drop: 1 })),
    };
    expect(schemeCopies(weighed, base)).toEqual([{ subject: 'Maths', pieces: 2 }]);
    const now = { ...base, columns: [...base.columns, { ...first, worked: weighed }] };
    const maths = copyScheme(first, weighed, 'Maths', now, newId);
    expect(maths).toMatchObject({ title: 'Maths mark', type: 'number' });
    expect(maths.worked).toMatchObject({
      groups: [
        {
          name: 'Maths',
          weigh: 'weights',
          drop: 1,
          pieces: [
            { columnId: 'm2', outOf: '40' },
            { columnId: 'm3', outOf: '20' },
          ],
        },
      ],
    });
    const same = copyScheme(first, weighed, null, now, newId);
    expect(same.title).toBe('English mark (copy)');
    expect(same.worked).toMatchObject({ groups: [{ pieces: [{ columnId: 'm0' }, { columnId: 'm1' }] }] });
    expect(same.id).not.toBe(first.id);
  });
  test('keeps a title that was chosen, and follows what it is made from else', () => {
    const base = roll([scheme]);
    const column = beginWorked('cohort', base, 'essay', newId);
    expect(column.title).toBe('Essay (20) rank');
    if (column.worked?.kind !== 'cohort') throw new Error();
    const mean = { ...column.worked, of: 'mark', measure: 'mean' as const };
    expect(followTitle(column, mean, base)).toBe('Mark mean');
    expect(followTitle({ ...column, title: 'Place' }, mean, base)).toBe('Place');
  });
  test('of every kind is a valid definition that can be worked out', () => {
    let base = roll([]);
    for (const kind of [
      'scheme',
      'band',
      'cohort',
      'attendance',
      'key',
      'remark',
      'expression',
      'part',
    ] as const) {
      const column = beginWorked(kind, base, 'mark', newId);
      expect(Worked.safeParse(column.worked).success).toBe(true);
      base = { ...base, columns: [...base.columns, column] };
    }
    const marks = new Marks(base, [], TODAY);
    for (const id of marks.columnIds) expect(marks.texts(id)).toHaveLength(people.length);
  });
});

test('after any changes the columns are what they would be from scratch', () => {
  const columns = [
    scheme,
    band,
    cohort('rank', 'rank', { within: ['class'] }),
    cohort('z', 'z-score'),
    formula('plus', '[Essay (20)] + AVERAGE(ALL([Test]; [Class]))', given, { places: 2, mode: 'half up' }),
    worked('how', 'how', { kind: 'part', of: 'mark', part: 'steps' }),
  ];
  const change = fc.oneof(
    fc.record({
      at: fc.integer({ min: 0, max: 4 }),
      columnId: fc.constantFrom('essay', 'test', 'class', 'mark'),
      text: fc.constantFrom('', '0', '12.5', 'ex', 'missing', 'nonsense', '19', '8A'),
    }),
    fc.record({ at: fc.integer({ min: 0, max: 4 }), out: fc.boolean() }),
    fc.record({ weight: fc.constantFrom('10', '60', '0') }),
  );
  fc.assert(
    fc.property(fc.array(change, { minLength: 1, maxLength: 8 }), (changes) => {
      let now = roll(columns);
      const marks = new Marks(now, [], TODAY);
      for (const one of changes) {
        const wanted: WantedChange =
          'columnId' in one
            ? { cells: [{ entryId: `e${one.at}`, columnId: one.columnId, text: one.text }] }
            : 'out' in one
              ? { leftOut: [{ entryId: `e${one.at}`, reason: one.out ? 'out' : null }] }
              : {
                  columns: now.columns.map((column) =>
                    column.worked?.kind === 'scheme'
                      ? {
                          ...column,
                          worked: {
                            ...column.worked,
                            groups: column.worked.groups.map((group) => ({ ...group, weight: one.weight })),
                          },
                        }
                      : column,
                  ),
                };
        const patched = applyPatch(now, patchOf(wanted, now));
        if (!patched.ok) throw new Error();
        now = patched.value.roll;
        marks.update(now);
      }
      const fresh = new Marks(now, [], TODAY);
      for (const id of fresh.columnIds) expect([id, marks.texts(id)]).toEqual([id, fresh.texts(id)]);
      expect(marksFindings(marks)).toEqual(marksFindings(fresh));
    }),
    { numRuns: 150 },
  );
});

describe('what a mark scheme is made from', () => {
  const late = (type: Column['type'] | undefined, due: boolean): Column[] => [
    { id: 'came', title: 'Came', ...(type ? { type } : {}) },
    worked('mark', 'Mark', {
      kind: 'scheme',
      weigh: 'weights',
      states,
      late: { perDay: '10', of: 'out of', grace: 0, floor: '0' },
      groups: [
        {
          id: 'w',
          name: '',
          weight: '100',
          weigh: 'points',
          pieces: [
            {
              id: 'p',
              columnId: 'essay',
              outOf: '20',
              lateColumnId: 'came',
              ...(due ? { due: '2026-03-02' } : {}),
            },
          ],
        },
      ],
    }),
  ];
  const withCame = (columns: Column[], came: string): Marks => {
    const base = roll(columns, [people[0]!]);
    return new Marks(
      { ...base, entries: base.entries.map((entry) => ({ ...entry, values: { ...entry.values, came } })) },
      [],
      TODAY,
    );
  };
  test.each([
    ['number', '2', '60', []],
    [undefined, '2', '60', []],
    [undefined, '2026-03-04', '60', []],
    ['date', '2026-03-04', '60', []],
    [undefined, '', '80', []],
    [undefined, '2 days', '80', ['late-text']],
    ['yes/no', 'yes', '80', ['late-text']],
  ] as const)('late in a column of type %s: “%s” makes %s', (type, came, expected, codes) => {
    const marks = withCame(late(type, true), came);
    expect(marks.texts('mark')[0]).toMatch(new RegExp(`^${expected}`));
    expect(marks.notices().map(({ code }) => code)).toEqual(codes);
  });
  test('a date without the day it was due is a finding', () => {
    const marks = withCame(late('date', false), '2026-03-04');
    expect(marks.texts('mark')[0]).toMatch(/^80/);
    expect(marksFindings(marks)[0]!.message).toMatch(
      /“Mark” knows when “Essay \(20\)” came \(.*\), but not when it was due/,
    );
  });
  test('an input that is an error is an error, not a mark that is still to come', () => {
    const broken = formula('broken', '1 / 0', given);
    const over = worked('mark', 'Mark', {
      kind: 'scheme',
      weigh: 'weights',
      states,
      groups: [
        {
          id: 'w',
          name: '',
          weight: '100',
          weigh: 'points',
          pieces: [
            { id: 'p', columnId: 'essay', outOf: '20' },
            { id: 'q', columnId: 'broken', outOf: '10' },
          ],
        },
      ],
    });
    const marks = marksOf([broken, over]);
    expect(marks.cell('mark', 0)).toMatchObject({ kind: 'error', code: '#DIV/0!' });
    expect(marks.explain('mark', 'e0')!.problem).toBe('Something is divided by zero.');
    const base = roll([scheme]);
    const [first] = base.entries;
    const held = new Marks(
      {
        ...base,
        entries: [{ ...first!, values: { ...first!.values, essay: '' }, exact: { essay: 'e:#N/A' } }],
      },
      [],
      TODAY,
    );
    expect(held.cell('mark', 0)).toMatchObject({ kind: 'error', code: '#N/A' });
  });
});

describe('worked columns as inputs', () => {
  const remarkOf = (more: object): Column =>
    worked('remark', 'Remark', {
      kind: 'remark',
      of: 'essay',
      bank: [
        {
          id: '1',
          parts: [{ word: 'name' }, { text: ': ' }, { word: 'they' }, { text: ' work' }, { word: 's' }],
          from: null,
          to: null,
        },
      ],
      ...more,
    });
  test('a remark takes its name and pronouns from them', () => {
    const marks = marksOf([
      formula('call', '[Name] & "!"', given),
      formula('pron', 'IF([Pronouns] = "she/her"; "they"; "he")', given),
      remarkOf({ nameId: 'call', pronounId: 'pron' }),
    ]);
    expect(marks.texts('remark').slice(0, 2)).toEqual(['Amara!: they work', 'Łukasz!: he works']);
  });
  test('a key takes its answers and its points by hand from them', () => {
    const key = (mode: string, more = {}): Column =>
      worked('key', 'Key', {
        kind: 'key',
        give: 'points',
        rounding: { places: 1, mode: 'half up' },
        questions: [{ id: 'q', columnId: 'made', points: '4', mode, answers: [{ text: '26' }], ...more }],
      });
    const made = formula('made', '[Essay (20)] + 10', given);
    expect(marksOf([made, key('number')]).texts('key')[0]).toBe('4.0');
    expect(marksOf([made, key('text')]).texts('key')[0]).toBe('4.0');
    const hand = formula('hand', '[Test] / 20', given);
    expect(marksOf([made, hand, key('hand', { handId: 'hand' })]).texts('key')[0]).toBe('2.0');
    expect(marksOf([formula('made', '1 / 0', given), key('text')]).cell('key', 0)).toMatchObject({
      kind: 'error',
    });
  });
  test('points by hand count where the answer is blank', () => {
    const hand = worked('key', 'Key', {
      kind: 'key',
      give: 'points',
      rounding: { places: 0, mode: 'half up' },
      questions: [
        { id: 'q', columnId: 'pronouns', points: '3', mode: 'hand', answers: [], handId: 'before' },
      ],
    });
    const marks = marksOf(
      [hand],
      [
        ['Amara', '8A', '', '', '2', ''],
        ['Zoë', '8A', '', '', '', ''],
      ],
    );
    expect(marks.texts('key')).toEqual(['2', '']);
    expect(marks.explain('key', 'e0')!.problem).toBeNull();
  });
});

describe('bands and remarks over points', () => {
  const quiz: Column[] = [
    { id: 'name', title: 'Name', role: 'name' },
    { id: 'q1', title: 'One?' },
    { id: 'quiz', title: 'Quiz (12)', type: 'number' },
  ];
  const rollCells = (columns: Column[], points: string[]): Roll => ({
    columns: [...quiz, ...columns],
    entries: points.map((value, n) => ({
      id: `e${n}`,
      position: n,
      values: { name: `L${n}`, q1: value, quiz: value },
    })),
  });
  test('with all defaults the best of a quiz out of 12 is at the top, not at the bottom', () => {
    const points = ['12', '11', '9', '6', '3', '0'];
    const base = rollCells([], points);
    const bands = beginWorked('band', base, 'quiz', newId);
    const remarks = beginWorked('remark', base, 'quiz', newId);
    expect(bands.worked).toMatchObject({ outOf: '12' });
    const marks = new Marks(rollCells([bands, remarks], points), [], TODAY);
    // 12 of 12 are 100 %, 11 are 91.7 %, 9 are 75 %, 6 are 50 %, 3 are 25 %.
    const plain = new Marks(
      {
        ...base,
        columns: [...base.columns, { ...bands, worked: { ...bands.worked!, outOf: null } as never }],
        entries: ['100', '91.7', '75', '50', '25', '0'].map((quiz, n) => ({
          id: `e${n}`,
          position: n,
          values: { quiz },
        })),
      },
      [],
      TODAY,
    );
    expect(marks.texts(bands.id)).toEqual(plain.texts(bands.id));
    expect(new Set(marks.texts(bands.id)).size).toBeGreaterThan(2);
    expect(marks.texts(remarks.id)[0]).toMatch(/excellent/);
    expect(marks.texts(remarks.id)[5]).toMatch(/more practice/);
    expect(steps(marks, bands.id, 1)[0]).toBe('Quiz (12): 11 of 12 → ≈91.6667 %');
  });
  test('the maximum is taken from the marking key, and follows it', () => {
    const key = (points: string): Column =>
      worked('key', 'Score', {
        kind: 'key',
        give: 'points',
        rounding: { places: 0, mode: 'half up' },
        questions: [{ id: 'q', columnId: 'q1', points, mode: 'text', answers: [{ text: 'arch' }] }],
      });
    const base = rollCells([key('4')], ['arch']);
    const bands = beginWorked('band', base, 'key', newId);
    expect(bands.worked).toMatchObject({ of: 'key', outOf: 'key' });
    const marks = new Marks({ ...base, columns: [...base.columns, bands] }, [], TODAY);
    const best = marks.texts(bands.id);
    marks.update({ ...base, columns: [...quiz, key('40'), bands] });
    expect(marks.texts(bands.id)).toEqual(best);
  });
  test('points that are looked up as percent are a finding', () => {
    const key = worked('key', 'Score', {
      kind: 'key',
      give: 'points',
      rounding: { places: 0, mode: 'half up' },
      questions: [{ id: 'q', columnId: 'q1', points: '4', mode: 'text', answers: [{ text: 'arch' }] }],
    });
    const level = { ...band, worked: { ...band.worked!, of: 'key' } as never };
    const marks = new Marks(rollCells([key, level], ['arch', 'arch', 'arch', 'arch', 'beam']), [], TODAY);
    expect(marks.notices().map(({ code }) => code)).toEqual(['band-points', 'bands-alike']);
  });
});

describe('what schools argue about is a finding', () => {
  const codes = (marks: Marks): string[] => marks.notices().map(({ code }) => code);
  const simple = (pieces: string[]): Column =>
    worked(
      'mark',
      'Mark',
      {
        kind: 'scheme',
        weigh: 'weights',
        states: PLAIN_STATES,
        groups: [
          {
            id: 'w',
            name: '',
            weight: '100',
            weigh: 'points',
            pieces: pieces.map((columnId) => ({ id: columnId, columnId, outOf: '20' })),
          },
        ],
      },
      { type: 'number' },
    );
  const of = (essays: string[]): typeof people =>
    essays.map((essay, n) => [`L${n}`, n < 3 ? '8A' : '8B', essay, '', '', '']);
  test('letters that may be grades', () => {
    const letters = marksOf([simple(['essay'])], of(['A', 'B', 'C', 'E', 'M']));
    const notice = letters.notices().find(({ code }) => code === 'letter-grades')!;
    expect(notice.places).toEqual([0, 3, 4]);
    expect(messageOf(letters, 'letter-grades')).toMatch(
      /seems to hold letter grades \(B, C\).* reads A, E, M there/,
    );
    expect(codes(marksOf([simple(['essay'])], of(['12', 'A', '13', 'E', '17'])))).not.toContain(
      'letter-grades',
    );
  });
  test('a mark that is shown as a threshold and lies below it; banding as shown', () => {
    // 13.99 of 20 are 69.95 %, shown as 70.0.
    const marks = marksOf([simple(['essay']), band], of(['13.99', '14', '10']));
    expect(marks.texts('mark').slice(0, 2)).toEqual(['70.0', '70.0']);
    expect(marks.texts('band').slice(0, 2)).toEqual(['Developing', 'Secure']);
    const notice = marks.notices().find(({ code }) => code === 'band-shown')!;
    expect(notice.places).toEqual([0]);
    const shown = marksOf(
      [simple(['essay']), { ...band, worked: { ...band.worked!, asShown: true } as never }],
      of(['13.99', '14', '10']),
    );
    expect(shown.texts('band').slice(0, 2)).toEqual(['Secure', 'Secure']);
    expect(codes(shown)).not.toContain('band-shown');
  });
  test('gaps between the ranges of remarks, and ranges that meet', () => {
    const bankOf = (ranges: [string | null, string | null][]): Column =>
      worked('remark', 'Remark', {
        kind: 'remark',
        of: 'mark',
        bank: ranges.map(([from, to], n) => ({ id: `r${n}`, parts: [{ text: 'x' }], from, to })),
      });
    const gap = (ranges: [string | null, string | null][]): string[] =>
      marksFindings(marksOf([simple(['essay']), bankOf(ranges)], of(['13', '14'])))
        .filter(({ code }) => code === 'remark-gap')
        .map(({ message }) => message);
    // Marks are shown with one place.
    expect(
      gap([
        ['50', null],
        [null, '49.9'],
      ]),
    ).toEqual([]);
    expect(
      gap([
        ['50', null],
        [null, '49'],
      ]),
    ).toEqual(['No remark of “Remark” fits a mark between 49 and 50. Let the ranges meet.']);
    expect(
      gap([
        ['70', '80'],
        ['50', '60'],
        ['55', '65'],
        ['90', '100'],
      ]),
    ).toHaveLength(2);
    expect(
      gap([
        [null, null],
        ['90', '100'],
      ]),
    ).toEqual([]);
  });
  test('all alike, and learners without a class', () => {
    const marks = marksOf([simple(['essay']), band], of(['15', '16', '17', '18', '19']));
    expect(codes(marks)).toEqual(['bands-alike']);
    const blank = of(['15', '16', '17']).map((row, n): typeof row =>
      n === 1 ? [row[0], ' ', ...(row.slice(2) as [string, string, string, string])] : row,
    );
    const ranked = marksOf(
      [simple(['essay']), cohort('rank', 'rank', { within: ['class'], least: 2 })],
      blank,
    );
    expect(ranked.notices()).toMatchObject([{ code: 'within-blank', places: [1] }]);
  });
  test('negative points and points above the most', () => {
    const marks = marksOf([simple(['essay'])], of(['-1', '21', '120%', '-5%', '20', '0']));
    expect(marks.notices()).toMatchObject([{ code: 'mark-above', places: [0, 1, 2, 3] }]);
  });
});
