import type { ClientRateLimitInfo, Options, Store } from 'express-rate-limit';
import type { DataSource } from 'typeorm';
import { sha256 } from './blobs.js';
import { microseconds, NOW, TERM_END } from './claims.js';

/**
 * Counts how often something happened in a window of time, for all servers together. What is counted is kept under a hash,
 * so that the table names nobody and long keys cost nothing.
 */
export class DatabaseLimits implements Store {
  readonly localKeys = false;
  private window = 60_000;

  /** @param name keeps apart what is counted for different limits. */
  constructor(
    private readonly database: DataSource,
    private readonly name: string,
  ) {}

  init({ windowMs }: Options): void {
    this.window = windowMs;
  }

  /** Counts one more; a window begins with the first. */
  async increment(key: string): Promise<ClientRateLimitInfo> {
    const id = this.idOf(key);
    const span = microseconds(this.window);
    await this.database.query(
      `INSERT INTO limit_count (id, n, until) VALUES (?, 1, ${TERM_END})
       ON DUPLICATE KEY UPDATE n = IF(until <= ${NOW}, 1, n + 1), until = IF(until <= ${NOW}, ${TERM_END}, until)`,
      [id, span, span],
    );
    const [row] = await this.database.query<{ n: number; until: Date }[]>(
      'SELECT n, until FROM limit_count WHERE id = ?',
      [id],
    );
    return { totalHits: row?.n ?? 1, resetTime: row?.until };
  }

  async decrement(key: string): Promise<void> {
    await this.database.query('UPDATE limit_count SET n = GREATEST(n - 1, 0) WHERE id = ?', [this.idOf(key)]);
  }

  async resetKey(key: string): Promise<void> {
    await this.database.query('DELETE FROM limit_count WHERE id = ?', [this.idOf(key)]);
  }

  private idOf(key: string): string {
    return sha256(`${this.name}\0${key}`);
  }
}

/** Takes out counts whose window has ended. */
export async function sweepLimits(database: DataSource): Promise<void> {
  await database.query(`DELETE FROM limit_count WHERE until <= ${NOW}`);
}
