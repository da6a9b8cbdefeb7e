import { paperKey, seriesOf, writtenNumber, type PlannedPaper } from '@scriptum/core/paper';
import type { PaperNumber } from '@scriptum/core/fill';
import type { PaperNumbers } from '@scriptum/core/template';
import type { EntityManager } from 'typeorm';

interface Place {
  readonly schoolId: string;
  readonly folioId: string;
}

/** What a paper is, and who gets it. */
interface Key {
  readonly entryId: string;
  readonly templateId: string;
}

/** A number that was given to a paper. */
export interface GivenNumber extends PaperNumber {
  /** Its place in the row of numbers; null where the paper keeps the one that the paper before it has. */
  readonly taken: { readonly series: string; readonly n: number } | null;
}

/**
 * Gives numbers to papers that are to be pressed: the one that the learner's paper of this template has, as long as that one
 * counts; else the lowest one that nobody has. Numbers that were given to papers which were never made are given again, so that
 * there are no gaps. The row of numbers is locked until the transaction ends, so that nobody else gets the same.
 *
 * @param replaced the numbers of papers that are issued again, by `paperKey`; blank for one without.
 */
export async function giveNumbers(
  manager: EntityManager,
  { schoolId, folioId }: Place,
  pattern: PaperNumbers,
  papers: readonly PlannedPaper[],
  replaced: ReadonlyMap<string, string>,
): Promise<Map<string, GivenNumber>> {
  const given = new Map<string, GivenNumber>();
  const series = seriesOf(pattern);
  if (papers.length === 0) return given;
  await manager.query('INSERT IGNORE INTO number_series (schoolId, series, next) VALUES (?, ?, ?)', [
    schoolId,
    series,
    pattern.from,
  ]);
  const [row] = await manager.query<{ next: number }[]>(
    'SELECT next FROM number_series WHERE schoolId = ? AND series = ? FOR UPDATE',
    [schoolId, series],
  );
  let next = Math.max(row!.next, pattern.from);
  // Locking reads: others may have committed since this transaction looked around first.
  const had = await manager.query<(Key & { n: number })[]>(
    `SELECT entryId, templateId, n FROM paper_number
     WHERE folioId = ? AND schoolId = ? AND series = ? AND made = 1 AND closed = 0 FOR UPDATE`,
    [folioId, schoolId, series],
  );
  const own = new Map(had.map((one) => [paperKey(one), one.n]));
  const free = await freeNumbers(manager, schoolId, series);
  let again = 0;
  for (const paper of papers) {
    const key = paperKey(paper);
    const kept = own.get(key);
    const n = kept ?? free[again++] ?? next++;
    const taken = kept === undefined ? { series, n } : null;
    given.set(key, { own: writtenNumber(pattern, n), replaces: replaced.get(key) ?? '', taken });
  }
  await manager.query('UPDATE number_series SET next = ? WHERE schoolId = ? AND series = ?', [
    next,
    schoolId,
    series,
  ]);
  return given;
}

/** Numbers that were given to papers which were never made, and will not be any more; the lowest first. */
async function freeNumbers(manager: EntityManager, schoolId: string, series: string): Promise<number[]> {
  const unmade = await manager.query<{ n: number; paperId: string }[]>(
    'SELECT n, paperId FROM paper_number WHERE schoolId = ? AND series = ? AND made = 0 ORDER BY n FOR UPDATE',
    [schoolId, series],
  );
  if (unmade.length === 0) return [];
  const rows = await manager.query<{ id: string }[]>(
    "SELECT id FROM paper WHERE id IN (?) AND state = 'waiting' LOCK IN SHARE MODE",
    [unmade.map(({ paperId }) => paperId)],
  );
  const waiting = new Set(rows.map(({ id }) => id));
  return unmade.filter(({ paperId }) => !waiting.has(paperId)).map(({ n }) => n);
}

/** Writes down which papers have which numbers, until they are made. */
export async function keepNumbers(
  manager: EntityManager,
  { schoolId, folioId }: Place,
  papers: readonly (Key & { readonly paperId: string; readonly given: GivenNumber | undefined })[],
): Promise<void> {
  const rows = papers.flatMap(({ entryId, templateId, paperId, given }) =>
    given?.taken
      ? [[schoolId, given.taken.series, given.taken.n, folioId, entryId, templateId, paperId, false, false]]
      : [],
  );
  for (let at = 0; at < rows.length; at += 500)
    await manager.query(
      `INSERT INTO paper_number (schoolId, series, n, folioId, entryId, templateId, paperId, made, closed) VALUES ?
       ON DUPLICATE KEY UPDATE folioId = VALUES(folioId), entryId = VALUES(entryId), templateId = VALUES(templateId),
         paperId = VALUES(paperId)`,
      [rows.slice(at, at + 500)],
    );
}

/** The numbers of papers that were made are theirs. */
export async function numbersMade(manager: EntityManager, paperIds: readonly string[]): Promise<void> {
  if (paperIds.length > 0)
    await manager.query('UPDATE paper_number SET made = 1 WHERE paperId IN (?)', [[...paperIds]]);
}

/** The numbers of papers that do not count any more are given to nobody; the next paper of the learner gets another one. */
export async function closeNumbers(
  manager: EntityManager,
  { schoolId, folioId }: Place,
  papers: readonly Key[],
): Promise<void> {
  for (let at = 0; at < papers.length; at += 500)
    await manager.query(
      `UPDATE paper_number SET closed = 1
       WHERE schoolId = ? AND folioId = ? AND made = 1 AND (entryId, templateId) IN (?)`,
      [schoolId, folioId, papers.slice(at, at + 500).map(({ entryId, templateId }) => [entryId, templateId])],
    );
}
