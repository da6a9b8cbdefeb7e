import { newId } from '../store/id.js';

/** A message that comes back, as a mail server reports it (RFC 3464), with the head of the message (RFC 6522). */
export function deliveryReport({
  raw,
  sender,
  recipient,
  status,
  diagnostic,
  at,
}: {
  readonly raw: Buffer;
  readonly sender: string;
  readonly recipient: string;
  readonly status: string;
  readonly diagnostic: string;
  readonly at: Date;
}): Buffer {
  const text = raw.toString('latin1');
  const head = text.slice(0, text.indexOf('\r\n\r\n') + 2);
  const boundary = `report-${newId()}`;
  const lines = [
    'From: Mail delivery <mailer-daemon@practice-post.example>',
    `To: <${sender}>`,
    `Date: ${at.toUTCString().replace('GMT', '+0000')}`,
    `Message-ID: <${newId()}@practice-post.example>`,
    'Subject: Undelivered mail returned to sender',
    'Auto-Submitted: auto-replied',
    'MIME-Version: 1.0',
    `Content-Type: multipart/report; report-type=delivery-status; boundary="${boundary}"`,
    '',
    `--${boundary}`,
    'Content-Type: text/plain; charset=utf-8',
    '',
    `This message could not be delivered to ${recipient}: ${diagnostic}`,
    '',
    `--${boundary}`,
    'Content-Type: message/delivery-status',
    '',
    'Reporting-MTA: dns; practice-post.example',
    '',
    `Final-Recipient: rfc822; ${recipient}`,
    'Action: failed',
    `Status: ${status}`,
    `Diagnostic-Code: smtp; ${diagnostic}`,
    '',
    `--${boundary}`,
    'Content-Type: text/rfc822-headers',
    '',
    head,
    `--${boundary}--`,
    '',
  ];
  return Buffer.from(lines.join('\r\n'), 'latin1');
}
