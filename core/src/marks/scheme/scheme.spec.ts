import fc from 'fast-check';
import { MarkScheme, PLAIN_STATES, type PieceGroup } from '../../column/index.js';
import { bestKept, FastScheme, MarkReader, plainRatio, ratio, scoreScheme } from '../index.js';
import { meanOf } from './best-kept.js';
import { ONE, ZERO, type Ratio } from '../../ratio/index.js';

interface PieceSketch {
  outOf?: string;
  weight?: string;
  extra?: boolean;
  late?: boolean;
}
const group = (weight: string, pieces: PieceSketch[], more: Partial<PieceGroup> = {}): PieceGroup => ({
  id: `g${weight}${pieces.length}`,
  name: 'Group',
  weight,
  weigh: 'points',
  drop: 0,
  keep: null,
  cap: null,
  pieces: pieces.map(({ outOf = '100', weight: own = '1', extra = false, late }, n) => ({
    id: `p${n}`,
    columnId: `c${n}`,
    outOf,
    weight: own,
    extra,
    ...(late ? { lateColumnId: 'late' } : {}),
  })),
  ...more,
});
const scheme = (groups: PieceGroup[], more: Partial<MarkScheme> = {}): MarkScheme =>
  MarkScheme.parse({ kind: 'scheme', groups, weigh: 'weights', states: PLAIN_STATES, ...more });
const reader = (of: MarkScheme): MarkReader => new MarkReader(of.states);
function score(of: MarkScheme, cells: string[][], fill: Ratio | null = null, daysLate = 0) {
  const read = reader(of);
  return scoreScheme(
    of,
    cells.map((row) => row.map((text) => ({ mark: read.mark(text), daysLate }))),
    fill,
  );
}
const mark = (of: MarkScheme, cells: string[][], daysLate = 0): string | null => {
  const result = score(of, cells, null, daysLate).mark;
  return result && plainRatio(result, 4);
};

describe('what stands in a cell', () => {
  const read = new MarkReader(PLAIN_STATES);
  test.each([
    ['17', 'points'],
    ['17.5', 'points'],
    ['07', 'points'],
    ['0', 'points'],
    ['85 %', 'share'],
    ['17/20', 'share'],
    ['', 'unmarked'],
    ['  ', 'unmarked'],
    ['…', 'unmarked'],
    ['Missing', 'missing'],
    ['EX', 'excused'],
    ['abs', 'absent'],
    ['good', 'wrong'],
    ['17/0', 'wrong'],
    ['1/2/3', 'wrong'],
  ])('“%s” is %s', (text, kind) => expect(read.mark(text).kind).toBe(kind));
  test('the decimal sign is the column’s', () => {
    expect(read.mark('17,5', ',')).toMatchObject({ kind: 'points', written: '17,5' });
    expect(read.mark('17,5', '.').kind).toBe('wrong');
  });
});

// Worked by hand. Policies are common practice; no published source.
describe('one group, by hand', () => {
  test('by points: (16 + 45) of (20 + 50) is 87.1429 %', () => {
    expect(mark(scheme([group('100', [{ outOf: '20' }, { outOf: '50' }])]), [['16', '45']])).toBe('≈87.1429');
  });
  test('all the same: the mean of 80 % and 90 % is 85 %', () => {
    const one = scheme([group('100', [{ outOf: '20' }, { outOf: '50' }], { weigh: 'equal' })]);
    expect(mark(one, [['16', '45']])).toBe('85');
  });
  test('by weights 1 and 3: (80 + 3 × 90) / 4 is 87.5 %', () => {
    const one = scheme([group('100', [{ outOf: '20' }, { outOf: '50', weight: '3' }], { weigh: 'weights' })]);
    expect(mark(one, [['16', '45']])).toBe('87.5');
  });
  test('three thirds are a whole: 100 % reaches a threshold of 100', () => {
    const one = scheme([group('100', [{ outOf: '3' }, { outOf: '7' }, { outOf: '9' }], { weigh: 'equal' })]);
    expect(score(one, [['3', '7', '9']]).mark!.equals(100)).toBe(true);
  });
  test('a share is a share of what there is', () => {
    expect(mark(scheme([group('100', [{ outOf: '40' }])]), [['17/20']])).toBe('85');
  });
});

describe('cells without a mark', () => {
  const three = (states = PLAIN_STATES) =>
    scheme([group('100', [{}, {}, {}], { weigh: 'equal' })], { states });
  test.each([
    // 0: it was marked, and it is nothing.
    ['0', '46.6667'],
    // missing counts as 0 under the plain policy.
    ['missing', '46.6667'],
    // excused, absent and not yet marked leave the mean of 60 and 80.
    ['excused', '70'],
    ['absent', '70'],
    ['', '70'],
  ])('“%s” beside 60 and 80 makes %s', (text, expected) => {
    expect(mark(three(), [['60', '80', text]])?.replace('≈', '')).toBe(expected);
  });
  test('a policy of 40 percent for missing work: (60 + 80 + 40) / 3', () => {
    const states = {
      ...PLAIN_STATES,
      missing: { ...PLAIN_STATES.missing, as: 'share' as const, share: '40' },
    };
    expect(mark(three(states), [['60', '80', 'missing']])).toBe('60');
  });
  test('nothing marked is nothing, not zero', () => {
    expect(mark(three(), [['', '', '']])).toBeNull();
    expect(mark(three(), [['0', '', '']])).toBe('0');
  });
  test('a text counts as not marked yet', () => expect(mark(three(), [['60', '80', 'good']])).toBe('70'));
  test('what is still open, and where it can end: one of three open, 60 and 80 marked', () => {
    expect(plainRatio(score(three(), [['60', '80', '']]).open)).toBe('≈33.3333');
    expect(plainRatio(score(three(), [['60', '80', '']], ZERO).mark!)).toBe('≈46.6667');
    expect(plainRatio(score(three(), [['60', '80', '']], ONE).mark!)).toBe('80');
  });
});

describe('dropping, keeping, extra, caps, lateness', () => {
  test('drop the lowest: 71, 64, 38 leave 67.5', () => {
    expect(
      mark(scheme([group('100', [{}, {}, {}], { weigh: 'equal', drop: 1 })]), [['71', '64', '38']]),
    ).toBe('67.5');
  });
  test('keep the best two of four', () => {
    const one = scheme([group('100', [{}, {}, {}, {}], { weigh: 'equal', keep: 2 })]);
    expect(mark(one, [['40', '90', '70', '80']])).toBe('85');
  });
  test('where all are dropped the group counts nothing, and its weight passes on', () => {
    const one = scheme([group('50', [{}], { drop: 1 }), group('50', [{}])]);
    expect(mark(one, [['20'], ['80']])).toBe('80');
  });
  test('of pieces that weigh differently the one is dropped that counts against the learner most', () => {
    // 50 % of 10 points or 55 % of 100 beside 90 % of 100: without the first 145/200, without the second 95/110.
    const one = scheme([group('100', [{ outOf: '10' }, {}, {}], { drop: 1 })]);
    expect(mark(one, [['5', '55', '90']])).toBe('≈86.3636');
  });
  test('extra work raises the mark and never lowers it: 80 of 100 and 5 extra of 10', () => {
    const one = scheme([group('100', [{}, { outOf: '10', extra: true }])]);
    expect(mark(one, [['80', '5']])).toBe('85');
    expect(mark(one, [['80', '']])).toBe('80');
    expect(mark(one, [['80', '0']])).toBe('80');
  });
  test('caps cut a group and the whole', () => {
    const one = scheme([group('50', [{}, { outOf: '20', extra: true }], { cap: '100' }), group('50', [{}])]);
    expect(mark(one, [['95', '15'], ['90']])).toBe('95');
    expect(mark({ ...one, cap: '92' }, [['95', '15'], ['90']])).toBe('92');
  });
  test.each([
    // 10 % of what there is a day, one day of grace, floor 40: 80 less 20.
    ['out of', '80', 3, '60'],
    ['out of', '80', 1, '80'],
    ['out of', '80', 9, '40'],
    // 10 % of what was got: 80 less 16.
    ['mark', '80', 3, '64'],
    // Below the floor already: lateness takes nothing.
    ['out of', '35', 5, '35'],
  ] as const)('late, percent of the %s: %s and %i days make %s', (of, got, days, expected) => {
    const one = scheme([group('100', [{ late: true }])], {
      late: { perDay: '10', of, grace: 1, floor: '40' },
    });
    expect(mark(one, [[got]], days)).toBe(expected);
  });
  test('out of zero does not count', () => {
    expect(mark(scheme([group('100', [{ outOf: '0' }, {}])]), [['5', '70']])).toBe('70');
  });
});

describe('extra work, by hand', () => {
  const extra = (outOf: string, weight?: string): PieceSketch => ({
    outOf,
    extra: true,
    ...(weight ? { weight } : {}),
  });
  test('a group of extras only adds its part of its weight: 80 and 8 of 10 extra at 5', () => {
    expect(mark(scheme([group('100', [{}]), group('5', [extra('10')])]), [['80'], ['8']])).toBe('84');
    // Two extras share what the group can add, whether both are done or not.
    const two = scheme([group('100', [{}]), group('5', [extra('10'), extra('10')])]);
    expect(mark(two, [['80'], ['8', '']])).toBe('82');
    expect(mark(two, [['80'], ['8', '0']])).toBe('82');
    expect(mark(two, [['80'], ['8', 'ex']])).toBe('82');
  });
  test('by points a group of extras only adds its points: 80 of 100 and 8', () => {
    const one = scheme([group('1', [{}]), group('1', [extra('10')])], { weigh: 'points' });
    expect(mark(one, [['80'], ['8']])).toBe('88');
  });
  test('extras count where the other pieces of their group are open, dropped or excused', () => {
    // The second group weighs 20 of 100 points: 5 extra are 5 % of 20.
    const open = scheme([group('80', [{}]), group('20', [{}, extra('10')])]);
    for (const other of ['', 'ex', 'abs']) expect(mark(open, [['80'], [other, '5']])).toBe('81.25');
    const dropped = scheme([group('80', [{}]), group('20', [{}, extra('10')], { drop: 1 })]);
    expect(mark(dropped, [['80'], ['60', '5']])).toBe('81.25');
    // Where nothing is marked at all there is nothing to add to.
    expect(mark(open, [[''], ['', '5']])).toBeNull();
  });
  test('a cap holds for what is added too', () => {
    const one = scheme([group('100', [{}]), group('5', [extra('10')], { cap: '50' })]);
    expect(mark(one, [['80'], ['8']])).toBe('82.5');
  });
  test('what is dropped is what would be without the extras', () => {
    // 12 of 20 and 60 of 100, and 30 extra: either may go, the extra must not decide. Of two alike the later one is kept.
    const one = scheme([group('100', [{ outOf: '20' }, {}, extra('50')], { drop: 1 })]);
    const kept = (cells: string[]) => score(one, [cells]).groups[0]!.pieces.map(({ dropped }) => dropped);
    expect(kept(['12', '60', '30'])).toEqual(kept(['12', '60', '']));
    const two = scheme([group('100', [{ outOf: '10' }, { outOf: '90' }, extra('50')], { drop: 1 })]);
    expect(score(two, [['7', '72', '50']]).groups[0]!.pieces[0]!.dropped).toBe(true);
  });
  test.each(['missing', 'ex', 'abs', '', 'good', '-5', '-20%'])(
    '“%s” for an extra adds nothing and takes nothing',
    (cell) => {
      const states = {
        ...PLAIN_STATES,
        missing: { ...PLAIN_STATES.missing, as: 'share' as const, share: '50' },
      };
      const one = scheme([group('100', [{}, extra('10')])], { states });
      expect(mark(one, [['80', cell]])).toBe('80');
    },
  );
  test('no extra ever lowers the mark, whatever stands beside it', () => {
    const cell = fc.constantFrom('', 'missing', 'ex', 'abs', '0', '3', '10', '-4', '120%', 'x');
    fc.assert(
      fc.property(
        sketch,
        fc.array(fc.tuple(cell, fc.constantFrom('10', '40')), { minLength: 1, maxLength: 4 }),
        (from, extras) => {
          const { of, cells } = built(from);
          const with_ = {
            ...of,
            groups: of.groups.map((one, g) => {
              const [, outOf] = extras[g] ?? [];
              const more = outOf ? [{ ...one.pieces[0]!, id: 'extra', outOf, extra: true }] : [];
              return { ...one, pieces: [...one.pieces, ...more] };
            }),
          };
          const before = score(of, cells).mark;
          const after = score(
            with_,
            cells.map((row, g) => (extras[g] ? [...row, extras[g][0]] : row)),
          ).mark;
          if (before === null) expect(after).toBeNull();
          else expect(after!.compare(before)).toBeGreaterThanOrEqual(0);
        },
      ),
      { numRuns: 500 },
    );
  });
});

test('a piece of weight 0 neither takes the place of a kept one nor is dropped for another', () => {
  const of = (more: Partial<PieceGroup>) =>
    scheme([
      group('100', [{ weight: '0' }, { weight: '2' }, { weight: '2' }], { weigh: 'weights', ...more }),
    ]);
  expect(mark(of({ keep: 1 }), [['100', '50', '70']])).toBe('70');
  expect(mark(of({ keep: 1 }), [['100', '50', '']])).toBe('50');
  expect(mark(of({ drop: 1 }), [['10', '50', '70']])).toBe('70');
  expect(
    score(of({ drop: 1 }), [['10', '50', '70']]).groups[0]!.pieces.map(({ dropped }) => dropped),
  ).toEqual([false, true, false]);
});

test('by points the whole mark is highest, so a full piece of few points may go rather than a weighty one', () => {
  // Beside 50 of 100: with 45 of 50 it is 95 of 150, with 10 of 10 only 60 of 110.
  const of = scheme([group('1', [{}]), group('1', [{ outOf: '10' }, { outOf: '50' }], { drop: 1 })], {
    weigh: 'points',
  });
  expect(mark(of, [['50'], ['10', '45']])).toBe('≈63.3333');
  // With weights the group has a mark of its own, and that is highest.
  expect(mark({ ...of, weigh: 'weights' }, [['50'], ['10', '45']])).toBe('75');
});

describe('groups together, by hand', () => {
  const groups = [group('40', [{}, {}], { weigh: 'equal' }), group('60', [{}])];
  test('40 % of 70 and 60 % of 90 make 82', () => {
    expect(mark(scheme(groups), [['60', '80'], ['90']])).toBe('82');
  });
  test('weights that add up to 50 count in proportion', () => {
    const half = [group('20', [{}, {}], { weigh: 'equal' }), group('30', [{}])];
    expect(mark(scheme(half), [['60', '80'], ['90']])).toBe('82');
  });
  test('by points all pieces count alike: 230 of 300', () => {
    expect(mark(scheme(groups, { weigh: 'points' }), [['60', '80'], ['90']])).toBe('≈76.6667');
  });
  test('a group without marks passes its weight on', () => {
    expect(mark(scheme(groups), [['60', '80'], ['']])).toBe('70');
  });
});

test('the best kept pieces are those of a search through all sets', () => {
  const share = fc.integer({ min: 0, max: 20 }).map((n) => ratio(String(n)).div(20));
  const weight = fc.integer({ min: 1, max: 9 }).map((n) => ratio(String(n)));
  fc.assert(
    fc.property(
      fc.array(fc.record({ share, weight }), { minLength: 1, maxLength: 7 }),
      fc.integer({ min: 1, max: 7 }),
      (pieces, count) => {
        const size = Math.min(count, pieces.length);
        let best = ratio('0');
        for (let set = 0; set < 1 << pieces.length; set++) {
          const chosen = pieces.filter((_, n) => set & (1 << n));
          const mean = chosen.length === size ? meanOf(chosen) : null;
          if (mean && mean.compare(best) > 0) best = mean;
        }
        const kept = bestKept([{ pieces, count }])[0]!.map((n) => pieces[n]!);
        expect(kept).toHaveLength(size);
        expect(meanOf(kept)!.equals(best)).toBe(true);
      },
    ),
    { numRuns: 300 },
  );
});

const sketch = fc.record({
  groups: fc.array(
    fc.record({
      weight: fc.constantFrom('10', '33.3', '40', '0', '100'),
      weigh: fc.constantFrom('points' as const, 'equal' as const, 'weights' as const),
      drop: fc.integer({ min: 0, max: 2 }),
      keep: fc.constantFrom(null, 1, 3),
      pieces: fc.array(
        fc.record({
          outOf: fc.constantFrom('10', '20', '25', '37.5', '60', '100'),
          weight: fc.constantFrom('1', '2', '0.5'),
          cell: fc.constantFrom(
            '',
            'missing',
            'ex',
            '7',
            '7.25',
            '0',
            '10',
            '3.3333',
            '18',
            'nonsense',
            '17/20',
            '07',
            ' 8 ',
            '5.',
            '.5',
            '-1',
            '-0.0001',
            '+3',
            '9.5000',
            '7.12345',
            '1,5',
            '40 %',
            '12345678901',
          ),
        }),
        { minLength: 1, maxLength: 6 },
      ),
    }),
    { minLength: 1, maxLength: 4 },
  ),
  weigh: fc.constantFrom('weights' as const, 'points' as const),
});
const built = (from: typeof sketch extends fc.Arbitrary<infer T> ? T : never) => ({
  of: scheme(
    from.groups.map(({ weight, pieces, ...more }) => group(weight, pieces, more)),
    { weigh: from.weigh },
  ),
  cells: from.groups.map(({ pieces }) => pieces.map(({ cell }) => cell)),
});

test('the fast way gives what the exact way gives', () => {
  let covered = 0;
  fc.assert(
    fc.property(sketch, (from) => {
      const { of, cells } = built(from);
      const read = reader(of);
      const fast = FastScheme.of(of)?.mark(cells.map((row) => row.map((text) => read.quick(text, '.'))));
      if (fast === undefined) return;
      covered++;
      const exact = score(of, cells).mark;
      if (exact === null || fast === null) expect(fast).toBe(exact);
      else expect(fast.equals(exact)).toBe(true);
    }),
    { numRuns: 600 },
  );
  expect(covered).toBeGreaterThan(40);
});

test('the quick way reads points as the exact way does, whichever the decimal sign and the words', () => {
  const cell = fc.oneof(
    fc.stringMatching(/^[+-]?[0-9]{0,6}([.,][0-9]{0,6})?$/),
    fc.constantFrom('', ' 7', '7e1', '7/10', '12%', 'absent', '0', '1.5', '²', '٣'),
  );
  const words = { ...PLAIN_STATES, missing: { ...PLAIN_STATES.missing, words: ['0', '1.5'] } };
  fc.assert(
    fc.property(cell, fc.constantFrom('.' as const, ',' as const), fc.boolean(), (text, decimal, numbers) => {
      const read = new MarkReader(numbers ? words : PLAIN_STATES);
      const quick = read.quick(text, decimal);
      const mark = read.mark(text, decimal);
      expect(read.quick(`n:${text}`, decimal, 2)).toBe(quick);
      if (mark.kind === 'points') expect(quick).toBe(mark.scaled >= 0 ? mark.scaled : NaN);
      else if (mark.kind === 'share') expect(quick).toBeNaN();
      else if (mark.kind === 'wrong') expect(quick).toBe(-1);
      else expect(quick).toBe((numbers ? words : PLAIN_STATES)[mark.kind].as === 'zero' ? 0 : -1);
    }),
    { numRuns: 2000 },
  );
});

test('weights that whole numbers do not hold give the exact mark too', () => {
  const wide = scheme(
    ['0.0001', '99.9997', '33.3333'].map((weight, n) =>
      group(
        weight,
        ['7', '11', '13', '17', '19', '23'].map((outOf) => ({
          outOf: String(Number(outOf) + n * 24),
          weight: '1',
        })),
        { weigh: 'equal' },
      ),
    ),
    { weigh: 'weights' },
  );
  const cells = [1, 2, 3].map((g) => [1, 2, 3, 4, 5, 6].map((p) => String(g + p / 8)));
  const read = reader(wide);
  const fast = FastScheme.of(wide)?.mark(cells.map((row) => row.map((text) => read.quick(text, '.'))));
  expect(fast!.equals(score(wide, cells).mark!)).toBe(true);
});

test('whatever open pieces come out at, the mark ends within the range', () => {
  fc.assert(
    fc.property(
      sketch,
      fc.array(fc.integer({ min: 0, max: 100 }), { minLength: 24, maxLength: 24 }),
      (from, outcomes) => {
        const { of, cells } = built(from);
        let n = 0;
        const read = reader(of);
        const open = (text: string): boolean => ['unmarked', 'wrong'].includes(read.mark(text).kind);
        const filled = cells.map((row) => row.map((text) => (open(text) ? `${outcomes[n++]}%` : text)));
        const final = score(of, filled).mark;
        const [low, high] = [score(of, cells, ZERO).mark, score(of, cells, ONE).mark];
        if (final === null) return;
        expect(low!.compare(final)).toBeLessThanOrEqual(0);
        expect(high!.compare(final)).toBeGreaterThanOrEqual(0);
      },
    ),
    { numRuns: 400 },
  );
});
