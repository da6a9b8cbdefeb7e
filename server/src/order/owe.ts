import { canonical } from '@scriptum/core/paper';
import type { Entry } from '@scriptum/core/roll';
import { IsNull, type EntityManager } from 'typeorm';
import { sha256 } from '../store/blobs.js';
import { StandingOrderRow } from '../store/entities/orders.js';
import { newId } from '../store/id.js';

/** An entry of which an order has something to do, and what tells that from other times. */
export interface Owed {
  readonly entryId: string;
  readonly version: string;
}

/** The first time that an entry was answered. */
export const ANSWERED = sha256('answered');
/** A time that its answer was changed. */
export const changedAnswer = (at: Date): string => sha256(`changed ${at.toISOString()}`);
/** A day that stood in its row. */
export const onDay = (day: string): string => sha256(`day ${day}`);
/** What stands in its own cells: worked ones may be others with each new row. */
export const cellsOf = ({ values, exact, tables }: Entry): string =>
  sha256(canonical(['cells', filled(values), filled(exact), tables ?? {}]));

const filled = (cells: Readonly<Record<string, string>> = {}): Record<string, string> =>
  Object.fromEntries(Object.entries(cells).filter(([, text]) => text !== ''));

/** Writes down what an order has to do; what is written down already stays as it is. @returns how many are new. */
export async function owe(
  manager: EntityManager,
  { id, schoolId, folioId }: Pick<StandingOrderRow, 'id' | 'schoolId' | 'folioId'>,
  owed: readonly Owed[],
  at: Date,
): Promise<number> {
  let added = 0;
  for (let from = 0; from < owed.length; from += 500) {
    const rows = owed
      .slice(from, from + 500)
      .map(({ entryId, version }) => [newId(), schoolId, folioId, id, entryId, version, 'owed', at, at]);
    const { affectedRows } = await manager.query<{ affectedRows: number }>(
      `INSERT IGNORE INTO order_work (id, schoolId, folioId, orderId, entryId, version, state, owedAt, notBefore) VALUES ?`,
      [rows],
    );
    added += affectedRows;
  }
  return added;
}

/**
 * Writes down, in the transaction that keeps an answer, which orders have to act on it. So whatever becomes of the server then, an
 * answer that its sender knows to be kept is acted on.
 *
 * @param changedAt null for a new answer.
 * @returns true where any has.
 */
export async function oweAnswer(
  manager: EntityManager,
  { entryId, ...from }: AnsweredAt & { readonly entryId: string },
  changedAt: Date | null,
): Promise<boolean> {
  return changedAt
    ? oweAnswers(manager, from, 'changed', [{ entryId, version: changedAnswer(changedAt) }], changedAt)
    : oweAnswers(manager, from, 'new', [{ entryId, version: ANSWERED }], new Date());
}

/** Where an answer came from: a form, a hook or a watched file of a folio. */
export interface AnsweredAt {
  readonly schoolId: string;
  readonly folioId: string;
  readonly writingId: string;
}

/** The same for many answers that came together. */
export async function oweAnswers(
  manager: EntityManager,
  { schoolId, folioId, writingId }: AnsweredAt,
  which: 'new' | 'changed',
  owed: readonly Owed[],
  at: Date,
): Promise<boolean> {
  if (owed.length === 0) return false;
  const orders = await manager.findBy(StandingOrderRow, {
    schoolId,
    folioId,
    isOn: true,
    deletedAt: IsNull(),
  });
  let any = false;
  for (const order of orders) {
    const { when } = order.content;
    if (when.kind !== 'answer' || (when.formId !== null && when.formId !== writingId)) continue;
    if (when.which !== 'both' && when.which !== which) continue;
    any = (await owe(manager, order, owed, at)) > 0 || any;
  }
  return any;
}
