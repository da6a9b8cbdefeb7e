import {
  BandColumn,
  inputsOf,
  MarkingKey,
  MarkScheme,
  markWords,
  PLAIN_STATES,
  Remark,
  Worked,
} from '../index.js';

const rounding = { places: 0, mode: 'half up' as const };
const band = (more: object = {}) => ({
  kind: 'band',
  of: 'mark',
  outOf: null,
  basis: 'thresholds',
  bands: [{ id: 'b1', label: 'A', from: '80' }],
  before: null,
  near: null,
  give: 'label',
  ...more,
});
const question = (more: object = {}) => ({
  id: 'q',
  columnId: 'answer',
  points: '1',
  mode: 'text',
  answers: [{ text: 'x' }],
  ...more,
});
const scheme = (group: object = {}) => ({
  kind: 'scheme',
  weigh: 'weights',
  states: PLAIN_STATES,
  groups: [
    {
      id: 'g',
      name: 'Tests',
      weight: '1',
      weigh: 'points',
      pieces: [
        { id: 'p1', columnId: 'test', outOf: '10', lateColumnId: 'late' },
        { id: 'p2', columnId: 'test', outOf: '10' },
      ],
      ...group,
    },
  ],
});
const attendance = (from: object) => ({ kind: 'attendance', from, give: 'percent', rounding });

test.each<[string, object, string[]]>([
  ['a mark scheme', scheme(), ['test', 'late']],
  ['bands', band({ within: ['class', 'class'] }), ['mark', 'class']],
  [
    'a marking key',
    { kind: 'key', questions: [question({ handId: 'hand' })], give: 'points', rounding },
    ['answer', 'hand'],
  ],
  ['sessions', attendance({ kind: 'sessions', columnIds: ['mon', 'tue'] }), ['mon', 'tue']],
  ['a joined sheet', attendance({ kind: 'table', sourceId: 's', at: 0 }), []],
  [
    'totals',
    attendance({ kind: 'totals', presentHasLate: true, present: 'p', late: 'l', possible: 'all' }),
    ['p', 'l', 'all'],
  ],
  [
    'a formula',
    {
      kind: 'expression',
      formula: [{ columnId: 'a' }, { text: '+' }, { columnId: 'b' }, { columnId: 'a' }],
      rounding: null,
    },
    ['a', 'b'],
  ],
])('%s stands on its columns, each once', (_, given, ids) => {
  expect(inputsOf(given as Worked)).toEqual(ids);
});

test('words that stand for a mark are known of the columns of a scheme alone, in small letters', () => {
  const states = { ...PLAIN_STATES, missing: { as: 'zero' as const, words: ['MISSING'] } };
  const parsed = MarkScheme.parse({ ...scheme(), states });
  const words = markWords([{ worked: parsed }, { worked: Worked.parse(band()) }, {}]);
  expect([...words.keys()]).toEqual(['test']);
  expect(words.get('test')!.has('missing')).toBe(true);
  expect(words.get('test')!.has('excused')).toBe(true);
});

test('two schemes over one column know the words of both', () => {
  const one = MarkScheme.parse({
    ...scheme(),
    states: { ...PLAIN_STATES, absent: { as: 'open', words: ['gone'] } },
  });
  const words = markWords([{ worked: MarkScheme.parse(scheme()) }, { worked: one }]).get('test')!;
  expect([words.has('gone'), words.has('abs')]).toEqual([true, true]);
});

/** What a schema takes at its limit, and not one past it. */
test.each<[string, (n: number) => boolean, number]>([
  [
    'columns within which is compared',
    (n) => BandColumn.safeParse(band({ within: Array(n).fill('c') })).success,
    4,
  ],
  [
    'bands',
    (n) => BandColumn.safeParse(band({ bands: Array(n).fill({ id: 'b', label: 'A', from: '1' }) })).success,
    60,
  ],
  ['learners that a share needs', (n) => BandColumn.safeParse(band({ least: n })).success, 1000],
  ['pieces that are dropped', (n) => MarkScheme.safeParse(scheme({ drop: n })).success, 99],
  ['pieces that are kept', (n) => MarkScheme.safeParse(scheme({ keep: n })).success, 99],
  [
    'groups',
    (n) => MarkScheme.safeParse({ ...scheme(), groups: Array(n).fill(scheme().groups[0]) }).success,
    40,
  ],
  [
    'pieces',
    (n) => MarkScheme.safeParse(scheme({ pieces: Array(n).fill(scheme().groups[0]!.pieces[1]) })).success,
    200,
  ],
  [
    'questions',
    (n) =>
      MarkingKey.safeParse({ kind: 'key', questions: Array(n).fill(question()), give: 'points', rounding })
        .success,
    200,
  ],
  [
    'letters of an answer that is refused',
    (n) =>
      MarkingKey.safeParse({
        kind: 'key',
        questions: [question({ refused: ['x'.repeat(n)] })],
        give: 'points',
        rounding,
      }).success,
    2000,
  ],
  [
    'parts of a remark',
    (n) => Remark.safeParse({ id: 'r', parts: Array(n).fill({ text: 'x' }), from: null, to: null }).success,
    200,
  ],
])('at most so many: %s', (_, takes, most) => {
  expect([takes(most), takes(most + 1)]).toEqual([true, false]);
});
