import { planPapers, type PlannedPaper } from '@scriptum/core/paper';
import type { FolioContents } from '@scriptum/core/preflight';
import { presentRoll, type Roll } from '@scriptum/core/roll';
import { waysOf, type SortedBy } from '@scriptum/core/sorting';
import {
  emptySorting,
  templatesOf,
  writingsOf,
  type Filing,
  type TemplateWriting,
  type Writing,
} from '@scriptum/core/template';
import { In, type EntityManager } from 'typeorm';
import type { FolioRow } from '../store/entities/folio.js';
import type { LetterheadRow } from '../store/entities/letterhead.js';
import { PaperRow } from '../store/entities/register.js';
import { loadAssets } from '../store/folios.js';
import { currentLetterhead, dressAll } from '../store/letterheads.js';
import { firstWriting, loadWritings } from '../store/writings.js';
import { dayOfSchool, loadWorkedRoll } from '../roll/worked-roll.js';
import { madeBefore } from './made-before.js';
import { PRESENT, presentAmong, type MadePaper, type PresentPapers } from './present-papers.js';

/** All that a folio's papers are planned from, as it is now. */
export interface Planning {
  readonly folio: FolioRow;
  readonly writings: readonly Writing[];
  /** Those that are on, in their order, as people wrote them. */
  readonly templates: readonly TemplateWriting[];
  readonly letterhead: LetterheadRow | null;
  readonly filing: Filing;
  readonly roll: Roll;
  readonly by: SortedBy;
  /** Papers that stand for their entries now. */
  readonly papers: readonly PresentPaper[];
  readonly present: PresentPapers;
  /** On which papers are pressed, ISO 8601. */
  readonly day: string;
}

export type PresentPaper = MadePaper & Pick<PaperRow, 'entryHash' | 'entryChanged' | 'outOfDate'>;

export async function loadPlanning(manager: EntityManager, folio: FolioRow): Promise<Planning> {
  const { schoolId, id: folioId } = folio;
  const writings = await loadWritings(manager, { schoolId, folioId });
  const { roll } = await loadWorkedRoll(manager, folio);
  const papers = await manager.find(PaperRow, {
    select: {
      id: true,
      entryId: true,
      templateId: true,
      lookHash: true,
      fileName: true,
      state: true,
      outOfDate: true,
      entryHash: true,
      entryChanged: true,
    },
    where: { schoolId, folioId, state: In([...PRESENT]) },
  });
  return {
    folio,
    writings,
    templates: templatesOf(writings),
    letterhead: await currentLetterhead(manager, schoolId),
    filing: firstWriting(writings, 'filing').content,
    roll,
    by: {
      sorting: writingsOf(writings, 'sorting')[0]?.content ?? emptySorting(),
      columns: roll.columns,
      made: madeBefore(roll, papers),
    },
    papers,
    present: presentAmong(papers),
    day: await dayOfSchool(manager, schoolId),
  };
}

/** The papers of each entry, also of those that are left out, with the letterhead that they stand on. */
export function plannedNow(planning: Planning, by = planning.by): PlannedPaper[] {
  const { roll, filing, present, templates, letterhead, day } = planning;
  return planPapers(
    { roll, templates: dressAll(templates, letterhead?.content ?? null), filing, by, named: present.nameOf },
    day,
  );
}

/** The papers that may stand for their entries: those that would be made now, and those that might have been before. */
export const plannedEver = (planning: Planning): PlannedPaper[] =>
  waysOf(planning.by).flatMap((by) => plannedNow(planning, by));

/** What preflight reads, but for the cover note. */
export async function toCheck(
  manager: EntityManager,
  { folio, roll, templates, filing, letterhead, by }: Planning,
): Promise<Omit<FolioContents, 'note'>> {
  const assets = await loadAssets(manager, folio.schoolId, folio.id);
  return {
    roll: presentRoll(roll),
    templates: templates.map(({ content }) => content),
    sorting: { by, templates },
    filing,
    letterhead: letterhead?.content ?? null,
    assets: new Set(assets.map(({ id }) => id)),
  };
}
