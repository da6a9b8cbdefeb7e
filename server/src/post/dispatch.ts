import { cohortOf } from '@scriptum/core/fill';
import type { DispatchPlan } from '@scriptum/core/contract';
import { preflight } from '@scriptum/core/preflight';
import { writeNote, type WrittenNote } from '@scriptum/core/note';
import { phrase, say } from '@scriptum/core/sentences';
import { isIn } from '@scriptum/core/roll';
import { canonical, paperKey, type PlannedPaper } from '@scriptum/core/paper';
import type { Writing } from '@scriptum/core/template';
import { In, type EntityManager } from 'typeorm';
import { conflict, Refusal } from '../refusal.js';
import { sha256 } from '../store/blobs.js';
import type { FolioRow } from '../store/entities/folio.js';
import { EnclosureRow, PaperRow } from '../store/entities/register.js';
import { findFolio, lockFolio } from '../store/folios.js';
import { firstWriting, keepVersion } from '../store/writings.js';
import { newId } from '../store/id.js';
import { nextRevision } from '../store/register-state.js';
import { lastTurn, TURN_OF } from '../store/turns.js';
import { clearingOf } from '../register/judge-papers.js';
import { loadPlanning, plannedEver, toCheck } from '../register/planning.js';
import { presentAmong } from '../register/present-papers.js';

/** Papers that go together in one message. */
interface Bundle {
  readonly papers: readonly PaperRow[];
  readonly recipients: readonly string[];
  readonly subject: string;
  readonly text: string;
  readonly html: string;
  /** How many messages its entries have had. */
  readonly before: number;
}

interface Sorted {
  readonly plan: DispatchPlan;
  readonly first: Bundle[];
  readonly again: Bundle[];
  /** The note that goes with them. */
  readonly cover: Writing;
}

/** Says who would get mail now; changes nothing. */
export async function planDispatch(
  manager: EntityManager,
  schoolId: string,
  folioId: string,
): Promise<DispatchPlan> {
  return (await sortPapers(manager, await findFolio(manager, schoolId, folioId))).plan;
}

/**
 * Queues the messages of the plan that the person confirmed, each with a stable Message-ID. The folio is locked
 * meanwhile and the tables hold each paper's message once, so a second click or another server finds nothing left.
 *
 * @throws Refusal `plan-changed` where the plan is another by now; `dispatch-blocked` where something must be mended first.
 */
export async function queueDispatch(
  manager: EntityManager,
  schoolId: string,
  folioId: string,
  asked: { planId: string; again: boolean; staffId?: string | null },
  domain: string,
): Promise<number> {
  const folio = await lockFolio(manager, schoolId, folioId);
  const { plan, first, again, cover } = await sortPapers(manager, folio);
  if (plan.blocked.length > 0) throw new Refusal(409, 'dispatch-blocked', plan.blocked.join(' '));
  if (plan.planId !== asked.planId) {
    throw conflict(
      'plan-changed',
      'Something changed since you were shown who gets mail. Look at the list again, then send. Nothing was sent now.',
    );
  }
  const send = asked.again ? [...first, ...again] : first;
  const now = new Date();
  const revision = await nextRevision(manager, { schoolId, folioId });
  let turn = await lastTurn(manager, 'message', schoolId);
  const rows: unknown[][] = [];
  const enclosures: unknown[][] = [];
  for (const bundle of send) {
    const id = newId();
    const { recipients, subject, text, html } = bundle;
    rows.push([
      id,
      schoolId,
      folioId,
      sendKeyOf(folioId, cover.id, bundle),
      `<${id}@${domain}>`,
      JSON.stringify(recipients),
      subject,
      text,
      html,
      'queued',
      0,
      cover.id,
      cover.version,
      now,
      (turn += TURN_OF.message),
      now,
    ]);
    for (const [place, paper] of bundle.papers.entries())
      enclosures.push([id, paper.id, paper.entryId, cover.id, place, schoolId, folioId]);
  }
  for (let from = 0; from < rows.length; from += 250)
    await manager.query(
      `INSERT INTO message (id, schoolId, folioId, sendKey, messageId, recipients, subject, text, html, state, attempts,
         noteId, noteVersion, queuedAt, turn, nextAttemptAt) VALUES ?`,
      [rows.slice(from, from + 250)],
    );
  for (let from = 0; from < enclosures.length; from += 1000)
    await manager.query(
      'INSERT INTO enclosure (messageId, paperId, entryId, noteId, place, schoolId, folioId) VALUES ?',
      [enclosures.slice(from, from + 1000)],
    );
  if (send.length > 0) {
    await keepVersion(manager, schoolId, cover);
    await manager.query(
      // Who sends them says that they may leave.
      `UPDATE paper SET judgedBy = IF(state = 'pressed', ?, judgedBy), judgedAt = IF(state = 'pressed', ?, judgedAt),
         state = IF(state = 'pressed', 'cleared', state), revision = ? WHERE schoolId = ? AND folioId = ? AND id IN (?)`,
      [
        asked.staffId ?? null,
        now,
        revision,
        schoolId,
        folioId,
        send.flatMap(({ papers }) => papers.map(({ id }) => id)),
      ],
    );
  }
  return send.length;
}

/** What makes a message the same as another one: unique, so that none is queued twice. */
const sendKeyOf = (folioId: string, noteId: string, { recipients, papers, before }: Bundle): string =>
  sha256(canonical([folioId, noteId, [...recipients].sort(), papers.map(paperKey).sort(), before]));

async function sortPapers(manager: EntityManager, folio: FolioRow): Promise<Sorted> {
  const { schoolId, id: folioId } = folio;
  const planning = await loadPlanning(manager, folio);
  const { writings, templates, roll, day } = planning;
  const cover = firstWriting(writings, 'note');
  const findings = preflight({ ...(await toCheck(manager, planning)), note: cover.content });
  const blocked = findings
    .filter((finding) => finding.blocks === 'dispatch')
    .map((finding) => finding.message);
  const papers = await manager.find(PaperRow, {
    select: {
      id: true,
      entryId: true,
      templateId: true,
      learner: true,
      fileName: true,
      lookHash: true,
      state: true,
      position: true,
      place: true,
    },
    where: {
      schoolId,
      folioId,
      templateId: In(templates.map(({ id }) => id)),
      state: In(['pressed', 'cleared', 'held', 'dispatched']),
    },
    // A learner's papers go along in the order of their letters.
    order: { position: 'ASC', place: 'ASC', id: 'ASC' },
  });
  const enclosures = await manager.findBy(EnclosureRow, { schoolId, folioId });
  const enclosed = new Set(
    enclosures.filter(({ noteId }) => noteId === null || noteId === cover.id).map(({ paperId }) => paperId),
  );
  const before = new Map<string, Set<string>>();
  for (const { entryId, messageId } of enclosures)
    before.set(entryId, (before.get(entryId) ?? new Set()).add(messageId));
  const present = presentAmong(papers);
  // Of papers that may stand for an entry, the one as it would be made now counts.
  const current = new Map<string, PlannedPaper>();
  for (const paper of plannedEver(planning))
    if (isIn(paper.entry) && (!current.has(paperKey(paper)) || present.isUpToDate(paper)))
      current.set(paperKey(paper), paper);
  const languages = new Map(templates.map(({ id, content }) => [id, content.language]));

  const ready = new Map<string, Ready>();
  const noAddress: DispatchPlan['noAddress'] = [];
  let held = 0;
  let notCleared = 0;
  const wanted = await clearingOf(manager, schoolId);
  let outOfDate = 0;
  for (const paper of papers) {
    const now = current.get(paperKey(paper));
    if (!now || enclosed.has(paper.id)) continue;
    if (paper.state === 'held') {
      held++;
      continue;
    }
    const note = writeNote(cover.content, now.entry, {
      columns: roll.columns,
      language: languages.get(paper.templateId)!,
      day,
      cohort: cohortOf(roll),
    });
    if (note.to.kind !== 'address') {
      noAddress.push({
        learner: paper.learner,
        reason: note.to.kind === 'none' ? phrase('no-address') : say(note.to.reason),
      });
      continue;
    }
    // A paper that no longer says what the roll and the template say must not leave.
    if (!present.isUpToDate(now)) {
      outOfDate++;
      continue;
    }
    if (wanted !== 'free' && paper.state === 'pressed') {
      notCleared++;
      continue;
    }
    const one = ready.get(paper.entryId);
    if (one) one.papers.push(paper);
    else ready.set(paper.entryId, { papers: [paper], to: note.to.address, note });
  }
  const first: Bundle[] = [];
  const again: Bundle[] = [];
  for (const [entryId, { papers: together, to, note }] of ready) {
    const count = before.get(entryId)?.size ?? 0;
    (count > 0 ? again : first).push({
      papers: together,
      recipients: [to],
      subject: note.subject.slice(0, 1000),
      text: note.text,
      html: note.html,
      before: count,
    });
  }
  const lines = ({ papers: together, recipients }: Bundle) =>
    together.map((paper) => ({ paper, to: recipients.join(', ') }));
  const line = ({ paper, to }: { paper: PaperRow; to: string }) => ({
    paperId: paper.id,
    learner: paper.learner,
    to,
  });
  const plan = {
    send: first
      .flatMap(lines)
      .map((candidate) => ({ ...line(candidate), fileName: candidate.paper.fileName })),
    again: again.flatMap(lines).map(line),
    held,
    notCleared,
    noAddress,
    outOfDate,
    blocked,
  };
  const exact = [...first, ...again].map(({ papers: together, recipients, subject, html }) => [
    together.map(({ id }) => id),
    recipients,
    subject,
    html,
  ]);
  return { plan: { planId: sha256(JSON.stringify(exact)), ...plan }, first, again, cover };
}

/** Papers of one entry that may leave. */
interface Ready {
  readonly papers: PaperRow[];
  readonly to: string;
  readonly note: WrittenNote;
}
