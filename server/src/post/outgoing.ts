import type { DueMessage } from './message-claims.js';
import type { OutgoingMessage } from './transport.js';
import type { Way } from './ways.js';

/** A kept message as it is handed over. */
export const outgoing = (
  message: DueMessage,
  way: Pick<Way, 'school' | 'address'>,
  files: OutgoingMessage['files'],
): OutgoingMessage => ({
  messageId: message.messageId,
  from: { name: message.envelope?.from ?? way.school, address: way.address },
  to: message.recipients.map((address, n) => ({ address, name: message.envelope?.names[n] ?? '' })),
  cc: message.envelope?.cc ?? [],
  bcc: message.envelope?.bcc ?? [],
  replyTo: message.envelope?.replyTo ?? null,
  language: message.envelope?.language ?? null,
  subject: message.subject,
  text: message.text,
  html: message.html,
  date: message.queuedAt,
  files,
});
