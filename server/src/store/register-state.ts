import type { EntityManager } from 'typeorm';

/** How far a folio's register has come. */
export interface RegisterState {
  /** Goes up with each change of a paper or of how its message stands. */
  readonly revision: number;
  /** Who knows less than this has to have the whole register: papers were taken out of it. */
  readonly wholeSince: number;
  /** What the papers were compared with when it was looked last which are out of date; null where never. */
  readonly comparedWith: string | null;
  /** What it is known of what papers come to; null where nothing is. */
  readonly checkedWith: string | null;
}

export async function registerState(manager: EntityManager, folioId: string): Promise<RegisterState> {
  const [row] = await manager.query<
    { revision: string; wholeSince: string; comparedWith: string | null; checkedWith: string | null }[]
  >('SELECT revision, wholeSince, comparedWith, checkedWith FROM register_state WHERE folioId = ?', [
    folioId,
  ]);
  return row
    ? { ...row, revision: Number(row.revision), wholeSince: Number(row.wholeSince) }
    : { revision: 0, wholeSince: 0, comparedWith: null, checkedWith: null };
}

/**
 * The revision for what this transaction changes in a folio's register. It has the register for itself from here on, so that
 * revisions become visible in their order; so this comes before other locks but the folio's own.
 */
export async function nextRevision(
  manager: EntityManager,
  { schoolId, folioId }: { schoolId: string; folioId: string },
): Promise<number> {
  const [row] = await manager.query<{ revision: string }[]>(
    `INSERT INTO register_state (folioId, schoolId, revision) VALUES (?, ?, 1)
     ON DUPLICATE KEY UPDATE revision = revision + 1 RETURNING revision`,
    [folioId, schoolId],
  );
  return Number(row!.revision);
}

/** Says that papers were taken out, so that who has an older revision asks for all of them. */
export async function tookPapersOut(
  manager: EntityManager,
  folioId: string,
  revision: number,
): Promise<void> {
  await manager.query('UPDATE register_state SET wholeSince = ? WHERE folioId = ?', [revision, folioId]);
}

/** Says what the papers were compared with; null where that is not known any more. */
export async function setComparedWith(
  manager: EntityManager,
  folioId: string,
  what: string | null,
): Promise<void> {
  await manager.query('UPDATE register_state SET comparedWith = ? WHERE folioId = ?', [what, folioId]);
}
