import { addressKey, type Column } from '@scriptum/core/column';
import type { DispatchPlan } from '@scriptum/core/contract';
import { preflight, type Finding } from '@scriptum/core/preflight';
import {
  addressesOf,
  envelopesOf,
  isReached,
  lackedColumns,
  passwordOf,
  recipientsOf,
  type Envelope,
} from '@scriptum/core/note';
import { phrase, say } from '@scriptum/core/sentences';
import { isIn, type Entry } from '@scriptum/core/roll';
import { canonical, paperKey, type PlannedPaper } from '@scriptum/core/paper';
import { notesWith } from '@scriptum/core/sorting';
import { writingsOf, type CoverNote } from '@scriptum/core/template';
import { In, type EntityManager } from 'typeorm';
import { sha256 } from '../store/blobs.js';
import type { FolioRow } from '../store/entities/folio.js';
import { EnclosureRow, PaperRow } from '../store/entities/register.js';
import { clearingOf } from '../register/judge-papers.js';
import { loadPlanning, plannedEver, toCheck, type Planning } from '../register/planning.js';
import { bundling, type Bundle, type NoteWriting } from './bundling.js';
import { presentAmong } from '../register/present-papers.js';

export interface PlannedDispatch {
  readonly plan: DispatchPlan;
  readonly first: readonly Bundle[];
  readonly again: readonly Bundle[];
  /** What was refused, to addresses that were put right since. */
  readonly corrected: readonly Bundle[];
  /** Why papers of an entry do not leave, by its identity, where some do not. */
  readonly waits: ReadonlyMap<string, Wait>;
}

/** Why a paper does not leave; `none`: its family has no address that can be written to. */
export type Wait =
  | { readonly for: 'held' | 'outOfDate' | 'notCleared' }
  | { readonly for: 'address'; readonly reason: string };

/** What was found out already, and for whom alone. */
export interface SortingOf {
  readonly planning: Planning;
  readonly findings: readonly Finding[];
  readonly entryIds: ReadonlySet<string>;
}

/** An entry with the papers of it that may leave. */
interface Ready {
  readonly entry: Entry;
  readonly papers: PaperRow[];
  /** True where it had a message that was refused. */
  corrected: boolean;
}

/** What makes a message the same as another one: unique, so that none is queued twice. */
export const sendKeyOf = (folioId: string, { cover, envelope, papers, before }: Bundle): string => {
  const [to, cc, bcc] = [envelope.to, envelope.cc, envelope.bcc].map((people) =>
    people.map(({ address }) => address).sort(),
  );
  const others = cc!.length + bcc!.length > 0 ? [cc, bcc] : [];
  return sha256(canonical([folioId, cover.id, to, papers.map(paperKey).sort(), before, ...others]));
};

/**
 * Who would get which papers now, in which messages.
 *
 * @param address of the application, where families find it.
 */
export async function sortPapers(
  manager: EntityManager,
  folio: FolioRow,
  address: string,
  of?: SortingOf,
): Promise<PlannedDispatch> {
  const { schoolId, id: folioId } = folio;
  const planning = of?.planning ?? (await loadPlanning(manager, folio));
  const { writings, templates, roll } = planning;
  const covers = writingsOf(writings, 'note');
  const findings = of?.findings ?? preflight({ ...(await toCheck(manager, planning)), notes: covers });
  const blocked = findings
    .filter((finding) => finding.blocks === 'dispatch')
    .map((finding) => finding.message);
  const papers = await papersOf(
    manager,
    folio,
    templates.map(({ id }) => id),
    of?.entryIds,
  );
  const enclosures = await manager.findBy(EnclosureRow, { schoolId, folioId });
  const inWords = new Map(covers.map(({ id, content }) => [id, content.variant?.of ?? id]));
  const tried = await triedAddresses(manager, { schoolId, folioId }, inWords);
  const present = presentAmong(papers);
  // Of papers that may stand for an entry, the one as it would be made now counts.
  const current = new Map<string, PlannedPaper>();
  for (const paper of plannedEver(planning))
    if (isIn(paper.entry) && (!current.has(paperKey(paper)) || present.isUpToDate(paper)))
      current.set(paperKey(paper), paper);
  const mustBeCleared = (await clearingOf(manager, schoolId)) !== 'free';
  const goes = notesWith(covers, templates, planning.by);
  const bundle = bundling(planning, address);

  // A paper that cannot leave is told once, whatever notes it would go with.
  const waits = { held: new Set<string>(), outOfDate: new Set<string>(), notCleared: new Set<string>() };
  const waiting = new Map<string, Wait>();
  const noAddress = new Map<string, DispatchPlan['noAddress'][number]>();
  const reached = new Set<string>();
  const sorted: Record<'first' | 'again' | 'corrected', Bundle[]> = { first: [], again: [], corrected: [] };
  for (const cover of covers) {
    const note = cover.content;
    // What was sent before there were notes to tell apart went with each of them; in another language it is the same note.
    const own = enclosures.filter(
      ({ noteId }) => noteId === null || inWords.get(noteId) === inWords.get(cover.id),
    );
    const enclosed = new Set(own.map(({ paperId }) => paperId));
    const before = new Map<string, Set<string>>();
    for (const { entryId, messageId } of own)
      before.set(entryId, (before.get(entryId) ?? new Set()).add(messageId));
    const ownTried = tried.get(inWords.get(cover.id)!);
    const ready = new Map<string, Ready>();
    for (const paper of papers) {
      const now = current.get(paperKey(paper));
      if (!now || !goes(now.entry, paper.templateId).includes(cover)) continue;
      const corrected = isCorrected(note, now.entry, ownTried?.get(paper.id));
      if (enclosed.has(paper.id) && !corrected) {
        reached.add(paper.id);
        continue;
      }
      const wait =
        paper.state === 'held'
          ? waits.held
          : !isReached(note, now.entry)
            ? null
            : // A paper that no longer says what the roll and the template say must not leave.
              !present.isUpToDate(now)
              ? waits.outOfDate
              : mustBeCleared && paper.state === 'pressed'
                ? waits.notCleared
                : undefined;
      if (wait === null) {
        const line = { learner: paper.learner, reason: whyNobody(note, now.entry, roll.columns) };
        if (!noAddress.has(paper.id)) noAddress.set(paper.id, line);
        if (!waiting.has(paper.entryId)) waiting.set(paper.entryId, { for: 'address', reason: line.reason });
        continue;
      }
      if (wait !== waits.held) reached.add(paper.id);
      if (wait) {
        wait.add(paper.id);
        const [name] = Object.entries(waits).find(([, set]) => set === wait)!;
        waiting.set(paper.entryId, { for: name as keyof typeof waits });
        continue;
      }
      const one = ready.get(paper.entryId);
      if (one) {
        one.papers.push(paper);
        one.corrected ||= corrected;
      } else ready.set(paper.entryId, { entry: now.entry, papers: [paper], corrected });
    }
    // Whom a message of their own has reached, or was refused for, gets no other one beside those that are right now.
    const left = (envelope: Envelope): Envelope[] => {
      const [{ address } = { address: '' }] = envelope.to;
      const entries = envelope.entries.filter(({ id }) =>
        ready.get(id)!.papers.some((paper) => !ownTried?.get(paper.id)?.has(addressKey(address))),
      );
      return !note.apart ? [envelope] : entries.length > 0 ? [{ ...envelope, entries }] : [];
    };
    const bundlesOf = (some: readonly Ready[], only = (envelope: Envelope) => [envelope]): Bundle[] =>
      envelopesOf(
        note,
        some.map(({ entry }) => entry),
      )
        .flatMap(only)
        .map((envelope) => {
          const together = envelope.entries.flatMap(({ id }) => ready.get(id)!.papers);
          const sent = new Set(envelope.entries.flatMap(({ id }) => [...(before.get(id) ?? [])]));
          return bundle(cover, envelope, together, { inWords: sameNotes(cover, covers), before: sent.size });
        });
    const all = [...ready.values()];
    const hadSome = ({ entry }: Ready): boolean => (before.get(entry.id)?.size ?? 0) > 0;
    sorted.first.push(...bundlesOf(all.filter((one) => !hadSome(one))));
    sorted.again.push(...bundlesOf(all.filter((one) => hadSome(one) && !one.corrected)));
    const mended = all.filter((one) => hadSome(one) && one.corrected);
    sorted.corrected.push(...bundlesOf(mended, left));
  }
  const { first, again, corrected } = sorted;
  const described = describedAmong(covers.length);
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
    held: waits.held.size,
    notCleared: waits.notCleared.size,
    // Whom another note reaches has the paper.
    noAddress: [...noAddress].flatMap(([paperId, line]) => (reached.has(paperId) ? [] : [line])),
    outOfDate: waits.outOfDate.size,
    blocked,
  };
  const exact = [...first, ...again, ...corrected].map(
    ({ cover, papers: together, envelope, subject, preview, html }) => [
      cover.id,
      together.map(({ id }) => id),
      envelope.to,
      envelope.cc,
      envelope.bcc,
      envelope.replyTo,
      cover.content.from ?? '',
      cover.content.along,
      cover.content.link,
      cover.content.files,
      'columnId' in (cover.content.lock ?? {})
        ? envelope.entries.map((entry) =>
            passwordOf(cover.content.lock as { columnId: string }, entry, roll.columns),
          )
        : cover.content.lock,
      subject,
      preview,
      html,
    ],
  );
  return {
    plan: { planId: sha256(JSON.stringify(exact)), ...plan },
    first,
    again,
    corrected,
    waits: waiting,
  };
}

/** The identities of a note and of those that are the same one in other languages. */
export const sameNotes = ({ id, content }: NoteWriting, covers: readonly NoteWriting[]): string[] => {
  const first = content.variant?.of ?? id;
  return covers.flatMap((one) => ((one.content.variant?.of ?? one.id) === first ? [one.id] : []));
};

/** The papers that stand for their entries, in the order in which they go along. */
const papersOf = (
  manager: EntityManager,
  { schoolId, id: folioId }: FolioRow,
  templateIds: readonly string[],
  entryIds?: ReadonlySet<string>,
): Promise<PaperRow[]> =>
  manager.find(PaperRow, {
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
      templateId: In(templateIds),
      ...(entryIds ? { entryId: In([...entryIds]) } : {}),
      state: In(['pressed', 'cleared', 'held', 'dispatched']),
    },
    // A learner's papers go along in the order of their letters.
    order: { position: 'ASC', place: 'ASC', id: 'ASC' },
  });

/**
 * By note, in whatever language it was, and paper, all addresses that the paper was sent to with it, where a message of them was refused and nothing was sent in its
 * place.
 */
async function triedAddresses(
  manager: EntityManager,
  { schoolId, folioId }: { schoolId: string; folioId: string },
  inWords: ReadonlyMap<string, string>,
): Promise<Map<string, Map<string, Set<string>>>> {
  const rows = await manager.query<{ noteId: string; other: string; paperId: string; recipients: string }[]>(
    `SELECT DISTINCT c.noteId, d.noteId AS other, d.paperId, a.recipients FROM message m JOIN enclosure c ON c.messageId = m.id
       JOIN enclosure d ON d.paperId = c.paperId JOIN message a ON a.id = d.messageId
     WHERE m.schoolId = ? AND m.folioId = ? AND m.state = 'refused' AND c.settledBy IS NULL AND c.noteId IS NOT NULL`,
    [schoolId, folioId],
  );
  const tried = new Map<string, Map<string, Set<string>>>();
  for (const { noteId: sent, other, paperId, recipients } of rows) {
    const noteId = inWords.get(sent) ?? sent;
    if (noteId !== (inWords.get(other) ?? other)) continue;
    const own = tried.get(noteId) ?? new Map<string, Set<string>>();
    const all = own.get(paperId) ?? new Set();
    for (const address of JSON.parse(recipients) as string[]) all.add(addressKey(address));
    tried.set(noteId, own.set(paperId, all));
  }
  return tried;
}

/** True where a message was refused and the entry has an address now that nothing was sent to. */
const isCorrected = (note: CoverNote, entry: Entry, tried: ReadonlySet<string> | undefined): boolean =>
  tried !== undefined && recipientsOf(note, entry).to.some(({ address }) => !tried.has(addressKey(address)));

const addresses = (people: Envelope['to']): string[] => people.map(({ address }) => address);

const linesOf = ({ papers, envelope }: Bundle): { paper: PaperRow; to: string }[] =>
  papers.map((paper) => ({ paper, to: addresses(envelope.to).join(', ') }));

/** @param notes how many notes there are; where there are several, each message says which it is. */
const describedAmong =
  (notes: number) =>
  ({ cover, papers, envelope }: Bundle): DispatchPlan['messages'][number] => ({
    ...(notes > 1 ? { note: cover.name } : {}),
    learners: [...new Map(papers.map(({ entryId, learner }) => [entryId, learner])).values()],
    to: addresses(envelope.to),
    cc: addresses(envelope.cc),
    bcc: addresses(envelope.bcc),
    papers: papers.length,
  });

/** Why nobody can be written to for an entry. */
export function whyNobody(note: CoverNote, entry: Entry, columns: readonly Column[]): string {
  if (recipientsOf(note, entry).to.length > 0) {
    const [lacked] = lackedColumns(note, entry);
    return phrase('no-key', { title: columns.find(({ id }) => id === lacked)?.title ?? '' });
  }
  const [wrong] = note.to.flatMap((one) => ('columnId' in one ? addressesOf(entry, one.columnId).wrong : []));
  return wrong ? say(wrong.reason) : phrase('no-address');
}
