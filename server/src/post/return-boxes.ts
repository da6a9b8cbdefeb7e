import type { LookedForReturns } from '@scriptum/core/contract';
import { ImapFlow } from 'imapflow';
import { isIP } from 'node:net';
import { rootCertificates } from 'node:tls';
import type { Logger } from 'pino';
import type { DataSource } from 'typeorm';
import type { FolioEvents } from '../folio-events.js';
import { Refusal } from '../refusal.js';
import { isDatabaseAway } from '../store/database-away.js';
import { MailAccountRow } from '../store/entities/post.js';
import { recordHappening } from '../store/happenings.js';
import { HostRefused, IMAP_PORTS, type MailHosts } from './mail-hosts.js';
import { takeReturn } from './returns.js';
import { WrongKey, type Secrets } from './secrets.js';
import { secretOf } from './ways.js';

/** Seconds between two looks into one mailbox. */
const EVERY = 300;
/** Milliseconds between two rounds of this server. */
const ROUND = 30_000;
/** Milliseconds in which a mailbox has to be read. */
const TIME_LIMIT = 60_000;
/** Messages that are looked at in one look, and the latest of a mailbox that is new. */
const MESSAGES_MOST = 500;
/** Bytes of a report that are read. */
const REPORT_BYTES = 2 * 1024 * 1024;

/** What keeps a mailbox from being read; the message is a sentence for people. */
class BoxFault extends Error {
  override name = 'BoxFault';
}

export interface ReturnBoxesOptions {
  readonly hosts: MailHosts;
  readonly secrets: Secrets;
  /** PEM; null for the usual ones alone. */
  readonly authorities: string | null;
}

/**
 * Fetches reports of mail that came back from the mailboxes of accounts (IMAP4rev1, RFC 3501), every few minutes. Nothing in a mailbox is
 * changed: each message is looked at once, by its identity there. One of several servers does it.
 */
export class ReturnBoxes {
  private timer: NodeJS.Timeout | null = null;
  private working: Promise<void> | null = null;
  private closed = false;
  /** Mailboxes that are being read. */
  private readonly reading = new Set<ImapFlow>();

  constructor(
    private readonly database: DataSource,
    private readonly events: FolioEvents,
    private readonly log: Logger,
    private readonly options: ReturnBoxesOptions,
  ) {}

  open(): void {
    this.timer = setInterval(() => this.wake(), ROUND);
    this.timer.unref();
    this.wake();
  }

  async close(): Promise<void> {
    this.closed = true;
    if (this.timer) clearInterval(this.timer);
    // Nothing in them changes; the next look goes on where this one began.
    for (const client of this.reading) client.close();
    await this.working;
  }

  private wake(): void {
    this.working ??= this.round()
      .catch((error: unknown) => {
        if (!isDatabaseAway(error)) this.log.error({ err: error }, 'mailboxes could not be looked into');
      })
      .finally(() => {
        this.working = null;
      });
  }

  private async round(): Promise<void> {
    const due = await this.database.query<{ id: string; schoolId: string }[]>(
      `SELECT id, schoolId FROM mail_account WHERE returns IS NOT NULL
         AND COALESCE(returnsAt, changedAt) < UTC_TIMESTAMP(3) - INTERVAL ? SECOND ORDER BY returnsAt LIMIT 20`,
      [EVERY],
    );
    for (const { id, schoolId } of due) {
      if (this.closed) return;
      // Whoever sets it first looks.
      const { affectedRows } = await this.database.query<{ affectedRows: number }>(
        `UPDATE mail_account SET returnsAt = UTC_TIMESTAMP(3) WHERE id = ? AND returns IS NOT NULL
           AND COALESCE(returnsAt, changedAt) < UTC_TIMESTAMP(3) - INTERVAL ? SECOND`,
        [id, EVERY],
      );
      if (affectedRows > 0) await this.look(schoolId, id).catch(() => undefined);
    }
  }

  /**
   * Looks into the mailbox of an account now.
   *
   * @throws Refusal `box-fault` where it cannot be read; why stays with the account.
   */
  async look(schoolId: string, accountId: string): Promise<LookedForReturns> {
    const { manager } = this.database;
    const row = await manager.findOne(MailAccountRow, {
      where: { id: accountId, schoolId },
      select: { id: true, user: true, secret: true, returns: true, returnsSeen: true },
    });
    if (!row?.returns) throw new Refusal(409, 'no-box', 'No mailbox is set for mail that comes back.');
    try {
      const looked = await this.read(schoolId, row);
      await manager.update(MailAccountRow, { id: accountId }, { returnsAt: new Date(), returnsFault: null });
      return looked;
    } catch (error) {
      if (isDatabaseAway(error)) throw error;
      const says = sayFault(error).slice(0, 1000);
      await manager.update(MailAccountRow, { id: accountId }, { returnsAt: new Date(), returnsFault: says });
      throw new Refusal(502, 'box-fault', says);
    }
  }

  private async read(schoolId: string, row: MailAccountRow): Promise<LookedForReturns> {
    const { host, port, security, folder } = row.returns!;
    const { hosts, secrets, authorities } = this.options;
    const { address, name } = await hosts.addressOf(host, port, IMAP_PORTS);
    const client = new ImapFlow({
      host: address,
      port,
      secure: security === 'tls',
      ...(security === 'tls' ? {} : { doSTARTTLS: security === 'starttls' }),
      servername: isIP(name) ? '' : name,
      tls: {
        rejectUnauthorized: true,
        ...(authorities ? { ca: [...rootCertificates, authorities] } : {}),
      },
      auth: {
        user: row.user,
        pass: row.secret ? secrets.open(row.secret, secretOf(row.id, 'password')) : '',
      },
      logger: false,
      disableAutoIdle: true,
      connectionTimeout: 15_000,
      greetingTimeout: 15_000,
      socketTimeout: 30_000,
    } as never);
    // What goes wrong is told by what was waited for.
    client.on('error', () => undefined);
    this.reading.add(client);
    const late = setTimeout(() => client.close(), TIME_LIMIT);
    try {
      const lock = await told(async () => {
        await client.connect();
        return client.getMailboxLock(folder, { readOnly: true } as never);
      });
      try {
        return await this.readFolder(schoolId, row, client);
      } finally {
        lock.release();
      }
    } finally {
      clearTimeout(late);
      this.reading.delete(client);
      client.close();
    }
  }

  private async readFolder(
    schoolId: string,
    row: MailAccountRow,
    client: ImapFlow,
  ): Promise<LookedForReturns> {
    const box = client.mailbox;
    if (!box) throw new BoxFault('The mailbox was closed while it was read. It is tried again.');
    const validity = String(box.uidValidity);
    const seen = row.returnsSeen?.validity === validity ? row.returnsSeen.uid : null;
    const from = Math.max(1, seen === null ? box.uidNext - MESSAGES_MOST : seen + 1);
    const looked = { messages: 0, marked: 0, known: 0, strange: 0 };
    if (from >= box.uidNext) return looked;
    const found: { uid: number; size: number; isReport: boolean }[] = [];
    const range = `${from}:${Math.min(box.uidNext - 1, from + MESSAGES_MOST - 1)}`;
    await told(async () => {
      for await (const one of client.fetch(
        range,
        { uid: true, size: true, headers: ['content-type'] },
        { uid: true },
      ))
        found.push({
          uid: one.uid,
          size: one.size ?? 0,
          isReport: /multipart\/report/i.test(one.headers?.toString('latin1') ?? ''),
        });
    });
    const folios = new Set<string>();
    for (const { uid, size, isReport } of found.sort((a, b) => a.uid - b.uid)) {
      looked.messages++;
      if (!isReport || size > REPORT_BYTES) continue;
      const message = await told(() => client.fetchOne(String(uid), { source: true }, { uid: true }));
      if (!message || !message.source) continue;
      const taken = await takeReturn(this.database, schoolId, message.source);
      if (taken.kind === 'no report') continue;
      looked[taken.kind]++;
      if (taken.kind === 'marked') folios.add(taken.folioId);
    }
    const last = Math.min(box.uidNext - 1, from + MESSAGES_MOST - 1);
    await this.database.manager.update(
      MailAccountRow,
      { id: row.id },
      { returnsSeen: { validity, uid: last } },
    );
    for (const folioId of folios) {
      await recordHappening(this.database.manager, {
        schoolId,
        staffId: null,
        folioId,
        kind: 'mail-returned',
      });
      this.events.tell(folioId, { kind: 'dispatch' });
    }
    return looked;
  }
}

/** What goes wrong on the line to the mail server is not taken for the database's. @throws BoxFault */
async function told<T>(work: () => Promise<T>): Promise<T> {
  try {
    return await work();
  } catch (error) {
    throw new BoxFault(sayFault(error));
  }
}

interface ImapError extends Error {
  readonly authenticationFailed?: boolean;
  readonly responseText?: string;
  readonly mailboxMissing?: boolean;
  readonly code?: string;
}

/** Why a mailbox could not be read, in a sentence. */
function sayFault(error: unknown): string {
  if (error instanceof HostRefused || error instanceof WrongKey || error instanceof BoxFault)
    return error.message;
  const { authenticationFailed, responseText, mailboxMissing, code, message } = error as ImapError;
  const said = responseText ? `: “${responseText}”` : '';
  if (authenticationFailed) return `The mail server does not take the user or the password${said}.`;
  if (mailboxMissing) return `There is no such folder in the mailbox${said}.`;
  if (code === 'ECONNREFUSED') return 'Nothing answers at this server and port.';
  if (/certificate|self.signed|altname/i.test(`${code ?? ''} ${message}`))
    return `The server’s certificate is not right (${message}), so no password was sent there.`;
  if (code === 'NoConnection' || code === 'EConnectionClosed' || /timeout/i.test(`${code ?? ''} ${message}`))
    return `The mail server hung up, or took too long${said}.`;
  return `The mailbox could not be read${said || ` (${message})`}.`;
}
