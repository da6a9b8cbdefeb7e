import type { DataSource, EntityManager } from 'typeorm';
import { microseconds, NOW, TERM_END } from '../store/claims.js';
import { newId } from '../store/id.js';
import { again, inTransaction } from '../store/in-transaction.js';
import { lastTurn, TURN_OF } from '../store/turns.js';
import {
  SliceLost,
  type ClaimedSlice,
  type Lane,
  type OfferedSlice,
  type SliceEnd,
  type SliceQueue,
} from './slice-queue.js';

/** Hours for which slices that have ended can be looked at. */
const KEPT = 24;

/**
 * A queue of slices in a table of the database. A slice is taken with `SKIP LOCKED`, so that servers do not wait for each
 * other, and for a term by the database's clock, which is looked at in the transaction that writes what was done.
 */
export class DatabaseSlices implements SliceQueue {
  /** @param term milliseconds after which a slice whose server says nothing is put back. */
  constructor(
    private readonly database: DataSource,
    private readonly term = 10_000,
  ) {}

  async offer(manager: EntityManager, slices: readonly OfferedSlice[]): Promise<void> {
    const turns = new Map<string, number>();
    const rows: unknown[][] = [];
    for (const { id, schoolId, folioId, kind, jobId, lane, size } of slices) {
      const last = turns.get(schoolId) ?? (await lastTurn(manager, 'slice', schoolId));
      const turn = last + size * TURN_OF.paper;
      turns.set(schoolId, turn);
      rows.push([id, schoolId, folioId, kind, jobId, lane, turn, size, 'queued']);
    }
    for (let from = 0; from < rows.length; from += 250)
      await manager.query(
        `INSERT INTO slice (id, schoolId, folioId, kind, jobId, lane, turn, size, state) VALUES ?
         ON DUPLICATE KEY UPDATE turn = IF(state IN ('queued', 'claimed'), turn, VALUES(turn)),
           tries = IF(state IN ('queued', 'claimed'), tries, 0), endedAt = NULL, state = IF(state = 'claimed', 'claimed', 'queued')`,
        [rows.slice(from, from + 250)],
      );
  }

  async claim(lanes: readonly Lane[], except: readonly string[] = []): Promise<ClaimedSlice | null> {
    const others = except.length > 0 ? 'AND schoolId NOT IN (?)' : '';
    return inTransaction(this.database, async (manager) => {
      const [slice] = await manager.query<Omit<ClaimedSlice, 'claim'>[]>(
        `SELECT id, kind, schoolId, folioId, jobId, lane, tries FROM slice WHERE state = 'queued' AND lane IN (?) ${others}
         ORDER BY turn LIMIT 1 FOR UPDATE SKIP LOCKED`,
        except.length > 0 ? [lanes, except] : [lanes],
      );
      if (!slice) return null;
      const claim = newId();
      await manager.query(
        `UPDATE slice SET state = 'claimed', claim = ?, claimedUntil = ${TERM_END} WHERE id = ?`,
        [claim, microseconds(this.term), slice.id],
      );
      return { ...slice, claim };
    });
  }

  async beat({ id, claim }: ClaimedSlice): Promise<boolean> {
    const { affectedRows } = await this.database.query<{ affectedRows: number }>(
      `UPDATE slice SET claimedUntil = ${TERM_END} WHERE id = ? AND claim = ? AND state = 'claimed'`,
      [microseconds(this.term), id, claim],
    );
    return affectedRows === 1;
  }

  async fence(manager: EntityManager, { id, claim }: ClaimedSlice): Promise<void> {
    const rows = await manager.query<unknown[]>(
      `SELECT id FROM slice WHERE id = ? AND claim = ? AND state = 'claimed' AND claimedUntil > ${NOW} FOR UPDATE`,
      [id, claim],
    );
    if (rows.length === 0) throw new SliceLost();
  }

  async end(manager: EntityManager, { id, claim }: ClaimedSlice, as: SliceEnd): Promise<void> {
    const { affectedRows } = await manager.query<{ affectedRows: number }>(
      `UPDATE slice SET state = ?, claim = NULL, claimedUntil = NULL, endedAt = ${NOW}
       WHERE id = ? AND claim = ? AND state = 'claimed' AND claimedUntil > ${NOW}`,
      [as, id, claim],
    );
    if (affectedRows === 0) throw new SliceLost();
  }

  async giveBack({ id, claim }: ClaimedSlice): Promise<void> {
    await again(() =>
      this.database.query(
        `UPDATE slice SET state = 'queued', claim = NULL, claimedUntil = NULL WHERE id = ? AND claim = ? AND state = 'claimed'`,
        [id, claim],
      ),
    );
  }

  async stop(manager: EntityManager, jobId: string): Promise<void> {
    await manager.query(
      `UPDATE slice SET state = 'stopped', claim = NULL, claimedUntil = NULL, endedAt = ${NOW}
       WHERE jobId = ? AND state IN ('queued', 'claimed')`,
      [jobId],
    );
  }

  async isOpen(manager: EntityManager, jobId: string): Promise<boolean> {
    const rows = await manager.query<unknown[]>(
      `SELECT id FROM slice WHERE jobId = ? AND state IN ('queued', 'claimed') LIMIT 1`,
      [jobId],
    );
    return rows.length > 0;
  }

  async reclaim(): Promise<number> {
    const { affectedRows } = await again(() =>
      this.database.query<{ affectedRows: number }>(
        `UPDATE slice SET state = 'queued', claim = NULL, claimedUntil = NULL, tries = tries + 1
         WHERE state = 'claimed' AND claimedUntil <= ${NOW}`,
      ),
    );
    return affectedRows;
  }

  async sweep(): Promise<void> {
    await this.database.query(`DELETE FROM slice WHERE endedAt < UTC_TIMESTAMP(3) - INTERVAL ? HOUR`, [KEPT]);
  }
}
