import { In, IsNull, MoreThanOrEqual, Not, type EntityManager } from 'typeorm';
import { clearingOf } from '../register/judge-papers.js';
import type { FormAnswerRow } from '../store/entities/intake.js';
import { PaperRow } from '../store/entities/register.js';

/**
 * The papers that whoever answered can take along: those of the entry that were made since it was answered, that nobody holds, and that
 * are cleared where the school wants that.
 */
export async function ownPapers(
  manager: EntityManager,
  { schoolId, folioId, entryId, receivedAt, changedAt }: FormAnswerRow,
): Promise<PaperRow[]> {
  const isFree = (await clearingOf(manager, schoolId)) === 'free';
  return manager.find(PaperRow, {
    where: {
      schoolId,
      folioId,
      entryId,
      state: In(isFree ? ['pressed', 'cleared', 'dispatched'] : ['cleared', 'dispatched']),
      blobHash: Not(IsNull()),
      pressedAt: MoreThanOrEqual(changedAt ?? receivedAt),
      // It was planned before what was answered stood there.
      entryChanged: false,
    },
    order: { place: 'ASC', fileName: 'ASC' },
  });
}
