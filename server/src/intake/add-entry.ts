import type { Column } from '@scriptum/core/column';
import type { Entry } from '@scriptum/core/roll';
import { SHEET_LIMITS } from '@scriptum/core/table';
import type { EntityManager } from 'typeorm';
import { conflict } from '../refusal.js';
import { EntryRow, type FolioRow } from '../store/entities/folio.js';
import { addEntries, changeRoll } from '../store/rolls.js';

/** Puts an entry behind all others. The folio is locked. @param columns those of the roll, where it gets others with it */
export async function addEntry(
  manager: EntityManager,
  folio: FolioRow,
  entry: Entry,
  columns: readonly Column[] = folio.columns,
): Promise<void> {
  const there = { folioId: folio.id, schoolId: folio.schoolId };
  if ((await manager.countBy(EntryRow, there)) >= SHEET_LIMITS.rows)
    throw conflict(
      'full',
      'This form has as many answers as it takes. Ask the school if you still want to answer.',
    );
  const last = await manager.maximum(EntryRow, 'position', there);
  await addEntries(manager, folio, [{ ...entry, position: (last ?? -1) + 1 }]);
  await changeRoll(manager, folio, {
    columns: [...columns],
    entries: [],
    ...(folio.rollKey ? { key: folio.rollKey } : {}),
  });
}
