import {
  changesNothing,
  doubtOfJoin,
  doubtOfRefresh,
  planJoin,
  applyJoin,
  planRefresh,
  readingLike,
  type ReadVersion,
  type VersionDoubt,
} from '@scriptum/core/sources';
import type { Roll } from '@scriptum/core/roll';
import type { LaidOut } from '@scriptum/core/table';
import { openSheetFile } from '@scriptum/core/workbook';
import type { EntityManager } from 'typeorm';
import { ANSWERED, cellsOf, changedAnswer, oweAnswers } from '../order/owe.js';
import { fromProblem, notFound } from '../refusal.js';
import { bringIn } from '../roll/bring-in.js';
import { readBlob } from '../store/blobs.js';
import { SourceRow } from '../store/entities/folio.js';
import { WatchedRow, type Took } from '../store/entities/watched.js';
import { lockFolio } from '../store/folios.js';
import { newId } from '../store/id.js';
import { loadRoll } from '../store/rolls.js';

/** A version as it was found, whose bytes are kept. */
export interface NewerVersion {
  readonly name: string;
  readonly blobHash: string;
  readonly stamp: string | null;
}

/** What became of it. */
export interface Taken {
  /** True where the roll is another one now. */
  readonly changed: boolean;
  /** True where standing orders have something to do. */
  readonly owed: boolean;
}

/**
 * Takes a newer version of a watched file over, in one transaction with what standing orders have to do about it, so that it is taken once
 * whatever is ended and whoever else looks. Where somebody had better look first it waits.
 *
 * @throws Refusal where it cannot be read or joined, or papers are being pressed.
 */
export async function takeNewer(
  manager: EntityManager,
  { schoolId, folioId, watchedId }: { schoolId: string; folioId: string; watchedId: string },
  version: NewerVersion,
  now = new Date(),
): Promise<Taken> {
  const folio = await lockFolio(manager, schoolId, folioId);
  const watched = await manager.findOneBy(WatchedRow, { id: watchedId, folioId, schoolId });
  // It was taken out meanwhile, or another server was faster.
  if (!watched?.isOn || watched.seenHash === version.blobHash) return { changed: false, owed: false };
  const source = await manager.findOneBy(SourceRow, { id: watched.sourceId, folioId, schoolId });
  if (!source) throw notFound('The source that it is a newer version of');
  const seen = { seenHash: version.blobHash, seenName: version.name, stamp: version.stamp, fault: null };
  const keep = async (more: Partial<WatchedRow>): Promise<void> => {
    await manager.update(WatchedRow, { id: watchedId }, { ...seen, waits: null, ...more });
  };
  if (version.blobHash === source.blobHash) {
    await keep({});
    return { changed: false, owed: false };
  }
  const before = await loadRoll(manager, folio);
  const old = await read(manager, schoolId, source.blobHash, () => source.reading ?? {});
  const titles = old.sheet.columns.map(({ title }) => title);
  const newer = await read(manager, schoolId, version.blobHash, (file) =>
    readingLike(file, source.reading ?? {}, titles),
  );
  const { doubt, nothing } = judge(before, source, old, newer);
  if (doubt) {
    await keep({ waits: saysOf(doubt).slice(0, 1000) });
    return { changed: false, owed: false };
  }
  if (nothing) {
    await keep({});
    return { changed: false, owed: false };
  }
  const after = await bringIn(
    manager,
    schoolId,
    folioId,
    { name: version.name, blobHash: version.blobHash, laidOut: newer },
    {
      kind: 'refresh',
      sourceId: source.id,
      decisions: { otherConflicts: 'mine', missing: watched.missing },
    },
    true,
  );
  const { added, changed, missing } = differences(before, after);
  const took: Took = {
    at: now.toISOString(),
    name: version.name,
    added: added.length,
    changed: changed.length,
    missing,
  };
  await keep({ took });
  const place = { schoolId, folioId, writingId: watchedId };
  const owed = [
    await oweAnswers(
      manager,
      place,
      'new',
      added.map((entryId) => ({ entryId, version: ANSWERED })),
      now,
    ),
    await oweAnswers(
      manager,
      place,
      'changed',
      changed.map((entryId) => ({ entryId, version: changedAnswer(now) })),
      now,
    ),
  ];
  return { changed: true, owed: owed.some(Boolean) };
}

async function read(
  manager: EntityManager,
  schoolId: string,
  blobHash: string,
  readingOf: (file: Parameters<typeof readingLike>[0]) => LaidOut['reading'],
): Promise<LaidOut> {
  const bytes = await readBlob(manager, schoolId, blobHash);
  if (!bytes) throw notFound('The file');
  const opened = openSheetFile(bytes);
  if (!opened.ok) throw fromProblem(opened.problem);
  const laidOut = opened.value.layOut(readingOf(opened.value), newId);
  if (!laidOut.ok) throw fromProblem(laidOut.problem);
  return laidOut.value;
}

function judge(
  roll: Roll,
  source: SourceRow,
  old: ReadVersion,
  newer: ReadVersion,
): { doubt: VersionDoubt | null; nothing: boolean } {
  if (source.kind === 'joined') {
    const spec = source.joinSpec!;
    const joined = applyJoin(roll, newer.sheet, spec, planJoin(roll, newer.sheet, spec), {
      id: source.id,
      name: source.fileName,
    });
    const same = differences(roll, joined);
    return {
      doubt: doubtOfJoin(roll, spec, old, newer),
      nothing: same.changed.length === 0 && joined.columns.length === roll.columns.length,
    };
  }
  const plan = planRefresh(roll, newer.sheet, source.id);
  return { doubt: doubtOfRefresh(roll, source.id, old, newer, plan), nothing: changesNothing(plan) };
}

/** Which entries are new, which have other cells, and how many are newly gone. */
function differences(before: Roll, after: Roll): { added: string[]; changed: string[]; missing: number } {
  const known = new Map(before.entries.map((entry) => [entry.id, entry]));
  const added: string[] = [];
  const changed: string[] = [];
  let missing = 0;
  for (const entry of after.entries) {
    const was = known.get(entry.id);
    if (!was) added.push(entry.id);
    else if (entry.gone && !was.gone) missing += 1;
    else if (cellsOf(was) !== cellsOf(entry)) changed.push(entry.id);
  }
  return { added, changed, missing };
}

function saysOf(doubt: VersionDoubt): string {
  switch (doubt.kind) {
    case 'titles':
      return 'It has none of the columns of the version before. Is it another sheet?';
    case 'columns':
      return `It lacks ${doubt.titles.length === 1 ? 'the column' : 'the columns'} ${doubt.titles
        .slice(0, 5)
        .map((title) => `“${title}”`)
        .join(', ')}${doubt.titles.length > 5 ? ` and ${doubt.titles.length - 5} more` : ''}.`;
    case 'missing':
      return `${doubt.count} of ${doubt.of} learners are not in it.`;
    case 'people':
      return `${doubt.count} of ${doubt.of} learners have another name or address in it.`;
  }
}
