import { applyPatch, type RollPatch } from '@scriptum/core/roll';
import type { EntityManager } from 'typeorm';
import { fromProblem } from '../refusal.js';
import { lockFolio } from '../store/folios.js';
import { changeRoll, keepEntries, loadEntries, loadRoll } from '../store/rolls.js';

/** Applies a patch to the folio's roll, reading and writing the entries that it touches. @throws Refusal */
export async function patchRoll(
  manager: EntityManager,
  schoolId: string,
  folioId: string,
  patch: RollPatch,
): Promise<void> {
  const folio = await lockFolio(manager, schoolId, folioId);
  const kept = patch.columns && new Set(patch.columns.map(({ id }) => id));
  // A column that goes takes its cells with it, in all entries.
  const all = kept && folio.columns.some(({ id }) => !kept.has(id));
  const touched = [
    ...new Set([
      ...(patch.cells ?? []).map(({ entryId }) => entryId),
      ...(patch.leftOut ?? []).map(({ entryId }) => entryId),
    ]),
  ];
  const roll = all ? await loadRoll(manager, folio) : await loadEntries(manager, folio, touched);
  const patched = applyPatch(roll, patch);
  if (!patched.ok) throw fromProblem(patched.problem, 409);
  const changed = patched.value.roll.entries.filter((entry) => patched.value.touched.has(entry.id));
  await keepEntries(manager, folio, changed);
  await changeRoll(manager, folio, patched.value.roll);
}
