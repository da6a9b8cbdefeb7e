import type { Router } from 'express';
import { simpleParser, type ParsedMail } from 'mailparser';
import type { DataSource } from 'typeorm';
import type { Outbox } from '../post/outbox.js';
import type { PracticePost } from '../post/practice-post.js';
import { notFound } from '../refusal.js';
import { PracticeMailRow } from '../store/entities/register.js';
import { answer } from './call.js';
import { disposition } from './disposition.js';

export interface PracticeParts {
  readonly database: DataSource;
  /** Null where there is none. */
  readonly practice: PracticePost | null;
  readonly outbox: Outbox;
}

/** The practice post's mailboxes, each school its own. */
export function practiceRoutes(router: Router, { database, practice, outbox }: PracticeParts): void {
  const { manager } = database;

  const open = async (schoolId: string, id: string): Promise<{ row: PracticeMailRow; mail: ParsedMail }> => {
    const row = await manager.findOneBy(PracticeMailRow, { id, schoolId });
    if (!row) throw notFound('This message');
    return { row, mail: await simpleParser(row.raw) };
  };

  answer(router, 'mailboxes', async ({ schoolId }) => {
    const rows: { mailbox: string; n: string; latest: Date; learners: string | null }[] = await manager.query(
      `SELECT b.mailbox, COUNT(DISTINCT b.id) AS n, MAX(b.receivedAt) AS latest,
         GROUP_CONCAT(DISTINCT p.learner ORDER BY p.learner SEPARATOR '\n') AS learners
       FROM practice_mail b LEFT JOIN message m ON m.messageId = b.messageId AND m.schoolId = b.schoolId
         LEFT JOIN enclosure c ON c.messageId = m.id LEFT JOIN paper p ON p.id = c.paperId
       WHERE b.schoolId = ? GROUP BY b.mailbox ORDER BY b.mailbox`,
      [schoolId],
    );
    return {
      mood: practice ? await practice.moodOf(schoolId) : 'well',
      mailboxes: rows.map(({ mailbox, n, latest, learners }) => ({
        address: mailbox,
        learners: learners?.split('\n').filter(Boolean) ?? [],
        messages: Number(n),
        latestAt: new Date(latest).toISOString(),
      })),
    };
  });
  answer(router, 'practiceManner', async ({ schoolId, body: { mood } }) => {
    if (!practice) throw notFound('The practice post');
    await practice.setMood(schoolId, mood);
    // What was put off, or ran into a certificate, is tried as it is now.
    await outbox.tryAccountsAgain(schoolId);
    return { mood };
  });
  answer(router, 'mailList', async ({ schoolId, query }) => {
    const rows = await manager.find(PracticeMailRow, {
      select: { id: true, sender: true, subject: true, receivedAt: true, attachments: true },
      where: { schoolId, mailbox: query.mailbox.toLowerCase() },
      order: { receivedAt: 'DESC' },
      take: 500,
    });
    return { messages: rows.map(line) };
  });
  answer(router, 'mail', async ({ schoolId, params }) => {
    const { row, mail } = await open(schoolId, params['mailId']!);
    return {
      ...line(row),
      to: row.mailbox,
      text: mail.text ?? '',
      hasHtml: typeof mail.html === 'string',
      files: mail.attachments.map((file, index) => ({
        index,
        name: file.filename ?? `attachment ${index + 1}`,
        mime: file.contentType,
        bytes: file.size,
      })),
    };
  });
  answer(router, 'mailHtml', async ({ response, schoolId, params }) => {
    const { mail } = await open(schoolId, params['mailId']!);
    if (typeof mail.html !== 'string') throw notFound('The HTML of this message');
    // Mail is foreign text: no scripts, no forms, nothing from outside, no way to our cookies.
    response.set(
      'Content-Security-Policy',
      "sandbox; default-src 'none'; style-src 'unsafe-inline'; img-src data:; frame-ancestors 'self'",
    );
    response.type('text/html').send(mail.html);
  });
  answer(router, 'mailFile', async ({ response, schoolId, params }) => {
    const { mail } = await open(schoolId, params['mailId']!);
    const file = mail.attachments[Number(params['index'])];
    if (!file) throw notFound('This attachment');
    const pdf = file.contentType === 'application/pdf';
    disposition(response, pdf ? 'inline' : 'attachment', file.filename ?? 'attachment');
    response.type(pdf ? 'application/pdf' : 'application/octet-stream').send(file.content);
  });
}

function line(row: PracticeMailRow): {
  id: string;
  from: string;
  subject: string;
  receivedAt: string;
  attachments: number;
} {
  return {
    id: row.id,
    from: row.sender,
    subject: row.subject,
    receivedAt: row.receivedAt.toISOString(),
    attachments: row.attachments,
  };
}
