import type { DispatchProgress, MessageState, PaperLine, Register, Run } from '@scriptum/core/contract';
import { comparePaperOrder } from '@scriptum/core/paper';
import type { EntityManager } from 'typeorm';
import { MailFaultRow } from '../store/entities/post.js';
import { PressRunRow } from '../store/entities/register.js';
import { registerState } from '../store/register-state.js';

/** States of messages, those that nobody has to care for first. */
const BEST_FIRST = "'sent', 'queued', 'deferred', 'sending', 'refused', 'unconfirmed'";

/**
 * The papers of a folio, the newest run, and how dispatch is getting on. Which papers are out of date stands written.
 *
 * @param since the revision that is known; only what changed after it is told then, unless papers were taken out since.
 */
export async function loadRegister(
  manager: EntityManager,
  { schoolId, folioId, since }: { schoolId: string; folioId: string; since?: number | undefined },
): Promise<Omit<Register, 'comparing'>> {
  // Read first: what changes from here on is told once more the next time.
  const { revision, wholeSince } = await registerState(manager, folioId);
  const whole = since === undefined || since > revision || since < wholeSince;
  const [papers, run, dispatch] = await Promise.all([
    !whole && since === revision ? [] : linesSince(manager, { schoolId, folioId }, whole ? null : since),
    latestRun(manager, schoolId, folioId),
    progress(manager, schoolId, folioId),
  ]);
  return { revision, whole, papers, run, dispatch };
}

interface LineRow extends Omit<
  PaperLine,
  'pressedAt' | 'judgedAt' | 'outOfDate' | 'entryChanged' | 'excepted' | 'message'
> {
  readonly judgedAt: Date | null;
  readonly pressedAt: Date | null;
  readonly outOfDate: 0 | 1;
  readonly entryChanged: 0 | 1;
  readonly excepted: 0 | 1;
}

interface MessageLineRow {
  readonly paperId: string;
  readonly id: string;
  readonly recipients: string;
  readonly state: MessageState;
  readonly answer: string | null;
  readonly sentAt: Date | null;
  /** How often its private link was opened; null where it has none. */
  readonly opens: number | null;
}

/** The lines of papers that changed after a revision, or of all, in the order of a register. */
async function linesSince(
  manager: EntityManager,
  { schoolId, folioId }: { schoolId: string; folioId: string },
  since: number | null,
): Promise<PaperLine[]> {
  const which = `p.schoolId = ? AND p.folioId = ? ${since === null ? '' : 'AND p.revision > ?'}`;
  const lines = await paperLines(manager, which, [schoolId, folioId, ...(since === null ? [] : [since])]);
  return lines.sort(comparePaperOrder);
}

/**
 * The lines of papers. The last message with a paper tells how it is with it.
 *
 * @param which a condition on papers `p`, with what is given for it.
 */
export async function paperLines(
  manager: EntityManager,
  which: string,
  given: readonly unknown[],
): Promise<PaperLine[]> {
  const [rows, messages] = await Promise.all([
    manager.query<LineRow[]>(
      `SELECT p.id, p.entryId, p.templateId, p.position, p.place, p.learner, p.number, p.replacesNumber, p.fileName, p.state, p.reason,
         p.pages, p.bytes, p.pressedAt, p.outOfDate, p.entryChanged, m.name AS madeBy, j.name AS judgedBy, p.judgedAt, p.note, p.changed,
         p.exceptionId IS NOT NULL AS excepted, d.path AS lies
       FROM paper p LEFT JOIN dropped d ON d.paperId = p.id LEFT JOIN press_run r ON r.id = p.runId LEFT JOIN staff m ON m.id = r.staffId LEFT JOIN staff j ON j.id = p.judgedBy
       WHERE ${which}`,
      [...given],
    ),
    manager.query<MessageLineRow[]>(
      `SELECT p.id AS paperId, m.id, m.recipients, m.state, m.answer, m.sentAt, l.opens
       FROM paper p JOIN enclosure c ON c.paperId = p.id JOIN message m ON m.id = c.messageId
         LEFT JOIN private_link l ON l.messageId = m.id WHERE ${which}
       ORDER BY c.settledBy IS NULL, FIELD(m.state, ${BEST_FIRST}), m.queuedAt, m.turn`,
      [...given],
    ),
  ]);
  // The last one of a paper counts: that of which somebody has to know.
  const messageOf = new Map(messages.map((message) => [message.paperId, message]));
  const goesTo = new Map<string, Set<string>>();
  const counts = new Map<string, number>();
  const opened = new Map<string, boolean>();
  for (const { paperId, recipients, opens } of messages) {
    const all = goesTo.get(paperId) ?? new Set();
    for (const address of JSON.parse(recipients) as string[]) all.add(address);
    goesTo.set(paperId, all);
    counts.set(paperId, (counts.get(paperId) ?? 0) + 1);
    if (opens !== null) opened.set(paperId, opens > 0 || opened.get(paperId) === true);
  }
  return rows.map((row): PaperLine => {
    const { pressedAt, judgedAt, outOfDate, entryChanged, excepted } = row;
    const message = messageOf.get(row.id);
    return Object.assign(row, {
      pressedAt: pressedAt && pressedAt.toISOString(),
      judgedAt: judgedAt && judgedAt.toISOString(),
      outOfDate: outOfDate === 1 && row.state !== 'superseded',
      entryChanged: entryChanged === 1,
      excepted: excepted === 1,
      message: message
        ? {
            id: message.id,
            to: [...goesTo.get(row.id)!].join(', '),
            count: counts.get(row.id)!,
            state: message.state,
            answer: message.answer,
            sentAt: message.sentAt && message.sentAt.toISOString(),
            opened: opened.get(row.id) ?? null,
          }
        : null,
    });
  });
}

async function progress(
  manager: EntityManager,
  schoolId: string,
  folioId: string,
): Promise<DispatchProgress> {
  const [states, [kept], broken] = await Promise.all([
    manager.query<{ state: string; n: string }[]>(
      `SELECT m.state, COUNT(*) AS n FROM message m WHERE m.schoolId = ? AND m.folioId = ?
         AND (m.state NOT IN ('refused', 'unconfirmed')
           OR EXISTS (SELECT 1 FROM enclosure c WHERE c.messageId = m.id AND c.settledBy IS NULL))
       GROUP BY m.state`,
      [schoolId, folioId],
    ),
    manager.query<{ n: string }[]>(
      `SELECT COUNT(DISTINCT m.id) AS n FROM message m JOIN enclosure c ON c.messageId = m.id JOIN paper p ON p.id = c.paperId
         LEFT JOIN entry e ON e.id = p.entryId
       WHERE m.schoolId = ? AND m.folioId = ? AND m.state IN ('queued', 'deferred')
         AND (p.state = 'held' OR e.leftOut IS NOT NULL OR e.gone = 1)`,
      [schoolId, folioId],
    ),
    manager
      .createQueryBuilder(MailFaultRow, 'f')
      .where('f.schoolId = :schoolId', { schoolId })
      .andWhere(
        `EXISTS (SELECT 1 FROM message m WHERE m.folioId = :folioId AND m.accountId = f.accountId
           AND m.state IN ('queued', 'deferred'))`,
        { folioId },
      )
      .orderBy('f.since')
      .getOne(),
  ]);
  const count = (...wanted: string[]): number =>
    states.filter(({ state }) => wanted.includes(state)).reduce((sum, { n }) => sum + Number(n), 0);
  return {
    total: states.reduce((sum, { n }) => sum + Number(n), 0),
    sent: count('sent'),
    waiting: count('queued', 'sending', 'deferred'),
    refused: count('refused'),
    unconfirmed: count('unconfirmed'),
    keptBack: Number(kept!.n),
    fault: faultOf(broken),
  };
}

/** Why an account's mail does not go out, as it is told. */
export const faultOf = (
  row: MailFaultRow | null | undefined,
): { answer: string; since: string; nextAttemptAt: string } | null =>
  row
    ? { answer: row.fault, since: row.since.toISOString(), nextAttemptAt: row.nextAttemptAt.toISOString() }
    : null;

export async function latestRun(
  manager: EntityManager,
  schoolId: string,
  folioId: string,
): Promise<Run | null> {
  const run = await manager.findOne(PressRunRow, {
    where: { schoolId, folioId },
    order: { startedAt: 'DESC' },
  });
  return run && describeRun(manager, run);
}

export async function describeRun(manager: EntityManager, run: PressRunRow): Promise<Run> {
  const rows: { state: string; n: string }[] = await manager.query(
    'SELECT state, COUNT(*) AS n FROM paper WHERE runId = ? AND schoolId = ? GROUP BY state',
    [run.id, run.schoolId],
  );
  const count = (state: string): number => Number(rows.find((row) => row.state === state)?.n ?? 0);
  const failed = count('failed');
  const all = rows.reduce((sum, row) => sum + Number(row.n), 0);
  return {
    id: run.id,
    state: run.state,
    total: run.total,
    pressed: all - failed - count('waiting'),
    failed,
    startedAt: run.startedAt.toISOString(),
    finishedAt: run.finishedAt?.toISOString() ?? null,
  };
}
