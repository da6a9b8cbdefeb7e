import type { Reading } from '@scriptum/core/table';
import { openSheetFile } from '@scriptum/core/workbook';
import type { EntityManager } from 'typeorm';
import { fromProblem } from '../refusal.js';
import { keepBlob } from '../store/blobs.js';
import { newId } from '../store/id.js';
import { bringIn } from './bring-in.js';

/**
 * Reads a file in this thread and brings it in as the folio's roll; for the demo school and for measuring, where nobody
 * waits for the server meanwhile.
 */
export async function bringInBytes(
  manager: EntityManager,
  schoolId: string,
  folioId: string,
  file: { readonly name: string; readonly bytes: Buffer },
  reading: Reading = {},
): Promise<void> {
  const opened = openSheetFile(file.bytes);
  if (!opened.ok) throw fromProblem(opened.problem);
  const laidOut = opened.value.layOut(reading, newId);
  if (!laidOut.ok) throw fromProblem(laidOut.problem);
  const blobHash = await keepBlob(manager, schoolId, file.bytes);
  await bringIn(
    manager,
    schoolId,
    folioId,
    { name: file.name, blobHash, laidOut: laidOut.value },
    { kind: 'base' },
  );
}
