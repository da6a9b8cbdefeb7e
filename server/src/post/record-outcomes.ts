import type { DataSource, EntityManager } from 'typeorm';
import { MailFaultRow } from '../store/entities/post.js';
import type { MessageRow } from '../store/entities/register.js';
import { changeKnownMessages, type DueMessage } from './message-claims.js';
import type { Delivery } from './transport.js';

export interface Outcome {
  readonly message: DueMessage;
  readonly delivery: Delivery;
}

/** Minutes until a deferred message, or an account with a fault, is tried again, by how often it was tried. */
export const WAITS = [1, 5, 15, 60, 180, 360, 720] as const;

/**
 * Writes down what became of messages that were taken under a claim. What was sent is known to be sent even where the
 * term has ended meanwhile; but not where a person has asked for it again since.
 *
 * @param faulty accounts that are known not to work.
 */
export async function recordOutcomes(
  database: DataSource,
  claim: string,
  outcomes: readonly Outcome[],
  now: Date,
  faulty: ReadonlySet<string>,
): Promise<void> {
  const ids = (some: readonly Outcome[]): string[] => some.map(({ message }) => message.id);
  const sent = outcomes.filter(({ delivery }) => delivery.state === 'sent');
  const others = outcomes.filter(({ delivery }) => delivery.state !== 'sent');
  const mended = outcomes.some(({ message }) => faulty.has(message.accountId));
  const messages = outcomes.map(({ message }) => message);
  await changeKnownMessages(database, messages, async (manager, revisions) => {
    for (const [folioId, revision] of revisions) {
      const own = sent.filter(({ message }) => message.folioId === folioId);
      if (own.length > 0) await recordSent(manager, { claim, ids: ids(own), now, revision });
      // Nobody is told twice; that somebody was not reached must stay visible.
      for (const { message, delivery } of own)
        if (delivery.notTaken)
          await manager.query('UPDATE message SET answer = ? WHERE id = ?', [delivery.notTaken, message.id]);
    }
    for (const { message, delivery } of others) {
      const { state, answer, attempts, nextAttemptAt } = setback(message, delivery, now);
      await manager.query(
        `UPDATE message SET state = ?, answer = ?, attempts = ?, nextAttemptAt = ?, claimedUntil = NULL
         WHERE id = ? AND claim = ? AND state IN ('sending', 'unconfirmed')`,
        [state, answer, attempts, nextAttemptAt, message.id, claim],
      );
    }
    if (others.length > 0 || mended) await recordAccounts(manager, outcomes, now);
    return ids(sent);
  });
}

const recordSent = (
  manager: EntityManager,
  { claim, ids, now, revision }: { claim: string; ids: readonly string[]; now: Date; revision: number },
): Promise<unknown> =>
  manager.query(
    `UPDATE message m LEFT JOIN enclosure c ON c.messageId = m.id LEFT JOIN paper p ON p.id = c.paperId
     SET m.state = 'sent', m.sentAt = ?, m.attempts = m.attempts + 1, m.answer = NULL, m.claim = NULL, m.claimedUntil = NULL,
         p.state = IF(p.state IN ('pressed', 'cleared', 'held'), 'dispatched', p.state), p.revision = ?
     WHERE m.id IN (?) AND m.claim = ? AND m.state IN ('sending', 'unconfirmed')`,
    [now, revision, ids, claim],
  );

function setback(
  message: DueMessage,
  { state, answer }: Delivery,
  now: Date,
): Pick<MessageRow, 'state' | 'answer' | 'attempts' | 'nextAttemptAt'> {
  const { attempts, nextAttemptAt } = message;
  // The account is to be mended, not this message; it comes behind the others when that is done.
  if (state === 'fault') return { state: 'deferred', answer, attempts, nextAttemptAt: now };
  if (state !== 'deferred')
    return { state: state as 'refused' | 'unconfirmed', answer, attempts: attempts + 1, nextAttemptAt };
  const minutes = WAITS[attempts];
  if (minutes === undefined)
    return {
      state: 'refused',
      answer: `Not taken after ${attempts + 1} tries. Last answer: ${answer}`.slice(0, 1000),
      attempts: attempts + 1,
      nextAttemptAt,
    };
  return { state, answer, attempts: attempts + 1, nextAttemptAt: later(now, minutes) };
}

/** A fault of an account is kept once, however many messages ran into it, until one gets through. */
async function recordAccounts(
  manager: EntityManager,
  outcomes: readonly Outcome[],
  now: Date,
): Promise<void> {
  const accounts = new Map(outcomes.map(({ message }) => [message.accountId, message.schoolId]));
  for (const [accountId, schoolId] of accounts) {
    const own = outcomes.filter(({ message }) => message.accountId === accountId);
    const fault = own.find(({ delivery }) => delivery.state === 'fault')?.delivery;
    const known = await manager.findOneBy(MailFaultRow, { accountId });
    if (!fault) {
      const reached = own.some(({ delivery }) => delivery.state !== 'unconfirmed');
      if (known && reached) await manager.delete(MailFaultRow, { accountId });
      continue;
    }
    const attempts = (known?.attempts ?? 0) + 1;
    const minutes = WAITS[Math.min(attempts, WAITS.length) - 1]!;
    await manager.upsert(
      MailFaultRow,
      {
        accountId,
        schoolId,
        fault: fault.answer.slice(0, 1000),
        since: known?.since ?? now,
        attempts,
        nextAttemptAt: later(now, minutes),
      },
      ['accountId'],
    );
  }
}

const later = (now: Date, minutes: number): Date => new Date(now.getTime() + minutes * 60_000);
