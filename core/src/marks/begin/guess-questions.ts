import type { Roll } from '../../roll/index.js';
import type { Column, Question } from '../../column/index.js';

/** Columns whose titles ask or are numbered as questions; the most frequent answer is not taken for the right one. */
export function guessQuestions(roll: Roll, newId: () => string): Question[] {
  const asked = roll.columns.filter(
    ({ title, worked, role }) =>
      !worked && !role && (/\?\s*$/.test(title) || /^(?:q|question)\s*\.?\s*\d+/i.test(title.trim())),
  );
  return asked.slice(0, 200).map((column) => plainQuestion(column, newId()));
}

/** A question over a column, of which nothing is known yet but how its answers are written. */
export const plainQuestion = (column: Column, id: string): Question => ({
  id,
  columnId: column.id,
  points: '1',
  mode: column.type === 'number' ? 'number' : column.type === 'several choices' ? 'several' : 'text',
  answers: [],
  refused: [],
  tolerance: '0',
  scoring: 'all',
  capitals: false,
  accents: false,
  punctuation: false,
  topic: '',
  rightRemark: '',
  wrongRemark: '',
});
