import type { RunLine } from '@scriptum/core/contract';
import { In, type EntityManager } from 'typeorm';
import { PaperRow, PressRunRow } from '../store/entities/register.js';
import { WritingRow } from '../store/entities/writing.js';
import { namesOf } from '../store/staff-names.js';

/** Runs that are told of, the newest ones, and failures of each. */
const RUNS_TOLD = 100;
const FAILURES_TOLD = 200;

interface MadeRow {
  readonly runId: string;
  readonly templateId: string;
  readonly version: number;
  readonly made: string;
  readonly failed: string;
}

/** The press runs of a folio, the newest first. */
export async function listRuns(
  manager: EntityManager,
  schoolId: string,
  folioId: string,
): Promise<RunLine[]> {
  const runs = await manager.find(PressRunRow, {
    where: { schoolId, folioId },
    order: { startedAt: 'DESC', id: 'ASC' },
    take: RUNS_TOLD,
  });
  if (runs.length === 0) return [];
  const ids = runs.map(({ id }) => id);
  const [made, failed, names] = await Promise.all([
    manager.query<MadeRow[]>(
      `SELECT runId, templateId, templateVersion AS version, SUM(blobHash IS NOT NULL) AS made,
         SUM(blobHash IS NULL AND state <> 'waiting') AS failed
       FROM paper WHERE schoolId = ? AND folioId = ? AND runId IN (?) GROUP BY runId, templateId, templateVersion`,
      [schoolId, folioId, ids],
    ),
    manager.find(PaperRow, {
      select: { runId: true, entryId: true, learner: true, reason: true },
      where: { schoolId, folioId, runId: In(ids), state: 'failed' },
      order: { position: 'ASC', place: 'ASC' },
    }),
    namesOf(
      manager,
      schoolId,
      runs.map(({ staffId }) => staffId),
    ),
  ]);
  const templates = await manager.find(WritingRow, {
    select: { id: true, name: true },
    where: { schoolId, folioId, id: In(made.map(({ templateId }) => templateId)) },
  });
  const nameOf = new Map(templates.map(({ id, name }) => [id, name]));
  return runs.map((run): RunLine => {
    const own = made.filter(({ runId }) => runId === run.id);
    const sum = (of: 'made' | 'failed'): number => own.reduce((all, row) => all + Number(row[of]), 0);
    return {
      id: run.id,
      state: run.state,
      total: run.total,
      pressed: sum('made'),
      failed: sum('failed'),
      startedAt: run.startedAt.toISOString(),
      finishedAt: run.finishedAt?.toISOString() ?? null,
      by: names.get(run.staffId ?? '') ?? null,
      asked: run.asked,
      orders: [...(run.asked?.orders ?? [])],
      templates: own.map(({ templateId, version, made: papers }) => ({
        name: nameOf.get(templateId) ?? 'A letter that is gone',
        version,
        papers: Number(papers),
      })),
      letterheadVersion: run.letterheadVersion,
      failures: failed
        .filter(({ runId }) => runId === run.id)
        .slice(0, FAILURES_TOLD)
        .map(({ entryId, learner, reason }) => ({ entryId, learner, reason: reason ?? '' })),
    };
  });
}
