import { In, type EntityManager } from 'typeorm';
import { conflict, notFound } from '../refusal.js';
import { EnclosureRow, MessageRow, PaperRow } from '../store/entities/register.js';
import { closeNumbers } from './numbers.js';
import { PRESENT } from './present-papers.js';

interface Place {
  readonly schoolId: string;
  readonly folioId: string;
}

/** A paper that is locked, as far as it matters here. */
export type LockedPaper = Pick<PaperRow, 'id' | 'entryId' | 'templateId' | 'state'>;

/**
 * Locks papers that are to be taken out of use, with their messages.
 *
 * @param done what is not done where one is on its way, such as `voided`.
 * @returns those that stand for their learners; their messages that have not left are taken out, and their numbers are closed.
 * @throws Refusal `not-found` where one is not there; `on-its-way` where one is just being handed to the mail server.
 */
export async function takeOutOfUse(
  manager: EntityManager,
  { schoolId, folioId }: Place,
  paperIds: readonly string[],
  done: string,
): Promise<{ standing: readonly LockedPaper[]; passedOver: number }> {
  const ids = [...new Set(paperIds)];
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
      `One of these papers is just being handed to the mail server, so nothing was ${done}. Look again in a moment.`,
    );
  const counts: readonly string[] = PRESENT;
  const standing = papers.filter(({ state }) => counts.includes(state));
  if (standing.length > 0) {
    const left = messages.filter(({ state }) => state === 'queued' || state === 'deferred');
    if (left.length > 0) await manager.delete(MessageRow, { id: In(left.map(({ id }) => id)), schoolId });
    await closeNumbers(manager, { schoolId, folioId }, standing);
  }
  return { standing, passedOver: papers.length - standing.length };
}
