import { splitChoices, type ColumnFormat, type Question } from '../../column/index.js';
import { ratio, ZERO, type Ratio } from '../../ratio/index.js';
import { plainNumber } from '../scheme/read-mark.js';

export type Verdict = 'right' | 'partly' | 'wrong' | 'blank' | 'open';

/** A learner's answer to one question, and what it gets. */
export interface AnswerScore {
  readonly question: Question;
  readonly given: string;
  /** What would have been right, for people to read. */
  readonly right: string;
  /** Null while a person has not marked it. */
  readonly points: Ratio | null;
  readonly verdict: Verdict;
  readonly remark: string;
}

/** Letters that no mark makes out of another one, as people write them without (Unicode CLDR, Latin-ASCII). */
const PLAIN_LETTERS: Readonly<Record<string, string>> = {
  ł: 'l',
  Ł: 'L',
  ø: 'o',
  Ø: 'O',
  đ: 'd',
  Đ: 'D',
  ð: 'd',
  Ð: 'D',
  ħ: 'h',
  Ħ: 'H',
  ı: 'i',
  ß: 'ss',
  ẞ: 'SS',
  æ: 'ae',
  Æ: 'AE',
  œ: 'oe',
  Œ: 'OE',
  þ: 'th',
  Þ: 'TH',
};
const PLAIN_LETTER = new RegExp(`[${Object.keys(PLAIN_LETTERS).join('')}]`, 'g');

/**
 * An answer without what does not matter: outer and doubled blanks, which form of quotes and dashes a program made, and, where
 * they do not matter, capitals, accents, and the apostrophes and the sign at the end.
 */
export function plainAnswer(
  text: string,
  { capitals, accents, punctuation }: Pick<Question, 'capitals' | 'accents' | 'punctuation'>,
): string {
  let plain = text
    .normalize('NFKC')
    .replace(/[‘’‛′ʼ`´]/g, "'")
    .replace(/[“”„‟″«»]/g, '"')
    .replace(/[‐‑‒–—―−]/g, '-')
    .replace(/\s+/g, ' ')
    .trim();
  if (!punctuation) {
    const bare = plain.replace(/'/g, '').replace(/[\s.,;:!?。！？،؟]+$/u, '');
    // What is nothing but such signs is an answer all the same.
    if (bare !== '') plain = bare;
  }
  if (!accents)
    plain = plain
      .normalize('NFD')
      .replace(/\p{M}/gu, '')
      .normalize('NFC')
      .replace(PLAIN_LETTER, (letter) => PLAIN_LETTERS[letter]!);
  return capitals ? plain : plain.toLowerCase();
}

/**
 * Marks one answer.
 *
 * Of several options, `each` gives a part of the points for each right one that was chosen, `each less wrong` takes the
 * same part away for each wrong one and never gives less than nothing. Common practice; no published source.
 *
 * @param hand the points that a person gave; null where nobody did.
 * @param exact the number that the cell of the answer holds, where it holds one; else the text is read.
 */
export function markAnswer(
  question: Question,
  given: string,
  format: ColumnFormat | undefined,
  hand: Ratio | null,
  exact: Ratio | null = null,
): AnswerScore {
  const most = ratio(question.points);
  const right = question.answers.map(({ text }) => text).join(question.mode === 'several' ? ', ' : ' or ');
  const done = (points: Ratio | null, verdict?: Verdict): AnswerScore => {
    const said = verdict ?? verdictOf(points!, most);
    return {
      question,
      given: given.trim(),
      right,
      points,
      verdict: said,
      remark: said === 'right' ? question.rightRemark : said === 'open' ? '' : question.wrongRemark,
    };
  };
  if (question.mode === 'hand') return hand === null ? done(null, 'open') : done(hand);
  if (given.trim() === '') return done(ZERO, 'blank');
  switch (question.mode) {
    case 'text':
      return done(pointsForText(question, given, most));
    case 'number':
      return done(
        pointsForNumber(
          question,
          exact ? [exact] : numbersSaid(given, format?.decimal),
          format?.decimal,
          most,
        ),
      );
    case 'several':
      return done(pointsForSeveral(question, splitChoices(given, format?.separator ?? ','), most));
  }
}

function verdictOf(points: Ratio, most: Ratio): Verdict {
  if (points.compare(most) >= 0) return 'right';
  return points.compare(0) > 0 ? 'partly' : 'wrong';
}

function pointsForText(question: Question, given: string, most: Ratio): Ratio {
  const plain = plainAnswer(given, question);
  return best(
    question.answers.filter(({ text }) => plainAnswer(text, question) === plain),
    most,
  );
}

/**
 * The numbers that a text may mean, without the unit that is written after it: the one under the column's decimal sign; where
 * the column has none, or it is no number so, those under either sign (`3,141` is 3.141, or 3141).
 */
function numbersSaid(written: string, decimal?: '.' | ','): Ratio[] {
  const bare = written.trim().replace(/\s*[\p{L}°%€$£/²³]+\.?$/u, '');
  const own = decimal ? plainNumber(bare, decimal) : null;
  if (own !== null) return [ratio(own)];
  return (['.', ','] as const).flatMap((sign) => {
    const value = plainNumber(bare, sign);
    return value === null ? [] : [ratio(value)];
  });
}

/** A right answer with the column's decimal sign is read by it; one without may have been written with either. */
function pointsForNumber(
  question: Question,
  given: readonly Ratio[],
  decimal: '.' | ',' | undefined,
  most: Ratio,
): Ratio {
  const tolerance = ratio(question.tolerance);
  return best(
    question.answers.filter(({ text }) =>
      numbersSaid(text, decimal && text.includes(decimal) ? decimal : undefined).some((right) =>
        given.some((value) => value.sub(right).abs().compare(tolerance) <= 0),
      ),
    ),
    most,
  );
}

const best = (answers: Question['answers'], most: Ratio): Ratio =>
  answers.reduce((points, answer) => {
    const here = answer.points === undefined ? most : ratio(answer.points);
    return here.compare(points) > 0 ? here : points;
  }, ZERO);

function pointsForSeveral(question: Question, chosen: readonly string[], most: Ratio): Ratio {
  const right = new Set(question.answers.map(({ text }) => plainAnswer(text, question)));
  const mine = new Set(chosen.map((text) => plainAnswer(text, question)));
  const hits = [...mine].filter((text) => right.has(text)).length;
  const misses = mine.size - hits;
  if (right.size === 0) return ZERO;
  switch (question.scoring) {
    case 'all':
      return hits === right.size && misses === 0 ? most : ZERO;
    case 'each':
      return most.mul(hits).div(right.size);
    case 'each less wrong':
      return most.mul(Math.max(0, hits - misses)).div(right.size);
  }
}
