import { Marks } from '@scriptum/core/marks';
import { marksFindings, type Finding } from '@scriptum/core/preflight';
import type { Entry, Roll } from '@scriptum/core/roll';
import { dayIn } from '@scriptum/core/time';
import { LRUCache } from 'lru-cache';
import type { EntityManager } from 'typeorm';
import { EntryRow, SourceRow, type FolioRow } from '../store/entities/folio.js';
import { School } from '../store/entities/people.js';
import { entryOf, loadRoll } from '../store/rolls.js';

/** A roll with what its worked columns come to. */
export interface WorkedRoll {
  readonly roll: Roll;
  /** What is worth a look in the worked columns. Looked for when first asked. */
  readonly findings: () => readonly Finding[];
}

/** Rolls that were loaded and worked out last, by folio, version and day. A roll of a version never changes. */
const recent = new LRUCache<string, Promise<WorkedRoll>>({ max: 12, maxSize: 256 * 1024 * 1024 });
/** Bytes that a cell of a roll takes with what is worked out from it, about. */
const CELL = 120;

/** The folio's roll with its worked columns worked out; the same one as long as nothing in it changes. */
export async function loadWorkedRoll(manager: EntityManager, folio: FolioRow): Promise<WorkedRoll> {
  // What is worked out may look at the day.
  const today = hasWorked(folio) ? await dayOfSchool(manager, folio.schoolId) : '';
  const key = `${folio.schoolId} ${folio.id} ${folio.rollVersion} ${today}`;
  let worked = recent.get(key);
  if (!worked) {
    worked = workOut(manager, folio, today);
    const one = worked;
    // Its size is known once it is there; until then it counts as little.
    recent.set(key, one, { size: 1 });
    one.then(
      ({ roll }) => {
        const size = Math.max(1, roll.entries.length * roll.columns.length * CELL);
        if (recent.peek(key) === one) recent.set(key, one, { size });
      },
      () => recent.delete(key),
    );
  }
  return worked;
}

/** Which day it is at a school. */
export async function dayOfSchool(manager: EntityManager, schoolId: string): Promise<string> {
  const school = await manager.findOneBy(School, { id: schoolId });
  return dayIn(new Date(), school?.timeZone ?? 'UTC');
}

export const hasWorked = (folio: FolioRow): boolean => folio.columns.some((column) => column.worked);

async function workOut(manager: EntityManager, folio: FolioRow, today: string): Promise<WorkedRoll> {
  const roll = await loadRoll(manager, folio);
  if (!hasWorked(folio)) return { roll, findings: () => [] };
  const sources = await manager.findBy(SourceRow, { folioId: folio.id, schoolId: folio.schoolId });
  const marks = new Marks(
    roll,
    sources.map(({ id, fileName, columns }) => ({ id, name: fileName, columns: columns ?? [] })),
    today,
  );
  let findings: readonly Finding[] | null = null;
  return { roll: marks.withWorked(), findings: () => (findings ??= marksFindings(marks)) };
}

/** One entry with what its worked columns come to; null where the folio has none of that identity. */
export async function loadWorkedEntry(
  manager: EntityManager,
  folio: FolioRow,
  entryId: string,
): Promise<Entry | null> {
  if (hasWorked(folio)) {
    const { roll } = await loadWorkedRoll(manager, folio);
    return roll.entries.find(({ id }) => id === entryId) ?? null;
  }
  const row = await manager.findOneBy(EntryRow, { id: entryId, folioId: folio.id, schoolId: folio.schoolId });
  return row && entryOf(row);
}
