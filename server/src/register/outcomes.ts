import { outcomesOf, withOutcomes } from '@scriptum/core/paper';
import type { Roll } from '@scriptum/core/roll';
import type { EntityManager } from 'typeorm';
import type { FolioRow } from '../store/entities/folio.js';
import { WritingRow } from '../store/entities/writing.js';
import { loadRegister } from './register.js';

/**
 * The roll with what became of each entry.
 *
 * @param base where this Scriptum is, such as `https://papers.school.example`.
 */
export async function tellOutcomes(
  manager: EntityManager,
  { id: folioId, schoolId }: Pick<FolioRow, 'id' | 'schoolId'>,
  roll: Roll,
  base: string,
): Promise<Roll> {
  const { papers } = await loadRegister(manager, { schoolId, folioId });
  const writings = await manager.find(WritingRow, {
    select: { id: true, name: true },
    where: { schoolId, folioId },
  });
  const around = {
    letters: new Map(writings.map(({ id, name }) => [id, name])),
    link: ({ id }: { id: string }) => `${base}/api/folios/${folioId}/papers/${id}/file`,
    moment: (at: string) => at.slice(0, 19).replace('T', ' '),
  };
  return withOutcomes(roll, outcomesOf(papers, around));
}
