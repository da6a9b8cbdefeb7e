import { planPapers, type PlanFrom, type PlannedPaper } from '@scriptum/core/paper';
import type { FolioContents } from '@scriptum/core/preflight';
import { presentRoll, type Roll } from '@scriptum/core/roll';
import { waysOf, type SortedBy } from '@scriptum/core/sorting';
import {
  emptySorting,
  type Excepted,
  exceptionsOf,
  templatesOf,
  writingsOf,
  type DressedTemplate,
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
  /** What is another one for single learners, as people wrote it, upon the templates. */
  readonly exceptions: readonly Excepted[];
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
  const templates = templatesOf(writings);
  return {
    folio,
    writings,
    templates,
    exceptions: exceptionsOf(writings, templates),
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

/** Templates and exceptions with what they take from the letterhead. */
function dressedOf({
  templates,
  exceptions,
  letterhead,
}: Planning): Pick<Planning, 'templates' | 'exceptions'> {
  const head = letterhead?.content ?? null;
  return { templates: dressAll(templates, head), exceptions: dressAll(exceptions, head) };
}

/** What a planned paper is set from: its template, or that of its exception, with what it takes from the letterhead. */
export function contentsOf(planning: Planning): (paper: PlannedPaper) => DressedTemplate {
  const { templates, exceptions } = dressedOf(planning);
  const contents = new Map([...templates, ...exceptions].map(({ id, content }) => [id, content]));
  return ({ exception, templateId }) => contents.get(exception?.id ?? templateId)!;
}

/** The papers of each entry, also of those that are left out, with the letterhead that they stand on. */
export function plannedNow(
  planning: Planning,
  by = planning.by,
  numbers?: PlanFrom['numbers'],
): PlannedPaper[] {
  const { roll, filing, present, day } = planning;
  const { templates, exceptions } = dressedOf(planning);
  return planPapers({ roll, templates, exceptions, filing, by, named: present.nameOf, numbers }, day);
}

/** The papers that may stand for their entries: those that would be made now, and those that might have been before. */
export const plannedEver = (planning: Planning): PlannedPaper[] =>
  waysOf(planning.by).flatMap((by) => plannedNow(planning, by));

/** What preflight reads, but for the cover notes. */
export async function toCheck(
  manager: EntityManager,
  { folio, roll, templates, filing, letterhead, by, writings }: Planning,
): Promise<Omit<FolioContents, 'notes'>> {
  const assets = await loadAssets(manager, folio.schoolId, folio.id);
  return {
    roll: presentRoll(roll),
    templates: templates.map(({ content }) => content),
    sorting: { by, templates },
    exceptions: writingsOf(writings, 'exception'),
    filing,
    letterhead: letterhead?.content ?? null,
    assets: new Set(assets.map(({ id }) => id)),
  };
}
