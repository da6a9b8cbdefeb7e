import type { EntityManager } from 'typeorm';

/**
 * Turns: in which order work of several schools is done. A turn is a moment in milliseconds. What a school asks for comes
 * behind what it asked for before, as far behind as that takes, and is never ahead of now; so a school with six thousand
 * papers lets one with five go first, however late it comes. Both servers and tables go by the database's own clock.
 */
const NOW_TURN = 'CAST(UNIX_TIMESTAMP(UTC_TIMESTAMP(3)) * 1000 AS INTEGER)';

/** Milliseconds that a paper, or a message, counts for, about what a slow machine takes for it. */
export const TURN_OF = { paper: 10, message: 10 } as const;

/** The turn behind which a school's next work comes: that of its last one that waits, or now. */
export async function lastTurn(
  manager: EntityManager,
  table: 'slice' | 'message',
  schoolId: string,
): Promise<number> {
  const [row] = await manager.query<{ turn: string | number }[]>(
    `SELECT GREATEST(${NOW_TURN}, COALESCE(MAX(turn), 0)) AS turn FROM ${table} WHERE schoolId = ? AND state = 'queued'`,
    [schoolId],
  );
  return Number(row!.turn);
}
