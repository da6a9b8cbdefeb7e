import type { AskAgain, AgainPlan, SendManyAgain } from '@scriptum/core/contract';
import { envelopesOf, lackedColumns, recipientsOf } from '@scriptum/core/note';
import { phrase } from '@scriptum/core/sentences';
import { isIn } from '@scriptum/core/roll';
import { writingsOf } from '@scriptum/core/template';
import { In, type EntityManager } from 'typeorm';
import { conflict, notFound } from '../refusal.js';
import { clearingOf } from '../register/judge-papers.js';
import { loadPlanning } from '../register/planning.js';
import { sha256 } from '../store/blobs.js';
import type { FolioRow } from '../store/entities/folio.js';
import { PaperRow } from '../store/entities/register.js';
import { findFolio, lockFolio } from '../store/folios.js';
import { accountFor } from './accounts-on.js';
import { bundling, type Bundle, type NoteWriting } from './bundling.js';
import { beginDispatch } from './dispatches.js';
import { onceMore, queueBundles, type QueueingPlace } from './dispatch.js';
import { sameNotes } from './plan-dispatch.js';

type Place = Pick<QueueingPlace, 'schoolId' | 'folioId' | 'posting'>;

/** A paper that was sent, as far as sending it once more goes. */
interface SentPaper {
  readonly paperId: string;
  /** The note that went along, where it is still known. */
  readonly noteId: string | null;
}

/** Which papers are meant, with the note of their messages. Those on their way are not. */
const MEANT: Readonly<Record<AskAgain['whom'], string>> = {
  refused: `SUM(m.state = 'refused' AND c.settledBy IS NULL) > 0`,
  unopened: `SUM(m.state = 'sent' AND l.messageId IS NOT NULL) > 0 AND SUM(COALESCE(l.opens, 0)) = 0`,
  sent: `SUM(m.state = 'sent') > 0`,
};

/** Who would get a message once more; changes nothing. */
export async function planAgain(manager: EntityManager, place: Place, asked: AskAgain): Promise<AgainPlan> {
  return (await sortAgain(manager, place, await findFolio(manager, place.schoolId, place.folioId), asked))
    .plan;
}

/**
 * Queues messages to many once more, by a person's word: to all that were refused, to those who have not opened their link, or to all who
 * had one. To the addresses of the roll and with the cover note as they are now; the papers are those that were made.
 *
 * @returns how many messages.
 * @throws Refusal `plan-changed` where it is other than the person was shown.
 */
export async function sendManyAgain(
  manager: EntityManager,
  place: Place & { readonly staffId: string | null },
  { planId, ...asked }: SendManyAgain,
): Promise<number> {
  const { schoolId, folioId, staffId } = place;
  const folio = await lockFolio(manager, schoolId, folioId);
  const { plan, bundles } = await sortAgain(manager, place, folio, asked);
  if (plan.planId !== planId)
    throw conflict(
      'plan-changed',
      'Something changed since you were shown who gets mail. Look at the list again, then send. Nothing was sent now.',
    );
  if (bundles.length === 0) return 0;
  const accountId = await accountFor(manager, { schoolId, staffId });
  const total = bundles.length;
  const { id: dispatchId } = await beginDispatch(manager, { schoolId, folioId, staffId, total }, {});
  await queueBundles(manager, { ...place, accountId, dispatchId }, bundles, onceMore);
  return total;
}

async function sortAgain(
  manager: EntityManager,
  place: Place,
  folio: FolioRow,
  { whom, noteId }: AskAgain,
): Promise<{ plan: AgainPlan; bundles: Bundle[] }> {
  const { schoolId, id: folioId } = folio;
  const meant = await manager.query<SentPaper[]>(
    `SELECT c.paperId, MAX(IF(m.state = 'refused' AND c.settledBy IS NULL, c.noteId, NULL)) AS noteId
     FROM enclosure c JOIN message m ON m.id = c.messageId LEFT JOIN private_link l ON l.messageId = m.id
     WHERE c.schoolId = ? AND c.folioId = ? GROUP BY c.paperId
     HAVING ${MEANT[whom]} AND SUM(m.state IN ('queued', 'sending', 'deferred')) = 0`,
    [schoolId, folioId],
  );
  const planning = await loadPlanning(manager, folio);
  const covers = writingsOf(planning.writings, 'note');
  const chosen = covers.find(({ id }) => id === noteId);
  if (noteId !== undefined && !chosen) throw notFound('This cover note');
  const papers = meant.length
    ? await manager.find(PaperRow, {
        where: { schoolId, folioId, id: In(meant.map(({ paperId }) => paperId)) },
        order: { position: 'ASC', place: 'ASC', id: 'ASC' },
      })
    : [];
  const mustBeCleared = (await clearingOf(manager, schoolId)) !== 'free';
  const entries = new Map(planning.roll.entries.filter(isIn).map((entry) => [entry.id, entry]));
  const noteOf = new Map(
    meant.map(({ paperId, noteId: of }) => [paperId, covers.find(({ id }) => id === of)]),
  );
  const passed: AgainPlan['passed'] = [];
  const byNote = new Map<NoteWriting, PaperRow[]>();
  for (const paper of papers) {
    // What counts no more is nobody's to send.
    if (paper.state === 'superseded' || paper.state === 'void') continue;
    const cover = chosen ?? noteOf.get(paper.id) ?? covers[0];
    const entry = entries.get(paper.entryId);
    const lacked = cover && entry && lackedColumns(cover.content, entry)[0];
    const why =
      !entry || !cover
        ? 'left out by now'
        : paper.state === 'held'
          ? 'held'
          : paper.state === 'failed' || (mustBeCleared && paper.state === 'pressed')
            ? 'not cleared'
            : // What it says is not right any more: pressed again, it is offered by the next dispatch.
              paper.outOfDate
              ? 'out of date'
              : recipientsOf(cover.content, entry).to.length === 0
                ? phrase('no-address')
                : lacked === undefined
                  ? null
                  : phrase('no-key', {
                      title: planning.roll.columns.find(({ id }) => id === lacked)?.title ?? '',
                    });
    if (why !== null) passed.push({ learner: paper.learner, reason: why });
    else byNote.set(cover!, [...(byNote.get(cover!) ?? []), paper]);
  }
  const earlier = await sentBefore(manager, { schoolId, folioId }, papers);
  const bundle = bundling(planning, place.posting.address);
  const bundles = [...byNote].flatMap(([cover, own]) => {
    const wanted = new Set(own.map(({ entryId }) => entryId));
    const inWords = sameNotes(cover, covers);
    return envelopesOf(
      cover.content,
      planning.roll.entries.filter(({ id }) => wanted.has(id)),
    ).map((envelope) => {
      const along = own.filter(({ entryId }) => envelope.entries.some(({ id }) => id === entryId));
      return bundle(cover, envelope, along, {
        inWords,
        before: earlier.of(envelope.entries.map(({ id }) => id)).size,
      });
    });
  });
  const messages = bundles.map(({ cover, envelope, papers: own, before }) => ({
    ...(covers.length > 1 ? { note: cover.name } : {}),
    learners: [...new Map(own.map(({ entryId, learner }) => [entryId, learner])).values()],
    to: envelope.to.map(({ address }) => address),
    cc: envelope.cc.map(({ address }) => address),
    bcc: envelope.bcc.map(({ address }) => address),
    papers: own.length,
    before,
    last: earlier.last(envelope.entries.map(({ id }) => id)),
  }));
  const exact = bundles.map(({ cover, envelope, papers: own, subject, html, before }) => [
    cover.id,
    cover.content,
    own.map(({ id }) => id),
    envelope.to,
    envelope.cc,
    envelope.bcc,
    subject,
    html,
    before,
  ]);
  return { plan: { planId: sha256(JSON.stringify([whom, exact])), messages, passed }, bundles };
}

/** The messages that entries have had, and when the last one left. */
async function sentBefore(
  manager: EntityManager,
  { schoolId, folioId }: { schoolId: string; folioId: string },
  papers: readonly PaperRow[],
): Promise<{ of: (ids: readonly string[]) => Set<string>; last: (ids: readonly string[]) => string | null }> {
  const rows = papers.length
    ? await manager.query<{ entryId: string; messageId: string; sentAt: Date | null }[]>(
        `SELECT DISTINCT c.entryId, c.messageId, m.sentAt FROM enclosure c JOIN message m ON m.id = c.messageId
         WHERE c.schoolId = ? AND c.folioId = ? AND c.entryId IN (?)`,
        [schoolId, folioId, [...new Set(papers.map(({ entryId }) => entryId))]],
      )
    : [];
  const by = new Map<string, { messageId: string; sentAt: Date | null }[]>();
  for (const row of rows) by.set(row.entryId, [...(by.get(row.entryId) ?? []), row]);
  const all = (ids: readonly string[]) => ids.flatMap((id) => by.get(id) ?? []);
  return {
    of: (ids) => new Set(all(ids).map(({ messageId }) => messageId)),
    last: (ids) =>
      all(ids)
        .flatMap(({ sentAt }) => (sentAt ? [sentAt.toISOString()] : []))
        .sort()
        .at(-1) ?? null,
  };
}
