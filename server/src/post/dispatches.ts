import type { Dispatching, DispatchTiming } from '@scriptum/core/contract';
import type { EntityManager } from 'typeorm';
import { conflict, notFound, Refusal } from '../refusal.js';
import { School, Staff } from '../store/entities/people.js';
import { DispatchRow, MailAccountRow } from '../store/entities/post.js';
import { lockFolio } from '../store/folios.js';
import { newId } from '../store/id.js';
import { nextRevision } from '../store/register-state.js';
import { opensAt } from './hours.js';

/** How far ahead a dispatch may begin: a year. */
const AHEAD = 366 * 86_400_000;
/** Dispatches of a folio that are told. */
const TOLD = 50;

interface Place {
  readonly schoolId: string;
  readonly folioId: string;
}

/** Writes down what is sent together, and when it may leave. */
export async function beginDispatch(
  manager: EntityManager,
  { schoolId, folioId, staffId, total }: Place & { readonly staffId: string | null; readonly total: number },
  { startsAt, hours, perMinute }: DispatchTiming,
): Promise<Pick<DispatchRow, 'id' | 'startsAt'>> {
  const now = new Date();
  const wanted = startsAt === undefined ? now : new Date(startsAt);
  if (wanted.getTime() > now.getTime() + AHEAD)
    throw new Refusal(422, 'time-far', 'Choose a time within a year from now. Nothing was sent.');
  const row = {
    id: newId(),
    schoolId,
    folioId,
    staffId,
    startedAt: now,
    // A time that has passed meanwhile is now.
    startsAt: wanted < now ? now : wanted,
    hours: hours ?? null,
    perMinute: perMinute ?? null,
    total,
    stoppedAt: null,
    stoppedBy: null,
    openAt: null,
  };
  await manager.insert(DispatchRow, row);
  return row;
}

/** What was sent together of a folio, the latest first, and how far each is. */
export async function listDispatches(
  manager: EntityManager,
  { schoolId, folioId }: Place,
  builtIn: string,
): Promise<Dispatching[]> {
  const rows = await manager.find(DispatchRow, {
    where: { schoolId, folioId },
    order: { startedAt: 'DESC' },
    take: TOLD,
  });
  if (rows.length === 0) return [];
  const ids = rows.map(({ id }) => id);
  const counts = await manager.query<{ dispatchId: string; state: string; accountId: string; n: string }[]>(
    'SELECT dispatchId, state, accountId, COUNT(*) AS n FROM message WHERE dispatchId IN (?) GROUP BY dispatchId, state, accountId',
    [ids],
  );
  const [school, staff, accounts] = await Promise.all([
    manager.findOneBy(School, { id: schoolId }),
    manager.findBy(Staff, { schoolId }),
    manager.findBy(MailAccountRow, { schoolId }),
  ]);
  const nameOf = (id: string | null): string | null => staff.find((one) => one.id === id)?.name ?? null;
  const now = new Date();
  return rows.map((row) => {
    const own = counts.filter(({ dispatchId }) => dispatchId === row.id);
    const count = (...states: string[]): number =>
      own.filter(({ state }) => states.includes(state)).reduce((sum, { n }) => sum + Number(n), 0);
    const waiting = count('queued', 'sending', 'deferred');
    const begins = row.startsAt > now ? row.startsAt : now;
    const opens = row.hours ? opensAt(begins, row.hours, school?.timeZone ?? 'UTC') : begins;
    return {
      id: row.id,
      by: nameOf(row.staffId),
      startedAt: row.startedAt.toISOString(),
      startsAt: row.startsAt.toISOString(),
      hours: row.hours,
      perMinute: row.perMinute,
      through: accounts.find(({ id }) => id === own[0]?.accountId)?.name ?? builtIn,
      total: row.total,
      waiting,
      sent: count('sent'),
      stopped: row.stoppedAt === null ? null : { at: row.stoppedAt.toISOString(), by: nameOf(row.stoppedBy) },
      opensAt: waiting > 0 && opens > now ? opens.toISOString() : null,
    };
  });
}

/**
 * Stops a dispatch, lets it go on, or takes back what has not left of it, as if it never had been sent.
 *
 * @returns how many messages were taken back.
 * @throws Refusal `not-found`
 */
export async function changeDispatch(
  manager: EntityManager,
  {
    schoolId,
    folioId,
    dispatchId,
    staffId,
  }: Place & { readonly dispatchId: string; readonly staffId: string },
  to: 'stop' | 'go on' | 'take back',
): Promise<number> {
  await lockFolio(manager, schoolId, folioId);
  const row = await manager.findOne(DispatchRow, {
    where: { id: dispatchId, schoolId, folioId },
    lock: { mode: 'pessimistic_write' },
  });
  if (!row) throw notFound('This dispatch');
  const stopped = { stoppedAt: row.stoppedAt ?? new Date(), stoppedBy: row.stoppedBy ?? staffId };
  if (to === 'go on') {
    await manager.update(DispatchRow, { id: dispatchId }, { stoppedAt: null, stoppedBy: null });
    return 0;
  }
  await manager.update(DispatchRow, { id: dispatchId }, stopped);
  if (to === 'stop') return 0;
  // What was tried already may have reached somebody; it stays, stopped, and is told with what became of it.
  const rows = await manager.query<{ id: string }[]>(
    "SELECT id FROM message WHERE dispatchId = ? AND state = 'queued' AND attempts = 0 FOR UPDATE",
    [dispatchId],
  );
  if (rows.length === 0) {
    if (row.stoppedAt !== null) return 0;
    throw conflict('nothing-waits', 'All of it has left, or is on its way. It cannot be called back.');
  }
  const ids = rows.map(({ id }) => id);
  const revision = await nextRevision(manager, { schoolId, folioId });
  await manager.query(
    'UPDATE paper p JOIN enclosure c ON c.paperId = p.id SET p.revision = ? WHERE c.messageId IN (?)',
    [revision, ids],
  );
  await manager.query('UPDATE enclosure SET settledBy = NULL WHERE settledBy IN (?)', [ids]);
  await manager.query('DELETE FROM enclosure WHERE messageId IN (?)', [ids]);
  await manager.query('DELETE FROM message WHERE id IN (?)', [ids]);
  const left = await manager.query<{ n: string }[]>(
    'SELECT COUNT(*) AS n FROM message WHERE dispatchId = ?',
    [dispatchId],
  );
  await manager.update(DispatchRow, { id: dispatchId }, { total: Number(left[0]!.n) });
  return ids.length;
}
