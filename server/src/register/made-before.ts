import { canonical } from '@scriptum/core/paper';
import type { Made } from '@scriptum/core/condition';
import type { Entry, Roll } from '@scriptum/core/roll';
import { sha256 } from '../store/blobs.js';
import type { PaperRow } from '../store/entities/register.js';

/** Kept for as long as an entry is the same object. */
const known = new WeakMap<Entry, string>();

/** SHA-256 of all that stands in an entry's cells and small tables, whatever the columns are called or wherever they stand. */
export function entryHash(entry: Entry): string {
  let hash = known.get(entry);
  if (hash === undefined) {
    const filled = (cells: Readonly<Record<string, string>> = {}) =>
      Object.fromEntries(Object.entries(cells).filter(([, text]) => text !== ''));
    hash = sha256(canonical([{ ...filled(entry.worked), ...filled(entry.values) }, entry.tables ?? {}]));
    known.set(entry, hash);
  }
  return hash;
}

/** Whether what stands in an entry's cells is something else than when a paper was planned. */
export const isChanged = (
  paper: Pick<PaperRow, 'entryHash' | 'outOfDate'>,
  entry: Entry | undefined,
): boolean =>
  // Of the oldest papers it is not known.
  paper.entryHash == null ? paper.outOfDate : entry !== undefined && paper.entryHash !== entryHash(entry);

/** Says what was made for an entry, by the papers that stand for the entries of a roll. */
export function madeBefore(
  { entries }: Roll,
  papers: readonly Pick<PaperRow, 'entryId' | 'entryHash' | 'outOfDate'>[],
): (entryId: string) => Made {
  let byEntry: Map<string, { entry: Entry | undefined; papers: (typeof papers)[number][] }> | undefined;
  return (entryId) => {
    if (!byEntry) {
      byEntry = new Map(entries.map((entry) => [entry.id, { entry, papers: [] }]));
      for (const paper of papers) byEntry.get(paper.entryId)?.papers.push(paper);
    }
    const one = byEntry.get(entryId);
    const made = one?.papers ?? [];
    return {
      isNew: made.length === 0,
      changed: made.length > 0 && made.every((paper) => isChanged(paper, one!.entry)),
    };
  };
}
