import type { Roll } from '../../roll/index.js';
import { plainTitle, type Column, type MarkScheme } from '../../column/index.js';
import { guessOutOf, subjectOf } from './guess-pieces.js';
import { freeTitle } from './title.js';

/** A subject that a scheme can be copied for. */
export interface SchemeCopy {
  readonly subject: string;
  /** How many pieces of the scheme the subject has as well. */
  readonly pieces: number;
}

/** What a title says behind its subject, without what it is out of: `Essay` of `English: Essay (30)`. */
function workOf(title: string): string {
  const subject = subjectOf(title);
  const rest = subject === null ? title : title.trim().slice(subject.length);
  return plainTitle(rest.replace(/\(\s*\d{1,4}[^)]*\)|\/\s*\d{1,4}\s*$/g, ''));
}

function columnsOf(roll: Roll, subject: string): Map<string, Column> {
  const own = roll.columns.filter(({ title, worked }) => !worked && subjectOf(title) === subject);
  return new Map(own.map((column) => [workOf(column.title), column]));
}

/** The subject that most pieces of a scheme are of; null where their titles name none. */
function subjectIn(scheme: MarkScheme, roll: Roll): string | null {
  const counts = new Map<string, number>();
  for (const { columnId } of scheme.groups.flatMap(({ pieces }) => pieces)) {
    const subject = subjectOf(roll.columns.find(({ id }) => id === columnId)?.title ?? '');
    if (subject !== null) counts.set(subject, (counts.get(subject) ?? 0) + 1);
  }
  return [...counts].sort((a, b) => b[1] - a[1])[0]?.[0] ?? null;
}

/** The other subjects that have columns of the same names, those with the most pieces in common first. */
export function schemeCopies(scheme: MarkScheme, roll: Roll): SchemeCopy[] {
  const here = subjectIn(scheme, roll);
  if (here === null) return [];
  const subjects = new Set(
    roll.columns.flatMap(({ title, worked }) => (worked ? [] : (subjectOf(title) ?? []))),
  );
  subjects.delete(here);
  const titles = new Map(roll.columns.map(({ id, title }) => [id, title]));
  return [...subjects]
    .map((subject) => {
      const there = columnsOf(roll, subject);
      const pieces = scheme.groups
        .flatMap((group) => group.pieces)
        .filter(({ columnId }) => there.has(workOf(titles.get(columnId) ?? ''))).length;
      return { subject, pieces };
    })
    .filter(({ pieces }) => pieces > 0)
    .sort((a, b) => b.pieces - a.pieces);
}

/**
 * A scheme with the same groups, weights and rules, over the columns of another subject; over the same columns where none is
 * named. Pieces that the subject does not have are left out.
 *
 * @param column that holds the scheme.
 */
export function copyScheme(
  column: Column,
  scheme: MarkScheme,
  subject: string | null,
  roll: Roll,
  newId: () => string,
): Column {
  const here = subjectIn(scheme, roll);
  const there = subject === null ? null : columnsOf(roll, subject);
  const titles = new Map(roll.columns.map(({ id, title }) => [id, title]));
  const worked: MarkScheme = {
    ...scheme,
    groups: scheme.groups.map((group) => ({
      ...group,
      id: newId(),
      name: subject !== null && group.name === here ? subject : group.name,
      pieces: group.pieces.flatMap((piece) => {
        const at = there ? there.get(workOf(titles.get(piece.columnId) ?? '')) : { id: piece.columnId };
        if (!at) return [];
        const late = piece.lateColumnId && there?.get(workOf(titles.get(piece.lateColumnId) ?? ''))?.id;
        return [
          {
            ...piece,
            id: newId(),
            columnId: at.id,
            ...(there ? { outOf: guessOutOf(at as Column, roll) } : {}),
            ...(late ? { lateColumnId: late } : {}),
          },
        ];
      }),
    })),
  };
  const title = subject === null ? `${column.title} (copy)` : `${subject} mark`;
  return { ...column, id: newId(), title: freeTitle(title, roll), worked };
}
