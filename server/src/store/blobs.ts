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
  await manager.query(
    `INSERT IGNORE INTO blob_file (schoolId, hash, bytes) VALUES ${blobs.map(() => '(?, ?, ?)').join(', ')}`,
    blobs.flatMap(({ hash, bytes }) => [schoolId, hash, bytes]),
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
