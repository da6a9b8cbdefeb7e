import { In, IsNull, MoreThanOrEqual, Not, type EntityManager } from 'typeorm';
import { OrderWorkRow, StandingOrderRow } from '../store/entities/orders.js';
import { clearingOf } from '../register/judge-papers.js';
import type { FormAnswerRow } from '../store/entities/intake.js';
import { PaperRow } from '../store/entities/register.js';

/**
 * The papers that whoever answered can take along: those of the entry that were made since it was answered, that nobody holds, and that
 * are cleared where the school wants that, or where a standing order asks for somebody's yes: that yes clears them.
 */
export async function ownPapers(
  manager: EntityManager,
  { schoolId, folioId, entryId, receivedAt, changedAt }: FormAnswerRow,
): Promise<PaperRow[]> {
  const isFree =
    (await clearingOf(manager, schoolId)) === 'free' &&
    !(await isAskedFor(manager, { schoolId, folioId, entryId }));
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

/** True where a standing order has the papers of an entry wait for a yes, or did. */
async function isAskedFor(
  manager: EntityManager,
  entry: { readonly schoolId: string; readonly folioId: string; readonly entryId: string },
): Promise<boolean> {
  const works = await manager.find(OrderWorkRow, { select: { orderId: true }, where: entry });
  if (works.length === 0) return false;
  const orders = await manager.findBy(StandingOrderRow, { id: In(works.map(({ orderId }) => orderId)) });
  return orders.some(({ content }) => content.then.kind === 'ask');
}
