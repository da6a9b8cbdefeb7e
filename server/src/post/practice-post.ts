import { randomBytes } from 'node:crypto';
import type { PracticeMood } from '@scriptum/core/contract';
import type { AddressInfo, Socket } from 'node:net';
import { simpleParser, type ParsedMail } from 'mailparser';
import type { Logger } from 'pino';
import { generate } from 'selfsigned';
import {
  SMTPServer,
  type SMTPServerDataStream,
  type SMTPServerOptions,
  type SMTPServerSession,
} from 'smtp-server';
import type { DataSource } from 'typeorm';
import { isDatabaseAway, isDiskFull } from '../store/database-away.js';
import { PracticeMailRow } from '../store/entities/register.js';
import { School } from '../store/entities/people.js';
import { PracticeMoodRow } from '../store/entities/post.js';
import { newId } from '../store/id.js';
import { deliveryReport } from './delivery-report.js';

const MOST_BYTES = 30 * 1024 * 1024;

/** Milliseconds for which it thinks about a message where it is slow. */
const SLOW = 6_000;
/** Milliseconds after which a message comes back. */
const RETURNS_AFTER = 1_000;
/** Messages that it remembers to have put off. */
const PUT_OFF_MOST = 10_000;

/**
 * A mail server for practice: it speaks SMTP (RFC 5321) on loopback, keeps what it gets, and never passes anything on.
 * A school signs in with its identity, so that each sees its own mailboxes only. Three domains try out what can go wrong:
 * addresses at `refuse.example` are refused for good, those at `later.example` for now, and what goes to `return.example` comes
 * back; and a school can let it misbehave for all of them.
 */
export class PracticePost {
  private readonly password = randomBytes(24).toString('base64url');
  private readonly server: SMTPServer;
  /** Shows a certificate that nobody believes; not there until somebody wants to see one. */
  private untrusted: Promise<SMTPServer> | null = null;
  /** What was put off once, to be taken at the second try. */
  private readonly putOff = new Set<string>();
  /** Told of a message that comes back to a school. */
  returned: (schoolId: string, report: Buffer) => Promise<void> = async () => undefined;

  constructor(
    private readonly database: DataSource,
    private readonly log: Logger,
  ) {
    this.server = this.make({ hideSTARTTLS: true });
  }

  private make(more: SMTPServerOptions): SMTPServer {
    const server: SMTPServer = new SMTPServer({
      name: 'practice-post.example',
      banner: 'Practice post',
      size: MOST_BYTES,
      allowInsecureAuth: true,
      authMethods: ['PLAIN', 'LOGIN'],
      disableReverseLookup: true,
      // Milliseconds that connections get to say goodbye.
      closeTimeout: 500,
      ...more,
      onAuth: (auth, _session, done) => {
        this.signIn(auth.username ?? '', auth.password ?? '').then(
          (schoolId) => (schoolId ? done(null, { user: schoolId }) : done(new Error('535 Sign-in failed'))),
          (error: unknown) => done(forNow(error, 454)),
        );
      },
      onRcptTo: ({ address }, session, done) => {
        this.takesFor(schoolOf(session), address).then(
          () => done(),
          (error: unknown) => done(forNow(error, 451)),
        );
      },
      onData: (stream, session, done) => {
        this.keep(stream, session).then(
          (hangsUp) => {
            if (!hangsUp) return done();
            for (const connection of server.connections as Set<Connection>)
              if (connection.id === session.id) connection._socket.destroy();
          },
          (error: unknown) => done(forNow(error, 451)),
        );
      },
    });
    server.on('error', (error) =>
      this.log.warn({ code: (error as NodeJS.ErrnoException).code }, 'practice post connection error'),
    );
    return server;
  }

  /** Starts to listen on loopback; port 0 takes a free one. */
  async listen(port: number): Promise<void> {
    await open(this.server, port);
  }

  /** Where one school's mail is handed over, and a number that is another one where that is elsewhere. */
  async wayFor(schoolId: string): Promise<{ readonly url: string; readonly version: number }> {
    const who = `${schoolId}:${this.password}`;
    if ((await this.moodOf(schoolId)) !== 'bad-tls')
      return { url: `smtp://${who}@127.0.0.1:${portOf(this.server)}`, version: 1 };
    this.untrusted ??= this.openUntrusted();
    return { url: `smtp://${who}@localhost:${portOf(await this.untrusted)}?requireTLS=true`, version: 2 };
  }

  private async openUntrusted(): Promise<SMTPServer> {
    const { private: key, cert } = await generate([{ name: 'commonName', value: 'practice-post.example' }]);
    const server = this.make({ key, cert });
    await open(server, 0);
    return server;
  }

  async moodOf(schoolId: string): Promise<PracticeMood> {
    return (await this.database.manager.findOneBy(PracticeMoodRow, { schoolId }))?.mood ?? 'well';
  }

  async setMood(schoolId: string, mood: PracticeMood): Promise<void> {
    await this.database.manager.upsert(PracticeMoodRow, { schoolId, mood }, ['schoolId']);
  }

  async close(): Promise<void> {
    for (const one of [this.server, await this.untrusted])
      if (one?.server.listening) await new Promise<void>((resolve) => one.close(() => resolve()));
  }

  /** @throws what is answered where it is not taken. */
  private async takesFor(schoolId: string, address: string): Promise<void> {
    const domain = address.split('@').at(-1)?.toLowerCase();
    const mood = await this.moodOf(schoolId);
    if (domain === 'refuse.example' || mood === 'refuse') throw answer(550, '5.1.1 No such mailbox here');
    if (domain === 'later.example') throw answer(451, '4.3.2 Mailbox busy, try again later');
    if (mood !== 'greylist') return;
    const key = `${schoolId} ${address.toLowerCase()}`;
    if (this.putOff.delete(key)) return;
    if (this.putOff.size >= PUT_OFF_MOST) this.putOff.clear();
    this.putOff.add(key);
    throw answer(451, '4.7.1 Greylisted, please try again in a while');
  }

  private async signIn(user: string, password: string): Promise<string | null> {
    if (password !== this.password) return null;
    return (await this.database.manager.existsBy(School, { id: user })) ? user : null;
  }

  /** @returns true where it hangs up instead of saying that it was taken. */
  private async keep(stream: SMTPServerDataStream, session: SMTPServerSession): Promise<boolean> {
    const chunks: Buffer[] = [];
    for await (const chunk of stream) chunks.push(chunk as Buffer);
    if (stream.sizeExceeded) throw answer(552, 'Message too large');
    const raw = Buffer.concat(chunks);
    const mail = await simpleParser(raw, { skipHtmlToText: true, skipTextToHtml: true, skipTextLinks: true });
    const schoolId = schoolOf(session);
    const mood = await this.moodOf(schoolId);
    if (mood === 'slow') await new Promise((resolve) => setTimeout(resolve, SLOW));
    const { mailFrom, rcptTo } = session.envelope;
    const sender = mailFrom ? mailFrom.address : '';
    const at = new Date();
    const row = (mailbox: string, of: ParsedMail, bytes: Buffer) => ({
      id: newId(),
      schoolId,
      mailbox: mailbox.toLowerCase().slice(0, 320),
      sender: (of.from?.text ?? sender).slice(0, 320),
      subject: (of.subject ?? '').slice(0, 1000),
      messageId: (of.messageId ?? '').slice(0, 300),
      attachments: of.attachments.length,
      raw: bytes,
      receivedAt: at,
    });
    const back = rcptTo.filter(
      ({ address }) => mood === 'return' || address.toLowerCase().endsWith('@return.example'),
    );
    const reports = (sender ? back : []).map(({ address }) =>
      deliveryReport({
        raw,
        sender,
        recipient: address,
        status: '5.1.1',
        diagnostic: '550 5.1.1 No such mailbox here',
        at,
      }),
    );
    try {
      // At once, so that what is sent again after a failure stands here once.
      await this.database.manager.insert(PracticeMailRow, [
        ...rcptTo.flatMap((one) => (back.includes(one) ? [] : [row(one.address, mail, raw)])),
        ...(await Promise.all(
          reports.map(async (report) => row(sender, await simpleParser(report), report)),
        )),
      ]);
    } catch (error) {
      // Whether it was kept nobody knows then, so nothing is said of it.
      if (isDatabaseAway(error) && !isDiskFull(error)) return true;
      throw error;
    }
    // By their own way, after the message was taken, as reports come.
    for (const report of reports)
      setTimeout(() => {
        this.returned(schoolId, report).catch((error: unknown) =>
          this.log.warn({ err: error }, 'a report of the practice post could not be taken in'),
        );
      }, RETURNS_AFTER).unref();
    return mood === 'drop';
  }
}

const schoolOf = (session: SMTPServerSession): string => session.user as unknown as string;

const portOf = (server: SMTPServer): number => (server.server.address() as AddressInfo).port;

async function open(server: SMTPServer, port: number): Promise<void> {
  await new Promise<void>((resolve, reject) => {
    server.server.once('error', reject);
    server.listen(port, '127.0.0.1', resolve);
  });
}

/** What of a connection of the package is needed to hang up. */
interface Connection {
  readonly id: string;
  readonly _socket: Socket;
}

function answer(responseCode: number, message: string): Error {
  return Object.assign(new Error(message), { responseCode });
}

/**
 * What is answered where something of its own went wrong: that it may go better later (RFC 5321, 4.2.3; RFC 4954, 6, for signing in),
 * never that the message is refused for good.
 */
function forNow(error: unknown, responseCode: 451 | 454): Error {
  if (error instanceof Error && 'responseCode' in error) return error;
  return isDiskFull(error)
    ? answer(452, '4.3.1 Not enough room here')
    : answer(responseCode, '4.3.0 Something is wrong here just now, please try again later');
}
