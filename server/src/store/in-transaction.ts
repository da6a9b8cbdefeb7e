import type { DataSource, EntityManager } from 'typeorm';
import { isLockConflict } from './database-away.js';

const TRIES = 6;

/** Does one statement, or one transaction, and does it again where it ran into another's locks. */
export async function again<T>(work: () => Promise<T>): Promise<T> {
  for (let tries = 1; ; tries++) {
    try {
      return await work();
    } catch (error) {
      if (tries >= TRIES || !isLockConflict(error)) throw error;
      await new Promise((resolve) => setTimeout(resolve, 10 * tries * (1 + Math.random())));
    }
  }
}

/**
 * Does work in one transaction, and again where it ran into another's locks. So the work may be called several times and
 * must have no other effect than on the database.
 */
export const inTransaction = <T>(
  database: DataSource,
  work: (manager: EntityManager) => Promise<T>,
): Promise<T> => again(() => database.transaction(work));
