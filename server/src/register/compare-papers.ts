import { In, IsNull, type DataSource, type EntityManager } from 'typeorm';
import { dayOfSchool, hasWorked } from '../roll/worked-roll.js';
import { sha256 } from '../store/blobs.js';
import type { FolioRow } from '../store/entities/folio.js';
import { PaperRow } from '../store/entities/register.js';
import { WritingRow } from '../store/entities/writing.js';
import { findFolio } from '../store/folios.js';
import { inTransaction } from '../store/in-transaction.js';
import { currentLetterhead } from '../store/letterheads.js';
import { nextRevision, registerState, setComparedWith } from '../store/register-state.js';
import { isChanged } from './made-before.js';
import { loadPlanning, plannedEver } from './planning.js';
import { PRESENT } from './present-papers.js';

interface Place {
  readonly schoolId: string;
  readonly folioId: string;
}

/** Names all that papers are made from as it is now: the roll, the texts, and the day where something is worked out by it. */
export async function comparedWithNow(manager: EntityManager, folio: FolioRow): Promise<string> {
  const { id: folioId, schoolId } = folio;
  const writings = await manager.find(WritingRow, {
    select: { id: true, version: true, place: true },
    where: {
      schoolId,
      folioId,
      kind: In(['letter', 'placed', 'filing', 'sorting', 'exception']),
      deletedAt: IsNull(),
    },
    order: { id: 'ASC' },
  });
  const day = hasWorked(folio) ? await dayOfSchool(manager, schoolId) : null;
  const letterhead = await currentLetterhead(manager, schoolId);
  return sha256(
    JSON.stringify([
      folio.rollVersion,
      day,
      writings.map(({ id, version, place }) => [id, version, place]),
      letterhead?.version ?? 0,
    ]),
  );
}

/** True where it is not known which papers of a folio are out of date, since something changed after it was looked. */
export async function isComparingDue(manager: EntityManager, folio: FolioRow): Promise<boolean> {
  const { id: folioId, schoolId } = folio;
  const { comparedWith } = await registerState(manager, folioId);
  if (comparedWith === (await comparedWithNow(manager, folio))) return false;
  return manager.existsBy(PaperRow, { schoolId, folioId, state: In([...PRESENT]) });
}

/**
 * Looks which papers would come out another one now, or under another name, and writes it down.
 *
 * @returns false where something changed meanwhile, so that it is to be looked once more.
 */
export async function comparePapers(database: DataSource, { schoolId, folioId }: Place): Promise<boolean> {
  const { manager } = database;
  const folio = await findFolio(manager, schoolId, folioId);
  const before = await registerState(manager, folioId);
  const now = await comparedWithNow(manager, folio);
  const planning = await loadPlanning(manager, folio);
  const { papers, present } = planning;
  const upToDate = new Set(plannedEver(planning).flatMap((paper) => present.upToDateId(paper) ?? []));
  const entries = new Map(planning.roll.entries.map((entry) => [entry.id, entry]));
  const marked = papers.flatMap((paper) => {
    const outOfDate = !upToDate.has(paper.id);
    const entryChanged = isChanged({ ...paper, outOfDate }, entries.get(paper.entryId));
    const same = paper.outOfDate === outOfDate && paper.entryChanged === entryChanged;
    return same ? [] : [{ id: paper.id, outOfDate, entryChanged }];
  });
  return inTransaction(database, async (inside) => {
    const revision = await nextRevision(inside, { schoolId, folioId });
    for (const outOfDate of [true, false])
      for (const entryChanged of [true, false]) {
        const ids = marked
          .filter((one) => one.outOfDate === outOfDate && one.entryChanged === entryChanged)
          .map(({ id }) => id);
        for (let from = 0; from < ids.length; from += 1000)
          await inside.query(
            `UPDATE paper SET outOfDate = ?, entryChanged = ?, revision = ?
             WHERE id IN (?) AND schoolId = ? AND folioId = ?`,
            [outOfDate, entryChanged, revision, ids.slice(from, from + 1000), schoolId, folioId],
          );
      }
    const { comparedWith } = await registerState(inside, folioId);
    // A run that has ended meanwhile made papers that were not among these.
    if (comparedWith !== before.comparedWith) return false;
    await setComparedWith(inside, folioId, now);
    return now === (await comparedWithNow(inside, await findFolio(inside, schoolId, folioId)));
  });
}
