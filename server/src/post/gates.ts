import { MoreThan, type DataSource, type EntityManager } from 'typeorm';
import { NOW } from '../store/claims.js';
import { DispatchRow, MailAccountRow, MailUseRow } from '../store/entities/post.js';
import { School } from '../store/entities/people.js';
import { inTransaction } from '../store/in-transaction.js';
import { opensAt } from './hours.js';
import type { Due } from './message-claims.js';

/** Messages that are taken together under a pace make up this part of a minute. */
const PORTION = 1 / 12;
const HOUR = 3_600_000;
/** Hours for which an account's limit counts. */
const WINDOW = 24;

/**
 * Which of some messages of one account may be taken now, by the hours and the pace of their dispatches and the pace and limit of the
 * account. What is let through counts as used. Where a gate closes by it, `openAt` says until when, and nothing behind it is found
 * before; so any number of servers keep to it together.
 */
export async function throughGates(
  database: DataSource,
  { schoolId, accountId }: { readonly schoolId: string; readonly accountId: string },
  due: readonly Due[],
): Promise<readonly Due[]> {
  const free: Due[] = [];
  const dispatches = new Map<string, Due[]>();
  for (const one of due) {
    const { dispatchId } = one.message;
    if (dispatchId === null) free.push(one);
    else dispatches.set(dispatchId, [...(dispatches.get(dispatchId) ?? []), one]);
  }
  for (const [id, some] of dispatches)
    free.push(...(await inTransaction(database, (manager) => throughDispatch(manager, id, some))));
  if (free.length === 0 || accountId === schoolId) return free;
  return inTransaction(database, (manager) => throughAccount(manager, accountId, free));
}

async function throughDispatch(
  manager: EntityManager,
  id: string,
  due: readonly Due[],
): Promise<readonly Due[]> {
  const known = await manager.findOneBy(DispatchRow, { id });
  // Most have neither: nobody waits for anybody there.
  if (!known || (known.hours === null && known.perMinute === null)) return due;
  const row = await manager.findOne(DispatchRow, { where: { id }, lock: { mode: 'pessimistic_write' } });
  const now = await clockOf(manager);
  if (!row || row.stoppedAt !== null || (row.openAt !== null && row.openAt > now)) return [];
  if (row.hours) {
    const { timeZone = 'UTC' } = (await manager.findOneBy(School, { id: row.schoolId })) ?? {};
    const opens = opensAt(now, row.hours, timeZone);
    if (opens > now) {
      await manager.update(DispatchRow, { id }, { openAt: opens });
      return [];
    }
  }
  if (row.perMinute === null) return due;
  const some = due.slice(0, portionOf(row.perMinute));
  await manager.update(DispatchRow, { id }, { openAt: after(now, some.length, row.perMinute) });
  return some;
}

async function throughAccount(
  manager: EntityManager,
  id: string,
  due: readonly Due[],
): Promise<readonly Due[]> {
  const known = await manager.findOneBy(MailAccountRow, { id });
  if (!known || (known.perMinute === null && known.perDay === null)) return due;
  const row = await manager.findOne(MailAccountRow, { where: { id }, lock: { mode: 'pessimistic_write' } });
  const now = await clockOf(manager);
  if (!row || (row.openAt !== null && row.openAt > now)) return [];
  const paced = row.perMinute === null ? due : due.slice(0, portionOf(row.perMinute));
  let some = paced;
  const hour = Math.floor(now.getTime() / HOUR);
  if (row.perDay !== null) {
    let left = row.perDay - (await usedBy(manager, id, hour));
    // One message to more people than the limit lets through in a day leaves by itself, or it would never.
    some = paced.filter(({ message }, n) => {
      const fits = message.people <= left || (n === 0 && left >= row.perDay!);
      left = fits ? left - message.people : -1;
      return fits;
    });
    if (some.length === 0) {
      await manager.update(MailAccountRow, { id }, { openAt: new Date((hour + 1) * HOUR) });
      return [];
    }
    const people = some.reduce((sum, { message }) => sum + message.people, 0);
    await manager.query(
      'INSERT INTO mail_use (accountId, hour, people) VALUES (?, ?, ?) ON DUPLICATE KEY UPDATE people = people + VALUES(people)',
      [id, hour, people],
    );
    await manager.query('DELETE FROM mail_use WHERE accountId = ? AND hour < ?', [id, hour - 2 * WINDOW]);
  }
  if (row.perMinute !== null)
    await manager.update(MailAccountRow, { id }, { openAt: after(now, some.length, row.perMinute) });
  return some;
}

/** People that an account wrote to in the last 24 hours; the hour in which they begin counts whole. */
export async function usedBy(
  manager: EntityManager,
  accountId: string,
  hour = Math.floor(Date.now() / HOUR),
): Promise<number> {
  const people = await manager.sum(MailUseRow, 'people', { accountId, hour: MoreThan(hour - WINDOW) });
  return Number(people ?? 0);
}

const portionOf = (perMinute: number): number => Math.max(1, Math.floor(perMinute * PORTION));

const after = (now: Date, messages: number, perMinute: number): Date =>
  new Date(now.getTime() + Math.ceil((messages * 60_000) / perMinute));

/** By the database's own clock, as all servers go by it. */
async function clockOf(manager: EntityManager): Promise<Date> {
  const [row] = await manager.query<{ now: Date }[]>(`SELECT ${NOW} AS now`);
  return row!.now;
}
