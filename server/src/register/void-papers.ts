import type { Judged } from '@scriptum/core/contract';
import { In, type EntityManager } from 'typeorm';
import { PaperEventRow, PaperRow } from '../store/entities/register.js';
import { findFolio } from '../store/folios.js';
import { insertMany } from '../store/insert-many.js';
import { nextRevision, setComparedWith } from '../store/register-state.js';
import { takeOutOfUse } from './out-of-use.js';

/**
 * Voids papers: they stand for nobody any more, and say why for as long as they are kept. Messages with them that have not
 * left do not leave. Those that do not stand for their learner anyway are passed over.
 *
 * @throws Refusal `not-found` where one is not there; `on-its-way` where one is just being handed to the mail server.
 */
export async function voidPapers(
  manager: EntityManager,
  {
    schoolId,
    folioId,
    staffId,
    paperIds,
    reason,
  }: {
    schoolId: string;
    folioId: string;
    staffId: string | null;
    paperIds: readonly string[];
    reason: string;
  },
): Promise<Judged> {
  await findFolio(manager, schoolId, folioId);
  const revision = await nextRevision(manager, { schoolId, folioId });
  const { standing, passedOver } = await takeOutOfUse(manager, { schoolId, folioId }, paperIds, 'voided');
  const voided = standing.map(({ id }) => id);
  if (voided.length > 0) {
    const at = new Date();
    await manager.update(
      PaperRow,
      { schoolId, folioId, id: In(voided) },
      {
        state: 'void',
        note: reason,
        judgedBy: staffId,
        judgedAt: at,
        outOfDate: false,
        heldBack: false,
        revision: String(revision),
      },
    );
    await insertMany(
      manager,
      PaperEventRow,
      voided.map((paperId) => ({ schoolId, paperId, kind: 'voided' as const, staffId, note: reason, at })),
    );
    // Rules may ask whether there is a paper.
    await setComparedWith(manager, folioId, `void ${voided[0]} ${revision}`);
  }
  return { done: voided.length, own: 0, passedOver };
}
