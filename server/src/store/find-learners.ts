import { plainTitle } from '@scriptum/core/column';
import { learnerName, nameColumns } from '@scriptum/core/roll';
import type { FoundLearner } from '@scriptum/core/contract';
import type { EntityManager } from 'typeorm';
import { FolioRow } from './entities/folio.js';

/** Learners that are told. */
const TOLD = 40;
/** Rows that are read for them at the most. */
const READ = 3_000;

/** The learners of a school whose name has some letters in it, over all folios; capitals and accents do not matter. */
export async function findLearners(
  manager: EntityManager,
  schoolId: string,
  sought: string,
): Promise<FoundLearner[]> {
  const wanted = plainTitle(sought);
  const words = sought.trim().split(/\s+/).filter(Boolean);
  if (wanted === '' || words.length === 0) return [];
  // The collation passes over capitals and accents, as in names.
  const rows = await manager.query<{ id: string; folioId: string; values: string }[]>(
    `SELECT e.id, e.folioId, e.\`values\` FROM entry e JOIN folio f ON f.id = e.folioId
     WHERE e.schoolId = ? AND e.gone = 0 ${words.map(() => 'AND e.`values` LIKE ?').join(' ')}
     ORDER BY f.changedAt DESC, e.position LIMIT ?`,
    [schoolId, ...words.map((word) => `%${word.replace(/[\\%_]/g, '\\$&')}%`), READ],
  );
  if (rows.length === 0) return [];
  const folios = new Map((await manager.findBy(FolioRow, { schoolId })).map((one) => [one.id, one]));
  const found: FoundLearner[] = [];
  for (const row of rows) {
    const folio = folios.get(row.folioId);
    if (!folio) continue;
    const values = JSON.parse(row.values) as Record<string, string>;
    const name = learnerName({ id: row.id, position: 0, values }, nameColumns(folio.columns));
    if (!plainTitle(name).includes(wanted)) continue;
    found.push({ folioId: folio.id, folio: folio.title, entryId: row.id, name });
    if (found.length === TOLD) break;
  }
  return found;
}
