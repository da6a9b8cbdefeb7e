import { mayPress, preflight } from '@scriptum/core/preflight';
import { planPapers } from '@scriptum/core/paper';
import { isIn, presentRoll } from '@scriptum/core/roll';
import { getsOf, templatesOf } from '@scriptum/core/template';
import type { EntityManager } from 'typeorm';
import type { SliceQueue } from '../jobs/slice-queue.js';
import { conflict, notFound, Refusal } from '../refusal.js';
import { PressRunRow } from '../store/entities/register.js';
import { loadAssets, lockFolio, touchFolio } from '../store/folios.js';
import { newId } from '../store/id.js';
import { currentLetterhead, dressAll } from '../store/letterheads.js';
import { nextRevision } from '../store/register-state.js';
import { firstWriting, keepVersion, loadWritings } from '../store/writings.js';
import { dayOfSchool, loadWorkedRoll } from '../roll/worked-roll.js';
import { lookHash } from '../register/look-hash.js';
import { presentPapers } from '../register/present-papers.js';
import { pressSlices, SLICE_PAPERS } from './press-slices.js';

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
 * Writes a run and its waiting papers down, and offers them in slices. Entries whose present paper would come out the same are passed over.
 * @throws Refusal where a run is going, or where preflight finds what blocks.
 */
export async function planRun(
  manager: EntityManager,
  queue: Pick<SliceQueue, 'offer'>,
  { schoolId, folioId, staffId, entryIds }: RunRequest,
): Promise<StartedRun> {
  const folio = await lockFolio(manager, schoolId, folioId);
  if (await manager.existsBy(PressRunRow, { schoolId, folioId, state: 'running' })) {
    throw conflict(
      'run-going',
      'Papers of this folio are being pressed already. Wait until that run has ended, or stop it.',
    );
  }
  const writings = await loadWritings(manager, { schoolId, folioId });
  const now = await currentLetterhead(manager, schoolId);
  const letterhead = now?.content ?? null;
  const templates = templatesOf(writings);
  const filing = firstWriting(writings, 'filing').content;
  const { roll } = await loadWorkedRoll(manager, folio);
  const assets = new Set((await loadAssets(manager, schoolId, folioId)).map((asset) => asset.id));
  const findings = preflight({
    roll: presentRoll(roll),
    templates: templates.map(({ content }) => content),
    gets: getsOf(templates),
    note: null,
    filing,
    letterhead,
    assets,
  });
  if (!mayPress(findings)) {
    const blocking = findings.filter((finding) => finding.blocks === 'press');
    throw new Refusal(409, 'preflight-blocked', blocking.map((finding) => finding.message).join(' '));
  }
  const present = await presentPapers(manager, schoolId, folioId);
  const asked = entryIds && new Set(entryIds);
  const planned = planPapers(
    roll,
    dressAll(templates, letterhead),
    filing,
    await dayOfSchool(manager, schoolId),
    present.nameOf,
  ).filter(({ entry }) => isIn(entry) && (!asked || asked.has(entry.id)));
  if (planned.length === 0) throw notFound('The learner to press for');
  const due = planned.filter((paper) => !present.isUpToDate(paper));
  if (due.length === 0) return { run: null, upToDate: planned.length };
  const versions = new Map(templates.map(({ id, version }) => [id, version]));
  for (const template of templates) await keepVersion(manager, schoolId, template);
  const run = manager.create(PressRunRow, {
    id: newId(),
    schoolId,
    folioId,
    staffId,
    state: 'running',
    total: due.length,
    letterheadVersion: now?.version ?? null,
    startedAt: new Date(),
    finishedAt: null,
  });
  await manager.insert(PressRunRow, run);
  const revision = await nextRevision(manager, { schoolId, folioId });
  const slices: { id: string; size: number }[] = [];
  for (let at = 0; at < due.length; at += SLICE_PAPERS)
    slices.push({ id: newId(), size: Math.min(SLICE_PAPERS, due.length - at) });
  const papers = due.map((paper, n) => [
    newId(),
    schoolId,
    folioId,
    run.id,
    paper.entry.id,
    paper.templateId,
    versions.get(paper.templateId),
    paper.entry.position,
    paper.place,
    paper.learner,
    paper.fileName,
    JSON.stringify(paper.values),
    lookHash(paper),
    'waiting',
    slices[Math.floor(n / SLICE_PAPERS)]!.id,
    revision,
    paper.heldBack,
  ]);
  for (let from = 0; from < papers.length; from += 250)
    await manager.query(
      `INSERT INTO paper (id, schoolId, folioId, runId, entryId, templateId, templateVersion, position, place, learner, fileName, \`values\`,
         lookHash, state, sliceId, revision, heldBack) VALUES ?`,
      [papers.slice(from, from + 250)],
    );
  await queue.offer(manager, pressSlices(run, slices));
  await touchFolio(manager, folio);
  return { run, upToDate: planned.length - due.length };
}
