import { personalCode, readCode } from '@scriptum/core/column';
import { learnerName, nameColumns, type Entry } from '@scriptum/core/roll';
import type { EntityManager } from 'typeorm';
import { notFound } from '../refusal.js';
import { EntryRow } from '../store/entities/folio.js';
import type { FormDoorRow } from '../store/entities/intake.js';
import { findFolio } from '../store/folios.js';
import { loadEntries } from '../store/rolls.js';
import { formAt } from './doors.js';

/** An entry that has a form of its own, with its learner's name. */
export interface OwnEntry {
  readonly entry: Entry;
  readonly name: string;
}

/**
 * The entry whose code it is, for a form that each learner of the roll has a link or a code for. Codes stand nowhere: they are worked out
 * for each entry, as the column does.
 *
 * @throws Refusal `not-found`, also where the form is for others.
 */
export async function entryByCode(
  manager: EntityManager,
  door: FormDoorRow,
  written: string,
): Promise<OwnEntry> {
  const { schoolId, folioId, writingId } = door;
  const code = readCode(written);
  const [form, folio] = await Promise.all([formAt(manager, door), findFolio(manager, schoolId, folioId)]);
  const seed = folio.columns
    .map(({ worked }) => (worked?.kind === 'personal' && worked.formId === writingId ? worked.seed : null))
    .find((one) => one !== null);
  if (form.terms.who !== 'roll' || code === null || !seed) throw notFound('This code');
  const ids = await manager.find(EntryRow, { select: { id: true }, where: { folioId, schoolId } });
  const found = ids.find(({ id }) => personalCode(seed, id) === code);
  if (!found) throw notFound('This code');
  const { entries, columns } = await loadEntries(manager, folio, [found.id]);
  const [entry] = entries;
  if (!entry) throw notFound('This code');
  return { entry, name: learnerName(entry, nameColumns(columns)) };
}
