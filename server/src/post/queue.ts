import type { MailQueue, QueuedMessage, QueueSought } from '@scriptum/core/contract';
import { soughtWords } from '@scriptum/core/paper';
import type { EntityManager } from 'typeorm';
import { FolioRow } from '../store/entities/folio.js';
import { MailAccountRow } from '../store/entities/post.js';
import type { KeptEnvelope, MessageRow } from '../store/entities/register.js';
import { WritingRow } from '../store/entities/writing.js';

/** Messages of one answer, and up to how many are counted. */
const AT_ONCE = 50;
const COUNTED = 1_000;

const STATES: Readonly<Record<NonNullable<QueueSought['state']>, string>> = {
  waiting: "m.state IN ('queued', 'sending', 'deferred')",
  sent: "m.state = 'sent'",
  refused: "m.state = 'refused'",
  unconfirmed: "m.state = 'unconfirmed'",
};

interface Found {
  readonly id: string;
  readonly queuedAt: Date;
}

/** The messages of a school that are looked for, over all folios, the newest first. All is found in one index. */
export async function searchQueue(
  manager: EntityManager,
  schoolId: string,
  { text = '', folioId, state, after }: QueueSought,
  builtIn: string,
): Promise<MailQueue> {
  const parts = ['m.schoolId = ?'];
  const given: unknown[] = [schoolId];
  for (const word of soughtWords(text)) {
    parts.push('m.sought LIKE ?');
    given.push(`%${word.replace(/[\\%_]/g, '\\$&')}%`);
  }
  if (folioId) {
    parts.push('m.folioId = ?');
    given.push(folioId);
  }
  if (state) parts.push(STATES[state]);
  const behind = after?.split(' ');
  if (behind) {
    parts.push('(m.queuedAt, m.id) < (?, ?)');
    given.push(new Date(behind[0]!), behind[1]);
  }
  // One look counts them and finds the first ones.
  const found = await manager.query<Found[]>(
    `SELECT m.id, m.queuedAt FROM message m FORCE INDEX (message_sought) WHERE ${parts.join(' AND ')}
     ORDER BY m.queuedAt DESC, m.id DESC LIMIT ?`,
    [...given, (behind ? AT_ONCE : COUNTED) + 1],
  );
  const some = found.slice(0, AT_ONCE);
  const last = some.at(-1);
  return {
    messages: await described(
      manager,
      schoolId,
      some.map(({ id }) => id),
      builtIn,
    ),
    after: found.length > AT_ONCE && last ? `${last.queuedAt.toISOString()} ${last.id}` : null,
    count: behind ? null : Math.min(COUNTED, found.length),
    more: !behind && found.length > COUNTED,
  };
}

type Row = Pick<
  MessageRow,
  | 'id'
  | 'folioId'
  | 'subject'
  | 'state'
  | 'answer'
  | 'attempts'
  | 'noteId'
  | 'accountId'
  | 'queuedAt'
  | 'sentAt'
  | 'nextAttemptAt'
> & { readonly recipients: string; readonly envelope: string | null };

async function described(
  manager: EntityManager,
  schoolId: string,
  ids: readonly string[],
  builtIn: string,
): Promise<QueuedMessage[]> {
  if (ids.length === 0) return [];
  const [rows, papers, accounts, folios, notes] = await Promise.all([
    manager.query<Row[]>(
      `SELECT id, folioId, recipients, envelope, subject, state, answer, attempts, noteId, accountId, queuedAt, sentAt, nextAttemptAt
       FROM message WHERE schoolId = ? AND id IN (?)`,
      [schoolId, ids],
    ),
    manager.query<{ messageId: string; learner: string }[]>(
      `SELECT c.messageId, p.learner FROM enclosure c JOIN paper p ON p.id = c.paperId
       WHERE c.schoolId = ? AND c.messageId IN (?) ORDER BY c.place`,
      [schoolId, ids],
    ),
    manager.findBy(MailAccountRow, { schoolId }),
    manager.find(FolioRow, { select: { id: true, title: true }, where: { schoolId } }),
    manager.find(WritingRow, { select: { id: true, name: true }, where: { schoolId, kind: 'note' } }),
  ]);
  const byId = new Map(rows.map((row) => [row.id, row]));
  return ids.flatMap((id): QueuedMessage[] => {
    const row = byId.get(id);
    if (!row) return [];
    const own = papers.filter(({ messageId }) => messageId === id);
    const envelope = row.envelope === null ? null : (JSON.parse(row.envelope) as KeptEnvelope);
    const waits = row.state === 'queued' || row.state === 'deferred';
    return [
      {
        id,
        folioId: row.folioId,
        folio: folios.find((folio) => folio.id === row.folioId)?.title ?? '',
        learners: [...new Set(own.map(({ learner }) => learner))],
        to: JSON.parse(row.recipients) as string[],
        cc: envelope?.cc.map(({ address }) => address) ?? [],
        bcc: envelope?.bcc.map(({ address }) => address) ?? [],
        subject: row.subject,
        note: notes.find((note) => note.id === row.noteId)?.name ?? null,
        state: row.state,
        answer: row.answer,
        attempts: row.attempts,
        papers: own.length,
        through:
          row.accountId === schoolId
            ? builtIn
            : (accounts.find((account) => account.id === row.accountId)?.name ?? 'an account that is gone'),
        queuedAt: row.queuedAt.toISOString(),
        sentAt: row.sentAt?.toISOString() ?? null,
        nextAttemptAt: waits ? row.nextAttemptAt.toISOString() : null,
      },
    ];
  });
}
