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
    case 'personal':
      return [];
  }
}

/** The words that stand for a mark in a column, because a mark scheme knows them: in small letters, by column. */
export function markWords(
  columns: readonly { readonly worked?: Worked | undefined }[],
): ReadonlyMap<string, ReadonlySet<string>> {
  const words = new Map<string, Set<string>>();
  for (const { worked } of columns) {
    if (worked?.kind !== 'scheme') continue;
    const known = Object.values(worked.states).flatMap((state) =>
      state.words.map((word) => word.toLowerCase()),
    );
    for (const { columnId } of worked.groups.flatMap(({ pieces }) => pieces)) {
      const here = words.get(columnId);
      if (here) for (const word of known) here.add(word);
      else words.set(columnId, new Set(known));
    }
  }
  return words;
}
