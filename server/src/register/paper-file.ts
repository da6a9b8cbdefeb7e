import type { EntityManager } from 'typeorm';
import type { Leaving } from '../ground/leaving.js';
import { readBlob } from '../store/blobs.js';
import { PaperRow } from '../store/entities/register.js';

/** A paper as it leaves. */
export interface PaperFile {
  readonly name: string;
  readonly bytes: Buffer;
}

/** The file of a paper with all that it lies on; null where there is none. */
export async function paperFile(
  manager: EntityManager,
  leaving: Leaving,
  where: { readonly id: string; readonly schoolId: string; readonly folioId: string },
): Promise<PaperFile | null> {
  const paper = await manager.findOne(PaperRow, {
    select: { id: true, fileName: true, blobHash: true, laidOn: true },
    where,
  });
  const kept = paper?.blobHash && (await readBlob(manager, where.schoolId, paper.blobHash));
  if (!paper || !kept) return null;
  const bytes = await leaving.whole(manager, where.schoolId, { bytes: kept, laidOn: paper.laidOn ?? null });
  return { name: paper.fileName.split('/').at(-1)!, bytes };
}
