import { Transform, type TransformCallback } from 'node:stream';
import nodemailer from 'nodemailer';

/** A message as it is handed to the mail server. */
export interface OutgoingMessage {
  /** With angle brackets. */
  readonly messageId: string;
  readonly from: { name: string; address: string };
  readonly to: string;
  readonly subject: string;
  readonly text: string;
  readonly html: string;
  readonly date: Date;
  readonly files: readonly { name: string; bytes: Buffer }[];
}

/**
 * What became of handing a message over. `refused`: the server said no for good (RFC 5321 4.2.1, 5yz). `deferred`: it
 * said not now (4yz), or the message never got under way. `unconfirmed`: it was under way and no answer came.
 */
export type Delivery =
  | { readonly state: 'sent'; readonly answer: string }
  | { readonly state: 'refused' | 'deferred' | 'unconfirmed'; readonly answer: string };

/** Connections to one mail server that stay open between messages. */
export class MailTransport {
  private readonly transporter;
  /** Message-IDs whose text has begun to leave. */
  private readonly underWay = new Set<string>();

  constructor(url: string, connections = 2) {
    this.transporter = nodemailer.createTransport({
      url,
      pool: true,
      maxConnections: connections,
      maxMessages: Infinity,
      connectionTimeout: 15_000,
      greetingTimeout: 15_000,
      socketTimeout: 60_000,
      disableFileAccess: true,
      disableUrlAccess: true,
    } as never);
    this.transporter.use('stream', (mail, next) => {
      const mark = (): void => void this.underWay.add(mail.message.messageId());
      mail.message.transform(() => new FirstByte(mark));
      next();
    });
  }

  async deliver(message: OutgoingMessage): Promise<Delivery> {
    try {
      const info = await this.transporter.sendMail({
        messageId: message.messageId,
        from: message.from,
        to: { name: '', address: message.to },
        subject: message.subject,
        text: message.text,
        html: message.html,
        date: message.date,
        headers: { 'Auto-Submitted': 'auto-generated' },
        attachments: message.files.map(({ name, bytes }) => ({
          filename: name,
          content: bytes,
          contentType: 'application/pdf',
        })),
      });
      return { state: 'sent', answer: String((info as { response?: string }).response ?? '') };
    } catch (error) {
      return this.judge(error as SmtpError, message.messageId);
    } finally {
      this.underWay.delete(message.messageId);
    }
  }

  private judge(error: SmtpError, messageId: string): Delivery {
    const answer = (error.response ?? error.message).slice(0, 1000);
    if (error.responseCode && error.responseCode >= 500) return { state: 'refused', answer };
    if (error.responseCode && error.responseCode >= 400) return { state: 'deferred', answer };
    return { state: this.underWay.has(messageId) ? 'unconfirmed' : 'deferred', answer };
  }

  close(): void {
    this.transporter.close();
  }
}

interface SmtpError extends Error {
  readonly code?: string;
  readonly response?: string;
  readonly responseCode?: number;
}

/** Passes everything on and says when the first byte came. */
class FirstByte extends Transform {
  constructor(private mark: (() => void) | null) {
    super();
  }

  override _transform(chunk: unknown, _encoding: BufferEncoding, done: TransformCallback): void {
    this.mark?.();
    this.mark = null;
    done(null, chunk);
  }
}
