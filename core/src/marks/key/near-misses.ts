import { distance } from 'fastest-levenshtein';
import type { Question } from '../../column/index.js';
import { plainAnswer } from './answer.js';

/** An answer that got nothing and is nearly a right one, for a person to decide about. */
export interface NearMiss {
  /** As it was written most often. */
  readonly text: string;
  readonly count: number;
  /** The right answer that it is like. */
  readonly like: string;
}

/** Shorter answers are another word with one letter changed. */
const SHORTEST = 4;

/**
 * The answers to a question with words that are not right and nearly are: a letter or two are different in a long word (one
 * in five at the most), or the right answer stands among other words.
 *
 * @param given all answers to the question.
 * @returns the most frequent first; none that was decided already.
 */
export function nearMisses(question: Question, given: readonly string[]): NearMiss[] {
  if (question.mode !== 'text') return [];
  const right = question.answers.map(({ text }) => ({ text, plain: plainAnswer(text, question) }));
  const decided = new Set([
    ...right.map(({ plain }) => plain),
    ...(question.refused ?? []).map((text) => plainAnswer(text, question)),
  ]);
  const written = new Map<string, number>();
  for (const one of given) written.set(one.trim(), (written.get(one.trim()) ?? 0) + 1);
  const known = new Map<string, { forms: [string, number][]; count: number }>();
  for (const form of written) {
    const plain = plainAnswer(form[0], question);
    if (plain === '' || plain.length > 200 || decided.has(plain)) continue;
    const here = known.get(plain) ?? { forms: [], count: 0 };
    here.count += form[1];
    here.forms.push(form);
    known.set(plain, here);
  }
  const misses: NearMiss[] = [];
  for (const [plain, { forms, count }] of known) {
    const like = right.find((one) => isNear(plain, one.plain));
    if (!like) continue;
    const [text] = forms.sort((a, b) => b[1] - a[1])[0]!;
    misses.push({ text, count, like: like.text });
  }
  return misses.sort((a, b) => b.count - a.count || (a.text < b.text ? -1 : 1));
}

function isNear(given: string, right: string): boolean {
  if (right.length < SHORTEST) return given.split(/[^\p{L}\p{N}]+/u).includes(right);
  if (` ${given} `.includes(` ${right} `)) return true;
  return (
    Math.abs(given.length - right.length) <= right.length / 5 &&
    distance(given, right) <= Math.max(1, Math.floor(right.length / 5))
  );
}
