import type { Column, MarkingKey, Question } from '../../column/index.js';
import { meaningOf, valueOf, type Entry } from '../../roll/index.js';
import { ratio, type Ratio } from '../../ratio/index.js';
import { plainNumber } from '../scheme/read-mark.js';
import { markAnswer, type AnswerScore } from './answer.js';

/** How an entry answered each question of a key, with the titles that the questions have in the roll. */
export function answersOf(
  { questions }: MarkingKey,
  entry: Entry,
  columns: readonly Column[],
): { readonly title: string; readonly answer: AnswerScore }[] {
  const columnOf = (id: string | undefined): Column | undefined => columns.find((one) => one.id === id);
  return questions.map((question) => {
    const column = columnOf(question.columnId);
    const exact = question.mode === 'number' && column ? numberIn(entry, column) : null;
    const given = valueOf(entry, question.columnId);
    return {
      title: column?.title ?? '',
      answer: markAnswer(question, given, column?.format, handOf(question, entry, columnOf), exact),
    };
  });
}

function numberIn(entry: Entry, column: Column): Ratio | null {
  const value = meaningOf(entry, column);
  return value.kind === 'number' ? ratio(value.decimal) : null;
}

/** The points that a person gave; null where nobody did. */
function handOf(
  { handId }: Question,
  entry: Entry,
  columnOf: (id: string | undefined) => Column | undefined,
): Ratio | null {
  const column = columnOf(handId);
  if (!column) return null;
  const points = numberIn(entry, column);
  if (points) return points;
  const plain = plainNumber(valueOf(entry, column.id), column.format?.decimal ?? '.');
  return plain === null ? null : ratio(plain);
}
