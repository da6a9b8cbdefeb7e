import type { MailSecurity } from '@scriptum/core/contract';
import { isIP } from 'node:net';
import { Readable } from 'node:stream';
import { rootCertificates } from 'node:tls';
import { needsUtf8 } from '@scriptum/core/column';
import nodemailer, { type SendMailOptions } from 'nodemailer';
import { parseConnectionUrl } from 'nodemailer/lib/shared';
import SMTPConnection from 'nodemailer/lib/smtp-connection';

export interface MailPerson {
  readonly address: string;
  /** Blank where it is not known. */
  readonly name: string;
}

/** A message as it is handed to the mail server. */
export interface OutgoingMessage {
  /** With angle brackets. */
  readonly messageId: string;
  readonly from: { name: string; address: string };
  readonly to: readonly MailPerson[];
  readonly cc?: readonly MailPerson[];
  readonly bcc?: readonly MailPerson[];
  readonly replyTo?: MailPerson | null;
  /** BCP 47 (RFC 3282). */
  readonly language?: string | null;
  readonly subject: string;
  readonly text: string;
  readonly html: string;
  readonly date: Date;
  readonly files: readonly OutgoingFile[];
}

/** What goes along with a message. */
export interface OutgoingFile {
  readonly name: string;
  readonly bytes: Buffer;
  /** A PDF where nothing is said (RFC 2046). */
  readonly type?: string;
  /** Of a picture that stands in the text (RFC 2392). */
  readonly contentId?: string;
}

/**
 * What became of handing a message over. `refused`: the server said no to this recipient or this text for good (RFC 5321
 * 4.2.1, 5yz). `deferred`: it said not now (4yz). `unconfirmed`: the text was under way and no answer came. `fault`: it
 * did not come to this message at all, because the account, the sender or the way to the server is not right.
 */
export interface Delivery {
  readonly state: 'sent' | 'refused' | 'deferred' | 'unconfirmed' | 'fault';
  readonly answer: string;
  /** Of a message that was taken for some of its recipients: for whom it was not, and what the server said. */
  readonly notTaken?: string | null;
}

/** A mail server, and as whom messages are handed to it. */
export type MailServer =
  | { readonly url: string }
  | {
      /** An address, which is not looked up again; and the name that its certificate has to bear. */
      readonly address: string;
      readonly name: string;
      readonly port: number;
      readonly security: MailSecurity;
      readonly user: string;
      readonly password: string;
      /** Certificates of authorities that are believed besides the usual ones; PEM. */
      readonly authorities: string | null;
      readonly dkim: { readonly domain: string; readonly selector: string; readonly key: string } | null;
    };

/** As nodemailer wants it. Certificates are checked, and where STARTTLS is asked for nothing goes without it. */
export const optionsOf = (server: MailServer): object =>
  'url' in server
    ? server
    : {
        host: server.address,
        port: server.port,
        secure: server.security === 'tls',
        requireTLS: server.security === 'starttls',
        ignoreTLS: server.security === 'none',
        tls: {
          servername: isIP(server.name) ? '' : server.name,
          rejectUnauthorized: true,
          ...(server.authorities ? { ca: [...rootCertificates, server.authorities] } : {}),
        },
        ...(server.user ? { auth: { user: server.user, pass: server.password } } : {}),
        ...(server.dkim
          ? {
              dkim: {
                domainName: server.dkim.domain,
                keySelector: server.dkim.selector,
                privateKey: server.dkim.key,
              },
            }
          : {}),
      };

/** Connections to one mail server that stay open between messages. */
export class MailTransport {
  private readonly transporter;
  private readonly server: MailServer;
  /** Whether the server takes letters beyond ASCII before the `@`; asked for once somebody has some. */
  private utf8: Promise<boolean> | null = null;
  /** Message-IDs whose text has begun to leave. */
  private readonly underWay = new Set<string>();

  constructor(server: MailServer, connections = 2) {
    this.server = server;
    this.transporter = nodemailer.createTransport({
      ...optionsOf(server),
      pool: true,
      maxConnections: connections,
      maxMessages: Infinity,
      connectionTimeout: 15_000,
      greetingTimeout: 15_000,
      socketTimeout: 60_000,
      disableFileAccess: true,
      disableUrlAccess: true,
    } as never);
    this.transporter.use('stream', ({ message }, next) => {
      const begin = message.createReadStream.bind(message);
      // Read only once the server has said that it takes the text (RFC 5321 4.1.1.4, 354), so that what comes before
      // does not count as under way.
      message.createReadStream = (options) =>
        new Lazily(() => {
          this.underWay.add(message.messageId());
          return begin(options);
        }) as never;
      next();
    });
  }

  async deliver(message: OutgoingMessage): Promise<Delivery> {
    const beyond = [...message.to, ...(message.cc ?? []), ...(message.bcc ?? [])].find(({ address }) =>
      needsUtf8(address),
    );
    if (beyond && !(await (this.utf8 ??= takesUtf8(this.server))))
      return {
        state: 'refused',
        answer: `This mail server takes no letters such as in “${beyond.address}” before the @ (SMTPUTF8, RFC 6531). Ask the family for another address.`,
      };
    try {
      const info = await this.transporter.sendMail(mailOf(message));
      return { state: 'sent', answer: '', notTaken: notTaken(info as Partial<SentInfo>) };
    } catch (error) {
      return judge(error as SmtpError, this.underWay.has(message.messageId));
    } finally {
      this.underWay.delete(message.messageId);
    }
  }

  close(): void {
    this.transporter.close();
  }
}

/** Asks a mail server whether it takes addresses of RFC 6531. One that cannot be asked is told by the message itself. */
async function takesUtf8(server: MailServer): Promise<boolean> {
  const connection = new SMTPConnection(
    ('url' in server ? parseConnectionUrl(server.url) : optionsOf(server)) as never,
  );
  return new Promise((resolve) => {
    connection.once('error', () => resolve(true));
    connection.connect((error) => {
      resolve(error !== undefined || /^250[ -]SMTPUTF8\b/im.test(String(connection.lastServerResponse)));
      connection.quit();
    });
  });
}

/** A message as nodemailer wants it. */
export const mailOf = (message: OutgoingMessage): SendMailOptions => ({
  messageId: message.messageId,
  from: plain(message.from),
  to: message.to.map(plain),
  ...(message.cc?.length ? { cc: message.cc.map(plain) } : {}),
  ...(message.bcc?.length ? { bcc: message.bcc.map(plain) } : {}),
  ...(message.replyTo ? { replyTo: plain(message.replyTo) } : {}),
  subject: message.subject,
  text: message.text,
  html: message.html,
  date: message.date,
  headers: {
    'Auto-Submitted': 'auto-generated',
    ...(message.language ? { 'Content-Language': message.language } : {}),
  },
  attachments: message.files.map(({ name, bytes, type = 'application/pdf', contentId }) => ({
    filename: name,
    content: bytes,
    contentType: type,
    ...(contentId ? { cid: contentId, contentDisposition: 'inline' as const } : {}),
  })),
});

/** What a name must not bring along: whatever ends a line, and signs that turn the direction of what follows. */
const plain = ({ address, name }: MailPerson): MailPerson => ({
  address,
  name: name
    .replace(/[\p{Cc}\u2028\u2029\u200e\u200f\u061c\u202a-\u202e\u2066-\u2069]+/gu, ' ')
    .replace(/\s+/g, ' ')
    .trim()
    .slice(0, 200),
});

interface SentInfo {
  readonly rejectedErrors: readonly (SmtpError & { readonly recipient?: string })[];
}

/** RFC 5321, 3.3: each recipient is answered by itself, and the text goes to those who were taken. */
function notTaken({ rejectedErrors = [] }: Partial<SentInfo>): string | null {
  if (rejectedErrors.length === 0) return null;
  return rejectedErrors
    .map(({ recipient, response, message }) => `${recipient ?? 'One address'}: ${response ?? message}`)
    .join(' ')
    .slice(0, 1000);
}

/** A stream that begins another one when it is first read, and gives all of it at once: one write to the socket. */
class Lazily extends Readable {
  constructor(private readonly begin: () => Readable) {
    super();
  }

  override _read(): void {
    const parts: Buffer[] = [];
    this.begin()
      .on('data', (part: Buffer) => parts.push(part))
      .on('end', () => {
        this.push(Buffer.concat(parts));
        this.push(null);
      })
      .on('error', (error) => this.destroy(error));
  }
}

interface SmtpError extends Error {
  readonly code?: string;
  readonly response?: string;
  readonly responseCode?: number;
  /** The command that was answered: `CONN`, `EHLO`, `AUTH PLAIN`, `MAIL FROM`, `RCPT TO`, `DATA`. */
  readonly command?: string;
}

/** Which of a server's answers are about this message, and which about everything this account sends. */
function judge(error: SmtpError, underWay: boolean): Delivery {
  const answer = (error.response ?? error.message).slice(0, 1000);
  const code = error.responseCode ?? 0;
  if (underWay) {
    if (code >= 500) return { state: 'refused', answer };
    if (code >= 400) return { state: 'deferred', answer };
    return { state: 'unconfirmed', answer };
  }
  const ofMessage =
    error.command === 'RCPT TO' ||
    error.command === 'DATA' ||
    error.code === 'EMESSAGE' ||
    // RFC 1870 6.1: the message is too large for the server, said at MAIL already.
    (error.command === 'MAIL FROM' && code === 552);
  if (ofMessage && code >= 500) return { state: 'refused', answer };
  if (ofMessage && code >= 400 && code !== 421) return { state: 'deferred', answer };
  // An address that the mailer itself finds wrong never reaches the server.
  if (error.code === 'EENVELOPE' && code === 0 && !/sender/i.test(answer))
    return { state: 'refused', answer };
  return { state: 'fault', answer };
}
