import type { Clearing, Judged } from '@scriptum/core/contract';
import { In, type EntityManager } from 'typeorm';
import { conflict, notFound, Refusal } from '../refusal.js';
import { School } from '../store/entities/people.js';
import {
  EnclosureRow,
  MessageRow,
  PaperEventRow,
  PaperRow,
  PressRunRow,
} from '../store/entities/register.js';
import { findFolio } from '../store/folios.js';
import { insertMany } from '../store/insert-many.js';
import { nextRevision } from '../store/register-state.js';

/** What a school wants of its papers before they leave. */
export async function clearingOf(manager: EntityManager, schoolId: string): Promise<Clearing> {
  const school = await manager.findOneBy(School, { id: schoolId });
  return school?.clearing ?? 'free';
}

export interface Judgement {
  readonly schoolId: string;
  readonly folioId: string;
  readonly staffId: string | null;
  readonly paperIds: readonly string[];
  readonly hold: boolean;
  /** Why they are held. */
  readonly note?: string | undefined;
}

/**
 * Holds papers back, or clears them; messages that wait for them wait on. Papers that are so already, that were sent or that a newer
 * one has taken the place of are passed over.
 *
 * @throws Refusal `not-found` where one is not there; `on-its-way` where one is just being handed to the mail server; `own-papers`
 *   where somebody else has to clear all of them.
 */
export async function judgePapers(
  manager: EntityManager,
  { schoolId, folioId, staffId, paperIds, hold, note }: Judgement,
): Promise<Judged> {
  const ids = [...new Set(paperIds)];
  await findFolio(manager, schoolId, folioId);
  const revision = await nextRevision(manager, { schoolId, folioId });
  const enclosed = await manager.findBy(EnclosureRow, { schoolId, folioId, paperId: In(ids) });
  const messages = await manager.find(MessageRow, {
    select: { id: true, state: true },
    where: { schoolId, folioId, id: In(enclosed.map(({ messageId }) => messageId)) },
    lock: { mode: 'pessimistic_write' },
  });
  const papers = await manager.find(PaperRow, {
    select: { id: true, state: true, runId: true },
    where: { schoolId, folioId, id: In(ids) },
    lock: { mode: 'pessimistic_write' },
  });
  if (papers.length < ids.length) throw notFound(ids.length === 1 ? 'This paper' : 'One of these papers');
  const leaving = messages.filter(({ state }) => state === 'sending').length;
  if (hold && leaving > 0)
    throw conflict(
      'on-its-way',
      `${leaving === 1 ? 'One of these papers is' : `${leaving} of these papers are`} just being handed to the mail server, so nothing was held. Look again in a moment.`,
    );
  const from: readonly string[] = hold ? ['pressed', 'cleared', 'held'] : ['pressed', 'held'];
  const asked = papers.filter(({ state }) => from.includes(state));
  const own = hold ? [] : await ownPapers(manager, { schoolId, staffId }, asked);
  const judged = asked.filter((paper) => !own.includes(paper)).map(({ id }) => id);
  if (judged.length === 0 && own.length > 0)
    throw new Refusal(
      409,
      'own-papers',
      `${own.length === 1 ? 'You pressed this paper' : 'You pressed these papers'} yourself, and this school wants somebody else to clear ${own.length === 1 ? 'it' : 'them'}.`,
    );
  const at = new Date();
  if (judged.length > 0) {
    await manager.update(
      PaperRow,
      { schoolId, folioId, id: In(judged) },
      {
        state: hold ? 'held' : 'cleared',
        judgedBy: staffId,
        judgedAt: at,
        note: hold ? note || null : null,
        // Somebody has looked at what it was held for, or what is another one in it. A person's word stands from here on.
        heldBack: false,
        ...(hold ? {} : { reason: null, changed: null }),
        revision: String(revision),
      },
    );
    const kind = hold ? 'held' : 'cleared';
    await insertMany(
      manager,
      PaperEventRow,
      judged.map((paperId) => ({ schoolId, paperId, kind, staffId, note: hold ? note || null : null, at })),
    );
  }
  return { done: judged.length, own: own.length, passedOver: papers.length - asked.length };
}

/** Papers that somebody pressed and, where the school wants it so, may not clear. */
async function ownPapers(
  manager: EntityManager,
  { schoolId, staffId }: Pick<Judgement, 'schoolId' | 'staffId'>,
  papers: readonly PaperRow[],
): Promise<PaperRow[]> {
  if ((await clearingOf(manager, schoolId)) !== 'other' || papers.length === 0) return [];
  const runs = await manager.find(PressRunRow, {
    select: { id: true },
    where: {
      schoolId,
      id: In([...new Set(papers.map(({ runId }) => runId))]),
      ...(staffId ? { staffId } : {}),
    },
  });
  const mine = new Set(runs.map(({ id }) => id));
  return papers.filter(({ runId }) => mine.has(runId));
}
