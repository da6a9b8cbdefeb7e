import type { Folio } from '@scriptum/core/contract';
import type { Roll } from '@scriptum/core/roll';
import type { EntityManager } from 'typeorm';
import { notFound } from '../refusal.js';
import { AssetRow, EarlierRow, FolioRow, SourceRow } from './entities/folio.js';
import { newId } from './id.js';
import { currentLetterhead } from './letterheads.js';
import { loadRoll } from './rolls.js';
import { addFirstWritings, loadWritings } from './writings.js';

/** The folio's row. @throws Refusal `not-found`, also for another school's folio. */
export async function findFolio(
  manager: EntityManager,
  schoolId: string,
  folioId: string,
): Promise<FolioRow> {
  const folio = await manager.findOneBy(FolioRow, { id: folioId, schoolId });
  if (!folio) throw notFound('This folio');
  return folio;
}

/** Takes the folio's row for this transaction alone, so that two requests cannot work on it at once. */
export async function lockFolio(
  manager: EntityManager,
  schoolId: string,
  folioId: string,
): Promise<FolioRow> {
  const folio = await manager.findOne(FolioRow, {
    where: { id: folioId, schoolId },
    lock: { mode: 'pessimistic_write' },
  });
  if (!folio) throw notFound('This folio');
  return folio;
}

/** The pictures and PDFs that papers are made of. */
export async function loadAssets(
  manager: EntityManager,
  schoolId: string,
  folioId: string,
): Promise<AssetRow[]> {
  return manager.findBy(AssetRow, { folioId, schoolId, along: false });
}

/** Everything that a desk shows but the register. @param known the roll, where it is at hand. */
export async function loadFolio(
  manager: EntityManager,
  schoolId: string,
  folioId: string,
  known?: Roll,
): Promise<Folio> {
  const folio = await findFolio(manager, schoolId, folioId);
  const [writings, roll, assets, sources, earlier, letterhead] = await Promise.all([
    loadWritings(manager, { schoolId, folioId }),
    known ?? loadRoll(manager, folio),
    loadAssets(manager, schoolId, folioId),
    manager.find(SourceRow, { where: { folioId, schoolId }, order: { kind: 'ASC', broughtInAt: 'ASC' } }),
    manager.findOne(EarlierRow, {
      select: { id: true, what: true, at: true, versionAfter: true },
      where: { folioId, schoolId },
      order: { at: 'DESC' },
    }),
    currentLetterhead(manager, schoolId),
  ]);
  return {
    id: folio.id,
    title: folio.title,
    sources: sources.map((source) => ({
      id: source.id,
      kind: source.kind,
      fileName: source.fileName,
      reading: source.reading ?? {},
      rows: source.rows,
      broughtInAt: source.broughtInAt.toISOString(),
      notes: source.notes,
      ...(source.columns ? { columns: source.columns } : {}),
      ...(source.joinSpec ? { join: source.joinSpec } : {}),
    })),
    earlier: earlier && {
      id: earlier.id,
      what: earlier.what,
      at: earlier.at.toISOString(),
      changedSince: earlier.versionAfter !== folio.rollVersion,
    },
    roll,
    writings,
    assets: assets.map(({ id, name, mime }) => ({ id, name, mime })),
    letterhead: letterhead?.content ?? null,
  };
}

/** Starts a folio with an empty roll, letter and note. */
export async function createFolio(
  manager: EntityManager,
  schoolId: string,
  title: string,
  at: Date,
  staffId: string | null = null,
): Promise<FolioRow> {
  const folio = manager.create(FolioRow, {
    id: newId(),
    schoolId,
    title,
    columns: [],
    rollKey: null,
    rollVersion: 1,
    createdAt: at,
    changedAt: at,
    changedBy: staffId,
    archivedAt: null,
  });
  await manager.insert(FolioRow, folio);
  await addFirstWritings(manager, { schoolId, folioId: folio.id }, title, at);
  return folio;
}

export async function touchFolio(
  manager: EntityManager,
  folio: { id: string; schoolId: string },
): Promise<void> {
  await manager.update(FolioRow, { id: folio.id, schoolId: folio.schoolId }, { changedAt: new Date() });
}

/** Says who changed a folio last. */
export async function changedBy(
  manager: EntityManager,
  { schoolId, folioId, staffId }: { schoolId: string; folioId: string; staffId: string | null },
): Promise<void> {
  await manager.update(FolioRow, { id: folioId, schoolId }, { changedBy: staffId, changedAt: new Date() });
}
