import { z } from 'zod';
import { Id, Instant } from './common.js';

/**
 * How the practice post behaves: it takes all, refuses all, is slow, takes each message at the second try only, hangs up once it has the
 * text, shows a certificate that nobody believes, or takes all and sends it back.
 */
export const PracticeMood = z.enum(['well', 'refuse', 'slow', 'greylist', 'drop', 'bad-tls', 'return']);
export type PracticeMood = z.infer<typeof PracticeMood>;
export const PracticeManner = z.object({ mood: PracticeMood }).meta({ id: 'PracticeManner' });
export type PracticeManner = z.infer<typeof PracticeManner>;

export const Mailboxes = z
  .object({
    mailboxes: z.array(
      z.object({
        address: z.string(),
        /** Whom the messages in it are about. */
        learners: z.array(z.string()),
        messages: z.number().int(),
        latestAt: Instant,
      }),
    ),
    mood: PracticeMood,
  })
  .meta({ id: 'Mailboxes' });
export type Mailboxes = z.infer<typeof Mailboxes>;

export const MailLine = z.object({
  id: Id,
  from: z.string(),
  subject: z.string(),
  receivedAt: Instant,
  attachments: z.number().int(),
});
export const MailList = z.object({ messages: z.array(MailLine) }).meta({ id: 'MailList' });
export type MailList = z.infer<typeof MailList>;

export const Mail = MailLine.extend({
  to: z.string(),
  text: z.string(),
  hasHtml: z.boolean(),
  files: z.array(
    z.object({ index: z.number().int(), name: z.string(), mime: z.string(), bytes: z.number().int() }),
  ),
}).meta({ id: 'Mail' });
export type Mail = z.infer<typeof Mail>;
