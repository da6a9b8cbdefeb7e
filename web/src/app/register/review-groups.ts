import type { Finding } from '@scriptum/core/preflight';
import { valueOf, type Roll } from '@scriptum/core/roll';

/** Some learners whose papers are looked at together. */
export interface ReviewGroup {
  readonly key: string;
  readonly name: string;
  /** What it is one of: a column, or findings. */
  readonly of: string;
  readonly entryIds: ReadonlySet<string>;
}

/** Columns with more different cells than this part nobody into groups. */
const VALUES_MOST = 15;
const COLUMNS_MOST = 6;

/** By which learners can be looked at together: cells that many have alike, such as the class, and findings. */
export function reviewGroups(
  { columns, entries }: Roll,
  findings: readonly Finding[],
  nameOf: (code: string) => string,
): ReviewGroup[] {
  const groups: ReviewGroup[] = [];
  let told = 0;
  for (const { id, title } of columns) {
    if (told === COLUMNS_MOST) break;
    const values = new Map<string, Set<string>>();
    for (const entry of entries) {
      const cell = valueOf(entry, id).trim();
      if (cell === '') continue;
      const known = values.get(cell);
      if (known) known.add(entry.id);
      else values.set(cell, new Set([entry.id]));
      if (values.size > VALUES_MOST) break;
    }
    // Where each stands for itself there are no groups.
    if (values.size < 2 || values.size > VALUES_MOST || values.size > entries.length / 2) continue;
    told++;
    for (const [cell, ids] of [...values].sort(([a], [b]) =>
      a.localeCompare(b, undefined, { numeric: true }),
    ))
      groups.push({ key: `${id} ${cell}`, name: cell, of: title, entryIds: ids });
  }
  const byCode = new Map<string, Set<string>>();
  for (const { code, entryIds } of findings) {
    if (entryIds.length === 0) continue;
    const known = byCode.get(code) ?? new Set();
    entryIds.forEach((id) => known.add(id));
    byCode.set(code, known);
  }
  for (const [code, ids] of byCode)
    groups.push({ key: `finding ${code}`, name: nameOf(code), of: 'With a finding', entryIds: ids });
  return groups;
}
