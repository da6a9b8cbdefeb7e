import { planPapers } from '@scriptum/core/paper';
import { templatesOf } from '@scriptum/core/template';
import { In, IsNull, type DataSource, type EntityManager } from 'typeorm';
import { dayOfSchool, hasWorked, loadWorkedRoll } from '../roll/worked-roll.js';
import { sha256 } from '../store/blobs.js';
import type { FolioRow } from '../store/entities/folio.js';
import { PaperRow } from '../store/entities/register.js';
import { WritingRow } from '../store/entities/writing.js';
import { findFolio } from '../store/folios.js';
import { inTransaction } from '../store/in-transaction.js';
import { currentLetterhead, dressAll } from '../store/letterheads.js';
import { nextRevision, registerState, setComparedWith } from '../store/register-state.js';
import { firstWriting, loadWritings } from '../store/writings.js';
import { PRESENT, presentAmong } from './present-papers.js';

interface Place {
  readonly schoolId: string;
  readonly folioId: string;
}

/** Names all that papers are made from as it is now: the roll, the texts, and the day where something is worked out by it. */
export async function comparedWithNow(manager: EntityManager, folio: FolioRow): Promise<string> {
  const { id: folioId, schoolId } = folio;
  const writings = await manager.find(WritingRow, {
    select: { id: true, version: true, place: true },
    where: { schoolId, folioId, kind: In(['letter', 'placed', 'filing']), deletedAt: IsNull() },
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
  const writings = await loadWritings(manager, { schoolId, folioId });
  const letterhead = await currentLetterhead(manager, schoolId);
  const { roll } = await loadWorkedRoll(manager, folio);
  const papers = await manager.find(PaperRow, {
    select: {
      id: true,
      entryId: true,
      templateId: true,
      lookHash: true,
      fileName: true,
      state: true,
      outOfDate: true,
    },
    where: { schoolId, folioId, state: In([...PRESENT]) },
  });
  const present = presentAmong(papers);
  const filing = firstWriting(writings, 'filing').content;
  const planned = planPapers(
    roll,
    dressAll(templatesOf(writings), letterhead?.content ?? null),
    filing,
    await dayOfSchool(manager, schoolId),
    present.nameOf,
  );
  const upToDate = new Set(planned.flatMap((paper) => present.upToDateId(paper) ?? []));
  const changed = (outOfDate: boolean): string[] =>
    papers
      .filter((paper) => paper.outOfDate !== outOfDate && !upToDate.has(paper.id) === outOfDate)
      .map(({ id }) => id);
  const old = changed(true);
  const current = changed(false);
  return inTransaction(database, async (inside) => {
    const revision = await nextRevision(inside, { schoolId, folioId });
    for (const [ids, outOfDate] of [
      [old, true],
      [current, false],
    ] as const)
      for (let from = 0; from < ids.length; from += 1000)
        await inside.query(
          'UPDATE paper SET outOfDate = ?, revision = ? WHERE id IN (?) AND schoolId = ? AND folioId = ?',
          [outOfDate, revision, ids.slice(from, from + 1000), schoolId, folioId],
        );
    const { comparedWith } = await registerState(inside, folioId);
    // A run that has ended meanwhile made papers that were not among these.
    if (comparedWith !== before.comparedWith) return false;
    await setComparedWith(inside, folioId, now);
    return now === (await comparedWithNow(inside, await findFolio(inside, schoolId, folioId)));
  });
}
