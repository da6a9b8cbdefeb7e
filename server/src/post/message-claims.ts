import type { DataSource, EntityManager } from 'typeorm';
import { microseconds, NOW, TERM_END } from '../store/claims.js';
import type { KeptEnvelope, MessageRow } from '../store/entities/register.js';
import { again, inTransaction } from '../store/in-transaction.js';
import { nextRevision } from '../store/register-state.js';

/** What sending needs of a message. */
export type DueMessage = Pick<
  MessageRow,
  | 'id'
  | 'schoolId'
  | 'folioId'
  | 'accountId'
  | 'dispatchId'
  | 'people'
  | 'messageId'
  | 'recipients'
  | 'envelope'
  | 'subject'
  | 'text'
  | 'html'
  | 'attempts'
  | 'queuedAt'
  | 'nextAttemptAt'
>;

type JsonMessage = Omit<DueMessage, 'recipients' | 'envelope'> & {
  readonly recipients: string;
  readonly envelope: string | null;
};

/** A message that is due, with its files in their order; one without bytes is not there any more. */
export interface Due {
  readonly message: DueMessage;
  readonly files: readonly {
    readonly paperId: string;
    readonly fileName: string;
    readonly bytes: Buffer | null;
    /** JSON of what it lies on. */
    readonly laidOn: string | null;
  }[];
}

const COLUMNS = `m.id, m.schoolId, m.folioId, m.accountId, m.dispatchId, m.people, m.messageId, m.recipients, m.envelope, m.subject,
  m.text, m.html, m.attempts, m.queuedAt, m.nextAttemptAt`;

/**
 * What keeps a message that is due from leaving: a paper is held or replaced, a learner gets none, its dispatch is stopped. Counted,
 * since the database would first gather the papers of all messages for `NOT EXISTS`, each time that some are looked for.
 */
const NOT_KEPT = `(SELECT COUNT(*) FROM enclosure c JOIN paper p ON p.id = c.paperId LEFT JOIN entry e ON e.id = c.entryId
    WHERE c.messageId = m.id AND (p.state NOT IN ('pressed', 'cleared', 'dispatched') OR e.leftOut IS NOT NULL OR e.gone = 1)) = 0
  AND NOT EXISTS (SELECT 1 FROM dispatch d WHERE d.id = m.dispatchId AND d.stoppedAt IS NOT NULL)`;
const MAY_LEAVE = `m.state IN ('queued', 'deferred') AND m.nextAttemptAt <= ${NOW} AND ${NOT_KEPT}`;
/** What closes the way for now: the hours or the pace of a dispatch. */
const OPEN = `NOT EXISTS (SELECT 1 FROM dispatch d WHERE d.id = m.dispatchId AND d.openAt > ${NOW})`;
/** Accounts whose messages leave now: they work, as far as is known, and keep to their pace and limit. */
const ACCOUNT_OPEN = `NOT EXISTS (SELECT 1 FROM mail_fault f WHERE f.accountId = m.accountId AND f.nextAttemptAt > ${NOW})
  AND NOT EXISTS (SELECT 1 FROM mail_account a WHERE a.id = m.accountId AND a.openAt > ${NOW})`;

/** The first ones of a state in the order of an index, so that it costs the same however many wait; new ones by their turn. */
const firstOf = (state: 'queued' | 'deferred'): string =>
  `(SELECT m.id FROM message m FORCE INDEX (${state === 'queued' ? 'message_turn' : 'message_due'})
    WHERE m.state = '${state}' AND m.accountId = ? AND m.nextAttemptAt <= ${NOW} AND ${NOT_KEPT} AND ${OPEN} AND ${ACCOUNT_OPEN}
    ORDER BY ${state === 'queued' ? 'm.turn' : 'm.nextAttemptAt'}, m.id LIMIT ?)`;

/** An account with messages that wait, and the school whose it is. */
export interface WaitingAccount {
  readonly accountId: string;
  readonly schoolId: string;
}

/** The accounts with messages that may be due, the one whose turn it is first. */
export async function accountsDue(manager: EntityManager): Promise<WaitingAccount[]> {
  const of = (state: 'queued' | 'deferred', order: string): string =>
    `SELECT accountId, MIN(${order}) AS first FROM message WHERE state = '${state}' GROUP BY accountId`;
  const waiting = await manager.query<{ accountId: string; first: string }[]>(
    `${of('queued', 'turn')} UNION ALL SELECT accountId, 0 FROM (${of('deferred', 'nextAttemptAt')}) d WHERE d.first <= ${NOW}`,
  );
  const ids = [
    ...new Set(waiting.sort((a, b) => Number(a.first) - Number(b.first)).map((one) => one.accountId)),
  ];
  if (ids.length === 0) return [];
  const open = await manager.query<WaitingAccount[]>(
    `SELECT m.accountId, m.schoolId FROM (SELECT id AS accountId, id AS schoolId FROM school WHERE id IN (?)
       UNION ALL SELECT id, schoolId FROM mail_account WHERE id IN (?)) m WHERE ${ACCOUNT_OPEN}`,
    [ids, ids],
  );
  return ids.flatMap((id) => open.find(({ accountId }) => accountId === id) ?? []);
}

/**
 * An account's messages that may leave, with their files. Nothing is taken by this; another server may see the same ones.
 *
 * @param skip how many to pass over, where others take the first ones.
 */
export async function findDue(
  manager: EntityManager,
  accountId: string,
  most: number,
  skip = 0,
): Promise<Due[]> {
  const some = [accountId, most + skip];
  const rows = await manager.query<JsonMessage[]>(
    `SELECT ${COLUMNS}
     FROM (${firstOf('queued')} UNION ALL ${firstOf('deferred')} LIMIT ? OFFSET ?) due
     JOIN message m ON m.id = due.id ORDER BY m.state = 'deferred', m.turn, m.id`,
    [...some, ...some, most, skip],
  );
  return withFiles(manager, rows);
}

/** A message with its files, whatever became of it; null for another school's. */
export async function messageWithFiles(
  manager: EntityManager,
  schoolId: string,
  id: string,
): Promise<Due | null> {
  const rows = await manager.query<JsonMessage[]>(
    `SELECT ${COLUMNS} FROM message m WHERE m.schoolId = ? AND m.id = ?`,
    [schoolId, id],
  );
  return (await withFiles(manager, rows))[0] ?? null;
}

async function withFiles(manager: EntityManager, rows: readonly JsonMessage[]): Promise<Due[]> {
  if (rows.length === 0) return [];
  const enclosed = await manager.query<(Due['files'][number] & { messageId: string })[]>(
    `SELECT c.messageId, c.paperId, p.fileName, p.laidOn, b.bytes FROM enclosure c JOIN paper p ON p.id = c.paperId
     LEFT JOIN blob_file b ON b.schoolId = p.schoolId AND b.hash = p.blobHash
     WHERE c.messageId IN (?) ORDER BY c.messageId, c.place, c.paperId`,
    [rows.map(({ id }) => id)],
  );
  return rows.map(({ recipients, envelope, ...message }) => ({
    message: {
      ...message,
      recipients: JSON.parse(recipients) as string[],
      envelope: envelope === null ? null : (JSON.parse(envelope) as KeptEnvelope),
    },
    files: enclosed.filter(({ messageId }) => messageId === message.id),
  }));
}

/**
 * Takes messages to send them, committed before a byte of them leaves.
 *
 * @param claim names who takes them.
 * @param term milliseconds.
 * @returns those that were taken: not one that another server took meanwhile, or that may not leave any more.
 */
export async function takeMessages(
  database: DataSource,
  claim: string,
  due: readonly Due[],
  term: number,
): Promise<readonly Due[]> {
  const ids = due.map(({ message }) => message.id);
  const { affectedRows } = await again(() =>
    database.query<{ affectedRows: number }>(
      `UPDATE message m SET m.state = 'sending', m.claim = ?, m.claimedUntil = ${TERM_END}
       WHERE m.id IN (?) AND ${MAY_LEAVE}`,
      [claim, microseconds(term), ids],
    ),
  );
  if (affectedRows === due.length) return due;
  const rows = await database.query<{ id: string }[]>(
    "SELECT id FROM message WHERE claim = ? AND state = 'sending' AND id IN (?)",
    [claim, ids],
  );
  const ours = new Set(rows.map(({ id }) => id));
  return due.filter(({ message }) => ours.has(message.id));
}

/** Says that what was taken under this claim is still being sent. */
export async function renewMessages(database: DataSource, claim: string, term: number): Promise<void> {
  await database.query(
    `UPDATE message SET claimedUntil = ${TERM_END} WHERE claim = ? AND state = 'sending'`,
    [microseconds(term), claim],
  );
}

/** Puts taken messages of which nothing has left back into the queue, even where their term has ended meanwhile. */
export async function putBackMessages(
  database: DataSource,
  claim: string,
  ids: readonly string[],
): Promise<void> {
  if (ids.length === 0) return;
  await changeMessages(database, ids, (manager) =>
    manager.query(
      `UPDATE message SET state = 'queued', answer = NULL, claim = NULL, claimedUntil = NULL
       WHERE id IN (?) AND claim = ? AND state IN ('sending', 'unconfirmed')`,
      [ids, claim],
    ),
  );
}

/** Changes messages in one transaction, in which the registers of their folios get a revision. */
export async function changeMessages(
  database: DataSource,
  ids: readonly string[],
  change: (manager: EntityManager) => Promise<unknown>,
): Promise<void> {
  const messages = await database.query<{ id: string; schoolId: string; folioId: string }[]>(
    'SELECT id, schoolId, folioId FROM message WHERE id IN (?)',
    [ids],
  );
  await changeKnownMessages(database, messages, async (manager) => {
    await change(manager);
    return [];
  });
}

/**
 * As `changeMessages`, where it is known which folios they are of.
 *
 * @param change returns the messages whose papers it has given their revision itself.
 */
export async function changeKnownMessages(
  database: DataSource,
  messages: readonly Pick<DueMessage, 'id' | 'schoolId' | 'folioId'>[],
  change: (manager: EntityManager, revisions: Revisions) => Promise<readonly string[]>,
): Promise<void> {
  const folios = new Map(messages.map(({ folioId, schoolId }) => [folioId, schoolId]));
  await inTransaction(database, async (manager) => {
    // In one order, so that two who change messages of several folios do not wait for each other.
    const revisions: Revisions = new Map();
    for (const [folioId, schoolId] of [...folios].sort(([a], [b]) => (a < b ? -1 : 1)))
      revisions.set(folioId, await nextRevision(manager, { schoolId, folioId }));
    const told = new Set(await change(manager, revisions));
    for (const [folioId, revision] of revisions) {
      const ids = messages.flatMap(({ id, folioId: of }) => (of === folioId && !told.has(id) ? id : []));
      if (ids.length > 0)
        await manager.query(
          'UPDATE paper p JOIN enclosure c ON c.paperId = p.id SET p.revision = ? WHERE c.messageId IN (?)',
          [revision, ids],
        );
    }
  });
}

/** The revisions of registers that a change makes, by folio. */
export type Revisions = Map<string, number>;

/**
 * Settles what no living server says it is sending: nobody knows whether it arrived, so it waits for a person.
 *
 * @returns the folios that it concerns.
 */
export async function settleExpired(database: DataSource): Promise<string[]> {
  const expired = `state = 'sending' AND (claimedUntil IS NULL OR claimedUntil <= ${NOW})`;
  const rows = await database.query<{ id: string; folioId: string }[]>(
    `SELECT id, folioId FROM message WHERE ${expired}`,
  );
  if (rows.length === 0) return [];
  const ids = rows.map(({ id }) => id);
  await changeMessages(database, ids, (manager) =>
    manager.query(`UPDATE message SET state = 'unconfirmed', answer = ? WHERE id IN (?) AND ${expired}`, [
      'Scriptum was stopped between handing the message over and hearing the answer.',
      ids,
    ]),
  );
  return [...new Set(rows.map(({ folioId }) => folioId))];
}
