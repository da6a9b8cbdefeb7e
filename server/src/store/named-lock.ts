import type { DataSource } from 'typeorm';

export interface NamedLock {
  release(): Promise<void>;
}

/**
 * Takes a lock that all servers on this database share, or returns null where another holds it. MariaDB frees it when
 * the holder's connection ends, so a server that was killed holds nothing.
 */
export async function takeNamedLock(
  database: DataSource,
  name: string,
  seconds = 0,
): Promise<NamedLock | null> {
  const runner = database.createQueryRunner();
  try {
    // Names are server-wide in MariaDB; the schema's name keeps two Scriptums on one server apart.
    const [row] = (await runner.query("SELECT GET_LOCK(LEFT(CONCAT(DATABASE(), '.', ?), 64), ?) AS got", [
      name,
      seconds,
    ])) as {
      got: unknown;
    }[];
    if (Number(row?.got) !== 1) {
      await runner.release();
      return null;
    }
  } catch (error) {
    await runner.release();
    throw error;
  }
  return {
    async release() {
      await runner
        .query("SELECT RELEASE_LOCK(LEFT(CONCAT(DATABASE(), '.', ?), 64))", [name])
        .catch(() => undefined);
      await runner.release();
    },
  };
}
