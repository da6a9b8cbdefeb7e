import { applyPatch, namesGone, type Entry, type RollPatch } from '@scriptum/core/roll';
import { phrase } from '@scriptum/core/sentences';
import { SHEET_LIMITS } from '@scriptum/core/table';
import { In, QueryFailedError, type EntityManager } from 'typeorm';
import { conflict, fromProblem } from '../refusal.js';
import { EntryRow, type FolioRow } from '../store/entities/folio.js';
import { EnclosureRow, PaperRow } from '../store/entities/register.js';
import { lockFolio } from '../store/folios.js';
import { addEntries, changeRoll, keepEntries, loadEntries, loadRoll } from '../store/rolls.js';

/** Applies a patch to the folio's roll, reading and writing the entries that it touches. @throws Refusal */
export async function patchRoll(
  manager: EntityManager,
  schoolId: string,
  folioId: string,
  patch: RollPatch,
): Promise<void> {
  const folio = await lockFolio(manager, schoolId, folioId);
  // A column that goes takes its cells with it, in all entries.
  const all = patch.columns?.some((change) => change.do === 'remove');
  const touched = [
    ...new Set([
      ...(patch.cells ?? []).map(({ entryId }) => entryId),
      ...(patch.leftOut ?? []).map(({ entryId }) => entryId),
      ...(patch.added ?? []).map(({ id }) => id),
      ...(patch.taken ?? []),
    ]),
  ];
  const roll = all ? await loadRoll(manager, folio) : await loadEntries(manager, folio, touched);
  const before = new Set(roll.entries.map(({ id }) => id));
  if (namesGone(patch, (id) => before.has(id)))
    throw conflict(
      'entry-gone',
      'An entry that you changed is not on the roll any more: somebody else took it away, or you did in another window.',
    );
  const patched = applyPatch(roll, patch);
  if (!patched.ok) throw fromProblem(patched.problem, 409);
  const { value } = patched;
  const after = new Set(value.roll.entries.map(({ id }) => id));
  await takeAway(
    manager,
    folio,
    roll.entries.filter(({ id }) => !after.has(id)),
  );
  const changed = value.roll.entries.filter(({ id }) => value.touched.has(id));
  await add(
    manager,
    folio,
    changed.filter(({ id }) => !before.has(id)),
  );
  await keepEntries(
    manager,
    folio,
    changed.filter(({ id }) => before.has(id)),
  );
  await changeRoll(manager, folio, value.roll);
}

/** A paper keeps the entry that it was made for. */
async function takeAway(
  manager: EntityManager,
  { id: folioId, schoolId }: FolioRow,
  entries: readonly Entry[],
): Promise<void> {
  for (let from = 0; from < entries.length; from += 1000) {
    const ids = In(entries.slice(from, from + 1000).map(({ id }) => id));
    const where = { folioId, schoolId, entryId: ids };
    if ((await manager.existsBy(PaperRow, where)) || (await manager.existsBy(EnclosureRow, where)))
      throw conflict(
        'entry-has-paper',
        'Papers were made for some of these entries, so they stay in the roll. Leave them out instead.',
      );
    await manager.delete(EntryRow, { id: ids, folioId, schoolId });
  }
}

async function add(manager: EntityManager, folio: FolioRow, entries: readonly Entry[]): Promise<void> {
  if (entries.length === 0) return;
  const { id: folioId, schoolId } = folio;
  const present = await manager.countBy(EntryRow, { folioId, schoolId });
  if (present + entries.length > SHEET_LIMITS.rows)
    throw conflict('too-many-entries', phrase('too-many-entries', { most: SHEET_LIMITS.rows }));
  try {
    await addEntries(manager, folio, entries);
  } catch (error) {
    const taken =
      error instanceof QueryFailedError && (error.driverError as { code?: string }).code === 'ER_DUP_ENTRY';
    if (!taken) throw error;
    throw conflict('entry-known', 'An entry with this identity exists already. Reload and add it again.');
  }
}
