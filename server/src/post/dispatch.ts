import { addressKey } from '@scriptum/core/column';
import type { DispatchPlan, StartDispatch } from '@scriptum/core/contract';
import { OWN_LINK, passwordOf, recipientsOf } from '@scriptum/core/note';
import { soughtWords } from '@scriptum/core/paper';
import type { EntityManager } from 'typeorm';
import { conflict, Refusal } from '../refusal.js';
import { School } from '../store/entities/people.js';
import { PrivateLinkRow } from '../store/entities/private-link.js';
import type { KeptEnvelope } from '../store/entities/register.js';
import { sha256 } from '../store/blobs.js';
import { findFolio, lockFolio } from '../store/folios.js';
import { keepVersion } from '../store/writings.js';
import { newId } from '../store/id.js';
import { nextRevision } from '../store/register-state.js';
import { lastTurn, TURN_OF } from '../store/turns.js';
import { accountFor } from './accounts-on.js';
import { beginDispatch } from './dispatches.js';
import { lockOf, wordOf } from './enclosing.js';
import type { Bundle, NoteWriting } from './bundling.js';
import { sendKeyOf, sortPapers } from './plan-dispatch.js';
import { linkRow, newToken } from './private-links.js';
import { Secrets } from './secrets.js';

/** Says who would get mail now; changes nothing. */
export async function planDispatch(
  manager: EntityManager,
  schoolId: string,
  folioId: string,
  address: string,
): Promise<DispatchPlan> {
  return (await sortPapers(manager, await findFolio(manager, schoolId, folioId), address)).plan;
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
  asked: StartDispatch & { staffId?: string | null },
  posting: Posting,
): Promise<number> {
  const folio = await lockFolio(manager, schoolId, folioId);
  const { plan, first, again, corrected } = await sortPapers(manager, folio, posting.address);
  if (plan.blocked.length > 0) throw new Refusal(409, 'dispatch-blocked', plan.blocked.join(' '));
  if (plan.planId !== asked.planId) {
    throw conflict(
      'plan-changed',
      'Something changed since you were shown who gets mail. Look at the list again, then send. Nothing was sent now.',
    );
  }
  const staffId = asked.staffId ?? null;
  const some = asked.again ? [...first, ...again] : first;
  const mended = asked.corrected ? corrected : [];
  const total = some.length + mended.length;
  if (total === 0) return 0;
  const accountId = await accountFor(manager, { schoolId, staffId, wanted: asked.accountId });
  const { id: dispatchId, startsAt } = await beginDispatch(
    manager,
    { schoolId, folioId, staffId, total },
    asked,
  );
  const ended = [...some, ...mended].find(
    ({ link }) => link && link.ends <= startsAt.toISOString().slice(0, 10),
  );
  if (ended)
    throw new Refusal(
      422,
      'link-ends',
      `The private links end on ${ended.link!.ends}, before these messages leave. Let the links work longer, or the messages leave sooner. Nothing was sent.`,
    );
  const place = { schoolId, folioId, staffId, posting, accountId, dispatchId, startsAt };
  await queueBundles(manager, place, some, apartAsFirst);
  await queueBundles(manager, place, mended, onceMore);
  return total;
}

/** Messages of one note may have the same paper where each address gets one of its own. */
export const apartAsFirst = ({ cover, envelope }: Bundle): string =>
  cover.content.apart ? sha256(addressKey(envelope.to[0]!.address)) : '';

/** Sets a message apart from those that had its papers before: it is somebody's word that they leave once more. */
export const onceMore = ({ envelope, before }: Bundle): string =>
  sha256(JSON.stringify(['again', before, envelope.to.map(({ address }) => addressKey(address)).sort()]));

/** What the server knows that writes messages. */
export interface Posting {
  /** Of the Message-IDs. */
  readonly domain: string;
  /** Of the application, where families find it; without a slash at its end. */
  readonly address: string;
  /** With which passwords are kept (see `secrets`). */
  readonly key: string;
}

export interface QueueingPlace {
  readonly schoolId: string;
  readonly folioId: string;
  readonly staffId: string | null;
  readonly posting: Posting;
  /** What they leave through. */
  readonly accountId: string;
  readonly dispatchId?: string;
  /** When they may leave; at once where nothing is said. */
  readonly startsAt?: Date;
}

/**
 * Queues messages, in the transaction in which the folio is locked. What was refused of their papers is settled.
 *
 * @param apartOf by which messages of one note may have the same paper.
 */
export async function queueBundles(
  manager: EntityManager,
  { schoolId, folioId, staffId, posting, accountId, dispatchId, startsAt }: QueueingPlace,
  bundles: readonly Bundle[],
  apartOf: (bundle: Bundle) => string,
): Promise<void> {
  if (bundles.length === 0) return;
  const now = new Date();
  const revision = await nextRevision(manager, { schoolId, folioId });
  let turn = await lastTurn(manager, 'message', schoolId);
  const rows: unknown[][] = [];
  const enclosures: unknown[][] = [];
  const links: PrivateLinkRow[] = [];
  const secrets = new Secrets(posting.key);
  const { timeZone } = await manager.findOneByOrFail(School, { id: schoolId });
  for (const bundle of bundles) {
    const id = newId();
    const { cover, envelope, subject, link } = bundle;
    const token = link ? newToken() : '';
    const own = (text: string): string => (link ? text.replaceAll(OWN_LINK, token) : text);
    if (link) {
      expectLink(bundle);
      const kept = { messageId: id, schoolId, folioId, token, ends: link.ends, timeZone };
      links.push(linkRow(kept, cover.content, envelope, bundle.columns));
    }
    rows.push([
      id,
      schoolId,
      folioId,
      sendKeyOf(folioId, bundle),
      `<${id}@${posting.domain}>`,
      JSON.stringify(envelope.to.map(({ address }) => address)),
      JSON.stringify(kept(bundle, id, { secrets, schoolId })),
      subject,
      own(bundle.text),
      own(bundle.html),
      'queued',
      0,
      cover.id,
      cover.version,
      now,
      (turn += TURN_OF.message),
      startsAt ?? now,
      accountId,
      dispatchId ?? null,
      envelope.to.length + envelope.cc.length + envelope.bcc.length,
      soughtIn(bundle),
    ]);
    const apart = apartOf(bundle);
    for (const [place, paper] of bundle.papers.entries())
      enclosures.push([id, paper.id, paper.entryId, cover.id, apart, place, schoolId, folioId]);
  }
  const papers = bundles.flatMap((bundle) => bundle.papers.map(({ id }) => id));
  for (let from = 0; from < rows.length; from += 250)
    await manager.query(
      `INSERT INTO message (id, schoolId, folioId, sendKey, messageId, recipients, envelope, subject, text, html, state, attempts,
         noteId, noteVersion, queuedAt, turn, nextAttemptAt, accountId, dispatchId, people, sought) VALUES ?`,
      [rows.slice(from, from + 250)],
    );
  for (let from = 0; from < enclosures.length; from += 1000)
    await manager.query(
      'INSERT INTO enclosure (messageId, paperId, entryId, noteId, apart, place, schoolId, folioId) VALUES ?',
      [enclosures.slice(from, from + 1000)],
    );
  for (let from = 0; from < links.length; from += 250)
    await manager.insert(PrivateLinkRow, links.slice(from, from + 250));
  for (const cover of new Set(bundles.map((bundle) => bundle.cover))) {
    const sent = bundles.flatMap((bundle, n) =>
      bundle.cover === cover ? [{ bundle, id: String(rows[n]![0]) }] : [],
    );
    await settle(manager, cover, sent);
    await keepVersion(manager, schoolId, cover);
  }
  await manager.query(
    // Who sends them says that they may leave.
    `UPDATE paper SET judgedBy = IF(state = 'pressed', ?, judgedBy), judgedAt = IF(state = 'pressed', ?, judgedAt),
       state = IF(state = 'pressed', 'cleared', state), revision = ? WHERE schoolId = ? AND folioId = ? AND id IN (?)`,
    [staffId, now, revision, schoolId, folioId, papers],
  );
}

/**
 * What was refused, or is unconfirmed, waits for nobody any more where all whom the roll has to be written to for the paper get it now.
 */
async function settle(
  manager: EntityManager,
  cover: NoteWriting,
  sent: readonly { readonly bundle: Bundle; readonly id: string }[],
): Promise<void> {
  const open = await manager.query<{ messageId: string; paperId: string; recipients: string }[]>(
    `SELECT c.messageId, c.paperId, m.recipients FROM enclosure c JOIN message m ON m.id = c.messageId
     WHERE c.paperId IN (?) AND (c.noteId IS NULL OR c.noteId IN (?)) AND m.state IN ('refused', 'unconfirmed')
       AND c.settledBy IS NULL`,
    [sent.flatMap(({ bundle }) => bundle.papers.map(({ id }) => id)), sent[0]!.bundle.inWords],
  );
  for (const { messageId, paperId, recipients } of open) {
    const now = sent.filter(({ bundle }) => bundle.papers.some(({ id }) => id === paperId));
    const paper = now[0]!.bundle.papers.find(({ id }) => id === paperId)!;
    const entry = now[0]!.bundle.envelope.entries.find(({ id }) => id === paper.entryId)!;
    const reached = now.flatMap(({ bundle }) => bundle.envelope.to.map(({ address }) => addressKey(address)));
    const wanted = recipientsOf(cover.content, entry).to.map(({ address }) => addressKey(address));
    const missed = (JSON.parse(recipients) as string[])
      .map(addressKey)
      .filter((address) => wanted.includes(address) && !reached.includes(address));
    if (missed.length === 0)
      await manager.query('UPDATE enclosure SET settledBy = ? WHERE messageId = ? AND paperId = ?', [
        now[0]!.id,
        messageId,
        paperId,
      ]);
  }
}

/** What a message keeps of its envelope besides the addresses that it goes to. */
function kept(
  bundle: Bundle,
  messageId: string,
  { secrets, schoolId }: { readonly secrets: Secrets; readonly schoolId: string },
): KeptEnvelope {
  const { cover, language, envelope } = bundle;
  const { to, cc, bcc, replyTo } = envelope;
  const { from, along, files = [] } = cover.content;
  const passwords = passwordsOf(bundle, secrets, schoolId);
  return {
    names: to.map(({ name }) => name),
    cc: [...cc],
    bcc: [...bcc],
    replyTo,
    from: from?.trim() || null,
    language,
    ...(along ? { along } : {}),
    ...(files.length > 0 ? { files: files.map(({ asset, name }) => ({ asset, name })) } : {}),
    ...(passwords ? { lock: secrets.seal(JSON.stringify(passwords), lockOf(messageId)) } : {}),
  };
}

/** @throws Refusal where a family would get a message that leads nowhere: the link may stand in a part that is not for everybody. */
function expectLink({ text, papers }: Bundle): void {
  if (!text.includes(OWN_LINK))
    throw new Refusal(
      409,
      'link-unsaid',
      `The message about ${papers[0]!.learner} would leave without its private link: it stands nowhere in the text, or in a part that is not for everybody. Put it in at the station Note. Nothing was sent.`,
    );
}

/** With what each paper is opened, by its identity; null where none is locked. @throws Refusal where the note's password cannot be read. */
function passwordsOf(
  { cover, papers, envelope, columns }: Bundle,
  secrets: Secrets,
  schoolId: string,
): Record<string, string> | null {
  const { lock, along } = cover.content;
  if (!lock || along === 'nothing') return null;
  const word = 'sealed' in lock ? noteWord(secrets, schoolId, lock.sealed) : null;
  return Object.fromEntries(
    papers.map(({ id, entryId }) => {
      const entry = envelope.entries.find((one) => one.id === entryId)!;
      return [id, word ?? passwordOf(lock as { columnId: string }, entry, columns)];
    }),
  );
}

/** The one password of a note. @throws Refusal where it was sealed with another key, or by another school. */
export function noteWord(secrets: Secrets, schoolId: string, sealed: string): string {
  try {
    return secrets.open(sealed, wordOf(schoolId));
  } catch {
    throw new Refusal(
      409,
      'password-unknown',
      'The password of the cover note cannot be read any more. Type it again at the station Note.',
    );
  }
}

/** The words by which a message is found: learners, and addresses that it goes to. */
const soughtIn = ({ papers, envelope: { to, cc, bcc } }: Bundle): string =>
  soughtWords(
    [
      ...new Set(papers.map(({ learner }) => learner)),
      ...[...to, ...cc, ...bcc].map(({ address }) => address),
    ].join(' '),
  )
    .join(' ')
    .slice(0, 300);
