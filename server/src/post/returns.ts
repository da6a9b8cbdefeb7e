import type { DataSource } from 'typeorm';
import { addressKey } from '@scriptum/core/column';
import { MessageRow } from '../store/entities/register.js';
import { changeKnownMessages } from './message-claims.js';
import { readReturn, type ReturnedFor } from './read-return.js';

/** What a report was good for. */
export type TakenReturn =
  | { readonly kind: 'marked'; readonly folioId: string; readonly messageId: string }
  /** It says nothing new: that of a message that is refused already, or that is only late. */
  | { readonly kind: 'known' }
  /** It is about no message of this school. */
  | { readonly kind: 'strange' }
  | { readonly kind: 'no report' };

/**
 * Takes in a report that a message did not reach its people (RFC 3464), and marks the message: refused where it reached nobody whom it
 * was sent to, else for whom it did not arrive. It is looked for among the school's messages alone.
 */
export async function takeReturn(database: DataSource, schoolId: string, raw: Buffer): Promise<TakenReturn> {
  const report = await readReturn(raw);
  if (!report) return { kind: 'no report' };
  const message = await database.manager.findOneBy(MessageRow, { schoolId, messageId: report.messageId });
  if (!message) return { kind: 'strange' };
  const failed = report.people.filter(({ action }) => action === 'failed');
  const all = [
    ...message.recipients,
    ...addressesOf(message.envelope?.cc),
    ...addressesOf(message.envelope?.bcc),
  ];
  const isOf =
    (address: string) =>
    ({ addresses }: ReturnedFor): boolean =>
      addresses.some((one) => addressKey(one) === addressKey(address));
  const missed = all.filter((address) => failed.some(isOf(address)));
  if (missed.length === 0) return { kind: 'known' };
  // By the addresses of the message, so that they are known again in a later report.
  const said = missed.map((address) => sayReturned(address, failed.find(isOf(address))!));
  const answer = `Came back: ${said.join(' ')}`.slice(0, 1000);
  const nobody = message.recipients.every((address) => missed.includes(address));
  let marked = false;
  await changeKnownMessages(database, [message], async (manager) => {
    const now = await manager.findOneOrFail(MessageRow, {
      where: { id: message.id, schoolId },
      lock: { mode: 'pessimistic_write' },
    });
    if (now.state !== 'sent' && now.state !== 'unconfirmed') return [];
    // Each of several reports of one message is kept.
    const before = now.state === 'sent' && now.answer?.startsWith('Came back: ') ? now.answer : null;
    if (before?.includes(answer.slice('Came back: '.length))) return [];
    const missedBefore = all.filter((address) => before?.includes(address));
    const reachesNobody =
      nobody || now.recipients.every((address) => missed.includes(address) || missedBefore.includes(address));
    marked = true;
    await manager.update(
      MessageRow,
      { id: message.id, schoolId },
      {
        answer: (before ? `${before} ${answer.slice('Came back: '.length)}` : answer).slice(0, 1000),
        ...(reachesNobody ? { state: 'refused' as const } : { state: 'sent' as const }),
      },
    );
    if (reachesNobody)
      await manager.query(
        `UPDATE paper p JOIN enclosure c ON c.paperId = p.id SET p.state = 'cleared'
         WHERE c.messageId = ? AND p.state = 'dispatched' AND NOT EXISTS (
           SELECT 1 FROM enclosure o JOIN message n ON n.id = o.messageId
           WHERE o.paperId = p.id AND o.messageId <> c.messageId AND n.state = 'sent')`,
        [message.id],
      );
    return [];
  });
  return marked ? { kind: 'marked', folioId: message.folioId, messageId: message.id } : { kind: 'known' };
}

const addressesOf = (people: readonly { readonly address: string }[] | undefined): string[] =>
  (people ?? []).map(({ address }) => address);

const sayReturned = (address: string, { status, diagnostic }: ReturnedFor): string =>
  `${address}: ${diagnostic || `status ${status}`}.`.replace(/\.\.$/, '.');
