import { paperKey, whatChanged } from '@scriptum/core/paper';
import { say } from '@scriptum/core/sentences';
import type { Field } from '@scriptum/core/template';
import { In, Not, type DataSource, type EntityManager } from 'typeorm';
import type { ClaimedSlice, SliceQueue } from '../jobs/slice-queue.js';
import { keepBlobs, sha256 } from '../store/blobs.js';
import { PaperRow, PressRunRow } from '../store/entities/register.js';
import { inTransaction } from '../store/in-transaction.js';
import { nextRevision, setComparedWith, tookPapersOut } from '../store/register-state.js';
import { numbersMade } from '../register/numbers.js';
import { PRESENT } from '../register/present-papers.js';
import type { SetPaper } from './typesetter.js';

/** A paper with what the typesetter made of it. */
export interface DonePaper {
  readonly paper: PaperRow;
  readonly set: SetPaper;
  /** Why it is held as soon as it is pressed, where something in it does not fit; else null. */
  readonly heldFor: string | null;
  /** The fields of its template, by which is said what changed in it. */
  readonly fields: readonly Field[];
}

/**
 * Files and states in one transaction: a paper is either pressed and has its file, or it is still waiting. Only where a
 * paper was written does it take the place of earlier ones, and messages with these that have not left go with them.
 *
 * @param last true where nothing of the slice is left; it ends with this.
 * @throws SliceLost where the slice is not held any more, or the run was stopped.
 */
export async function commitPapers(
  database: DataSource,
  queue: SliceQueue,
  slice: ClaimedSlice,
  batch: readonly DonePaper[],
  last: boolean,
): Promise<void> {
  const { schoolId, jobId: runId } = slice;
  const blobs = batch.flatMap(({ set }) => (set.ok ? [{ hash: sha256(set.bytes), bytes: set.bytes }] : []));
  const hashOf = new Map(blobs.map(({ hash, bytes }) => [bytes, hash]));
  await inTransaction(database, async (manager) => {
    const revision = await nextRevision(manager, slice);
    await (last ? queue.end(manager, slice, 'done') : queue.fence(manager, slice));
    if (batch.length === 0) return;
    const ids = batch.map(({ paper }) => paper.id);
    const waiting = new Map(
      (
        await manager.find(PaperRow, {
          select: { id: true, heldBack: true, replaces: true },
          where: { id: In(ids), runId, schoolId, state: 'waiting' },
        })
      ).map((row) => [row.id, row] as const),
    );
    const written = batch.filter(({ paper }) => waiting.has(paper.id));
    if (written.length === 0) return;
    await keepBlobs(manager, schoolId, blobs);
    const earlier = await earlierPapers(manager, slice, written);
    const others = await otherPapers(
      manager,
      slice,
      written.flatMap(({ paper }) => waiting.get(paper.id)?.replaces ?? []),
    );
    const heldOthers = new Set(
      others.filter(({ state, heldBack }) => state === 'held' && !heldBack).map(({ id }) => id),
    );
    // What a person holds stays held; what was held for a blank field is not, once the field is filled.
    const held = new Set(
      earlier.filter(({ state, heldBack }) => state === 'held' && !heldBack).map(paperKey),
    );
    const cleared = new Map(
      earlier.filter(({ state }) => state === 'cleared').map((one) => [paperKey(one), one]),
    );
    const made = written.filter(({ set }) => set.ok);
    // Before the papers themselves, in the order in which numbers are given.
    await numbersMade(
      manager,
      made.flatMap(({ paper }) => (paper.number === null ? [] : [paper.id])),
    );
    await writeStates(manager, written, revision, ({ paper, set, heldFor, fields }) => ({
      changed: changedSince(cleared.get(paperKey(paper)), paper, fields),
      state: !set.ok
        ? 'failed'
        : waiting.get(paper.id)?.heldBack ||
            heldFor !== null ||
            held.has(paperKey(paper)) ||
            waiting.get(paper.id)?.replaces?.some((id) => heldOthers.has(id))
          ? 'held'
          : 'pressed',
      reason: set.ok ? heldFor && heldFor.slice(0, 1000) : set.reason.slice(0, 1000),
      heldBack: Boolean(waiting.get(paper.id)?.heldBack) || heldFor !== null,
      blobHash: set.ok ? hashOf.get(set.bytes)! : null,
      pages: set.ok ? set.pages : null,
      bytes: set.ok ? set.size : null,
      laidOn: set.ok && set.laidOn ? JSON.stringify(set.laidOn) : null,
      // What was not made has none: another paper gets it.
      number: set.ok ? paper.number : null,
    }));
    const replaced = new Set(made.map(({ paper }) => paperKey(paper)));
    const replacedToo = new Set(made.flatMap(({ paper }) => waiting.get(paper.id)?.replaces ?? []));
    if (replacedToo.size > 0)
      await manager.update(
        PaperRow,
        { schoolId, id: In([...replacedToo]), reissue: true },
        { reissue: false },
      );
    await supersede(
      manager,
      [
        ...earlier.filter((paper) => replaced.has(paperKey(paper))),
        ...others.filter(({ id }) => replacedToo.has(id)),
      ],
      revision,
    );
  });
}

function earlierPapers(
  manager: EntityManager,
  { schoolId, folioId, jobId: runId }: ClaimedSlice,
  written: readonly DonePaper[],
): Promise<PaperRow[]> {
  return manager.find(PaperRow, {
    select: {
      id: true,
      entryId: true,
      templateId: true,
      templateVersion: true,
      exceptionId: true,
      exceptionVersion: true,
      state: true,
      heldBack: true,
      values: true,
    },
    where: {
      schoolId,
      folioId,
      templateId: In([...new Set(written.map(({ paper }) => paper.templateId))]),
      entryId: In(written.map(({ paper }) => paper.entryId)),
      runId: Not(runId),
      state: In([...PRESENT, 'failed']),
    },
  });
}

/** What is another one than in the paper that was cleared; null where none was. */
function changedSince(before: PaperRow | undefined, now: PaperRow, fields: readonly Field[]): string | null {
  const changed = before && whatChanged(before, now, fields);
  return changed ? say(changed).slice(0, 1000) : null;
}

/** Papers of other templates, by their identities, that stand for their entries. */
async function otherPapers(
  manager: EntityManager,
  { schoolId, folioId }: ClaimedSlice,
  ids: readonly string[],
): Promise<PaperRow[]> {
  if (ids.length === 0) return [];
  return manager.find(PaperRow, {
    select: { id: true, state: true, heldBack: true },
    where: { id: In([...ids]), schoolId, folioId, state: In([...PRESENT]) },
  });
}

type Outcome = Pick<PaperRow, 'state' | 'reason' | 'blobHash' | 'pages' | 'bytes' | 'heldBack' | 'number'> & {
  readonly changed: string | null;
  readonly laidOn: string | null;
};

async function writeStates(
  manager: EntityManager,
  written: readonly DonePaper[],
  revision: number,
  outcome: (done: DonePaper) => Outcome,
): Promise<void> {
  const now = new Date();
  const rows = written.map((done) => {
    const { state, reason, blobHash, pages, bytes, heldBack, laidOn, changed, number } = outcome(done);
    return [done.paper.id, state, reason, blobHash, pages, bytes, heldBack, laidOn, changed, number];
  });
  const first =
    'SELECT ? AS id, ? AS state, ? AS reason, ? AS blobHash, ? AS pages, ? AS bytes, ? AS heldBack, ? AS laidOn, ? AS changed, ? AS number';
  await manager.query(
    `UPDATE paper p JOIN (${[first, ...rows.slice(1).map(() => 'SELECT ?, ?, ?, ?, ?, ?, ?, ?, ?, ?')].join(' UNION ALL ')}) v
       ON p.id = CAST(v.id AS CHAR CHARACTER SET ascii) COLLATE ascii_bin
     SET p.state = v.state, p.reason = v.reason, p.blobHash = v.blobHash, p.pages = v.pages, p.bytes = v.bytes,
       p.heldBack = v.heldBack, p.laidOn = v.laidOn, p.changed = v.changed, p.number = v.number, p.pressedAt = ?,
       p.revision = ?`,
    [...rows.flat(), now, revision],
  );
}

async function supersede(
  manager: EntityManager,
  earlier: readonly PaperRow[],
  revision: number,
): Promise<void> {
  if (earlier.length === 0) return;
  const ids = earlier.map(({ id }) => id);
  // What has not left shall not leave any more: a newer paper is there.
  await manager.query(
    `DELETE m FROM message m JOIN enclosure c ON c.messageId = m.id
     WHERE c.paperId IN (?) AND m.state IN ('queued', 'deferred')`,
    [ids],
  );
  await manager.update(PaperRow, { id: In(ids) }, { state: 'superseded', revision: String(revision) });
}

/** Papers of a slice that broke off time and again have failed, and the slice with them. */
export async function failSlice(
  database: DataSource,
  queue: SliceQueue,
  slice: ClaimedSlice,
  reason: string,
): Promise<void> {
  await inTransaction(database, async (manager) => {
    const revision = await nextRevision(manager, slice);
    await queue.end(manager, slice, 'failed');
    await manager.update(
      PaperRow,
      { sliceId: slice.id, schoolId: slice.schoolId, state: 'waiting' },
      { state: 'failed', reason, revision: String(revision) },
    );
  });
}

/**
 * Ends a run: papers that were not made are taken out. Where some were, it was stopped. Does nothing where it has ended.
 *
 * @param only `done` ends it only where nothing of it is to be done any more.
 */
export async function endRun(
  database: DataSource,
  queue: SliceQueue,
  { id, schoolId, folioId }: Pick<PressRunRow, 'id' | 'schoolId' | 'folioId'>,
  only?: 'done',
): Promise<void> {
  await inTransaction(database, async (manager) => {
    const revision = await nextRevision(manager, { schoolId, folioId });
    const rows = await manager.query<unknown[]>(
      "SELECT id FROM press_run WHERE id = ? AND schoolId = ? AND state = 'running' FOR UPDATE",
      [id, schoolId],
    );
    if (rows.length === 0) return;
    // A paper that still waits is to be done, also where its slice was lost: it is offered again.
    if (only && ((await queue.isOpen(manager, id)) || (await hasWaiting(manager, id)))) return;
    await queue.stop(manager, id);
    const taken = await manager.delete(PaperRow, { runId: id, schoolId, state: 'waiting' });
    if (taken.affected) await tookPapersOut(manager, folioId, revision);
    const state = taken.affected ? 'stopped' : 'finished';
    await manager.update(PressRunRow, { id }, { state, finishedAt: new Date() });
    // Texts or cells may have changed while it went, so its papers are compared anew.
    await setComparedWith(manager, folioId, `run ${id}`);
  });
}

const hasWaiting = (manager: EntityManager, runId: string): Promise<boolean> =>
  manager.existsBy(PaperRow, { runId, state: 'waiting' });
