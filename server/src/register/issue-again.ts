import { In, type EntityManager } from 'typeorm';
import { conflict, notFound } from '../refusal.js';
import { EnclosureRow, MessageRow, PaperEventRow, PaperRow } from '../store/entities/register.js';
import { insertMany } from '../store/insert-many.js';
import { nextRevision, setComparedWith } from '../store/register-state.js';
import { closeNumbers } from './numbers.js';
import { PRESENT } from './present-papers.js';

/** Papers that are to be issued again, and why. */
export interface Reissue {
  readonly paperIds: readonly string[];
  readonly reason: string;
}

/**
 * Takes papers out of use that others shall take the place of: the next one that is pressed says which number it replaces. Messages
 * with them that have not left do not leave.
 *
 * @returns whose papers they are.
 * @throws Refusal `not-found` where one is not there or does not count any more; `on-its-way` where one is just being handed to the
 *   mail server.
 */
export async function takeForReissue(
  manager: EntityManager,
  { schoolId, folioId, staffId }: { schoolId: string; folioId: string; staffId: string | null },
  { paperIds, reason }: Reissue,
): Promise<string[]> {
  const ids = [...new Set(paperIds)];
  const revision = await nextRevision(manager, { schoolId, folioId });
  const enclosed = await manager.findBy(EnclosureRow, { schoolId, folioId, paperId: In(ids) });
  const messages = await manager.find(MessageRow, {
    select: { id: true, state: true },
    where: { schoolId, folioId, id: In(enclosed.map(({ messageId }) => messageId)) },
    lock: { mode: 'pessimistic_write' },
  });
  const papers = await manager.find(PaperRow, {
    select: { id: true, entryId: true, templateId: true, state: true },
    where: { schoolId, folioId, id: In(ids), state: In([...PRESENT]) },
    lock: { mode: 'pessimistic_write' },
  });
  if (papers.length < ids.length) throw notFound(ids.length === 1 ? 'This paper' : 'One of these papers');
  if (messages.some(({ state }) => state === 'sending'))
    throw conflict(
      'on-its-way',
      'One of these papers is just being handed to the mail server, so nothing was issued again. Look again in a moment.',
    );
  const left = messages.filter(({ state }) => state === 'queued' || state === 'deferred').map(({ id }) => id);
  if (left.length > 0) await manager.delete(MessageRow, { id: In(left), schoolId });
  await manager.update(
    PaperRow,
    { schoolId, folioId, id: In(ids) },
    { state: 'superseded', reissue: true, note: reason, outOfDate: false, revision: String(revision) },
  );
  await closeNumbers(manager, { schoolId, folioId }, papers);
  const at = new Date();
  await insertMany(
    manager,
    PaperEventRow,
    ids.map((paperId) => ({ schoolId, paperId, kind: 'replaced' as const, staffId, note: reason, at })),
  );
  await setComparedWith(manager, folioId, `reissue ${ids[0]} ${revision}`);
  return [...new Set(papers.map(({ entryId }) => entryId))];
}
