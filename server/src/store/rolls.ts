import { isDeepStrictEqual } from 'node:util';
import type { Entry, Roll } from '@scriptum/core/roll';
import { In, type EntityManager } from 'typeorm';
import { EntryRow, FolioRow } from './entities/folio.js';
import { insertMany } from './insert-many.js';

/** The roll with all its entries, in their order. */
export async function loadRoll(manager: EntityManager, folio: FolioRow): Promise<Roll> {
  const rows = await manager.find(EntryRow, {
    where: { folioId: folio.id, schoolId: folio.schoolId },
    order: { position: 'ASC', id: 'ASC' },
  });
  return rollOf(folio, rows);
}

/** The roll with some of its entries. */
export async function loadEntries(
  manager: EntityManager,
  folio: FolioRow,
  entryIds: readonly string[],
): Promise<Roll> {
  const rows: EntryRow[] = [];
  // Identities are kept as ASCII; others name nobody, and cannot be compared with them.
  const known = entryIds.filter((id) => /^[\w-]+$/.test(id));
  for (let from = 0; from < known.length; from += 1000) {
    rows.push(
      ...(await manager.findBy(EntryRow, {
        id: In(known.slice(from, from + 1000)),
        folioId: folio.id,
        schoolId: folio.schoolId,
      })),
    );
  }
  return rollOf(folio, rows);
}

const rollOf = (folio: FolioRow, rows: readonly EntryRow[]): Roll => ({
  columns: folio.columns,
  entries: rows.map(entryOf),
  ...(folio.rollKey ? { key: folio.rollKey } : {}),
});

/** An entry as it is kept, without its keeper's columns. */
export function entryOf({
  id,
  position,
  values,
  exact,
  mends,
  leftOut,
  gone,
  byHand,
  answered,
  tables,
}: EntryRow): Entry {
  return {
    id,
    position,
    values,
    ...(exact ? { exact } : {}),
    ...(mends ? { mends } : {}),
    ...(leftOut === null ? {} : { leftOut }),
    ...(gone ? { gone } : {}),
    ...(byHand ? { byHand } : {}),
    ...(answered ? { answered } : {}),
    ...(tables ? { tables } : {}),
  };
}

const rowOf = (folio: FolioRow, entry: Entry): EntryRow => ({
  id: entry.id,
  schoolId: folio.schoolId,
  folioId: folio.id,
  position: entry.position,
  values: entry.values,
  exact: entry.exact ?? null,
  mends: entry.mends ?? null,
  leftOut: entry.leftOut ?? null,
  gone: entry.gone ?? false,
  byHand: entry.byHand ?? false,
  answered: entry.answered ?? null,
  tables: entry.tables ?? null,
});

/**
 * Puts a whole roll in the place of the folio's. Entries that stay are changed where they stand, since other things hang on
 * them; those that stay as they are, are not touched.
 */
export async function replaceRoll(manager: EntityManager, folio: FolioRow, roll: Roll): Promise<void> {
  const where = { folioId: folio.id, schoolId: folio.schoolId };
  const there = await manager.find(EntryRow, { select: { id: true }, where });
  const next = new Set(roll.entries.map(({ id }) => id));
  const gone = there.map(({ id }) => id).filter((id) => !next.has(id));
  if (gone.length === there.length) await manager.delete(EntryRow, where);
  else
    for (let from = 0; from < gone.length; from += 1000)
      await manager.delete(EntryRow, { ...where, id: In(gone.slice(from, from + 1000)) });
  const staying = there.map(({ id }) => id).filter((id) => next.has(id));
  const before = new Map(
    (await loadEntries(manager, folio, staying)).entries.map((entry) => [entry.id, entry]),
  );
  await addEntries(
    manager,
    folio,
    roll.entries.filter(({ id }) => !before.has(id)),
  );
  await keepEntries(
    manager,
    folio,
    roll.entries.filter((entry) => {
      const known = before.get(entry.id);
      return known && !isDeepStrictEqual(rowOf(folio, known), rowOf(folio, entry));
    }),
  );
  await changeRoll(manager, folio, roll);
}

/** Puts in entries that are not there yet. */
export async function addEntries(
  manager: EntityManager,
  folio: FolioRow,
  entries: readonly Entry[],
): Promise<void> {
  await insertMany(
    manager,
    EntryRow,
    entries.map((entry) => rowOf(folio, entry)),
  );
}

/** Keeps the entries that changed. */
export async function keepEntries(
  manager: EntityManager,
  folio: FolioRow,
  entries: readonly Entry[],
): Promise<void> {
  for (let from = 0; from < entries.length; from += 500) {
    await manager.upsert(
      EntryRow,
      entries.slice(from, from + 500).map((entry) => rowOf(folio, entry)),
      ['id'],
    );
  }
}

/** Keeps the columns and the key, and counts the change. `folio` is up to date afterwards. */
export async function changeRoll(manager: EntityManager, folio: FolioRow, roll: Roll): Promise<void> {
  folio.columns = roll.columns;
  folio.rollKey = roll.key?.length ? roll.key : null;
  folio.rollVersion += 1;
  folio.changedAt = new Date();
  const { columns, rollKey, rollVersion, changedAt } = folio;
  await manager.update(
    FolioRow,
    { id: folio.id, schoolId: folio.schoolId },
    { columns, rollKey, rollVersion, changedAt },
  );
}
