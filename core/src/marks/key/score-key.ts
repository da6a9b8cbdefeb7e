import type { MarkingKey } from '../../column/index.js';
import { HUNDRED, ratio, sum, type Ratio } from '../../ratio/index.js';
import type { AnswerScore } from './answer.js';

export interface KeyScore {
  readonly answers: readonly AnswerScore[];
  readonly points: Ratio;
  /** The most that could be had in the questions that are marked. */
  readonly outOf: Ratio;
  /** Percent of 100; null where no question is marked. */
  readonly percent: Ratio | null;
  /** Questions that wait for a person, or that were left blank where blanks wait. */
  readonly open: number;
}

/** Sums up a learner's answers. Those that wait are left out, above and below the line. */
export function scoreKey(key: MarkingKey, answers: readonly AnswerScore[]): KeyScore {
  const counted = answers.filter(
    ({ points, verdict }) => points !== null && (key.blankIsWrong || verdict !== 'blank'),
  );
  const points = sum(counted.map((answer) => answer.points!));
  const outOf = sum(counted.map(({ question }) => ratio(question.points)));
  return {
    answers,
    points,
    outOf,
    percent: outOf.equals(0) ? null : points.div(outOf).mul(HUNDRED),
    open: answers.length - counted.length,
  };
}

export const VERDICT_SIGNS = { right: '✓', partly: '◐', wrong: '✗', blank: '–', open: '…' } as const;

/** The questions that a learner should look at again, by their topics where they have one. */
export function lookAgain(score: KeyScore, nameOf: (answer: AnswerScore) => string): string[] {
  const missed = score.answers.filter(({ verdict }) => verdict !== 'right' && verdict !== 'open');
  return [...new Set(missed.map((answer) => answer.question.topic.trim() || nameOf(answer)))];
}
