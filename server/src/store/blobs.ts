import { createHash } from 'node:crypto';
import type { EntityManager } from 'typeorm';
import { BlobRow } from './entities/folio.js';

export const sha256 = (data: string | Uint8Array): string => createHash('sha256').update(data).digest('hex');

/** Keeps bytes; the same bytes of a school are kept once. Returns their hash. */
export async function keepBlob(manager: EntityManager, schoolId: string, bytes: Buffer): Promise<string> {
  const hash = sha256(bytes);
  await keepBlobs(manager, schoolId, [{ hash, bytes }]);
  return hash;
}

/** Keeps several files in one statement. */
export async function keepBlobs(
  manager: EntityManager,
  schoolId: string,
  blobs: readonly { hash: string; bytes: Buffer }[],
): Promise<void> {
  if (blobs.length === 0) return;
  await execute(
    manager,
    `INSERT IGNORE INTO blob_file (schoolId, hash, bytes) VALUES ${blobs.map(() => '(?, ?, ?)').join(', ')}`,
    blobs.flatMap(({ hash, bytes }) => [schoolId, hash, bytes]),
  );
}

interface Executing {
  execute(sql: string, values: unknown[], done: (error: Error | null) => void): void;
}

/** A prepared statement: bytes travel as they are, where a plain one would write them out as text of twice the length. */
async function execute(manager: EntityManager, sql: string, values: unknown[]): Promise<void> {
  // Only a transaction has a connection of its own.
  const connection = (await manager.queryRunner?.connect()) as Executing | undefined;
  if (!connection) {
    await manager.query(sql, values);
    return;
  }
  await new Promise<void>((resolve, reject) =>
    connection.execute(sql, values, (error) => (error ? reject(error) : resolve())),
  );
}

/** The bytes, or null where the school has none of that hash. */
export async function readBlob(
  manager: EntityManager,
  schoolId: string,
  hash: string,
): Promise<Buffer | null> {
  const row = await manager.findOneBy(BlobRow, { schoolId, hash });
  return row?.bytes ?? null;
}
