import { tidyEntry, type Entry, type Roll } from '../roll/index.js';

/**
 * An earlier state of a roll with the answers to forms as they are now: those that came since are in it, behind the others, those
 * that were changed are as they were changed, and those that were deleted are gone. Columns that forms brought stay.
 */
export function keepAnswers(earlier: Roll, now: Roll): Roll {
  const answered = now.entries.filter((entry) => entry.answered !== undefined);
  const forms = new Set(answered.map((entry) => entry.answered));
  const there = new Set(earlier.columns.map(({ id }) => id));
  const columns = [
    ...earlier.columns,
    ...now.columns.filter(
      ({ id, sourceId }) => sourceId !== undefined && forms.has(sourceId) && !there.has(id),
    ),
  ];
  const known = new Set(columns.map(({ id }) => id));
  const keep = <T>(record: Readonly<Record<string, T>> = {}): Record<string, T> =>
    Object.fromEntries(Object.entries(record).filter(([id]) => known.has(id)));
  const byId = new Map(
    answered.map((entry): [string, Entry] => [
      entry.id,
      tidyEntry({
        ...entry,
        values: keep(entry.values),
        exact: keep(entry.exact),
        mends: keep(entry.mends),
      }),
    ]),
  );
  const entries = earlier.entries.flatMap((entry): Entry[] => {
    if (entry.answered === undefined) return [entry];
    const kept = byId.get(entry.id);
    byId.delete(entry.id);
    return kept ? [{ ...kept, position: entry.position }] : [];
  });
  const last = entries.reduce((most, { position }) => Math.max(most, position), -1);
  return {
    ...earlier,
    columns,
    entries: [...entries, ...[...byId.values()].map((entry, n) => ({ ...entry, position: last + 1 + n }))],
  };
}
