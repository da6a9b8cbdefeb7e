import type { Worked } from './worked.js';

const some = (ids: readonly (string | undefined)[]): string[] => ids.filter((id) => id !== undefined);

/** The columns that a worked column is worked out from, each once. */
export function inputsOf(worked: Worked): string[] {
  return [...new Set(all(worked))];
}

function all(worked: Worked): string[] {
  switch (worked.kind) {
    case 'scheme':
      return worked.groups.flatMap(({ pieces }) =>
        pieces.flatMap(({ columnId, lateColumnId }) => some([columnId, lateColumnId])),
      );
    case 'band':
      return [worked.of, ...worked.within];
    case 'cohort':
      return some([worked.of, ...worked.within, worked.earlier]);
    case 'attendance':
      if (worked.from.kind === 'sessions') return worked.from.columnIds;
      if (worked.from.kind === 'table') return [];
      return some([
        worked.from.present,
        worked.from.late,
        worked.from.excused,
        worked.from.unexcused,
        worked.from.possible,
      ]);
    case 'key':
      return worked.questions.flatMap(({ columnId, handId }) => some([columnId, handId]));
    case 'remark':
      return some([worked.of, worked.bankOf, ...worked.within, worked.nameId, worked.pronounId]);
    case 'expression':
      return worked.formula.flatMap((part) => ('columnId' in part ? [part.columnId] : []));
    case 'part':
      return [worked.of];
  }
}
