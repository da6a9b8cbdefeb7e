import type { EntityManager, EntityTarget, ObjectLiteral } from 'typeorm';

/** Rows that go in one statement. */
const BATCH = 500;

/**
 * Inserts many rows. The statements are written here from the entity's columns: the query builder takes as long as the
 * database for each. The next one is made ready while the database works on the one before.
 */
export async function insertMany<Row extends ObjectLiteral>(
  manager: EntityManager,
  entity: EntityTarget<Row>,
  rows: readonly Row[],
): Promise<void> {
  const { driver } = manager.connection;
  const { tablePath, columns } = manager.connection.getMetadata(entity);
  const names = columns.map(({ databaseName }) => driver.escape(databaseName)).join(', ');
  const into = `INSERT INTO ${driver.escape(tablePath)} (${names}) VALUES ?`;
  let sent: Promise<unknown> = Promise.resolve();
  for (let from = 0; from < rows.length; from += BATCH) {
    const values = rows
      .slice(from, from + BATCH)
      .map((row) =>
        columns.map((column) => driver.preparePersistentValue(column.getEntityValue(row), column) as unknown),
      );
    await sent;
    sent = manager.query(into, [values]);
    // For the statement to be on its way before the next one is made.
    await Promise.race([sent, new Promise((resolve) => setImmediate(resolve))]);
  }
  await sent;
}
