import { In, type EntityManager } from 'typeorm';
import { notFound } from '../refusal.js';
import { PaperEventRow, PaperRow } from '../store/entities/register.js';
import { insertMany } from '../store/insert-many.js';
import { nextRevision, setComparedWith } from '../store/register-state.js';
import { takeOutOfUse } from './out-of-use.js';

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
  const { standing, passedOver } = await takeOutOfUse(manager, { schoolId, folioId }, ids, 'issued again');
  if (passedOver > 0) throw notFound(ids.length === 1 ? 'This paper' : 'One of these papers');
  await manager.update(
    PaperRow,
    { schoolId, folioId, id: In(ids) },
    { state: 'superseded', reissue: true, note: reason, outOfDate: false, revision: String(revision) },
  );
  const at = new Date();
  await insertMany(
    manager,
    PaperEventRow,
    ids.map((paperId) => ({ schoolId, paperId, kind: 'replaced' as const, staffId, note: reason, at })),
  );
  await setComparedWith(manager, folioId, `reissue ${ids[0]} ${revision}`);
  return [...new Set(standing.map(({ entryId }) => entryId))];
}
