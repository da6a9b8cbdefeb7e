import type { Question } from '../../column/index.js';
import { ratio, sum, type Ratio } from '../../ratio/index.js';
import { plainAnswer } from './answer.js';
import type { KeyScore } from './score-key.js';

/** How one question did over all learners. */
export interface ItemStatistics {
  readonly question: Question;
  /** Learners whose answer is marked. */
  readonly marked: number;
  /** The mean share of the points, from 0 to 1: 1 where all had it right. */
  readonly facility: Ratio | null;
  /**
   * The mean share of the points among the best learners less that among the weakest, from -1 to 1. Null where there are
   * fewer than four learners.
   */
  readonly discrimination: Ratio | null;
  /** The wrong answer that was given most often. */
  readonly commonWrong: { readonly text: string; readonly count: number } | null;
}

/** The part of the learners that makes the upper and the lower group: T. L. Kelley, “The selection of upper and lower groups
 * for the validation of test items”, Journal of Educational Psychology 30 (1939) 17–24. */
const GROUP = 0.27;

/** Facility and discrimination of each question, with upper and lower groups of 27 percent by total score. */
export function itemStatistics(
  questions: readonly Question[],
  scores: readonly KeyScore[],
): ItemStatistics[] {
  const order = scores
    .map((score, n) => ({ score, n }))
    .sort((a, b) => b.score.points.compare(a.score.points) || a.n - b.n)
    .map(({ score }) => score);
  const size = Math.max(1, Math.round(order.length * GROUP));
  return questions.map((question, at) => {
    const facility = meanShare(question, scores, at);
    const upper = meanShare(question, order.slice(0, size), at);
    const lower = meanShare(question, order.slice(-size), at);
    return {
      question,
      marked: scores.filter(({ answers }) => answers[at]!.points !== null).length,
      facility,
      discrimination: order.length >= 4 && upper && lower ? upper.sub(lower) : null,
      commonWrong: commonWrong(question, scores, at),
    };
  });
}

function meanShare(question: Question, scores: readonly KeyScore[], at: number): Ratio | null {
  const points = scores.map(({ answers }) => answers[at]!.points).filter((one) => one !== null);
  const most = ratio(question.points);
  return points.length === 0 || most.equals(0) ? null : sum(points).div(points.length).div(most);
}

function commonWrong(
  question: Question,
  scores: readonly KeyScore[],
  at: number,
): ItemStatistics['commonWrong'] {
  const counts = new Map<string, { text: string; count: number }>();
  for (const { answers } of scores) {
    const { verdict, given } = answers[at]!;
    if ((verdict !== 'wrong' && verdict !== 'partly') || given === '') continue;
    const plain = plainAnswer(given, question);
    const known = counts.get(plain);
    if (known) known.count++;
    else counts.set(plain, { text: given, count: 1 });
  }
  return [...counts.values()].reduce<ItemStatistics['commonWrong']>(
    (most, one) => (most === null || one.count > most.count ? one : most),
    null,
  );
}
