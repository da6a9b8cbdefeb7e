import type { DispatchProgress, PaperLine, Register, Run } from '@scriptum/core/contract';
import { IsNull, Not, type DataSource, type EntityManager } from 'typeorm';
import { paperKey, planPapers } from '@scriptum/core/paper';
import { templatesOf } from '@scriptum/core/template';
import { presentAmong, type MadePaper } from './present-papers.js';
import { EntryRow } from '../store/entities/folio.js';
import {
  EnclosureRow,
  MailAccountRow,
  MessageRow,
  PaperRow,
  PressRunRow,
} from '../store/entities/register.js';
import { findFolio } from '../store/folios.js';
import { firstWriting, loadWritings } from '../store/writings.js';
import { loadWorkedRoll } from '../roll/worked-roll.js';

/** The papers of a folio in the order of the roll, the newest run, and how dispatch is getting on. */
export async function loadRegister(
  database: DataSource,
  schoolId: string,
  folioId: string,
): Promise<Register> {
  const { manager } = database;
  await findFolio(manager, schoolId, folioId);
  const [papers, messages, enclosures, run, account, leftOut] = await Promise.all([
    manager
      .createQueryBuilder(PaperRow, 'p')
      .select([
        'p.id',
        'p.entryId',
        'p.learner',
        'p.fileName',
        'p.templateId',
        'p.lookHash',
        'p.state',
        'p.reason',
        'p.pages',
        'p.bytes',
        'p.pressedAt',
        'p.position',
      ])
      .where({ schoolId, folioId })
      .orderBy('p.position')
      .addOrderBy('p.pressedAt', 'DESC')
      .getMany(),
    manager.find(MessageRow, {
      select: { id: true, recipients: true, state: true, answer: true, sentAt: true },
      where: { schoolId, folioId },
      order: { queuedAt: 'ASC' },
    }),
    manager.findBy(EnclosureRow, { schoolId, folioId }),
    latestRun(manager, schoolId, folioId),
    manager.findOneBy(MailAccountRow, { schoolId }),
    manager.find(EntryRow, {
      select: { id: true },
      where: [
        { schoolId, folioId, leftOut: Not(IsNull()) },
        { schoolId, folioId, gone: true },
      ],
    }),
  ]);
  const current = await upToDate(manager, schoolId, folioId, papers);
  const papersOf = new Map<string, string[]>();
  for (const { messageId, paperId } of enclosures)
    papersOf.set(messageId, [...(papersOf.get(messageId) ?? []), paperId]);
  // The last message with a paper tells how it is with that paper.
  const messageOf = new Map(
    messages.flatMap((message) => (papersOf.get(message.id) ?? []).map((paperId) => [paperId, message])),
  );
  return {
    papers: papers.map((paper) => paperLine(paper, messageOf.get(paper.id), current)),
    run,
    dispatch: progress(messages, papersOf, papers, new Set(leftOut.map(({ id }) => id)), account),
  };
}

/** Which papers would come out the same now, under the same name, by `paperKey`. */
async function upToDate(
  manager: EntityManager,
  schoolId: string,
  folioId: string,
  papers: readonly MadePaper[],
): Promise<ReadonlySet<string>> {
  const folio = await findFolio(manager, schoolId, folioId);
  const writings = await loadWritings(manager, { schoolId, folioId });
  const { roll } = await loadWorkedRoll(manager, folio);
  const present = presentAmong(papers);
  const planned = planPapers(
    roll,
    templatesOf(writings),
    firstWriting(writings, 'filing').content,
    present.nameOf,
  );
  return new Set(planned.filter((paper) => present.isUpToDate(paper)).map(paperKey));
}

function paperLine(
  paper: PaperRow,
  message: MessageRow | undefined,
  current: ReadonlySet<string>,
): PaperLine {
  const stands = paper.state !== 'superseded' && paper.state !== 'waiting' && paper.state !== 'failed';
  return {
    id: paper.id,
    entryId: paper.entryId,
    templateId: paper.templateId,
    learner: paper.learner,
    fileName: paper.fileName,
    state: paper.state,
    reason: paper.reason,
    pages: paper.pages,
    bytes: paper.bytes,
    pressedAt: paper.pressedAt?.toISOString() ?? null,
    outOfDate: stands && !current.has(paperKey(paper)),
    message: message
      ? {
          id: message.id,
          to: message.recipients.join(', '),
          state: message.state,
          answer: message.answer,
          sentAt: message.sentAt?.toISOString() ?? null,
        }
      : null,
  };
}

function progress(
  messages: readonly MessageRow[],
  papersOf: ReadonlyMap<string, readonly string[]>,
  papers: readonly PaperRow[],
  leftOut: ReadonlySet<string>,
  account: MailAccountRow | null,
): DispatchProgress {
  const keptBack = new Set(
    papers.filter(({ state, entryId }) => state === 'held' || leftOut.has(entryId)).map(({ id }) => id),
  );

  const count = (...states: string[]): number =>
    messages.filter((message) => states.includes(message.state)).length;
  return {
    total: messages.length,
    sent: count('sent'),
    waiting: count('queued', 'sending', 'deferred'),
    refused: count('refused'),
    unconfirmed: count('unconfirmed'),
    keptBack: messages.filter(
      ({ id, state }) =>
        (state === 'queued' || state === 'deferred') &&
        (papersOf.get(id) ?? []).some((paperId) => keptBack.has(paperId)),
    ).length,
    fault: account && {
      answer: account.fault,
      since: account.since.toISOString(),
      nextAttemptAt: account.nextAttemptAt.toISOString(),
    },
  };
}

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
