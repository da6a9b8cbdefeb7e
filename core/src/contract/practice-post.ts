import { z } from 'zod';
import { Id, Instant } from './common.js';

export const Mailboxes = z
  .object({
    mailboxes: z.array(z.object({ address: z.string(), messages: z.number().int(), latestAt: Instant })),
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
