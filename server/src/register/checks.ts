import type { Checks } from '@scriptum/core/contract';
import { programValues } from '@scriptum/core/page';
import type { PlannedPaper } from '@scriptum/core/paper';
import { measuredFindings, preflight, type MeasuredPaper } from '@scriptum/core/preflight';
import type { PrintedValues } from '@scriptum/core/fill';
import { isIn, presentRoll } from '@scriptum/core/roll';
import { canonical } from '@scriptum/core/paper';
import { Not, In, type EntityManager } from 'typeorm';
import { CheckedLookRow } from '../store/entities/checks.js';
import type { FolioRow } from '../store/entities/folio.js';
import { registerState } from '../store/register-state.js';
import { comparedWithNow } from './compare-papers.js';
import { lookHash } from './look-hash.js';
import { contentsOf, loadPlanning, plannedNow, toCheck, type Planning } from './planning.js';

/** Looks that nobody needs any more are kept as long as there are no more of them than this, so that undo is quick. */
const OLD_KEPT = 2_000;

/** Papers of which it is not known what they come to. */
export interface DueChecks {
  /** What the papers are planned from, to be written down once all of them are known. */
  readonly with: string;
  readonly total: number;
  /** How many are still to be looked at, these among them. */
  readonly due: number;
  readonly papers: readonly DueCheck[];
  /** What they are planned from, by version: of something else they are to be planned anew. */
  readonly templates: Readonly<Record<string, number>>;
  readonly letterhead: number | null;
}

export interface DueCheck {
  readonly lookHash: string;
  readonly templateId: string;
  readonly exceptionId: string | null;
  /** JSON of `programValues`. */
  readonly values: string;
  readonly printed: PrintedValues;
}

interface Planned {
  readonly planning: Planning;
  readonly papers: readonly { readonly paper: PlannedPaper; readonly hash: string }[];
  readonly known: ReadonlyMap<string, CheckedLookRow>;
}

async function planned(manager: EntityManager, folio: FolioRow): Promise<Planned> {
  const planning = await loadPlanning(manager, folio);
  const papers = plannedNow(planning)
    .filter(({ entry }) => isIn(entry))
    .map((paper) => ({ paper, hash: lookHash(paper) }));
  const rows = await manager.findBy(CheckedLookRow, { folioId: folio.id, schoolId: folio.schoolId });
  return { planning, papers, known: new Map(rows.map((row) => [row.lookHash, row])) };
}

/** Milliseconds after which a paper that could not be set is tried again with the next look: the machine may have been at its limit. */
const AGAIN_AFTER = 30 * 60_000;

const isDue = (row: CheckedLookRow | undefined): boolean =>
  !row || (row.failed !== null && Date.now() - row.checkedAt.getTime() > AGAIN_AFTER);

/** @param most papers to be told, the first ones that are due. */
export async function dueChecks(manager: EntityManager, folio: FolioRow, most: number): Promise<DueChecks> {
  const now = await comparedWithNow(manager, folio);
  const { planning, papers, known } = await planned(manager, folio);
  const contentOf = contentsOf(planning);
  // Papers that look the same are looked at once.
  const due = new Map<string, PlannedPaper>();
  for (const { paper, hash } of papers) if (isDue(known.get(hash))) due.set(hash, paper);
  const wanted = new Set(papers.map(({ hash }) => hash));
  return {
    with: now,
    total: wanted.size,
    due: due.size,
    templates: Object.fromEntries(
      [...planning.templates, ...planning.exceptions].map(({ id, version }) => [id, version]),
    ),
    letterhead: planning.letterhead?.version ?? null,
    papers: [...due].slice(0, most).map(([hash, paper]) => ({
      lookHash: hash,
      templateId: paper.templateId,
      exceptionId: paper.exception?.id ?? null,
      values: programValues(contentOf(paper), paper.values),
      printed: paper.values,
    })),
  };
}

/** Writes down that all papers are looked at as they are now, and takes out what nobody needs any more. */
export async function endChecks(manager: EntityManager, folio: FolioRow, checkedWith: string): Promise<void> {
  const { id: folioId, schoolId } = folio;
  const { planning, papers, known } = await planned(manager, folio);
  const found = preflight({ ...(await toCheck(manager, planning)), notes: [] });
  const blocking = found.filter(({ blocks }) => blocks === 'press').length;
  await manager.query(
    `INSERT INTO register_state (folioId, schoolId, revision, checkedWith, blocking) VALUES (?, ?, 0, ?, ?)
     ON DUPLICATE KEY UPDATE checkedWith = ?, blocking = ?`,
    [folioId, schoolId, checkedWith, blocking, checkedWith, blocking],
  );
  const wanted = [...new Set(papers.map(({ hash }) => hash))];
  if (known.size - wanted.length <= OLD_KEPT || wanted.length === 0) return;
  await manager.delete(CheckedLookRow, { folioId, schoolId, lookHash: Not(In(wanted)) });
}

/** True where papers may come to something else than when they were looked at last. */
export async function areChecksDue(manager: EntityManager, folio: FolioRow): Promise<boolean> {
  const { checkedWith } = await registerState(manager, folio.id);
  return checkedWith !== (await comparedWithNow(manager, folio));
}

/** What is worth a look in papers as they would come out, as far as that is known. */
export async function loadChecks(manager: EntityManager, folio: FolioRow): Promise<Omit<Checks, 'going'>> {
  const { planning, papers, known } = await planned(manager, folio);
  const measured = papers.flatMap(({ paper, hash }): MeasuredPaper[] => {
    const row = known.get(hash);
    if (!row) return [];
    const { entryId, templateId, lasting, exception } = paper;
    return [
      {
        entryId,
        templateId,
        exceptionId: exception?.id ?? null,
        pages: row.pages,
        fits: row.fits,
        failed: row.failed,
        prints: canonical(lasting),
      },
    ];
  });
  const all = new Set(papers.map(({ hash }) => hash));
  return {
    findings: measuredFindings(measured, planning.templates, presentRoll(planning.roll), planning.exceptions),
    done: [...all].filter((hash) => known.has(hash)).length,
    total: all.size,
  };
}
