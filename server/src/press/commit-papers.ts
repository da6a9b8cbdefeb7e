import { paperKey } from '@scriptum/core/paper';
import { In, Not, type DataSource, type EntityManager } from 'typeorm';
import { keepBlobs, sha256 } from '../store/blobs.js';
import { PaperRow, PressRunRow } from '../store/entities/register.js';
import { inTransaction } from '../store/in-transaction.js';
import { PRESENT } from '../register/present-papers.js';
import type { SetPaper } from './typesetter.js';

/** A paper with what the typesetter made of it. */
export interface DonePaper {
  readonly paper: PaperRow;
  readonly set: SetPaper;
}

/** The run is another server's by now, or it was stopped: nothing of it may be written any more. */
export class RunLost extends Error {
  override name = 'RunLost';
}

/**
 * Files and states in one transaction: a paper is either pressed and has its file, or it is still waiting. Only where a
 * paper was written does it take the place of earlier ones, and messages with these that have not left go with them.
 *
 * @param owner the server that claims the run.
 * @throws RunLost where the claim is not held any more, or the run was stopped.
 */
export async function commitPapers(
  database: DataSource,
  run: PressRunRow,
  owner: string,
  batch: readonly DonePaper[],
): Promise<void> {
  const blobs = batch.flatMap(({ set }) => (set.ok ? [{ hash: sha256(set.bytes), bytes: set.bytes }] : []));
  const hashOf = new Map(blobs.map(({ hash, bytes }) => [bytes, hash]));
  await inTransaction(database, async (manager) => {
    await holdRun(manager, run, owner);
    const ids = batch.map(({ paper }) => paper.id);
    const waiting = new Set(
      (
        await manager.find(PaperRow, {
          select: { id: true },
          where: { id: In(ids), runId: run.id, schoolId: run.schoolId, state: 'waiting' },
        })
      ).map(({ id }) => id),
    );
    const written = batch.filter(({ paper }) => waiting.has(paper.id));
    if (written.length === 0) return;
    await keepBlobs(manager, run.schoolId, blobs);
    const earlier = await earlierPapers(manager, run, written);
    const held = new Set(earlier.filter(({ state }) => state === 'held').map(paperKey));
    await writeStates(manager, written, (paper, set) => ({
      state: !set.ok ? 'failed' : held.has(paperKey(paper)) ? 'held' : 'pressed',
      reason: set.ok ? null : set.reason.slice(0, 1000),
      blobHash: set.ok ? hashOf.get(set.bytes)! : null,
      pages: set.ok ? set.pages : null,
      bytes: set.ok ? set.bytes.length : null,
    }));
    const replaced = new Set(written.filter(({ set }) => set.ok).map(({ paper }) => paperKey(paper)));
    await supersede(
      manager,
      earlier.filter((paper) => replaced.has(paperKey(paper))),
    );
  });
}

/** Locks the run's row for this transaction; stopping and taking over wait until it has ended. */
async function holdRun(manager: EntityManager, run: PressRunRow, owner: string): Promise<void> {
  const rows = await manager.query<unknown[]>(
    "SELECT id FROM press_run WHERE id = ? AND owner = ? AND state = 'running' FOR UPDATE",
    [run.id, owner],
  );
  if (rows.length === 0) throw new RunLost('The run is not this server’s any more.');
}

function earlierPapers(
  manager: EntityManager,
  run: PressRunRow,
  written: readonly DonePaper[],
): Promise<PaperRow[]> {
  return manager.find(PaperRow, {
    select: { id: true, entryId: true, templateId: true, state: true },
    where: {
      schoolId: run.schoolId,
      folioId: run.folioId,
      templateId: In([...new Set(written.map(({ paper }) => paper.templateId))]),
      entryId: In(written.map(({ paper }) => paper.entryId)),
      runId: Not(run.id),
      state: In([...PRESENT, 'failed']),
    },
  });
}

type Outcome = Pick<PaperRow, 'state' | 'reason' | 'blobHash' | 'pages' | 'bytes'>;

async function writeStates(
  manager: EntityManager,
  written: readonly DonePaper[],
  outcome: (paper: PaperRow, set: SetPaper) => Outcome,
): Promise<void> {
  const now = new Date();
  const rows = written.map(({ paper, set }) => {
    const { state, reason, blobHash, pages, bytes } = outcome(paper, set);
    return [paper.id, state, reason, blobHash, pages, bytes];
  });
  const first = 'SELECT ? AS id, ? AS state, ? AS reason, ? AS blobHash, ? AS pages, ? AS bytes';
  await manager.query(
    `UPDATE paper p JOIN (${[first, ...rows.slice(1).map(() => 'SELECT ?, ?, ?, ?, ?, ?')].join(' UNION ALL ')}) v
       ON p.id = CAST(v.id AS CHAR CHARACTER SET ascii) COLLATE ascii_bin
     SET p.state = v.state, p.reason = v.reason, p.blobHash = v.blobHash, p.pages = v.pages, p.bytes = v.bytes, p.pressedAt = ?`,
    [...rows.flat(), now],
  );
}

async function supersede(manager: EntityManager, earlier: readonly PaperRow[]): Promise<void> {
  if (earlier.length === 0) return;
  const ids = earlier.map(({ id }) => id);
  // What has not left shall not leave any more: a newer paper is there.
  await manager.query(
    `DELETE m FROM message m JOIN enclosure c ON c.messageId = m.id
     WHERE c.paperId IN (?) AND m.state IN ('queued', 'deferred')`,
    [ids],
  );
  await manager.update(PaperRow, { id: In(ids) }, { state: 'superseded' });
}

/**
 * Ends a run: papers that were not made are taken out. Where some were, it was stopped. Does nothing where it has ended.
 *
 * @param owner only where this server still has the run; anybody where left out.
 */
export async function endRun(
  database: DataSource,
  run: Pick<PressRunRow, 'id' | 'schoolId'>,
  owner?: string,
): Promise<void> {
  await inTransaction(database, async (manager) => {
    const rows = await manager.query<unknown[]>(
      `SELECT id FROM press_run WHERE id = ? AND schoolId = ? AND state = 'running' ${owner ? 'AND owner = ?' : ''} FOR UPDATE`,
      owner ? [run.id, run.schoolId, owner] : [run.id, run.schoolId],
    );
    if (rows.length === 0) return;
    const taken = await manager.delete(PaperRow, { runId: run.id, schoolId: run.schoolId, state: 'waiting' });
    await manager.update(
      PressRunRow,
      { id: run.id },
      {
        state: taken.affected ? 'stopped' : 'finished',
        finishedAt: new Date(),
        owner: null,
        claimedUntil: null,
      },
    );
  });
}
