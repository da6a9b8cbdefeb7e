import type { Judged } from '@scriptum/core/contract';
import { In, type EntityManager } from 'typeorm';
import { conflict, notFound } from '../refusal.js';
import { EnclosureRow, MessageRow, PaperEventRow, PaperRow } from '../store/entities/register.js';
import { findFolio } from '../store/folios.js';
import { insertMany } from '../store/insert-many.js';
import { nextRevision, setComparedWith } from '../store/register-state.js';
import { closeNumbers } from './numbers.js';
import { PRESENT } from './present-papers.js';

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
  const ids = [...new Set(paperIds)];
  await findFolio(manager, schoolId, folioId);
  const revision = await nextRevision(manager, { schoolId, folioId });
  const enclosed = await manager.findBy(EnclosureRow, { schoolId, folioId, paperId: In(ids) });
  const messages = await manager.find(MessageRow, {
    select: { id: true, state: true },
    where: { schoolId, folioId, id: In(enclosed.map(({ messageId }) => messageId)) },
    lock: { mode: 'pessimistic_write' },
  });
  const papers = await manager.find(PaperRow, {
    select: { id: true, entryId: true, templateId: true, state: true },
    where: { schoolId, folioId, id: In(ids) },
    lock: { mode: 'pessimistic_write' },
  });
  if (papers.length < ids.length) throw notFound(ids.length === 1 ? 'This paper' : 'One of these papers');
  if (messages.some(({ state }) => state === 'sending'))
    throw conflict(
      'on-its-way',
      'One of these papers is just being handed to the mail server, so nothing was voided. Look again in a moment.',
    );
  const standing: readonly string[] = PRESENT;
  const counted = papers.filter(({ state }) => standing.includes(state));
  const voided = counted.map(({ id }) => id);
  if (voided.length > 0) {
    const left = messages
      .filter(({ state }) => state === 'queued' || state === 'deferred')
      .map(({ id }) => id);
    if (left.length > 0) await manager.delete(MessageRow, { id: In(left), schoolId });
    const at = new Date();
    await closeNumbers(manager, { schoolId, folioId }, counted);
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
  return { done: voided.length, own: 0, passedOver: papers.length - voided.length };
}
