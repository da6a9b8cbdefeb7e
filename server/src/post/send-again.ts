import { readAddresses } from '@scriptum/core/column';
import type { SendPapersAgain } from '@scriptum/core/contract';
import { envelopesOf, lackedColumns, recipientsOf, type Envelope } from '@scriptum/core/note';
import { isIn } from '@scriptum/core/roll';
import { notesWith } from '@scriptum/core/sorting';
import { writingsOf } from '@scriptum/core/template';
import { phrase, say } from '@scriptum/core/sentences';
import { In, type EntityManager } from 'typeorm';
import { conflict, notFound, Refusal } from '../refusal.js';
import { clearingOf } from '../register/judge-papers.js';
import { loadPlanning } from '../register/planning.js';
import { PaperRow } from '../store/entities/register.js';
import { lockFolio } from '../store/folios.js';
import { firstWriting } from '../store/writings.js';
import { accountFor } from './accounts-on.js';
import { onceMore, queueBundles, type QueueingPlace } from './dispatch.js';
import { bundling } from './bundling.js';
import { sameNotes } from './plan-dispatch.js';

/**
 * Queues papers once more by a person's word: to the addresses of the roll as it is now, or to another one, with the cover note as it
 * is now. The papers are those that were made.
 *
 * @returns how many messages.
 * @throws Refusal `sent-meanwhile` where more messages have had them than the person was shown; `on-its-way`, `paper-held`,
 *   `paper-replaced`, `not-cleared`, `no-address`, `address-wrong`
 */
export async function sendPapersAgain(
  manager: EntityManager,
  place: Omit<QueueingPlace, 'accountId' | 'dispatchId' | 'startsAt'>,
  { paperIds, to, noteId, seen }: SendPapersAgain,
): Promise<number> {
  const { schoolId, folioId } = place;
  const folio = await lockFolio(manager, schoolId, folioId);
  const papers = await manager.find(PaperRow, {
    where: { schoolId, folioId, id: In([...new Set(paperIds)]) },
    order: { position: 'ASC', place: 'ASC', id: 'ASC' },
  });
  if (papers.length < new Set(paperIds).size) throw notFound('This paper');
  await expectFree(manager, schoolId, papers);
  const messages = await manager.query<{ id: string; entryId: string; state: string }[]>(
    `SELECT DISTINCT m.id, c.entryId, m.state FROM message m JOIN enclosure c ON c.messageId = m.id
     WHERE c.schoolId = ? AND c.folioId = ? AND c.paperId IN (?)`,
    [schoolId, folioId, papers.map(({ id }) => id)],
  );
  if (messages.some(({ state }) => ['queued', 'sending', 'deferred'].includes(state)))
    throw conflict(
      'on-its-way',
      'A message with this paper is still on its way. See first what becomes of it.',
    );
  if (new Set(messages.map(({ id }) => id)).size !== seen)
    throw conflict(
      'sent-meanwhile',
      'This paper was sent meanwhile. Look at what became of it first; nothing was sent now.',
    );
  const planning = await loadPlanning(manager, folio);
  const { writings, templates, roll } = planning;
  const wanted = new Set(papers.map(({ entryId }) => entryId));
  const entries = roll.entries.filter((entry) => wanted.has(entry.id) && isIn(entry));
  if (entries.length < wanted.size)
    throw conflict('left-out', 'This learner is left out, or not on the roll any more. Nothing was sent.');
  const covers = writingsOf(writings, 'note');
  const cover =
    noteId === undefined
      ? (notesWith(covers, templates, planning.by)(entries[0]!, papers[0]!.templateId)[0] ??
        firstWriting(writings, 'note'))
      : covers.find(({ id }) => id === noteId);
  if (!cover) throw notFound('This cover note');
  const inWords = sameNotes(cover, covers);
  const envelopes: readonly Envelope[] =
    to === undefined
      ? envelopesOf(cover.content, entries)
      : [{ ...recipientsOf(cover.content, entries[0]!), ...onlyTo(to), entries }];
  if (envelopes.length === 0)
    throw new Refusal(
      422,
      'no-address',
      'The roll has no address to write to for this learner. Put one in, or say another address.',
    );
  for (const entry of entries) {
    const [lacked] = lackedColumns(cover.content, entry);
    if (lacked !== undefined)
      throw new Refusal(
        422,
        'no-key',
        `There is ${phrase('no-key', { title: roll.columns.find(({ id }) => id === lacked)?.title ?? '' })}. Fill it in first.`,
      );
  }
  const before = (await sentBefore(manager, place, [...wanted])).size;
  const bundle = bundling(planning, place.posting.address);
  const bundles = envelopes.map((envelope) => {
    const own = papers.filter(({ entryId }) => envelope.entries.some(({ id }) => id === entryId));
    return bundle(cover, envelope, own, { inWords, before });
  });
  const accountId = await accountFor(manager, { schoolId, staffId: place.staffId });
  await queueBundles(manager, { ...place, accountId }, bundles, onceMore);
  return bundles.length;
}

/** Nobody else gets what one more person asks for. */
function onlyTo(text: string): Pick<Envelope, 'to' | 'cc' | 'bcc'> {
  const { addresses, wrong } = readAddresses(text);
  const [address] = addresses;
  if (wrong[0])
    throw new Refusal(422, 'address-wrong', `“${wrong[0].text}” cannot be right: ${say(wrong[0].reason)}.`);
  if (address === undefined || addresses.length > 1)
    throw new Refusal(422, 'address-wrong', 'Say one address.');
  return { to: [{ address, name: '' }], cc: [], bcc: [] };
}

async function expectFree(
  manager: EntityManager,
  schoolId: string,
  papers: readonly PaperRow[],
): Promise<void> {
  if (papers.some(({ state }) => state === 'held'))
    throw conflict('paper-held', 'This paper is held. Clear it first, then send it.');
  if (papers.some(({ state }) => !['pressed', 'cleared', 'dispatched'].includes(state)))
    throw conflict('paper-replaced', 'This paper does not count any more. Send the newer one instead.');
  if ((await clearingOf(manager, schoolId)) !== 'free' && papers.some(({ state }) => state === 'pressed'))
    throw conflict('not-cleared', 'This paper is not cleared yet. Clear it first, then send it.');
}

async function sentBefore(
  manager: EntityManager,
  { schoolId, folioId }: Pick<QueueingPlace, 'schoolId' | 'folioId'>,
  entryIds: readonly string[],
): Promise<Set<string>> {
  const rows = await manager.query<{ messageId: string }[]>(
    'SELECT DISTINCT messageId FROM enclosure WHERE schoolId = ? AND folioId = ? AND entryId IN (?)',
    [schoolId, folioId, entryIds],
  );
  return new Set(rows.map(({ messageId }) => messageId));
}
