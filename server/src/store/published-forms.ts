import type { EntityManager } from 'typeorm';
import { FormDoorRow } from './entities/intake.js';

/** The forms of a folio that people can answer, or could: their columns stay on the roll, since answers stand in them. */
export async function publishedForms(
  manager: EntityManager,
  { id: folioId, schoolId }: { readonly id: string; readonly schoolId: string },
): Promise<ReadonlySet<string>> {
  const doors = await manager.find(FormDoorRow, {
    select: { writingId: true },
    where: { folioId, schoolId },
  });
  return new Set(doors.map(({ writingId }) => writingId));
}
