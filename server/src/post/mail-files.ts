import nodemailer from 'nodemailer';
import type { DataSource } from 'typeorm';
import { notFound, Refusal } from '../refusal.js';
import { isDatabaseAway } from '../store/database-away.js';
import { messageWithFiles } from './message-claims.js';
import { outgoing } from './outgoing.js';
import { mailOf } from './transport.js';
import { FileGone, type Enclosing } from './enclosing.js';
import type { Ways } from './ways.js';

/** Messages of one file. */
export const MESSAGES_MOST = 5_000;

const composer = nodemailer.createTransport({
  streamTransport: true,
  buffer: true,
  newline: 'windows',
  disableFileAccess: true,
  disableUrlAccess: true,
} as never);

export interface MailFilesParts {
  readonly database: DataSource;
  readonly enclosing: Enclosing;
  readonly ways: Ways;
}

/**
 * A message as it leaves (RFC 5322), with lines that end in CR and LF. Blind copies are not told in it.
 *
 * @throws Refusal `not-found`; `paper-gone` where its paper is not there any more.
 */
export async function messageFile(
  { database, enclosing, ways }: MailFilesParts,
  schoolId: string,
  messageId: string,
): Promise<{ readonly subject: string; readonly bytes: Buffer }> {
  const due = await messageWithFiles(database.manager, schoolId, messageId);
  if (!due) throw notFound('This message');
  const files = await enclosing.all(database.manager, due).catch((error: unknown) => {
    throw error instanceof FileGone ? new Refusal(410, 'paper-gone', error.message) : error;
  });
  const way = await ways.senderOf(schoolId, due.message.accountId);
  const { bcc: _, ...mail } = mailOf(outgoing(due.message, way, files));
  const info = (await composer.sendMail(mail)) as unknown as { message: Buffer };
  return { subject: due.message.subject, bytes: info.message };
}

/**
 * A folio's messages as one file (RFC 4155), the oldest first: each behind a line that begins with `From `, with lines of their own that
 * begin so marked with `>`.
 */
export async function* folioMail(
  parts: MailFilesParts,
  schoolId: string,
  folioId: string,
): AsyncGenerator<Buffer> {
  const rows = await parts.database.manager.query<{ id: string; at: Date }[]>(
    'SELECT id, COALESCE(sentAt, queuedAt) AS at FROM message WHERE schoolId = ? AND folioId = ? ORDER BY at, id LIMIT ?',
    [schoolId, folioId, MESSAGES_MOST],
  );
  for (const { id, at } of rows) {
    try {
      const { bytes } = await messageFile(parts, schoolId, id);
      yield mboxEntry(bytes, at);
    } catch (error) {
      // One whose paper is gone keeps the others from nobody.
      if (isDatabaseAway(error) || !(error instanceof Refusal)) throw error;
    }
  }
}

/** @param at when it was delivered, told as C's `asctime` in UTC does. */
export function mboxEntry(bytes: Buffer, at: Date): Buffer {
  const text = bytes
    .toString('latin1')
    .replace(/\r\n/g, '\n')
    .replace(/^(>*From )/gm, '>$1');
  return Buffer.from(`From MAILER-DAEMON ${asctime(at)}\n${text.replace(/\n*$/, '\n')}\n`, 'latin1');
}

function asctime(at: Date): string {
  const [, day, date, month, year, time] = /^(\w{3}), (\d\d) (\w{3}) (\d{4}) ([\d:]+)/.exec(
    at.toUTCString(),
  )!;
  return `${day} ${month} ${date!.replace(/^0/, ' ')} ${time} ${year}`;
}
