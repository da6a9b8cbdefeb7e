import type { PackAsked } from '@scriptum/core/contract';
import { comparePaperOrder } from '@scriptum/core/paper';
import { isReached } from '@scriptum/core/note';
import { valueOf, type Entry } from '@scriptum/core/roll';
import { notesWith } from '@scriptum/core/sorting';
import { allTemplatesOf, PAPER_SIZES, sizeOfPage, writingsOf, type Template } from '@scriptum/core/template';
import { In, type EntityManager } from 'typeorm';
import { clearingOf } from '../register/judge-papers.js';
import { loadPlanning } from '../register/planning.js';
import { PRESENT } from '../register/present-papers.js';
import { Refusal } from '../refusal.js';
import { PackRow, type KeptLine } from '../store/entities/packs.js';
import { PaperRow } from '../store/entities/register.js';
import { findFolio } from '../store/folios.js';
import type { LaidOn } from '../store/laid-on.js';

/** Sheets of papers in one PDF, and papers in one archive, at the most. */
export const PRINTED_MOST = 2_000;
const ARCHIVED_MOST = 20_000;
/** Bytes of the papers that become one PDF. */
const BYTES_MOST = 200 * 1024 * 1024;
const COPIES_MOST = 9;

/** A paper that goes into a pack. */
export interface PackPaper {
  readonly paperId: string;
  readonly entryId: string;
  readonly learner: string;
  readonly fileName: string;
  /** What its letter is called. */
  readonly letter: string;
  readonly state: string;
  readonly pages: number;
  readonly pressedAt: string | null;
  readonly blobHash: string;
  readonly laidOn: LaidOn | null;
  readonly copies: number;
  /** What the column says that sheets stand between; null where none do. */
  readonly group: string | null;
  readonly joinedAt: string | null;
}

export interface PlannedPack {
  readonly title: string;
  /** In their order; the papers of a learner beside each other. */
  readonly papers: readonly PackPaper[];
  /** Titles of the columns that sheets stand between, and of the paper on which these are, in millimetres. */
  readonly apart: string;
  readonly size: { readonly width: number; readonly height: number };
}

export interface PackRequest {
  readonly schoolId: string;
  readonly folioId: string;
  readonly asked: PackAsked;
  /** The pack that is made anew, where there is one. */
  readonly packId?: string | undefined;
}

/**
 * The papers of a pack, as they are now. What may not be mailed is not printed either: neither what is held, nor what is out of date,
 * or not cleared where it has to be.
 *
 * @throws Refusal `no-papers`, `pack-large`
 */
export async function planPack(
  manager: EntityManager,
  { schoolId, folioId, asked, packId }: PackRequest,
): Promise<PlannedPack> {
  const folio = await findFolio(manager, schoolId, folioId);
  const { writings, roll, templates, by } = await loadPlanning(manager, folio);
  const entries = new Map(roll.entries.map((entry) => [entry.id, entry]));
  const asking = 'entryIds' in asked && asked.entryIds ? new Set(asked.entryIds) : null;
  const picked = 'paperIds' in asked && asked.paperIds ? new Set(asked.paperIds) : null;
  const notes = notesWith(writingsOf(writings, 'note'), templates, by);
  const noMail = asked.kind === 'print' && asked.who === 'no-address';
  const hasAddress = (entry: Entry | undefined, templateId: string): boolean =>
    entry !== undefined && notes(entry, templateId).some(({ content }) => isReached(content, entry));
  const wanted = ({ id, entryId, templateId }: PaperRow): boolean =>
    (!picked || picked.has(id)) &&
    (!asking || asking.has(entryId)) &&
    (!noMail || !hasAddress(entries.get(entryId), templateId));
  const all = await readyPapers(manager, { schoolId, folioId }, asked.kind === 'zip');
  const papers = all.filter((paper) => paper.blobHash !== null && wanted(paper));
  if (papers.length === 0) throw nothingThere(asked, all.length);
  const letters = new Map(allTemplatesOf(writings).map(({ id, content }) => [id, content]));
  const describe = (paper: PaperRow): PackPaper => {
    const entry = entries.get(paper.entryId);
    return {
      paperId: paper.id,
      entryId: paper.entryId,
      learner: paper.learner,
      fileName: paper.fileName,
      letter: letters.get(paper.templateId)?.name ?? '',
      state: paper.state,
      pages: paper.pages ?? 1,
      pressedAt: paper.pressedAt?.toISOString() ?? null,
      blobHash: paper.blobHash!,
      laidOn: paper.laidOn ?? null,
      copies: asked.kind === 'print' ? copiesFor(entry, asked.copies) : 1,
      group: asked.kind === 'print' && asked.apart ? valueOf(entry, asked.apart).trim() : null,
      joinedAt: null,
    };
  };
  const inPack = asked.kind === 'print' ? sorted(papers, entries, asked) : papers;
  const described = inPack.map(describe);
  const grown = asked.kind === 'growing' ? await joining(manager, packId, described) : described;
  expectRoom(asked, papers, grown);
  const apart = asked.kind === 'print' ? asked.apart : null;
  return {
    title: folio.title,
    papers: grown,
    apart: roll.columns.find(({ id }) => id === apart)?.title ?? '',
    size: sizeOf(letters.get(inPack[0]!.templateId)),
  };
}

/** Papers that may be printed, or, for an archive, all that there are, in the order of the roll. */
export async function readyPapers(
  manager: EntityManager,
  { schoolId, folioId }: { schoolId: string; folioId: string },
  all: boolean,
): Promise<PaperRow[]> {
  const free = all || (await clearingOf(manager, schoolId)) === 'free';
  const states = PRESENT.filter((state) => all || (state !== 'held' && (free || state !== 'pressed')));
  const place = { schoolId, folioId };
  const rows = await manager.find(PaperRow, {
    select: {
      id: true,
      entryId: true,
      templateId: true,
      position: true,
      place: true,
      learner: true,
      fileName: true,
      state: true,
      pages: true,
      bytes: true,
      blobHash: true,
      laidOn: true,
      pressedAt: true,
    },
    where: all
      ? { ...place, state: In(states) }
      : [
          { ...place, state: In(states), outOfDate: false },
          // What was sent may be printed, whatever changed since.
          { ...place, state: 'dispatched' },
        ],
  });
  return rows.sort(inOrder);
}

const ordered = ({ position, place, pressedAt, id }: PaperRow) => ({
  position,
  place,
  pressedAt: pressedAt?.toISOString() ?? null,
  id,
});
const inOrder = (a: PaperRow, b: PaperRow): number => comparePaperOrder(ordered(a), ordered(b));

/** How many copies a cell asks for: one where it says no number. */
function copiesFor(entry: Entry | undefined, columnId: string | null): number {
  const said = Number.parseInt(columnId === null ? '' : valueOf(entry, columnId), 10);
  return Number.isNaN(said) ? 1 : Math.min(COPIES_MOST, Math.max(0, said));
}

const collator = new Intl.Collator('en', { numeric: true, sensitivity: 'base' });

/** By what the columns say, blank last; papers of one learner stay beside each other, and equal ones in the order of the roll. */
function sorted(
  papers: readonly PaperRow[],
  entries: ReadonlyMap<string, Entry>,
  { sort, apart }: Extract<PackAsked, { kind: 'print' }>,
): PaperRow[] {
  const columns = [...new Set([...(apart ? [apart] : []), ...sort])];
  const keys = new Map(
    papers.map(({ entryId }) => [entryId, columns.map((id) => valueOf(entries.get(entryId), id).trim())]),
  );
  return [...papers].sort((a, b) => {
    const [one, other] = [keys.get(a.entryId)!, keys.get(b.entryId)!];
    for (const [n, text] of one.entries()) {
      const by = Number(text === '') - Number(other[n] === '') || collator.compare(text, other[n]!);
      if (by !== 0) return by;
    }
    return inOrder(a, b);
  });
}

/** What is in a growing pack stays where it is; what is new joins at the end. */
async function joining(
  manager: EntityManager,
  packId: string | undefined,
  papers: readonly PackPaper[],
): Promise<PackPaper[]> {
  const before = packId ? await linesOf(manager, packId) : [];
  const now = new Date().toISOString();
  const there = new Map(papers.map((paper) => [paper.paperId, paper]));
  const known = new Set(before.map(({ paperId }) => paperId));
  return [
    ...before.flatMap(({ paperId, joinedAt }) => {
      const paper = there.get(paperId);
      return paper ? [{ ...paper, joinedAt }] : [];
    }),
    ...papers.filter(({ paperId }) => !known.has(paperId)).map((paper) => ({ ...paper, joinedAt: now })),
  ];
}

/** What is in a pack; nothing while it is not made. */
export async function linesOf(manager: EntityManager, packId: string): Promise<readonly KeptLine[]> {
  const row = await manager.findOne(PackRow, { select: { id: true, contents: true }, where: { id: packId } });
  return row?.contents ?? [];
}

function expectRoom(asked: PackAsked, papers: readonly PaperRow[], planned: readonly PackPaper[]): void {
  const most = asked.kind === 'zip' ? ARCHIVED_MOST : PRINTED_MOST;
  const count = planned.reduce((sum, { copies }) => sum + copies, 0);
  const told = (n: number): string => n.toLocaleString('en');
  if (count === 0)
    throw new Refusal(
      422,
      'no-papers',
      'The column for copies says 0 for all of these papers. Choose another one.',
    );
  if (count > most)
    throw new Refusal(
      422,
      'pack-large',
      `These are ${told(count)} papers; at most ${told(most)} go into one file. ${asked.kind === 'zip' ? 'Choose some learners.' : 'Choose some learners, or take a ZIP archive.'}`,
    );
  if (asked.kind !== 'zip' && papers.reduce((sum, { bytes }) => sum + (bytes ?? 0), 0) > BYTES_MOST)
    throw new Refusal(
      422,
      'pack-large',
      'These papers are too large to become one file. Choose some learners, or take a ZIP archive.',
    );
}

function nothingThere(asked: PackAsked, there: number): Refusal {
  const why =
    there > 0 && asked.kind === 'print' && asked.who === 'no-address'
      ? 'Everybody whose paper is ready has an address that mail can go to.'
      : 'paperIds' in asked && asked.paperIds
        ? 'None of the papers that were picked counts now and may be printed.'
        : there > 0
          ? 'There are no papers ready of these learners.'
          : asked.kind === 'zip'
            ? 'There are no papers yet. Press them first.'
            : 'There are no papers to print. Press those that are new or out of date, and clear those that are held or have to be cleared.';
  return new Refusal(404, 'no-papers', why);
}

/** Of the paper that sheets between have. */
const sizeOf = (template: Template | undefined): { width: number; height: number } =>
  template?.kind === 'letter'
    ? { width: template.page.width, height: template.page.height }
    : template
      ? sizeOfPage(template, 0)
      : PAPER_SIZES.A4;
