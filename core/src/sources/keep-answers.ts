import type { Column } from '../column/index.js';
import { tidyEntry, type Entry, type Roll } from '../roll/index.js';

/** That an entry was answered for, by which form. */
export interface AnsweredEntry {
  readonly writingId: string;
  readonly entryId: string;
}

/**
 * An earlier state of a roll with the answers to forms as they are now: those that came since are in it, behind the others, those
 * that were changed are as they were changed, and those that were deleted are gone. Columns that forms brought stay.
 *
 * @param answers those of now; also of learners whose answers stand in their own entries.
 * @param published forms that are answered, whose columns stay also where nobody has answered yet.
 */
export function keepAnswers(
  earlier: Roll,
  now: Roll,
  answers: readonly AnsweredEntry[] = [],
  published: Iterable<string> = [],
): Roll {
  const answered = now.entries.filter((entry) => entry.answered !== undefined);
  const forms = new Set([
    ...answered.map((entry) => entry.answered),
    ...answers.map(({ writingId }) => writingId),
    ...published,
  ]);
  const there = new Set(earlier.columns.map(({ id }) => id));
  const isOfForm = ({ sourceId, worked }: Column): boolean =>
    (sourceId !== undefined && forms.has(sourceId)) || worked?.kind === 'personal';
  const columns = [
    ...earlier.columns,
    ...now.columns.filter((column) => isOfForm(column) && !there.has(column.id)),
  ];
  const known = new Set(columns.map(({ id }) => id));
  const ofForms = new Set(columns.filter(isOfForm).map(({ id }) => id));
  const keep = <T>(
    record: Readonly<Record<string, T>> = {},
    those: ReadonlySet<string> = known,
  ): Record<string, T> => Object.fromEntries(Object.entries(record).filter(([id]) => those.has(id)));
  const withKnown = (entry: Entry): Entry =>
    tidyEntry({
      ...entry,
      values: keep(entry.values),
      exact: keep(entry.exact),
      mends: keep(entry.mends),
    });
  const rows = new Map(answered.map((entry) => [entry.id, withKnown(entry)]));
  const own = new Set(answers.map(({ entryId }) => entryId).filter((id) => !rows.has(id)));
  const byId = new Map(now.entries.map((entry) => [entry.id, entry]));
  const others = new Set(earlier.columns.filter((column) => !ofForms.has(column.id)).map(({ id }) => id));
  const entries = earlier.entries.flatMap((entry): Entry[] => {
    if (entry.answered === undefined) {
      const present = byId.get(entry.id);
      if (!present || !own.delete(entry.id)) return [entry];
      // A learner's own entry as it was, with what was answered in it.
      return [
        tidyEntry({
          ...entry,
          values: { ...keep(entry.values, others), ...keep(present.values, ofForms) },
          exact: { ...keep(entry.exact, others), ...keep(present.exact, ofForms) },
          mends: { ...keep(entry.mends, others), ...keep(present.mends, ofForms) },
        }),
      ];
    }
    const kept = rows.get(entry.id);
    rows.delete(entry.id);
    return kept ? [{ ...kept, position: entry.position }] : [];
  });
  // Who was not on the roll then, and has answered since, stays.
  const since = [...own].flatMap((id): Entry[] => {
    const entry = byId.get(id);
    return entry ? [{ ...withKnown(entry), byHand: true }] : [];
  });
  const last = entries.reduce((most, { position }) => Math.max(most, position), -1);
  return {
    ...earlier,
    columns,
    entries: [
      ...entries,
      ...[...since, ...rows.values()].map((entry, n) => ({ ...entry, position: last + 1 + n })),
    ],
  };
}
