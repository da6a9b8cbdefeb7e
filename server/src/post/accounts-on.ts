import type { EntityManager } from 'typeorm';
import { conflict, notFound } from '../refusal.js';
import { School } from '../store/entities/people.js';
import { MailAccountRow } from '../store/entities/post.js';

/** What a school's messages leave through: an account of its own, or, by the school's own identity, the way the server knows by itself. */
export async function accountOn(manager: EntityManager, schoolId: string): Promise<string> {
  const school = await manager.findOneBy(School, { id: schoolId });
  return school?.accountId ?? schoolId;
}

/**
 * What somebody's messages leave through.
 *
 * @param wanted one's own account; what is on for the school where nothing is said.
 * @throws Refusal `not-found`; `post-changed` where the school's mail does not leave through its own accounts.
 */
export async function accountFor(
  manager: EntityManager,
  {
    schoolId,
    staffId,
    wanted,
  }: { readonly schoolId: string; readonly staffId: string | null; readonly wanted?: string | undefined },
): Promise<string> {
  const on = await accountOn(manager, schoolId);
  const accountId = wanted ?? on;
  if (accountId === schoolId) return on;
  // Held, so that it is not deleted meanwhile.
  const account = await manager.findOne(MailAccountRow, {
    where: { id: accountId, schoolId },
    lock: { mode: 'pessimistic_read' },
  });
  if (!account || (account.ownerId !== null && account.ownerId !== staffId))
    throw notFound('This mail account');
  if (accountId === on) return on;
  // What is on for practice keeps everything in.
  if (on === schoolId)
    throw conflict(
      'post-changed',
      'The school’s mail does not leave through accounts of its own now. Nothing was sent; see the post room.',
    );
  return accountId;
}
