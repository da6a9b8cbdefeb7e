import { Question } from '../../column/index.js';
import {
  itemStatistics,
  markAnswer,
  nearMisses,
  plainRatio,
  ratio,
  scoreKey,
  VERDICT_SIGNS,
} from '../index.js';
import { lookAgain } from './score-key.js';

const question = (more: Partial<Question>): Question =>
  Question.parse({
    id: 'q',
    columnId: 'c',
    points: '2',
    mode: 'text',
    answers: [{ text: 'keystone' }],
    ...more,
  });
const got = (of: Question, given: string, hand: string | null = null, decimal?: '.' | ','): string => {
  const { points, verdict } = markAnswer(
    of,
    given,
    decimal && { decimal },
    hand === null ? null : ratio(hand),
  );
  return `${points === null ? '–' : plainRatio(points)} ${verdict}`;
};

describe('one of several spellings', () => {
  const spellings = question({
    answers: [{ text: 'colour' }, { text: 'color' }, { text: 'hue', points: '1' }],
  });
  test.each([
    ['colour', '2 right'],
    ['  COLOR ', '2 right'],
    ['còlour', '2 right'],
    ['hue', '1 partly'],
    ['paint', '0 wrong'],
    ['   ', '0 blank'],
  ])('“%s”: %s', (given, expected) => expect(got(spellings, given)).toBe(expected));
  test('capitals and accents matter where it is said', () => {
    const strict = question({ answers: [{ text: 'Zoë' }], capitals: true, accents: true });
    expect([got(strict, 'Zoë'), got(strict, 'zoë'), got(strict, 'Zoe'), got(strict, 'Zoe\u0308')]).toEqual([
      '2 right',
      '0 wrong',
      '0 wrong',
      '2 right',
    ]);
  });
});

describe('numbers with a tolerance', () => {
  const number = question({ mode: 'number', answers: [{ text: '9.81' }], tolerance: '0.05' });
  test.each([
    ['9.81', '2 right'],
    ['9.86', '2 right'],
    ['9.8600001', '0 wrong'],
    ['9,8 m/s²', '2 right'],
    ['9.8 m', '2 right'],
    ['ten', '0 wrong'],
  ])('“%s”: %s', (given, expected) => expect(got(number, given)).toBe(expected));
});

describe('numbers as people write them', () => {
  const number = (...right: string[]): Question =>
    question({ mode: 'number', answers: right.map((text) => ({ text })) });
  test.each([
    // Under a decimal comma `3,141` is 3.141, in the answer and in the key.
    ['3,141', ',', '3.141', '2 right'],
    ['3,141', ',', '3,141', '2 right'],
    ['3.141', ',', '3,141', '0 wrong'],
    ['3141', '.', '3,141', '2 right'],
    // A column that says nothing of its sign leaves both open.
    ['3,141', undefined, '3.141', '2 right'],
    ['3,141', undefined, '3141', '2 right'],
    ['07', undefined, '7', '2 right'],
    ['7', undefined, '07', '2 right'],
    ['-07,5', ',', '-7.5', '2 right'],
    ['7 kg', '.', '7', '2 right'],
    ['seven', '.', '7', '0 wrong'],
  ] as const)('“%s” under %s, where %s is right: %s', (given, decimal, right, expected) =>
    expect(got(number(right), given, null, decimal)).toBe(expected),
  );
  test('what the cell holds counts, not what of it is shown', () => {
    const pi = number('3.14159');
    expect(markAnswer(pi, '3.14', undefined, null, ratio('3.14159')).verdict).toBe('right');
    expect(markAnswer(pi, '3.14', undefined, null).verdict).toBe('wrong');
  });
});

describe('signs and letters that do not matter', () => {
  const of = (right: string, more: Partial<Question> = {}): Question =>
    question({ answers: [{ text: right }], ...more });
  test.each([
    ['keystone', 'keystone.'],
    ['keystone', 'Keystone !'],
    ['It’s the arch', "it's the arch"],
    ["it's the arch", 'its the arch.'],
    ['“arch”', '"arch"'],
    ['twenty-one', 'twenty–one'],
    ['Łódź', 'lodz'],
    ['Straße', 'strasse'],
    ['Ærø', 'aero'],
    ['çedilla', 'cedilla'],
    ['…', '...'],
    ['?', '?'],
  ])('“%s” and “%s” are alike', (right, given) => expect(got(of(right), given)).toBe('2 right'));
  test.each([
    // Where accents matter, letters do; where punctuation matters, the apostrophe and the last sign do.
    ['Łódź', 'lodz', { accents: true }],
    ['Straße', 'strasse', { accents: true }],
    ['It’s', 'its', { punctuation: true }],
    ['Stop!', 'stop', { punctuation: true }],
    ['3.5', '35', {}],
    ['?', '!', {}],
    ['co-op', 'coop', {}],
  ])('“%s” and “%s” are not', (right, given, more) => expect(got(of(right, more), given)).toBe('0 wrong'));
  test('which form of a quote a program made never matters', () =>
    expect(got(of('It’s', { punctuation: true }), "it's")).toBe('2 right'));
});

// Common practice; no published source. Worked by hand: three right options, 2 points.
describe('several options', () => {
  const several = (scoring: Question['scoring']): Question =>
    question({
      mode: 'several',
      points: '3',
      scoring,
      answers: [{ text: 'steel' }, { text: 'wood' }, { text: 'rope' }],
    });
  test.each([
    ['all', 'wood, steel, rope', '3 right'],
    ['all', 'wood, steel', '0 wrong'],
    ['all', 'wood, steel, rope, glass', '0 wrong'],
    ['each', 'wood, steel', '2 partly'],
    ['each', 'wood, glass', '1 partly'],
    ['each less wrong', 'wood, steel, glass', '1 partly'],
    ['each less wrong', 'wood, glass, paper', '0 wrong'],
  ] as const)('%s: “%s” gets %s', (scoring, given, expected) =>
    expect(got(several(scoring), given)).toBe(expected),
  );
});

test('by hand: open until somebody marks it', () => {
  const hand = question({ mode: 'hand', answers: [], points: '4' });
  expect([
    got(hand, 'Because of the arch.'),
    got(hand, 'Because.', '3'),
    got(hand, 'x', '4'),
    got(hand, 'x', '0'),
  ]).toEqual(['– open', '3 partly', '4 right', '0 wrong']);
});

test('the score leaves out what waits, and says what to look at again', () => {
  const questions = [
    question({ id: '1', topic: 'Arches' }),
    question({ id: '2', columnId: 'd', mode: 'hand' }),
    question({ id: '3', columnId: 'e' }),
  ];
  const key = {
    kind: 'key' as const,
    questions,
    give: 'points' as const,
    blankIsWrong: true,
    rounding: { places: 1, mode: 'half up' as const },
  };
  const answers = [
    markAnswer(questions[0]!, 'glue', undefined, null),
    markAnswer(questions[1]!, 'text', undefined, null),
    markAnswer(questions[2]!, 'keystone', undefined, null),
  ];
  const score = scoreKey(key, answers);
  expect([plainRatio(score.points), plainRatio(score.outOf), plainRatio(score.percent!), score.open]).toEqual(
    ['2', '4', '50', 1],
  );
  expect(lookAgain(score, () => 'Question')).toEqual(['Arches']);
  const blank = [markAnswer(questions[0]!, '', undefined, null), answers[1]!, answers[2]!];
  expect(plainRatio(scoreKey(key, blank).percent!)).toBe('50');
  expect(plainRatio(scoreKey({ ...key, blankIsWrong: false }, blank).percent!)).toBe('100');
  expect(VERDICT_SIGNS[answers[0]!.verdict]).toBe('✗');
});

// T. L. Kelley (1939): upper and lower 27 percent. Worked by hand: of eleven learners three (2.97) make each group.
test('facility and discrimination of an item', () => {
  const questions = [
    question({ id: '1', points: '1' }),
    ...Array.from({ length: 10 }, (_, n) => question({ id: `x${n}`, points: '1' })),
  ];
  const key = {
    kind: 'key' as const,
    questions,
    give: 'points' as const,
    blankIsWrong: true,
    rounding: { places: 1, mode: 'half up' as const },
  };
  // Learner n has n of the ten other questions right; the item itself is right for learners 3, 5, 8, 9 and 10.
  const right = new Set([3, 5, 8, 9, 10]);
  const scores = Array.from({ length: 11 }, (_, n) =>
    scoreKey(
      key,
      questions.map((one, at) => {
        const good = at === 0 ? right.has(n) : at <= n;
        return markAnswer(one, good ? 'keystone' : n < 4 ? 'the glue' : 'The  Glue', undefined, null);
      }),
    ),
  );
  const [item] = itemStatistics(questions, scores);
  expect(plainRatio(item!.facility!, 4)).toBe('≈0.4545');
  expect(plainRatio(item!.discrimination!, 4)).toBe('1');
  expect(item!.commonWrong).toEqual({ text: 'the glue', count: 6 });
  expect(itemStatistics(questions, scores.slice(0, 3))[0]!.discrimination).toBeNull();
});

describe('answers that are nearly right', () => {
  const near = (right: string[], given: string[], more: Partial<Question> = {}): string[] =>
    nearMisses(question({ answers: right.map((text) => ({ text })), ...more }), given).map(
      ({ text, count, like }) => `${text} ${count} ${like}`,
    );
  test('are those with a letter or two otherwise, or with words around; the most frequent first', () => {
    expect(
      near(
        ['keystone'],
        ['keyston', 'Keyston', 'the keystone', 'keystone', 'cornerstone', 'glue', '', 'kestone'],
      ),
    ).toEqual(['keyston 2 keystone', 'kestone 1 keystone', 'the keystone 1 keystone']);
  });
  test('short answers are near only among other words', () => {
    expect(near(['arc'], ['ark', 'an arc', 'arch'])).toEqual(['an arc 1 arc']);
    expect(near(['7'], ['17', 'about 7'])).toEqual(['about 7 1 7']);
  });
  test('what was decided is not asked again, either way', () => {
    expect(near(['keystone', 'keyston'], ['Keyston.'])).toEqual([]);
    expect(near(['keystone'], ['Keyston.', 'kestone'], { refused: ['keyston'] })).toEqual([
      'kestone 1 keystone',
    ]);
  });
  test('right-to-left and accented words too', () => {
    expect(near(['الأساس'], ['الاساس', 'حجر'])).toEqual([]);
    expect(near(['clé de voûte'], ['cle de vout', 'voûte'], { accents: true })).toHaveLength(0);
    expect(near(['clé de voûte'], ['cle de vout'])).toHaveLength(1);
  });
});
