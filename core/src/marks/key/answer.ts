import { readNumber, splitChoices, type ColumnFormat } from '../../table/index.js';
import type { Question } from '../../worked/index.js';
import { ratio, ZERO, type Ratio } from '../ratio.js';

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

/** An answer without what does not matter: outer and doubled blanks, and capitals and accents where they do not. */
export function plainAnswer(
  text: string,
  { capitals, accents }: Pick<Question, 'capitals' | 'accents'>,
): string {
  let plain = text.normalize('NFKC').replace(/\s+/g, ' ').trim();
  if (!accents) plain = plain.normalize('NFD').replace(/\p{M}/gu, '').normalize('NFC');
  return capitals ? plain : plain.toLowerCase();
}

/**
 * Marks one answer.
 *
 * Of several options, `each` gives a part of the points for each right one that was chosen, `each less wrong` takes the
 * same part away for each wrong one and never gives less than nothing. Common practice; no published source.
 *
 * @param hand the points that a person gave, as the cell has them.
 */
export function markAnswer(
  question: Question,
  given: string,
  format: ColumnFormat | undefined,
  hand: string,
  handFormat?: ColumnFormat,
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
  if (question.mode === 'hand') {
    const points = readNumber(hand, handFormat?.decimal);
    if (points !== null) return done(ratio(points));
    return done(null, 'open');
  }
  if (given.trim() === '') return done(ZERO, 'blank');
  switch (question.mode) {
    case 'text':
      return done(pointsForText(question, given, most));
    case 'number':
      return done(pointsForNumber(question, given, format, most));
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

function pointsForNumber(
  question: Question,
  given: string,
  format: ColumnFormat | undefined,
  most: Ratio,
): Ratio {
  // The unit that learners write after a number does not matter.
  const bare = given.trim().replace(/\s*[\p{L}°%€$£/²³]+\.?$/u, '');
  const value = readNumber(bare, format?.decimal) ?? readNumber(bare, '.') ?? readNumber(bare, ',');
  if (value === null) return ZERO;
  const tolerance = ratio(question.tolerance);
  return best(
    question.answers.filter(({ text }) => {
      const right = readNumber(text, '.') ?? readNumber(text, ',');
      return right !== null && ratio(value).sub(ratio(right)).abs().compare(tolerance) <= 0;
    }),
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
