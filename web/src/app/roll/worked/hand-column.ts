import type { WantedChange } from '@scriptum/core/roll';
import type { Column, MarkingKey, Question } from '@scriptum/core/column';
import { newId } from '../../api/new-id';

/**
 * The change that makes the column for a question's points by hand, where there is none yet.
 *
 * @param columnId the key's column.
 * @returns null where the question has its column.
 */
export function handColumn(
  columns: readonly Column[],
  columnId: string,
  key: MarkingKey,
  question: Question,
): { patch: WantedChange; what: string } | null {
  if (question.handId && columns.some(({ id }) => id === question.handId)) return null;
  const handId = newId();
  const asked = columns.find(({ id }) => id === question.columnId)?.title ?? 'column is gone';
  const wanted = `Points: ${asked}`.slice(0, 200);
  const titles = new Set(columns.map(({ title }) => title));
  let title = wanted;
  for (let n = 2; titles.has(title); n++) title = `${wanted} (${n})`;
  const questions = key.questions.map((one) => (one.id === question.id ? { ...one, handId } : one));
  return {
    patch: {
      columns: [
        ...columns.map((column) =>
          column.id === columnId ? { ...column, worked: { ...key, questions } } : column,
        ),
        { id: handId, title, type: 'number' },
      ],
    },
    what: `the column “${title}”`,
  };
}
