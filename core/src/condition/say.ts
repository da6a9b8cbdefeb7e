import { say, saying, type Saying } from '../sentences/index.js';
import type { Column } from '../column/index.js';
import type { CellTest, Condition } from './condition.js';

/** A condition as a sentence without its full stop: `Mark is at least 70 and Class is “8A”`. */
export const sentence = (condition: Condition, columns: readonly Column[]): string =>
  say(sayingOf(condition, columns));

/** The same, not yet in a language. */
export function sayingOf(condition: Condition, columns: readonly Column[]): Saying {
  if ('columnId' in condition) {
    const title = columns.find(({ id }) => id === condition.columnId)?.title ?? null;
    return saying('cell-is', { title, is: condition.is, values: condition.values });
  }
  if ('papers' in condition) return saying('papers-are', { papers: condition.papers });
  const part = (one: Condition): { saying: Saying; several: boolean } => ({
    saying: sayingOf(one, columns),
    several: isSeveral(one),
  });
  if ('not' in condition) return saying('not-so', { parts: [part(condition.not)] });
  return 'all' in condition
    ? saying('all-of', { parts: condition.all.map(part) })
    : saying('any-of', { parts: condition.any.map(part) });
}

const isSeveral = (condition: Condition): boolean =>
  ('all' in condition ? condition.all : 'any' in condition ? condition.any : []).length > 1;

/** What a cell is, for a verdict. `fails` is the test that it does not pass. */
export const sayCell = ({ title }: Column, text: string, fails: CellTest | null): Saying =>
  saying('because-cell', {
    title,
    text: text.length > 60 ? `${text.slice(0, 60)}…` : text,
    fails: fails && { is: fails.is, values: fails.values },
  });
