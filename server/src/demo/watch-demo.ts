import { mkdir, writeFile } from 'node:fs/promises';
import path from 'node:path';
import type { EntityManager } from 'typeorm';
import { readBlob } from '../store/blobs.js';
import { FolioRow, SourceRow } from '../store/entities/folio.js';
import { Staff } from '../store/entities/people.js';
import { WatchedRow } from '../store/entities/watched.js';
import { newId } from '../store/id.js';
import { DEMO_ACCOUNT } from './load-demo.js';

const TITLE = 'Year 8 spring reports';

/** Puts the marks of the demo school into its watched folder, and watches them there for newer ones. */
export async function watchDemo(manager: EntityManager, root: string): Promise<void> {
  const { schoolId } = await manager.findOneByOrFail(Staff, { email: DEMO_ACCOUNT.email });
  const { id: folioId } = await manager.findOneByOrFail(FolioRow, { schoolId, title: TITLE });
  const source = await manager.findOneByOrFail(SourceRow, { schoolId, folioId, kind: 'base' });
  const bytes = await readBlob(manager, schoolId, source.blobHash);
  const folder = path.join(root, schoolId);
  await mkdir(folder, { recursive: true });
  await writeFile(path.join(folder, source.fileName), bytes!);
  await manager.insert(WatchedRow, {
    id: newId(),
    schoolId,
    folioId,
    sourceId: source.id,
    place: { kind: 'folder', path: source.fileName },
    sealedPassword: null,
    everyMinutes: 15,
    missing: 'leave out',
    isOn: true,
    stamp: null,
    // What lies there is what is on the roll.
    seenHash: source.blobHash,
    seenName: source.fileName,
    lookedAt: null,
    nextAt: new Date(),
    took: null,
    fault: null,
    waits: null,
    createdAt: new Date(),
  });
}
