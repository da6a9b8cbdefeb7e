import { answerKey, rightAnswer, type Envelope } from '@scriptum/core/note';
import { dayBegins } from '@scriptum/core/time';
import type { Column } from '@scriptum/core/column';
import type { CoverNote } from '@scriptum/core/template';
import { createHmac, randomBytes, timingSafeEqual } from 'node:crypto';
import type { DataSource, EntityManager } from 'typeorm';
import { notFound } from '../refusal.js';
import { sha256 } from '../store/blobs.js';
import { PrivateLinkRow, type Asked } from '../store/entities/private-link.js';
import { inTransaction } from '../store/in-transaction.js';
import { stateOf, WRONG_MOST, type LinkState } from '../store/link-state.js';
import { changeMessages } from './message-claims.js';

/** Milliseconds for which papers can be opened after what was asked was answered. */
const PASS_FOR = 2 * 60 * 60_000;

/** 256 bits of chance (RFC 4086), as they stand in an address. */
export const newToken = (): string => randomBytes(32).toString('base64url');

const DAY_MS = 24 * 60 * 60_000;

/** When a link ends that works up to the end of a day. */
export const endOf = (day: string, timeZone: string): Date => {
  const next = new Date(Date.parse(`${day}T00:00:00Z`) + DAY_MS).toISOString().slice(0, 10);
  return dayBegins(next, timeZone);
};

/** A link as it is kept: what makes it unguessable is not. */
export function linkRow(
  {
    token,
    ends,
    timeZone,
    ...place
  }: { messageId: string; schoolId: string; folioId: string; token: string; ends: string; timeZone: string },
  note: CoverNote,
  envelope: Pick<Envelope, 'entries'>,
  columns: readonly Column[],
): PrivateLinkRow {
  const secret = randomBytes(32).toString('hex');
  const asked = columns.find(({ id }) => id === note.link?.askId);
  return Object.assign(new PrivateLinkRow(), {
    ...place,
    tokenHash: sha256(token),
    secret,
    ends,
    endsAt: endOf(ends, timeZone),
    ask: asked ? askOf(asked, envelope, secret, columns) : null,
    wrong: 0,
    opens: 0,
  });
}

function askOf(
  column: Column,
  { entries }: Pick<Envelope, 'entries'>,
  secret: string,
  columns: readonly Column[],
): Asked {
  const right = entries.map((entry) => rightAnswer(column.id, entry, columns)).filter(Boolean);
  return {
    title: column.title,
    isDay: column.type === 'date',
    answers: [...new Set(right)].map((answer) => keyed(secret, `answer ${answer}`)),
  };
}

const keyed = (secret: string, text: string): string =>
  createHmac('sha256', secret).update(text).digest('hex');

const same = (a: string, b: string): boolean =>
  a.length === b.length && timingSafeEqual(Buffer.from(a), Buffer.from(b));

/** The link that a token is of; null for one that never was. */
export async function findLink(manager: EntityManager, token: string): Promise<PrivateLinkRow | null> {
  if (!/^[\w-]{43}$/.test(token)) return null;
  return manager.findOne(PrivateLinkRow, {
    where: { tokenHash: sha256(token) },
    select: COLUMNS,
  });
}

const COLUMNS = {
  messageId: true,
  schoolId: true,
  folioId: true,
  tokenHash: true,
  secret: true,
  endsAt: true,
  ends: true,
  ask: true,
  wrong: true,
  withdrawnAt: true,
  openedAt: true,
  opens: true,
} as const;

/**
 * Opens a link: counts it, where nothing is asked or the answer is right, else counts the wrong answer. A wrong answer is counted before
 * it is compared, so that many at once are no more than the limit.
 *
 * @returns how it stands, whether the papers may be seen, and how many wrong answers it still takes.
 */
export async function openLink(
  database: DataSource,
  link: PrivateLinkRow,
  answer: string,
): Promise<{ readonly state: LinkState; readonly open: boolean; readonly left: number }> {
  const state = stateOf(link);
  if (state !== 'works') return { state, open: false, left: 0 };
  const { manager } = database;
  const { messageId, ask, secret } = link;
  if (ask) {
    const wrong = await countTry(database, messageId);
    if (wrong === null) return { state: 'closed', open: false, left: 0 };
    const given = keyed(secret, `answer ${answerKey(answer, ask.isDay)}`);
    if (!ask.answers.some((right) => same(right, given))) {
      const left = WRONG_MOST - wrong;
      return { state: left > 0 ? 'works' : 'closed', open: false, left };
    }
  }
  const counted = (inside: EntityManager): Promise<unknown> =>
    inside.query(
      `UPDATE private_link SET wrong = 0, opens = opens + 1, openedAt = COALESCE(openedAt, UTC_TIMESTAMP(3)), lastOpenedAt = UTC_TIMESTAMP(3)
       WHERE messageId = ?`,
      [messageId],
    );
  // The register tells that it was opened, not how often.
  if (link.openedAt) await counted(manager);
  else await changeMessages(database, [messageId], counted);
  return { state: 'works', open: true, left: WRONG_MOST };
}

/** Counts an answer as wrong, until it is known to be right. @returns how many there are with it; null where no more is taken. */
const countTry = (database: DataSource, messageId: string): Promise<number | null> =>
  inTransaction(database, async (manager) => {
    const [row] = await manager.query<{ wrong: number }[]>(
      'SELECT wrong FROM private_link WHERE messageId = ? FOR UPDATE',
      [messageId],
    );
    if (!row || row.wrong >= WRONG_MOST) return null;
    await manager.query('UPDATE private_link SET wrong = wrong + 1 WHERE messageId = ?', [messageId]);
    return row.wrong + 1;
  });

/** What shows for a while that somebody has opened a link. */
export function passFor({ secret }: PrivateLinkRow, now = Date.now()): { value: string; maxAge: number } {
  const until = now + PASS_FOR;
  return { value: `${until}.${keyed(secret, `pass ${until}`)}`, maxAge: PASS_FOR };
}

export function isPass({ secret }: PrivateLinkRow, pass: unknown, now = Date.now()): boolean {
  if (typeof pass !== 'string') return false;
  const [until = '', sign = ''] = pass.split('.');
  return Number(until) > now && same(sign, keyed(secret, `pass ${until}`));
}

/** What somebody of the school can do with a link. */
export type LinkChange =
  { readonly do: 'withdraw' | 'allow' } | { readonly do: 'lengthen'; readonly ends: string };

/** @throws Refusal `not-found` */
export async function changeLink(
  manager: EntityManager,
  {
    schoolId,
    folioId,
    messageId,
    staffId,
    timeZone,
  }: { schoolId: string; folioId: string; messageId: string; staffId: string | null; timeZone: string },
  change: LinkChange,
): Promise<void> {
  const link = await manager.findOneBy(PrivateLinkRow, { messageId, schoolId, folioId });
  if (!link) throw notFound('This link');
  const set =
    change.do === 'lengthen'
      ? { ends: change.ends, endsAt: endOf(change.ends, timeZone) }
      : change.do === 'withdraw'
        ? { withdrawnAt: link.withdrawnAt ?? new Date(), withdrawnBy: link.withdrawnBy ?? staffId }
        : { withdrawnAt: null, withdrawnBy: null, wrong: 0 };
  await manager.update(PrivateLinkRow, { messageId, schoolId }, set);
}
