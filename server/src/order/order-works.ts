import type { OrderNext, OrderState, OrderWork } from '@scriptum/core/contract';
import { learnerName, nameColumns } from '@scriptum/core/roll';
import { In, IsNull, type EntityManager } from 'typeorm';
import { conflict, notFound } from '../refusal.js';
import { judgePapers } from '../register/judge-papers.js';
import { loadWorkedRoll } from '../roll/worked-roll.js';
import { OrderWorkRow, StandingOrderRow } from '../store/entities/orders.js';
import { School } from '../store/entities/people.js';
import { PaperRow } from '../store/entities/register.js';
import { findFolio } from '../store/folios.js';
import { recordHappening } from '../store/happenings.js';
import { loadEntries } from '../store/rolls.js';
import { namesOf } from '../store/staff-names.js';
import { owe } from './owe.js';
import { whomFor } from './whom-for.js';
import { orderOf, type AskedOrder } from './orders.js';

/** Works that are told of, the newest. */
const WORKS_TOLD = 200;
/** Reasons for which learners are passed over. */
const REASONS_TOLD = 30;

/** Whom an order would take by somebody's word now, and whom it would pass over. */
export async function nextOfOrder(
  manager: EntityManager,
  { schoolId, folioId, orderId }: Omit<AskedOrder, 'staffId'>,
): Promise<OrderNext> {
  const folio = await findFolio(manager, schoolId, folioId);
  const row = await manager.findOneBy(StandingOrderRow, {
    id: orderId,
    schoolId,
    folioId,
    deletedAt: IsNull(),
  });
  if (!row) throw notFound('This order');
  const { timeZone } = await manager.findOneByOrFail(School, { id: schoolId });
  const { roll } = await loadWorkedRoll(manager, folio);
  const { takes, passed } = await whomFor(manager, row, roll, {
    at: new Date(),
    timeZone,
    now: true,
  });
  const byReason = new Map<string, string[]>();
  for (const { entryId, why } of passed) {
    const own = byReason.get(why);
    if (own) own.push(entryId);
    else byReason.set(why, [entryId]);
  }
  return {
    takes: takes.map(({ entryId }) => entryId),
    passed: [...byReason]
      .map(([why, entryIds]) => ({ why, entryIds }))
      .sort((a, b) => b.entryIds.length - a.entryIds.length)
      .slice(0, REASONS_TOLD),
  };
}

/**
 * Has an order act now, on all whom `nextOfOrder` tells.
 *
 * @param count how many whoever asks was shown.
 * @throws Refusal `order-off`; `plan-changed` where they are others by now.
 */
export async function runOrder(manager: EntityManager, asked: AskedOrder, count: number): Promise<number> {
  const { schoolId, folioId, staffId } = asked;
  const row = await orderOf(manager, asked);
  if (!row.isOn) throw conflict('order-off', 'This order is off. Switch it on first; nothing was done.');
  const folio = await findFolio(manager, schoolId, folioId);
  const { timeZone } = await manager.findOneByOrFail(School, { id: schoolId });
  const { roll } = await loadWorkedRoll(manager, folio);
  const now = new Date();
  const { takes } = await whomFor(manager, row, roll, { at: now, timeZone, now: true });
  if (takes.length !== count)
    throw conflict(
      'plan-changed',
      `The order would take ${takes.length} learners by now, not ${count}. Look again; nothing was done.`,
    );
  const owed = await owe(manager, row, takes, now);
  if (owed > 0)
    await recordHappening(manager, { schoolId, staffId, folioId, kind: 'order-run', count: owed });
  return owed;
}

/** What an order did, and waits with, the newest first. */
export async function workOf(
  manager: EntityManager,
  { schoolId, folioId, orderId }: Omit<AskedOrder, 'staffId'>,
  state?: OrderState,
): Promise<{ work: OrderWork[]; more: boolean }> {
  const folio = await findFolio(manager, schoolId, folioId);
  const rows = await manager.find(OrderWorkRow, {
    where: { schoolId, folioId, orderId, ...(state ? { state } : {}) },
    order: { owedAt: 'DESC', id: 'ASC' },
    take: WORKS_TOLD + 1,
  });
  const some = rows.slice(0, WORKS_TOLD);
  if (some.length === 0) return { work: [], more: false };
  const entryIds = [...new Set(some.map(({ entryId }) => entryId))];
  const [{ entries, columns }, papers, by] = await Promise.all([
    loadEntries(manager, folio, entryIds),
    manager.find(PaperRow, {
      select: { id: true, entryId: true, fileName: true, learner: true },
      where: {
        schoolId,
        folioId,
        entryId: In(entryIds),
        state: In(['pressed', 'cleared', 'held', 'dispatched']),
      },
      order: { place: 'ASC', id: 'ASC' },
    }),
    namesOf(
      manager,
      schoolId,
      some.map(({ saidBy }) => saidBy),
    ),
  ]);
  const names = nameColumns(columns);
  const nameOf = new Map(entries.map((entry) => [entry.id, learnerName(entry, names)]));
  const placeOf = new Map(entries.map(({ id, position }) => [id, position]));
  // Those that came at the same time stand in the order of the roll.
  const sorted = some.sort(
    (a, b) =>
      b.owedAt.getTime() - a.owedAt.getTime() ||
      (placeOf.get(a.entryId) ?? 0) - (placeOf.get(b.entryId) ?? 0),
  );
  return {
    more: rows.length > WORKS_TOLD,
    work: sorted.map((row): OrderWork => {
      const own = papers.filter(({ entryId }) => entryId === row.entryId);
      return {
        id: row.id,
        entryId: row.entryId,
        learner: nameOf.get(row.entryId) ?? own[0]?.learner ?? 'Somebody who is gone',
        state: row.state,
        why: row.why,
        at: (row.endedAt ?? row.startedAt ?? row.owedAt).toISOString(),
        until: row.until?.toISOString() ?? null,
        by: by.get(row.saidBy ?? '') ?? null,
        papers: own.map(({ id, fileName }) => ({ id, fileName })),
      };
    }),
  };
}

/**
 * Says yes or no to papers that an order waits with. A yes clears them. What somebody else has said meanwhile is passed over.
 *
 * @throws Refusal `not-found`, `own-papers`
 */
export async function answerAsked(
  manager: EntityManager,
  asked: AskedOrder,
  { workIds, yes }: { readonly workIds: readonly string[]; readonly yes: boolean },
): Promise<{ done: number; passedOver: number }> {
  const { schoolId, folioId, staffId, orderId } = asked;
  await orderOf(manager, asked);
  const ids = [...new Set(workIds)];
  const works = await manager.findBy(OrderWorkRow, { schoolId, folioId, orderId, id: In(ids) });
  if (works.length < ids.length) throw notFound(ids.length === 1 ? 'This learner' : 'One of these learners');
  const open = works.filter(({ state }) => state === 'asked');
  if (open.length > 0) {
    const now = new Date();
    if (yes) {
      const papers = await manager.find(PaperRow, {
        select: { id: true },
        where: {
          schoolId,
          folioId,
          entryId: In(open.map(({ entryId }) => entryId)),
          state: In(['pressed', 'held']),
        },
      });
      if (papers.length > 0)
        await judgePapers(manager, {
          schoolId,
          folioId,
          staffId,
          paperIds: papers.map(({ id }) => id),
          hold: false,
        });
    }
    await manager.update(
      OrderWorkRow,
      { id: In(open.map(({ id }) => id)) },
      yes
        ? { state: 'said yes', why: null, until: null, notBefore: now, saidBy: staffId }
        : { state: 'left', why: 'Somebody said no.', until: null, endedAt: now, saidBy: staffId },
    );
    const kind = yes ? 'order-yes' : 'order-no';
    await recordHappening(manager, { schoolId, staffId, folioId, kind, count: open.length });
  }
  return { done: open.length, passedOver: works.length - open.length };
}
