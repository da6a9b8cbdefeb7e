import { addressKey } from '@scriptum/core/column';
import { cohortOf } from '@scriptum/core/fill';
import type { DispatchPlan } from '@scriptum/core/contract';
import { preflight } from '@scriptum/core/preflight';
import {
  addressesOf,
  envelopesOf,
  recipientsOf,
  writeNote,
  type Envelope,
  type WrittenNote,
} from '@scriptum/core/note';
import { phrase, say } from '@scriptum/core/sentences';
import { isIn, type Entry } from '@scriptum/core/roll';
import { canonical, paperKey, type PlannedPaper } from '@scriptum/core/paper';
import type { CoverNote, Writing } from '@scriptum/core/template';
import { In, type EntityManager } from 'typeorm';
import { sha256 } from '../store/blobs.js';
import type { FolioRow } from '../store/entities/folio.js';
import { EnclosureRow, PaperRow } from '../store/entities/register.js';
import { firstWriting } from '../store/writings.js';
import { clearingOf } from '../register/judge-papers.js';
import { loadPlanning, plannedEver, toCheck } from '../register/planning.js';
import { presentAmong } from '../register/present-papers.js';

/** Papers that go together in one message. */
export interface Bundle extends WrittenNote {
  readonly papers: readonly PaperRow[];
  readonly envelope: Envelope;
  /** How many messages its entries have had. */
  readonly before: number;
}

export interface PlannedDispatch {
  readonly plan: DispatchPlan;
  readonly first: readonly Bundle[];
  readonly again: readonly Bundle[];
  /** What was refused, to addresses that were put right since. */
  readonly corrected: readonly Bundle[];
  /** The note that goes with them. */
  readonly cover: Extract<Writing, { kind: 'note' }>;
}

/** An entry with the papers of it that may leave. */
interface Ready {
  readonly entry: Entry;
  readonly papers: PaperRow[];
  /** True where it had a message that was refused. */
  corrected: boolean;
}

/** What makes a message the same as another one: unique, so that none is queued twice. */
export const sendKeyOf = (folioId: string, noteId: string, { envelope, papers, before }: Bundle): string => {
  const [to, cc, bcc] = [envelope.to, envelope.cc, envelope.bcc].map((people) =>
    people.map(({ address }) => address).sort(),
  );
  const others = cc!.length + bcc!.length > 0 ? [cc, bcc] : [];
  return sha256(canonical([folioId, noteId, to, papers.map(paperKey).sort(), before, ...others]));
};

/** Who would get which papers now, in which messages. */
export async function sortPapers(manager: EntityManager, folio: FolioRow): Promise<PlannedDispatch> {
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

  const tried = await triedAddresses(manager, { schoolId, folioId });
  const ready = new Map<string, Ready>();
  const noAddress: DispatchPlan['noAddress'] = [];
  let held = 0;
  let notCleared = 0;
  const wanted = await clearingOf(manager, schoolId);
  let outOfDate = 0;
  for (const paper of papers) {
    const now = current.get(paperKey(paper));
    if (!now) continue;
    const corrected = isCorrected(cover.content, now.entry, tried.get(paper.id));
    if (enclosed.has(paper.id) && !corrected) continue;
    if (paper.state === 'held') {
      held++;
      continue;
    }
    if (recipientsOf(cover.content, now.entry).to.length === 0) {
      noAddress.push({ learner: paper.learner, reason: whyNobody(cover.content, now.entry) });
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
    if (one) {
      one.papers.push(paper);
      one.corrected ||= corrected;
    } else ready.set(paper.entryId, { entry: now.entry, papers: [paper], corrected });
  }
  const context = { columns: roll.columns, day, cohort: cohortOf(roll) };
  // Whom a message of their own has reached, or was refused for, gets no other one beside those that are right now.
  const left = (envelope: Envelope): Envelope[] => {
    const [{ address } = { address: '' }] = envelope.to;
    const entries = envelope.entries.filter(({ id }) =>
      ready.get(id)!.papers.some((paper) => !tried.get(paper.id)?.has(addressKey(address))),
    );
    return !cover.content.apart ? [envelope] : entries.length > 0 ? [{ ...envelope, entries }] : [];
  };
  const bundlesOf = (some: readonly Ready[], only = (envelope: Envelope) => [envelope]): Bundle[] =>
    envelopesOf(
      cover.content,
      some.map(({ entry }) => entry),
    )
      .flatMap(only)
      .map((envelope) => {
        const together = envelope.entries.flatMap(({ id }) => ready.get(id)!.papers);
        const language = languages.get(together[0]!.templateId)!;
        const sent = new Set(envelope.entries.flatMap(({ id }) => [...(before.get(id) ?? [])]));
        const note = writeNote(cover.content, envelope, { ...context, language });
        return {
          ...note,
          subject: note.subject.slice(0, 1000),
          papers: together,
          envelope,
          before: sent.size,
        };
      });
  const all = [...ready.values()];
  const hadSome = ({ entry }: Ready): boolean => (before.get(entry.id)?.size ?? 0) > 0;
  const first = bundlesOf(all.filter((one) => !hadSome(one)));
  const again = bundlesOf(all.filter((one) => hadSome(one) && !one.corrected));
  const corrected = bundlesOf(
    all.filter((one) => hadSome(one) && one.corrected),
    left,
  );
  const plan = {
    messages: first.map(described),
    messagesAgain: again.map(described),
    messagesCorrected: corrected.map(described),
    send: first.flatMap(linesOf).map(({ paper, to }) => ({
      paperId: paper.id,
      learner: paper.learner,
      to,
      fileName: paper.fileName,
    })),
    again: again.flatMap(linesOf).map(({ paper, to }) => ({ paperId: paper.id, learner: paper.learner, to })),
    held,
    notCleared,
    noAddress,
    outOfDate,
    blocked,
  };
  const exact = [...first, ...again, ...corrected].map(
    ({ papers: together, envelope, subject, preview, html }) => [
      together.map(({ id }) => id),
      envelope.to,
      envelope.cc,
      envelope.bcc,
      envelope.replyTo,
      cover.content.from ?? '',
      subject,
      preview,
      html,
    ],
  );
  return { plan: { planId: sha256(JSON.stringify(exact)), ...plan }, first, again, corrected, cover };
}

/** All addresses that papers were sent to, of papers that a message of was refused and nothing was sent in its place. */
async function triedAddresses(
  manager: EntityManager,
  { schoolId, folioId }: { schoolId: string; folioId: string },
): Promise<Map<string, Set<string>>> {
  const rows = await manager.query<{ paperId: string; recipients: string }[]>(
    `SELECT DISTINCT d.paperId, a.recipients FROM message m JOIN enclosure c ON c.messageId = m.id
       JOIN enclosure d ON d.paperId = c.paperId JOIN message a ON a.id = d.messageId
     WHERE m.schoolId = ? AND m.folioId = ? AND m.state = 'refused' AND c.settledBy IS NULL`,
    [schoolId, folioId],
  );
  const tried = new Map<string, Set<string>>();
  for (const { paperId, recipients } of rows) {
    const all = tried.get(paperId) ?? new Set();
    for (const address of JSON.parse(recipients) as string[]) all.add(addressKey(address));
    tried.set(paperId, all);
  }
  return tried;
}

/** True where a message was refused and the entry has an address now that nothing was sent to. */
const isCorrected = (note: CoverNote, entry: Entry, tried: ReadonlySet<string> | undefined): boolean =>
  tried !== undefined && recipientsOf(note, entry).to.some(({ address }) => !tried.has(addressKey(address)));

const addresses = (people: Envelope['to']): string[] => people.map(({ address }) => address);

const linesOf = ({ papers, envelope }: Bundle): { paper: PaperRow; to: string }[] =>
  papers.map((paper) => ({ paper, to: addresses(envelope.to).join(', ') }));

const described = ({ papers, envelope }: Bundle): DispatchPlan['messages'][number] => ({
  learners: [...new Map(papers.map(({ entryId, learner }) => [entryId, learner])).values()],
  to: addresses(envelope.to),
  cc: addresses(envelope.cc),
  bcc: addresses(envelope.bcc),
  papers: papers.length,
});

/** Why nobody can be written to for an entry. */
function whyNobody(note: CoverNote, entry: Entry): string {
  const [wrong] = note.to.flatMap((one) => ('columnId' in one ? addressesOf(entry, one.columnId).wrong : []));
  return wrong ? say(wrong.reason) : phrase('no-address');
}
