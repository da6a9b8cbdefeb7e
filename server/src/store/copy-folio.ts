import { IsNull, type EntityManager } from 'typeorm';
import { AssetRow, EntryRow, FolioRow, SourceRow } from './entities/folio.js';
import { WritingRow } from './entities/writing.js';
import { newId } from './id.js';
import { insertMany } from './insert-many.js';

/**
 * Copies a folio with all that is written in it: columns, letters and certificates with their pictures, notes, file names and
 * sorting. What was made with it stays behind, and so do kept copies and what was deleted.
 *
 * @param people true to take the roll's entries along, with the files that they come from.
 */
export async function copyFolio(
  manager: EntityManager,
  from: FolioRow,
  { title, people, staffId }: { title: string; people: boolean; staffId: string | null },
): Promise<FolioRow> {
  const { schoolId, id: folioId } = from;
  const [written, assets, sources, entries] = await Promise.all([
    manager.find(WritingRow, { where: { folioId, schoolId, deletedAt: IsNull() } }),
    manager.findBy(AssetRow, { folioId, schoolId }),
    people ? manager.findBy(SourceRow, { folioId, schoolId }) : [],
    people ? manager.find(EntryRow, { where: { folioId, schoolId }, order: { position: 'ASC' } }) : [],
  ]);
  // What is another one for one learner goes with the learner.
  const writings = people ? written : written.filter(({ kind }) => kind !== 'exception');
  // Each thing gets an identity of its own, wherever it is named: in rules, fields, cells with pictures, small tables.
  const ids = new Map<string, string>([[folioId, newId()]]);
  for (const { id } of [...writings, ...assets, ...sources, ...entries]) ids.set(id, newId());
  const now = new Date();
  const folio: FolioRow = {
    ...renamed(from, ids),
    schoolId,
    title,
    rollVersion: 1,
    createdAt: now,
    changedAt: now,
    changedBy: staffId,
    archivedAt: null,
  };
  await manager.insert(FolioRow, folio);
  await insertMany(
    manager,
    AssetRow,
    assets.map((row) => renamed(row, ids)),
  );
  await insertMany(
    manager,
    SourceRow,
    sources.map((row) => ({ ...renamed(row, ids), broughtInAt: row.broughtInAt })),
  );
  await insertMany(
    manager,
    EntryRow,
    entries.map((row) => renamed(row, ids)),
  );
  await insertMany(
    manager,
    WritingRow,
    writings.map((row) => ({
      ...renamed(row, ids),
      version: 1,
      changedAt: now,
      changedBy: staffId,
      deletedAt: null,
    })),
  );
  return folio;
}

/** A row with the new identities in the place of the old ones, in its JSON and in the names of its keys too. */
function renamed<T>(row: T, ids: ReadonlyMap<string, string>): T {
  // Identities are 16 letters and digits (see `newId`), with a letter more of the oldest ones; quotation marks stand around them,
  // or what tells a picture in a cell.
  const text = JSON.stringify(row).replace(/(?<=["':])[0-9a-z]{16,20}(?=["'])/g, (id) => ids.get(id) ?? id);
  return JSON.parse(text) as T;
}
