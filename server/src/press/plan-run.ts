import { mayPress, preflight } from '@scriptum/core/preflight';
import { isIn, presentRoll } from '@scriptum/core/roll';
import { In, type EntityManager } from 'typeorm';
import { conflict, notFound, Refusal } from '../refusal.js';
import { TemplateVersionRow } from '../store/entities/folio.js';
import { PaperRow, PressRunRow } from '../store/entities/register.js';
import { findTemplate, loadAssets, lockFolio, touchFolio } from '../store/folios.js';
import { newId } from '../store/id.js';
import { loadWorkedRoll } from '../roll/worked-roll.js';
import { planPapers } from './papers.js';

/** States of a paper that stands for its entry now. */
export const PRESENT = ['pressed', 'cleared', 'held', 'dispatched'] as const;

export interface StartedRun {
  /** Null where all papers asked for are up to date. */
  readonly run: PressRunRow | null;
  readonly upToDate: number;
}

export interface RunRequest {
  readonly schoolId: string;
  readonly folioId: string;
  readonly staffId: string | null;
  /** All entries where left out. */
  readonly entryIds?: readonly string[] | undefined;
}

/**
 * Writes a run and its waiting papers down. Entries whose present paper would come out the same are passed over.
 * @throws Refusal where a run is going, or where preflight finds what blocks.
 */
export async function planRun(
  manager: EntityManager,
  { schoolId, folioId, staffId, entryIds }: RunRequest,
): Promise<StartedRun> {
  const folio = await lockFolio(manager, schoolId, folioId);
  if (await manager.existsBy(PressRunRow, { schoolId, folioId, state: 'running' })) {
    throw conflict(
      'run-going',
      'Papers of this folio are being pressed already. Wait until that run has ended, or stop it.',
    );
  }
  const template = await findTemplate(manager, schoolId, folioId);
  const { letter } = template;
  const { roll } = await loadWorkedRoll(manager, folio);
  const assets = new Set((await loadAssets(manager, schoolId, folioId)).map((asset) => asset.id));
  const findings = preflight({ roll: presentRoll(roll), letter, note: null, filing: folio.filing, assets });
  if (!mayPress(findings)) {
    const blocking = findings.filter((finding) => finding.blocks === 'press');
    throw new Refusal(409, 'preflight-blocked', blocking.map((finding) => finding.message).join(' '));
  }
  const asked = entryIds && new Set(entryIds);
  const planned = planPapers(roll, letter, folio.filing).filter(
    ({ entry }) => isIn(entry) && (!asked || asked.has(entry.id)),
  );
  if (planned.length === 0) throw notFound('The learner to press for');
  const present = await manager.find(PaperRow, {
    select: { id: true, entryId: true, inputHash: true },
    where: { schoolId, folioId, templateId: template.id, state: In([...PRESENT]) },
  });
  const made = new Set(present.map((paper) => `${paper.entryId} ${paper.inputHash}`));
  const due = planned.filter(({ entry, inputHash }) => !made.has(`${entry.id} ${inputHash}`));
  if (due.length === 0) return { run: null, upToDate: planned.length };
  await manager.upsert(
    TemplateVersionRow,
    { templateId: template.id, version: template.version, schoolId, letter },
    ['templateId', 'version'],
  );
  const run = manager.create(PressRunRow, {
    id: newId(),
    schoolId,
    folioId,
    staffId,
    templateId: template.id,
    templateVersion: template.version,
    state: 'running',
    total: due.length,
    startedAt: new Date(),
    finishedAt: null,
  });
  await manager.insert(PressRunRow, run);
  const papers = due.map(({ entry, learner, fileName, values, inputHash }) => [
    newId(),
    schoolId,
    folioId,
    run.id,
    entry.id,
    template.id,
    template.version,
    entry.position,
    learner,
    fileName,
    JSON.stringify(values),
    inputHash,
    'waiting',
  ]);
  for (let from = 0; from < papers.length; from += 250)
    await manager.query(
      `INSERT INTO paper (id, schoolId, folioId, runId, entryId, templateId, templateVersion, position, learner, fileName, \`values\`,
         inputHash, state) VALUES ?`,
      [papers.slice(from, from + 250)],
    );
  await touchFolio(manager, folio);
  return { run, upToDate: planned.length - due.length };
}
