import { preflight, type Finding } from '@scriptum/core/preflight';
import type { PressKind } from '@scriptum/core/contract';
import { paperKey, soughtWords, type PlannedPaper } from '@scriptum/core/paper';
import { classColumn, isIn, valueOf, type Entry } from '@scriptum/core/roll';
import { PLAIN_NUMBERS, writingsOf } from '@scriptum/core/template';
import { possibleOf } from '@scriptum/core/sorting';
import type { EntityManager } from 'typeorm';
import type { SliceQueue } from '../jobs/slice-queue.js';
import { conflict, notFound, Refusal } from '../refusal.js';
import { PaperRow, PressRunRow } from '../store/entities/register.js';
import { lockFolio, touchFolio } from '../store/folios.js';
import { newId } from '../store/id.js';
import { nextRevision } from '../store/register-state.js';
import { keepVersion } from '../store/writings.js';
import { lookHash } from '../register/look-hash.js';
import { takeForReissue, type Reissue } from '../register/issue-again.js';
import { giveNumbers, keepNumbers, type GivenNumber } from '../register/numbers.js';
import type { FolioRow } from '../store/entities/folio.js';
import { entryHash } from '../register/made-before.js';
import { loadPlanning, plannedNow, toCheck, type Planning } from '../register/planning.js';
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
  /** Papers of these kinds alone; of all where left out. */
  readonly only?: readonly PressKind[] | undefined;
  /** Papers that these shall take the place of by name. */
  readonly reissue?: Reissue | undefined;
  /** The names of the standing orders that ask for it. */
  readonly orders?: readonly string[] | undefined;
}

/** What was found out already in the transaction that plans a run. */
export interface PlannedBefore {
  readonly planning: Planning;
  /** By what kept learners are left aside that something blocks; the learners who are asked for are not among them. */
  readonly findings: readonly Finding[];
}

/**
 * Writes a run and its waiting papers down, and offers them in slices. Entries whose present paper would come out the same are passed over.
 * @throws Refusal where a run is going, or where preflight finds what blocks.
 */
export async function planRun(
  manager: EntityManager,
  queue: Pick<SliceQueue, 'offer'>,
  { schoolId, folioId, staffId, entryIds: wanted, only, reissue, orders }: RunRequest,
  before?: PlannedBefore,
): Promise<StartedRun> {
  const folio = await lockFolio(manager, schoolId, folioId);
  if (await manager.existsBy(PressRunRow, { schoolId, folioId, state: 'running' })) {
    throw conflict(
      'run-going',
      'Papers of this folio are being pressed already. Wait until that run has ended, or stop it.',
    );
  }
  const entryIds = reissue ? await takeForReissue(manager, { schoolId, folioId, staffId }, reissue) : wanted;
  const planning = before?.planning ?? (await loadPlanning(manager, folio));
  const { templates, letterhead, present } = planning;
  const findings = before?.findings ?? preflight({ ...(await toCheck(manager, planning)), notes: [] });
  const asked = entryIds && new Set(entryIds);
  const blocking = findings.filter(
    ({ blocks, entryIds: whom }) =>
      blocks === 'press' && (!before || whom.length === 0 || whom.some((id) => asked?.has(id))),
  );
  if (blocking.length > 0) {
    throw new Refusal(409, 'preflight-blocked', blocking.map((finding) => finding.message).join(' '));
  }
  const isAsked = (entry: Entry): boolean => isIn(entry) && (!asked || asked.has(entry.id));
  const planned = plannedNow(planning).filter(({ entry }) => isAsked(entry));
  if (planned.length === 0) {
    if (!planning.roll.entries.some(isAsked)) throw notFound('The learner to press for');
    throw conflict(
      'nobody-gets',
      'The sorting gives no paper to anybody of these. Look at its rules at the station Press.',
    );
  }
  const kindOf = await kindsOf(manager, planning);
  const stale = planned.filter((paper) => !present.isUpToDate(paper));
  const reissues = await reissued(manager, folio);
  const replacing = new Map([...reissues].map(([key, { number }]) => [key, number]));
  const unnumbered = stale.filter((paper) =>
    reissue ? replacing.has(paperKey(paper)) : !only || only.includes(kindOf(paper)),
  );
  if (reissue && unnumbered.length < new Set(reissue.paperIds).size)
    throw conflict(
      'nobody-gets',
      'A learner of these does not get this paper any more, by the sorting or because the letter is switched off. Nothing was issued again.',
    );
  const numbers = await giveNumbers(
    manager,
    { schoolId, folioId },
    planning.filing.numbers ?? PLAIN_NUMBERS,
    unnumbered.filter(({ numbered }) => numbered),
    replacing,
  );
  const due = withNumbers(planning, unnumbered, numbers);
  const upToDate = planned.length - stale.length;
  if (due.length === 0) return { run: null, upToDate };
  const versions = new Map(templates.map(({ id, version }) => [id, version]));
  for (const template of templates) await keepVersion(manager, schoolId, template);
  const used = new Set(due.flatMap(({ exception }) => exception?.id ?? []));
  for (const one of writingsOf(planning.writings, 'exception'))
    if (used.has(one.id)) await keepVersion(manager, schoolId, one);
  const run = manager.create(PressRunRow, {
    id: newId(),
    schoolId,
    folioId,
    staffId,
    state: 'running',
    total: due.length,
    asked: {
      ...(entryIds ? { entryIds: [...entryIds] } : {}),
      ...(only ? { only: [...only] } : {}),
      ...(orders ? { orders: [...orders] } : {}),
    },
    letterheadVersion: letterhead?.version ?? null,
    startedAt: new Date(),
    finishedAt: null,
  });
  await manager.insert(PressRunRow, run);
  const revision = await nextRevision(manager, { schoolId, folioId });
  const slices: { id: string; size: number }[] = [];
  for (let at = 0; at < due.length; at += SLICE_PAPERS)
    slices.push({ id: newId(), size: Math.min(SLICE_PAPERS, due.length - at) });
  const replaced = replacedBy(due, planning);
  for (const paper of due) {
    const before = reissues.get(paperKey(paper));
    if (before) replaced.set(paper, [...(replaced.get(paper) ?? []), ...before.ids]);
  }
  const ids = due.map(() => newId());
  const klass = classColumn(planning.roll.columns)?.id ?? null;
  await keepNumbers(
    manager,
    { schoolId, folioId },
    due.map((paper, n) => ({ ...paper, paperId: ids[n]!, given: numbers.get(paperKey(paper)) })),
  );
  const papers = due.map((paper, n) => [
    ids[n],
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
    entryHash(paper.entry),
    replaced.has(paper) ? JSON.stringify(replaced.get(paper)) : null,
    paper.exception?.id ?? null,
    paper.exception?.version ?? null,
    numbers.get(paperKey(paper))?.own ?? null,
    replacing.get(paperKey(paper)) || null,
    valueOf(paper.entry, klass).trim().slice(0, 100),
    soughtOf(paper, valueOf(paper.entry, klass), numbers.get(paperKey(paper))?.own ?? ''),
  ]);
  for (let from = 0; from < papers.length; from += 250)
    await manager.query(
      `INSERT INTO paper (id, schoolId, folioId, runId, entryId, templateId, templateVersion, position, place, learner, fileName, \`values\`,
         lookHash, state, sliceId, revision, heldBack, entryHash, replaces, exceptionId, exceptionVersion,
         number, replacesNumber, klass, sought) VALUES ?`,
      [papers.slice(from, from + 250)],
    );
  await queue.offer(manager, pressSlices(run, slices));
  await touchFolio(manager, folio);
  return { run, upToDate };
}

/** Papers that others shall take the place of, by `paperKey`, with the number of the last one; blank for one without. */
async function reissued(
  manager: EntityManager,
  folio: FolioRow,
): Promise<Map<string, { readonly number: string; readonly ids: readonly string[] }>> {
  const rows = await manager.find(PaperRow, {
    select: { id: true, entryId: true, templateId: true, number: true },
    where: { folioId: folio.id, schoolId: folio.schoolId, reissue: true },
    order: { pressedAt: 'ASC' },
  });
  const found = new Map<string, { number: string; ids: string[] }>();
  for (const row of rows) {
    const key = paperKey(row);
    found.set(key, { number: row.number ?? '', ids: [...(found.get(key)?.ids ?? []), row.id] });
  }
  return found;
}

/** The same papers with their numbers in what they print. */
function withNumbers(
  planning: Planning,
  papers: readonly PlannedPaper[],
  numbers: ReadonlyMap<string, GivenNumber>,
): readonly PlannedPaper[] {
  if (numbers.size === 0) return papers;
  const numbered = new Map(
    plannedNow(planning, planning.by, (paper) => numbers.get(paperKey(paper))).map((one) => [
      paperKey(one),
      one,
    ]),
  );
  return papers.map((paper) => (paper.numbered ? numbered.get(paperKey(paper))! : paper));
}

/** The words by which a paper is found: capitals and accents do not matter. */
const soughtOf = ({ learner }: PlannedPaper, klass: string, number: string): string =>
  soughtWords(`${learner} ${klass} ${number}`).join(' ').slice(0, 300);

/** What there is of a paper that is not up to date. */
async function kindsOf(
  manager: EntityManager,
  { folio, papers }: Planning,
): Promise<(paper: PlannedPaper) => PressKind> {
  const failures = await manager.find(PaperRow, {
    select: { entryId: true, templateId: true },
    where: { folioId: folio.id, schoolId: folio.schoolId, state: 'failed' },
  });
  const [failed, there] = [new Set(failures.map(paperKey)), new Set(papers.map(paperKey))];
  return (paper) => (failed.has(paperKey(paper)) ? 'failed' : there.has(paperKey(paper)) ? 'old' : 'new');
}

/**
 * The papers of other templates that a learner no longer gets, by the first paper that is made for the learner: once that is
 * made they are superseded.
 */
function replacedBy(
  due: readonly PlannedPaper[],
  { templates, by, papers }: Planning,
): Map<PlannedPaper, string[]> {
  const on = new Set(templates.map(({ id }) => id));
  const possible = possibleOf(templates, by);
  const first = new Map<string, PlannedPaper>();
  for (const paper of due) if (!first.has(paper.entryId)) first.set(paper.entryId, paper);
  const replaced = new Map<PlannedPaper, string[]>();
  for (const { id, entryId, templateId } of papers) {
    const paper = first.get(entryId);
    // What was switched off is not said to be wrong.
    if (!paper || !on.has(templateId) || possible(paper.entry).has(templateId)) continue;
    replaced.set(paper, [...(replaced.get(paper) ?? []), id]);
  }
  return replaced;
}
